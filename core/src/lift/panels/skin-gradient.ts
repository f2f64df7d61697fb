import type { Panels } from './panel-geometry';
import type { Patch } from './patch';

type Place = [number, number, number];

/** Gradient of a value known at the centres of a patch's panels, in the plane of each. */
export function patchGradient(panels: Panels, patch: Patch, offset: number, mu: Float64Array, out: Float64Array): void {
  const { ni, nj, onPlane, wraps, poles, nodes } = patch;
  const { centre, normal } = panels;
  const index = (i: number, j: number) => offset + j * ni + i;
  /** A neighbour: its value and its place, which may be that of an image. */
  const neighbour = (i: number, j: number): { value: number; place: Place; pole?: Place } => {
    let [a, b, image] = [i, j, false];
    let over: Place | undefined;
    if (a < 0) [a, image] = wraps ? [ni - 1, false] : [0, true];
    if (a >= ni) [a, image] = wraps ? [0, false] : [ni - 1, true];
    if (b < 0 || b >= nj) {
      const pole = b < 0 ? poles.first : poles.last;
      // Across a pole, or across the plane of symmetry.
      if (pole && wraps) [a, image] = [(a + ni / 2) % ni, false];
      else if (pole) [a, image] = [ni - 1 - a, true];
      else image = true;
      if (pole) {
        const at = b < 0 ? 0 : 3 * nj * (ni + 1);
        over = [nodes[at], nodes[at + 1], nodes[at + 2]];
      }
      b = b < 0 ? 0 : nj - 1;
    }
    const at = 3 * index(a, b);
    return {
      value: mu[index(a, b)],
      place: [centre[at], image ? -centre[at + 1] : centre[at + 1], centre[at + 2]],
      pole: over,
    };
  };
  for (let j = 0; j < nj; j++)
    for (let i = 0; i < ni; i++) {
      const k = index(i, j);
      const here = 3 * k;
      const place: Place = [centre[here], centre[here + 1], centre[here + 2]];
      const along = (di: number, dj: number): { d: number[]; slope: number } | null => {
        const inside = (a: number, b: number) => {
          if (a < 0) return wraps || onPlane.start;
          if (a >= ni) return wraps || onPlane.end;
          if (b < 0) return onPlane.first || poles.first;
          if (b >= nj) return onPlane.last || poles.last;
          return true;
        };
        // Along the skin: over a pole, and not through the body.
        const distance = (a: Place, b: Place, pole?: Place): number =>
          pole ? distance(a, pole) + distance(pole, b) : Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
        const [back, ahead] = [inside(i - di, j - dj), inside(i + di, j + dj)];
        if (back && ahead) {
          const [p, q] = [neighbour(i - di, j - dj), neighbour(i + di, j + dj)];
          const [h, g] = [distance(place, p.place, p.pole), distance(q.place, place, q.pole)];
          if (h < 1e-12 || g < 1e-12) return null;
          // Slope of the parabola through three places along the skin.
          const slope = ((q.value - mu[k]) / g) * (h / (h + g)) + ((mu[k] - p.value) / h) * (g / (h + g));
          return { d: q.place.map((v, d) => v - p.place[d]), slope };
        }
        const way = ahead ? 1 : back ? -1 : 0;
        if (way === 0) return null;
        const one = neighbour(i + way * di, j + way * dj);
        const h = distance(place, one.place);
        if (h < 1e-12) return null;
        let slope = (way * (one.value - mu[k])) / h;
        if (inside(i + 2 * way * di, j + 2 * way * dj)) {
          const two = neighbour(i + 2 * way * di, j + 2 * way * dj);
          const g = distance(two.place, one.place);
          const next = (way * (two.value - one.value)) / Math.max(g, 1e-12);
          // The slope at the end of the parabola through three places.
          if (g > 1e-12) slope += ((slope - next) * h) / (h + g);
        }
        return { d: one.place.map((v, d) => way * (v - place[d])), slope };
      };
      const [a, b] = [along(1, 0), along(0, 1)];
      const nrm = normal.subarray(here, here + 3);
      const unit = (d: readonly number[]) => {
        const dot = d[0] * nrm[0] + d[1] * nrm[1] + d[2] * nrm[2];
        const t = d.map((v, m) => v - dot * nrm[m]);
        const size = Math.hypot(t[0], t[1], t[2]);
        return t.map((v) => v / size);
      };
      if (!a && !b) continue;
      if (!a || !b) {
        const only = (a ?? b)!;
        unit(only.d).forEach((v, m) => (out[here + m] = v * only.slope));
        continue;
      }
      const [u, v] = [unit(a.d), unit(b.d)];
      const skew = u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
      const below = 1 - skew * skew;
      if (below < 1e-6) {
        u.forEach((value, m) => (out[here + m] = value * a.slope));
        continue;
      }
      const [p, q] = [(a.slope - skew * b.slope) / below, (b.slope - skew * a.slope) / below];
      for (let m = 0; m < 3; m++) out[here + m] = p * u[m] + q * v[m];
    }
}
