import { ACTUATION_LIMITS } from '@veldtwind/core/actuation';
import { BODY_LIMITS, SURFACE_LIMITS } from '@veldtwind/core/airframe';
import { MASS_ITEM_LIMITS } from '@veldtwind/core/balance';
import { CONTROL_LIMITS } from '@veldtwind/core/control';
import { DRAG_LIMITS } from '@veldtwind/core/drag';
import type { FieldLimit } from '@veldtwind/core/limits';
import { ENERGY_LIMITS, PERFORMANCE_LIMITS } from '@veldtwind/core/performance';
import { CONDITION_LIMITS } from '@veldtwind/core/polar';
import { ASSUMPTION_LIMITS, BRIEF_LIMITS, REFERENCE_LIMITS, SWEEP_LIMITS } from '@veldtwind/core/project';
import { STRUCTURE_LIMITS } from '@veldtwind/core/structure';

/** A setting that can be searched for: its field, and the group of the sheet that it stands in. */
export interface Setting {
  label: string;
  area: string;
  /** Title of the group, where it is always the same one. */
  group?: string;
  hint?: string;
}

type Limits = { [key: string]: FieldLimit | Limits };
const isLimit = (v: FieldLimit | Limits): v is FieldLimit => typeof v.label === 'string' && 'dimension' in v;
/** Names of all fields of a table of limits. */
const fieldsOf = (limits: Limits): FieldLimit[] =>
  Object.values(limits).flatMap((v) => (isLimit(v) ? [v] : fieldsOf(v)));
const of = (area: string, group: string | undefined, limits: object): Setting[] =>
  fieldsOf(limits as Limits).map(({ label, hint }) => ({
    label,
    area,
    ...(group !== undefined && { group }),
    ...(hint !== undefined && { hint }),
  }));
const named = (area: string, group: string, ...labels: string[]): Setting[] =>
  labels.map((label) => ({ label, area, group }));

const { station, bay, edge, control, position, ...surface } = SURFACE_LIMITS;
const { greatestLoad, leastLoad, diveRatio, safetyFactor, ...ground } = PERFORMANCE_LIMITS;

/** Every setting by the name that its field has; the tables of limits say what there is. */
export const SETTINGS: readonly Setting[] = [
  ...of('brief', 'Design point', BRIEF_LIMITS),
  ...named('brief', 'Bands to hold', 'Trim angle', 'Static margin', 'Pitch slope', 'Damping ratio'),
  ...named('brief', 'Assumptions', 'Method', 'Compute polars automatically', 'Aircraft class', 'Flight phase'),
  ...of('brief', 'Assumptions', ASSUMPTION_LIMITS),
  ...named('brief', 'Units', 'Shown in', 'Decimal mark', 'Dates', 'Pitch slope per'),
  ...of('airframe', 'Stations and bays', { station, bay, edge }),
  ...of('airframe', 'Controls', control),
  ...of('airframe', 'Place', { position, surface }),
  ...of('airframe', 'Bodies', BODY_LIMITS),
  ...of('polars', 'Run plan', CONDITION_LIMITS),
  ...of('lift', 'Sweep', SWEEP_LIMITS),
  ...of('lift', 'Reference', REFERENCE_LIMITS),
  ...of('drag', 'Allowances', DRAG_LIMITS),
  ...of('balance', 'Mass items', MASS_ITEM_LIMITS),
  ...of('performance', 'Load limits', { greatestLoad, leastLoad, diveRatio, safetyFactor }),
  ...of('performance', 'Take-off and landing', ground),
  ...of('performance', 'Energy', ENERGY_LIMITS),
  ...of('structure', undefined, STRUCTURE_LIMITS),
  ...named('motion', 'Response', 'Seconds'),
  ...of('control', undefined, CONTROL_LIMITS),
  ...of('control', undefined, ACTUATION_LIMITS),
].filter((s, i, all) => all.findIndex((o) => o.label === s.label && o.area === s.area) === i);
