import { RAD } from '../numerics';
import { spanLoads, type LoadStrip } from '.';

const SPAN = 4;
/** Strips of a load per metre, by the cosine law. */
function strips(load: (y: number) => number, count: number, x: (y: number) => number = () => 0): LoadStrip[] {
  const edge = (i: number) => SPAN * Math.sin((0.5 * Math.PI * i) / count);
  return Array.from({ length: count }, (_, i) => {
    const [a, b] = [edge(i), edge(i + 1)];
    const along = 0.5 * (a + b);
    const place = SPAN * Math.sin((0.5 * Math.PI * (i + 0.5)) / count);
    return { along, width: b - a, force: load(place) * (b - a), x: x(along), moment: 0 };
  });
}

describe('loads along a cantilever', () => {
  it('of an even load are the closed form everywhere', () => {
    const places = [0, 0.7, 1.9, 3.3, 4];
    const { shear, bending } = spanLoads(
      strips(() => 30, 24),
      [],
      places,
      () => 0,
    );
    places.forEach((y, i) => {
      expect(shear[i]).toBeCloseTo(30 * (SPAN - y), 9);
      expect(bending[i]).toBeCloseTo(15 * (SPAN - y) ** 2, 9);
    });
  });
  it('of an elliptic load are within 0.1 % at the root', () => {
    const load = (y: number) => 50 * Math.sqrt(Math.max(0, 1 - (y / SPAN) ** 2));
    const { shear, bending } = spanLoads(strips(load, 24), [], [0], () => 0);
    expect(shear[0] / ((50 * Math.PI * SPAN) / 4)).toBeCloseTo(1, 3);
    expect(bending[0] / ((50 * SPAN ** 2) / 3)).toBeCloseTo(1, 3);
  });
  it('of a load at the tip are the closed form, and nothing beyond it', () => {
    const { shear, bending, torsion } = spanLoads(
      [],
      [{ along: SPAN, force: 12, x: 0.3, moment: -2 }],
      [0, 1, SPAN],
      () => 0.5,
    );
    expect(shear).toEqual([12, 12, 0]);
    expect(bending).toEqual([48, 36, 0]);
    // Ahead of the axis it turns the nose up.
    expect(torsion[0]).toBeCloseTo(-2 + 12 * 0.2, 12);
  });
  it('of a swept beam loaded along its axis has no torsion, and bends over its own length', () => {
    const sweep = 30 * RAD;
    const axis = (y: number) => y * Math.tan(sweep);
    const { bending, torsion } = spanLoads([], [{ along: 3, force: 10, x: axis(3), moment: 0 }], [0, 1], axis);
    expect(torsion[0]).toBeCloseTo(0, 9);
    expect(bending[0]).toBeCloseTo((10 * 3) / Math.cos(sweep), 6);
    expect(bending[1]).toBeCloseTo((10 * 2) / Math.cos(sweep), 6);
  });
});
