import { madeWing } from './viscous/testing/made-polar';
import { flowLines, makeLattice } from '.';

const flat = () => ({ ordinate: () => 0, slope: () => 0 });
const lattice = makeLattice({ surfaces: [madeWing(8, 1, 0.6)] }, flat);
const alpha = 0.1;
const last = (line: { points: number[] }) => line.points.slice(-3);

describe('lines of the flow', () => {
  it('go straight along the stream where nothing lifts', () => {
    const { wake, stream, half } = flowLines(lattice, { alpha: 0 });
    expect(half).toBe(true);
    for (const line of [...wake, ...stream]) {
      const [, y, z] = line.points;
      expect(last(line)[1]).toBeCloseTo(y, 10);
      expect(last(line)[2]).toBeCloseTo(z, 10);
      for (const v of line.speed) expect(v).toBeCloseTo(1, 10);
    }
  });
  it('are pressed down behind a lifting wing by its downwash, and go up beyond its tips', () => {
    const { wake, stream } = flowLines(lattice, { alpha });
    // Against the plain stream: sin α a length.
    const fall = (line: { points: number[] }) => {
      const [x0, , z0] = line.points;
      const [x, , z] = last(line);
      return z - z0 - Math.tan(alpha) * (x - x0);
    };
    const middle = wake[1];
    expect(fall(middle)).toBeLessThan(-0.1);
    const outside = stream[stream.length - 1];
    expect(outside.points[1]).toBeGreaterThan(4);
    expect(fall(outside)).toBeGreaterThan(0);
    // Half a wing's load behind it sends the air down by twice the angle at the wing: CL / (π A) each.
    const { CL } = lattice.at({ alpha });
    const [x1, , z1, x2, , z2] = middle.points.slice(-6);
    const slope = Math.atan((z2 - z1) / (x2 - x1)) - alpha;
    expect(-slope).toBeGreaterThan((1.2 * CL) / (Math.PI * 8));
    expect(-slope).toBeLessThan((3 * CL) / (Math.PI * 8));
  });
  it('roll up about the tip: the outermost thread goes inward above and around', () => {
    const { wake } = flowLines(lattice, { alpha });
    const tip = wake[wake.length - 1];
    const up = Math.max(
      ...tip.points.filter((_, i) => i % 3 === 2).map((z, i) => z - Math.tan(alpha) * tip.points[3 * i]),
    );
    expect(last(tip)[1]).toBeLessThan(tip.points[1]);
    expect(up).toBeGreaterThan(-Math.tan(alpha) * tip.points[0] + 0.001);
  });
  it('follow the loads that they are given: half of them turn the air half as much', () => {
    const strips = lattice.at({ alpha }).strips.map((s) => s.circulation);
    const end = (circulations?: number[]) => {
      const [x, , z] = last(flowLines(lattice, { alpha }, { circulations }).wake[1]);
      return z - Math.tan(alpha) * x;
    };
    const none = end(strips.map(() => 0));
    expect(end(strips)).toBeCloseTo(end(), 9);
    expect((end(strips.map((g) => 0.5 * g)) - none) / (end() - none)).toBeCloseTo(0.5, 1);
    expect(() => flowLines(lattice, { alpha }, { circulations: [1, 2] })).toThrow(/24 strips, and 2 finite/);
    expect(() => flowLines(lattice, { alpha }, { circulations: strips.map(() => NaN) })).toThrow(/and 0 finite/);
  });
  it('stand on both sides in sideslip, and are images of each other without', () => {
    const skew = flowLines(lattice, { alpha, beta: 0.1 });
    expect(skew.half).toBe(false);
    expect(skew.wake.length).toBe(2 * flowLines(lattice, { alpha }).wake.length);
    const other = flowLines(lattice, { alpha, beta: -0.1 });
    const n = skew.wake.length / 2;
    const [right, left] = [last(skew.wake[3]), last(other.wake[n + 3])];
    expect(right[0]).toBeCloseTo(left[0], 9);
    expect(right[1]).toBeCloseTo(-left[1], 9);
    expect(right[2]).toBeCloseTo(left[2], 9);
  });
});
