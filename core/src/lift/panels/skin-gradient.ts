import type { Patch } from './patch';
import { across, type Units } from './units';

type Place = [number, number, number];

/** Units of the skins, and where they stand. */
export interface SkinUnits {
  units: Units;
  centre: Float64Array;
  normal: Float64Array;
  /** By which x of the patches' nodes is multiplied there. */ stretch: number;
  /** From which x on wakes lie on the skin. */ wakesFrom: number;
  /** What the value jumps by from one unit to another where a wake passes between them. */
  jump: (from: number, to: number) => number;
}

/** Less than this share of a panel says too little about the flow along it: it has that of its neighbour. */
const ENOUGH = 0.5;
/** So has a unit beside a cut or a wake where the difference would be more than any flow's, in speeds of the stream. */
const MOST = 2;
/** And one beside a wake that lies on a body. */
const MOST_BY_WAKE = 0.35;
const ROUNDS = 6;

/**
 * Gradient of a value known at the centres of a patch's units, in the plane of each. Where a panel is cut, neighbours are what hangs together with it.
 * @param offset of the patch's panels. @param out three numbers a unit.
 */
export function patchGradient(
  { units, centre, normal, stretch, wakesFrom, jump }: SkinUnits,
  patch: Patch,
  offset: number,
  mu: Float64Array,
  out: Float64Array,
): void {
  const { ni, nj, onPlane, wraps, poles, nodes } = patch;
  const { first } = units;
  const index = (i: number, j: number) => offset + j * ni + i;
  interface Neighbour {
    unit: number;
    value: number;
    place: Place;
    pole?: Place;
  }
  /** What a unit of the panel (i, j) goes over into in a direction, which may be an image; null where its skin ends. */
  const neighbour = (unit: number, i: number, j: number, di: number, dj: number, slivers = false): Neighbour | null => {
    let [a, b, image] = [i + di, j + dj, false];
    let over: Place | undefined;
    if (a < 0) {
      if (!wraps && !onPlane.start) return null;
      [a, image] = wraps ? [ni - 1, false] : [0, true];
    }
    if (a >= ni) {
      if (!wraps && !onPlane.end) return null;
      [a, image] = wraps ? [0, false] : [ni - 1, true];
    }
    if (b < 0 || b >= nj) {
      const pole = b < 0 ? poles.first : poles.last;
      if (!pole && !(b < 0 ? onPlane.first : onPlane.last)) return null;
      // Across a pole, or across the plane of symmetry.
      if (pole && wraps) [a, image] = [(a + ni / 2) % ni, false];
      else if (pole) [a, image] = [ni - 1 - a, true];
      else image = true;
      if (pole) {
        const at = b < 0 ? 0 : 3 * nj * (ni + 1);
        over = [nodes[at] * stretch, nodes[at + 1], nodes[at + 2]];
      }
      b = b < 0 ? 0 : nj - 1;
    }
    const panel = index(a, b);
    let found: number;
    if (over) found = first[panel + 1] > first[panel] ? first[panel] : -1;
    else if (panel === units.panel[unit]) found = unit;
    else found = across(units, unit, panel, di !== 0 ? 'i' : 'j', di + dj > 0 ? 1 : -1);
    if (found < 0 || (units.share[found] < ENOUGH && !slivers)) return null;
    const at = 3 * found;
    return {
      unit: found,
      value: mu[found] - jump(unit, found),
      place: [centre[at], image ? -centre[at + 1] : centre[at + 1], centre[at + 2]],
      pole: over,
    };
  };
  // Along the skin: over a pole, and not through the body.
  const distance = (a: Place, b: Place, pole?: Place): number =>
    pole ? distance(a, pole) + distance(pole, b) : Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
  const cut = Array.from({ length: ni * nj }, (_, p) => offset + p).some((p) => units.cells.has(p));
  let left: [number, number, number][] = [];
  for (let j = 0; j < nj; j++)
    for (let i = 0; i < ni; i++)
      for (let k = first[index(i, j)]; k < first[index(i, j) + 1]; k++)
        if (units.share[k] < ENOUGH || !gradientOf(k, i, j)) left.push([k, i, j]);
  // From those that are known outward.
  const open = new Set(left.map(([k]) => k));
  for (let round = 0; left.length > 0 && round < ROUNDS; round++) {
    const closed: number[] = [];
    left = left.filter(([k, i, j]) => {
      const beside = [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ].map(([di, dj]) => neighbour(k, i, j, di, dj, true)?.unit);
      const known = beside.find((u) => u !== undefined && u !== k && !open.has(u));
      if (known === undefined) return true;
      out.copyWithin(3 * k, 3 * known, 3 * known + 3);
      closed.push(k);
      return false;
    });
    closed.forEach((k) => open.delete(k));
  }

  /** Whether a wake that lies on the skin passes a panel, or one beside it. */
  function byWake(k: number, i: number, j: number): boolean {
    if (!(centre[3 * k] > wakesFrom)) return false;
    for (let b = Math.max(0, j - 1); b <= Math.min(nj - 1, j + 1); b++)
      for (let a = i - 1; a <= i + 1; a++) {
        const inside = a >= 0 && a < ni;
        if ((inside || wraps) && units.cells.has(index((a + ni) % ni, b))) return true;
      }
    return false;
  }

  /** @returns false where it is not to be believed. */
  function gradientOf(k: number, i: number, j: number): boolean {
    const here = 3 * k;
    const place: Place = [centre[here], centre[here + 1], centre[here + 2]];
    let doubtful = units.share[k] < 1;
    const along = (di: number, dj: number): { d: number[]; slope: number } | null => {
      const [p, q] = [neighbour(k, i, j, -di, -dj), neighbour(k, i, j, di, dj)];
      doubtful ||= (p !== null && p.value !== mu[p.unit]) || (q !== null && q.value !== mu[q.unit]);
      if (p && q) {
        const [h, g] = [distance(place, p.place, p.pole), distance(q.place, place, q.pole)];
        if (h < 1e-12 || g < 1e-12) return null;
        // Slope of the parabola through three places along the skin.
        const slope = ((q.value - mu[k]) / g) * (h / (h + g)) + ((mu[k] - p.value) / h) * (g / (h + g));
        return { d: q.place.map((v, d) => v - p.place[d]), slope };
      }
      const one = q ?? p;
      doubtful ||= cut;
      if (!one) return null;
      const way = q ? 1 : -1;
      const h = distance(place, one.place);
      if (h < 1e-12) return null;
      let slope = (way * (one.value - mu[k])) / h;
      const inner = i + way * di >= 0 && i + way * di < ni && j + way * dj >= 0 && j + way * dj < nj;
      const two = inner ? neighbour(one.unit, i + way * di, j + way * dj, way * di, way * dj) : null;
      if (two) {
        const g = distance(two.place, one.place);
        // Its own jump is against the first one.
        const next = (way * (two.value - mu[one.unit])) / Math.max(g, 1e-12);
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
    const value: number[] = [0, 0, 0];
    const one = a ?? b;
    if (!one) return true;
    const [u, v] = [unit(one.d), a && b ? unit(b.d) : null];
    const skew = v ? u[0] * v[0] + u[1] * v[1] + u[2] * v[2] : 0;
    const below = 1 - skew * skew;
    if (v && below >= 1e-6) {
      const [p, q] = [(a!.slope - skew * b!.slope) / below, (b!.slope - skew * a!.slope) / below];
      for (let m = 0; m < 3; m++) value[m] = p * u[m] + q * v[m];
    } else for (let m = 0; m < 3; m++) value[m] = u[m] * one.slope;
    const speed = Math.hypot(value[0], value[1], value[2]);
    if ((doubtful && speed > MOST) || (speed > MOST_BY_WAKE && byWake(k, i, j))) return false;
    out.set(value, here);
    return true;
  }
}
