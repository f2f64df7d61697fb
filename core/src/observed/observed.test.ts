import { leastSquares, readObservedPath, studentT } from '.';

describe('least squares', () => {
  it('fit a line as the closed form does, with its deviations and correlation', () => {
    const xs = [0, 1, 2, 3, 4, 5];
    const ys = [1.1, 2.9, 5.2, 6.8, 9.1, 11.0];
    const r = ([a, b]: readonly number[]) => xs.map((x, i) => ys[i] - (a + b * x));
    const free = { start: 0, step: 0.1, min: -100, max: 100 };
    const f = leastSquares(r, [free, free]);
    const n = xs.length;
    const mx = xs.reduce((s, v) => s + v, 0) / n;
    const my = ys.reduce((s, v) => s + v, 0) / n;
    const sxx = xs.reduce((s, v) => s + (v - mx) ** 2, 0);
    const b = xs.reduce((s, v, i) => s + (v - mx) * (ys[i] - my), 0) / sxx;
    const a = my - b * mx;
    const s2 = r([a, b]).reduce((s, v) => s + v * v, 0) / (n - 2);
    expect(f.values[0]).toBeCloseTo(a, 6);
    expect(f.values[1]).toBeCloseTo(b, 6);
    expect(f.deviations[1]).toBeCloseTo(Math.sqrt(s2 / sxx), 6);
    expect(f.deviations[0]).toBeCloseTo(Math.sqrt(s2 * (1 / n + mx ** 2 / sxx)), 6);
    expect(f.correlations[0][1]).toBeCloseTo(-mx / Math.sqrt(sxx / n + mx ** 2), 6);
  });
  it('say that two numbers of one effect are not decided', () => {
    const xs = [1, 2, 3, 4, 5, 6];
    const free = { start: 0.3, step: 0.1, min: -100, max: 100 };
    const f = leastSquares(([a, b]) => xs.map((x, i) => 2 * x + 0.01 * Math.sin(9 * i) - (a + b) * x), [free, free]);
    expect(f.values[0] + f.values[1]).toBeCloseTo(2, 2);
    expect(Math.abs(f.correlations[0][1])).toBeGreaterThan(0.99);
    expect(f.deviations[0]).toBeGreaterThan(10);
  });
  it('find the bottom of a curved valley', () => {
    const free = { step: 0.01, min: -10, max: 10 };
    const f = leastSquares(
      ([x, y]) => [1 - x, 10 * (y - x * x)],
      [
        { ...free, start: -1.2 },
        { ...free, start: 1 },
      ],
    );
    expect(f.values[0]).toBeCloseTo(1, 4);
    expect(f.values[1]).toBeCloseTo(1, 4);
  });
  it('know Student’s t', () => {
    expect(studentT(10)).toBeCloseTo(2.228, 2);
    expect(studentT(100)).toBeCloseTo(1.984, 3);
  });
});

describe('an observed path', () => {
  const rows = (f: (t: number) => string, n = 12) => Array.from({ length: n }, (_, i) => f(i * 0.1)).join('\n');
  it('is read in the units of its headings, from its first row on', () => {
    const p = readObservedPath(
      `time (ms),x [cm],"height, ft"\n${rows((t) => `${1000 * t + 500},${100 * t},${10 - t}`)}`,
    );
    expect(p.t[1]).toBeCloseTo(0.1, 9);
    expect(p.x[11]).toBeCloseTo(1.1, 9);
    expect(p.height[0]).toBeCloseTo(3.048, 9);
    expect(p.gaps).toEqual([]);
  });
  it('tells gaps, leaves out outliers and what is no number, and says so', () => {
    const line = (t: number) => `${t.toFixed(2)},${(8 * t).toFixed(3)},${(2 - 0.3 * t).toFixed(3)}`;
    const list = Array.from({ length: 40 }, (_, i) => line(i * 0.05 + (i > 20 ? 0.6 : 0)));
    list[8] = '0.40,9.9,2';
    list[30] = '2.10,,1';
    const p = readObservedPath(`t,x,z\n${list.join('\n')}`);
    expect(p.gaps).toHaveLength(1);
    expect(p.gaps[0].length).toBeCloseTo(0.65, 6);
    expect(p.outliers.map((o) => o.row)).toEqual([10]);
    expect(p.notes.join('; ')).toMatch(/row 32 is left out.*row 10 lies far/);
    expect(p.t).toHaveLength(38);
  });
  it('refuses two clocks, missing columns, unknown units, and too few rows', () => {
    const body = rows((t) => `${t},${t},1`);
    for (const [text, code] of [
      ['', 'path-table'],
      [`t,x\n${rows((t) => `${t},1`)}`, 'path-columns'],
      [`t,time,x,z\n${rows((t) => `${t},${t},1,2`)}`, 'path-clock'],
      [`t,x,z\n${body}\n${body}`, 'path-clock'],
      [`t,x (furlong),z\n${body}`, 'path-unit'],
      [`t,x,z\n0,0,1\n1,1,1`, 'path-short'],
      ['t,x,z\na,b,c\nd,e,f\ng,h,i\nj,k,l\nm,n,o', 'path-short'],
    ])
      expect(() => readObservedPath(text)).toThrow(expect.objectContaining({ code }));
  });
});
