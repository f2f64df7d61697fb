import { analyseLift, ellipseOf } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { solveTwist, wantedLoad } from './twist';

const brief = { speed: 26, altitude: 600, mass: 24 };
const wing = (tip: number) => {
  const w = madeWing(6, 0.6, 0.6 * tip);
  const middle = { ...w.stations[0], chord: 0.6 * (0.5 + 0.5 * tip) };
  return {
    ...w,
    stations: [w.stations[0], middle, w.stations[1]].map((s) => ({ ...s, section: 'naca:0012' })),
    bays: [0.5, 0.5].map((share) => ({ ...w.bays[0], span: 3 * share })),
  };
};
const candidate = (tip: number) => ({
  surfaces: [wing(tip)],
  massItems: [],
  reference: null,
  sweep: { fromDeg: -4, toDeg: 8, stepDeg: 2 },
});
const solve = (tip: number, bending = 1) =>
  solveTwist({ brief, candidate: candidate(tip), sections: {}, surfaceId: 'wing', CL: 0.5, bending } as never);

describe('twist for a load', () => {
  it('washes the tip of a straight wing out, and raises its span efficiency', () => {
    const { twistsDeg, missBefore, missAfter } = solve(1);
    expect(twistsDeg[0]).toBe(0);
    expect(twistsDeg[2]).toBeLessThan(-1);
    expect(missAfter).toBeLessThan(0.5 * missBefore);
    const efficiency = (twists: number[]) => {
      const w = wing(1);
      w.stations.forEach((s, i) => (s.twistDeg = twists[i]));
      const lookup = () => ({ kind: 'designation', designation: '0012', trailingEdge: 'published' }) as const;
      const at = (a: number) => analyseLift({ surfaces: [w], alphas: [a] }, lookup).points[0];
      const [p, q] = [at(0), at(0.1)];
      const alpha = (0.1 * (0.5 - p.CL)) / (q.CL - p.CL);
      return at(alpha).efficiency;
    };
    expect(efficiency(twistsDeg)).toBeGreaterThan(efficiency([0, 0, 0]) + 0.01);
    expect(efficiency(twistsDeg)).toBeGreaterThan(0.985);
  });
  it('tells the miss of the load as the figure of the span load does', () => {
    const lookup = () => ({ kind: 'designation', designation: '0012', trailingEdge: 'published' }) as const;
    const at = (a: number) => analyseLift({ surfaces: [wing(0.7)], alphas: [a] }, lookup);
    const [p, q] = [at(0).points[0], at(0.1).points[0]];
    const { points, reference } = at((0.1 * (0.5 - p.CL)) / (q.CL - p.CL));
    const strips = points[0].strips.filter((s) => s.station > 0);
    expect(ellipseOf(strips, reference.area / reference.span).deviation).toBeCloseTo(solve(0.7).missBefore, 3);
  });
  it('carries less outboard where the bending moment is bounded', () => {
    expect(solve(0.5, 0.85).twistsDeg[2]).toBeLessThan(solve(0.5).twistsDeg[2] - 1);
    // The same lift, and the moment asked for.
    const sum = (of: (s: number) => number, bending: number) => {
      let s = 0;
      for (let i = 0; i < 4000; i++) s += of((i + 0.5) / 4000) * wantedLoad((i + 0.5) / 4000, bending);
      return s;
    };
    expect(sum(() => 1, 0.85) / sum(() => 1, 1)).toBeCloseTo(1, 4);
    expect(sum((y) => y, 0.85) / sum((y) => y, 1)).toBeCloseTo(0.85, 4);
  });
  it('says where there is no answer', () => {
    expect(() =>
      solveTwist({ brief, candidate: candidate(1), sections: {}, surfaceId: 'none', CL: 0.5, bending: 1 } as never),
    ).toThrow(/not in this candidate/);
  });
});
