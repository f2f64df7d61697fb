import { fingerprint, smoothingChange, solveBanded, thirdDifference } from '.';

describe('a banded system', () => {
  it('is solved as a full one would be', () => {
    const n = 12;
    const full = Array.from({ length: n }, (_, i) =>
      Array.from({ length: n }, (_, j) => (i === j ? 9 + i : Math.abs(i - j) <= 3 ? 1 / (1 + Math.abs(i - j)) : 0)),
    );
    const x = Array.from({ length: n }, (_, i) => Math.sin(i));
    const band = new Float64Array(n * 4);
    for (let i = 0; i < n; i++) for (let j = Math.max(0, i - 3); j <= i; j++) band[i * 4 + (j - i + 3)] = full[i][j];
    const right = Float64Array.from(full, (row) => row.reduce((s, v, j) => s + v * x[j], 0));
    Array.from(solveBanded(band, 3, right)).forEach((v, i) => expect(v).toBeCloseTo(x[i], 12));
  });
  it('is refused when it is not positive definite', () => {
    expect(() => solveBanded(Float64Array.of(0, -1), 1, Float64Array.of(1))).toThrow(/positive/);
  });
});

it('third differences are exact for cubics, over uneven places', () => {
  const s = [0, 0.1, 0.25, 0.3, 0.55];
  for (const i of [1, 2]) {
    const w = thirdDifference(s, i);
    const of = (f: (v: number) => number) => w.reduce((sum, v, k) => sum + v * f(s[i - 1 + k]), 0);
    expect(of((v) => v * v)).toBeCloseTo(0, 9);
    expect(of((v) => v)).toBeCloseTo(0, 9);
    expect(of((v) => v ** 3)).toBeCloseTo(6, 9);
  }
});

it('a smoothing change takes a wave away and leaves the ends', () => {
  const s = Array.from({ length: 81 }, (_, i) => i / 80);
  const wave = (v: number) => 1e-3 * Math.sin(40 * v);
  const third = s.map((v, i) => (i < 80 ? -64000e-3 * Math.cos(40 * 0.5 * (v + s[i + 1])) : 0));
  const change = smoothingChange(s, third, 0.08);
  for (let i = 20; i <= 60; i++) expect(wave(s[i]) + change[i]).toBeCloseTo(0, 3);
  expect([change[0], change[1], change[79], change[80]]).toEqual([0, 0, 0, 0]);
  expect(Array.from(smoothingChange(s, third, 0)).every((v) => v === 0)).toBe(true);
});

it('fingerprints are those of FNV-1a with 64 bits', () => {
  expect(fingerprint('')).toBe('cbf29ce484222325');
  expect(fingerprint('a')).toBe('af63dc4c8601ec8c');
  expect(fingerprint('foobar')).toBe('85944171f73967e8');
});
