import { rootLines } from './root-lines';

describe('lines of roots', () => {
  it('go on from pole to pole, whatever order the poles come in', () => {
    const path = Array.from({ length: 20 }, (_, k) => ({
      poles: (k % 2
        ? [
            [-1 - k / 10, 0],
            [-5, k / 5],
          ]
        : [
            [-5, k / 5],
            [-1 - k / 10, 0],
          ]) as [number, number][],
    }));
    const lines = rootLines(path);
    expect(lines).toHaveLength(2);
    expect(lines.map((l) => l.length)).toEqual([20, 20]);
    for (const line of lines) for (const p of line) expect(p[0] === -5 || p[1] === 0).toBe(true);
  });
  it('meet and part: two real poles become a pair above the axis', () => {
    // s² + 4 s + k
    const path = Array.from({ length: 41 }, (_, i) => {
      const d = 4 - i / 5;
      const poles: [number, number][] =
        d >= 0
          ? [
              [-2 - Math.sqrt(d), 0],
              [-2 + Math.sqrt(d), 0],
            ]
          : [
              [-2, Math.sqrt(-d)],
              [-2, -Math.sqrt(-d)],
            ];
      return { poles };
    });
    const lines = rootLines(path);
    expect(lines).toHaveLength(2);
    expect(Math.max(...lines.map((l) => l.length))).toBe(41);
    expect(Math.max(...lines.flat().map((p) => p[1]))).toBeCloseTo(2);
    expect(rootLines([])).toEqual([]);
  });
});
