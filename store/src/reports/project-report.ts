import { InvalidInput } from '@veldtwind/core/numerics';
import type { ReportPart } from '@veldtwind/core/report';
import { KeptResults } from '../kept-results';
import type { Db } from '../open';
import { ProjectStore } from '../projects';
import { ReportMaterial } from './compose';
import { projectShelf } from './shelf';

/** A report of a project in its database, with what it is composed from and the time of the last edit. */
export interface ProjectReport {
  part: ReportPart;
  material: ReportMaterial;
  project: string;
  version: number;
  date: Date;
}

/** @throws InvalidInput `report-missing`. */
export function reportOf(db: Db, projectId: string, reportId: string): ProjectReport {
  const { document, name, version, updatedAt } = new ProjectStore(db).state(projectId);
  const part = document.reports[reportId];
  if (!part)
    throw new InvalidInput('report-missing', 'There is no such report in this project.', 'Choose another one.');
  const kept = new KeptResults(db);
  const material = new ReportMaterial(document, projectShelf(db, projectId), {
    get: (key) => kept.get(projectId, key),
    put: (key, kind, bytes) => kept.put(projectId, key, kind, bytes),
  });
  return { part, material, project: name, version, date: new Date(updatedAt) };
}
