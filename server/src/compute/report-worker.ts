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
}
export interface MadeReport {
  /** JSON. */ report: string;
  version: number;
  name: string;
  file: Uint8Array | null;
}
export type ReportOutcome = { ok: true; made: MadeReport } | Extract<Outcome, { ok: false }>;

/** A database stays open for as long as its thread. */
const open = new Map<string, Db>();
function databaseOf(path: string): Db {
  let db = open.get(path);
  if (!db) open.set(path, (db = openDatabase(path)));
  return db;
}

/** Composes a report in a thread, and writes it. */
export default async function run({ of, file }: ReportTask): Promise<ReportOutcome> {
  try {
    const composed =
      'composed' in of
        ? { report: JSON.parse(of.composed) as ComposedReport, version: 0, date: new Date(of.date) }
        : await reportOf(databaseOf(of.database), of.project, of.report, of.units);
    const { report, version, date } = composed;
    const bytes = file && (await reportFile(report, file.format, { ...file, date }));
    return { ok: true, made: { report: file ? '' : JSON.stringify(report), version, name: report.name, file: bytes } };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    const { name, code, message, hint, path } = error;
    return { ok: false, name, code, message, hint, path };
  }
}
