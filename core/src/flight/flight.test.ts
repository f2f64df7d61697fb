import type { Body, LiftingSurface } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { apparentMassFactor, bodyForces, slenderBodies, type SectionPolars } from '../lift';
import { madePolar, madeWing } from '../lift/viscous/testing/made-polar';
import { RAD } from '../numerics';
import { SteadyAircraft, type Aircraft, type SteadyPoint } from './aircraft';
import { controlMargins } from './control-margin';
import { glideFacts } from './performance';
import { coversAircraft, gathered, polarMach, standIns, sweepFor } from './polar-sweeps';
import { steadySweep, type SteadySweep } from './sweeps';

const flat = { ordinate: () => 0, slope: () => 0 };
const lookup = () => ({ kind: 'designation', designation: '0012', trailingEdge: 'published' }) as const;
const sweepOf = (from: number, to: number, step = 1) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => (from + i * step) * RAD);

/** Polars at many Reynolds numbers, whose drag falls with them. */
const polars: SectionPolars[] = [
  {
    section: 's',
    flap: null,
    curves: [2e5, 5e5, 1e6, 2e6, 4e6].map((re) => {
      const p = madePolar(re);
      return { ...p, cd: p.cd.map((c) => c * (1e6 / re) ** 0.2) };
    }),
  },
];
const aileron = {
  id: 'aileron',
  name: 'Aileron',
  from: 0.6,
  to: 0.95,
  hinge: 0.75,
  kind: 'opposed' as const,
  deflectionDeg: 0,
  limitsDeg: [-20, 20] as [number, number],
};
const pod: Body = {
  id: 'pod',
  name: 'Pod',
  mirrored: false,
  loft: 'smooth',
  position: { x: -0.6, y: 0, z: 0 },
  stations: [
    { x: 0, width: 0, height: 0, z: 0, shape: 'ellipse', corner: 0 },
    { x: 0.8, width: 0.3, height: 0.3, z: 0, shape: 'ellipse', corner: 0 },
    { x: 2, width: 0, height: 0, z: 0, shape: 'ellipse', corner: 0 },
  ],
} as Body;
const plane = (more: Partial<Aircraft> = {}, surface: Partial<LiftingSurface> = {}): Aircraft => ({
  surfaces: [madeWing(6, 0.7, 0.5, surface)],
  bodies: [],
  mass: 24,
  altitude: 600,
  polars,
  ...more,
});
const run = (aircraft: Aircraft, sweep: SteadySweep, speed = 26) =>
  steadySweep(aircraft, speed, sweep, lookup, () => flat);

describe('sweeps of steady states', () => {
  const flow = flowState(26, 600);
  it('gives forces, and drag that is induced, profile and parasite drag', () => {
    const aircraft = plane({
      bodies: [pod],
      drag: { allowances: [{ name: 'Legs', kind: 'counts', amount: 40 }] },
    });
    const { points, reference } = run(aircraft, { kind: 'alpha', alphas: sweepOf(0, 6, 2) });
    for (const p of points) {
      expect(p.lift).toBeCloseTo(flow.dynamicPressure * reference.area * p.CL, 8);
      expect(p.CD).toBeCloseTo(p.CDi + p.CDprofile + p.CDparasite, 14);
      expect(Object.values(p.profiles).reduce((a, b) => a + b, 0)).toBeCloseTo(p.CDprofile, 14);
      expect(p.CDparasite).toBeGreaterThan(0.004);
      expect(p.pitchMoment).toBeCloseTo(flow.dynamicPressure * reference.area * reference.chord * p.Cm, 8);
    }
    const bare = run(plane(), { kind: 'alpha', alphas: [0] });
    expect(bare.points[0].CDparasite).toBeCloseTo(0, 12);
  });

  it('carries the weight in level flight at each speed, and says where it cannot', () => {
    const { points } = run(plane(), { kind: 'level', speeds: [30, 20, 14, 6] });
    for (const p of points.slice(0, 3)) {
      expect(p.status).toBe('solved');
      expect(Math.abs(p.lift / (24 * GRAVITY) - 1)).toBeLessThan(1e-4);
    }
    expect(points[0].alpha).toBeLessThan(points[1].alpha);
    expect(points[3].status).toBe('unsolved');
    expect(points[3].reason).toMatch(/6\.00 m\/s needs a lift coefficient of/);
  });

  it('finds the speed that carries the weight at an angle: the same states as over speed', () => {
    const level = run(plane(), { kind: 'level', speeds: [20] }).points[0];
    const carrying = run(plane(), { kind: 'carrying', alphas: [level.alpha, -6 * RAD] });
    expect(carrying.points[0].speed).toBeCloseTo(20, 2);
    expect(carrying.points[0].CD).toBeCloseTo(level.CD, 5);
    expect(carrying.points[1].status).toBe('unsolved');
    expect(carrying.points[1].reason).toMatch(/no lift to carry/);
  });

  it('meets wanted lifts', () => {
    const { points } = run(plane(), { kind: 'lift', lifts: [0.3, 0.9, 2.5] });
    expect(points[0].CL).toBeCloseTo(0.3, 4);
    expect(points[1].CL).toBeCloseTo(0.9, 4);
    expect(points[2].status).toBe('unsolved');
    expect(points[2].reason).toMatch(/2\.50 is not met/);
  });

  it('sweeps sideslip and controls', () => {
    const swept = run(plane({}, { bays: [{ span: 3, sweepDeg: 0, dihedralDeg: 5 }] }), {
      kind: 'sideslip',
      alpha: 3 * RAD,
      betas: sweepOf(-6, 6, 3),
    });
    expect(swept.points[0].Cl).toBeCloseTo(-swept.points[4].Cl, 7);
    expect(swept.points[4].Cl).toBeLessThan(-0.002);
    const flapped = [-10, -5, 5, 10].map((angleDeg): SectionPolars => ({
      section: 's',
      flap: { hinge: 0.75, angleDeg },
      curves: polars[0].curves.map((c) => ({ ...c, cl: c.cl.map((v) => v + 0.04 * angleDeg) })),
    }));
    const rolled = run(plane({ polars: [...polars, ...flapped] }, { controls: [aileron] }), {
      kind: 'control',
      alpha: 2 * RAD,
      control: 'aileron',
      deflections: sweepOf(-10, 10, 5),
    });
    // Right side down lifts the right wing.
    expect(rolled.points[4].Cl).toBeLessThan(-0.01);
    expect(rolled.points[0].Cl).toBeCloseTo(-rolled.points[4].Cl, 7);
    expect(rolled.points[2].Cl).toBeCloseTo(0, 9);
    expect(rolled.points[4].deflection).toBeCloseTo(10 * RAD, 12);
    expect(() => run(plane(), { kind: 'control', alpha: 0, control: 'rudder', deflections: [0] })).toThrow(
      /no control/,
    );
    expect(() => run(plane(), { kind: 'level', speeds: [] })).toThrow(/empty/);
  });

  it('takes shares of the shape’s drag from the polars where those give the drag of the surfaces', () => {
    const allowances = [
      { name: 'Gaps', kind: 'share' as const, amount: 0.1 },
      { name: 'Reserve', kind: 'reserve' as const, amount: 0.2 },
    ];
    const at = (surfaces: 'polars' | 'build-up') =>
      run(plane({ bodies: [pod], drag: { allowances, surfaces } }), { kind: 'level', speeds: [20, 26] }).points;
    const [built, bare] = [at('build-up'), run(plane({ bodies: [pod] }), { kind: 'level', speeds: [20, 26] }).points];
    at('polars').forEach((p, i) => {
      const shape = p.CDprofile + bare[i].CDparasite;
      expect(p.CDparasite + p.CDprofile).toBeCloseTo((1.1 * shape) / 0.8, 9);
      expect(Math.abs(p.CDparasite - built[i].CDparasite)).toBeGreaterThan(1e-5);
      expect(p.alpha).toBeCloseTo(built[i].alpha, 9);
    });
  });

  it('shares what does not change with the speed', () => {
    const flown = new SteadyAircraft(plane(), 26, lookup, () => flat);
    expect(flown.at(20).lattice).toBe(flown.at(26).lattice);
    expect(flown.liftNeeded(26)).toBeCloseTo((24 * GRAVITY) / (flow.dynamicPressure * flown.reference.area), 12);
  });
});

describe('the glide', () => {
  const [cd0, k, weight, area, density] = [0.02, 0.045, 235, 3, 1.16];
  const points = sweepOf(-2, 14, 0.5).map((alpha) => {
    const CL = 5 * alpha + 0.2;
    return { alpha, CL, CD: cd0 + k * CL * CL, status: 'solved' } as SteadyPoint;
  });
  it('finds best glide and least sink of a parabolic polar', () => {
    const facts = glideFacts(points, 1.4, weight, area, density);
    const CL = Math.sqrt(cd0 / k);
    expect(facts.bestGlide!.CL).toBeCloseTo(CL, 2);
    expect(facts.bestGlide!.ratio).toBeCloseTo(1 / (2 * Math.sqrt(cd0 * k)), 3);
    expect(facts.stallSpeed).toBeCloseTo(Math.sqrt((2 * weight) / (density * area * 1.4)), 10);
    // Least power: three times the induced drag of the parasite's, within the slope of the path.
    const slow = Math.sqrt((2 * weight) / (density * area * Math.sqrt(3) * CL));
    expect(Math.abs(facts.leastSink!.speed / slow - 1)).toBeLessThan(0.01);
  });
  it('says nothing of a crest that is not there', () => {
    expect(glideFacts(points.slice(0, 3), null, weight, area, density)).toEqual({
      stallSpeed: null,
      bestGlide: null,
      leastSink: null,
    });
    expect(glideFacts(points.slice(-6), null, weight, area, density).bestGlide).toBeNull();
  });
});

describe('bodies whose lift is switched off', () => {
  it('drag as before, and no longer move the moment; the wing carries what it did', () => {
    const sweep = { kind: 'alpha', alphas: [0, 4].map((a) => a * RAD) } as const;
    const [on, off] = [true, false].map((bodiesLift) => run(plane({ bodies: [pod], bodiesLift }), sweep).points);
    const [slope, without] = [on, off].map((p) => p[1].Cm - p[0].Cm);
    // A body ahead of the centre destabilises.
    expect(slope).toBeGreaterThan(without + 1e-3);
    expect(off[1].CDparasite).toBeCloseTo(on[1].CDparasite, 12);
    expect(off[1].CDprofile).toBeCloseTo(on[1].CDprofile, 12);
    expect(off[1].strips.map((s) => s.cl)).toEqual(on[1].strips.map((s) => s.cl));
  });
});

describe('slender bodies', () => {
  it('have the apparent masses of an ellipsoid', () => {
    expect(apparentMassFactor(1)).toBe(0);
    expect(apparentMassFactor(1e4)).toBeCloseTo(1, 5);
    // k2 − k1 of NACA TR-184 at fineness 4 and 10.
    expect(apparentMassFactor(4)).toBeCloseTo(0.778, 2);
    expect(apparentMassFactor(10)).toBeCloseTo(0.94, 2);
    expect(apparentMassFactor(1.001)).toBeCloseTo(apparentMassFactor(1.0013), 3);
  });
  it('turn an ellipsoid with the moment of its apparent mass, and do not lift it', () => {
    const n = 60;
    const ellipsoid: Body = {
      ...pod,
      position: { x: 0, y: 0, z: 0 },
      stations: Array.from({ length: n }, (_, i) => {
        const x = 2 * (1 - Math.cos((Math.PI * i) / (n - 1)));
        const d = Math.sqrt(Math.max(0, 1 - ((x - 2) / 2) ** 2));
        return { x, width: d, height: d, z: 0, shape: 'ellipse' as const, corner: 0 };
      }),
    };
    const bodies = slenderBodies([ellipsoid]);
    const alpha = 5 * RAD;
    const about = { x: 1, y: 0, z: 0 };
    const t = bodyForces(bodies, { alpha }, { area: 1, span: 1, chord: 1 }, about);
    const volume = (Math.PI / 6) * 4;
    const exact = 0.5 * volume * apparentMassFactor(4) * Math.sin(2 * alpha);
    expect(Math.abs(t.my / exact - 1)).toBeLessThan(0.02);
    expect(Math.abs(t.fz)).toBeLessThan(1e-9);
    const yawed = bodyForces(bodies, { alpha: 0, sideslip: alpha }, { area: 1, span: 1, chord: 1 }, about);
    // Nose away from the wind: the tail comes forward on the side of the wind.
    expect(Math.abs(yawed.mz)).toBeCloseTo(t.my, 6);
  });
});

describe('polars of an aircraft', () => {
  it('are sweeps of a run plan', () => {
    const sweep = sweepFor({ section: 's', flap: { hinge: 0.75, angleDeg: -5 }, reynolds: 4e5 }, lookup, {
      ncrit: 9,
      mach: 0.22,
    });
    expect(sweep.input.conditions).toMatchObject({ reynolds: 4e5, mach: 0.2, criticalAmplification: 9 });
    expect(sweep.input.flap).toMatchObject({ x: 0.75, angleDeg: -5 });
    expect(polarMach(0.08)).toBe(0);
    expect(polarMach(0.9)).toBe(0.65);
  });
  it('are read from others where these lie close about them, or are as good as them', () => {
    expect(standIns(4e5, [])).toEqual([]);
    expect(standIns(4e5, [3e5, 5e5, 6e5])).toEqual([3e5, 5e5]);
    expect(standIns(4e5, [2e5, 3e5])).toEqual([]);
    expect(standIns(4e5, [5e5, 6e5])).toEqual([]);
    expect(standIns(4e5, [1e5, 1e6])).toEqual([]);
    expect(standIns(4e5, [1e5, 4.03e5])).toEqual([4.03e5]);
  });
  it('cover the angles that strips come to, without gaps', () => {
    const points = (angles: readonly number[], status: 'solved' | 'unsolved' = 'solved') =>
      angles.map((a) => ({ alpha: a * RAD, status })) as never;
    const all = Array.from({ length: 25 }, (_, i) => i - 8);
    expect(coversAircraft(points(all))).toBe(true);
    expect(coversAircraft(points(all.slice(1)))).toBe(false);
    expect(coversAircraft(points(all.filter((a) => a !== 5)))).toBe(false);
    expect(coversAircraft(points(all, 'unsolved'))).toBe(false);
    expect(coversAircraft([])).toBe(false);
  });
  it('leave out what was not solved', () => {
    const need = { section: 's', flap: null, reynolds: 1e5 };
    expect(gathered([{ need, points: [] }])).toEqual([]);
  });
});

describe('margin of the ailerons where stall begins', () => {
  const margins = (tip: number, root: number) => {
    const wing = madeWing(6, root, tip, { controls: [aileron] });
    const result = run(plane({ surfaces: [wing] }), { kind: 'alpha', alphas: sweepOf(6, 22) });
    return { begins: result.stallBegins!, of: controlMargins([wing], result.points, result.stallBegins!.alpha) };
  };
  it('is left on a wing that stalls at its root, and none where the tip stalls first', () => {
    const straight = margins(0.6, 0.6);
    const tapered = margins(0.25, 0.9);
    expect(straight.begins.eta).toBeLessThan(tapered.begins.eta);
    expect(straight.of[0].control).toBe('aileron');
    expect(straight.of[0].share).toBeGreaterThan(tapered.of[0].share + 0.02);
    expect(straight.of[0].stallsAt ?? Infinity).toBeGreaterThan(straight.begins.alpha);
    expect(tapered.of[0].share).toBeLessThan(0.01);
  });
  it('says nothing without ailerons', () => {
    const wing = madeWing(6, 0.6, 0.6);
    const result = run(plane({ surfaces: [wing] }), { kind: 'alpha', alphas: sweepOf(8, 20) });
    expect(controlMargins([wing], result.points, 0.2)).toEqual([]);
  });
});
