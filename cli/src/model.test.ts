import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RAD } from '@veldtwind/core/numerics';
import { seedsnipe } from '@veldtwind/demo/seedsnipe';
import { openDatabase } from '@veldtwind/store/open';
import { ProjectStore } from '@veldtwind/store/projects';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'model-'));
const database = join(folder, 'd.sqlite');
const file = join(folder, 'a.json');
const flight = ['--speed', '26', '--altitude', '600'];
const json = async <T>(...args: string[]): Promise<T> => {
  const { code, out, err } = await vw(...args, '--json');
  expect([code, err]).toEqual([0, '']);
  return JSON.parse(out) as T;
};
interface Told {
  method: string;
  quantities: { id: string; value: number | null; unit: string; method: string; status: string; reason?: string }[];
}
const valuesOf = (told: Told) => Object.fromEntries(told.quantities.map((q) => [q.id, q.value]));

beforeAll(() => {
  const { name, document } = seedsnipe();
  document.brief.assumptions.method = 'lattice';
  const { a } = document.candidates;
  const sections = Object.fromEntries(Object.entries(document.sections).map(([id, s]) => [id, s.source]));
  writeFileSync(file, JSON.stringify({ format: 'veldtwind-candidate', version: 2, candidate: a, sections }));
  const db = openDatabase(database);
  new ProjectStore(db).create(name, document);
  db.close();
});
afterAll(() => rmSync(folder, { recursive: true }));

describe('vw model', () => {
  it('tells by the lattice the numbers of vw balance, vw motion and vw lift, to the last digit', async () => {
    const of = ['--airframe', file, ...flight];
    const [model, balance, motion, lift] = await Promise.all([
      json<Told>('model', ...of, '--method', 'lattice'),
      json<{ staticMargin: number; neutralPoint: number; pitchSlopePerRad: number; trim: { alphaDeg: number } }>(
        'balance',
        ...of,
      ),
      json<{
        staticMargin: number;
        trim: { alphaDeg: number; CD: number };
        modes: { name: string; dampingRatio: number; frequencyHz: number }[];
      }>('motion', ...of, '--inviscid'),
      json<{ liftSlopePerRad: number }>('lift', ...of, '--alpha', '-6:18:1'),
    ]);
    const told = valuesOf(model);
    const per = RAD;
    expect(model.method).toBe('lattice');
    expect(told['balance.staticMargin']).toBe(motion.staticMargin);
    expect(told['balance.staticMargin']).toBeCloseTo(balance.staticMargin, 12);
    expect(told['balance.neutralPoint']).toBeCloseTo(balance.neutralPoint, 12);
    expect(told['balance.pitchSlope']).toBeCloseTo(balance.pitchSlopePerRad * per, 12);
    expect(told['balance.trimAngle']).toBeCloseTo(balance.trim.alphaDeg, 10);
    expect(told['motion.levelAngle']).toBeCloseTo(motion.trim.alphaDeg, 12);
    expect(told['drag.coefficient']).toBe(motion.trim.CD);
    expect(told['lift.slope']).toBeCloseTo(lift.liftSlopePerRad, 12);
    const phugoid = motion.modes.find((m) => m.name === 'phugoid')!;
    expect([told['motion.phugoid.damping'], told['motion.phugoid.frequency']]).toEqual([
      phugoid.dampingRatio,
      phugoid.frequencyHz,
    ]);
    const own = Object.keys(told).filter((k) => !k.startsWith('performance.'));
    expect(own).toHaveLength(9 + 2 * motion.modes.length);
    expect(Object.keys(told)).toHaveLength(model.quantities.length);
    for (const id of [
      'bestGlide',
      'leastSink',
      'powerRequired',
      'climbRate',
      'turnRate',
      'range',
      'endurance',
      'ceiling',
    ])
      expect(Number.isFinite(told[`performance.${id}`])).toBe(true);
    expect(model.quantities.find((q) => q.id === 'performance.stallSpeed')!.reason).toMatch(/viscosity/);
    expect(told['lift.spanEfficiency']).toBeGreaterThan(0.85);
    expect(told['lift.spanEfficiency']).toBeLessThan(1);
    const heaviest = model.quantities.find((q) => q.id === 'lift.heaviestMass')!;
    expect([heaviest.value, heaviest.status, heaviest.method]).toEqual([null, 'failed', 'lattice']);
    expect(heaviest.reason).toMatch(/section polars/);
  });

  it('reads a candidate of a project with the flight and the method of its brief, and is the same', async () => {
    const store = new ProjectStore(openDatabase(database));
    const [{ id }] = store.list();
    const { speed, altitude } = store.state(id).document.brief;
    const [byProject, byFile] = await Promise.all([
      json<Told>('model', '--project', 'Seedsnipe', '--database', database),
      json<Told>(
        'model',
        '--airframe',
        file,
        '--speed',
        `${speed}`,
        '--altitude',
        `${altitude}`,
        '--method',
        'lattice',
      ),
    ]);
    expect(valuesOf(byProject)).toEqual(valuesOf(byFile));
    const { code, err } = await vw('model', '--project', id, '--candidate', 'Z', '--database', database);
    expect([code, err]).toEqual([1, expect.stringMatching(/no candidate "Z".*There are A, B, C/s)]);
  });

  it('says by which method each number was made, and what a method cannot tell', async () => {
    const panels = await json<Told>('model', '--airframe', file, ...flight, '--method', 'panels');
    expect(new Set(panels.quantities.map((q) => q.method))).toEqual(new Set(['panels']));
    const told = valuesOf(panels);
    // The demo's fin stands beside its tailplane: within the band of margins of skins and lattice.
    expect(told['balance.staticMargin']).toBeGreaterThan(0.1);
    expect(told['balance.staticMargin']).toBeLessThan(0.25);
    expect(told['drag.coefficient']).toBeNull();
    expect(Object.keys(told).filter((k) => k.startsWith('motion.'))).toEqual(['motion.levelAngle']);
  });

  it('refuses what cannot be, with what would work', async () => {
    const cases: [RegExp, string[]][] = [
      [/--airframe or --project, one of the two/, []],
      [/--airframe or --project/, ['--airframe', file, '--project', 'x']],
      [/needs a speed/, ['--airframe', file]],
      [/no project "nobody"/, ['--project', 'nobody', '--database', database]],
      [/no loading "none"/, ['--airframe', file, ...flight, '--loading', 'none']],
      [/Allowed choices are best, lattice, polars, panels/, ['--airframe', file, ...flight, '--method', 'guess']],
    ];
    for (const [why, args] of cases) {
      const { code, out, err } = await vw('model', ...args);
      expect([code, out]).toEqual([1, '']);
      expect(err).toMatch(why);
    }
  });
});

describe('vw performance', () => {
  interface Told {
    weight: number;
    trimmedBy: string;
    points: {
      speed: number;
      drag: number;
      power: number;
      sink: number;
      climb: number | null;
      climbPower: number;
      status: string;
      control: { name: string; angleDeg: number } | null;
      alphaDeg: number;
    }[];
    stallSpeed: number | null;
    bestGlide: { speed: number; ratio: number };
    bestRange: { range: number; speed: number } | null;
    ceiling: { altitude: number } | null;
    reasons: Record<string, string>;
  }
  const run = (...more: string[]) => json<Told>('performance', '--airframe', file, '--inviscid', ...more);
  it('has its identities, and the numbers of vw motion at the same speed', async () => {
    const [told, motion] = await Promise.all([
      run('--speeds', '20:32:6', '--speed', '26', '--altitude', '600', '--power', '900', '--battery', '200'),
      json<{ trim: { alphaDeg: number } }>('motion', '--airframe', file, ...flight, '--inviscid'),
    ]);
    expect(told.trimmedBy).toBe('control');
    for (const p of told.points) {
      expect(p.power / (p.drag * p.speed)).toBeCloseTo(1, 12);
      expect(p.sink / (p.power / told.weight)).toBeCloseTo(1, 12);
      expect(p.climb! / ((900 - p.climbPower) / told.weight)).toBeCloseTo(1, 9);
      expect(p.control!.name).toBe('Elevator');
    }
    // Thrust along the path instead of along its line: near, and not the same.
    expect(told.points[1].alphaDeg).toBeCloseTo(motion.trim.alphaDeg, 0);
    expect(told.stallSpeed).toBeNull();
    expect(told.reasons.stallSpeed).toMatch(/viscosity/);
    // E (L/D)/W.
    expect(told.bestRange!.range).toBeCloseTo((200 * 3600 * told.bestGlide.ratio) / told.weight, -3);
    // A power that does not fall with the altitude.
    expect(told.ceiling).toBeNull();
    expect(told.reasons.ceiling).toMatch(/20 km/);
  }, 60_000);
  it.each([
    [['--speeds', '0:30:5'], /greater than zero/],
    [['--speeds', '20', '--power', '-3'], /--power must be greater than zero/],
    [['--speeds', '20', '--fuel', '2'], /--fuel and --sfc go together/],
    [['--speeds', '20', '--fuel', '2', '--sfc', '0.4', '--battery', '3'], /on a battery or on fuel/],
    [['--speeds', '20', '--altitude', '90000'], /standard atmosphere/],
    [['--speeds', '20:30'], /from:to:step/],
  ])('%p is refused with what is wrong', async (args, message) => {
    const { code, err } = await vw('performance', '--airframe', file, '--inviscid', ...args);
    expect(code).toBe(1);
    expect(err).toMatch(message);
  });
});
