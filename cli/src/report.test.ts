import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from '@veldtwind/store/open';
import { ProjectStore } from '@veldtwind/store/projects';
import { madeReportProject } from '../../core/src/report/testing/made-project';
import { vwIn } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'vw-report-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const document = madeReportProject();
document.reports = {
  short: {
    id: 'short',
    name: 'Short',
    blocks: [
      { id: 'h', kind: 'heading', level: 1, text: 'Head' },
      { id: 't', kind: 'text', markdown: 'Margin @{A static-margin}' },
      { id: 'f', kind: 'figure', of: 'lift-curve', title: '', caption: '' },
      { id: 'g', kind: 'figure', of: 'flight-path', title: '', caption: '' },
    ],
  },
};
const file = join(folder, 'p.json');
writeFileSync(file, JSON.stringify({ name: 'Two', document }));
const vw = (...args: string[]) => vwIn(['report', ...args]);
const to = (name: string) => join(folder, name);

describe('vw report', () => {
  it('writes the report of a file, tells what could not be shown, and gives the same bytes again', async () => {
    const told = await vw('--file', file, '--out', to('a.pdf'), '--json');
    expect(told).toMatchObject({ code: 0, err: '' });
    expect(JSON.parse(told.out)).toEqual({
      report: 'Short', project: 'Two', out: to('a.pdf'), blocks: 4, figures: 1, tables: 0,
      missing: [{ title: 'Kept flights', reason: 'No flight is kept: keep one in Flights.' }],
    }); // prettier-ignore
    await vw('--file', file, '--out', to('b.pdf'));
    expect(readFileSync(to('a.pdf')).equals(readFileSync(to('b.pdf')))).toBe(true);
    expect(readFileSync(to('a.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
  });
  it('reads a project of the database, with the same numbers', async () => {
    const database = to('d.sqlite');
    const db = openDatabase(database);
    new ProjectStore(db).create('Two', document);
    db.close();
    expect(await vw('--project', 'Two', '--database', database, '--out', to('d.html'))).toMatchObject({ code: 0 });
    expect(await vw('--file', file, '--out', to('f.html'))).toMatchObject({ code: 0 });
    expect(readFileSync(to('d.html'), 'utf8')).toBe(readFileSync(to('f.html'), 'utf8'));
    expect(readFileSync(to('d.html'), 'utf8')).toMatch(/Margin \d+\.\d %/);
  });
  it('makes a design review where the project has no report', async () => {
    const bare = to('bare.json');
    writeFileSync(bare, JSON.stringify({ name: 'Bare', document: { ...document, reports: {} } }));
    const told = await vw('--file', bare, '--out', to('r.zip'), '--json');
    expect(JSON.parse(told.out)).toMatchObject({ report: 'Design review' });
    expect((JSON.parse(told.out) as { figures: number }).figures).toBeGreaterThan(10);
  });
  it.each([
    [['--file', file, '--out', to('x.exe')], /no report as "exe"/],
    [['--out', to('x.pdf')], /--project or --file/],
    [['--file', file, '--project', 'x', '--out', to('x.pdf')], /one of the two/],
    [['--file', to('none.json'), '--out', to('x.pdf')], /none\.json/],
    [['--file', file, '--report', 'Long', '--out', to('x.pdf')], /no report "Long"[\s\S]*There are Short/],
    [['--file', file, '--out', join(folder, 'no', 'x.html')], /cannot be written/],
  ])('refuses %j with a reason', async (args, why) => {
    const told = await vw(...args);
    expect(told.code).toBe(1);
    expect(told.err).toMatch(why);
    expect(told.err).not.toMatch(/unforeseen/);
    expect(existsSync(to('x.pdf'))).toBe(false);
  });
  it('refuses what is no document', async () => {
    for (const text of ['', '{', '[]', '{"document": 3}', 'null']) {
      writeFileSync(to('bad.json'), text);
      const told = await vw('--file', to('bad.json'), '--out', to('x.pdf'));
      expect(told.code).toBe(1);
      expect(told.err).not.toMatch(/unforeseen/);
    }
  });
});
