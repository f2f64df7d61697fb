import { DEG, rootBetween } from '../numerics';

/**
 * Margins of an open loop by the criterion of Nyquist: how much its gain or its phase may change until a closed pole crosses the imaginary axis, in the
 * direction in which that costs stability. Null where no change of that kind does, with the reason.
 */
export interface Margins {
  /**
   * dB. Of a stable loop the smallest change of its gain that makes it unstable: above 0 a rise, below 0 a fall that it bears. Of an unstable loop below 0: how
   * far its gain must fall until it is stable.
   */
  gainMarginDb: number | null;
  /** Degrees, above 0 of a stable loop; of an unstable one below 0: the lead that makes it stable. */
  phaseMarginDeg: number | null;
  /** Whether more lag or more lead uses the phase margin up. */ phaseWay: 'lag' | 'lead' | null;
  /** rad/s, where the loop's gain is 1. */ gainCrossover: number | null;
  /** rad/s, where its phase is −180°; 0 of a loop that crosses at rest. */ phaseCrossover: number | null;
  /** Why a figure is null. */
  reasons: { gainMarginDb?: string; phaseMarginDeg?: string };
}

type Complex = [number, number];
const POINTS = 4000;
/** Steps of derivatives along the frequency, as a share of it. */
const STEP = 1e-5;

/** A root of f between two places, found over the logarithm of the frequency. @param seen its values there: a frequency that is taken to its logarithm and back is another one. */
const root = (f: (w: number) => number, a: number, b: number, seen: readonly [number, number]): number =>
  Math.exp(rootBetween((v) => f(Math.exp(v)), Math.log(a), Math.log(b), 1e-14, seen));
const size = (v: Complex) => Math.hypot(v[0], v[1]);

/** A place where a closed pole stands on the imaginary axis once the loop's gain or phase has changed so much. */
interface Crossing {
  w: number;
  /** dB, or degrees of lag (−180 to 180). */ change: number;
  /** Closed poles that go over to the right while the change goes on: negative where they come back. */
  over: number;
}

/**
 * Gain and phase margins of an open loop, a delay counted exactly.
 *
 * With 1 + k e^(−jφ) L(s) = 0 a closed pole moves with ln k by −L/L′ and with φ by j L/L′; the sign of the real part tells at each crossing whether stability is
 * lost or won there, so that crossings which change nothing of it do not count.
 * @param at response at a frequency, rad/s. @param corners frequencies of its poles, rad/s, about which it is looked closer.
 * @param unstable closed poles that lie on the right: 0 of a stable loop.
 * @param points that crossings are looked for at first, evenly in the logarithm. @param most the highest frequency that is looked at, rad/s.
 * @source Nyquist, Bell System Technical Journal 11, 1932, 126–147; Franklin, Powell and Emami-Naeini, Feedback Control of Dynamic Systems, §6.3–6.4.
 */
export function marginsOf(
  at: (w: number) => Complex,
  corners: readonly number[],
  unstable = 0,
  points = POINTS,
  most = Infinity,
): Margins {
  // Both poles of a pair have one corner.
  const known = [...new Set(corners.map((c) => Number(c.toPrecision(9))))].filter((c) => c > 1e-9 && c < most);
  const [low, high] = [1e-4 * Math.min(1, ...known), Math.min(most, 1e4 * Math.max(1, ...known))];
  const grid = Array.from({ length: points }, (_, i) => low * (high / low) ** (i / (points - 1)));
  // A lightly damped pole turns the loop within a narrow band.
  const near = points < POINTS ? 8 : 40;
  for (const c of known) for (let k = -near; k <= near; k++) grid.push(Math.min(high, c * (1 + k / (10 * near))));
  grid.sort((a, b) => a - b);
  const values = grid.map(at);
  const gainAt = (w: number) => -20 * Math.log10(size(at(w)));
  /** Lag that brings the loop to −180°, −180 to 180. */
  const lagAt = (w: number) => {
    const [re, im] = at(w);
    const deg = 180 + Math.atan2(im, re) * DEG;
    return deg > 180 ? deg - 360 : deg;
  };
  /** Re and Im of L/(dL/dw) at a frequency. */
  const along = (w: number): Complex => {
    const h = STEP * w;
    const [a, b] = [at(Math.min(most, w + h)), at(w - h)];
    const [dr, di] = [(a[0] - b[0]) / (Math.min(most, w + h) - w + h), (a[1] - b[1]) / (Math.min(most, w + h) - w + h)];
    const [re, im] = at(w);
    const d = dr * dr + di * di || 1e-300;
    return [(re * dr + im * di) / d, (im * dr - re * di) / d];
  };
  // d/ds = −j d/dw: Re(−L/L′) = Im(L/(dL/dw)), and Re(j L/L′) = −Re(L/(dL/dw)).
  const gains: Crossing[] = [];
  const lags: Crossing[] = [];
  for (let i = 0; i + 1 < grid.length; i++) {
    const [a, b] = [values[i], values[i + 1]];
    if (!Number.isFinite(a[0]) || !Number.isFinite(b[0]) || grid[i] === grid[i + 1]) continue;
    // A crossing may stand on the grid itself, at a corner.
    if (size(a) >= 1 !== size(b) >= 1) {
      const w = root((v) => Math.log(size(at(v))), grid[i], grid[i + 1], [Math.log(size(a)), Math.log(size(b))]);
      lags.push({ w, change: lagAt(w), over: along(w)[0] < 0 ? 2 : -2 });
    }
    // The negative real axis is crossed; the positive one says nothing.
    if (a[1] >= 0 !== b[1] >= 0 && (a[0] < 0 || b[0] < 0)) {
      const w = root((v) => at(v)[1], grid[i], grid[i + 1], [a[1], b[1]]);
      // Beyond a pole at the origin or a jump by 180° nothing is crossed.
      if (at(w)[0] < 0) gains.push({ w, change: gainAt(w), over: along(w)[1] > 0 ? 2 : -2 });
    }
  }
  const still = atRest(at, low);
  if (still) gains.push(still);
  const gain = outcome(gains, unstable, -Infinity, Infinity);
  const phase = outcome(lags, unstable, -180, 180);
  const told = (kind: 'gain' | 'phase') =>
    unstable > 0
      ? `The loop is unstable, and no change of its ${kind} alone makes it stable.`
      : `No change of its ${kind} alone makes the loop unstable.`;
  // More gain makes an unstable loop stable now and then: that is no margin.
  const rise = unstable > 0 && gain !== null && gain.change > 0;
  const lag = unstable > 0 && phase !== null && phase.change > 0;
  return {
    gainMarginDb: gain === null || rise ? null : gain.change,
    phaseCrossover: gain?.w ?? null,
    phaseMarginDeg: phase === null || lag ? null : unstable > 0 ? phase.change : Math.abs(phase.change),
    phaseWay: phase === null || lag ? null : phase.change >= 0 ? 'lag' : 'lead',
    gainCrossover: phase?.w ?? null,
    reasons: {
      ...(gain === null && { gainMarginDb: told('gain') }),
      ...(rise && {
        gainMarginDb: `The loop is unstable; a gain higher by ${gain.change.toFixed(1)} dB makes it stable.`,
      }),
      ...(phase === null && {
        phaseMarginDeg: lags.length === 0 ? `The open loop’s gain crosses 1 nowhere. ${told('phase')}` : told('phase'),
      }),
      ...(lag && { phaseMarginDeg: `The loop is unstable; ${phase.change.toFixed(1)}° more lag makes it stable.` }),
    },
  };
}

/** A crossing at rest: the loop's gain there is finite and negative, and one real pole passes through the origin. */
function atRest(at: (w: number) => Complex, low: number): Crossing | null {
  const [a, b, c] = [low, 0.5 * low, 0.25 * low].map(at);
  const flat = (u: Complex, v: Complex) => Math.abs(u[0] - v[0]) < 1e-4 * Math.abs(u[0]);
  if (!(a[0] < 0) || !Number.isFinite(a[0]) || !flat(a, b) || !flat(b, c) || Math.abs(c[1]) > 1e-2 * Math.abs(c[0]))
    return null;
  // L(jw) ≈ L0 + j w L′(0): the pole moves with ln k by −L0/L′(0).
  const slope = c[1] / (0.25 * low);
  return { w: 0, change: -20 * Math.log10(Math.abs(c[0])), over: -c[0] / slope > 0 ? 1 : -1 };
}

/**
 * The smallest change at which a stable loop becomes unstable, or an unstable one stable: poles that go over are counted while the change grows to either side.
 */
function outcome(list: readonly Crossing[], unstable: number, least: number, greatest: number): Crossing | null {
  let best: Crossing | null = null;
  for (const way of [1, -1]) {
    const side = list
      .filter((c) => (way > 0 ? c.change >= 0 && c.change < greatest : c.change < 0 && c.change > least))
      .sort((a, b) => way * (a.change - b.change));
    let count = unstable;
    for (const c of side) {
      // Going down, what a rise would carry over comes back.
      const over = way * c.over;
      if (unstable === 0 ? over > 0 : (count += over) <= 0) {
        if (!best || Math.abs(c.change) < Math.abs(best.change)) best = c;
        break;
      }
    }
  }
  return best;
}
