import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RAD } from '@veldtwind/core/numerics';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'airframe-'));
const station = (chord: number) => ({ chord, twistDeg: 0, section: 'naca:0012:sharp' });
const candidate = (more: object = {}) => ({
  name: 'Test',
  surfaces: [
    {
      id: 'wing',
      name: 'Wing',
      role: 'wing',
      plane: 'horizontal',
      mirrored: true,
      position: { x: 0, y: 0, z: 0 },
      incidenceDeg: 0,
      stations: [station(0.5), station(0.25)],
      bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 5 }],
    },
  ],
  ...more,
});
const file = (name: string, version: number, value: object) => {
  const path = join(folder, name);
  writeFileSync(path, JSON.stringify({ format: 'veldtwind-candidate', version, candidate: value }));
  return path;
};
const pod = (stations: object[]) => ({
  id: 'pod',
  name: 'Pod',
  position: { x: 0, y: 0, z: 0 },
  loft: 'straight',
  stations,
});

describe('vw airframe', () => {
  it('gives facts of surfaces, bodies and the whole, also of a file of version 1', async () => {
    const body = pod([
      { x: 0, width: 0.2, height: 0.2 },
      { x: 1, width: 0.2, height: 0.2 },
    ]);
    const run = await vw('airframe', '--airframe', file('two.json', 2, candidate({ bodies: [body] })), '--json');
    expect(run.err).toBe('');
    const facts = JSON.parse(run.out) as {
      surfaces: Record<string, number>[];
      bodies: Record<string, number>[];
      tails: unknown[];
      size: Record<string, number>;
    };
    expect(facts.surfaces[0].areaProjected).toBeCloseTo(1.5, 12);
    expect(facts.surfaces[0].spanTrue).toBeCloseTo(4 / Math.cos(5 * RAD), 12);
    expect(facts.bodies[0].length).toBe(1);
    expect(Math.abs(facts.bodies[0].volume / (Math.PI * 0.01) - 1)).toBeLessThan(1e-3);
    expect(facts.tails).toEqual([]);
    expect(facts.size.width).toBeCloseTo(4, 10);
    const old = await vw('airframe', '--airframe', file('one.json', 1, candidate()), '--json');
    expect(JSON.parse(old.out)).toMatchObject({ bodies: [], surfaces: [{ id: 'wing' }] });
    const words = await vw('airframe', '--airframe', file('two.json', 2, candidate({ bodies: [body] })));
    expect(words.out).toMatch(/wing: 1\.5 m² projected/);
  });
  it.each([
    [
      pod([
        { x: 0, width: 0.2, height: 0.2 },
        { x: -1, width: 0.2, height: 0.2 },
      ]),
      /behind the station before/,
    ],
    [
      pod([
        { x: 0, width: -1, height: 0.2 },
        { x: 1, width: 0.2, height: 0.2 },
      ]),
      /width/,
    ],
    [pod([]), /two stations/],
  ])('refuses a body that is none, with the field: %#', async (body, message) => {
    const run = await vw('airframe', '--airframe', file('bad.json', 2, candidate({ bodies: [body] })), '--json');
    expect(run.code).toBe(1);
    expect(run.err).toMatch(message);
    expect(run.err).toMatch(/bodies\.0/);
  });
});
