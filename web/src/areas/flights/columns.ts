import { DEG } from '@veldtwind/core/numerics';
import type { KeptFlight } from '@veldtwind/core/project';
import type { Flight } from '@veldtwind/core/simulation';

/** A column as it is shown: its name and unit, and what it is multiplied with. */
export interface FlownColumn {
  id: string;
  name: string;
  unit: string;
  times: number;
}

export const COLUMNS: FlownColumn[] = [
  { id: 'height', name: 'height', unit: 'm', times: 1 },
  { id: 'V', name: 'airspeed', unit: 'm/s', times: 1 },
  { id: 'alpha', name: 'angle of attack', unit: '°', times: DEG },
  { id: 'beta', name: 'sideslip', unit: '°', times: DEG },
  { id: 'theta', name: 'pitch', unit: '°', times: DEG },
  { id: 'phi', name: 'bank', unit: '°', times: DEG },
  { id: 'psi', name: 'heading', unit: '°', times: DEG },
  { id: 'loadFactor', name: 'load factor', unit: '', times: 1 },
  { id: 'p', name: 'roll rate', unit: '°/s', times: DEG },
  { id: 'q', name: 'pitch rate', unit: '°/s', times: DEG },
  { id: 'r', name: 'yaw rate', unit: '°/s', times: DEG },
  { id: 'x', name: 'north', unit: 'm', times: 1 },
  { id: 'y', name: 'east', unit: 'm', times: 1 },
  { id: 'thrust', name: 'thrust', unit: 'N', times: 1 },
  { id: 'mass', name: 'mass', unit: 'kg', times: 1 },
];
const KNOWN = new Set(['t', 'z', 'u', 'v', 'w', 'throttle', ...COLUMNS.map((c) => c.id)]);

/** The columns of a flight that can be shown: those of every flight, then its controls. */
export const columnsOf = (columns: readonly string[]): FlownColumn[] => [
  ...COLUMNS,
  ...columns.filter((c) => !KNOWN.has(c)).map((id) => ({ id, name: id, unit: '°', times: DEG })),
];

/** One in so many places, the last among them. */
export function thinned(length: number, most: number): number[] {
  if (length <= most) return Array.from({ length }, (_, i) => i);
  return Array.from({ length: most }, (_, i) => Math.round((i * (length - 1)) / (most - 1)));
}

export const seriesOf = (f: Pick<Flight | KeptFlight, 'columns' | 'series'>, name: string): number[] =>
  f.series[f.columns.indexOf(name)] ?? [];
