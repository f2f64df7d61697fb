import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import occt from 'occt-import-js';
import { meshFacts } from '@veldtwind/core/airframe';
import { RAD } from '@veldtwind/core/numerics';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'export-'));
const station = (chord: number, section: string, edges?: object) => ({
  chord,
  twistDeg: 0,
  section,
  ...(edges ? { edges } : {}),
});
const surface = {
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 1,
  stations: [
    station(0.4, 'naca:4415'),
    // A blunt section beside a sharp one, and a bay that flows.
    station(0.3, 'naca:4415:sharp', { leading: { run: 'inboard' }, trailing: { run: 'inboard' } }),
    station(0.12, 'naca:0009:sharp'),
  ],
  bays: [
    { span: 1.2, sweepDeg: 1.5, dihedralDeg: 3 },
    { span: 0.3, sweepDeg: 22, dihedralDeg: 45 },
  ],
};
const body = (loft: string) => ({
  id: 'pod',
  name: 'Pod',
  mirrored: false,
  position: { x: 0, y: 0.3, z: 0 },
  loft,
  stations: [
    { x: 0, width: 0, height: 0 },
    { x: 0.2, width: 0.1, height: 0.12, shape: 'box', corner: 0.5 },
    { x: 0.9, width: 0.05, height: 0.05 },
  ],
});
function file(name: string, more: object = {}): string {
  const path = join(folder, name);
  const candidate = { name: 'Test', surfaces: [surface], bodies: [body('smooth')], ...more };
  writeFileSync(path, JSON.stringify({ format: 'veldtwind-candidate', version: 2, candidate }));
  return path;
}

describe('vw export', () => {
  it('writes STEP with a solid a part, of surfaces, as another reader finds it', async () => {
    const from = file('two.json', { bodies: [body('smooth'), { ...body('straight'), id: 'box' }] });
    const to = join(folder, 'two.step');
    const run = await vw('export', '--airframe', from, '--as', 'step', '--out', to, '--json');
    expect(run.err).toBe('');
    expect(JSON.parse(run.out)).toMatchObject({ format: 'step', notes: [] });
    const content = readFileSync(to);
    const text = content.toString('latin1');
    expect(text.startsWith('ISO-10303-21;')).toBe(true);
    expect(text.match(/MANIFOLD_SOLID_BREP/g)).toHaveLength(3);
    // Faces, not facets: a few a bay.
    expect(text.match(/ADVANCED_FACE/g)!.length).toBeLessThan(70);
    const reader = await occt();
    const read = reader.ReadStepFile(content, { linearUnit: 'meter', linearDeflection: 0.002 });
    expect(read.success).toBe(true);
    const volumes = read.meshes.map(
      (m) =>
        meshFacts({
          vertices: Float64Array.from(m.attributes.position.array),
          triangles: Uint32Array.from(m.index.array),
        }).volume,
    );
    const facts = JSON.parse((await vw('airframe', '--airframe', from, '--json')).out) as {
      bodies: { volume: number }[];
      size: { width: number };
    };
    expect(volumes).toHaveLength(3);
    expect(Math.abs(volumes[1] / facts.bodies[0].volume - 1)).toBeLessThan(0.01);
    expect(Math.abs(volumes[2] / facts.bodies[1].volume - 1)).toBeLessThan(0.01);
    const xs = read.meshes.flatMap((m) => m.attributes.position.array.filter((_, i) => i % 3 === 1));
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(facts.size.width, 3);
  });
  it('says what it wrote, and refuses what it cannot', async () => {
    const from = file('one.json');
    const to = join(folder, 'ribs.dxf');
    const run = await vw(
      'export',
      '--airframe',
      from,
      '--as',
      'dxf',
      '--what',
      'ribs',
      '--spar',
      '0.3:6x15',
      '--out',
      to,
    );
    expect(run.out).toMatch(/ribs\.dxf: dxf, \d+ bytes\n {2}\d+ parts on one sheet/);
    const refused = async (...args: string[]) => {
      const r = await vw('export', '--airframe', from, '--out', join(folder, 'no'), ...args);
      expect(r.code).toBe(1);
      expect(r.out).toBe('');
      return r.err;
    };
    expect(await refused('--as', 'dwx')).toMatch(/no format "dwx"/);
    expect(await refused('--as', 'dxf', '--what', 'ribs', '--spar', '0.3')).toMatch(/is no spar/);
    expect(await refused('--as', 'dxf', '--what', 'ribs', '--sheet', '9x')).toMatch(/no size of a sheet/);
    const missing = await vw('export', '--airframe', from, '--as', 'stl', '--out', join(folder, 'no', 'such', 'x.stl'));
    expect(missing.err).toMatch(/cannot be written \(ENOENT\)/);
  });
});

describe('vw lift with controls', () => {
  const flap = {
    id: 'flap',
    name: 'Flap',
    from: 0.1,
    to: 0.5,
    hinge: 0.75,
    kind: 'symmetric',
    limitsDeg: [-5, 40],
  };
  it('has what each control does, and takes a setting by its name', async () => {
    const from = file('flap.json', {
      surfaces: [{ ...surface, controls: [flap] }],
      settings: [{ id: 'take-off', name: 'Take-off', deflectionsDeg: { flap: 10 } }],
    });
    const lift = async (...args: string[]) =>
      JSON.parse((await vw('lift', '--airframe', from, '--alpha', '0', '--json', ...args)).out) as {
        points: { CL: number }[];
        controls: { id: string; CL: number }[];
      };
    const [clean, set] = [await lift(), await lift('--setting', 'Take-off')];
    expect(clean.controls[0]).toMatchObject({ id: 'flap' });
    expect(set.points[0].CL - clean.points[0].CL).toBeCloseTo(10 * RAD * clean.controls[0].CL, 3);
    const none = await vw('lift', '--airframe', from, '--alpha', '0', '--setting', 'Landing');
    expect(none.err).toMatch(/no setting "Landing"[\s\S]*There are Take-off/);
  });
  it('refuses controls that cannot be, at their field', async () => {
    const refused = async (control: object) => {
      const from = file('bad.json', { surfaces: [{ ...surface, controls: [{ ...flap, ...control }] }] });
      return (await vw('lift', '--airframe', from, '--alpha', '0')).err;
    };
    expect(await refused({ to: 1.4 })).toMatch(/To must be from 0 to 1; 1\.4 is not/);
    expect(await refused({ from: 0.6 })).toMatch(/must lie outboard of its inner end/);
    expect(await refused({ deflectionDeg: 50 })).toMatch(/Nearest that works: 40°/);
    const twice = file('twice.json', { surfaces: [{ ...surface, controls: [flap, flap] }] });
    expect((await vw('lift', '--airframe', twice, '--alpha', '0')).err).toMatch(
      /is the id of a control of Wing already/,
    );
  });
});
