import { RAD } from '../../numerics';
import { designationOutline } from '../../section';
import { continuePastStall, ESTIMATE_ENDS, pastStallPoint } from './past-stall';
import { isSolved, unsolvedPoint, type SolvedPoint, type ViscousPoint } from './point';
import { polarPoints } from './polar-points';
import { ViscousSection } from './viscous-section';

const point = (deg: number, cl: number, cd: number, cm: number, doubts: SolvedPoint['doubts'] = []): SolvedPoint =>
  ({
    status: 'solved',
    alpha: deg * RAD,
    reynolds: 3e5,
    cl,
    cd,
    cdFriction: 0.004,
    cdPressure: cd - 0.004,
    cm,
    cpMin: -3,
    transitionTop: 0.01,
    transitionBottom: 1,
    doubts,
    iterations: 9,
    residual: 0,
    machCritical: 0.4,
  }) as SolvedPoint;
const open = (deg: number) => ({ ...unsolvedPoint(deg * RAD, 3e5, 'no way', 100), alpha: deg * RAD });

describe('beyond the last solved angle of a stalled section', () => {
  const last = point(13, 0.9, 0.11, -0.04, ['past-maximum-lift']);
  it('the estimate begins at the last point’s own values, and ends as a plate across the stream', () => {
    const near = pastStallPoint(last, open(13 + 1e-7));
    for (const key of ['cl', 'cd', 'cm'] as const) expect(near[key]).toBeCloseTo(last[key], 6);
    const across = pastStallPoint(last, open(90));
    expect(across.cl).toBeCloseTo(0, 10);
    expect(across.cd).toBeCloseTo(2, 10);
    // The force acts at the middle of the chord.
    expect(across.cm).toBeCloseTo(-0.5, 10);
    expect(pastStallPoint(last, open(20))).toMatchObject({
      status: 'doubtful',
      doubts: ['estimated', 'past-maximum-lift'],
    });
    expect(pastStallPoint(last, open(20)).cd).toBeGreaterThan(last.cd);
  });
  it('is the same for a section that stands on its head', () => {
    const mirrored = point(-13, -0.9, 0.11, 0.04, ['past-maximum-lift']);
    const [up, down] = [pastStallPoint(last, open(18)), pastStallPoint(mirrored, open(-18))];
    expect(down.cl).toBeCloseTo(-up.cl, 12);
    expect(down.cd).toBeCloseTo(up.cd, 12);
    expect(down.cm).toBeCloseTo(-up.cm, 12);
  });
  it('goes to a stated end, and says so; gaps with solved points beyond stay', () => {
    const curve: ViscousPoint[] = [point(5, 0.7, 0.02, 0), open(8), last, open(15), open(25), open(26)];
    continuePastStall(curve);
    expect(curve.map((p) => p.status)).toEqual(
      ['solved', 'unsolved', 'doubtful', 'doubtful', 'doubtful', 'unsolved'].map((s, i) => (i === 2 ? 'solved' : s)),
    );
    expect((curve[5] as { reason: string }).reason).toMatch(/method ends here.*13\.0°.*12°/);
    expect(ESTIMATE_ENDS / RAD).toBeCloseTo(12);
  });
  it('begins also where lift has fallen at the last step only, which is no doubt yet', () => {
    const curve: ViscousPoint[] = [point(11, 1.05, 0.03, 0), point(12, 1.04, 0.045, 0), open(13), open(14)];
    const down = curve.map((p) => (isSolved(p) ? point(-p.alpha / RAD, -p.cl, p.cd, 0) : open(-p.alpha! / RAD)));
    for (const list of [curve, down]) {
      continuePastStall(list);
      expect(list.map((p) => p.status)).toEqual(['solved', 'solved', 'doubtful', 'doubtful']);
    }
  });
  it('is not given where the section has not stalled, nor on the other side', () => {
    const curve: ViscousPoint[] = [open(-5), point(0, 0.2, 0.01, 0), point(5, 0.7, 0.02, 0), open(8)];
    continuePastStall(curve);
    expect(curve.filter((p) => !isSolved(p))).toHaveLength(2);
    const none: ViscousPoint[] = [open(1), open(2)];
    continuePastStall(none);
    expect(none.filter(isSolved)).toHaveLength(0);
  });
  it('a sweep of a thin section from −10° to 20° comes back whole, lift falling and drag rising behind the last solved angle', () => {
    const alphas = Array.from({ length: 31 }, (_, i) => (i - 10) * RAD);
    const points = polarPoints(new ViscousSection(designationOutline('0009')), {
      kind: 'fixed-re',
      conditions: { reynolds: 5e5 },
      alphas,
    });
    const solved = points.filter(isSolved);
    expect(solved).toHaveLength(31);
    const estimated = solved.filter((p) => p.doubts.includes('estimated'));
    expect(estimated.length).toBeGreaterThan(0);
    expect(estimated.every((p) => p.alpha > 10 * RAD && p.reason?.includes('Estimated'))).toBe(true);
    for (let i = 1; i < estimated.length; i++) expect(estimated[i].cd).toBeGreaterThan(estimated[i - 1].cd);
  });
});
