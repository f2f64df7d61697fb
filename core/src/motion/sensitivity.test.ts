import { rootsOf } from './modes';
import { eigenvalueSlopes } from './sensitivity';

describe('slopes of eigenvalues', () => {
  const A = [
    [-0.03, 0.1, 0, -9.8],
    [-0.4, -3.2, 25, 0],
    [0.01, -0.9, -4.1, 0],
    [0, 0, 1, 0],
  ];
  const dA = [
    [0.01, 0, 0.2, 0],
    [0, -0.5, 0.3, 0],
    [0.02, -0.4, 0.7, 0],
    [0, 0, 0, 0],
  ];
  it('are those of small differences', () => {
    const h = 1e-6;
    const moved = (k: number) => rootsOf(A.map((row, i) => row.map((v, j) => v + k * dA[i][j])));
    const [up, down] = [moved(h), moved(-h)];
    eigenvalueSlopes(A, dA).forEach(({ re, im, slope }) => {
      const near = (list: { re: number; im: number }[]) =>
        list.reduce((a, b) => (Math.hypot(b.re - re, b.im - im) < Math.hypot(a.re - re, a.im - im) ? b : a));
      expect(Math.abs((near(up).re - near(down).re) / (2 * h) - slope.re)).toBeLessThan(1e-5);
      expect(Math.abs((near(up).im - near(down).im) / (2 * h) - slope.im)).toBeLessThan(1e-5);
    });
  });
  it('refuse roots that are one', () => {
    const one = [
      [-1, 1],
      [0, -1],
    ];
    expect(() => eigenvalueSlopes(one, one)).toThrow(/Two roots are one/);
  });
});
