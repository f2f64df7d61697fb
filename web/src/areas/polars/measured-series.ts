import type { MeasurementPart } from '@veldtwind/core/project';
import { inUnit, POLAR_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import type { UnitSet } from '@veldtwind/core/units';
import type { ChartSeries } from '@/lib/chart-model';
import { MARKERS } from '@/lib/series-style';

/** A quantity of a measured row, also where it follows from others. */
function measuredValue(m: MeasurementPart, row: readonly (number | null)[], id: string): number | null {
  const of = (column: string) => {
    const at = (m.columns as readonly string[]).indexOf(column);
    return at < 0 ? null : row[at];
  };
  const [cl, cd] = [of('cl'), of('cd')];
  if (id === 'ratio') return cl !== null && cd !== null && cd > 1e-6 ? cl / cd : null;
  if (id === 'climb') return cl !== null && cl > 0 && cd !== null && cd > 1e-6 ? cl ** 1.5 / cd : null;
  if (id === 'Re') return m.reynolds;
  if (id === 'cd-counts') return cd === null ? null : 1e4 * cd;
  return of(id);
}

/** No line: what was measured stands as points only. */
const NO_LINE = '0 9999';

/** Measured polars as points over two quantities; those without one of them are left out. */
export function measuredSeries(list: readonly MeasurementPart[], x: string, y: string, units: UnitSet): ChartSeries[] {
  const [qx, qy] = [quantityIn(POLAR_QUANTITIES, x), quantityIn(POLAR_QUANTITIES, y)];
  return list.flatMap((m, i) => {
    if (m.hidden) return [];
    const points = m.rows.flatMap((row) => {
      const [vx, vy] = [measuredValue(m, row, x), measuredValue(m, row, y)];
      if (vx === null || vy === null) return [];
      const alpha = measuredValue(m, row, 'alpha');
      return [{ x: inUnit(qx, vx, units), y: inUnit(qy, vy, units), ...(alpha === null ? {} : { tag: alpha }) }];
    });
    if (points.length === 0) return [];
    return [
      {
        id: `measured-${m.id}`,
        label: `${m.name}, measured`,
        style: { colour: 'var(--ink)', dash: NO_LINE, marker: MARKERS[(i + 1) % MARKERS.length] },
        points,
      },
    ];
  });
}
