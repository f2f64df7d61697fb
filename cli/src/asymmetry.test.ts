import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'asymmetry-'));
const surface = (id: string, role: string, x: number, chord: number, span: number, more: object = {}) => ({
  id,
  name: id,
  role,
  plane: 'horizontal',
  mirrored: true,
  position: { x, y: 0, z: 0.1 },
  incidenceDeg: role === 'wing' ? 2 : 0,
  stations: [chord, chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:0009' })),
  bays: [{ span: span / 2, sweepDeg: 0, dihedralDeg: 2 }],
  ...more,
});
const control = (id: string, name: string, kind: string, from: number) => ({
  id,
  name,
  from,
  to: 0.95,
  hinge: 0.75,
  kind,
  deflectionDeg: 0,
  limitsDeg: [-20, 20],
});
const file = (name: string, asymmetry: object) => {
  const candidate = {
    name: 'Made up',
    surfaces: [
      surface('wing', 'wing', 0, 0.3, 2.4, { controls: [control('a', 'Aileron', 'opposed', 0.6)], asymmetry }),
      surface('tail', 'tailplane', 1.2, 0.18, 0.7, { controls: [control('e', 'Elevator', 'symmetric', 0)] }),
    ],
    massItems: [
      {
        id: 'm',
        name: 'All',
        mass: 3,
        position: { x: 0.1, y: 0, z: 0.1 },
        inertia: { Ixx: 0.4, Iyy: 0.5, Izz: 0.8, Ixz: 0 },
      },
    ],
  };
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify({ format: 'veldtwind-candidate', version: 2, candidate }));
  return path;
};

describe('vw asymmetry', () => {
  it('tells what a difference does, and what would explain a roll that was seen', async () => {
    const path = file('halves.json', { incidenceDeg: 0.5 });
    const { out, err } = await vw('asymmetry', '--airframe', path, '--speed', '18', '--roll-rate=-10', '--json');
    expect(err).toBe('');
    const { causes, now, explained } = JSON.parse(out) as {
      causes: { surface: string; kind: string; given: boolean; amount: number; rollRateDeg: number }[];
      now: { rollRateDeg: number };
      explained: { surface: string; kind: string; amount: number }[];
    };
    expect(causes.filter((c) => c.given)).toHaveLength(1);
    expect(causes[0]).toMatchObject({ surface: 'wing', kind: 'incidence' });
    expect(causes[0].amount).toBeCloseTo(0.5, 9);
    expect(now.rollRateDeg).toBeLessThan(-1);
    // Answers are straight in the difference: what explains −10°/s is −10 over what half a degree brings.
    const own = explained.find((c) => c.kind === 'incidence' && c.surface === 'wing')!;
    expect(own.amount / ((-10 / now.rollRateDeg) * 0.5)).toBeCloseTo(1, 6);
  });
  it('says it in words, with the speeds that are asked for', async () => {
    const path = file('words.json', { mass: 0.05 });
    const { out, err } = await vw('asymmetry', '--airframe', path, '--speed', '18', '--speeds', '3,14,22');
    expect(err).toBe('');
    expect(out).toMatch(/wing: mass\s+0\.05 kg/);
    expect(out).toMatch(/22 m\/s: held by Aileron/);
    expect(out).toMatch(/3 m\/s: .*lift coefficient/);
  });
  it('refuses a difference that no wing has, at its field', async () => {
    const { err, code } = await vw('asymmetry', '--airframe', file('far.json', { incidenceDeg: 40 }), '--speed', '18');
    expect(code).toBe(1);
    expect(err).toMatch(/incidence/i);
    expect(err).toMatch(/10/);
  });
});
