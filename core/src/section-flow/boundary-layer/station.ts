import { bypassGrowth, BYPASS_TURBULENCE, grainGrowth } from './early-transition';
import { grainReynolds, roughFriction } from './rough-wall';
import {
  amplificationRate,
  densityShape,
  kinematicShape,
  laminarDissipation,
  laminarEnergyShape,
  laminarFriction,
  LEAST_SHAPE,
  LEAST_WAKE_SHAPE,
  slope,
  turbulentEnergyShape,
  turbulentFriction,
} from './closures';

/** Of what kind the layer is at a station. */
export type LayerKind = 'laminar' | 'turbulent' | 'wake';

/** Conditions of the free stream; lengths are in chords and speeds in stream speeds. */
export interface LayerFlow {
  /** Reynolds number of the chord. */
  reynolds: number;
  mach: number;
  /** Turbulence of the stream, %; above 1 % it enters the layer. */
  turbulence?: number;
  /** Height of grains all over the surface, chords: they trip the laminar layer, and raise the turbulent one's friction. */
  grain?: number;
}

/**
 * A station's record: its primary variables C, θ, U, δ* (C is n where laminar, √Cτ elsewhere), then the quantities below, each as
 * [value, ∂∕∂C, ∂∕∂θ, ∂∕∂δ*, ∂∕∂U].
 */
export const STATION_RECORD = 54;
export const PRIMARY = { c: 0, theta: 1, speed: 2, displacement: 3 } as const;
/** Offsets of the quantities in a record. */
export const QUANTITY = {
  /** H with the still air behind a blunt edge counted in. */
  total: 4,
  kinematic: 9,
  energy: 14,
  /** H**∕H*, what the energy equation needs of compressibility. */
  density: 19,
  friction: 24,
  /** 2·CD∕H*. */
  dissipation: 29,
  machSquared: 34,
  /** √CτEQ and δ; only where the layer is turbulent. */
  equilibrium: 39,
  thickness: 44,
  /** Growth of the amplification exponent, per chord; only where the layer is laminar. */
  growth: 49,
} as const;

const HEAT = 1.4;
/** Kinematic shape factors below which the energy shape factor rises steeply, at a wall and in a wake, and how steeply. */
const FULLEST = 1.15;
const FULLEST_WAKE = 1.005;
const RISE = 0.3;
const SUTHERLAND = 0.38;

// Slopes of the station's own Hk, Reθ, M² and H by (θ, δ*, U), shared by `put`.
let hkTheta = 0;
let hkDelta = 0;
let hkSpeed = 0;
let reThetaTheta = 0;
let reThetaSpeed = 0;
let machSpeed = 0;
let hTheta = 0;
let hDelta = 0;

const extra = new Float64Array(5);

function put(
  out: Float64Array,
  at: number,
  value: number,
  byHk: number,
  byRe: number,
  byMach: number,
  byShape: number,
  byTheta: number,
  byC: number,
): void {
  out[at] = value;
  out[at + 1] = byC;
  out[at + 2] = byHk * hkTheta + byRe * reThetaTheta + byShape * hTheta + byTheta;
  out[at + 3] = byHk * hkDelta + byShape * hDelta;
  out[at + 4] = byHk * hkSpeed + byRe * reThetaSpeed + byMach * machSpeed;
}

/**
 * Evaluates a station from its primary variables into `out` at `at`.
 * @param deadAir thickness of the still air that the displacement holds besides the layer's own, chords.
 */
export function evaluateStation(
  out: Float64Array,
  at: number,
  kind: LayerKind,
  c: number,
  theta: number,
  displacement: number,
  speed: number,
  flow: LayerFlow,
  deadAir = 0,
): void {
  out[at] = c;
  out[at + 1] = theta;
  out[at + 2] = speed;
  out[at + 3] = displacement;
  const h = (displacement - deadAir) / theta;
  hDelta = 1 / theta;
  hTheta = -h / theta;
  let mach2 = 0;
  machSpeed = 0;
  let re = flow.reynolds * speed * theta;
  reThetaTheta = flow.reynolds * speed;
  reThetaSpeed = flow.reynolds * theta;
  if (flow.mach > 0) {
    // Isentropic edge: M², density and Sutherland viscosity over those of the stream.
    const m2 = flow.mach * flow.mach;
    const k = 0.5 * (HEAT - 1) * m2;
    const temperature = Math.max(0.05, 1 + k - k * speed * speed);
    const byU = -2 * k * speed;
    mach2 = (m2 * speed * speed) / temperature;
    machSpeed = (m2 * 2 * speed - mach2 * byU) / temperature;
    const density = temperature ** (1 / (HEAT - 1));
    const viscosity = (temperature ** 1.5 * (1 + SUTHERLAND)) / (temperature + SUTHERLAND);
    const ratio = density / viscosity;
    const logByT = (1 / (HEAT - 1) - 1.5) / temperature + 1 / (temperature + SUTHERLAND);
    re *= ratio;
    reThetaTheta *= ratio;
    reThetaSpeed = reThetaSpeed * ratio + re * logByT * byU;
  }
  let hk = kinematicShape(h, mach2);
  const least = kind === 'wake' ? LEAST_WAKE_SHAPE : LEAST_SHAPE;
  if (hk < least) {
    hk = least;
    hkTheta = hkDelta = hkSpeed = 0;
  } else {
    hkTheta = slope[3] * hTheta;
    hkDelta = slope[3] * hDelta;
    hkSpeed = slope[2] * machSpeed;
  }
  put(out, at + QUANTITY.total, displacement / theta, 0, 0, 0, 0, -displacement / (theta * theta), 0);
  out[at + QUANTITY.total + 3] = 1 / theta;
  put(out, at + QUANTITY.kinematic, hk, 1, 0, 0, 0, 0, 0);
  put(out, at + QUANTITY.machSquared, mach2, 0, 0, 1, 0, 0, 0);
  if (kind === 'laminar') {
    const energy = laminarEnergyShape(hk);
    const energyHk = slope[0];
    put(out, at + QUANTITY.energy, energy, energyHk, 0, 0, 0, 0, 0);
    putDensity(out, at, hk, mach2, energy, energyHk, 0);
    const cf = laminarFriction(hk, re);
    const [cfHk, cfRe] = [slope[0], slope[1]];
    put(out, at + QUANTITY.friction, cf, cfHk, cfRe, 0, 0, 0, 0);
    const loss = laminarDissipation(hk, re);
    put(out, at + QUANTITY.dissipation, loss, slope[0], slope[1], 0, 0, 0, 0);
    const growth = amplificationRate(hk, re, theta);
    put(out, at + QUANTITY.growth, growth, slope[0], slope[1], 0, 0, slope[4], 0);
    if (flow.turbulence !== undefined && flow.turbulence > BYPASS_TURBULENCE) {
      const more = bypassGrowth(hk, re, theta, flow.turbulence);
      put(extra, 0, more, slope[0], slope[1], 0, 0, slope[4], 0);
      for (let i = 0; i < 5; i++) out[at + QUANTITY.growth + i] += extra[i];
    }
    if (flow.grain) {
      const more = grainGrowth(cf, cfHk, cfRe, theta, speed, flow.reynolds, flow.grain);
      const bySpeed = slope[3];
      put(extra, 0, more, slope[0], slope[1], 0, 0, slope[4], 0);
      extra[4] += bySpeed;
      for (let i = 0; i < 5; i++) out[at + QUANTITY.growth + i] += extra[i];
    }
    return;
  }
  let energy = turbulentEnergyShape(hk, re);
  let eHk = slope[0];
  const eRe = slope[1];
  const full = kind === 'wake' ? FULLEST_WAKE : FULLEST;
  if (hk < full) {
    // No turbulent layer is this full. The closure is a fit that turns flat there, through which the shape of a strongly accelerated thin layer would
    // fall to its bound; a smooth rise towards H = 1 instead keeps a root where there is one.
    const short = full - hk;
    const inverse = 1 / (hk - 1);
    energy += RISE * short * short * inverse;
    eHk -= RISE * short * inverse * (2 + short * inverse);
  }
  put(out, at + QUANTITY.energy, energy, eHk, eRe, 0, 0, 0, 0);
  putDensity(out, at, hk, mach2, energy, eHk, eRe);
  // Velocity at which the outer layer slips over the inner one, over the edge velocity.
  const bracket = 1 - ((4 / 3) * (hk - 1)) / h;
  let slip = 0.5 * energy * bracket;
  let slipHk = 0.5 * (eHk * bracket - (energy * 4) / (3 * h));
  let slipRe = 0.5 * eRe * bracket;
  let slipH = (0.5 * energy * (4 / 3) * (hk - 1)) / (h * h);
  const most = kind === 'wake' ? 0.99995 : 0.95;
  if (slip > most) {
    slip = most;
    slipHk = slipRe = slipH = 0;
  }
  // Shear stress in equilibrium.
  const d = hk - 1;
  const outer = 1 - slip;
  const square = (0.015 * energy * d * d * d) / (hk * hk * h * outer);
  const root = Math.sqrt(square);
  const half = 0.5 * root;
  put(
    out,
    at + QUANTITY.equilibrium,
    root,
    half * (eHk / energy + 3 / d - 2 / hk + slipHk / outer),
    half * (eRe / energy + slipRe / outer),
    0,
    half * (-1 / h + slipH / outer),
    0,
    0,
  );
  // Thickness of the layer δ.
  const thickness = theta * (3.15 + 1.72 / d + h);
  if (thickness > 12 * theta) put(out, at + QUANTITY.thickness, 12 * theta, 0, 0, 0, 0, 12, 0);
  else put(out, at + QUANTITY.thickness, thickness, (-1.72 * theta) / (d * d), 0, 0, theta, thickness / theta, 0);

  let loss: number;
  let lossHk: number;
  let lossRe: number;
  let lossMach = 0;
  let lossH: number;
  let lossC: number;
  let cfTheta = 0;
  let lossTheta = 0;
  if (kind === 'wake') {
    // Both halves of the wake dissipate; there is no wall.
    put(out, at + QUANTITY.friction, 0, 0, 0, 0, 0, 0, 0);
    loss = 2 * c * c * outer;
    lossHk = -2 * c * c * slipHk;
    lossRe = -2 * c * c * slipRe;
    lossH = -2 * c * c * slipH;
    lossC = 4 * c * outer;
  } else {
    let cf: number;
    let cfRe: number;
    if (flow.grain) {
      const reGrain = grainReynolds(re, theta, flow.grain);
      const [grainRe, grainTheta] = [slope[0], slope[1]];
      cf = roughFriction(hk, re, mach2, reGrain);
      cfRe = slope[1] + slope[3] * grainRe;
      cfTheta = slope[3] * grainTheta;
    } else {
      cf = turbulentFriction(hk, re, mach2);
      cfRe = slope[1];
    }
    const [cfHk, cfMach] = [slope[0], slope[2]];
    put(out, at + QUANTITY.friction, cf, cfHk, cfRe, cfMach, 0, cfTheta, 0);
    const rest = 0.5 * cf - c * c;
    loss = 0.5 * cf * slip + c * c * outer;
    lossHk = 0.5 * cfHk * slip + rest * slipHk;
    lossRe = 0.5 * cfRe * slip + rest * slipRe;
    lossMach = 0.5 * cfMach * slip;
    lossTheta = 0.5 * cfTheta * slip;
    lossH = rest * slipH;
    lossC = 2 * c * outer;
  }
  const k = 2 / energy;
  put(
    out,
    at + QUANTITY.dissipation,
    k * loss,
    k * (lossHk - (loss * eHk) / energy),
    k * (lossRe - (loss * eRe) / energy),
    k * lossMach,
    k * lossH,
    k * lossTheta,
    k * lossC,
  );
}

function putDensity(
  out: Float64Array,
  at: number,
  hk: number,
  mach2: number,
  energy: number,
  energyHk: number,
  energyRe: number,
): void {
  const density = densityShape(hk, mach2);
  const r = density / energy;
  put(
    out,
    at + QUANTITY.density,
    r,
    (slope[0] - r * energyHk) / energy,
    (-r * energyRe) / energy,
    slope[2] / energy,
    0,
    0,
    0,
  );
}
