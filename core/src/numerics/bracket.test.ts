import { describe, expect, it } from '@jest/globals';
import { marginsOf } from '../control/margins';
import { rootBetween } from '.';

describe('a root in a bracket that was seen', () => {
  it('is found where rounding of the ends has lost the change of sign', () => {
    // One side of the end is above, the other below: a logarithm and back lands on the wrong one.
    const f = (x: number) => (x < 1 ? -1 : x - 1 + 1e-300);
    expect(() => rootBetween((x) => f(x + 1e-9), 1, 2)).toThrow(/does not change sign/);
    expect(rootBetween((x) => f(x + 1e-9), 1, 2, 1e-12, [-1, 1])).toBeCloseTo(1, 8);
    // Products of tiny values are nothing, their signs are not.
    expect(rootBetween((x) => 1e-200 * (x - 0.3), 0, 1)).toBeCloseTo(0.3, 10);
  });

  it('serves loops of every gain: crossings that lie on a place that is looked at', () => {
    for (let k = 1; k <= 64; k++) {
      const gain = k / 8;
      // gain / (s (s + 1)): crosses 1 where w² (w² + 1) = gain².
      const at = (w: number): [number, number] => {
        const d = w * w + w ** 4;
        return [(-gain * w * w) / d, (-gain * w) / d];
      };
      const { gainCrossover } = marginsOf(at, [0, 1]);
      expect(gainCrossover! ** 2).toBeCloseTo((Math.sqrt(1 + 4 * gain * gain) - 1) / 2, 8);
    }
  });
});
