import { extent, ticks } from 'd3-array';
import type { SeriesStyle } from './series-style';

export interface ChartPoint {
  x: number;
  y: number;
  /** What links points of different figures: an angle, a station. */
  tag?: number;
  status?: 'solved' | 'doubtful' | 'unsolved';
  /** Drawn where it falls into the limits, which are not fitted to it. */
  aside?: boolean;
}
export interface ChartSeries {
  id: string;
  label: string;
  style: SeriesStyle;
  points: ChartPoint[];
  /** Drawn thin, faint and without markers: something to compare with. */
  reference?: boolean;
  markers?: boolean;
  /** Points that make no curve, however many. */ dots?: boolean;
  /** The line that the ground down to it is tinted to: of parts that stand one on the other. */
  over?: { x: number; y: number }[];
}
export interface ChartBand {
  axis: 'x' | 'y';
  from: number | null;
  to: number | null;
  label: string;
}
export interface ChartMark {
  x: number;
  y: number;
  text: string;
  colour: string;
  /** The curve falls here: its word stands where the curve is not, under the place when it is left of it. */ falling?: boolean;
}
export interface ChartNote {
  id: string;
  x: number;
  y: number;
  text: string;
}
export interface AxisSpec {
  name: string;
  unit?: string;
  /** Quantities that can stand on this axis. */
  options?: { id: string; name: string }[];
  value?: string;
  invert?: boolean;
  /** Always shows zero. */
  zero?: boolean;
  /** Logarithmic; linear without. */
  scale?: 'linear' | 'log';
}
export interface Limits {
  min: number;
  max: number;
  step: number | null;
}

/** What is smaller is what sums leave of zero. */
const NOTHING = 1e-13;
/** Whether values are the same but for their last digits. */
function isFlat(low: number, high: number): boolean {
  const size = Math.max(Math.abs(low), Math.abs(high));
  return size < NOTHING || high - low <= 1e-10 * size;
}

/** Limits that hold all finite values with a little air, and zero where it is asked for or near. */
export function fitDomain(values: Iterable<number>, zero = false): [number, number] {
  const finite = Array.from(values).filter(Number.isFinite);
  let [low, high] = extent(finite);
  if (low === undefined || high === undefined) return [0, 1];
  if (zero || (low > 0 && low < 0.25 * high)) low = Math.min(low, 0);
  if (zero || (high < 0 && high > 0.25 * low)) high = Math.max(high, 0);
  if (isFlat(low, high)) {
    const size = Math.max(Math.abs(low), Math.abs(high));
    const air = size < NOTHING ? 1 : 0.1 * size;
    return [low - air, high + air];
  }
  const air = 0.05 * (high - low);
  return [low === 0 ? 0 : low - air, high === 0 ? 0 : high + air];
}

/** The finite extremes of some curves above a bound; none where there is nothing. One walk with nothing built: it runs at every redraw. */
function extremes(series: readonly ChartSeries[], axis: 'x' | 'y', above: number): number[] {
  let [low, high] = [Infinity, -Infinity];
  for (const s of series)
    for (const p of s.points) {
      const v = p[axis];
      if (p.aside || !(v > above) || v === Infinity) continue;
      if (v < low) low = v;
      if (v > high) high = v;
    }
  return low <= high ? [low, high] : [];
}

/** Limits that fit some curves: x tight, y with a little air. */
export function domainOf(series: readonly ChartSeries[], axis: 'x' | 'y', spec: AxisSpec): [number, number] {
  const ends = extremes(series, axis, spec.scale === 'log' ? 0 : -Infinity);
  const [low, high] = ends;
  if (spec.scale === 'log') return ends.length === 0 ? [1, 10] : low === high ? [low / 2, high * 2] : [low, high];
  if (axis === 'y') return fitDomain(ends, spec.zero);
  if (ends.length === 0) return [0, 1];
  const [from, to] = spec.zero ? [Math.min(low, 0), Math.max(high, 0)] : [low, high];
  return isFlat(from, to) ? [from - 1, to + 1] : [from, to];
}

/** Ticks that never clump: as many as fit at a spacing in pixels, at round numbers, or at a step of choice. */
export function axisTicks(
  domain: [number, number],
  pixels: number,
  spacing: number,
  step: number | null = null,
): number[] {
  const [low, high] = domain[0] < domain[1] ? domain : [domain[1], domain[0]];
  const most = Math.max(2, Math.floor(pixels / spacing));
  if (step && step > 0 && (high - low) / step <= most * 2.5) {
    const out: number[] = [];
    for (let v = Math.ceil(low / step - 1e-9) * step; v <= high + 1e-9 * step; v += step)
      out.push(Number(v.toPrecision(12)));
    return out;
  }
  let made: number[] = [];
  for (let count = most; count >= 1 && made.length === 0; count--) {
    const some = ticks(low, high, count);
    if (some.length <= most + 1) made = some;
  }
  // One alone says nothing of the scale.
  for (let count = most + 1; made.length < 2 && count <= most + 8; count++) made = ticks(low, high, count);
  return made;
}

/** Decimals that tell neighbouring ticks apart. */
export function tickDigits(list: readonly number[]): number {
  if (list.length < 2) return 2;
  const step = Math.abs(list[1] - list[0]);
  for (let digits = 0; digits < 7; digits++)
    if (Math.abs(step * 10 ** digits - Math.round(step * 10 ** digits)) < 1e-6 * step * 10 ** digits) return digits;
  return 6;
}

/** Moves labels apart along one direction so that none touch, keeping their order and staying between the ends. */
export function spreadLabels(wanted: readonly number[], gap: number, low: number, high: number): number[] {
  const order = wanted.map((y, i) => ({ y, i })).sort((a, b) => a.y - b.y);
  const placed = order.map((o) => o.y);
  for (let pass = 0; pass < 60; pass++) {
    let moved = false;
    for (let k = 1; k < placed.length; k++) {
      const overlap = gap - (placed[k] - placed[k - 1]);
      if (overlap > 0.01) {
        placed[k - 1] -= overlap / 2;
        placed[k] += overlap / 2;
        moved = true;
      }
    }
    for (let k = 0; k < placed.length; k++)
      placed[k] = Math.min(high - gap * (placed.length - 1 - k), Math.max(low + gap * k, placed[k]));
    if (!moved) break;
  }
  const out = new Array<number>(wanted.length);
  order.forEach((o, k) => (out[o.i] = placed[k]));
  return out;
}

/** The point of a series nearest to a tag, or to an x. */
export function nearestPoint(series: ChartSeries, at: { tag?: number | null; x?: number | null }): ChartPoint | null {
  let best: ChartPoint | null = null;
  let least = Infinity;
  for (const p of series.points) {
    if (p.status === 'unsolved' || !Number.isFinite(p.y)) continue;
    // Points that make no curve are themselves, and none stands for another.
    if (series.dots && at.tag != null && p.tag !== at.tag) continue;
    const d = at.tag != null ? Math.abs((p.tag ?? NaN) - at.tag) : at.x != null ? Math.abs(p.x - at.x) : Infinity;
    if (d < least) {
      least = d;
      best = p;
    }
  }
  return best;
}
