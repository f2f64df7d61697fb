import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'motion-'));
const set = (more: object = {}, derivatives: object = {}) => ({
  mass: 24,
  Ixx: 6.1,
  Iyy: 3.4,
  Izz: 9.2,
  area: 1.56,
  chord: 0.33,
  span: 4.8,
  speed: 26,
  density: 1.156,
  CL: 0.386,
  CD: 0.031,
  derivatives: {
    CL_alpha: 5.6,
    Cm_alpha: -0.75,
    Cm_q: -14,
    Cl_p: -0.52,
    Cn_beta: 0.05,
    Cn_r: -0.06,
    CY_beta: -0.3,
    Cl_beta: -0.06,
    ...derivatives,
  },
  ...more,
});
const run = (value: unknown, ...args: string[]) => {
  const file = join(folder, 'set.json');
  writeFileSync(file, typeof value === 'string' ? value : JSON.stringify(value));
  return vw('motion', '--derivatives', file, ...args);
};

describe('vw motion', () => {
  it('gives matrices and modes of a set', async () => {
    const { out, err } = await run(set(), '--json');
    expect(err).toBe('');
    const made = JSON.parse(out) as {
      matrices: Record<string, { A: number[][]; states: string[] }>;
      modes: { name: string; re: number }[];
      doubts: string[];
    };
    expect(made.modes.map((m) => m.name)).toEqual(['short period', 'phugoid', 'roll', 'Dutch roll', 'spiral']);
    expect(made.matrices.longitudinal.states).toEqual(['u', 'w', 'q', 'theta']);
    expect(made.matrices.lateral.A).toHaveLength(4);
    expect(made.doubts).toEqual([]);
  });
  it('asks where units or signs look wrong, and refuses what cannot be', async () => {
    expect((await run(set({}, { CL_alpha: 0.098 }))).err).toMatch(/Are the derivatives per degree\?/);
    const refused = async (value: unknown) => {
      const r = await run(value, '--json');
      expect([r.code, r.out]).toEqual([1, '']);
      return r.err;
    };
    expect(await refused(set({ Izz: 40 }))).toMatch(/no body has such moments of inertia[\s\S]*at Izz/);
    expect(await refused(set({}, { Cm_alfa: 1 }))).toMatch(/Cm_alfa/);
    expect(await refused('{')).toMatch(/not JSON/);
  });
});

describe('vw motion and vw balance of an airframe', () => {
  const surface = (id: string, role: string, x: number, z: number, chord: number, span: number, more: object = {}) => ({
    id,
    name: id,
    role,
    plane: 'horizontal',
    mirrored: true,
    position: { x, y: 0, z },
    incidenceDeg: role === 'tailplane' ? -1 : 2,
    stations: [chord, 0.7 * chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:0012' })),
    bays: [{ span: span / 2, sweepDeg: 0, dihedralDeg: 3 }],
    ...more,
  });
  const elevator = {
    id: 'e',
    name: 'Elevator',
    from: 0,
    to: 1,
    hinge: 0.7,
    kind: 'symmetric',
    deflectionDeg: 0,
    limitsDeg: [-20, 20],
  };
  const items = [
    {
      id: 'hull',
      name: 'Hull',
      mass: 6,
      position: { x: 0.1, y: 0, z: 0 },
      shape: 'cylinder',
      size: { x: 1.2, y: 0.2 },
    },
    { id: 'tank', name: 'Tank', mass: 2, position: { x: 0.2, y: 0.8, z: 0 }, mirrored: true },
    { id: 'wing', name: 'Wing', mass: 3, position: { x: 0.2, y: 0, z: 0.05 }, shape: 'plate', size: { x: 0.3, y: 3 } },
  ];
  const airframe = (more: object = {}) => {
    const path = join(folder, 'airframe.json');
    const candidate = {
      name: 'Test',
      surfaces: [
        surface('wing', 'wing', 0, 0, 0.4, 3),
        surface('tail', 'tailplane', 1.6, 0.2, 0.25, 0.9, { controls: [elevator] }),
        surface('fin', 'fin', 1.6, 0, 0.3, 0.9, {
          plane: 'vertical',
          mirrored: false,
          incidenceDeg: 0,
          bays: [{ span: 0.4, sweepDeg: 10, dihedralDeg: 0 }],
        }),
      ],
      massItems: items,
      loadings: { dry: { tank: 0 } },
      ...more,
    };
    writeFileSync(path, JSON.stringify({ format: 'veldtwind-candidate', version: 2, candidate }));
    return path;
  };
  const level = ['--speed', '22', '--altitude', '100', '--json'];

  it('gives trim, derivatives, matrices and modes', async () => {
    const [still, dry] = await Promise.all([
      vw('motion', '--airframe', airframe(), ...level),
      vw('motion', '--airframe', airframe(), ...level, '--inviscid', '--loading', 'dry'),
    ]);
    expect(still.code).toBe(0);
    const a = JSON.parse(still.out) as {
      mass: { mass: number; inertia: Record<string, number> };
      trim: { alphaDeg: number; CL: number; controls: Record<string, number> };
      derivatives: Record<string, number> & { controls: Record<string, Record<string, number>> };
      matrices: { longitudinal: { states: string[]; inputs: string[] } };
      modes: { name: string; re: number }[];
    };
    expect(a.mass.mass).toBe(13);
    expect(Object.keys(a.trim.controls)).toEqual(['e']);
    expect(a.trim.CL).toBeGreaterThan(0.2);
    expect(a.derivatives.Cm_alpha).toBeLessThan(0);
    expect(a.derivatives.Cl_p).toBeLessThan(-0.3);
    expect(a.derivatives.Cn_beta).toBeGreaterThan(0);
    expect(a.derivatives.controls.Elevator.Cm).toBeLessThan(-0.5);
    expect(a.matrices.longitudinal).toMatchObject({ states: ['u', 'w', 'q', 'theta'], inputs: ['Elevator'] });
    expect(a.modes.map((m) => m.name)).toEqual(expect.arrayContaining(['phugoid', 'Dutch roll', 'roll', 'spiral']));
    const b = JSON.parse(dry.out) as typeof a;
    expect(b.mass.mass).toBe(9);
    expect(b.mass.inertia.Ixx).toBeLessThan(a.mass.inertia.Ixx - 2);
  }, 120_000);

  it('gives mass, inertia, neutral point and the range of the centre', async () => {
    const { out } = await vw('balance', '--airframe', airframe(), '--json');
    const b = JSON.parse(out) as {
      mass: number;
      centre: { x: number; y: number };
      inertia: { tensor: number[][]; products: string };
      neutralPoint: number;
      staticMargin: number;
      allowedCentre: { forward: number; aft: number };
      reference: { chord: number };
    };
    expect(b.mass).toBe(13);
    expect(b.centre.y).toBe(0);
    expect(b.inertia.products).toMatch(/−∫xy dm/);
    expect(b.inertia.tensor[0][0]).toBeCloseTo(0.5 * 6 * 0.01 + 2 * 2 * 0.64 + (3 * 9) / 12 + 0.0, 1);
    expect(b.neutralPoint - b.centre.x).toBeCloseTo(b.staticMargin * b.reference.chord, 9);
    // The neutral point moves a little with the trim.
    expect(b.allowedCentre.aft - b.allowedCentre.forward).toBeCloseTo(0.2 * b.reference.chord, 3);
    const tight = await vw('balance', '--airframe', airframe(), '--trim-angle', '1:3', '--json');
    const { allowedCentre: a } = JSON.parse(tight.out) as {
      allowedCentre: { forward: number; limitedBy: { aft: string } };
    };
    expect(a.forward).toBeGreaterThanOrEqual(b.allowedCentre.forward - 1e-12);
    expect(a.limitedBy.aft).toMatch(/^(static margin|trim angle) [\d.]+$/);
    expect((await vw('balance', '--airframe', airframe(), '--slope', '0:0')).err).toMatch(/--slope 0:0 is no range/);
  });

  it('flies a scenario from a throw to the ground and writes all states', async () => {
    const scenario = join(folder, 'throw.json');
    const csv = join(folder, 'throw.csv');
    const write = (value: object) => writeFileSync(scenario, JSON.stringify(value));
    const launch = { kind: 'hand', speed: 18, height: 1.8, elevationDeg: 10 };
    const fly = (...more: string[]) =>
      vw('fly', '--airframe', airframe(), '--scenario', scenario, '--inviscid', '--csv', csv, '--json', ...more);
    write({ launch, duration: 60, inputs: [{ kind: 'step', control: 'Elevator', at: 0.2, amountDeg: -1 }] });
    const { out, err, code } = await fly('--loading', 'dry');
    expect([code, err]).toEqual([0, '']);
    const made = JSON.parse(out) as { ended: string; time: number; range: number; greatestHeight: number };
    expect(made.ended).toBe('ground');
    expect(made.range).toBeGreaterThan(20);
    const lines = readFileSync(csv, 'utf8').trim().split('\n');
    const head = lines[0].split(',');
    expect(head.slice(0, 16).join()).toBe('t,x,y,z,u,v,w,phi,theta,psi,p,q,r,alpha,beta,V');
    expect(head.at(-1)).toBe('Elevator');
    const last = lines.at(-1)!.split(',').map(Number);
    expect(last[0]).toBeCloseTo(made.time, 12);
    expect(Math.abs(last[3])).toBeLessThan(1e-9);
    expect(last[head.indexOf('mass')]).toBe(9);
    write({ launch, duration: 5, inputs: [{ kind: 'step', control: 'Fin', at: 0, amountDeg: 1 }] });
    expect((await fly()).err).toMatch(/no control "Fin"[\s\S]*There are Elevator/);
    write({ launch: { ...launch, speed: 'fast' }, duration: 5 });
    expect((await fly()).err).toMatch(/launch\.speed/);
    expect((await fly('--loading', 'wet')).err).toMatch(/launch\.speed|no loading/);
  });
  it('writes the tables that it flies by the open standard, flies them again, and throws with scatter', async () => {
    const scenario = join(folder, 'again.json');
    const [xml, csv] = [join(folder, 'tables.xml'), join(folder, 'throws.csv')];
    const launch = { kind: 'hand', speed: 18, height: 1.8, elevationDeg: 10 };
    writeFileSync(scenario, JSON.stringify({ launch, duration: 60 }));
    const base = ['fly', '--airframe', airframe(), '--scenario', scenario, '--inviscid', '--json'];
    const first = await vw(...base, '--write-tables', xml);
    const again = await vw(...base, '--tables', xml);
    expect(again.err).toMatch(/3 of its own checks are met/);
    expect(JSON.parse(again.out)).toEqual(JSON.parse(first.out));
    const many = await vw(...base, '--tables', xml, '--throws', '12', '--seed', '5', '--csv', csv);
    const { runs, footprint, ends } = JSON.parse(many.out) as {
      runs: { x: number }[];
      footprint: { x: number; axes: number[] };
      ends: Record<string, number>;
    };
    expect(runs).toHaveLength(12);
    expect(ends.ground).toBeCloseTo(1, 9);
    expect(Math.abs(footprint.x - (JSON.parse(first.out) as { range: number }).range)).toBeLessThan(30);
    expect(readFileSync(csv, 'utf8').split('\n')[0]).toMatch(/^run,x,y,time/);
    writeFileSync(xml, readFileSync(xml, 'utf8').slice(0, 5000));
    expect((await vw(...base, '--tables', xml)).err).toMatch(/no XML/);
    expect((await vw(...base, '--throws', '1')).err).toMatch(/scatter, runs/);
  }, 60_000);
  it.each([
    [['motion'], {}, /--airframe or --derivatives/],
    [['motion', '--airframe'], {}, /needs a speed/],
    [['motion', '--speed', '22', '--loading', 'wet', '--airframe'], {}, /no loading "wet".*|There are dry/],
    [['motion', '--speed', '22', '--inviscid', '--airframe'], { massItems: [] }, /no mass/],
    [
      ['motion', '--speed', '22', '--inviscid', '--airframe'],
      { massItems: [items[0]].map((i) => ({ ...i, shape: 'point' })) },
      /no moment of inertia/,
    ],
    [['motion', '--speed', '3', '--inviscid', '--airframe'], {}, /no angle within|carries/],
    [['balance', '--airframe'], { massItems: [{ ...items[1], position: { x: 0, y: 0, z: 0 } }] }, /own image/],
    [['balance', '--margin', '0.3:0.1', '--airframe'], {}, /no range/],
  ])('refuses %j and says why', async (args, more, why) => {
    const last = args[args.length - 1] === '--airframe' ? [airframe(more)] : [];
    const { code, err } = await vw(...args, ...last);
    expect(code).not.toBe(0);
    expect(err).toMatch(why);
  });
});
