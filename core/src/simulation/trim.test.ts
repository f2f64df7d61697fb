import { GRAVITY } from '../atmosphere';
import type { Equations } from './dynamics';
import { trimFlight } from './trim';

/** An aircraft of 10 kg whose propeller is held still below a share of its throttle. */
const held = (below: number, most: number) =>
  ({
    rates: (_t: number, y: Float64Array, deflections: Float64Array, throttle: number, out: Float64Array) => {
      const alpha = Math.atan2(y[5], y[3]);
      const thrust = throttle < below ? 0 : most * (throttle - below);
      const lift = 1000 * (alpha + 0.05);
      const drag = 10;
      const theta = 2 * Math.asin(y[8]);
      out[3] = (thrust - drag * Math.cos(alpha) + lift * Math.sin(alpha)) / 10 - GRAVITY * Math.sin(theta);
      out[5] = (-drag * Math.sin(alpha) - lift * Math.cos(alpha)) / 10 + GRAVITY * Math.cos(theta);
      out[11] = -2 * alpha - 4 * deflections[0];
    },
  }) as unknown as Equations;
const options = { speed: 20, height: 100, climb: 0, powered: true, controls: 1, control: 0 };

describe('trim of a flight', () => {
  it.each([0, 0.2, 0.4, 0.5, 0.7])('is found where the thrust begins at a throttle of %d', (below) => {
    const trim = trimFlight(held(below, 60), options);
    // Along the path: T cos α = D.
    expect(60 * (trim.throttle - below) * Math.cos(trim.alpha)).toBeCloseTo(10, 5);
    expect(trim.deflection).toBeCloseTo(-trim.alpha / 2, 8);
    const across = 60 * (trim.throttle - below) * Math.sin(trim.alpha) + 1000 * (trim.alpha + 0.05);
    expect(across).toBeCloseTo(10 * GRAVITY, 5);
  });
  it('says how much of the power is lacking', () => {
    expect(() => trimFlight(held(0, 5), options)).toThrow(/needs 20\d % of its power/);
  });
});
