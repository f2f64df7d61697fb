import type { LiftingSurface } from '../airframe';
import { analyseLift, groundSweep, makeLattice } from '.';
import { madeWing } from './viscous/testing/made-polar';
import { sectionLookup } from '../candidate';
import { RAD } from '../numerics';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '0012', trailingEdge: 'sharp' } });
const flat = () => ({ ordinate: () => 0, slope: () => 0 });
const wing = (span: number, root: number, tip: number, more: Partial<LiftingSurface> = {}) =>
  madeWing(span, root, tip, more);
const at = (surfaces: LiftingSurface[], alphaDeg: number, ground?: number, mach = 0) =>
  analyseLift(
    { surfaces, alphas: [alphaDeg * RAD], wake: 'stream', mach, ...(ground !== undefined && { ground }) },
    lookup,
  );

describe('ground effect', () => {
  it.each([0.4, 1, 2.5])(
    'at %d m is that of a second wing that stands on its head below: the same load, strip by strip',
    (h) => {
      // The stream along x, the wing turned in it: its image is turned the other way, twice the height below.
      const own = wing(5, 1, 0.7, { incidenceDeg: 4 });
      const about = { x: 0.25, y: 0, z: 0 };
      const grounded = makeLattice({ surfaces: [own], about, ground: h }, flat).at({ alpha: 0 });
      const below = { ...wing(5, 1, 0.7, { incidenceDeg: -4 }), id: 'below', position: { x: 0, y: 0, z: -2 * h } };
      const pair = makeLattice(
        { surfaces: [own, below], about, reference: { area: 4.25, span: 5, chord: 0.86 } },
        flat,
      ).at({ alpha: 0 });
      const upper = pair.strips.filter((s) => s.id === 'wing');
      grounded.strips.forEach((s, i) => expect(Math.abs(s.circulation / upper[i].circulation - 1)).toBeLessThan(4e-3));
      const free = makeLattice({ surfaces: [own], about }, flat).at({ alpha: 0 });
      expect(grounded.CDi / grounded.CL ** 2).toBeLessThan(free.CDi / free.CL ** 2);
    },
  );
  it('takes off induced drag by the factor of the theory of lifting lines near the ground', () => {
    const plane = [wing(8, 1, 0.45)];
    const free = at(plane, 4).points[0];
    // NACA TM-77, 1922: 1 − σ with σ = exp(−2.48 (2h/b)^0.768), the formula of later textbooks for its curve.
    for (const share of [0.1, 0.2, 0.4]) {
      const near = at(plane, 4, share * 8).points[0];
      const factor = near.CDi / near.CL ** 2 / (free.CDi / free.CL ** 2);
      const told = 1 - Math.exp(-2.48 * (2 * share) ** 0.768);
      expect(Math.abs(factor - told)).toBeLessThan(0.05);
    }
  });
  it('lifts more and steeper the lower it flies, and is gone far above', () => {
    const heights = [0.6, 1, 2, 4].map((h) => at([wing(6, 1, 1)], 3, h));
    heights.slice(1).forEach((r, i) => {
      expect(r.points[0].CL).toBeLessThan(heights[i].points[0].CL);
      expect(r.liftSlope).toBeLessThan(heights[i].liftSlope);
    });
    const [far, free] = [at([wing(6, 1, 1)], 3, 300), at([wing(6, 1, 1)], 3)];
    expect(far.points[0].CL / free.points[0].CL).toBeCloseTo(1, 4);
    expect(far.points[0].CDi / free.points[0].CDi).toBeCloseTo(1, 3);
    // Compressible, too.
    expect(at([wing(6, 1, 1)], 3, 0.6, 0.5).points[0].CL).toBeGreaterThan(
      at([wing(6, 1, 1)], 3, undefined, 0.5).points[0].CL,
    );
  });
  it('takes downwash off a tail, which then lifts more: the nose goes down', () => {
    const tail = { ...wing(2, 0.5, 0.5), id: 'tail', role: 'tailplane' as const, position: { x: 3, y: 0, z: 0.3 } };
    const [low, high] = [1, 20].map((h) => at([wing(6, 1, 1), tail], 6, h).points[0]);
    expect(low.Cm).toBeLessThan(high.Cm);
  });
  it('refuses a height at which something is in the ground, with the one that works', () => {
    const drooped = wing(6, 1, 1, { bays: [{ span: 3, sweepDeg: 0, dihedralDeg: -10 }] });
    expect(() => at([drooped], 4, 0.5)).toThrow(/into it/);
    expect(at([drooped], 4, 1).points[0].CL).toBeGreaterThan(0);
  });
  it('over heights, at one lift: less drag and angle, a steeper slope, and free air far above', () => {
    const input = { surfaces: [wing(6, 1, 1)], about: { x: 0.25, y: 0, z: 0 } };
    const sweep = groundSweep(input, flat, 0.5, [4, 0.6, 60, 1.5]);
    expect(sweep.rows.map((r) => r.height)).toEqual([0.6, 1.5, 4, 60]);
    const [low, , , far] = sweep.rows;
    sweep.rows.slice(1).forEach((r, i) => {
      expect(r.CDi).toBeGreaterThan(sweep.rows[i].CDi);
      expect(r.alpha).toBeGreaterThan(sweep.rows[i].alpha);
      expect(r.CL_alpha).toBeLessThan(sweep.rows[i].CL_alpha);
    });
    expect(far.CDi / sweep.free.CDi).toBeCloseTo(1, 2);
    expect(far.CL_alpha / sweep.free.CL_alpha).toBeCloseTo(1, 3);
    expect(far.staticMargin).toBeCloseTo(sweep.free.staticMargin, 3);
    // The same as one angle by itself.
    const alone = at([wing(6, 1, 1)], low.alpha / RAD, 0.6).points[0];
    expect(alone.CL).toBeCloseTo(0.5, 3);
    const coarse = { chordwise: 2, spanwise: 8, spacing: 'cosine' as const };
    expect(groundSweep({ ...input, spread: coarse }, flat, 0.5).rows).toHaveLength(8);
    expect(() => groundSweep({ ...input, spread: coarse }, flat, 4)).toThrow(/No angle within/);
  });
});
