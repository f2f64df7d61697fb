import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'lift-'));
const station = { chord: 0.4, twistDeg: 0, section: 'naca:4415' };
const candidate = (more: object = {}, stations: object[] = [station, station]) => {
  const path = join(folder, 'wing.json');
  const value = {
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
        stations,
        bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 3 }],
      },
    ],
    massItems: [{ id: 'all', name: 'All', mass: 12, position: { x: 0.1, y: 0, z: 0 } }],
    drag: { law: 'log-power', allowances: [{ name: 'Legs', kind: 'counts', amount: 60 }], parts: {} },
    ...more,
  };
  writeFileSync(path, JSON.stringify({ format: 'veldtwind-candidate', version: 2, candidate: value }));
  return path;
};
interface Answer {
  points: {
    alphaDeg: number;
    CL: number;
    CDi: number;
    Cm: number;
    CD: number;
    CDprofile: number;
    CDparasite: number;
    status: string;
    reason?: string;
  }[];
  CLmax: number;
  alphaCLmaxDeg: number;
  stallSpeed: number;
  stallBegins: { surface: string; eta: number; alphaDeg: number };
  bestGlide: { CL: number; ratio: number; speed: number };
  leastSink: { speed: number; rate: number };
  polars: { solved: number }[];
  neutralPoint: number;
}

describe('vw lift', () => {
  it('finds drag, stall and glide with the polars of the sections, which it computes', async () => {
    const { out, code } = await vw(
      ...['lift', '--airframe', candidate(), '--alpha', '-2:18:2', '--speed', '18', '--altitude', '300'],
      ...['--viscous', '--json'],
    );
    expect(code).toBe(0);
    const a = JSON.parse(out) as Answer;
    expect(a.points).toHaveLength(11);
    for (const p of a.points) {
      expect(p.CD).toBeCloseTo(p.CDi + p.CDprofile + p.CDparasite, 12);
      expect(p.CDparasite).toBeCloseTo(0.006, 9);
    }
    expect(a.CLmax).toBeGreaterThan(1.1);
    expect(a.CLmax).toBeLessThan(1.5);
    expect(a.points[a.points.length - 1]).toMatchObject({ status: 'doubtful' });
    expect(a.points[a.points.length - 1].reason).toMatch(/Stalled: Wing/);
    // A straight wing stalls at its root, before its greatest lift.
    expect(a.stallBegins.eta).toBeLessThan(0.3);
    expect(a.stallBegins.alphaDeg).toBeLessThan(a.alphaCLmaxDeg);
    expect(a.bestGlide.ratio).toBeGreaterThan(12);
    expect(a.leastSink.speed).toBeLessThan(a.bestGlide.speed);
    expect(a.leastSink.speed).toBeGreaterThan(a.stallSpeed);
    expect(a.polars.every((p) => p.solved > 40)).toBe(true);
    expect(a.neutralPoint).toBeGreaterThan(0);
  }, 120_000);

  it('leaves out what bodies lift where that is asked, and not what they drag', async () => {
    const ring = (x: number, d: number) => ({ x, width: d, height: d, z: 0, shape: 'ellipse', corner: 0 });
    const pod = {
      ...{ id: 'pod', name: 'Pod', mirrored: false, loft: 'smooth', position: { x: -0.8, y: 0, z: 0 } },
      stations: [ring(0, 0), ring(0.5, 0.25), ring(1.4, 0)],
    };
    const path = candidate({ bodies: [pod] });
    const at = async (...more: string[]) => {
      const { out, code } = await vw(
        ...['lift', '--airframe', path, '--alpha', '0:4:4', '--speed', '18', '--viscous', '--json', ...more],
      );
      expect(code).toBe(0);
      return (JSON.parse(out) as Answer).points;
    };
    const [on, off] = [await at(), await at('--no-body-lift')];
    // Its nose lifts ahead of the centre.
    expect(on[1].Cm - on[0].Cm).toBeGreaterThan(off[1].Cm - off[0].Cm + 1e-3);
    on.forEach((p, i) => expect(off[i].CD).toBeCloseTo(p.CD, 9));
  }, 120_000);

  it('finds the flow about the closed surfaces', async () => {
    const args = ['lift', '--airframe', candidate(), '--alpha', '4', '--json'];
    const [panels, lattice] = await Promise.all([vw(...args, '--method', 'panels'), vw(...args)]);
    const [p, l] = [panels, lattice].map((r) => (JSON.parse(r.out) as Answer).points[0]);
    expect(p.CL / l.CL).toBeGreaterThan(1);
    // 15 % thickness and the camber on it.
    expect(p.CL / l.CL).toBeLessThan(1.18);
    const text = await vw('lift', '--airframe', candidate(), '--alpha', '0:4:2', '--method', 'panels');
    expect(text.out).toMatch(/panels on one half/);
  }, 60_000);

  it.each([
    [['--viscous'], /--viscous needs a speed/],
    [['--viscous', '--speed', '20', '--method', 'panels'], /without viscosity/],
    [['--method', 'magic'], /lattice or panels/],
    [['--speed', '-4'], /speed|Speed/],
    [['--viscous', '--speed', '0'], /speed|Speed/],
  ])('refuses %j and says why', async (args, why) => {
    const { code, err, out } = await vw('lift', '--airframe', candidate(), '--alpha', '2', ...args);
    expect(code).not.toBe(0);
    expect(out).toBe('');
    expect(err).toMatch(why);
  });
  it('refuses an angle of 90° and a reserve of all the drag', async () => {
    const steep = await vw('lift', '--airframe', candidate(), '--alpha', '90', '--speed', '20', '--viscous');
    expect(steep.err).toMatch(/±45°/);
    const reserve = { law: 'log-power', allowances: [{ name: 'All', kind: 'reserve', amount: 1 }], parts: {} };
    const all = await vw(
      'lift',
      '--airframe',
      candidate({ drag: reserve }),
      '--alpha',
      '2',
      '--speed',
      '20',
      '--viscous',
    );
    expect(all.code).not.toBe(0);
    expect(all.err).toMatch(/reserve|0\.95|below 100 %/);
  }, 60_000);
});
