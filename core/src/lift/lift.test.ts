import type { LiftingSurface } from '../airframe';
import type { SectionSource } from '../shaping';
import reference from '../../reference/lifting.json';
import { Arena, factoriseInPlace, kernels } from '../kernels';
import { meanLineCache } from '../airframe';
import { RAD, solveFactorised } from '../numerics';
import { KernelInfluence, ReferenceInfluence } from './influence';
import { analyseLift, buildLattice, ellipticLoad, liftingLine, makeLattice, VortexLattice, type LiftInput } from '.';

const lookup = (key: string): SectionSource => ({
  kind: 'designation',
  designation: key.replace('naca:', ''),
  trailingEdge: 'published',
});
const meanOf = meanLineCache(lookup);
const flat = 'naca:0012';
const wing = (over: Partial<LiftingSurface>): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [],
  bays: [],
  ...over,
});
/** A straight-tapered wing from aspect ratio, taper and quarter-chord sweep; unit root chord. */
const tapered = (aspect: number, taper: number, sweepDeg: number, section = flat, dihedralDeg = 0) => {
  const span = (aspect * (1 + taper)) / 2;
  return wing({
    stations: [
      { chord: 1, twistDeg: 0, section },
      { chord: taper, twistDeg: 0, section },
    ],
    bays: [{ span: span / 2, sweepDeg, dihedralDeg }],
  });
};
const run = (surfaces: LiftingSurface[], over: Partial<LiftInput> = {}) =>
  analyseLift({ surfaces, alphas: [0, 4 * RAD], ...over }, lookup);
const row = (name: string) => reference.rows.find((r) => r.case.startsWith(name))!;

describe('the lattice of one aircraft', () => {
  const wingOf = (chord: number) =>
    ({ id: 'w', name: 'W', role: 'wing', plane: 'horizontal', mirrored: true, position: { x: 0, y: 0, z: 0 }, incidenceDeg: 0,
      stations: [{ chord, twistDeg: 0, section: 'naca:0009' }, { chord, twistDeg: 0, section: 'naca:0009' }], bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }] }) as never; // prettier-ignore
  const lines = meanLineCache(() => ({ kind: 'designation', designation: '0009', trailingEdge: 'published' }));
  it('is made once for as long as shape, reference, place and lines are the same', () => {
    const input = { surfaces: [wingOf(0.4)], about: { x: 0.1, y: 0, z: 0 } };
    const made = makeLattice(input, lines);
    expect(makeLattice(structuredClone(input), lines)).toBe(made);
    expect(makeLattice({ ...input, surfaces: [wingOf(0.41)] }, lines)).not.toBe(made);
    expect(makeLattice({ ...input, about: { x: 0.2, y: 0, z: 0 } }, lines)).not.toBe(made);
    const again = makeLattice(input, lines);
    const cambered = meanLineCache(() => ({ kind: 'designation', designation: '4415', trailingEdge: 'published' }));
    const other = makeLattice(input, cambered);
    expect(other).not.toBe(again);
    expect(other.at({ alpha: 0 }).CL).toBeGreaterThan(0.1);
    expect(makeLattice(input, lines).at({ alpha: 0 }).CL).toBeCloseTo(0, 9);
  });
});

describe('published and closed-form figures', () => {
  it('reproduces the worked example of a swept wing on its own lattice', () => {
    const r = row('swept wing');
    const result = run([tapered(5, 1, 45)], { spread: { chordwise: 1, spanwise: 4, spacing: 'uniform' } });
    expect(Math.abs(result.liftSlope / r.lift_slope_per_rad! - 1)).toBeLessThan(r.rel_tol);
  });
  it('gives the lift and moment slope of the cranked-taper test wing', () => {
    const r = row('cranked');
    const half = r.span! / 2;
    const edge = Math.tan(r.leading_edge_sweep_deg! * RAD);
    const quarter = Math.atan((half * edge + 0.25 * (r.tip_chord! - r.root_chord!)) / half) / RAD;
    const s = wing({
      stations: [
        { chord: r.root_chord!, twistDeg: 0, section: flat },
        { chord: r.tip_chord!, twistDeg: 0, section: flat },
      ],
      bays: [{ span: half, sweepDeg: quarter, dihedralDeg: 0 }],
    });
    const result = run([s], {
      about: { x: 0, y: 0, z: 0 },
      reference: { area: r.area!, span: r.span!, chord: r.reference_chord! },
      spread: { chordwise: 10, spanwise: 24, spacing: 'cosine' },
    });
    expect(Math.abs(result.liftSlope / r.lift_slope_per_rad! - 1)).toBeLessThan(r.rel_tol);
    expect(Math.abs(result.momentSlope / r.pitch_slope_about_apex_per_rad! - 1)).toBeLessThan(r.rel_tol);
  });
  it('has span efficiency 1 for an elliptic planform of high aspect ratio', () => {
    const r = row('elliptic');
    const n = 24;
    const cut = (i: number) => Math.sin((Math.PI / 2) * Math.min(1, i / n));
    const stations = Array.from({ length: n + 1 }, (_, i) => ({
      chord: Math.max(0.02, Math.sqrt(1 - cut(i) ** 2)),
      twistDeg: 0,
      section: flat,
    }));
    const half = 10;
    const bays = Array.from({ length: n }, (_, i) => ({
      span: half * (cut(i + 1) - cut(i)),
      sweepDeg: 0,
      dihedralDeg: 0,
    }));
    const result = run([wing({ stations, bays })], { spread: { chordwise: 4, spanwise: 72, spacing: 'cosine' } });
    expect(Math.abs(result.points[1].efficiency - r.span_efficiency!)).toBeLessThan(r.rel_tol);
    const strips = result.points[1].strips;
    for (const s of strips.filter((t) => t.station < 0.95)) {
      const load = (s.cl * s.chord) / (result.reference.area / result.reference.span);
      expect(Math.abs(load / ellipticLoad(result.points[1].CL, s.station) - 1)).toBeLessThan(0.03);
    }
  });
  it('tends to the slender-wing limit', () => {
    const r = row('slender');
    const A = 0.25;
    const rectangular = run([tapered(A, 1, 0)], { spread: { chordwise: 24, spanwise: 12, spacing: 'cosine' } });
    expect(Math.abs(rectangular.liftSlope / ((Math.PI / 2) * A) - 1)).toBeLessThan(r.rel_tol);
  });
  it.each([4, 6, 8, 12, 20])('lies near the closed formula at aspect ratio %i', (A) => {
    const r = row('straight');
    const result = run([tapered(A, 0.5, 0)]);
    const half = Math.atan((-0.25 * 0.5) / ((A * 1.5) / 4));
    const formula = (2 * Math.PI * A) / (2 + Math.sqrt(4 + A * A * (1 + Math.tan(half) ** 2)));
    expect(Math.abs(result.liftSlope / formula - 1)).toBeLessThan(r.rel_tol);
  });
  it.each([8, 12, 20])('agrees with a Fourier lifting line at aspect ratio %i, camber and twist included', (A) => {
    const taper = 0.5;
    const s = tapered(A, taper, 0, 'naca:2411');
    s.stations[1].twistDeg = -3;
    const result = run([s], { spread: { chordwise: 8, spanwise: 40, spacing: 'cosine' } });
    // Thin-section theory for the 24 mean line: zero lift at −2.077°. A finite chord costs slope: the edge factor of NACA TN-817 (1941),
    // semi-perimeter over span, without which a lifting line lies 4 to 5 % above any lifting surface at aspect ratio 8.
    const span = (A * 1.5) / 2;
    const edge =
      (Math.hypot(span / 2, 0.25 * (1 - taper)) + Math.hypot(span / 2, 0.75 * (1 - taper)) + 1 * taper) / span;
    const line = liftingLine(
      {
        span,
        slope: (2 * Math.PI) / edge,
        chord: (t) => 1 - t * (1 - taper),
        angle: (t) => 2.077 * RAD - (3 * RAD * (t * taper)) / (1 - t * (1 - taper)),
      },
      4 * RAD,
    );
    expect(Math.abs(result.points[1].CL / line.CL - 1)).toBeLessThan(0.03);
    expect(Math.abs(result.points[1].efficiency / line.efficiency - 1)).toBeLessThan(0.03);
  });
  it.each([6.37, 8, 12])(
    'agrees with third-order lifting-line theory for an elliptic wing of aspect ratio %f within 1 %%',
    (A) => {
      // Appl. Math. Mech. 28, 1964: 2π / (1 + 2/A + (16/π²A²)(ln πA − 9/8)), straight mid-chord line.
      const n = 40;
      const half = (A * Math.PI) / 8;
      const cut = (i: number) => Math.sin((Math.PI / 2) * (i / n));
      const stations = Array.from({ length: n + 1 }, (_, i) => ({
        chord: Math.max(0.01, Math.sqrt(1 - cut(i) ** 2)),
        twistDeg: 0,
        section: flat,
      }));
      const bays = Array.from({ length: n }, (_, i) => {
        const span = half * (cut(i + 1) - cut(i));
        return {
          span,
          sweepDeg: Math.min(75, Math.atan((-0.25 * (stations[i + 1].chord - stations[i].chord)) / span) / RAD),
          dihedralDeg: 0,
        };
      });
      const theory = (2 * Math.PI) / (1 + 2 / A + (16 / (Math.PI * A) ** 2) * (Math.log(Math.PI * A) - 9 / 8));
      expect(
        Math.abs(
          run([wing({ stations, bays })], { spread: { chordwise: 4, spanwise: 40, spacing: 'cosine' } }).liftSlope /
            theory -
            1,
        ),
      ).toBeLessThan(0.01);
    },
  );
  it('recovers the two-dimensional slope at very high aspect ratio', () => {
    const result = run([tapered(400, 1, 0)], { spread: { chordwise: 4, spanwise: 60, spacing: 'cosine' } });
    expect(result.liftSlope / (2 * Math.PI)).toBeGreaterThan(0.985);
    expect(result.liftSlope / (2 * Math.PI)).toBeLessThan(1.0);
  });
});

describe('compiled kernels', () => {
  it('are there, and agree with the TypeScript reference', () => {
    const k = kernels();
    expect(k).not.toBeNull();
    const surfaces = [
      tapered(7, 0.5, 15, 'naca:2411', 4),
      { ...tapered(4, 1, 0), id: 'tail', position: { x: 3, y: 0, z: 0.1 } },
    ];
    const { parts } = buildLattice(surfaces, meanOf, { chordwise: 3, spanwise: 9, spacing: 'cosine' });
    const wake = [1, 0, 0] as const;
    const fast = new KernelInfluence(k!, parts, wake);
    const plain = new ReferenceInfluence(parts, wake);
    for (const sign of [1, -1]) {
      const n = plain.system([0, 1], sign).n;
      const b = Float64Array.from({ length: n }, (_, i) => Math.cos(i));
      const x = solveFactorised(plain.system([0, 1], sign), b.slice());
      const y = solveFactorised(fast.system([0, 1], sign), b.slice());
      for (let i = 0; i < n; i++) expect(Math.abs(x[i] - y[i])).toBeLessThan(1e-9);
      const points = Float64Array.of(0.2, 0.3, 0.4, 2, -0.5, 0.1);
      const p = plain.induced([0, 1], sign, 1, points, [x, b]);
      const q = fast.induced([0, 1], sign, 1, points, [x, b]);
      for (const s of [0, 1]) for (let i = 0; i < 6; i++) expect(Math.abs(p[s][i] - q[s][i])).toBeLessThan(1e-10);
    }
  });
  it.each([1, 5, 31, 32, 33, 67, 100, 129])('solve a dense system of %i', (n) => {
    const k = kernels()!;
    const arena = new Arena(k);
    const lda = n + (n & 1);
    const at = arena.room(n * lda);
    const value = (i: number, j: number) => Math.sin(3 * i + 7 * j + i * j) + (i === j ? 0.01 : 0);
    const view = arena.doubles(at, n * lda);
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) view[i * lda + j] = value(i, j);
    const b = Float64Array.from({ length: n }, (_, i) =>
      Array.from({ length: n }, (_, j) => value(i, j) * (j + 1)).reduce((p, q) => p + q, 0),
    );
    const x = solveFactorised(factoriseInPlace(k, arena, at, n, lda), b);
    for (let i = 0; i < n; i++) expect(x[i] / (i + 1)).toBeCloseTo(1, 6);
  });
});

describe('consistency', () => {
  it.each([
    ['straight', () => [tapered(8, 0.5, 0)]],
    ['slender and tapered', () => [tapered(12, 0.4, 0)]],
    ['with dihedral', () => [tapered(8, 1, 0, flat, 15)]],
    [
      'wing and tail',
      () => [tapered(8, 0.6, 0, 'naca:2411'), { ...tapered(4, 0.7, 0), id: 'tail', position: { x: 5, y: 0, z: 0.4 } }],
    ],
  ])('near-field and Trefftz-plane drag agree: %s', (_, make) => {
    const p = run(make(), { spread: { chordwise: 10, spanwise: 40, spacing: 'cosine' }, wake: 'stream' }).points[1];
    expect(Math.abs(p.CDiNear / p.CDi - 1)).toBeLessThan(0.02);
  });
  // Incidences at which the middle of a bound vortex is off its own line by rounding alone, this way or that.
  const awkward = [2.3, 2.35, 2.4, 2.45, 2.5, 2.55, 2.6, 2.65];
  const sized = (scale: number, incidenceDeg: number) => {
    const shape = tapered(8, 0.6, 2, 'naca:2411', 4);
    return wing({
      incidenceDeg,
      position: { x: 1.48 * scale, y: 0, z: 0.168 * scale },
      stations: shape.stations.map((t, i) => ({ ...t, chord: t.chord * scale, twistDeg: -2 * i })),
      bays: shape.bays.map((b) => ({ ...b, span: b.span * scale })),
    });
  };
  it.each(awkward)('gives a wing at %d° the same coefficients at every size', (incidence) => {
    const about = { x: 1.8, y: 0, z: 0 };
    const of = (scale: number) => {
      const [p] = run([sized(scale, incidence)], {
        about: { x: about.x * scale, y: 0, z: 0 },
      }).points;
      return [p.CL, p.Cm, p.CDi, p.CDiNear];
    };
    const one = of(1);
    for (const scale of [0.1, 3, 40]) of(scale).forEach((v, i) => expect(Math.abs(v - one[i])).toBeLessThan(1e-9));
    expect(one[3] / one[2]).toBeGreaterThan(0.95);
    expect(one[3] / one[2]).toBeLessThan(1.02);
  });
  it('lifts in proportion to incidence, with as little curvature as a sine has', () => {
    const CL = awkward.map((incidence) => run([sized(2, incidence)]).points[0].CL);
    const steps = CL.slice(1).map((v, i) => v - CL[i]);
    for (const step of steps) expect(Math.abs(step / steps[0] - 1)).toBeLessThan(3e-3);
  });
  const tail = (): LiftingSurface => ({
    ...tapered(4, 0.7, 10),
    id: 'tail',
    role: 'tailplane',
    name: 'Tail',
    position: { x: 5, y: 0, z: 0.4 },
  });
  const fin = (): LiftingSurface =>
    wing({
      id: 'fin',
      name: 'Fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: false,
      position: { x: 5, y: 0, z: 0 },
      stations: [
        { chord: 0.8, twistDeg: 0, section: flat },
        { chord: 0.5, twistDeg: 0, section: flat },
      ],
      bays: [{ span: 1, sweepDeg: 20, dihedralDeg: 0 }],
    });
  it('solves a half as it solves the whole', () => {
    const spread = { chordwise: 3, spanwise: 10, spacing: 'cosine' as const };
    const make = (explicit: boolean) => {
      const surfaces = [tapered(6, 0.5, 20, 'naca:2411', 5), fin()];
      // A fin with the slightest offset forces the explicit lattice.
      if (explicit) surfaces[1] = { ...surfaces[1], position: { x: 5, y: 1e-6, z: 0 } };
      return makeLattice({ surfaces, spread }, (k) => meanOf(k));
    };
    const half = make(false);
    const full = make(true);
    expect(half.lattice.symmetry).toBe('half');
    expect(full.lattice.symmetry).toBe('full');
    for (const attitude of [
      { alpha: 0.07 },
      { alpha: 0.05, sideslip: 0.1 },
      { alpha: 0.05, rollRate: 0.05 },
      { alpha: 0.03, yawRate: 0.04, pitchRate: 0.02, sideslip: -0.03 },
    ]) {
      const a = half.at(attitude);
      const b = full.at(attitude);
      for (const key of ['CL', 'CDi', 'CDiNear', 'CY', 'Cl', 'Cm', 'Cn'] as const)
        expect(Math.abs(a[key] - b[key])).toBeLessThan(2e-5);
    }
  });
  it('has the signs of the trade: dihedral and fin in sideslip, damping in roll, pitch and yaw', () => {
    const surfaces = [tapered(8, 0.6, 0, flat, 8), tail(), fin()];
    const s = makeLattice({ surfaces, about: { x: 0.5, y: 0, z: 0 } }, meanOf);
    const slip = s.at({ alpha: 0.03, sideslip: 0.05 });
    expect(slip.Cl).toBeLessThan(0);
    expect(slip.Cn).toBeGreaterThan(0);
    expect(slip.CY).toBeLessThan(0);
    expect(s.at({ alpha: 0.03, rollRate: 0.05 }).Cl).toBeLessThan(0);
    expect(s.at({ alpha: 0.03, pitchRate: 0.01 }).Cm).toBeLessThan(s.at({ alpha: 0.03 }).Cm);
    expect(s.at({ alpha: 0.03, yawRate: 0.05 }).Cn).toBeLessThan(0);
    expect(Math.abs(s.at({ alpha: 0.03 }).Cl)).toBe(0);
  });
  it('keeps neutral point and zero-lift moment whatever the moment reference', () => {
    const surfaces = [tapered(8, 0.6, 5, 'naca:2411'), tail()];
    const a = run(surfaces, { about: { x: 0.2, y: 0, z: 0 } });
    const b = run(surfaces, { about: { x: 0.9, y: 0, z: 0 } });
    expect(a.neutralPoint).toBeCloseTo(b.neutralPoint, 3);
    expect(a.zeroLiftMoment).toBeCloseTo(b.zeroLiftMoment, 3);
    expect(a.neutralPoint).toBeGreaterThan(run(surfaces.slice(0, 1)).neutralPoint + 0.1);
  });
  it('follows Prandtl–Glauert in two dimensions', () => {
    const s = [tapered(200, 1, 0)];
    const ratio = run(s, { mach: 0.6 }).liftSlope / run(s).liftSlope;
    expect(ratio).toBeCloseTo(1 / 0.8, 1);
    const swept = [tapered(6, 1, 30)];
    expect(run(swept, { mach: 0.5 }).liftSlope).toBeGreaterThan(run(swept).liftSlope);
  });
  it('refuses what it cannot solve', () => {
    expect(() => run([])).toThrow(/no lifting surface/);
    expect(() => run([tapered(6, 1, 0)], { alphas: [] })).toThrow(/1 to/);
    expect(() => run([tapered(6, 1, 0)], { alphas: [2] })).toThrow(/±45°/);
    expect(() => run([tapered(6, 1, 0)], { mach: 1.2 })).toThrow(/Mach/);
    expect(() =>
      buildLattice([tapered(6, 1, 0)], meanOf, { chordwise: 100, spanwise: 100, spacing: 'cosine' }),
    ).toThrow(/panels/);
  });
});

describe('controls as right-hand sides', () => {
  const surfaces = [tapered(6, 0.6, 8, 'naca:2411', 4)];
  const lattice = buildLattice(surfaces, meanOf, { chordwise: 6, spanwise: 12, spacing: 'cosine' });
  // All panels turned at once are the whole wing at another incidence.
  const wash = (part: number, panel: number) => lattice.parts[part].normals[3 * panel + 2];
  const reference = { area: 6, span: 6, chord: 1 };
  const about = { x: 0.25, y: 0, z: 0 };
  const solver = new VortexLattice(lattice, lattice, reference, about, {}, [
    { id: 'all', symmetry: 'even', wash },
    { id: 'opposed', symmetry: 'odd', wash },
  ]);
  it('turn panels as an incidence does, with the factors that are there', () => {
    const byAngle = solver.at({ alpha: 0.05 });
    const byControl = solver.at({ alpha: 0, controls: { all: 0.05 } });
    const none = solver.at({ alpha: 0 });
    expect((byControl.CL - none.CL) / (byAngle.CL - none.CL)).toBeCloseTo(1, 2);
    expect(solver.at({ alpha: 0.02, controls: { all: 0 } })).toEqual(solver.at({ alpha: 0.02 }));
  });
  it('that are opposed roll and do not lift', () => {
    const rolled = solver.at({ alpha: 0, controls: { opposed: 0.05 } });
    const none = solver.at({ alpha: 0 });
    expect(rolled.CL).toBeCloseTo(none.CL, 3);
    // More lift on the right: left wing down.
    expect(rolled.Cl).toBeLessThan(-0.005);
    expect(solver.at({ alpha: 0, controls: { opposed: -0.05 } }).Cl).toBeCloseTo(-rolled.Cl, 9);
  });
  it('that are none are refused', () => {
    expect(() => solver.at({ alpha: 0, controls: { ghost: 0.1 } })).toThrow(/no control "ghost"/);
  });
});
