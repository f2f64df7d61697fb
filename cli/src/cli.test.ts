import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readRange } from './arguments';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'vw-'));
const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const wing = (over: object = {}) => ({
  format: 'veldtwind-candidate',
  version: 1,
  candidate: {
    name: 'Plain wing',
    surfaces: [
      {
        id: 'wing',
        name: 'Wing',
        role: 'wing',
        plane: 'horizontal',
        mirrored: true,
        position: { x: 0, y: 0, z: 0 },
        incidenceDeg: 0,
        stations: [
          { chord: 1, twistDeg: 0, section: 'naca:2411' },
          { chord: 1, twistDeg: 0, section: 'naca:2411' },
        ],
        bays: [{ span: 4, sweepDeg: 0, dihedralDeg: 0, ...over }],
      },
    ],
  },
});

describe('ranges', () => {
  it('are read in all three ways', () => {
    expect(readRange('-4:4:2', 'alpha')).toEqual([-4, -2, 0, 2, 4]);
    expect(readRange('0:0.3:0.1', 'alpha')).toEqual([0, 0.1, 0.2, 0.3]);
    expect(readRange('12:-4:-8', 'alpha')).toEqual([12, 4, -4]);
    expect(readRange('3,5', 'alpha')).toEqual([3, 5]);
  });
  it.each(['', 'x', '1:2', '1:2:0', '1:2:-1', '0:1e9:0.001', 'NaN'])('refuse %p', (text) => {
    expect(() => readRange(text, 'alpha')).toThrow(/alpha/);
  });
});

describe('vw', () => {
  it('section prints facts and coordinates', async () => {
    const { out, code } = await vw('section', '--section', 'naca:4415', '--json');
    expect(code).toBe(0);
    const r = JSON.parse(out);
    expect(r.thickness.max).toBeCloseTo(0.15, 3);
    expect(r.camber).toEqual({ max: 0.04, at: 0.4 });
    expect(r.noseRadius).toBeCloseTo(1.1019 * 0.0225, 4);
    expect(r.trailingEdge.gap).toBeCloseTo(0.00315, 4);
    expect(r.coordinates[0][0]).toBeCloseTo(1, 2);
    expect(r.coordinates).toHaveLength(161);
  });
  it('section reads a file, and its table is for people', async () => {
    const { out } = await vw('section', '--section', 'naca:2411', '--json');
    const pairs = JSON.parse(out).coordinates as [number, number][];
    const path = file(
      'own.txt',
      `Own section\n${pairs
        .map((p) => p.join(' '))
        .reverse()
        .join('\n')}\n`,
    );
    const read = JSON.parse((await vw('section', '--section', path, '--json')).out);
    expect(read).toMatchObject({ name: 'Own section', repaired: true });
    expect(read.camber.max).toBeCloseTo(0.02, 4);
    expect((await vw('section', '--section', path)).out).toMatch(/thickness +11\.00/);
  });
  it('section writes files at any chord, and lists a folder, bad files included', async () => {
    const target = mkdtempSync(join(tmpdir(), 'vw-list-'));
    const dat = join(target, 'karoo.txt');
    const write = ['section', '--section', 'naca:4415', '--write'];
    expect((await vw(...write, 'two-surface', '--chord', '240mm', '--points', '81', '--out', dat)).code).toBe(0);
    expect(readFileSync(dat, 'utf8').split(/\r?\n/)[1]).toBe('41 41');
    expect((await vw(...write, 'svg', '--chord', '0.24 m')).out).toMatch(/width="0.264m"/);
    expect((await vw(...write, 'dxf', '--chord', '10in')).out).toMatch(/\n10\.00/);
    expect((await vw(...write, 'cad')).err).toMatch(/none of/);
    writeFileSync(join(target, 'letter.txt'), 'Dear colleague');
    const listed = JSON.parse((await vw('section', '--list', target, '--json')).out);
    expect(listed.sections[0]).toMatchObject({ file: 'karoo.txt' });
    expect(listed.sections[0].thickness.max).toBeCloseTo(0.15, 3);
    expect(listed.sections[1].reason).toMatch(/No coordinates/);
    expect((await vw('section', '--list', target)).out).toMatch(/letter\.txt.*No coordinates/);
    expect((await vw('section', '--list', '/nowhere')).code).toBe(1);
    const facts = JSON.parse((await vw('section', '--section', 'naca:0012', '--json')).out);
    expect(facts.perimeter).toBeGreaterThan(2.03);
    expect(facts.secondMoments.solid.axisDeg).toBeCloseTo(0, 3);
  });
  it('polar gives cl and cm of the inviscid flow', async () => {
    const r = JSON.parse(
      (await vw('polar', '--section', 'naca:0012', '--alpha', '-4:4:4', '--inviscid', '--json')).out,
    );
    expect(r.conditions.model).toBe('inviscid');
    expect(r.points.map((p: { alphaDeg: number }) => p.alphaDeg)).toEqual([-4, 0, 4]);
    expect(r.points[2].cl).toBeCloseTo(0.483, 2);
    expect(r.points[0].cl).toBeCloseTo(-r.points[2].cl, 6);
    expect(r.points[1].status).toBe('solved');
  });
  it('polar with a Reynolds number gives drag, and says what is not solved', async () => {
    const args = ['polar', '--section', 'naca:0012', '--re', '6e6', '--alpha', '0:4:4'];
    const r = JSON.parse((await vw(...args, '--json')).out);
    expect(r.conditions).toMatchObject({ model: 'viscous', reynolds: 6e6, criticalAmplification: 9 });
    expect(r.points[1]).toMatchObject({ alphaDeg: 4, status: 'solved' });
    expect(r.points[1].cd).toBeGreaterThan(0.0055);
    expect(r.points[1].cd).toBeLessThan(0.0072);
    expect((await vw(...args)).out).toMatch(/transition top/);
  });
  it('polar holds a lift, a flap, a turbulence level, and writes distributions and CSV', async () => {
    const csv = join(folder, 'polar.csv');
    const r = JSON.parse(
      (
        await vw(
          ...['polar', '--section', 'naca:2312', '--re', '1e6', '--cl', '0.4,0.8', '--flap', '0.75,0.5,5'],
          ...['--turbulence', '0.1', '--trip-top', '0.05', '--details', '--csv', csv, '--json'],
        )
      ).out,
    );
    expect(r.conditions.criticalAmplification).toBeCloseTo(8.15, 1);
    expect(r.conditions.flap).toEqual({ x: 0.75, y: 0.5, deg: 5 });
    for (const [i, cl] of [0.4, 0.8].entries()) {
      const p = r.points[i];
      expect(p).toMatchObject({ clWanted: cl, status: 'solved' });
      expect(p.cl).toBeCloseTo(cl, 4);
      expect(p.transitionTop).toBeCloseTo(0.05, 2);
      expect(p.hinge.momentOnFlapChord).toBeLessThan(0);
      expect(p.details.top.cp.length).toBe(p.details.top.x.length);
      expect(p.details.wake.shapeFactor.at(-1)).toBeLessThan(1.2);
    }
    const lines = readFileSync(csv, 'utf8').trim().split(/\r?\n/);
    expect(lines).toHaveLength(3);
    expect(lines[0]).toMatch(/^"?alpha, deg"?,Re,cl,cd/);
  });
  it('polar sweeps at a fixed lift force and over Reynolds numbers', async () => {
    const held = JSON.parse(
      (
        await vw(
          'polar',
          '--section',
          'naca:4415',
          '--re',
          '5e5',
          '--alpha',
          '2:6:4',
          '--sweep',
          'fixed-lift',
          '--json',
        )
      ).out,
    );
    for (const p of held.points) expect(p.reynolds * Math.sqrt(p.cl)).toBeCloseTo(5e5, -2);
    const over = JSON.parse(
      (await vw('polar', '--section', 'naca:4415', '--re', '2e5,1e6', '--alpha', '2', '--sweep', 'over-re', '--json'))
        .out,
    );
    expect(over.points.map((p: { reynolds: number }) => p.reynolds)).toEqual([2e5, 1e6]);
    expect(over.points[0].cd).toBeGreaterThan(over.points[1].cd);
  });
  it('lift reads a candidate file', async () => {
    const path = file('wing.json', JSON.stringify(wing()));
    const r = JSON.parse((await vw('lift', '--airframe', path, '--alpha', '-4:8:4', '--span-load', '--json')).out);
    expect(r.reference).toEqual({ area: 8, span: 8, chord: 1 });
    expect(r.points).toHaveLength(4);
    expect(r.liftSlopePerRad).toBeGreaterThan(4.3);
    expect(r.liftSlopePerRad).toBeLessThan(4.9);
    expect(r.neutralPoint).toBeGreaterThan(0.2);
    expect(r.points[3].CDi).toBeGreaterThan(0);
    expect(r.points[3].spanLoad[0].surface).toBe('wing');
    expect((await vw('lift', '--airframe', path, '--alpha', '2')).out).toMatch(/lift slope/);
  });
  it.each([
    ['an unknown designation', ['section', '--section', 'naca:4015'], /no section 4015/],
    ['a missing file', ['section', '--section', '/nowhere/x.txt'], /does not exist/],
    ['a file of text', ['section', '--section', file('text.txt', 'not a section\nat all')], /No coordinates/],
    ['an angle of 90°', ['polar', '--section', 'naca:0012', '--alpha', '90', '--inviscid'], /±45°/],
    [
      'a polar without a Reynolds number',
      ['polar', '--section', 'naca:0012', '--alpha', '2'],
      /needs a Reynolds number/,
    ],
    ['a Reynolds number of 0', ['polar', '--section', 'naca:0012', '--alpha', '2', '--re', '0'], /1 000 to/],
    ['a Reynolds number of 1e12', ['polar', '--section', 'naca:0012', '--alpha', '2', '--re', '1e12'], /10⁹/],
    ['Mach 0.7', ['polar', '--section', 'naca:0012', '--alpha', '2', '--re', '1e6', '--mach', '0.7'], /Mach/],
    ['a trip at 1.5', ['polar', '--section', 'naca:0012', '--alpha', '2', '--re', '1e6', '--trip-top', '1.5'], /trip/],
    [
      'a flap hinge at 2',
      ['polar', '--section', 'naca:0012', '--alpha', '2', '--re', '1e6', '--flap', '2,0.5,5'],
      /hinge/,
    ],
    [
      'an unknown sweep',
      ['polar', '--section', 'naca:0012', '--alpha', '2', '--re', '1e6', '--sweep', 'x'],
      /fixed-lift/,
    ],
    ['a range without end', ['polar', '--section', 'naca:0012', '--alpha', '1:2', '--inviscid'], /from:to:step/],
    [
      'a span of zero',
      ['lift', '--airframe', file('zero.json', JSON.stringify(wing({ span: 0 }))), '--alpha', '2'],
      /span/,
    ],
    [
      'a span of −1',
      ['lift', '--airframe', file('minus.json', JSON.stringify(wing({ span: -1 }))), '--alpha', '2'],
      /span/,
    ],
    ['text for JSON', ['lift', '--airframe', file('bad.json', 'wing!'), '--alpha', '2'], /not JSON/],
    ['an unknown option', ['section', '--wing', 'x'], /unknown option|required option/],
    ['an unknown command', ['soar'], /unknown command/],
  ])('refuses %s with exit code 1 and a reason on standard error', async (_, args, reason) => {
    const { code, err, out } = await vw(...args);
    expect(code).toBe(1);
    expect(err).toMatch(reason);
    expect(out).toBe('');
  });
  it('explains itself', async () => {
    const { out, code } = await vw('lift', '--help');
    expect(code).toBe(0);
    expect(out).toMatch(/--airframe/);
  });
});

describe('vw section: recipes and files', () => {
  const recipe = (name: string, steps: unknown) =>
    file(name, JSON.stringify({ format: 'veldtwind-recipe', version: 1, steps }));
  interface Facts {
    thickness: { max: number; at: number };
    camber: { max: number };
    coordinates: [number, number][];
  }
  const json = async (...args: string[]) => {
    const run = await vw('section', ...args, '--json');
    expect(run.err).toBe('');
    return JSON.parse(run.out) as Facts;
  };
  it('applies shaping steps; thin, then thick gives the section back', async () => {
    const plain = await json('--section', 'naca:4415');
    const thin = await json(
      '--section',
      'naca:4415',
      '--recipe',
      recipe('thin.json', [{ kind: 'set-thickness', to: 0.08 }]),
    );
    expect(thin.thickness.max).toBeCloseTo(0.08, 4);
    expect(thin.camber.max).toBeCloseTo(0.04, 4);
    const back = await json(
      '--section',
      'naca:4415',
      '--recipe',
      recipe('back.json', [
        { kind: 'scale-thickness', by: 0.5 },
        { kind: 'scale-thickness', by: 2 },
      ]),
    );
    back.coordinates.forEach(([x, y], i) => {
      expect(Math.hypot(x - plain.coordinates[i][0], y - plain.coordinates[i][1])).toBeLessThan(1e-9);
    });
  });
  it('mixes with a file or a designation', async () => {
    const mixed = await json(
      '--section',
      'naca:4412',
      '--recipe',
      recipe('mix.json', [{ kind: 'mix', with: 'naca:0012', fraction: 0.5 }]),
    );
    expect(mixed.camber.max).toBeCloseTo(0.02, 4);
  });
  it.each([
    ['a thickness of 200 %', [{ kind: 'set-thickness', to: 2 }], /steps\.0\.to[\s\S]*60 %/],
    [
      'a crest at 0',
      [
        { kind: 'scale-camber', by: 1 },
        { kind: 'thickness-crest', to: 0 },
      ],
      /steps\.1\.to[\s\S]*0\.05/,
    ],
    ['a hinge outside', [{ kind: 'hinge', x: 1.3, angleDeg: 4 }], /steps\.0\.x[\s\S]*0\.98/],
    [
      'surfaces that cross',
      [{ kind: 'bump', surface: 'upper', at: 0.8, height: -0.09 }],
      /crosses itself[\s\S]*steps\.0\.height[\s\S]*Nearest that works/,
    ],
  ])('refuses %s with the field and the nearest that works', async (name, steps, reason) => {
    const run = await vw(
      'section',
      '--section',
      'naca:4415',
      '--recipe',
      recipe(`${name.length}.json`, steps),
      '--json',
    );
    expect(run.code).toBe(1);
    expect(run.out).toBe('');
    expect(run.err).toMatch(reason);
  });
  it('mirrors a file of one surface when it is told to', async () => {
    const half = Array.from({ length: 31 }, (_, i) => {
      const x = 0.5 * (1 + Math.cos((Math.PI * i) / 30));
      return `${x} ${0.1 * Math.sqrt(x) * (1 - x)}`;
    }).join('\n');
    const path = file('half.txt', half);
    expect((await vw('section', '--section', path)).err).toMatch(/one surface only/);
    const whole = await json('--section', path, '--mirror');
    expect(whole.coordinates).toHaveLength(61);
  });
});
