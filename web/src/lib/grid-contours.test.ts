import { gridContours, gridValue, refined, type Grid } from './grid-contours';

const over = (f: (x: number, y: number) => number | null, n = 9): Grid => {
  const xs = Array.from({ length: n }, (_, i) => i / (n - 1));
  return { xs, ys: xs, rows: xs.map((y) => xs.map((x) => f(x, y))) };
};

describe('contours of a grid', () => {
  it('lie where the surface has their value, up to the edge', () => {
    const [line] = gridContours(
      over((x, y) => x + 2 * y),
      [1.3],
    );
    const inner = line.rings.flat().filter((p) => !p.edge);
    expect(inner.length).toBeGreaterThan(5);
    for (const p of inner) expect(p.x + 2 * p.y).toBeCloseTo(1.3, 9);
    expect(Math.min(...inner.map((p) => p.x))).toBeLessThan(0.05);
  });
  it('end beside places without a value, whatever the size of the values', () => {
    const [line] = gridContours(
      over((x, y) => (x > 0.6 ? null : 1e-6 * (x + y))),
      [0.5e-6],
    );
    const inner = line.rings.flat().filter((p) => !p.edge);
    expect(inner.length).toBeGreaterThan(2);
    for (const p of inner) expect(p.x + p.y).toBeCloseTo(0.5, 6);
    expect(
      gridContours(
        over(() => null),
        [0],
      ),
    ).toEqual([]);
  });
  it('of a surface that was made finer are those of the surface itself', () => {
    const wave = (x: number, y: number) => Math.sin(2 * x) * Math.cos(1.5 * y);
    const fine = refined(over(wave, 7), 4);
    expect(fine.xs).toHaveLength(25);
    let worst = 0;
    fine.ys.forEach((y, k) =>
      fine.xs.forEach((x, i) => (worst = Math.max(worst, Math.abs(fine.rows[k][i]! - wave(x, y))))),
    );
    expect(worst).toBeLessThan(4e-3);
    const holed = over((x, y) => (x === 0 && y === 0 ? null : x));
    expect(refined(holed, 4)).toEqual(holed);
  });
  it('are read between four places, and nowhere else', () => {
    const g = over((x, y) => x * y, 5);
    expect(gridValue(g, 0.5, 0.5)).toBeCloseTo(0.25, 12);
    expect(gridValue(g, 0.3, 1)).toBeCloseTo(0.3, 12);
    expect(gridValue(g, 1.2, 0.5)).toBeNull();
    expect(
      gridValue(
        over((x) => (x === 0 ? null : x), 5),
        0.1,
        0.5,
      ),
    ).toBeNull();
  });
});
