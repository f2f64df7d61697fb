/**
 * Solves A x = b by restarted GMRES, preconditioned from the right.
 * @param apply A times a vector into another. @param precondition applied in place.
 * @param x start, and the solution. @returns the residual's size over that of b.
 * @source SIAM J. Sci. Stat. Comput. 7(3), 1986, 856–869.
 */
export function gmres(
  apply: (x: Float64Array, out: Float64Array) => void,
  precondition: (x: Float64Array) => void,
  b: Float64Array,
  x: Float64Array,
  tolerance = 1e-9,
  restart = 60,
  most = 300,
): number {
  const n = b.length;
  const norm = (v: Float64Array) => {
    let s = 0;
    for (let i = 0; i < n; i++) s += v[i] * v[i];
    return Math.sqrt(s);
  };
  const size = norm(b);
  if (size === 0) {
    x.fill(0);
    return 0;
  }
  const work = new Float64Array(n);
  let total = 0;
  for (;;) {
    apply(x, work);
    const r = b.map((v, i) => v - work[i]);
    const beta = norm(r);
    if (beta <= tolerance * size || total >= most) return beta / size;
    const basis = [r.map((v) => v / beta)];
    const h: Float64Array[] = [];
    const cs: number[] = [];
    const sn: number[] = [];
    const g = new Float64Array(restart + 1);
    g[0] = beta;
    let k = 0;
    while (k < restart && total < most) {
      const z = basis[k].slice();
      precondition(z);
      const w = new Float64Array(n);
      apply(z, w);
      const column = new Float64Array(k + 2);
      for (let i = 0; i <= k; i++) {
        const v = basis[i];
        let dot = 0;
        for (let j = 0; j < n; j++) dot += w[j] * v[j];
        column[i] = dot;
        for (let j = 0; j < n; j++) w[j] -= dot * v[j];
      }
      const next = norm(w);
      column[k + 1] = next;
      for (let i = 0; i < k; i++) {
        const t = cs[i] * column[i] + sn[i] * column[i + 1];
        column[i + 1] = -sn[i] * column[i] + cs[i] * column[i + 1];
        column[i] = t;
      }
      const d = Math.hypot(column[k], column[k + 1]) || 1e-300;
      cs.push(column[k] / d);
      sn.push(column[k + 1] / d);
      column[k] = d;
      g[k + 1] = -sn[k] * g[k];
      g[k] *= cs[k];
      h.push(column);
      total++;
      k++;
      if (Math.abs(g[k]) <= 0.5 * tolerance * size || next < 1e-300) break;
      basis.push(w.map((v) => v / next));
    }
    const y = new Float64Array(k);
    for (let i = k - 1; i >= 0; i--) {
      let s = g[i];
      for (let j = i + 1; j < k; j++) s -= h[j][i] * y[j];
      y[i] = s / h[i][i];
    }
    const step = new Float64Array(n);
    for (let i = 0; i < k; i++) for (let j = 0; j < n; j++) step[j] += y[i] * basis[i][j];
    precondition(step);
    for (let j = 0; j < n; j++) x[j] += step[j];
  }
}
