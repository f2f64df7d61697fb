import { gzipSync } from 'node:zlib';
import { deflectFlap, designationOutline } from '../../section';
import cfd from '../../../reference/section-cfd.json';
import tunnel from '../../../reference/section-tunnel.json';
import { RAD } from '../../numerics';
import { DEFAULT_SPREAD } from '../panelling';
import { InviscidSection } from '../inviscid';
import { SectionCoupling } from './coupling';
import { deadAir } from './layers';
import { integratedDrag } from './results';
import { freshLayers } from './start';
import { markJumps, polarPoints } from './polar-points';
import { CoupledSystem } from './system';
import { Cancelled } from '../../results';
import type { ViscousConditions } from './layers';
import { asSolved, isSolved, type SolvedPoint, type ViscousPoint } from './point';
import { ViscousSection, type SolvedState } from './viscous-section';
import { amplificationOfTurbulence } from '.';

const smooth = { reynolds: 6e6, criticalAmplification: 9 };
const range = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => (from + i * step) * RAD);
const patient = { effort: 4000 };
const solved = (points: ViscousPoint[]) => points.filter(isSolved);
/** A point that must be solved. */
const at = (section: ViscousSection, alpha: number, conditions: ViscousConditions, from?: SolvedState) =>
  asSolved(section.at(alpha, conditions, from, patient));

describe('against published figures', () => {
  it('0012 tripped at the nose, Mach 0.15: lift and drag of independent field codes', () => {
    const section = new ViscousSection(designationOutline('0012', 'sharp'));
    const conditions = { reynolds: cfd.reynolds, mach: cfd.mach, tripTop: 0.015, tripBottom: 0.015 };
    const points = solved(
      polarPoints(section, { kind: 'fixed-re', conditions, alphas: cfd.rows.map((r) => r.alpha_deg * RAD) }, patient),
    );
    expect(points).toHaveLength(cfd.rows.length);
    cfd.rows.forEach((row, i) => {
      expect(points[i].status).toBe('solved');
      if (row.cl === 0) expect(Math.abs(points[i].cl)).toBeLessThan(row.cl_abs_tol!);
      else expect(Math.abs(points[i].cl / row.cl - 1)).toBeLessThan(row.cl_rel_tol!);
      expect(Math.abs(points[i].cd / row.cd - 1)).toBeLessThan(row.cd_rel_tol);
    });
  });

  it.each(tunnel.rows)('$section, smooth: inside the bands of the tunnel', (row) => {
    const section = new ViscousSection(designationOutline(row.section.replace('NACA ', '')));
    const alphas = range(-6, 19, 1);
    const points = solved(polarPoints(section, { kind: 'fixed-re', conditions: smooth, alphas }, patient));
    expect(points.length).toBe(alphas.length);
    const inside = (value: number, band: number[]) => {
      expect(value).toBeGreaterThanOrEqual(band[0]);
      expect(value).toBeLessThanOrEqual(band[1]);
    };
    const of = (deg: number) => points.find((p) => Math.abs(p.alpha - deg * RAD) < 1e-9)!;
    inside((of(4).cl - of(0).cl) / 4, row.lift_slope_per_deg);
    inside(Math.min(...points.map((p) => p.cd)), row.cd_min);
    inside(Math.max(...points.map((p) => p.cl)), row.cl_max);
    const k = points.findIndex((p) => p.cl >= 0);
    const [a, b] = k === 0 ? [points[0], points[1]] : [points[k - 1], points[k]];
    const t = -a.cl / (b.cl - a.cl);
    inside((a.alpha + t * (b.alpha - a.alpha)) / RAD, row.alpha_zero_lift_deg);
    inside(a.cm + t * (b.cm - a.cm), row.cm_quarter_chord_at_zero_lift);
  });
});

describe('the coupled system', () => {
  const solver = new InviscidSection(designationOutline('4415'), { ...DEFAULT_SPREAD, panels: 100 });
  const setUp = (compiled: boolean) => {
    const coupling = new SectionCoupling(solver).at(3 * RAD);
    const system = new CoupledSystem(solver.nodes, coupling.wake, compiled);
    const dead = deadAir(0.003, coupling);
    const conditions = { reynolds: 1e6, mach: 0.2 };
    system.load(coupling, conditions, dead, freshLayers(solver.nodes, coupling, conditions, dead));
    return system;
  };
  it('takes the same steps by kernels and by their reference', () => {
    const [a, b] = [setUp(true), setUp(false)];
    for (let k = 0; k < 4; k++) {
      // The kernels solve each step as far as it is worth.
      expect(Math.abs(a.evaluate() / b.evaluate() - 1)).toBeLessThan(1e-3);
      a.advance();
      b.advance();
    }
    a.layers.theta.forEach((v, i) => expect(Math.abs(v / b.layers.theta[i] - 1)).toBeLessThan(1e-4));
  });
  it('has exact derivatives: near the solution the residual falls with the square of the step', () => {
    const system = setUp(true);
    const history: number[] = [];
    for (let k = 0; k < 40 && (history.at(-1) ?? 1) > 1e-9; k++) {
      history.push(system.evaluate());
      system.advance();
    }
    const quadratic = history.findIndex((r) => r < 3e-3);
    expect(quadratic).toBeGreaterThan(0);
    expect(history[quadratic + 1]).toBeLessThan(3e-4);
    expect(history.at(-1)).toBeLessThan(1e-9);
  });
});

describe('a solved point', () => {
  const symmetric = new ViscousSection(designationOutline('0012'));
  const cambered = new ViscousSection(designationOutline('4415'));

  it('mirrors with the angle on a symmetric section', () => {
    for (const deg of [3, 8]) {
      const up = at(symmetric, deg * RAD, { reynolds: 1e6 });
      const down = at(symmetric, -deg * RAD, { reynolds: 1e6 });
      expect(Math.abs(up.cl + down.cl)).toBeLessThan(1e-6);
      expect(Math.abs(up.cd - down.cd)).toBeLessThan(1e-6);
      expect(Math.abs(up.cm + down.cm)).toBeLessThan(1e-6);
      expect(Math.abs(up.transitionTop - down.transitionBottom)).toBeLessThan(1e-5);
    }
  });
  it.each([
    ['0012', 6e6, 0],
    ['0012', 3e6, 4],
    ['2312', 5e5, 5],
    ['23012', 3e6, 4],
    ['4415', 1e6, 2],
  ])('%s at Re %d, %d°: forces on the surface agree with the wake within 3 %%', (name, reynolds, deg) => {
    const section = new ViscousSection(designationOutline(name));
    const point = at(section, deg * RAD, { reynolds });
    expect(Math.abs(integratedDrag(section.solvedFlow()!) / point.cd - 1)).toBeLessThan(0.03);
  });
  it.each([
    ['0012', 1e6, 2],
    ['4415', 3e6, 4],
    ['23012', 5e5, 5],
    ['2312', 1e6, 8],
  ])('%s at Re %d, %d°: lift and drag move by less than 1 %% from 160 to 240 panels', (name, reynolds, deg) => {
    const [a, b] = [160, 240].map((panels) =>
      at(new ViscousSection(designationOutline(name), { ...DEFAULT_SPREAD, panels }), deg * RAD, { reynolds }),
    );
    expect(Math.abs(a.cl / b.cl - 1)).toBeLessThan(0.01);
    expect(Math.abs(a.cd / b.cd - 1)).toBeLessThan(0.01);
  });
  it('has friction and pressure parts, and drags more with trips', () => {
    const clean = at(symmetric, 0, smooth);
    const tripped = at(symmetric, 0, { ...smooth, tripTop: 0.05, tripBottom: 0.05 });
    expect(clean.cdFriction + clean.cdPressure).toBeCloseTo(clean.cd, 12);
    expect(clean.cdFriction).toBeGreaterThan(0.6 * clean.cd);
    expect(tripped.transitionTop).toBeCloseTo(0.05, 3);
    expect(tripped.cd).toBeGreaterThan(1.3 * clean.cd);
  });
  it('shows a laminar bubble at low Reynolds number: separation, transition, reattachment in this order', () => {
    const p = at(cambered, 4 * RAD, { reynolds: 150_000 });
    expect(p.laminarSeparationTop).toBeLessThan(p.transitionTop);
    expect(p.reattachmentTop).toBeGreaterThan(p.transitionTop);
    expect(p.reattachmentTop).toBeLessThan(0.9);
  });
  it('raises lift and suction with the Mach number as the compressibility rule says, at small angles', () => {
    const slow = at(symmetric, 2 * RAD, { reynolds: 6e6 });
    const fast = at(symmetric, 2 * RAD, { reynolds: 6e6, mach: 0.4 });
    expect(fast.cl / slow.cl).toBeGreaterThan(1.06);
    expect(fast.cl / slow.cl).toBeLessThan(1.14);
    expect(fast.cpMin).toBeLessThan(slow.cpMin);
    expect(at(symmetric, 9 * RAD, { reynolds: 6e6, mach: 0.5 }).doubts).toContain('locally-supersonic');
  });
  it('gives distributions that fit each other and into 16 kB', () => {
    const p = at(cambered, 4 * RAD, { reynolds: 1e6 });
    const d = cambered.distributions()!;
    const { top, wake } = d;
    expect(top.x.length).toBeGreaterThan(60);
    for (let i = 1; i < top.s.length; i++) expect(top.s[i]).toBeGreaterThan(top.s[i - 1]);
    top.shapeFactor.forEach((h, i) =>
      expect(h).toBeCloseTo(top.displacementThickness[i] / top.momentumThickness[i], 4),
    );
    const k = top.amplification.findIndex((n) => Number.isNaN(n));
    expect(top.x[k]).toBeGreaterThanOrEqual(p.transitionTop - 1e-6);
    expect(top.amplification[k - 1]).toBeLessThanOrEqual(9);
    expect(wake.shapeFactor.at(-1)).toBeLessThan(1.1);
    const lists = Object.values(d).flatMap((side) => Object.values(side) as Float32Array[]);
    const bytes = Buffer.concat(lists.map((v) => Buffer.from(v.buffer, v.byteOffset, v.byteLength)));
    expect(gzipSync(bytes).length).toBeLessThan(16_384);
  });
  it('starts from a neighbour and reaches the same answer', () => {
    const cold = at(cambered, 5 * RAD, { reynolds: 2e6 });
    at(cambered, 4.5 * RAD, { reynolds: 2e6 });
    // What is kept is plain data, as it comes back from storage or another thread.
    const warm = at(cambered, 5 * RAD, { reynolds: 2e6 }, structuredClone(cambered.state()));
    expect(warm.approach).toBe('continued');
    expect(Math.abs(warm.cl - cold.cl)).toBeLessThan(1e-6);
    expect(Math.abs(warm.cd - cold.cd)).toBeLessThan(1e-7);
  });
});

describe('sweeps', () => {
  const section = new ViscousSection(designationOutline('4415'));
  it('solve every angle before maximum lift, mark what lies behind it, and say how each was reached', () => {
    const points = polarPoints(
      section,
      { kind: 'fixed-re', conditions: { reynolds: 3e5 }, alphas: range(-8, 20, 1) },
      patient,
    );
    const peak = solved(points).reduce((a, b) => (b.cl > a.cl ? b : a));
    for (const p of points) {
      if (p.alpha! > peak.alpha) {
        if (isSolved(p)) expect(p.doubts.length).toBeGreaterThan(0);
        continue;
      }
      if (!isSolved(p)) throw new Error(p.reason);
      expect(p.approach).toBeDefined();
      expect(p.residual).toBeLessThan(1e-6);
    }
    expect(asSolved(points.at(-1)!).doubts).toContain('past-maximum-lift');
  });
  it('have no jumps in drag that a halved step removes', () => {
    const request = { kind: 'fixed-re' as const, conditions: { reynolds: 2e6 }, alphas: range(0, 8, 0.25) };
    const fine = polarPoints(section, request, patient).map(asSolved);
    for (let i = 1; i + 1 < fine.length; i++) {
      const middle = 0.5 * (fine[i - 1].cd + fine[i + 1].cd);
      expect(Math.abs(fine[i].cd / middle - 1)).toBeLessThan(0.02);
    }
  });
  it('find the angle for a lift, and say what is within reach where there is none', () => {
    const [a, b] = polarPoints(
      section,
      { kind: 'fixed-re', conditions: { reynolds: 1e6 }, lifts: [0.8, 2.6] },
      patient,
    );
    expect(asSolved(a).cl).toBeCloseTo(0.8, 4);
    expect(asSolved(a).alpha / RAD).toBeGreaterThan(2);
    expect(asSolved(a).alpha / RAD).toBeLessThan(4);
    expect(b.status).toBe('unsolved');
    expect(b.reason).toMatch(/reach from .* to 1\.\d/);
  });
  it('hold the lift force: the Reynolds number falls with the root of the lift', () => {
    const points = polarPoints(
      section,
      {
        kind: 'fixed-lift',
        conditions: { reynolds: 5e5 },
        alphas: [2 * RAD, 6 * RAD, -9 * RAD],
      },
      patient,
    );
    for (const p of points.slice(0, 2).map(asSolved)) expect(p.reynolds * Math.sqrt(p.cl)).toBeCloseTo(5e5, -2);
    expect(points[2].status).toBe('unsolved');
    expect(points[2].reason).toMatch(/lift/);
  });
  it('run over Reynolds numbers: less drag at more', () => {
    const reynolds = [2e5, 5e5, 2e6];
    const request = { kind: 'over-re' as const, conditions: { reynolds: 1e6 }, alphas: [2 * RAD], reynolds };
    const points = polarPoints(section, request, patient).map(asSolved);
    expect(points.map((p) => p.reynolds)).toEqual(reynolds);
    expect(points[0].cd).toBeGreaterThan(points[1].cd);
    expect(points[1].cd).toBeGreaterThan(points[2].cd);
  });
  it('can be ended, and go on from what was known as if they had not been', () => {
    const request = { kind: 'fixed-re' as const, conditions: { reynolds: 1e6 }, alphas: range(-2, 10, 1) };
    const whole = polarPoints(section, request, patient);
    const known = new Map<number, { point: ViscousPoint; state?: SolvedState }>();
    expect(() =>
      polarPoints(section, request, {
        ...patient,
        onPoint: (i, point, _distributions, state) => known.set(i, structuredClone({ point, state })),
        cancelled: () => known.size >= 5,
      }),
    ).toThrow(Cancelled);
    expect(known.size).toBe(5);
    let solvedNow = 0;
    const resumed = polarPoints(new ViscousSection(designationOutline('4415')), request, {
      ...patient,
      known,
      onPoint: () => solvedNow++,
    });
    expect(solvedNow).toBe(request.alphas.length - 5);
    expect(resumed).toEqual(whole);
  });
  it('give the same points to the last bit each time, whatever was solved before', () => {
    const request = { kind: 'fixed-re' as const, conditions: { reynolds: 4e5 }, alphas: range(-4, 14, 2) };
    const first = polarPoints(new ViscousSection(designationOutline('4415')), request);
    section.at(7 * RAD, { reynolds: 9e5 });
    expect(polarPoints(section, request)).toEqual(first);
  });
  it('take a point that leaves its neighbours for doubtful', () => {
    const point = (deg: number, cl: number): SolvedPoint => ({
      ...at(section, 0, { reynolds: 1e6 }),
      alpha: deg * RAD,
      cl,
      doubts: [],
    });
    const list = [0, 1, 2, 3, 4].map((d) => point(d, 0.1 * d + (d === 2 ? 0.2 : 0)));
    markJumps(list);
    expect(list.map((p) => p.doubts)).toEqual([[], [], ['jump'], [], []]);
  });
});

describe('flaps', () => {
  const plain = designationOutline('2312');
  it('change lift as thin-section theory says, without viscosity', () => {
    for (const x of [0.7, 0.8]) {
      const { outline } = deflectFlap(plain, { x, y: 0.5, angle: 5 * RAD });
      const rise = new InviscidSection(outline).at(0).cl - new InviscidSection(plain).at(0).cl;
      const theta = Math.acos(1 - 2 * x);
      // NACA TR-142, 1922: dcl∕dη = 2(π − θ + sin θ); thickness adds about its tenth.
      const thin = 2 * (Math.PI - theta + Math.sin(theta)) * 5 * RAD;
      expect(rise / thin).toBeGreaterThan(1.0);
      expect(rise / thin).toBeLessThan(1.18);
    }
  });
  it('give a hinge moment that grows against the deflection', () => {
    const moments = [0, 5, 10].map((deg) => {
      const { outline, hinge } = deflectFlap(plain, { x: 0.75, y: 0.5, angle: deg * RAD });
      return asSolved(new ViscousSection(outline).at(0, { reynolds: 1e6 }, undefined, { hinge })).hinge!
        .momentOnFlapChord;
    });
    expect(moments[1]).toBeLessThan(moments[0]);
    expect(moments[2]).toBeLessThan(moments[1]);
    expect(moments[2]).toBeLessThan(0);
  });
  it('leave the section ahead of the hinge alone, and refuse what cannot be built', () => {
    const { outline, hinge } = deflectFlap(plain, { x: 0.75, y: 0, angle: 15 * RAD });
    expect(hinge.x).toBe(0.75);
    expect(outline.y[0]).toBeCloseTo(-Math.sin(15 * RAD) * 0.25 + hinge.y * (1 - Math.cos(15 * RAD)), 1);
    expect(() => deflectFlap(plain, { x: 1.2, y: 0.5, angle: 0.1 })).toThrow(/0.98/);
    expect(() => deflectFlap(plain, { x: 0.7, y: 2, angle: 0.1 })).toThrow(/thickness/);
    expect(() => deflectFlap(plain, { x: 0.7, y: 0.5, angle: 2 })).toThrow(/60°/);
    expect(deflectFlap(plain, { x: 0.7, y: 0.5, angle: 0 }).outline).toBe(plain);
  });
});

describe('bad input', () => {
  const section = new ViscousSection(designationOutline('0012'));
  it('is refused with the limit', () => {
    expect(() => section.at(0, { reynolds: 0 }, undefined, patient)).toThrow(/Reynolds/);
    expect(() => section.at(0, { reynolds: -1e6 }, undefined, patient)).toThrow(/1 000/);
    expect(() => section.at(0, { reynolds: 1e12 }, undefined, patient)).toThrow(/10⁹/);
    expect(() => section.at(0, { reynolds: NaN }, undefined, patient)).toThrow(/Reynolds/);
    expect(() => section.at(0, { reynolds: 1e6, mach: 0.7 }, undefined, patient)).toThrow(/Mach/);
    expect(() => section.at(0, { reynolds: 1e6, tripTop: 2 }, undefined, patient)).toThrow(/trip/);
    expect(() => section.at(0, { reynolds: 1e6, criticalAmplification: -3 }, undefined, patient)).toThrow(
      /amplification/,
    );
    expect(() => section.at(90 * RAD, smooth, undefined, patient)).toThrow(/±45°/);
    expect(() => polarPoints(section, { kind: 'fixed-re', conditions: smooth, alphas: [], lifts: undefined })).toThrow(
      /points/,
    );
    expect(() => amplificationOfTurbulence(7)).toThrow(/6 %/);
    expect(amplificationOfTurbulence(0.07)).toBeCloseTo(9.0, 1);
  });
  it('ends in an honest point within its budget, never in a number that is none', () => {
    for (const [deg, reynolds] of [
      [40, 2000],
      [-44, 1e8],
      [25, 5e4],
    ]) {
      const p = section.at(deg * RAD, { reynolds }, undefined, { effort: 200 });
      expect(p.iterations).toBeLessThanOrEqual(200);
      if (!isSolved(p)) {
        expect(p.reason).toBeTruthy();
        expect(p).not.toHaveProperty('cl');
      } else for (const v of [p.cl, p.cd, p.cm, p.cpMin]) expect(Number.isFinite(v)).toBe(true);
    }
  });
  it.each([20, 500])('%d panels work', (panels) => {
    const p = new ViscousSection(designationOutline('0012', 'published', 401), { ...DEFAULT_SPREAD, panels }).at(
      2 * RAD,
      { reynolds: 1e6 },
      undefined,
      patient,
    );
    expect(['solved', 'doubtful', 'unsolved']).toContain(p.status);
    if (p.status === 'solved') expect(Math.abs(p.cl - 0.21)).toBeLessThan(0.04);
  });
});
