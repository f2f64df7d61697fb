import { reportPart, type ReportPart } from '../../report/blocks';
import { partKind } from './kind';

export const reportKind = partKind<ReportPart>({
  schema: reportPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'reports' },
  label: (r) => `the report ${r.name}`,
  // What it showed may go: the block then says so.
  references: () => [],
});
