import type { Variable } from '@veldtwind/core/studies';
import { displayUnit, type UnitSet } from '@veldtwind/core/units';

/** A number of four digits at most. */
export const shortText = (v: number): string => String(Number(v.toPrecision(4))).replace('-', '−');
/** A variable's value with its unit. */
export function valueText(variable: Variable, value: number, units: UnitSet): string {
  const unit = displayUnit(variable.limit.dimension, units);
  return `${shortText(value * unit.scale)} ${unit.symbol}`.trim();
}
/** What a try sets, in words; what stays as it is is left out. */
export const triedText = (values: readonly (readonly [Variable, number])[], units: UnitSet): string =>
  values
    .filter(([v, value]) => Math.abs(value - v.value) > 1e-3 * v.step)
    .map(([v, value]) => `${v.label} ${valueText(v, value, units)}`)
    .join(', ') || 'unchanged';
