import { VeldtwindError } from '@veldtwind/core/numerics';
import type { ComposedReport } from '@veldtwind/core/report';
import type { UnitSet } from '@veldtwind/core/units';
import { reportFile, type ReportFileOptions } from '@veldtwind/exchange/report/files';
import { openDatabase, type Db } from '@veldtwind/store/open';
import { reportOf } from '@veldtwind/store/reports/project-report';
import type { Outcome } from './worker';

/** What a thread is given: a report of a database's project to be composed, or one that is composed already; and the file that is wanted, if any. */
export interface ReportTask {
  of: { database: string; project: string; report: string; units: UnitSet } | { composed: string; date: string };
  file: (Omit<ReportFileOptions, 'date'> & { format: string }) | null;
  /** Without what waits for the longer computations. */ soon?: boolean;
  /** Makes the results of this candidate alone, or tells which are missing in the place of composing. */
  only?: { candidate: string } | 'missing';
}
export interface MadeReport {
  /** JSON. */ report: string;
  version: number;
  name: string;
  file: Uint8Array | null;
  /** Candidates whose results are to be made first. */ missing: string[];
}
export type ReportOutcome = { ok: true; made: MadeReport } | Extract<Outcome, { ok: false }>;

/** A database stays open for as long as its thread. */
const open = new Map<string, Db>();
function databaseOf(path: string): Db {
  let db = open.get(path);
  if (!db) open.set(path, (db = openDatabase(path)));
  return db;
}

const NOTHING: MadeReport = { report: '', version: 0, name: '', file: null, missing: [] };

async function made({ of, file, only, soon }: ReportTask): Promise<MadeReport> {
  if ('composed' in of) {
    const report = JSON.parse(of.composed) as ComposedReport;
    return {
      ...NOTHING,
      name: report.name,
      file: file && (await reportFile(report, file.format, { ...file, date: new Date(of.date) })),
    };
  }
  const { part, material, project, version, date } = reportOf(databaseOf(of.database), of.project, of.report);
  if (only === 'missing') {
    const missing = material.missing(soon);
    if (missing.length > 1) return { ...NOTHING, missing };
  } else if (only) {
    await material.make(only.candidate, soon);
    return NOTHING;
  }
  const report = await material.composed(part, project, of.units, soon);
  if (!file) return { ...NOTHING, report: JSON.stringify(report), version, name: report.name };
  return { ...NOTHING, version, name: report.name, file: await reportFile(report, file.format, { ...file, date }) };
}

/** Composes a report in a thread, and writes it. */
export default async function run(task: ReportTask): Promise<ReportOutcome> {
  try {
    return { ok: true, made: await made(task) };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    const { name, code, message, hint, path } = error;
    return { ok: false, name, code, message, hint, path };
  }
}
