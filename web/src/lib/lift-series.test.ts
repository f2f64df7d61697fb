import { stateBetween } from './lift-series';

type State = Parameters<typeof stateBetween>[0][number];
const state = (alpha: number, cl: number): State =>
  ({ alpha, CL: cl, strips: [{ id: 'wing', station: 0.5, cl, circulation: 0.1 * cl }] }) as unknown as State;

describe('states between those that were computed', () => {
  const points = [state(0.1, 1), state(-0.1, -0.6), state(0, 0.2)];
  it('are straight over the angle, whatever the order, and the same at those computed', () => {
    for (const [alpha, cl] of [
      [0.1, 1],
      [0.05, 0.6],
      [-0.025, 0],
      [-0.1, -0.6],
    ]) {
      const p = stateBetween(points, alpha)!;
      expect(p.CL).toBeCloseTo(cl, 12);
      expect(p.strips[0].cl).toBeCloseTo(cl, 12);
      expect(p.strips[0].circulation).toBeCloseTo(0.1 * cl, 12);
      expect(p.alpha).toBe(alpha);
    }
  });
  it('are none beyond them, nor of none', () => {
    for (const alpha of [0.11, -0.11, NaN]) expect(stateBetween(points, alpha)).toBeNull();
    expect(stateBetween([], 0)).toBeNull();
  });
});
