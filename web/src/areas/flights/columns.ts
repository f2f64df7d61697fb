import type { KeptFlight } from '@veldtwind/core/project';
import { FLOWN_QUANTITIES, type FlownMoment, type Quantity } from '@veldtwind/core/quantities';
import type { Flight } from '@veldtwind/core/simulation';
import { DEG } from '@veldtwind/core/numerics';

/** A column of a flight, and what it tells. */
export interface FlownColumn {
  id: string;
  quantity: Quantity<FlownMoment>;
}

export const COLUMNS: readonly FlownColumn[] = FLOWN_QUANTITIES.map((quantity) => ({
  id: quantity.id.slice('flown.'.length),
  quantity,
}));
const KNOWN = new Set(['t', 'z', 'u', 'v', 'w', 'throttle', ...COLUMNS.map((c) => c.id)]);

/** The columns of a flight that can be shown: those of every flight, then its controls. */
export const columnsOf = (columns: readonly string[]): FlownColumn[] => [
  ...COLUMNS,
  ...columns
    .filter((c) => !KNOWN.has(c))
    .map((id) => ({
      id,
      quantity: {
        id: `flown.${id}`,
        symbol: id,
        name: id,
        dimension: 'angle' as const,
        of: (m: FlownMoment) => m[id] * DEG,
      },
    })),
];

/** One in so many places, the last among them. */
export function thinned(length: number, most: number): number[] {
  if (length <= most) return Array.from({ length }, (_, i) => i);
  return Array.from({ length: most }, (_, i) => Math.round((i * (length - 1)) / (most - 1)));
}

export const seriesOf = (f: Pick<Flight | KeptFlight, 'columns' | 'series'>, name: string): number[] =>
  f.series[f.columns.indexOf(name)] ?? [];
