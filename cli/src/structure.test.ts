import { existsSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'structure-'));
const SPAR = {
  id: 'main',
  name: 'Main spar',
  kind: 'i',
  material: 'spruce',
  at: 0.3,
  width: 0.03,
  cap: 0.008,
  web: 0.002,
  webMaterial: 'birch-plywood',
};
const STRUCTURE = {
  skin: { material: 'birch-plywood-45', thickness: 0.0008, to: 0.3 },
  spars: [SPAR],
  ribs: { material: 'balsa-light', thickness: 0.003, spacing: 0.12 },
};
const wing = (structure: unknown) => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.5, twistDeg: 0, section: 'naca:4415' },
    { chord: 0.35, twistDeg: -1, section: 'naca:4412' },
  ],
  bays: [{ span: 2.4, sweepDeg: 0, dihedralDeg: 2 }],
  controls: [{ id: 'aileron', name: 'Aileron', from: 0.6, to: 0.95, hinge: 0.75, kind: 'opposed' }],
  ...(structure === undefined ? {} : { structure }),
});
const TAIL = {
  ...wing(undefined),
  id: 'tail',
  name: 'Tailplane',
  role: 'tailplane',
  position: { x: 1.8, y: 0, z: 0.1 },
  stations: [0.3, 0.25].map((chord) => ({ chord, twistDeg: 0, section: 'naca:0009' })),
  bays: [{ span: 0.6, sweepDeg: 0, dihedralDeg: 0 }],
  controls: [{ id: 'elevator', name: 'Elevator', from: 0, to: 1, hinge: 0.7, kind: 'symmetric' }],
};
let count = 0;
const airframe = (structure: unknown) => {
  const path = join(folder, `a${count++}.json`);
  const massItems = [{ id: 'm', name: 'All', mass: 18, position: { x: 0.14, y: 0, z: 0 } }];
  writeFileSync(
    path,
    JSON.stringify({
      format: 'veldtwind-candidate',
      version: 2,
      candidate: { name: 'Built', surfaces: [wing(structure), TAIL], massItems },
    }),
  );
  return path;
};
interface Told {
  members: { id: string; mass: number; stress: number | null; reserve: number | null; place: number | null }[];
  tipDeflection: number;
  tipTwistDeg: number;
  divergenceSpeed: number | null;
  frequencies: { bending: number; torsion: number };
}

describe('vw structure', () => {
  it('tells members, deflection, divergence and frequencies, and the mass that balance counts', async () => {
    const path = airframe(STRUCTURE);
    const { out } = await vw('structure', '--airframe', path, '--inviscid', '--speed', '20', '--json');
    const told = JSON.parse(out) as Told;
    expect(told.members.map((m) => m.id)).toEqual(['wing.skin', 'wing.main', 'wing.ribs']);
    const main = told.members[1];
    expect(main.place).toBe(0);
    expect(Math.abs(main.stress!)).toBeGreaterThan(1e6);
    expect(told.tipDeflection).toBeGreaterThan(0.01);
    expect(told.frequencies.bending).toBeGreaterThan(2);
    expect(told.frequencies.torsion).toBeGreaterThan(told.frequencies.bending);
    const balance = await vw('balance', '--airframe', path, '--json');
    const { mass } = JSON.parse(balance.out) as { mass: number };
    expect(mass).toBeCloseTo(18 + told.members.reduce((sum, m) => sum + m.mass, 0), 9);
  });
  it('sizes a surface, and says in words what would hold', async () => {
    const weak = { ...STRUCTURE, spars: [{ ...SPAR, cap: 0.0015 }] };
    const path = airframe(weak);
    const words = await vw('structure', '--airframe', path, '--inviscid', '--speed', '14');
    expect(words.out).toMatch(/Wing holds with .*structure\.spars\.main\.cap 1\.50 mm → \d/);
    const { out } = await vw(
      'structure',
      '--airframe',
      path,
      '--inviscid',
      '--speed',
      '14',
      '--size',
      'wing',
      '--json',
    );
    const { holds, structure } = JSON.parse(out) as { holds: boolean; structure: unknown };
    expect(holds).toBe(true);
    const again = await vw('structure', '--airframe', airframe(structure), '--inviscid', '--speed', '14', '--json');
    for (const m of (JSON.parse(again.out) as Told).members)
      if (m.reserve !== null) expect(m.reserve).toBeGreaterThan(-0.03);
  });
  it('refuses what cannot be, with the place and what to do', async () => {
    for (const [structure, said] of [
      [undefined, 'No surface says what it is made of'],
      [{ spars: [{ ...SPAR, height: 0.07 }] }, /leaves the skin at \d+ % of the half span: it is 70\.0 mm high/],
      [{ spars: [{ ...SPAR, kind: 'tube', wall: 0.02 }] }, 'must be at most the radius'],
      [{ spars: [{ ...SPAR, material: 'unobtainium' }] }, 'must be one of'],
      [{ spars: [SPAR, SPAR] }, 'two spars with one id'],
      [{ skin: { material: 'spruce', thickness: 0.04 } }, 'nothing is left inside'],
      [{ spars: [{ ...SPAR, to: 0.4 }] }, /Nothing carries a load at \d+ % of the half span/],
      [{ spars: [{ ...SPAR, cap: undefined }] }, 'is needed: the thickness of the caps'],
    ] as const) {
      const { code, err } = await vw('structure', '--airframe', airframe(structure), '--inviscid');
      expect(err).toMatch(said);
      expect(code).toBe(1);
    }
    const { err } = await vw('structure', '--airframe', airframe(STRUCTURE), '--inviscid', '--safety', '0.5');
    expect(err).toMatch('Factor of safety');
  });
});

describe('vw parts', () => {
  it('writes sheets, a list and solids to print, and refuses what cannot be made', async () => {
    const path = airframe(STRUCTURE);
    const out = join(folder, 'parts');
    const { out: text, err } = await vw(
      'parts',
      '--airframe',
      path,
      '--out',
      out,
      '--printer',
      '220x220x200',
      '--json',
    );
    expect(err).toBe('');
    const told = JSON.parse(text) as { files: string[]; parts: { kind: string; count: number }[] };
    expect(told.files).toEqual(expect.arrayContaining(['parts.csv', 'balsa-light-3-mm.dxf', 'balsa-light-3-mm.svg']));
    expect(told.files.filter((f) => f.endsWith('.stl')).length).toBeGreaterThan(10);
    for (const f of told.files) expect(existsSync(join(out, f))).toBe(true);
    expect(new Set(told.parts.map((p) => p.kind))).toEqual(new Set(['rib', 'cap', 'web', 'skin', 'printed']));
    for (const [more, said] of [
      [['--sheet', '300x100'], /a sheet of 300 × 100 mm does not hold it/],
      [['--sheet', 'large'], 'no size of a sheet'],
      [['--printer', '200x200'], 'no size of a printer'],
      [['--printer', '200x200x1'], 'must be from 20 to 5000 mm'],
    ] as const) {
      const refused = await vw('parts', '--airframe', path, '--out', out, ...more);
      expect(refused.err).toMatch(said);
      expect(refused.code).toBe(1);
    }
  });
});
