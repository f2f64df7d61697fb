import { slope, slopes, turbulentFriction } from './closures';

const KARMAN = 0.41;
/** Constants of the logarithmic profile: of a smooth wall, and of a fully rough one over the height of its grains. */
const SMOOTH = 5.2;
const ROUGH = 8.5;
/** Heights in units of the wall between which a wall passes from smooth to fully rough. */
const FIRST = 2.25;
const FULLY = 90;
/** Height of grains over θ beyond which they are no longer part of the layer's inner region; they count as no higher. */
const HIGHEST = 1;
const STEPS = 60;
/** Friction below which a layer is about to separate. */
const LEAST = 2e-5;

/**
 * Shift ΔU⁺ of the logarithmic profile by grains of sand, in units of the wall; never below zero.
 * @param height k⁺. @returns value and slope. @source AIAA J. 16(7), 1978, 730–735 (form between smooth and rough), cited from memory.
 */
export function profileShift(height: number): [number, number] {
  if (height <= FIRST) return [0, 0];
  const full = SMOOTH - ROUGH + Math.log(height) / KARMAN;
  if (full <= 0) return [0, 0];
  const byHeight = 1 / (KARMAN * height);
  if (height >= FULLY) return [full, byHeight];
  const phase = Math.PI / 2 / Math.log(FULLY / FIRST);
  const angle = phase * Math.log(height / FIRST);
  const share = Math.sin(angle);
  return [full * share, byHeight * share + (full * Math.cos(angle) * phase) / height];
}

/**
 * Turbulent friction of a wall with grains.
 *
 * Grains shift the logarithmic profile; the outer layer stays. A smooth wall under a layer of the same displacement thickness and the same outer part has
 * λ_s = √(2∕Cf_s) at a shape h; since the outer part sets (1 − 1∕H) λ, and it and the displacement thickness set the thickness in units of the wall,
 * ```
 *   (1 − 1∕Hk) λ = (1 − 1∕h) λ_s(h, Reθ Hk∕h)        λ = λ_s − ΔU⁺(Re_k∕λ)
 * ```
 * Only where a layer is about to separate is its wall as good as smooth.
 * @param reGrain Reynolds number of a grain with the speed at the edge.
 * @returns Cf; `slope` is left with [by Hk, by Reθ, by M², by the Reynolds number of a grain].
 * @source constants: NACA TM-1292, 1950, cited from memory; the way from a smooth wall's closure is our own, from the law of the wake.
 */
export function roughFriction(hk: number, reTheta: number, machSquared: number, reGrain: number): number {
  const smooth = turbulentFriction(hk, reTheta, machSquared);
  if (!(smooth > LEAST)) return smooth;
  const own = Math.sqrt(2 / smooth);
  // Friction only grows: a wall that is smooth with that of the smooth one is so.
  if (profileShift(reGrain / own)[0] === 0) return smooth;
  const c = 1 - 1 / hk;
  const state = { s: 0, byH: 0, byR: 0, byMach: 0, r: 0, rByH: 0, shiftBy: 0, rest: 0, slope: 0 };
  const at = (h: number): void => {
    const re = (reTheta * hk) / h;
    const cf = turbulentFriction(h, re, machSquared);
    const [cfH, cfRe, cfMach] = [slope[0], slope[1], slope[2]];
    const s = Math.sqrt(2 / cf);
    const k = -0.25 * s * s * s;
    state.s = s;
    state.byR = k * cfRe;
    state.byH = k * (cfH - (cfRe * re) / h);
    state.byMach = k * cfMach;
    state.r = (s * (1 - 1 / h)) / c;
    state.rByH = (state.byH * (1 - 1 / h) + s / (h * h)) / c;
    const [shift, by] = profileShift(reGrain / state.r);
    state.shiftBy = by;
    state.rest = s - state.r - shift;
    state.slope = state.byH - state.rByH + (by * reGrain * state.rByH) / (state.r * state.r);
  };
  // The rest is below zero at Hk and rises towards fuller layers.
  let [low, high] = [1 + 0.05 * (hk - 1), hk];
  let h = hk;
  for (let n = 0; n < STEPS; n++) {
    at(h);
    if (state.rest > 0) low = h;
    else high = h;
    let next = h - state.rest / state.slope;
    if (!(next > low && next < high)) next = 0.5 * (low + high);
    if (Math.abs(next - h) < 1e-14 * h) break;
    h = next;
  }
  at(h);
  const { r, rByH, shiftBy, byR, byMach } = state;
  const share = (1 - 1 / h) / c;
  const back = (shiftBy * reGrain) / (r * r);
  // How λ answers to what the smooth wall's λ and λ itself do at a fixed h, and to the shift.
  const answer = (bySmooth: number, byRough: number, byShift = 0): number => {
    const byH = -(bySmooth - byRough + back * byRough - byShift) / state.slope;
    return byRough + rByH * byH;
  };
  const byHk = (byR * reTheta) / h;
  const byRe = (byR * hk) / h;
  const k = -4 / (r * r * r);
  slopes(
    k * answer(byHk, byHk * share - r / (hk * hk * c)),
    k * answer(byRe, byRe * share),
    k * answer(byMach, byMach * share),
    k * answer(0, 0, shiftBy / r),
  );
  return 2 / (r * r);
}

/**
 * Reynolds number of a grain with the speed at the edge. Higher ones than θ count as no higher, by a smooth bound.
 * @param grain height, chords. @returns value; `slope` is left with [by Reθ, by θ].
 */
export function grainReynolds(reTheta: number, theta: number, grain: number): number {
  const q = grain / theta / HIGHEST;
  const fourth = q * q * q * q;
  const below = (1 + fourth) ** -0.25;
  const height = HIGHEST * q * below;
  // d(height)∕dq = (1 + q⁴)^−1.25.
  slopes(height, (-reTheta * HIGHEST * (below / (1 + fourth)) * q) / theta);
  return reTheta * height;
}
