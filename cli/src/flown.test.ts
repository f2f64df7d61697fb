import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'flown-'));
const file = (name: string, value: unknown) => {
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify(value));
  return path;
};
interface Compared {
  conditions: {
    before: { cd: number | null; clOverCd: number | null; status: string; transitions: { top: number } | null };
    after: { cd: number | null; status: string };
    change: { cd: number | null };
    percent: { cd: number | null };
  }[];
}

describe('vw section --compare', () => {
  it('tells two sections at flown conditions, and one that is beyond the stall as unsolved', async () => {
    const at = 'cl=0.4,re=7e5; cl=2.6,re=4e5';
    const { out } = await vw('section', '--compare', 'naca:4415', 'naca:4412', '--at', at, '--json');
    const [cruise, beyond] = (JSON.parse(out) as Compared).conditions;
    expect(cruise.before.status).toBe('solved');
    expect(cruise.change.cd).toBeCloseTo(cruise.after.cd! - cruise.before.cd!, 12);
    expect(cruise.percent.cd).toBeCloseTo((100 * cruise.change.cd!) / cruise.before.cd!, 9);
    expect(cruise.before.clOverCd).toBeCloseTo(0.4 / cruise.before.cd!, 2);
    expect(beyond).toMatchObject({ before: { cd: null, status: 'unsolved' }, change: { cd: null } });
    // The same number as the polar's.
    const polar = await vw('polar', '--section', 'naca:4415', '--cl', '0.4', '--re', '7e5', '--json');
    expect((JSON.parse(polar.out) as { points: { cd: number }[] }).points[0].cd).toBeCloseTo(cruise.before.cd!, 7);
  });
  it('tells what a recipe does to a section', async () => {
    const steps = [{ kind: 'set-thickness', to: 0.12 }];
    const recipe = file('recipe.json', { format: 'veldtwind-recipe', version: 1, steps });
    const { out } = await vw('section', '--section', 'naca:4415', '--recipe', recipe, '--at', 'alpha=2,re=1e6');
    expect(out).toMatch(/NACA 4415 +NACA 4415, shaped/);
    expect(out).toMatch(/cl \/ cd/);
  });
  it('refuses conditions that are none, naming the place', async () => {
    for (const [at, said] of [
      ['cl=0.4', 'no Reynolds number'],
      ['cl=0.4,re=7e5;alpha=1,cl=2,re=1e5', 'Condition 2'],
      ['cl=nine,re=1e5', 'no number'],
      ['cl=0.4,cl=0.5,re=1e5', 'twice'],
      ['lift=0.4,re=1e5', '"lift"'],
      ['cl=9,re=1e5', 'Lift coefficient'],
      [' ; ', 'no condition'],
      [Array.from({ length: 9 }, () => 'cl=0.4,re=1e5').join(';'), '9 conditions'],
    ]) {
      const { code, err } = await vw('section', '--compare', 'naca:0009', 'naca:1410', '--at', at);
      expect([code, err]).toEqual([1, expect.stringContaining(said)]);
    }
    const one = await vw('section', '--compare', 'naca:0009', '--at', 'cl=0,re=1e6');
    expect([one.code, one.err]).toEqual([1, expect.stringContaining('Two sections')]);
  });
});

describe('vw torque', () => {
  const surface = (id: string, role: string, x: number, chord: number, span: number, more: object = {}) => ({
    id,
    name: id,
    role,
    plane: 'horizontal',
    mirrored: true,
    position: { x, y: 0, z: 0.1 },
    incidenceDeg: role === 'wing' ? 2 : 0,
    stations: [chord, chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:0012' })),
    bays: [{ span: span / 2, sweepDeg: 0, dihedralDeg: 2 }],
    ...more,
  });
  const controls = [
    {
      id: 'e',
      name: 'Elevator',
      from: 0,
      to: 1,
      hinge: 0.7,
      kind: 'symmetric',
      deflectionDeg: 0,
      limitsDeg: [-20, 15],
    },
  ];
  const candidate = {
    name: 'Made up',
    surfaces: [surface('wing', 'wing', 0, 0.3, 2.4), surface('tail', 'tailplane', 1.2, 0.18, 0.7, { controls })],
    massItems: [{ id: 'm', name: 'All', mass: 3, position: { x: 0.1, y: 0, z: 0.1 } }],
    actuation: { e: { servo: { name: 'Wagtail 9', torque: 0.12, travelDeg: 45, arm: 0.012, horn: 0.015 } } },
  };
  const airframe = (name: string, more: object = {}) =>
    file(name, { format: 'veldtwind-candidate', version: 2, candidate: { ...candidate, ...more } });

  it('tells the hinge coefficient and the torque of each control at its worst place, with all places', async () => {
    const { out, err } = await vw('torque', '--airframe', airframe('a.json'), '--speed', '18', '--json');
    expect(err).toBe('');
    const [e] = (
      JSON.parse(out) as {
        controls: {
          name: string;
          deflectionDeg: number;
          torque: number;
          reserve: number;
          points: { torque: number; reserve: number }[];
        }[];
      }
    ).controls;
    expect(e).toMatchObject({ name: 'Elevator', status: expect.stringMatching(/solved|doubtful|estimated/) as string });
    expect(e.points).toHaveLength(7);
    expect(e.reserve).toBe(Math.min(...e.points.map((p) => p.reserve)));
    // Nose-up trim of the elevator is resisted by the air.
    expect(e.points[0].torque).toBeGreaterThan(0);
    expect(e.points[6].torque).toBeLessThan(0);
  });
  it('takes deflections, and says what is wrong with the rest', async () => {
    const told = await vw('torque', '--airframe', airframe('b.json'), '--speed', '18', '--deflection', '-5,5');
    expect(told.out).toMatch(/Elevator.*5\.0/);
    for (const [path, speed, said] of [
      [airframe('c.json', { massItems: [] }), '18', 'no mass'],
      [airframe('d.json', { surfaces: [candidate.surfaces[0]], actuation: {} }), '18', 'no control'],
      [airframe('e.json'), '3', 'lift coefficient'],
      [airframe('f.json'), 'fast', 'not a number'],
      [
        airframe('g.json', { actuation: { e: { servo: { torque: -1, travelDeg: 45 } } } }),
        '18',
        'actuation.e.servo.torque',
      ],
    ]) {
      const { code, err } = await vw('torque', '--airframe', path, '--speed', speed, '--json');
      expect([code, err]).toEqual([1, expect.stringContaining(said)]);
    }
  });
});

describe('vw loads', () => {
  const wing = {
    id: 'wing',
    name: 'Wing',
    role: 'wing',
    plane: 'horizontal',
    mirrored: true,
    position: { x: 0, y: 0, z: 0 },
    incidenceDeg: 2,
    stations: [0.4, 0.25].map((chord) => ({ chord, twistDeg: 0, section: 'naca:1410' })),
    bays: [{ span: 1.5, sweepDeg: 0, dihedralDeg: 2 }],
  };
  const massItems = [{ id: 'm', name: 'All', mass: 5, position: { x: 0.1, y: 0, z: 0 } }];
  const airframe = (name: string, candidate: object) =>
    file(name, { format: 'veldtwind-candidate', version: 2, candidate: { name: 'Made up', ...candidate } });

  it('tells shear, bending and torsion from root to tip, with the case', async () => {
    const { out, err } = await vw(
      'loads',
      '--airframe',
      airframe('w.json', { surfaces: [wing], massItems }),
      '--inviscid',
      '--json',
    );
    expect(err).toBe('');
    const { surfaces } = JSON.parse(out) as {
      surfaces: Record<string, { y: number; shear: number; bending: number; torsion: number; case: string }[]>;
    };
    const list = surfaces.wing;
    expect(list[0].y).toBe(0);
    expect(list[list.length - 1].bending).toBe(0);
    for (let i = 1; i < list.length; i++) expect(Math.abs(list[i].bending)).toBeLessThan(Math.abs(list[i - 1].bending));
    expect(list[0].case).toMatch(/manoeuvre|gust/);
    expect(list[0].shear).toBeGreaterThan(0.9 * 0.5 * 3.8 * 5 * 9.8);
  });
  it('refuses what it cannot know', async () => {
    const whole = airframe('x.json', { surfaces: [wing], massItems });
    for (const [args, said] of [
      [['--airframe', airframe('y.json', { surfaces: [], massItems })], 'surface'],
      [['--airframe', airframe('z.json', { surfaces: [wing], massItems: [] })], 'no mass'],
      [['--airframe', whole, '--load', '3.8'], 'no pair'],
      [['--airframe', whole, '--dive', '0.5'], 'as fast'],
      [['--airframe', whole, '--axis', '2'], 'from 0 to 1'],
    ] as const) {
      const { code, err } = await vw('loads', ...args, '--inviscid');
      expect([code, err]).toEqual([1, expect.stringContaining(said)]);
    }
  });
});
