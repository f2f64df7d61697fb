import { TurbulentAir, turbulenceScales } from '.';

/** ∫ over all frequencies above zero, by the rule of Simpson over their logarithm. */
function variance(spectrum: (w: number) => number): number {
  const [low, high, n] = [Math.log(1e-5), Math.log(1e5), 4000];
  const h = (high - low) / n;
  let sum = 0;
  for (let i = 0; i <= n; i++) {
    const w = Math.exp(low + i * h);
    sum += (i === 0 || i === n ? 1 : i % 2 ? 4 : 2) * spectrum(w) * w;
  }
  return (sum * h) / 3;
}

describe('turning of the air over the span', () => {
  it.each([
    [1.5, 30, 100, 0.02],
    [0.6, 18, 40, 0.02],
    [4.8, 26, 150, 0.02],
    [30, 60, 300, 0.02],
    [1.5, 30, 100, 0.1],
  ])(
    'span %d m at %d m/s, %d m up, in steps of %#s: the variances are those of the spectra',
    (span, v, height, step) => {
      const s = turbulenceScales(height, 15);
      // MIL-F-8785C, 1980: speed and turning over angular frequency.
      const speed = (sigma: number, length: number) => (w: number) => {
        const t = (length / v) ** 2 * w * w;
        return ((sigma ** 2 * length) / (Math.PI * v)) * ((1 + 3 * t) / (1 + t) ** 2);
      };
      const turned = (sigma: number, length: number, smooth: number) =>
        variance((w) => ((w / v) ** 2 * speed(sigma, length)(w)) / (1 + ((smooth * w) / v) ** 2));
      const wide = (4 * span) / Math.PI;
      // The one-sided spectrum of a speed integrates to its variance.
      expect(variance(speed(s.up, s.lengthUp))).toBeCloseTo(s.up ** 2, 3);
      const air = new TurbulentAir({ windAt6m: 15, seed: 5 }, span);
      const sums = [0, 0, 0, 0];
      const count = 120_000;
      for (let i = 0; i < count; i++) {
        const up = air.next(step, v, height)[2];
        sums[0] += up * up;
        [0, 1, 2].forEach((k) => (sums[k + 1] += air.turning[k] ** 2));
      }
      const [w, , q, r] = sums.map((t) => t / count);
      // As many samples as are independent of each other.
      const sure = (length: number) => 4 * Math.sqrt((2 * length) / (v * step * count)) + 0.01;
      expect(Math.abs(w / s.up ** 2 - 1)).toBeLessThan(sure(2 * s.lengthUp));
      expect(Math.abs(q / turned(s.up, s.lengthUp, wide) - 1)).toBeLessThan(sure(2 * wide) + 0.01);
      expect(Math.abs(r / turned(s.along, s.lengthAlong, 0.75 * wide) - 1)).toBeLessThan(sure(2 * wide) + 0.01);
    },
  );
  it('does not depend on the step that it is looked at in', () => {
    const spread = (step: number) => {
      const air = new TurbulentAir({ windAt6m: 15, seed: 9 }, 1.5);
      let sum = 0;
      const count = 100_000;
      for (let i = 0; i < count; i++) {
        air.next(step, 30, 100);
        sum += air.turning[1] ** 2;
      }
      return sum / count;
    };
    const [fine, coarse] = [spread(0.01), spread(0.2)];
    expect(coarse / fine).toBeGreaterThan(0.97);
    expect(coarse / fine).toBeLessThan(1.03);
  });
});
