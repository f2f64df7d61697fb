import type { Body, LiftingSurface } from '../../airframe';
import { crossings } from '../../airframe';
import { madeSurface } from '../../airframe/testing';
import { RAD } from '../../numerics';
import { analyseLift, analyseThick, DEFAULT_PANELS } from '..';

const lookup = (key: string) =>
  ({ kind: 'designation', designation: key.slice(5), trailingEdge: 'published' }) as const;
const wing = madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [0.6, 0.4], 2.2, {
  section: '1410',
  sweep: 4,
});
const tail = (z: number, dihedral = 0) =>
  madeSurface('tail', 'horizontal', true, { x: 1.7, y: 0, z }, [0.36, 0.28], 0.7, { dihedral, incidenceDeg: -1 });
const fin = (z: number, height: number) =>
  madeSurface('fin', 'vertical', false, { x: 1.66, y: 0, z }, [0.42, 0.28], height, { sweep: 12 });
const boom = (width: number): Body =>
  ({
    id: 'boom',
    name: 'Boom',
    mirrored: true,
    loft: 'smooth',
    position: { x: -0.1, y: 0.4, z: 0 },
    stations: [
      [0, 0],
      [0.2, 0.8],
      [1, 1],
      [2, 0.8],
      [2.3, 0],
    ].map(([x, share]) => ({ x, width: width * share, height: width * share, z: 0, shape: 'ellipse', corner: 0 })),
  }) as unknown as Body;
const run = (surfaces: LiftingSurface[], bodies: Body[] = []) =>
  analyseThick({ surfaces, bodies, alphas: [0, 2 * RAD, 4 * RAD], about: { x: 0.2, y: 0, z: 0 } }, lookup);

describe('surface panels held against the lattice', () => {
  const arrangements: [string, LiftingSurface[], Body[]][] = [
    ['a fin whose root passes through the tailplane', [wing, tail(0.1), fin(-0.05, 0.5)], []],
    ['a fin on the tailplane', [wing, tail(0.1), fin(0.1, 0.45)], []],
    ['a tailplane on top of the fin', [wing, tail(0.45), fin(0, 0.45)], []],
    ['two slim booms through wing and tailplane', [wing, tail(0)], [boom(0.04)]],
  ];
  it.each(arrangements)('%s: the same static margin, without a doubt', (_, surfaces, bodies) => {
    const { points, compared } = run(surfaces, bodies);
    expect(points.map((p) => p.doubt)).toEqual([undefined, undefined, undefined]);
    expect(Math.abs(compared!.panels.margin - compared!.lattice.margin)).toBeLessThan(0.03);
    // Thickness lifts more, and nothing else does.
    expect(compared!.panels.liftSlope / compared!.lattice.liftSlope).toBeGreaterThan(1.02);
    expect(compared!.panels.liftSlope / compared!.lattice.liftSlope).toBeLessThan(1.12);
    // The load of the tail's root goes straight over the angle.
    const [a, b, c] = points.map((p) => p.strips.find((s) => s.id === 'tail')!.cl);
    expect(Math.abs(a - 2 * b + c)).toBeLessThan(0.02);
  });
  it('names bodies that are too slim for panels, and leaves a clear fin as it was', () => {
    expect(run([wing, tail(0)], [boom(0.04)]).leftOut).toEqual(['boom']);
    expect(run([wing, tail(0)]).leftOut).toEqual([]);
  });
  it('tells a crossing of a fin through a tailplane', () => {
    expect(crossings([wing, tail(0.1), fin(-0.2, 0.6)]).map(({ a, b }) => [a, b].sort().join())).toEqual(['fin,tail']);
    expect(crossings([wing, tail(0.1), fin(0.1, 0.45)])).toEqual([]);
  });
  it.each([
    [4, 45, 0.02],
    [4, 20, 0.02],
    [12, 30, 0.03],
    [40, 45, 0.02],
  ])('lifts a thin V of aspect ratio %d at %d° as the lattice does', (aspect, dihedral, within) => {
    // The lattice has the slender-body lift of such a V: 0.577 of a flat plate's at 45°.
    const span = 0.5 * aspect * Math.cos(dihedral * RAD);
    const thin = (d: number) =>
      madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [1, 1], d === 0 ? 0.5 * aspect : span, {
        section: '0004',
        dihedral: d,
      });
    const ratio = (d: number) => {
      const { compared } = analyseThick({ surfaces: [thin(d)], alphas: [-1 * RAD, 1 * RAD] }, lookup);
      return compared!.panels.liftSlope / compared!.lattice.liftSlope;
    };
    // Beside what its thickness does, which is that of the flat wing.
    expect(Math.abs(ratio(dihedral) / ratio(0) - 1)).toBeLessThan(within);
  });
  it('doubts what lies apart from the lattice by more than thickness explains, and says by how much', () => {
    const { points, compared } = run([wing, tail(0.1, 42)]);
    const apart = Math.abs(compared!.panels.margin - compared!.lattice.margin) > 0.03;
    expect(Boolean(compared!.disagrees)).toBe(apart);
    if (apart) for (const p of points) expect(p.doubt).toMatch(/disagree: static margin [\d.−]+ % against [\d.−]+ %/);
  });
});

describe('induced drag of surface panels', () => {
  it.each([
    ['tapered', 0.4, 0],
    ['rectangular', 1, 0],
    ['swept', 0.5, 20],
  ])('%s wing: the span efficiency of its load, as the lattice has it', (_, taper, sweep) => {
    const plane = madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [1, taper], 4, {
      section: '0012',
      sweep,
    });
    const thick = analyseThick({ surfaces: [plane], alphas: [5 * RAD] }, lookup);
    const thin = analyseLift({ surfaces: [plane], alphas: [5 * RAD], wake: 'stream' }, lookup);
    const { area, span } = thick.reference;
    const e = (p: { CL: number; CDi: number }) => p.CL ** 2 / (Math.PI * ((span * span) / area) * p.CDi);
    const [a, b] = [e(thick.points[0]), e(thin.points[0])];
    expect(a).toBeLessThan(1);
    expect(Math.abs(a / b - 1)).toBeLessThan(0.012);
    // And it does not hang on the number of strips.
    const fine = analyseThick(
      { surfaces: [plane], alphas: [5 * RAD], spread: { ...DEFAULT_PANELS, chordwise: 12, spanwise: 32 } },
      lookup,
    );
    expect(Math.abs(e(fine.points[0]) / a - 1)).toBeLessThan(0.006);
  });
});
