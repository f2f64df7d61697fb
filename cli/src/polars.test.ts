import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Papa from 'papaparse';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'polars-'));
const script = resolve('scripts/vw.mjs');
const planOf = (more: object = {}, name = 'plan.json') => {
  const path = join(folder, name);
  const plan = {
    sections: ['naca:4415', 'naca:0009'],
    reynolds: [1e5, 1e6],
    mach: [0],
    ncrit: 9,
    alpha: '0:6:2',
    panels: 80,
    ...more,
  };
  writeFileSync(path, JSON.stringify(plan));
  return path;
};
const out = (name: string) => join(folder, name);
const rows = (dir: string, file = 'points.csv') =>
  Papa.parse<Record<string, string>>(readFileSync(join(dir, file), 'utf8'), { header: true, skipEmptyLines: true })
    .data;

describe('vw polars', () => {
  it('solves a plan into an open set, and with --resume only what is missing', async () => {
    const dir = out('a');
    const run = await vw('polars', '--plan', planOf(), '--out', dir, '--workers', '2', '--json');
    expect(run.code).toBe(0);
    expect(JSON.parse(run.out)).toMatchObject({
      points: 16,
      computed: 16,
      known: 0,
      solved: 16,
      doubtful: 0,
      unsolved: 0,
      workers: 2,
    });
    const points = rows(dir);
    expect(points).toHaveLength(16);
    expect(Object.keys(points[0]).join()).toBe(
      'section,reynolds,mach,ncrit,alphaDeg,cl,cd,cdFriction,cdPressure,cm,cpMin,transitionTop,transitionBottom,status,reason',
    );
    expect(points.slice(0, 4).map((p) => [p.section, p.reynolds, p.alphaDeg])).toEqual(
      ['0', '2', '4', '6'].map((a) => ['naca:4415', '100000', a]),
    );
    expect(Number(points[4].cl)).toBeGreaterThan(0.4);
    expect(rows(dir, 'facts.csv')).toHaveLength(4);
    const sets = readdirSync(join(dir, 'distributions'));
    expect(sets).toHaveLength(4);
    const one = rows(join(dir, 'distributions', sets[0]), 'a2.csv');
    expect(one.filter((r) => r.side === 'wake').length).toBeGreaterThan(10);
    const again = await vw('polars', '--plan', planOf({ alpha: '0:6:1' }), '--out', dir, '--resume', '--json');
    expect(JSON.parse(again.out)).toMatchObject({ points: 28, computed: 12, known: 16 });
    expect(
      rows(dir)
        .filter((p) => p.section === 'naca:0009' && p.reynolds === '1000000')
        .map((p) => p.alphaDeg),
    ).toEqual(['0', '1', '2', '3', '4', '5', '6']);
    const refused = await vw('polars', '--plan', planOf(), '--out', dir);
    expect(refused).toMatchObject({ code: 1 });
    expect(refused.err).toMatch(/holds a run already/);
  });
  it('killed with −9 and started again ends with the same files', async () => {
    const plan = planOf({ alpha: '-6:16:1', sections: ['naca:4415'], reynolds: [6e4, 2e5] });
    const whole = out('whole');
    await vw('polars', '--plan', plan, '--out', whole, '--json');
    const broken = out('broken');
    const first = spawn(process.execPath, [script, 'polars', '--plan', plan, '--out', broken]);
    // As soon as some points are there.
    const some = () =>
      existsSync(join(broken, 'distributions')) &&
      readdirSync(join(broken, 'distributions'), { recursive: true }).length > 8;
    for (let i = 0; i < 600 && !some(); i++) await new Promise((r) => setTimeout(r, 20));
    first.kill('SIGKILL');
    await new Promise((r) => first.on('exit', r));
    const run = await vw('polars', '--plan', plan, '--out', broken, '--resume', '--json');
    const result = JSON.parse(run.out) as { points: number; computed: number; known: number };
    expect(result.points).toBe(46);
    expect(result.computed).toBeLessThan(46);
    expect(result.computed + result.known).toBe(46);
    for (const file of ['points.csv', 'facts.csv'])
      expect(readFileSync(join(broken, file), 'utf8')).toBe(readFileSync(join(whole, file), 'utf8'));
    const count = (dir: string) => readdirSync(join(dir, 'distributions'), { recursive: true }).length;
    expect(count(broken)).toBe(count(whole));
  });
  it('stopped by the keyboard says how to go on', async () => {
    const plan = planOf({ alpha: '-6:16:0.5', sections: ['naca:4415', 'naca:4412'], reynolds: [6e4, 1e5, 2e5] });
    const child = spawn(process.execPath, [script, 'polars', '--plan', plan, '--out', out('stopped')]);
    let err = '';
    let told = false;
    child.stderr.on('data', (d: Buffer) => {
      err += d.toString();
      if (/points/.test(err) && !told) told = child.kill('SIGINT');
    });
    const code = await new Promise((r) => child.on('exit', r));
    expect(code).toBe(130);
    expect(err).toMatch(/--resume goes on/);
    expect(rows(out('stopped')).length).toBeGreaterThan(0);
  });
  it.each([
    [{ sections: [] }, /sections.*empty/],
    [{ reynolds: [] }, /reynolds.*empty/],
    [{ alpha: '0:5:0' }, /step of 0/],
    [{ alpha: null }, /angles or lift/],
    [{ angle: 3 }, /angle/],
    [{ sections: ['naca:99'] }, /99/],
    [{ sections: ['none.dat'] }, /does not exist/],
    [{ alpha: [1, 'x'] }, /alpha/],
    [{ reynolds: [1e5, 1e12] }, /reynolds/],
    [{ flap: '0.75,0.5' }, /x,y,deg/],
    [{ reynolds: '1e5:5.99e5:1000', alpha: '-40:40:0.1' }, /asks for 801000 points: about .* hours/],
  ])('refuses %j', async (more, message) => {
    const run = await vw('polars', '--plan', planOf(more, 'bad.json'), '--out', out('never'), '--json');
    expect(run.code).toBe(1);
    expect(run.err).toMatch(message);
    expect(run.err).not.toMatch(/unforeseen/);
    expect(existsSync(out('never'))).toBe(false);
  });
  it('refuses a plan that is no JSON, a folder that is full, and a count of workers that is none', async () => {
    writeFileSync(out('no.json'), '{');
    expect((await vw('polars', '--plan', out('no.json'), '--out', out('never'))).err).toMatch(/is not JSON/);
    expect((await vw('polars', '--plan', planOf(), '--out', folder)).err).toMatch(/not empty/);
    expect((await vw('polars', '--plan', planOf(), '--out', out('never'), '--workers', '0')).err).toMatch(/--workers/);
    expect((await vw('polars', '--plan', planOf(), '--out', '/proc/none/x')).err).toMatch(/cannot be made/);
  });
});

describe('vw polar --facts', () => {
  it('adds the facts of the curve', async () => {
    const run = await vw(...'polar --section naca:4415 --re 1e6 --alpha=-6:18:1 --facts --json'.split(' '));
    const { facts, points } = JSON.parse(run.out) as {
      facts: Record<string, number>;
      points: { cl: number; cd: number }[];
    };
    expect(facts.clMax).toBeGreaterThanOrEqual(Math.max(...points.map((p) => p.cl)));
    expect(facts.cdMin).toBeCloseTo(Math.min(...points.map((p) => p.cd)), 9);
    expect(facts.alphaZeroLiftDeg).toBeCloseTo(-4.1, 0);
    const text = await vw(...'polar --section naca:4415 --re 1e6 --alpha=-2:2:1 --facts'.split(' '));
    expect(text.out).toMatch(/greatest lift.*the sweep ends before its maximum/);
    expect(
      (await vw(...'polar --section naca:4415 --re 1e5,1e6 --sweep over-re --alpha 2 --facts'.split(' '))).err,
    ).toMatch(/facts/);
  });
});
