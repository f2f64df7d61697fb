import express, { type RequestHandler, type Response } from 'express';
import { z } from 'zod';
import { words } from '@veldtwind/core/limits';
import { escaped } from '@veldtwind/core/figures';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { GuestComment } from '@veldtwind/exchange/report/html';
import type { Db } from '@veldtwind/store/open';
import type { PeopleStore } from '@veldtwind/store/people';
import type { ReportLinkRow, ReportStore } from '@veldtwind/store/reports/issues';
import type { ComputePool } from '../compute/pool';
import type { EventHub } from '../http/events';
import { taskOf } from './report-handlers';

interface Parts {
  db: Db;
  pool: ComputePool;
  reports: ReportStore;
  people: PeopleStore;
  events: EventHub;
}

/** Comments that one link takes in an hour. */
const MOST_AN_HOUR = 60;
const HOUR = 3_600_000;

/** Where a comment of a reader stands in the project: the block of the report, and that it came by a link. */
const placeOf = (block: string): string => `report?block=${encodeURIComponent(block)}&by=link`;
const PLACE = /^report\?block=([^&]+)&by=link$/;

/** A page of a few words; nothing in it runs, and nothing is fetched. */
function page(res: Response, status: number, title: string, text: string): void {
  res
    .status(status)
    .type('html')
    .send(
      `<!doctype html><html lang="en"><title>${escaped(title)}</title><h1>${escaped(title)}</h1><p>${escaped(text)}</p></html>`,
    );
}
const noLink = (res: Response): void =>
  page(res, 404, 'Not found', 'This link leads to no report: it was withdrawn, or is not whole.');

function guarded(res: Response): void {
  res.set('Cache-Control', 'no-store').set('X-Robots-Tag', 'noindex');
  // The address is the key: no other site learns it, and the form is sent from here.
  res.set('Referrer-Policy', 'same-origin');
  res.set(
    'Content-Security-Policy',
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
  );
}

/** The read-only view of one report: a page without script that fetches nothing. */
export function sharedReport({ db, pool, reports, people }: Parts): RequestHandler<{ token: string }> {
  const saidOf = (link: ReportLinkRow): GuestComment[] =>
    people.comments(link.projectId).flatMap((c): GuestComment[] => {
      const block = PLACE.exec(c.place)?.[1];
      const { name, text, createdAt, doneAt } = c;
      return block === undefined
        ? []
        : [{ block: decodeURIComponent(block), name, text, at: createdAt, done: doneAt !== null }];
    });
  return async (req, res) => {
    guarded(res);
    const link = reports.link(req.params.token);
    if (!link) return noLink(res);
    const issue = link.issueId === null ? null : (reports.issue(link.issueId) ?? null);
    const left = new AbortController();
    res.on('close', () => left.abort());
    const of = { project: link.projectId, report: link.reportId, issue, units: 'metric' as const };
    const guests = { action: `/r/${link.token}/comments`, comments: saidOf(link) };
    const made = await pool.report(taskOf({ db, reports }, of, { format: 'html', paper: 'a4', guests }), left.signal);
    res.type('html').send(Buffer.from(made.file!));
  };
}

const said = z.object({
  block: z.string().regex(/^[\w-]{1,64}$/),
  name: words(60).trim().min(1, 'needs a name'),
  text: words(2000).trim().min(1, 'needs some words'),
});

/** Takes what a reader of a link says of one block; everybody in the project sees it among the comments. */
export function commentByLink(p: Parts): RequestHandler<{ token: string }>[] {
  const times = new Map<string, number[]>();
  const take: RequestHandler<{ token: string }> = (req, res) => {
    guarded(res);
    const link = p.reports.link(req.params.token);
    if (!link) return noLink(res);
    const parsed = said.safeParse(req.body);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return page(
        res,
        400,
        'Not sent',
        `${issue.path.join('.') || 'The form'} ${issue.message}. Go back and try again.`,
      );
    }
    const now = Date.now();
    const recent = (times.get(link.token) ?? []).filter((t) => now - t < HOUR);
    if (recent.length >= MOST_AN_HOUR)
      return page(res, 429, 'Not sent', `A link takes ${MOST_AN_HOUR} comments an hour. Try again later.`);
    times.set(link.token, [...recent, now]);
    const { block, name, text } = parsed.data;
    try {
      p.people.addComment(link.projectId, { id: null, name }, text, placeOf(block));
    } catch (error) {
      if (!(error instanceof InvalidInput)) throw error;
      return page(res, 409, 'Not sent', error.message);
    }
    p.events.send(link.projectId, 'comments', { comments: p.people.comments(link.projectId) });
    res.redirect(303, `/r/${link.token}#${block}`);
  };
  return [express.urlencoded({ extended: false, limit: '16kb', parameterLimit: 10 }), take];
}
