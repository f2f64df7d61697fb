import { FailedComputation } from './errors';

const MOST_TURNS = 60;

/**
 * Eigenvalues of a real square matrix, those of pairs both, without vectors: balanced, brought to Hessenberg form, then by QR steps of double shift.
 * @param a n × n, row by row; overwritten. @returns [real, imaginary] parts, in no order.
 * @throws FailedComputation `poles` where a value does not settle.
 * @source Numer. Math. 13(4), 1969, 293–304 (balancing); 12(5), 1968, 349–368 (Hessenberg form); 14(3), 1970, 219–231 (QR).
 */
export function eigenvalues(a: Float64Array, n: number): [number, number][] {
  balance(a, n);
  toHessenberg(a, n);
  return byShifts(a, n);
}

/** Rows and columns of like size: eigenvalues of a matrix that has them not lose their digits. */
function balance(a: Float64Array, n: number): void {
  for (let round = 0, changed = true; changed && round < 100; round++) {
    changed = false;
    for (let i = 0; i < n; i++) {
      let [row, column] = [0, 0];
      for (let j = 0; j < n; j++)
        if (j !== i) {
          row += Math.abs(a[i * n + j]);
          column += Math.abs(a[j * n + i]);
        }
      if (row === 0 || column === 0) continue;
      const f = 2 ** Math.round(0.5 * Math.log2(row / column));
      if (f === 1 || !(column * f + row / f < 0.95 * (row + column))) continue;
      changed = true;
      for (let j = 0; j < n; j++) a[i * n + j] /= f;
      for (let j = 0; j < n; j++) a[j * n + i] *= f;
    }
  }
}

/** By elimination with exchanges; below the subdiagonal zeros are left. */
function toHessenberg(a: Float64Array, n: number): void {
  for (let m = 1; m + 1 < n; m++) {
    let pivot = m;
    for (let i = m + 1; i < n; i++) if (Math.abs(a[i * n + m - 1]) > Math.abs(a[pivot * n + m - 1])) pivot = i;
    const x = a[pivot * n + m - 1];
    if (x === 0) continue;
    if (pivot !== m) {
      for (let j = m - 1; j < n; j++) {
        const v = a[pivot * n + j];
        a[pivot * n + j] = a[m * n + j];
        a[m * n + j] = v;
      }
      for (let i = 0; i < n; i++) {
        const v = a[i * n + pivot];
        a[i * n + pivot] = a[i * n + m];
        a[i * n + m] = v;
      }
    }
    for (let i = m + 1; i < n; i++) {
      const y = a[i * n + m - 1] / x;
      if (y === 0) continue;
      a[i * n + m - 1] = 0;
      for (let j = m; j < n; j++) a[i * n + j] -= y * a[m * n + j];
      for (let k = 0; k < n; k++) a[k * n + m] += y * a[k * n + i];
    }
  }
}

function byShifts(h: Float64Array, n: number): [number, number][] {
  const out: [number, number][] = [];
  let norm = 0;
  for (let i = 0; i < n; i++) for (let j = Math.max(0, i - 1); j < n; j++) norm += Math.abs(h[i * n + j]);
  let last = n - 1;
  let shifted = 0;
  for (let turns = 0; last >= 0;) {
    // Where the matrix falls apart: a subdiagonal that is nothing beside its neighbours.
    let first = last;
    for (; first > 0; first--) {
      const s = Math.abs(h[(first - 1) * n + first - 1]) + Math.abs(h[first * n + first]) || norm;
      if (Math.abs(h[first * n + first - 1]) <= Number.EPSILON * s) {
        h[first * n + first - 1] = 0;
        break;
      }
    }
    const x = h[last * n + last];
    if (first === last) {
      out.push([x + shifted, 0]);
      last--;
      turns = 0;
      continue;
    }
    const y = h[(last - 1) * n + last - 1];
    const w = h[last * n + last - 1] * h[(last - 1) * n + last];
    if (first === last - 1) {
      out.push(...pairOf(x, y, w, shifted));
      last -= 2;
      turns = 0;
      continue;
    }
    if (turns === MOST_TURNS)
      throw new FailedComputation('poles', 'The poles of the loop do not settle.', 'Lower the gains.');
    let shift = { x, y, w };
    if (turns > 0 && turns % 10 === 0) {
      // A shift of another kind, for matrices that the usual one leaves as they are.
      shifted += x;
      for (let i = 0; i <= last; i++) h[i * n + i] -= x;
      const s = Math.abs(h[last * n + last - 1]) + Math.abs(h[(last - 1) * n + last - 2]);
      shift = { x: 0.75 * s, y: 0.75 * s, w: -0.4375 * s * s };
    }
    turns++;
    sweep(h, n, first, last, shift);
  }
  return out;
}

/** The two values of the last block. */
function pairOf(x: number, y: number, w: number, shifted: number): [number, number][] {
  const p = 0.5 * (y - x);
  const q = p * p + w;
  const z = Math.sqrt(Math.abs(q));
  if (q < 0)
    return [
      [x + shifted + p, z],
      [x + shifted + p, -z],
    ];
  const far = p + (p >= 0 ? z : -z);
  return [
    [x + shifted + far, 0],
    [x + shifted + (far === 0 ? 0 : -w / far), 0],
  ];
}

/** One QR step of double shift over the rows from `first` to `last`. */
function sweep(
  h: Float64Array,
  n: number,
  first: number,
  last: number,
  { x, y, w }: { x: number; y: number; w: number },
): void {
  let [p, q, r] = [0, 0, 0];
  let m = last - 2;
  // It may begin further down, where two subdiagonals in a row are small.
  for (; m >= first; m--) {
    const z = h[m * n + m];
    const [a, b] = [x - z, y - z];
    p = (a * b - w) / h[(m + 1) * n + m] + h[m * n + m + 1];
    q = h[(m + 1) * n + m + 1] - z - a - b;
    r = h[(m + 2) * n + m + 1];
    const s = Math.abs(p) + Math.abs(q) + Math.abs(r);
    p /= s;
    q /= s;
    r /= s;
    if (m === first) break;
    const u = Math.abs(h[m * n + m - 1]) * (Math.abs(q) + Math.abs(r));
    const v = Math.abs(p) * (Math.abs(h[(m - 1) * n + m - 1]) + Math.abs(z) + Math.abs(h[(m + 1) * n + m + 1]));
    if (u <= Number.EPSILON * v) break;
  }
  for (let i = m + 2; i <= last; i++) {
    h[i * n + i - 2] = 0;
    if (i > m + 2) h[i * n + i - 3] = 0;
  }
  for (let k = m; k < last; k++) {
    const three = k + 1 < last;
    let size = 1;
    if (k > m) {
      p = h[k * n + k - 1];
      q = h[(k + 1) * n + k - 1];
      r = three ? h[(k + 2) * n + k - 1] : 0;
      size = Math.abs(p) + Math.abs(q) + Math.abs(r);
      if (size === 0) continue;
      p /= size;
      q /= size;
      r /= size;
    }
    const root = Math.sqrt(p * p + q * q + r * r);
    const s = p < 0 ? -root : root;
    if (s === 0) continue;
    if (k > m) h[k * n + k - 1] = -s * size;
    else if (first !== m) h[k * n + k - 1] = -h[k * n + k - 1];
    p += s;
    const [a, b, c] = [p / s, q / s, r / s];
    q /= p;
    r /= p;
    for (let j = k; j <= last; j++) {
      const t = h[k * n + j] + q * h[(k + 1) * n + j] + (three ? r * h[(k + 2) * n + j] : 0);
      h[k * n + j] -= t * a;
      h[(k + 1) * n + j] -= t * b;
      if (three) h[(k + 2) * n + j] -= t * c;
    }
    const most = Math.min(last, k + 3);
    for (let i = first; i <= most; i++) {
      const t = a * h[i * n + k] + b * h[i * n + k + 1] + (three ? c * h[i * n + k + 2] : 0);
      h[i * n + k] -= t;
      h[i * n + k + 1] -= t * q;
      if (three) h[i * n + k + 2] -= t * r;
    }
  }
}
