import { cosineSpaced } from '../numerics';
import type { SurfaceSpline } from './surface-spline';

/** Mean line and thickness along it: for each station the point of the mean line and the full thickness across it. */
export interface MeanLineTable {
  x: Float64Array;
  camber: Float64Array;
  thickness: Float64Array;
}

const STATIONS = 161;

/** Slope at station i of the polynomial through (x[i], height) and the `behind` stations before it, seen in the marching direction. */
function backwardSlope(
  x: Float64Array,
  y: Float64Array,
  i: number,
  way: 1 | -1,
  behind: number,
  height: number,
): number {
  let slope = 0;
  let product = 1;
  const difference = [height, 0, 0, 0];
  let held = 1;
  for (let k = 1; k <= behind; k++) {
    let carry = y[i - way * k];
    for (let m = 0; m < held; m++) {
      const span = x[i - way * k] - x[i - way * (k - 1 - m)];
      const before = difference[m];
      difference[m] = carry;
      carry = (carry - before) / span;
    }
    difference[held++] = carry;
    slope += carry * product;
    product *= x[i] - x[i - way * k];
  }
  return slope;
}

/** Height at station i of the parabola through the three stations before it. */
function carriedOn(x: Float64Array, y: Float64Array, i: number): number {
  const d = (a: number, b: number) => (y[b] - y[a]) / (x[b] - x[a]);
  if (i < 3) return y[i - 1];
  const bend = (d(i - 2, i - 1) - d(i - 3, i - 2)) / (x[i - 1] - x[i - 3]);
  return y[i - 1] + (x[i] - x[i - 1]) * (d(i - 2, i - 1) + bend * (x[i] - x[i - 2]));
}

/** Stretch behind the nose where the line is seeded, chords; how far back its smoothness counts. */
const SEEDED = 0.0035;
const LOOKED_AT = 0.09;
const LOOKED_NEAR = 0.045;
const TRIAL = 0.02;
const ROUNDS = 6;
/** Steepest slope that is scanned, and how many on each side. */
const STEEPEST = 0.9;
const SCANNED = 18;
/** A crest of the camber ahead of this, chords, is close behind the nose; of a camber less than that there is none. */
const FORWARD_CREST = 0.13;
const LEAST_CAMBER = 0.002;
/** A seed from the shorter stretch must be so much smoother there. */
const FORWARD = 0.2;

/**
 * Mean line of any section: the curve from whose points the upper and lower surface are equally far, measured at right angles to it.
 *
 * That is a first-order equation for the line, whose errors die out away from the nose and away from the trailing edge, toward the place
 * of greatest thickness. So it is marched from both ends to there, the slope taken from the points already passed (third order).
 *
 * Near the nose it has one solution for every slope with which the line may leave the outline at right angles; they run together farther
 * back. Of these the smoothest is taken, so that a section laid off from a mean line by formula gives that mean line and thickness back.
 * @param spline the outline. @returns stations from the nose, where the line meets the outline at right angles, to the trailing edge.
 */
export function meanLine(spline: SurfaceSpline): MeanLineTable {
  return new LineMarch(spline).table();
}

class LineMarch {
  private readonly n = STATIONS;
  private readonly x = new Float64Array(STATIONS);
  private readonly y = new Float64Array(STATIONS);
  private readonly thickness = new Float64Array(STATIONS);
  private readonly su = new Float64Array(STATIONS);
  private readonly sl = new Float64Array(STATIONS);
  private readonly vertical: Float64Array;
  private crest = 1;
  /** Arc length where the line leaves the outline. */
  private front: number;

  constructor(private readonly spline: SurfaceSpline) {
    this.front = spline.nose;
    const noseX = spline.x(spline.nose);
    const tailX = 0.5 * (spline.x(0) + spline.x(spline.length));
    const stations = cosineSpaced(0, 1, STATIONS);
    for (let i = 0; i < STATIONS; i++) {
      this.x[i] = noseX + (tailX - noseX) * stations[i];
      const root = Math.sqrt(stations[i]);
      this.su[i] = spline.nose * (1 - (0.15 * root + 0.85 * stations[i]));
      this.sl[i] = spline.nose + (spline.length - spline.nose) * (0.15 * root + 0.85 * stations[i]);
    }
    this.x[STATIONS - 1] = tailX;
    this.cutUpright();
    this.vertical = this.y.slice();
  }

  /** Middle and thickness of the upright chords: the first guess. */
  private cutUpright(): void {
    const { x, y, su, sl, n, spline } = this;
    for (let i = 1; i < n - 1; i++) {
      su[i] = this.cut(x[i], 0, 1, 0, su[i], 0, this.front);
      sl[i] = this.cut(x[i], 0, 1, 0, sl[i], this.front, spline.length);
      y[i] = 0.5 * (spline.y(su[i]) + spline.y(sl[i]));
      this.thickness[i] = spline.y(su[i]) - spline.y(sl[i]);
      if (this.thickness[i] > this.thickness[this.crest]) this.crest = i;
    }
    y[0] = spline.y(this.front);
    y[n - 1] = 0.5 * (spline.y(0) + spline.y(spline.length));
  }

  /** Arc length where the line through (px, py) at right angles to (tx, ty) cuts the outline between two places. */
  private cut(px: number, py: number, tx: number, ty: number, from: number, low: number, high: number): number {
    const { spline } = this;
    const bound = 0.05 * spline.length;
    let s = from;
    for (let k = 0; k < 40; k++) {
      const g = (spline.x(s) - px) * tx + (spline.y(s) - py) * ty;
      const slope = spline.slopeX(s) * tx + spline.slopeY(s) * ty;
      const step = -g / slope;
      if (!Number.isFinite(step)) break;
      const next = Math.min(high, Math.max(low, s + Math.max(-bound, Math.min(bound, step))));
      const moved = Math.abs(next - s);
      s = next;
      if (moved < 1e-11) break;
    }
    return s;
  }

  /** The middle of the normal through (x, y) less y: zero on the mean line. */
  private miss(i: number, height: number, slope: number): number {
    const { x, su, sl, spline } = this;
    const norm = Math.hypot(1, slope);
    su[i] = this.cut(x[i], height, 1 / norm, slope / norm, su[i], 0, this.front);
    sl[i] = this.cut(x[i], height, 1 / norm, slope / norm, sl[i], this.front, spline.length);
    const mx = 0.5 * (spline.x(su[i]) + spline.x(sl[i]));
    const my = 0.5 * (spline.y(su[i]) + spline.y(sl[i]));
    return my - slope * (mx - x[i]) - height;
  }

  private march(from: number, to: number, way: 1 | -1, guess: Float64Array): void {
    const { x, y, su, sl, spline } = this;
    for (let i = from; i !== to + way; i += way) {
      const behind = Math.min(3, 1 + Math.floor(Math.abs(i - from) / 8));
      const slopeAt = (height: number) => backwardSlope(x, y, i, way, way === 1 ? Math.min(3, i) : behind, height);
      const last = i - way;
      // From the nose, the line carried on; from the edge, the correction that the last station needed.
      let before = way === 1 ? carriedOn(x, y, i) : guess[i] + (i === from ? 0 : y[last] - guess[last]);
      let missBefore = this.miss(i, before, slopeAt(before));
      const reach = 0.1 * this.thickness[i] + 1e-5;
      let height = before + 1e-6;
      for (let k = 0; k < 25; k++) {
        const m = this.miss(i, height, slopeAt(height));
        const step = m === missBefore ? 0 : (-m * (height - before)) / (m - missBefore);
        before = height;
        missBefore = m;
        height += Math.max(-reach, Math.min(reach, step));
        if (Math.abs(step) < 1e-12) break;
      }
      y[i] = height;
      this.thickness[i] = Math.hypot(spline.x(su[i]) - spline.x(sl[i]), spline.y(su[i]) - spline.y(sl[i]));
    }
  }

  /** Arc length where a line of some slope leaves the outline at right angles. */
  private leave(slope: number): number {
    const { spline } = this;
    const reach = 0.05 * spline.length;
    let [low, high] = [spline.nose - reach, spline.nose + reach];
    const along = (s: number) => spline.slopeX(s) + slope * spline.slopeY(s);
    if (!(along(low) < 0 && along(high) > 0)) return spline.nose;
    for (let k = 0; k < 44; k++) {
      const mid = 0.5 * (low + high);
      if (along(mid) < 0) low = mid;
      else high = mid;
    }
    return 0.5 * (low + high);
  }

  /** Seeds the line at the nose with a slope and a bend, and marches to station `to`. */
  private fromNose(slope: number, bend: number, to: number): void {
    const { x, y, spline } = this;
    this.front = this.leave(slope);
    const [x0, y0] = [spline.x(this.front), spline.y(this.front)];
    let start = 1;
    while (start < to && x[start] - x0 < SEEDED) start++;
    for (let i = 0; i <= start; i++) y[i] = y0 + (x[i] - x0) * (slope + 0.5 * bend * (x[i] - x0));
    for (let i = 1; i <= start; i++) this.miss(i, y[i], slope + bend * (x[i] - x0));
    for (let i = 1; i <= start; i++)
      this.thickness[i] = Math.hypot(
        spline.x(this.su[i]) - spline.x(this.sl[i]),
        spline.y(this.su[i]) - spline.y(this.sl[i]),
      );
    if (to > start) this.march(start + 1, to, 1, this.vertical);
  }

  /** Fourth divided differences of a line over the stations looked at, weighted so that each tenth of the way counts alike. */
  private roughness(y: Float64Array, from: number, to: number): Float64Array {
    const { x } = this;
    const out = new Float64Array(Math.max(0, to - from - 3));
    const d = new Float64Array(5);
    for (let k = 0; k < out.length; k++) {
      const i = from + k;
      for (let m = 0; m < 5; m++) d[m] = y[i + m];
      for (let order = 1; order < 5; order++)
        for (let m = 0; m + order < 5; m++) d[m] = (d[m + 1] - d[m]) / (x[i + m + order] - x[i + m]);
      out[k] = d[0] * (x[i] - x[0]) ** 3.5;
    }
    return out;
  }

  /** Slope and bend at the nose that upright chords suggest, from well behind it. */
  private upright(place: (share: number) => number): [number, number] {
    const { x, vertical: y } = this;
    const [a, b, c] = [place(0.05), place(0.09), place(0.15)];
    if (!(a < b && b < c)) return [0, 0];
    const first = (y[b] - y[a]) / (x[b] - x[a]);
    const second = ((y[c] - y[b]) / (x[c] - x[b]) - first) / (x[c] - x[a]);
    return [first + second * (2 * x[0] - x[a] - x[b]), 2 * second];
  }

  /** Whether the middles of the upright chords rise highest over the chord line close behind the nose. */
  private crestsForward(): boolean {
    const { x, vertical: y, n } = this;
    const tilt = (y[n - 1] - y[0]) / (x[n - 1] - x[0]);
    let best = 0;
    let most = LEAST_CAMBER;
    for (let i = 1; i < n; i++) {
      const size = Math.abs(y[i] - y[0] - tilt * (x[i] - x[0]));
      if (size > most) [best, most] = [i, size];
    }
    return best > 0 && x[best] - x[0] < FORWARD_CREST * (x[n - 1] - x[0]);
  }

  /** Sum of the squares of the roughness of the line that a seed leads to. */
  private unevenness([slope, bend]: [number, number], from: number, to: number): number {
    this.fromNose(slope, bend, to);
    return this.roughness(this.y, from, to).reduce((sum, v) => sum + v * v, 0);
  }

  /** Of many slopes at the nose the one whose line is smoothest. */
  private scanned(from: number, to: number): number {
    let best = 0;
    let least = Infinity;
    for (let k = -SCANNED; k <= SCANNED; k++) {
      const uneven = this.unevenness([(k * STEEPEST) / SCANNED, 0], from, to);
      // A line of which nothing was cut is no line.
      if (uneven < least && uneven > 1e-20) [best, least] = [(k * STEEPEST) / SCANNED, uneven];
    }
    return best;
  }

  /** The seed near another whose line is smoothest over the stations looked at. */
  private smoothest(
    seed: [number, number],
    from: number,
    back: number,
    place: (share: number) => number,
  ): [number, number] {
    const { x, y } = this;
    let [slope, bend] = seed;
    for (let round = 0; round < ROUNDS; round++) {
      this.fromNose(slope, bend, back);
      const one = y.slice(0, back + 1);
      this.fromNose(slope + TRIAL, bend, back);
      const effect = y.slice(0, back + 1).map((v, i) => v - one[i]);
      const [r, e] = [this.roughness(one, from, back), this.roughness(effect, from, back)];
      let [above, below] = [0, 0];
      r.forEach((v, k) => {
        above += v * e[k];
        below += e[k] * e[k];
      });
      const share = below > 0 ? Math.max(-8, Math.min(8, -above / below)) : 0;
      slope += share * TRIAL;
      const smooth = one.map((v, i) => v + share * effect[i]);
      const second = (p: number, q: number, s: number) =>
        (2 * ((smooth[s] - smooth[q]) / (x[s] - x[q]) - (smooth[q] - smooth[p]) / (x[q] - x[p]))) / (x[s] - x[p]);
      const [p, q, s] = [place(0.012), place(0.03), place(0.05)];
      if (p < q && q < s && s <= back) bend = second(p, q, s);
      else {
        // Over a short stretch the bend itself changes: it is carried on to the nose.
        const [a, b, c, d] = [0.008, 0.018, 0.028, 0.04].map(place);
        if (!(a < b && b < c && c < d && d <= back)) continue;
        const [one, two] = [second(a, b, c), second(b, c, d)];
        const [from, to] = [(x[a] + x[b] + x[c]) / 3, (x[b] + x[c] + x[d]) / 3];
        bend = one + ((two - one) / (to - from)) * (x[0] + 0.5 * SEEDED - from);
      }
      if (Math.abs(share) < 0.03) break;
    }
    return [slope, bend];
  }

  table(): MeanLineTable {
    const { x, y, n, spline } = this;
    const chord = x[n - 1] - x[0];
    const place = (share: number) =>
      Math.min(
        this.crest,
        x.findIndex((v) => v - x[0] > share * chord),
      );
    const from = place(2 * SEEDED);
    const [wide, near] = [place(LOOKED_AT), place(LOOKED_NEAR)];
    let seed: [number, number] = [0, 0];
    if (wide > 12) {
      seed = this.smoothest(this.upright(place), from, wide, place);
      // A crest of the camber close behind the nose bends the line within the stretch looked at: it is then sought over a shorter one.
      if (this.crestsForward()) {
        const other = this.smoothest([this.scanned(from, near), 0], from, near, place);
        if (this.unevenness(other, from, near) < FORWARD * this.unevenness(seed, from, near)) seed = other;
      }
    }
    const [slope, bend] = seed;
    this.fromNose(slope, bend, this.crest);
    const x0 = spline.x(this.front);
    x[0] = x0;
    y[0] = spline.y(this.front);
    this.thickness[0] = 0;
    this.march(n - 2, this.crest + 1, -1, this.vertical);
    this.thickness[n - 1] = Math.hypot(spline.x(0) - spline.x(spline.length), spline.y(0) - spline.y(spline.length));
    // Stations ahead of where the line begins are none of it.
    let first = 1;
    while (x[first] <= x0 + 1e-6 * chord) first++;
    if (first === 1) return { x, camber: y, thickness: this.thickness };
    const keep = (v: Float64Array) => Float64Array.from([v[0], ...v.subarray(first)]);
    return { x: keep(x), camber: keep(y), thickness: keep(this.thickness) };
  }
}
