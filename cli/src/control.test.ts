import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'control-'));
const file = (value: unknown) => {
  const path = join(folder, 'model.json');
  writeFileSync(path, JSON.stringify(value));
  return path;
};
const model = {
  A: [
    [-1, 0],
    [1, 0],
  ],
  B: [[-2], [0]],
  states: ['q', 'theta'],
  inputs: ['elevator'],
  loops: [
    { from: 'q', to: 'elevator', kp: 4, sign: -1 },
    { name: 'attitude', from: 'theta', kp: 3 },
  ],
};
const wing = (id: string, role: string, x: number, chord: number, span: number, more: object = {}) => ({
  id,
  name: id,
  role,
  plane: 'horizontal',
  mirrored: true,
  position: { x, y: 0, z: 0.1 },
  incidenceDeg: 0,
  stations: [chord, chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:0012' })),
  bays: [{ span: span / 2, sweepDeg: 0, dihedralDeg: 2 }],
  ...more,
});
const elevator = {
  id: 'e',
  name: 'elevator',
  from: 0,
  to: 1,
  hinge: 0.7,
  kind: 'symmetric',
  deflectionDeg: 0,
  limitsDeg: [-20, 20],
};
const airframe = () => {
  const path = join(folder, 'airframe.json');
  const candidate = {
    name: 'Test',
    surfaces: [wing('wing', 'wing', 0, 0.4, 3), wing('tail', 'tailplane', 1.6, 0.25, 0.9, { controls: [elevator] })],
    massItems: [
      {
        id: 'a',
        name: 'A',
        mass: 8,
        position: { x: 0.12, y: 0, z: 0.1 },
        shape: 'box',
        size: { x: 1.2, y: 1, z: 0.2 },
      },
    ],
  };
  writeFileSync(path, JSON.stringify({ format: 'veldtwind-candidate', version: 2, candidate }));
  return path;
};
interface Loop {
  name: string;
  closedPoles: [number, number][];
  stable: boolean;
  phaseMarginDeg: number;
}

describe('vw control', () => {
  it('closes loops from the inner to the outer', async () => {
    const { out, code } = await vw('control', '--model', file(model), '--json');
    expect(code).toBe(0);
    const { loops, openPoles } = JSON.parse(out) as { loops: Loop[]; openPoles: [number, number][] };
    expect(openPoles).toEqual([
      [-1, 0],
      [0, 0],
    ]);
    expect(loops.map((l) => l.name)).toEqual(['q', 'attitude']);
    expect(loops[1].closedPoles.reduce((s, [re]) => s + re, 0)).toBeCloseTo(-9, 9);
    expect(loops[1].phaseMarginDeg).toBeGreaterThan(60);
  });
  it('takes the model of an airframe, with a derivative switched off', async () => {
    const loops = { loops: [{ from: 'q', to: 'elevator', kp: 0.2, sign: -1 }] };
    const args = ['control', '--airframe', airframe(), '--speed', '20', '--inviscid', '--model', file(loops), '--json'];
    const [all, without] = await Promise.all([vw(...args), vw(...args, '--without', 'Cm_q')]);
    const damping = (text: string) =>
      (JSON.parse(text) as { openPoles: [number, number][] }).openPoles.reduce((s, [re]) => s + re, 0);
    expect(damping(without.out)).toBeGreaterThan(damping(all.out) + 1);
    expect((JSON.parse(all.out) as { loops: Loop[] }).loops[0].stable).toBe(true);
  }, 30_000);
  it('reads a model that it wrote, as table and as arrays, with loops from another file', async () => {
    const [csv, npz, xml] = ['model.csv', 'model.npz', 'tables.xml'].map((n) => join(folder, n));
    const base = ['control', '--airframe', airframe(), '--speed', '20', '--inviscid', '--json'];
    const made = await vw(...base, '--export', csv);
    await vw(...base, '--export', npz);
    expect((await vw(...base, '--export', xml)).code).toBe(0);
    expect(readFileSync(xml, 'utf8')).toMatch(/<DAVEfunc[\s\S]*<checkData>/);
    const loops = join(folder, 'loops.json');
    writeFileSync(loops, JSON.stringify([{ from: 'q', to: 'elevator', kp: 0.2, sign: -1 }]));
    const read = await vw('control', '--model', csv, '--loops', loops, '--json');
    const { openPoles, loops: closed } = JSON.parse(read.out) as { openPoles: [number, number][]; loops: Loop[] };
    expect(closed[0].stable).toBe(true);
    const poles = (JSON.parse(made.out) as { openPoles: [number, number][] }).openPoles;
    // Height is a state more, at the origin.
    expect(openPoles.filter(([re, im]) => Math.hypot(re, im) > 1e-6)).toHaveLength(poles.length);
    const arrays = JSON.parse((await vw('control', '--model', npz, '--json')).out) as { openPoles: [number, number][] };
    expect(arrays.openPoles).toEqual(openPoles);
  }, 60_000);
  it.each([
    [{ ...model, loops: [{ from: 'q', to: 'rudder', kp: 1 }] }, [], /loops.0.to: is no input; there are elevator/],
    [{ ...model, A: 'x' }, [], /The model, A/],
    [model, ['--without', 'Cm_q'], /switches derivatives of an airframe off/],
    ['[', [], /The model/],
  ])('refuses %j and says why', async (value, more, why) => {
    const { code, err } = await vw('control', '--model', file(value), ...more, '--json');
    expect(code).not.toBe(0);
    expect(err).toMatch(why);
  });
});
