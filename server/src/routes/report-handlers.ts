import { REPORT_TYPES } from '@veldtwind/exchange/report/files';
import type { Db } from '@veldtwind/store/open';
import type { IssueRow, ReportStore } from '@veldtwind/store/reports/issues';
import type { ReportTask } from '../compute/report-worker';
import { HttpError } from '../http/errors';
import { personOf } from '../people/identity';
import type { ApiParts } from './handlers';
import { Download, JsonText, type Handlers } from './router';

type ReportRoutes =
  | 'composeReport'
  | 'reportFile'
  | 'listIssues'
  | 'issueReport'
  | 'readIssue'
  | 'listReportLinks'
  | 'addReportLink'
  | 'removeReportLink';

/** `issue 3, 2026-11-30`. */
export const issueNote = ({ number, createdAt }: IssueRow): string => `issue ${number}, ${createdAt.slice(0, 10)}`;
const gone = (what: string) => new HttpError(404, 'not-found', `There is no such ${what} in this project.`);
async function* once(content: Uint8Array): AsyncGenerator<Uint8Array> {
  yield content;
}

/** The task that makes an issue's file, or that of a report as it is now. */
export function taskOf(
  { db, reports }: { db: Db; reports: ReportStore },
  of: { project: string; report: string; issue: IssueRow | null; units: 'metric' | 'small' | 'us' },
  file: ReportTask['file'],
): ReportTask {
  const { project, report, issue, units } = of;
  return issue
    ? {
        of: { composed: JSON.stringify(reports.content(issue.id)), date: issue.createdAt },
        file: file && { ...file, note: issueNote(issue) },
      }
    : { of: { database: db.name, project, report, units }, file };
}

/** What the routes of reports do. */
export function reportHandlers(p: ApiParts): Pick<Handlers, ReportRoutes> {
  const { projects, reports, pool } = p;
  const issueOf = (project: string, id: string): IssueRow => {
    const issue = reports.issue(id);
    if (issue?.projectId !== project) throw gone('issue');
    return issue;
  };
  const partOf = (project: string, report: string): void => void projects.partText(project, `report:${report}`);
  const leaving = (res: { on(event: 'close', listener: () => void): unknown }): AbortSignal => {
    const left = new AbortController();
    res.on('close', () => left.abort());
    return left.signal;
  };
  return {
    composeReport: async ({ params, query, res }) => {
      partOf(params.id, params.report);
      const of = { project: params.id, report: params.report, issue: null, units: query.units };
      const task = { ...taskOf(p, of, null), soon: query.soon === 'yes' };
      const made = await pool.report(task, leaving(res), personOf(res)?.id);
      return new JsonText(`{"version":${made.version},"report":${made.report}}`);
    },
    reportFile: async ({ params, query, res }) => {
      const issue = query.issue === undefined ? null : issueOf(params.id, query.issue);
      if (!issue) partOf(params.id, params.report);
      const of = { project: params.id, report: params.report, issue, units: query.units };
      const made = await pool.report(
        taskOf(p, of, { format: query.as, paper: query.paper }),
        leaving(res),
        personOf(res)?.id,
      );
      const { name } = projects.row(params.id);
      const file = [name, made.name, issue && issueNote(issue)]
        .filter(Boolean)
        .join(' ')
        .replace(/[^\p{L}\p{N}]+/gu, '-')
        .replace(/^-+|-+$/g, '');
      return new Download(`${file}.${query.as}`, once(made.file!), REPORT_TYPES[query.as]);
    },
    listIssues: ({ params }) => {
      projects.row(params.id);
      return { issues: reports.issues(params.id) };
    },
    issueReport: async ({ params, body, res }) => {
      partOf(params.id, params.report);
      const of = { project: params.id, report: params.report, issue: null, units: body.units };
      const made = await pool.report(taskOf(p, of, null), leaving(res), personOf(res)?.id);
      try {
        const row = reports.add(
          { projectId: params.id, reportId: params.report, note: body.note, by: personOf(res)?.name ?? null },
          JSON.parse(made.report) as never,
        );
        p.health.wrote();
        return row;
      } catch (error) {
        if (error instanceof RangeError) throw new HttpError(409, 'many-issues', error.message);
        throw error;
      }
    },
    readIssue: ({ params }) => {
      const issue = issueOf(params.id, params.issue);
      return { issue, report: reports.content(issue.id)! };
    },
    listReportLinks: ({ params }) => {
      projects.row(params.id);
      return { links: reports.links(params.id) };
    },
    addReportLink: ({ params, body, res }) => {
      const issue = body.issue === null ? null : issueOf(params.id, body.issue);
      if (issue && issue.reportId !== body.report) throw gone('issue');
      if (!issue) partOf(params.id, body.report);
      const made = reports.addLink({
        projectId: params.id,
        reportId: body.report,
        issueId: issue?.id ?? null,
        by: personOf(res)?.name ?? null,
      });
      p.health.wrote();
      return made;
    },
    removeReportLink: ({ params }) => {
      if (reports.link(params.token)?.projectId !== params.id) throw gone('link');
      reports.removeLink(params.token);
    },
  };
}
