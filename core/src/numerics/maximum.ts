/** A place where a function is greatest. */
export interface Maximum {
  x: number;
  value: number;
  /** Whether the function still rises at an end of the range: the place is that end. */ atEnd: 'low' | 'high' | null;
}

const GOLDEN = 0.381966011250105;

/**
 * The greatest value of a function over a range: samples first, then parabolas and golden sections about the best.
 * @param f null where it has no value. @param samples rising places, two or more. @param tolerance of the place, a share of its size.
 * @returns null where the function has no value at any sample.
 * @source R. P. Brent, Algorithms for Minimization without Derivatives, 1973, chapter 5.
 */
export function greatestOf(
  f: (x: number) => number | null,
  samples: readonly number[],
  tolerance = 1e-4,
): Maximum | null {
  const values = samples.map(f);
  let best = -1;
  values.forEach((v, i) => {
    if (v !== null && (best < 0 || v > values[best]!)) best = i;
  });
  if (best < 0) return null;
  const last = samples.length - 1;
  if (best === 0) return { x: samples[0], value: values[0]!, atEnd: 'low' };
  if (best === last) return { x: samples[last], value: values[last]!, atEnd: 'high' };
  let [a, b] = [samples[best - 1], samples[best + 1]];
  let [x, w, v] = [samples[best], samples[best], samples[best]];
  let [fx, fw, fv] = [values[best]!, values[best]!, values[best]!];
  let [step, before] = [0, 0];
  for (let k = 0; k < 60; k++) {
    const middle = 0.5 * (a + b);
    const near = tolerance * Math.abs(x) + 1e-12;
    if (Math.abs(x - middle) <= 2 * near - 0.5 * (b - a)) break;
    let golden = true;
    if (Math.abs(before) > near) {
      const r = (x - w) * (fx - fv);
      let q = (x - v) * (fx - fw);
      let p = (x - v) * q - (x - w) * r;
      q = 2 * (q - r);
      if (q > 0) p = -p;
      q = Math.abs(q);
      const old = before;
      before = step;
      if (Math.abs(p) < Math.abs(0.5 * q * old) && p > q * (a - x) && p < q * (b - x)) {
        step = p / q;
        golden = false;
      }
    }
    if (golden) {
      before = x < middle ? b - x : a - x;
      step = GOLDEN * before;
    }
    const u = x + (Math.abs(step) >= near ? step : near * Math.sign(step || 1));
    const fu = f(u);
    // Where it has no value it is as low as can be.
    const value = fu ?? -Infinity;
    if (value >= fx) {
      if (u < x) b = x;
      else a = x;
      [v, fv, w, fw, x, fx] = [w, fw, x, fx, u, value];
    } else {
      if (u < x) a = u;
      else b = u;
      if (value >= fw || w === x) [v, fv, w, fw] = [w, fw, u, value];
      else if (value >= fv || v === x || v === w) [v, fv] = [u, value];
    }
  }
  return { x, value: fx, atEnd: null };
}
