import type { PolarShelf } from '@veldtwind/core/candidate';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { ProjectDocument } from '@veldtwind/core/project';
import type { ReportPart, StudyTold } from '@veldtwind/core/report';
import { KeptResults } from '../kept-results';
import type { Db } from '../open';
import { ProjectStore } from '../projects';
import { StudyStore, type StudyOutcome } from '../studies';
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

/** Studies of a project that were run, the newest first. */
export const studiesOf = (db: Db, projectId: string): StudyTold[] => {
  const store = new StudyStore(db);
  return store.list(projectId).map(({ id, name, kind, candidate, state, done, createdAt }) => {
    const result = store.result(id);
    return {
      name,
      kind,
      candidate,
      state,
      tries: done,
      createdAt,
      result: result === undefined ? null : (JSON.parse(result) as StudyOutcome),
    };
  });
};

/** What reports of a project are composed from. */
export function materialOf(db: Db, projectId: string, document: ProjectDocument, shelf: PolarShelf): ReportMaterial {
  const kept = new KeptResults(db);
  const results = {
    get: (key: string) => kept.get(projectId, key),
    put: (key: string, kind: string, bytes: Buffer) => kept.put(projectId, key, kind, bytes),
  };
  return new ReportMaterial(document, shelf, results, studiesOf(db, projectId));
}

/** @throws InvalidInput `report-missing`. */
export function reportOf(db: Db, projectId: string, reportId: string): ProjectReport {
  const { document, name, version, updatedAt } = new ProjectStore(db).state(projectId);
  const part = document.reports[reportId];
  if (!part)
    throw new InvalidInput('report-missing', 'There is no such report in this project.', 'Choose another one.');
  const material = materialOf(db, projectId, document, projectShelf(db, projectId));
  return { part, material, project: name, version, date: new Date(updatedAt) };
}
