import type { LiftingSurface } from '../airframe';
import { sectionLookup } from '../candidate';
import { RAD } from '../numerics';
import { analyseLift } from './lift-analysis';
import { sectionLifts } from './section-lifts';

const lookup = sectionLookup({});
/** A wing of a half span of 3 m whose chord follows a law; symmetric sections. */
const wing = (chord: (share: number) => number, tipTwist = 0): LiftingSurface => {
  const n = 13;
  const shares = Array.from({ length: n }, (_, i) => Math.sin((i * Math.PI) / 2 / (n - 1)));
  const outer = shares.map((s) => Math.min(s, 0.998));
  return {
    id: 'w',
    name: 'Wing',
    role: 'wing',
    plane: 'horizontal',
    mirrored: true,
    position: { x: 0, y: 0, z: 0 },
    incidenceDeg: 0,
    stations: outer.map((s) => ({ chord: chord(s), twistDeg: tipTwist * s, section: 'naca:0009' })),
    bays: outer.slice(1).map((s, i) => ({ span: 3 * (s - outer[i]), sweepDeg: 0, sweepAt: 0.25, dihedralDeg: 0 })),
  } as LiftingSurface;
};
const sweep = (surface: LiftingSurface, degrees: number[]) =>
  analyseLift({ surfaces: [surface], alphas: degrees.map((d) => d * RAD) }, lookup).points;

describe('lift of the sections of a wing', () => {
  it('is the same along an elliptic wing: that of the aircraft', () => {
    const points = sweep(
      wing((s) => 0.5 * Math.sqrt(1 - s * s)),
      [0, 4, 8],
    );
    const { root, mean, tip } = sectionLifts(points, 0.5)!;
    for (const cl of [root, mean, tip]) expect(Math.abs(cl / 0.5 - 1)).toBeLessThan(0.03);
  });
  it('is that of the state with this lift, between two of a sweep', () => {
    const tapered = wing((s) => 0.5 - 0.3 * s, -3);
    const coarse = sweep(tapered, [-2, 6]);
    const [fine] = sweep(tapered, [2.5]);
    const found = sectionLifts(coarse, fine.CL)!;
    const exact = sectionLifts(sweep(tapered, [2.4999, 2.5001]), fine.CL)!;
    expect(found.root).toBeCloseTo(exact.root, 2);
    expect(found.tip).toBeCloseTo(exact.tip, 2);
    // Washed out, the tip lifts less than the rest.
    expect(found.tip).toBeLessThan(found.root);
  });
  it('is not told outside of the sweep', () => {
    const points = sweep(
      wing(() => 0.4),
      [0, 4],
    );
    expect(sectionLifts(points, 1.4)).toBeNull();
    expect(sectionLifts([], 0.2)).toBeNull();
    expect(sectionLifts(points, NaN)).toBeNull();
  });
});
