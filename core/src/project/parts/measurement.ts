import { z } from 'zod';
import { finiteNumber, partId, words } from '../../limits';
import { MEASURED_QUANTITIES, MOST_ROWS } from '../../formats/measured-table';
import { partKind } from './kind';

/** A measured polar: rows of values, and what was measured where. */
export const measurementPart = z.object({
  id: partId,
  name: words(120).min(1, 'needs a name'),
  /** The report or the tunnel, and whatever else tells how far it is to be trusted. */
  note: words(2000).default(''),
  reynolds: finiteNumber.min(1).max(1e10).nullable().default(null),
  /** What the columns hold: angles in degrees, coefficients. */
  columns: z.array(z.enum(MEASURED_QUANTITIES)).min(2, 'needs two columns or more').max(MEASURED_QUANTITIES.length),
  /** One value a column; null where the table has none. */
  rows: z.array(z.array(finiteNumber.nullable())).min(1, 'is empty').max(MOST_ROWS),
  hidden: z.boolean().optional(),
});
export type MeasurementPart = z.infer<typeof measurementPart>;

export const measurementKind = partKind<MeasurementPart>({
  schema: measurementPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'measurements' },
  label: (m) => `the measured polar ${m.name}`,
  references: () => [],
});
