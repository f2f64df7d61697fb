import type { Control, LiftingSurface } from '../airframe';
import { RAD } from '../numerics';
import type { SectionSource } from '../shaping';
import { analyseLift, flapShares, type LiftInput } from '.';

const lookup = (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge: 'sharp' });
const control = (more: Partial<Control> = {}): Control => ({
  id: 'flap',
  name: 'Flap',
  from: 0,
  to: 1,
  hinge: 0.75,
  kind: 'symmetric',
  deflectionDeg: 0,
  limitsDeg: [-60, 60],
  ...more,
});
const surface = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 1, twistDeg: 0, section: '0009' },
    { chord: 1, twistDeg: 0, section: '0009' },
  ],
  bays: [{ span: 4, sweepDeg: 0, dihedralDeg: 0 }],
  ...more,
});
const run = (surfaces: LiftingSurface[], more: Partial<LiftInput> = {}) =>
  analyseLift({ surfaces, alphas: [0], ...more }, lookup);
/** Effectiveness of a plain flap in thin-section theory: the angle of attack that a unit of deflection is worth. */
const thin = (hinge: number) => {
  const t = Math.acos(1 - 2 * hinge);
  return (Math.PI - t + Math.sin(t)) / Math.PI;
};

describe('a plain flap', () => {
  it.each([
    [0.6, 6],
    [0.7, 6],
    [0.75, 6],
    [0.8, 8],
    [0.83, 5],
    [0.9, 6],
    [0.75, 1],
  ])(
    'with its hinge at %f of the chord on %i panels is worth what thin-section theory says, at high aspect ratio',
    (hinge, rows) => {
      const wing = surface({ bays: [{ span: 100, sweepDeg: 0, dihedralDeg: 0 }], controls: [control({ hinge })] });
      const r = run([wing], { spread: { chordwise: rows, spanwise: 40, spacing: 'cosine' } });
      const worth = r.controls[0].CL / r.liftSlope;
      expect(Math.abs(worth / thin(hinge) - 1)).toBeLessThan(0.02);
    },
  );
  it('changes the moment about the quarter chord as thin-section theory says', () => {
    const hinge = 0.75;
    const t = Math.acos(1 - 2 * hinge);
    const wing = surface({ bays: [{ span: 200, sweepDeg: 0, dihedralDeg: 0 }], controls: [control({ hinge })] });
    const r = run([wing], { spread: { chordwise: 12, spanwise: 40, spacing: 'cosine' } });
    const theory = -0.5 * Math.sin(t) * (1 - Math.cos(t));
    expect(Math.abs(r.controls[0].Cm / theory - 1)).toBeLessThan(0.03);
  });
  it('counts by how much of the span and chord it covers, without jumps between panels', () => {
    const shares = flapShares(6, 'cosine', 0.75);
    expect(shares[0]).toBe(0);
    expect(shares[5]).toBeCloseTo(1, 1);
    const lift = (from: number, to: number) => run([surface({ controls: [control({ from, to })] })]).controls[0].CL;
    expect(lift(0, 0.5) + lift(0.5, 1)).toBeCloseTo(lift(0, 1), 9);
    expect(lift(0.2, 0.61)).toBeGreaterThan(lift(0.2, 0.6));
  });
});

describe('controls of an airframe', () => {
  it('deflected stand in the lift of a sweep: as many degrees as they are worth', () => {
    const at = (deflectionDeg: number) => run([surface({ controls: [control({ deflectionDeg })] })]).points[0];
    const r = run([surface({ controls: [control()] })]);
    expect(at(5).CL).toBeCloseTo(5 * RAD * r.controls[0].CL, 5);
    expect(at(0).CL).toBeCloseTo(0, 10);
  });
  it('ailerons roll to the left with the right one down, and do not lift', () => {
    const aileron = control({ id: 'aileron', from: 0.6, to: 0.95, kind: 'opposed' });
    const [effect] = run([surface({ controls: [aileron] })]).controls;
    expect(effect.Cl).toBeLessThan(-0.05);
    expect(Math.abs(effect.CL)).toBeLessThan(1e-9);
  });
  const fin = (more: Partial<LiftingSurface> = {}) =>
    surface({
      id: 'fin',
      name: 'Fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: false,
      position: { x: 4, y: 0, z: 0 },
      bays: [{ span: 1.2, sweepDeg: 10, dihedralDeg: 0 }],
      controls: [control({ id: 'rudder', hinge: 0.6 })],
      ...more,
    });
  it('a rudder with its trailing edge to the left pushes the tail to the right', () => {
    const [effect] = run([surface(), fin()]).controls;
    expect(effect.CY).toBeGreaterThan(0);
    expect(effect.Cn).toBeLessThan(0);
    // The same in an explicit lattice: slightly off the plane of symmetry.
    const [off] = run([surface(), fin({ position: { x: 4, y: 1e-6, z: 0 } })]).controls;
    expect(off.CY).toBeCloseTo(effect.CY, 4);
    expect(off.Cn).toBeCloseTo(effect.Cn, 4);
  });
  it('twin rudders move in the same sense, or open as brakes', () => {
    const twin = (kind: Control['kind'], more: Partial<LiftingSurface> = {}) =>
      run([
        surface(),
        fin({
          mirrored: true,
          position: { x: 4, y: 1, z: 0 },
          controls: [control({ id: 'rudder', hinge: 0.6, kind })],
        }),
        ...(more.id ? [surface(more)] : []),
      ]).controls[0];
    expect(twin('symmetric').CY).toBeGreaterThan(0.1);
    expect(Math.abs(twin('opposed').CY)).toBeLessThan(1e-9);
    // A third surface off the plane makes all of it explicit; the effects stay.
    const far = { id: 'far', mirrored: false, position: { x: 1000, y: 900, z: 500 } };
    expect(twin('symmetric', far).CY).toBeCloseTo(twin('symmetric').CY, 4);
    expect(twin('symmetric', far).Cn).toBeCloseTo(twin('symmetric').Cn, 3);
    expect(Math.abs(twin('opposed', far).CY)).toBeLessThan(1e-6);
  });
  it('of a tail in V: down together they pitch, opposed they yaw', () => {
    const vee = (kind: Control['kind'], turned: boolean) =>
      run([
        surface(),
        surface({
          id: 'vee',
          role: 'tailplane',
          position: { x: 4, y: 0, z: 0 },
          // Turned about x by 35°, or with a dihedral of as much on a span that is shorter in projection: the same shape.
          rollDeg: turned ? 35 : 0,
          bays: [{ span: turned ? 1 : Math.cos(35 * RAD), sweepDeg: 0, dihedralDeg: turned ? 0 : 35 }],
          sectionsStand: 'normal',
          controls: [control({ id: 'ruddervator', kind, hinge: 0.7 })],
        }),
      ]).controls[0];
    const [together, apart] = [vee('symmetric', true), vee('opposed', true)];
    expect(together.Cm).toBeLessThan(-0.3);
    expect(Math.abs(together.Cn)).toBeLessThan(1e-9);
    expect(Math.abs(apart.CL)).toBeLessThan(1e-9);
    // Right one down: its force up and inward pushes the tail to the left, the nose to the right.
    expect(apart.CY).toBeLessThan(-0.02);
    expect(apart.Cn).toBeGreaterThan(0.01);
    for (const kind of ['symmetric', 'opposed'] as const)
      for (const k of ['CL', 'CY', 'Cl', 'Cm', 'Cn'] as const)
        expect(vee(kind, false)[k]).toBeCloseTo(vee(kind, true)[k], 4);
  });
});

describe('what cannot be solved', () => {
  it('a surface on another, or over its own mirror image, is refused at its field', () => {
    const path = (work: () => void) => {
      try {
        work();
      } catch (error) {
        return [(error as { code: string }).code, (error as { path: string }).path];
      }
      return [];
    };
    expect(path(() => run([surface(), surface({ id: 'twin' })]))).toEqual(['surfaces-coincide', 'position']);
    expect(path(() => run([surface({ position: { x: 0, y: -1, z: 0 } })]))).toEqual(['crosses-mirror', 'position.y']);
    expect(
      path(() => run([surface(), surface({ id: 'fin', plane: 'vertical', position: { x: 3, y: 0, z: 0 } })])),
    ).toEqual(['crosses-mirror', 'mirrored']);
  });
  it('many bays, a second wing, a foreplane and fins above and below are solved together', () => {
    const many = surface({
      stations: Array.from({ length: 13 }, (_, i) => ({ chord: 1 - 0.05 * i, twistDeg: -0.2 * i, section: '4415' })),
      bays: Array.from({ length: 12 }, (_, i) => ({ span: 0.4, sweepDeg: i, dihedralDeg: 1, dihedralRelative: true })),
    });
    const short = { bays: [{ span: 1, sweepDeg: 5, dihedralDeg: 0 }], mirrored: true };
    const fin = { plane: 'vertical' as const, mirrored: false, bays: [{ span: 0.8, sweepDeg: 20, dihedralDeg: 0 }] };
    const r = run(
      [
        many,
        surface({ id: 'second', position: { x: 0.5, y: 0, z: 1.2 } }),
        surface({ id: 'fore', role: 'foreplane', position: { x: -3, y: 0, z: 0.2 }, ...short }),
        surface({ id: 'up', role: 'fin', position: { x: 5, y: 0, z: 0.1 }, ...fin }),
        surface({ id: 'down', role: 'fin', position: { x: 5, y: 0, z: -0.1 }, rollDeg: 180, ...fin }),
      ],
      { alphas: [0, 0.05], beta: 0.05 },
    );
    expect(r.points[1].CL).toBeGreaterThan(r.points[0].CL);
    // Fins behind the centre turn the nose into the wind.
    expect(r.points[0].Cn).toBeGreaterThan(0);
    expect(r.points[0].CY).toBeLessThan(0);
    const alone = run([many]);
    expect(r.liftSlope * r.reference.area).toBeGreaterThan(alone.liftSlope * alone.reference.area);
  });
});
