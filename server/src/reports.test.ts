import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import pino from 'pino';
import request from 'supertest';
import { designReview, type ComposedBlock, type ComposedReport } from '@veldtwind/core/report';
import { openDatabase } from '@veldtwind/store/open';
import { madeReportProject } from '../../core/src/report/testing/made-project';
import { createApp, type AppParts } from './app';

const folder = mkdtempSync(join(tmpdir(), 'reports-'));
const configOf = (more = {}) =>
  ({
    host: '127.0.0.1',
    port: 0,
    database: join(folder, 'd.sqlite'),
    logLevel: 'silent',
    origins: [],
    automaticPolars: false,
    ...more,
  }) as unknown as Parameters<typeof createApp>[0];
let db: ReturnType<typeof openDatabase>;
let parts: AppParts;
function open(more = {}): void {
  db = openDatabase(join(folder, 'd.sqlite'));
  parts = createApp(configOf(more), db, pino({ level: 'silent' }), resolve('.'));
}
async function close(): Promise<void> {
  await parts.runner.close();
  await parts.engine.close();
  await parts.pool.close();
  db.close();
}
beforeAll(() => open());
afterAll(async () => {
  await close();
  rmSync(folder, { recursive: true, force: true });
});
const api = () => request(parts.app);
const HOSTILE = '<script>alert(1)</script>';
const made = async (): Promise<{ id: string; report: string }> => {
  const document = madeReportProject();
  let n = 0;
  const review = designReview(document, () => `b${n++}`, `Review ${HOSTILE}`);
  review.blocks.splice(2, 0, { id: 'own', kind: 'text', markdown: `Own words ${HOSTILE}, @{A static-margin}.` });
  document.reports[review.id] = review;
  const { body } = await api().post('/api/v1/projects').send({ name: 'Reported', document }).expect(201);
  return { id: body.id as string, report: review.id };
};
const marginIn = (report: ComposedReport) =>
  (report.blocks.find((b) => b.id === 'own') as Extract<ComposedBlock, { kind: 'text' }>).markdown;
const composed = async (id: string, report: string) =>
  (await api().get(`/api/v1/projects/${id}/reports/${report}/composed`).expect(200)).body as {
    version: number;
    report: ComposedReport;
  };
async function moveMass(id: string, x: number): Promise<void> {
  const { body } = await api().get(`/api/v1/projects/${id}`);
  const item = body.document.candidates.a.massItems[0];
  await api()
    .post(`/api/v1/projects/${id}/edits`)
    .send({
      baseVersion: body.version,
      label: 'Move',
      changes: [{ part: 'mass-item:a.m', value: { ...item, position: { ...item.position, x } } }],
    })
    .expect(200);
}

describe('reports of a project', () => {
  it('are composed of the project as it stands, and computed once', async () => {
    const { id, report } = await made();
    const first = await composed(id, report);
    expect(marginIn(first.report)).toMatch(/\d\.\d %\.$/);
    const kept = db
      .prepare("SELECT count(*) FROM kept_result WHERE project_id = ? AND kind = 'report-candidate'")
      .pluck();
    expect(kept.get(id)).toBe(2);
    expect((await composed(id, report)).report).toEqual(first.report);
    await moveMass(id, 0.3);
    const moved = await composed(id, report);
    expect(moved.version).toBe(first.version + 1);
    expect(marginIn(moved.report)).not.toBe(marginIn(first.report));
    // Of the two aircraft only the one that was changed is made anew.
    expect(kept.get(id)).toBe(3);
    await api().get(`/api/v1/projects/${id}/reports/none/composed`).expect(404);
    await api().get(`/api/v1/projects/none/reports/${report}/composed`).expect(404);
  });
  it('tell what is there soon before the rest, with the same numbers', async () => {
    const { id, report } = await made();
    const soon = (await api().get(`/api/v1/projects/${id}/reports/${report}/composed?soon=yes`).expect(200)).body as {
      report: ComposedReport;
    };
    const waiting = soon.report.blocks.flatMap((b) => (b.kind === 'missing' && b.pending ? [b.id] : []));
    expect(waiting.length).toBeGreaterThan(5);
    const whole = (await composed(id, report)).report;
    expect(marginIn(soon.report)).toBe(marginIn(whole));
    const plain = (r: ComposedReport) => r.blocks.map((b) => ({ ...b, number: 0 }));
    const late = new Set(waiting);
    expect(plain(soon.report).filter((b) => !late.has(b.id))).toEqual(plain(whole).filter((b) => !late.has(b.id)));
    expect(whole.blocks.some((b) => b.kind === 'missing' && b.pending)).toBe(false);
    // With everything there nothing waits.
    const again = await api().get(`/api/v1/projects/${id}/reports/${report}/composed?soon=yes`).expect(200);
    expect(again.body.report).toEqual(whole);
  });
  it('go with the project file: issues with their content, number and date; links do not', async () => {
    const { id, report } = await made();
    const { body: issued } = await api()
      .post(`/api/v1/projects/${id}/reports/${report}/issues`)
      .send({ note: 'first' })
      .expect(201);
    await api().post(`/api/v1/projects/${id}/report-links`).send({ report }).expect(201);
    const before = (await api().get(`/api/v1/projects/${id}/issues/${issued.id}`).expect(200)).body;
    const file = (await api().get(`/api/v1/projects/${id}/file`).responseType('blob').expect(200)).body as Buffer;
    const read = await api()
      .post('/api/v1/projects/file')
      .set('content-type', 'application/zip')
      .send(file)
      .expect(201);
    const to = read.body.id as string;
    const { issues } = (await api().get(`/api/v1/projects/${to}/issues`).expect(200)).body;
    expect(issues).toHaveLength(1);
    expect(issues[0]).toMatchObject({ number: 1, note: 'first', createdAt: issued.createdAt, reportId: report });
    expect((await api().get(`/api/v1/projects/${to}/issues/${issues[0].id}`)).body.report).toEqual(before.report);
    expect((await api().get(`/api/v1/projects/${to}/report-links`)).body.links).toEqual([]);
    // The next one goes on counting.
    const next = await api().post(`/api/v1/projects/${to}/reports/${report}/issues`).send({}).expect(201);
    expect(next.body.number).toBe(2);
  });
  it('are written as files, with the same bytes for the same state', async () => {
    const { id, report } = await made();
    const file = (query: string) =>
      api().get(`/api/v1/projects/${id}/reports/${report}/file?${query}`).responseType('blob');
    const [a, b] = [await file('as=pdf').expect(200), await file('as=pdf').expect(200)];
    expect(a.headers['content-type']).toBe('application/pdf');
    expect(a.headers['content-disposition']).toMatch(/filename="?Reported-Review-script-alert-1-script.pdf/);
    expect((a.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    expect(Buffer.compare(a.body as Buffer, b.body as Buffer)).toBe(0);
    const page = (await file('as=html&units=us').expect(200)).body as Buffer;
    expect(page.toString()).toContain('ft/s');
    expect(page.toString()).not.toContain('<script');
    await file('as=exe').expect(400);
  });
  it('are issued: an issue stays as it was whatever is edited, and is listed', async () => {
    const { id, report } = await made();
    const before = await composed(id, report);
    const issued = await api()
      .post(`/api/v1/projects/${id}/reports/${report}/issues`)
      .send({ note: 'for the review' })
      .expect(201);
    expect(issued.body).toMatchObject({ number: 1, note: 'for the review', reportId: report });
    await moveMass(id, 0.28);
    const second = await api().post(`/api/v1/projects/${id}/reports/${report}/issues`).send({}).expect(201);
    expect(second.body.number).toBe(2);
    const read = await api().get(`/api/v1/projects/${id}/issues/${issued.body.id}`).expect(200);
    expect(read.body.report).toEqual(before.report);
    const list = await api().get(`/api/v1/projects/${id}/issues`).expect(200);
    expect(list.body.issues.map((i: { number: number }) => i.number)).toEqual([2, 1]);
    const pdf = await api()
      .get(`/api/v1/projects/${id}/reports/${report}/file?as=pdf&issue=${issued.body.id}`)
      .responseType('blob')
      .expect(200);
    expect(pdf.headers['content-disposition']).toContain('issue-1');
    const other = await made();
    await api().get(`/api/v1/projects/${other.id}/issues/${issued.body.id}`).expect(404);
    await api()
      .get(`/api/v1/projects/${other.id}/reports/${other.report}/file?as=pdf&issue=${issued.body.id}`)
      .expect(404);
  });
  it('keep what they showed of a candidate that went, marked as last seen', async () => {
    const { id, report } = await made();
    const first = await composed(id, report);
    const drawn = (r: ComposedReport) => r.blocks.filter((b) => b.kind === 'drawing');
    const { body } = await api().get(`/api/v1/projects/${id}`);
    await api()
      .post(`/api/v1/projects/${id}/edits`)
      .send({ baseVersion: body.version, label: 'Remove', changes: [{ part: 'candidate:b', value: null }] })
      .expect(200);
    for (let k = 0; k < 2; k++) {
      const now = await composed(id, report);
      expect(drawn(now.report).map((b) => b.lastSeen ?? false)).toEqual([false, true]);
      const soon = await api().get(`/api/v1/projects/${id}/reports/${report}/composed?soon=yes`).expect(200);
      expect(soon.body.report).toEqual(now.report);
      expect(drawn(now.report)[1].drawing).toEqual(drawn(first.report)[1].drawing);
      const numbers = now.report.blocks.flatMap((b) => ('number' in b && b.kind !== 'table' ? [b.number] : []));
      expect(numbers).toEqual(numbers.map((_, i) => i + 1));
    }
    const page = await api()
      .get(`/api/v1/projects/${id}/reports/${report}/file?as=html`)
      .responseType('blob')
      .expect(200);
    expect((page.body as Buffer).toString()).toContain('As last seen: its candidate is no longer in the project.');
  });
  it('outlive a stop of the server', async () => {
    const { id, report } = await made();
    const before = await composed(id, report);
    const { body } = await api().post(`/api/v1/projects/${id}/reports/${report}/issues`).send({}).expect(201);
    await close();
    open();
    expect((await api().get(`/api/v1/projects/${id}/issues/${body.id}`).expect(200)).body.report).toEqual(
      before.report,
    );
    const start = process.hrtime.bigint();
    expect((await composed(id, report)).report).toEqual(before.report);
    expect(Number(process.hrtime.bigint() - start)).toBeGreaterThan(0);
    expect(
      db.prepare("SELECT count(*) FROM kept_result WHERE project_id = ? AND kind = 'report-candidate'").pluck().get(id),
    ).toBe(2);
  });
});

describe('a read-only link', () => {
  it('takes comments on blocks with the name that is typed, and shows those alone', async () => {
    const { id, report } = await made();
    const { body: link } = await api().post(`/api/v1/projects/${id}/report-links`).send({ report }).expect(201);
    await api()
      .post(`/api/v1/projects/${id}/comments`)
      .send({ text: 'among us', place: 'report?block=own' })
      .expect(201);
    const say = (body: object, token = link.token as string) =>
      api().post(`/r/${token}/comments`).type('form').send(body);
    const sent = await say({ block: 'own', name: `Ada ${HOSTILE}`, text: `Too heavy? ${HOSTILE}` }).expect(303);
    expect(sent.headers.location).toBe(`/r/${link.token}#own`);
    const page = (await api().get(`/r/${link.token}`).expect(200)).text;
    expect(page).toContain('Too heavy? &lt;script&gt;');
    expect(page).toContain('Comments (1)');
    expect(page).not.toContain('among us');
    expect(page).not.toContain('<script');
    const { comments } = (await api().get(`/api/v1/projects/${id}/comments`).expect(200)).body;
    const own = comments.find((c: { text: string }) => c.text.startsWith('Too heavy'));
    expect(own).toMatchObject({ name: `Ada ${HOSTILE}`, person: null, place: 'report?block=own&by=link' });
    await api().post(`/api/v1/projects/${id}/comments/${own.id}/done`).send({ done: true });
    for (const wrong of [{}, { block: 'own', name: '', text: 'x' }, { block: 'own', name: 'A', text: ' ' }, { block: '../x', name: 'A', text: 'x' }, { block: 'own', name: 'A', text: 'x'.repeat(3000) }])
      await say(wrong).expect(400); // prettier-ignore
    await say({ block: 'own', name: 'A', text: 'x' }, `${link.token}x`).expect(404);
    await say({ block: 'own', name: 'A', text: 'x' }).set('origin', 'http://elsewhere.example').expect(403);
    await say({ block: 'own', name: 'A', text: 'x'.repeat(40_000) }).expect(413);
  });
  it('shows one report without an account, without a script, until it is withdrawn', async () => {
    const { id, report } = await made();
    const token = 'a-long-token-of-the-server';
    const { body: live } = await api().post(`/api/v1/projects/${id}/report-links`).send({ report }).expect(201);
    const { body: issue } = await api().post(`/api/v1/projects/${id}/reports/${report}/issues`).send({}).expect(201);
    const { body: fixed } = await api()
      .post(`/api/v1/projects/${id}/report-links`)
      .send({ report, issue: issue.id })
      .expect(201);
    await moveMass(id, 0.26);
    await close();
    open({ token });
    await api().get(`/api/v1/projects/${id}`).expect(401);
    const now = await api().get(`/r/${live.token}`).expect(200);
    const then = await api().get(`/r/${fixed.token}`).expect(200);
    expect(now.headers['content-security-policy']).toMatch(/default-src 'none'/);
    expect(now.headers['cache-control']).toBe('no-store');
    expect(now.text).toContain('&lt;script&gt;alert(1)');
    expect(now.text).not.toContain('<script');
    const own = (text: string) => /Own words .*? ([\d.]+ %)\./.exec(text)![1];
    expect(own(now.text)).not.toBe(own(then.text));
    await api().get(`/r/${live.token}x`).expect(404);
    await api().get('/r/%00').expect(404);
    const as = (r: request.Test) => r.set('authorization', `Bearer ${token}`);
    await api().delete(`/api/v1/projects/${id}/report-links/${live.token}`).expect(401);
    const other = (await as(api().post('/api/v1/projects')).send({ name: 'Other' }).expect(201)).body as { id: string };
    await as(api().delete(`/api/v1/projects/${other.id}/report-links/${live.token}`)).expect(404);
    await as(api().delete(`/api/v1/projects/${id}/report-links/${live.token}`)).expect(204);
    await api().get(`/r/${live.token}`).expect(404);
    await api().get(`/r/${fixed.token}`).expect(200);
    // With the project its links and issues go.
    await as(api().delete(`/api/v1/projects/${id}`)).expect(204);
    await api().get(`/r/${fixed.token}`).expect(404);
    await close();
    open();
  });
  it('leads only to a report of its project', async () => {
    const { id } = await made();
    await api().post(`/api/v1/projects/${id}/report-links`).send({ report: 'none' }).expect(404);
    await api().post(`/api/v1/projects/${id}/report-links`).send({ report: 'b0', issue: 'none' }).expect(404);
  });
});
