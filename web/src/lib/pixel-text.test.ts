import { pixelText } from './pixel-text';

describe('pixelText', () => {
  it('is the number to a hundredth', () => {
    let seed = 3;
    const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 2 ** 32);
    for (let k = 0; k < 2000; k++) {
      const v = (random() - 0.5) * 10 ** (6 * random());
      expect(Math.abs(Number(pixelText(v)) - v)).toBeLessThanOrEqual(0.005 + 1e-9);
    }
  });
  it.each([
    [0, '0'],
    [-0.001, '0'],
    [-0.5, '-0.50'],
    [1.05, '1.05'],
    [3.999, '4'],
    [-12, '-12'],
    [1e300, '1e+300'],
    [NaN, 'NaN'],
    [-Infinity, '-Infinity'],
  ])('writes %p', (v, text) => expect(pixelText(v)).toBe(text));
});
