import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'fit-'));
const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const surface = (id: string, role: string, x: number, chord: number, span: number, incidenceDeg: number) => ({
  id,
  name: id,
  role,
  plane: 'horizontal',
  mirrored: true,
  position: { x, y: 0, z: 0 },
  incidenceDeg,
  stations: [chord, chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:2410' })),
  bays: [{ span, sweepDeg: 0, dihedralDeg: 3 }],
});
const airframe = file(
  'glider.json',
  JSON.stringify({
    format: 'veldtwind-candidate',
    version: 2,
    candidate: {
      name: 'Glider',
      surfaces: [surface('wing', 'wing', 0, 0.18, 0.7, 0), surface('tail', 'tailplane', 0.75, 0.12, 0.25, -3)],
      massItems: [
        {
          id: 'm',
          name: 'All',
          mass: 0.35,
          position: { x: 0.055, y: 0, z: 0 },
          inertia: { Ixx: 0.02, Iyy: 0.02, Izz: 0.04 },
        },
      ],
    },
  }),
);

describe('vw fit', () => {
  it('finds the launch of a flight of our own again, and tells what it tells', async () => {
    const scenario = file(
      'throw.json',
      JSON.stringify({ launch: { kind: 'hand', speed: 9, height: 2, elevationDeg: 5 }, duration: 2, record: 0.04 }),
    );
    const csv = join(folder, 'path.csv');
    await vw('fly', '--airframe', airframe, '--scenario', scenario, '--inviscid', '--csv', csv);
    expect(readFileSync(csv, 'utf8')).toMatch(/height/);
    const { out, err } = await vw('fit', '--flight', csv, '--airframe', airframe, '--inviscid', '--json');
    expect(err).toBe('');
    const told = JSON.parse(out) as {
      parameters: { id: string; value: number; low: number; high: number; decided: boolean }[];
      rms: number;
      withoutLift: number;
    };
    const [speed, elevation, drag] = told.parameters;
    expect(speed.value).toBeCloseTo(9, 1);
    expect(elevation.value).toBeCloseTo(5, 0);
    expect(drag.value).toBeCloseTo(1, 1);
    expect(told.rms).toBeLessThan(0.01);
    expect(told.withoutLift).toBeGreaterThan(10 * told.rms);
    const words = await vw('fit', '--flight', csv, '--airframe', airframe, '--inviscid', '--held', 'drag=1');
    expect(words.out).toMatch(/launch speed +9\.0\d+ m\/s/);
    expect(words.out).not.toMatch(/drag factor/);
  });
  it('refuses what is no path and what cannot be fitted', async () => {
    const rows = Array.from({ length: 9 }, (_, i) => `${i / 10},${i},1`).join('\n');
    const good = file('good.csv', `t,x,z\n${rows}`);
    for (const [path, more, said] of [
      [file('two.csv', `t,x,z\n${rows}\n${rows}`), [], 'Time goes back at row 11'],
      [file('none.csv', ''), [], 'no table'],
      [file('heads.csv', `a,b,c\n${rows}`), [], 'no column of time, x, height'],
      [good, ['--fit', 'luck'], '"luck" cannot be fitted'],
      [good, ['--held', 'wind=900'], 'wind must be from -30 to 30'],
      [good, ['--fit', 'speed', '--held', 'speed=9'], 'Nothing is to be fitted'],
    ] as const) {
      const { code, err } = await vw('fit', '--flight', path, '--airframe', airframe, '--inviscid', ...more);
      expect(err).toMatch(said);
      expect(code).toBe(1);
    }
  });
});
