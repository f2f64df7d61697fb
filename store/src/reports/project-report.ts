import { InvalidInput } from '@veldtwind/core/numerics';
import type { ComposedReport } from '@veldtwind/core/report';
import type { UnitSet } from '@veldtwind/core/units';
import { KeptResults } from '../kept-results';
import type { Db } from '../open';
import { ProjectStore } from '../projects';
import { composedReport } from './compose';
import { projectShelf } from './shelf';

/** A report of a project in its database, composed, with the time of the last edit. @throws InvalidInput `report-missing`. */
export async function reportOf(
  db: Db,
  projectId: string,
  reportId: string,
  units: UnitSet,
): Promise<{ report: ComposedReport; version: number; date: Date }> {
  const { document, name, version, updatedAt } = new ProjectStore(db).state(projectId);
  const part = document.reports[reportId];
  if (!part)
    throw new InvalidInput('report-missing', 'There is no such report in this project.', 'Choose another one.');
  const kept = new KeptResults(db);
  const report = await composedReport(document, part, name, units, projectShelf(db, projectId), {
    get: (key) => kept.get(projectId, key),
    put: (key, kind, bytes) => kept.put(projectId, key, kind, bytes),
  });
  return { report, version, date: new Date(updatedAt) };
}
