import { randomBytes, randomUUID } from 'node:crypto';
import { strFromU8, strToU8, unzlibSync, zlibSync } from 'fflate';
import type { ComposedReport } from '@veldtwind/core/report';
import type { Db } from '../open';
import { writing } from '../writing';

/** An issue of a report as it is listed. */
export interface IssueRow {
  id: string;
  projectId: string;
  reportId: string;
  /** Of its report, from 1. */ number: number;
  name: string;
  note: string;
  by: string | null;
  createdAt: string;
}
/** A link to the read-only view of one report, or of one of its issues. */
export interface ReportLinkRow {
  token: string;
  projectId: string;
  reportId: string;
  issueId: string | null;
  by: string | null;
  createdAt: string;
}

/** Issues that a report keeps at most. */
export const MOST_ISSUES = 200;
const ISSUE = `id, project_id AS projectId, report_id AS reportId, number, name, note, by_name AS "by", created_at AS createdAt`;
const LINK = `token, project_id AS projectId, report_id AS reportId, issue_id AS issueId, by_name AS "by", created_at AS createdAt`;

/** Issues of reports, which never change, and links to reports. */
export class ReportStore {
  private readonly q;
  constructor(private readonly db: Db) {
    this.q = {
      issues: db.prepare(
        `SELECT ${ISSUE} FROM report_issue WHERE project_id = ? ORDER BY created_at DESC, number DESC`,
      ),
      issue: db.prepare(`SELECT ${ISSUE} FROM report_issue WHERE id = ?`),
      content: db.prepare('SELECT content FROM report_issue WHERE id = ?').pluck(),
      last: db.prepare('SELECT max(number) FROM report_issue WHERE project_id = ? AND report_id = ?').pluck(),
      count: db.prepare('SELECT count(*) FROM report_issue WHERE project_id = ? AND report_id = ?').pluck(),
      put: db.prepare(
        `INSERT INTO report_issue (id, project_id, report_id, number, name, note, by_name, content, created_at)
         VALUES (@id, @projectId, @reportId, @number, @name, @note, @by, @content, @createdAt)`,
      ),
      remove: db.prepare('DELETE FROM report_issue WHERE id = ?'),
      links: db.prepare(`SELECT ${LINK} FROM report_link WHERE project_id = ? ORDER BY created_at DESC`),
      link: db.prepare(`SELECT ${LINK} FROM report_link WHERE token = ?`),
      putLink: db.prepare(
        `INSERT INTO report_link (token, project_id, report_id, issue_id, by_name, created_at)
         VALUES (@token, @projectId, @reportId, @issueId, @by, @createdAt)`,
      ),
      removeLink: db.prepare('DELETE FROM report_link WHERE token = ?'),
    };
  }

  issues = (project: string): IssueRow[] => this.q.issues.all(project) as IssueRow[];
  issue = (id: string): IssueRow | undefined => this.q.issue.get(id) as IssueRow | undefined;
  /** The report as it was issued. */
  content(id: string): ComposedReport | undefined {
    const bytes = this.q.content.get(id) as Buffer | undefined;
    return bytes && (JSON.parse(strFromU8(unzlibSync(bytes))) as ComposedReport);
  }

  /** Issues a report: its content stays as it is now. @throws RangeError where there are too many. */
  add(
    of: { projectId: string; reportId: string; note: string; by: string | null },
    content: ComposedReport,
    now = new Date(),
  ): IssueRow {
    return writing(this.db, () => {
      if ((this.q.count.get(of.projectId, of.reportId) as number) >= MOST_ISSUES)
        throw new RangeError(`A report keeps ${MOST_ISSUES} issues.`);
      const number = ((this.q.last.get(of.projectId, of.reportId) as number | null) ?? 0) + 1;
      return this.put({ ...of, number, createdAt: now.toISOString() }, content);
    });
  }
  /** An issue with the number and the date that it has. */
  put(of: Omit<IssueRow, 'id' | 'name'>, content: ComposedReport): IssueRow {
    const row = { ...of, id: randomUUID(), name: content.name };
    this.q.put.run({ ...row, content: Buffer.from(zlibSync(strToU8(JSON.stringify(content)))) });
    return row;
  }
  removeIssue = (id: string): void => void this.q.remove.run(id);

  links = (project: string): ReportLinkRow[] => this.q.links.all(project) as ReportLinkRow[];
  link = (token: string): ReportLinkRow | undefined => this.q.link.get(token) as ReportLinkRow | undefined;
  /** A link whose token nobody guesses. */
  addLink(
    of: { projectId: string; reportId: string; issueId: string | null; by: string | null },
    now = new Date(),
  ): ReportLinkRow {
    const row = { ...of, token: randomBytes(24).toString('base64url'), createdAt: now.toISOString() };
    this.q.putLink.run(row);
    return row;
  }
  removeLink = (token: string): void => void this.q.removeLink.run(token);
}
