import { runAnalysis } from '../analysis';
import { RAD } from '../numerics';
import type { SolvedPoint, ViscousPoint } from '../section-flow';
import { polarAtLift, polarFacts } from '.';

const point = (deg: number, cl: number, cd: number, cm = -0.05, doubts: SolvedPoint['doubts'] = []): ViscousPoint =>
  ({
    status: doubts.length ? 'doubtful' : 'solved',
    alpha: deg * RAD,
    reynolds: 1e6,
    cl,
    cd,
    cm,
    doubts,
  }) as unknown as ViscousPoint;
/** A made-up curve with known facts: lift a parabola with its crest at 12.3°, drag with a bucket. */
const lift = (deg: number) => 1.5 - 0.006 * (deg - 12.3) ** 2;
const curve = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => {
    const deg = from + i * step;
    const cl = lift(deg);
    return point(
      deg,
      cl,
      0.006 + 0.004 * Math.max(0, Math.abs(cl - 0.4) - 0.2) ** 2 * 25,
      -0.08 + 0.02 * cl,
      deg > 13.5 ? ['past-maximum-lift'] : [],
    );
  });

describe('facts of a polar', () => {
  const facts = polarFacts(curve(-5, 18, 1));
  it('greatest lift lies between the points, and how much of it is left is told', () => {
    expect(facts.clMax).toBeCloseTo(1.5, 9);
    expect(facts.alphaClMaxDeg).toBeCloseTo(12.3, 9);
    expect(facts.clMaxReached).toBe(true);
    expect(facts.liftKept).toBeCloseTo(lift(15.3) / 1.5, 2);
  });
  it('least drag, the range of low drag with its edges, and both ratios', () => {
    expect(facts.cdMin).toBeCloseTo(0.006, 12);
    // 0.1 (|Δ| − 0.2)² = 0.0012 at |Δ| = 0.3095
    expect(facts.lowDragRange![0]).toBeCloseTo(0.4 - 0.3095, 1);
    expect(facts.lowDragRange![1]).toBeCloseTo(0.4 + 0.3095, 1);
    expect(facts.lowDragEdges).toEqual([true, true]);
    const ratios = curve(-5, 13, 1).map((p) => ('cl' in p ? [p.cl / p.cd, p.cl > 0 ? p.cl ** 1.5 / p.cd : 0] : [0, 0]));
    expect(facts.bestLiftToDrag).toBeCloseTo(Math.max(...ratios.map((r) => r[0])), 9);
    expect(facts.bestClimb).toBeCloseTo(Math.max(...ratios.map((r) => r[1])), 9);
    expect(facts.clAtBestLiftToDrag! * 1).toBeGreaterThan(0.5);
  });
  it('the line of lift about zero', () => {
    const zero = 12.3 - Math.sqrt(1.5 / 0.006);
    expect(facts.alphaZeroLiftDeg).toBeCloseTo(zero, 1);
    expect(facts.cmZeroLift).toBeCloseTo(-0.08, 3);
    expect(facts.cmGreatest).toBeCloseTo(-0.08 + 0.02 * lift(-5), 9);
    expect(facts.cmGreatestNoseUp).toBeCloseTo(-0.08 + 0.02 * 1.5, 3);
    expect(facts.liftSlopePerDeg).toBeCloseTo(0.012 * (12.3 - zero - 3), 2);
  });
  it('a small nose-up moment is not hidden by a large nose-down one, and what lies past the stall does not count', () => {
    const moments = [-0.12, -0.05, 0.004, -0.02];
    const points = moments.map((cm, i) => point(2 * i, 0.2 * i, 0.01, cm));
    const stalled = point(12, 0.5, 0.1, 0.09, ['past-maximum-lift']);
    expect(polarFacts([...points, stalled])).toMatchObject({ cmGreatest: -0.12, cmGreatestNoseUp: 0.004 });
    expect(polarFacts(points.slice(0, 2)).cmGreatestNoseUp).toBe(-0.05);
  });
  it('does not depend on the order, on unsolved points, or on what lies past the stall', () => {
    const points = curve(-5, 18, 1);
    const unsolved: ViscousPoint = { status: 'unsolved', alpha: 0.5 * RAD, reynolds: 1e6, reason: '', iterations: 1 };
    const strange = point(19, 5, 1e-4, -0.9, ['past-maximum-lift']);
    expect(polarFacts([strange, unsolved, ...points.slice().reverse()])).toEqual(facts);
  });
  it('says what the curve does not reach', () => {
    const short = polarFacts(curve(4, 8, 1));
    expect(short).toMatchObject({ clMaxReached: false, liftKept: null, alphaZeroLiftDeg: null, cmZeroLift: null });
    expect(short.clMax).toBeCloseTo(lift(8), 12);
    expect(polarFacts([])).toMatchObject({ clMax: null, cdMin: null, lowDragRange: null });
    const one = polarFacts([point(2, 0.3, 0.01)]);
    expect(one).toMatchObject({ clMax: 0.3, cdMin: 0.01, lowDragRange: [0.3, 0.3], lowDragEdges: [false, false] });
    expect(
      Object.values(one)
        .flat()
        .some((v) => Number.isNaN(v)),
    ).toBe(false);
  });
  it('a nose that stalls ends the curve before its crest', () => {
    const points = [0, 2, 4, 6, 8, 10].map((d) => point(d, 0.11 * d, 0.01, 0, d > 7 ? ['nose-bubble-bursts'] : []));
    expect(polarFacts(points)).toMatchObject({ clMaxReached: true, alphaClMaxDeg: expect.closeTo(6, 9) as number });
  });
  it('reads a curve at the lift that a design flies at', () => {
    const at = polarAtLift(curve(-5, 18, 1), 0.5)!;
    expect(at.cd).toBeCloseTo(0.006, 4);
    expect(at.cm).toBeCloseTo(-0.07, 3);
    expect(at.toEdge).toBeCloseTo(0.2, 1);
    expect(polarAtLift(curve(-5, 18, 1), 1.7)).toBeNull();
  });
  it('of a section that is solved agree with its points', async () => {
    const points = await runAnalysis('polar', {
      source: { kind: 'designation', designation: '4415', trailingEdge: 'published' },
      flap: null,
      spread: { panels: 120, trailingEdge: 1, nose: 1 },
      kind: 'fixed-re',
      conditions: { reynolds: 1e6 },
      alphas: [-5, -4, -3, -2, -1, 0, 1, 2, 3, 4].map((a) => a * RAD),
    });
    const solved = polarFacts(points);
    expect(solved.alphaZeroLiftDeg).toBeGreaterThan(-4.6);
    expect(solved.alphaZeroLiftDeg).toBeLessThan(-3.6);
    expect(solved.liftSlopePerDeg).toBeGreaterThan(0.1);
    expect(solved.liftSlopePerDeg).toBeLessThan(0.12);
    expect(solved.cmZeroLift).toBeLessThan(-0.08);
  });
});
