import { freeResponse, matrixExponential } from './response';

describe('linear response', () => {
  it('is that of an oscillator', () => {
    const [w, z] = [3, 0.2];
    const A = [
      [0, 1],
      [-w * w, -2 * z * w],
    ];
    const states = freeResponse({ A }, [1, 0], 8, 161);
    const d = w * Math.sqrt(1 - z * z);
    states.forEach(([x], k) => {
      const t = (8 * k) / 160;
      const exact = Math.exp(-z * w * t) * (Math.cos(d * t) + ((z * w) / d) * Math.sin(d * t));
      expect(Math.abs(x - exact)).toBeLessThan(1e-9);
    });
  });
  it('holds for stiff and for nilpotent matrices', () => {
    const stiff = matrixExponential(
      [
        [-1400, 0],
        [0, -0.03],
      ],
      2,
    );
    expect(stiff[0][0]).toBeLessThan(1e-12);
    expect(stiff[1][1]).toBeCloseTo(Math.exp(-0.06), 10);
    expect(
      matrixExponential(
        [
          [0, 1, 0],
          [0, 0, 1],
          [0, 0, 0],
        ],
        2,
      ),
    ).toEqual([
      [1, 2, 2],
      [0, 1, 2],
      [0, 0, 1],
    ]);
  });
});
