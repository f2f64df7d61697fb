/** Abscissae and weights of the five-point Gauss–Legendre rule on [−1, 1]. @source Abramowitz and Stegun, 1964, table 25.4. */
const GAUSS_X = [-0.906179845938664, -0.538469310105683, 0, 0.538469310105683, 0.906179845938664];
const GAUSS_W = [0.236926885056189, 0.478628670499366, 0.568888888888889, 0.478628670499366, 0.236926885056189];

/** ∫ f over [a, b] by one five-point Gauss–Legendre rule: exact for polynomials up to degree nine. */
export function gauss5(f: (x: number) => number, a: number, b: number): number {
  const half = 0.5 * (b - a);
  const mid = 0.5 * (a + b);
  let sum = 0;
  for (let i = 0; i < 5; i++) sum += GAUSS_W[i] * f(mid + half * GAUSS_X[i]);
  return sum * half;
}

/** Points and weights of the five-point rule on each of so many slices of [a, b], for sums of several functions at once. */
export function gaussPoints(a: number, b: number, slices: number): { x: number; w: number }[] {
  const half = (0.5 * (b - a)) / slices;
  return Array.from({ length: 5 * slices }, (_, i) => ({
    x: a + half * (2 * Math.floor(i / 5) + 1 + GAUSS_X[i % 5]),
    w: half * GAUSS_W[i % 5],
  }));
}

/** `count` numbers from a to b with cosine (Chebyshev) clustering at both ends, ends exact. */
export function cosineSpaced(a: number, b: number, count: number): Float64Array {
  const out = new Float64Array(count);
  for (let i = 0; i < count; i++) out[i] = a + (b - a) * 0.5 * (1 - Math.cos((Math.PI * i) / (count - 1)));
  out[0] = a;
  out[count - 1] = b;
  return out;
}

/** Straight line through points by least squares: value at zero, slope, and the root-mean-square misfit. */
export function fitLine(x: ArrayLike<number>, y: ArrayLike<number>): { at0: number; slope: number; misfit: number } {
  const n = x.length;
  let mx = 0;
  let my = 0;
  for (let i = 0; i < n; i++) {
    mx += x[i] / n;
    my += y[i] / n;
  }
  let sxx = 0;
  let sxy = 0;
  for (let i = 0; i < n; i++) {
    sxx += (x[i] - mx) ** 2;
    sxy += (x[i] - mx) * (y[i] - my);
  }
  const slope = sxy / sxx;
  const at0 = my - slope * mx;
  let ss = 0;
  for (let i = 0; i < n; i++) ss += (y[i] - at0 - slope * x[i]) ** 2;
  return { at0, slope, misfit: Math.sqrt(ss / n) };
}
