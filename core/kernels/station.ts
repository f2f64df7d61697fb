// A station of the layers: closures and record of ../src/section-flow/boundary-layer/{closures,station}.ts, for streams without grains and without
// bypass. There stand their sources and what everything means; what is changed there is changed here, and a test holds both together.

/** Slopes that a closure leaves: by Hk, by Reθ, by M², by H, by θ. */
let sHk: f64 = 0;
let sRe: f64 = 0;
let sMach: f64 = 0;
let sTheta: f64 = 0;

// Slopes of the station's own Hk, Reθ, M² and H by (θ, δ*, U).
let hkTheta: f64 = 0;
let hkDelta: f64 = 0;
let hkSpeed: f64 = 0;
let reThetaTheta: f64 = 0;
let reThetaSpeed: f64 = 0;
let machSpeed: f64 = 0;
let hTheta: f64 = 0;
let hDelta: f64 = 0;

export const LAMINAR: i32 = 0;
export const WAKE: i32 = 2;
/** Doubles of a record, and of what is kept of a station. */
export const STATION_RECORD: i32 = 54;

// Where the quantities of a record stand, bytes.
export const TOTAL: usize = 4 * 8;
export const KINEMATIC: usize = 9 * 8;
export const ENERGY: usize = 14 * 8;
export const DENSITY: usize = 19 * 8;
export const FRICTION: usize = 24 * 8;
export const DISSIPATION: usize = 29 * 8;
export const MACH_SQUARED: usize = 34 * 8;
export const EQUILIBRIUM: usize = 39 * 8;
export const THICKNESS: usize = 44 * 8;
const GROWTH: usize = 49 * 8;

function laminarEnergyShape(hk: f64): f64 {
  const factor = hk < 4 ? 0.076 : 0.04;
  const d = hk - 4;
  sHk = (factor * d * (2 - d / hk)) / hk;
  return 1.515 + (factor * d * d) / hk;
}

function laminarFriction(hk: f64, re: f64): f64 {
  let half: f64;
  let byHk: f64;
  if (hk < 7.4) {
    const d = 7.4 - hk;
    const inverse = 1 / (hk - 1);
    half = -0.067 + 0.01977 * d * d * inverse;
    byHk = -0.01977 * d * (2 * inverse + d * inverse * inverse);
  } else {
    const inverse = 1 / (hk - 6);
    const f = 1 - 1.4 * inverse;
    half = -0.067 + 0.022 * f * f;
    byHk = 0.044 * f * 1.4 * inverse * inverse;
  }
  const cf = (2 * half) / re;
  sHk = (2 * byHk) / re;
  sRe = -cf / re;
  return cf;
}

function laminarDissipation(hk: f64, re: f64): f64 {
  let top: f64;
  let byHk: f64;
  const d = hk - 4;
  if (hk < 4) {
    const square = d * d;
    const power = square * square * sqrt(-d);
    top = 0.207 - 0.00205 * power * d;
    byHk = -0.00205 * 5.5 * power;
  } else {
    const below = 1 + 0.02 * d * d;
    top = 0.207 - (0.003 * d * d) / below;
    byHk = (-0.006 * d) / (below * below);
  }
  const value = top / re;
  sHk = byHk / re;
  sRe = -value / re;
  return value;
}

function turbulentEnergyShape(hk: f64, reTheta: f64): f64 {
  const moves: f64 = reTheta > 200 ? 1 : 0;
  const re = reTheta > 200 ? reTheta : 200;
  const limit = reTheta > 400 ? 3 + 400 / reTheta : 4;
  const limitByRe = reTheta > 400 ? -400 / (reTheta * reTheta) : 0;
  const base = 1.505 + 4 / re;
  const baseByRe = (-4 / (re * re)) * moves;
  const beyond = hk - limit;
  if (beyond < 0) {
    const root = 1 / sqrt(re);
    const factor = 0.165 - 1.6 * root;
    const factorByRe = ((0.8 * root) / re) * moves;
    const p = Math.pow(-beyond, 0.6);
    const power = -beyond * p;
    sHk = (factor * (-1.6 * p - power / hk)) / hk;
    sRe = baseByRe + (factorByRe * power + factor * 1.6 * p * limitByRe) / hk;
    return base + (factor * power) / hk;
  }
  const log = Math.log(re);
  const logByRe = moves / re;
  const sum = beyond + 4 / log;
  const bracket = 0.04 / hk + (0.007 * log) / (sum * sum);
  const bySum = (-0.014 * log) / (sum * sum * sum);
  const bracketByLog = 0.007 / (sum * sum) - (bySum * 4) / (log * log);
  const square = beyond * beyond;
  sHk = 2 * beyond * bracket + square * (-0.04 / (hk * hk) + bySum);
  sRe = baseByRe - 2 * beyond * limitByRe * bracket + square * (-bySum * limitByRe + bracketByLog * logByRe);
  return base + square * bracket;
}

function turbulentFriction(hk: f64, reTheta: f64, machSquared: f64): f64 {
  const fc = sqrt(1 + 0.2 * machSquared);
  const fcByMach = 0.1 / fc;
  const ratio = reTheta / fc;
  const moves: f64 = ratio > 20 ? 1 : 0;
  const log10 = Math.log(ratio > 20 ? ratio : 20) / Math.LN10;
  const exponent = -1.74 - 0.31 * hk;
  const logarithm = Math.log(log10);
  const main = 0.3 * Math.exp(-1.33 * hk + exponent * logarithm);
  const bend = Math.tanh(4 - hk / 0.875);
  const cf = (main + 0.00011 * (bend - 1)) / fc;
  const byLog = (main * exponent) / log10 / fc / Math.LN10;
  sHk = (main * (-1.33 - 0.31 * logarithm) - (0.00011 / 0.875) * (1 - bend * bend)) / fc;
  sRe = (byLog / reTheta) * moves;
  sMach = (-cf / fc) * fcByMach - (byLog / fc) * fcByMach * moves;
  return cf;
}

function amplificationRate(hk: f64, reTheta: f64, theta: f64): f64 {
  const inverse = 1 / (hk - 1);
  const t = Math.tanh(20 * inverse - 12.9);
  const critical = (1.415 * inverse - 0.489) * t + 3.295 * inverse + 0.44;
  const log10 = Math.log(reTheta) / Math.LN10;
  const RAMP = 0.08;
  const over = (log10 - critical) / (2 * RAMP) + 0.5;
  sHk = sRe = sTheta = 0;
  if (over <= 0) return 0;
  const full = over >= 1;
  const ramp = full ? 1 : over * over * (3 - 2 * over);
  const rampBy = full ? 0 : (6 * over * (1 - over)) / (2 * RAMP);
  const criticalByHk = (1.415 * t + (1.415 * inverse - 0.489) * 20 * (1 - t * t) + 3.295) * -inverse * inverse;
  const bend = Math.tanh(1.5 * hk - 4.65);
  const inner = 2.4 * hk - 3.7 + 2.5 * bend;
  const root = sqrt(inner * inner + 0.25);
  const steep = 0.01 * root;
  const steepByHk = ((0.01 * inner) / root) * (2.4 + 3.75 * (1 - bend * bend));
  const length = (6.54 * hk - 14.07) / (hk * hk);
  const lengthByHk = (6.54 - 2 * length * hk) / (hk * hk);
  const d = hk - 4;
  const gradient = 0.058 * d * d * inverse - 0.068;
  const gradientByHk = 0.058 * d * (2 * inverse - d * inverse * inverse);
  const factor = 0.5 * (gradient + length);
  const rate = (steep * factor) / theta;
  sHk = (ramp * (steepByHk * factor + steep * 0.5 * (gradientByHk + lengthByHk))) / theta - rate * rampBy * criticalByHk;
  sRe = (rate * rampBy) / (reTheta * Math.LN10);
  sTheta = (-ramp * rate) / theta;
  return ramp * rate;
}

function put(
  at: usize,
  value: f64,
  byHk: f64,
  byRe: f64,
  byMach: f64,
  byShape: f64,
  byTheta: f64,
  byC: f64,
): void {
  store<f64>(at, value);
  store<f64>(at, byC, 8);
  store<f64>(at, byHk * hkTheta + byRe * reThetaTheta + byShape * hTheta + byTheta, 16);
  store<f64>(at, byHk * hkDelta + byShape * hDelta, 24);
  store<f64>(at, byHk * hkSpeed + byRe * reThetaSpeed + byMach * machSpeed, 32);
}

function putDensity(at: usize, hk: f64, mach2: f64, energy: f64, energyHk: f64, energyRe: f64): void {
  const inverse = 1 / (hk - 0.8);
  const base = 0.064 * inverse + 0.251;
  const r = (base * mach2) / energy;
  const byHk = -0.064 * inverse * inverse * mach2;
  put(at + DENSITY, r, (byHk - r * energyHk) / energy, (-r * energyRe) / energy, base / energy, 0, 0, 0);
}

/** Evaluates a station into its record. */
export function evaluateStation(
  out: usize,
  kind: i32,
  c: f64,
  theta: f64,
  displacement: f64,
  speed: f64,
  reynolds: f64,
  mach: f64,
  deadAir: f64,
): void {
  store<f64>(out, c);
  store<f64>(out, theta, 8);
  store<f64>(out, speed, 16);
  store<f64>(out, displacement, 24);
  const h = (displacement - deadAir) / theta;
  hDelta = 1 / theta;
  hTheta = -h / theta;
  let mach2: f64 = 0;
  machSpeed = 0;
  let re = reynolds * speed * theta;
  reThetaTheta = reynolds * speed;
  reThetaSpeed = reynolds * theta;
  if (mach > 0) {
    const k = 0.5 * (1.4 - 1) * mach * mach;
    const temperature = max(0.05, 1 + k - k * speed * speed);
    const byU = -2 * k * speed;
    mach2 = (mach * mach * speed * speed) / temperature;
    machSpeed = (mach * mach * 2 * speed - mach2 * byU) / temperature;
    const half = sqrt(temperature);
    const density = temperature * temperature * half;
    const viscosity = (temperature * half * (1 + 0.38)) / (temperature + 0.38);
    const ratio = density / viscosity;
    const logByT = (1 / (1.4 - 1) - 1.5) / temperature + 1 / (temperature + 0.38);
    re *= ratio;
    reThetaTheta *= ratio;
    reThetaSpeed = reThetaSpeed * ratio + re * logByT * byU;
  }
  const d0 = 1 + 0.113 * mach2;
  let hk = (h - 0.29 * mach2) / d0;
  const least = kind == WAKE ? 1.000001 : 1.004;
  if (hk < least) {
    hk = least;
    hkTheta = hkDelta = hkSpeed = 0;
  } else {
    hkTheta = hTheta / d0;
    hkDelta = hDelta / d0;
    hkSpeed = ((-0.29 - 0.113 * hk) / d0) * machSpeed;
  }
  put(out + TOTAL, displacement / theta, 0, 0, 0, 0, -displacement / (theta * theta), 0);
  store<f64>(out + TOTAL, 1 / theta, 24);
  put(out + KINEMATIC, hk, 1, 0, 0, 0, 0, 0);
  put(out + MACH_SQUARED, mach2, 0, 0, 1, 0, 0, 0);
  if (kind == LAMINAR) {
    const energy = laminarEnergyShape(hk);
    const energyHk = sHk;
    put(out + ENERGY, energy, energyHk, 0, 0, 0, 0, 0);
    putDensity(out, hk, mach2, energy, energyHk, 0);
    const cf = laminarFriction(hk, re);
    put(out + FRICTION, cf, sHk, sRe, 0, 0, 0, 0);
    const loss = laminarDissipation(hk, re);
    put(out + DISSIPATION, loss, sHk, sRe, 0, 0, 0, 0);
    const growth = amplificationRate(hk, re, theta);
    put(out + GROWTH, growth, sHk, sRe, 0, 0, sTheta, 0);
    return;
  }
  let energy = turbulentEnergyShape(hk, re);
  let eHk = sHk;
  const eRe = sRe;
  const full = kind == WAKE ? 1.005 : 1.15;
  if (hk < full) {
    const short = full - hk;
    const inverse = 1 / (hk - 1);
    energy += 0.3 * short * short * inverse;
    eHk -= 0.3 * short * inverse * (2 + short * inverse);
  }
  put(out + ENERGY, energy, eHk, eRe, 0, 0, 0, 0);
  putDensity(out, hk, mach2, energy, eHk, eRe);
  const bracket = 1 - ((4.0 / 3.0) * (hk - 1)) / h;
  let slip = 0.5 * energy * bracket;
  let slipHk = 0.5 * (eHk * bracket - (energy * 4) / (3 * h));
  let slipRe = 0.5 * eRe * bracket;
  let slipH = (0.5 * energy * (4.0 / 3.0) * (hk - 1)) / (h * h);
  const most = kind == WAKE ? 0.99995 : 0.95;
  if (slip > most) {
    slip = most;
    slipHk = slipRe = slipH = 0;
  }
  const d = hk - 1;
  const outer = 1 - slip;
  const square = (0.015 * energy * d * d * d) / (hk * hk * h * outer);
  const root = sqrt(square);
  const half = 0.5 * root;
  put(
    out + EQUILIBRIUM,
    root,
    half * (eHk / energy + 3 / d - 2 / hk + slipHk / outer),
    half * (eRe / energy + slipRe / outer),
    0,
    half * (-1 / h + slipH / outer),
    0,
    0,
  );
  const thickness = theta * (3.15 + 1.72 / d + h);
  if (thickness > 12 * theta) put(out + THICKNESS, 12 * theta, 0, 0, 0, 0, 12, 0);
  else put(out + THICKNESS, thickness, (-1.72 * theta) / (d * d), 0, 0, theta, thickness / theta, 0);

  let loss: f64;
  let lossHk: f64;
  let lossRe: f64;
  let lossMach: f64 = 0;
  let lossH: f64;
  let lossC: f64;
  if (kind == WAKE) {
    put(out + FRICTION, 0, 0, 0, 0, 0, 0, 0);
    loss = 2 * c * c * outer;
    lossHk = -2 * c * c * slipHk;
    lossRe = -2 * c * c * slipRe;
    lossH = -2 * c * c * slipH;
    lossC = 4 * c * outer;
  } else {
    const cf = turbulentFriction(hk, re, mach2);
    const cfHk = sHk;
    const cfRe = sRe;
    const cfMach = sMach;
    put(out + FRICTION, cf, cfHk, cfRe, cfMach, 0, 0, 0);
    const rest = 0.5 * cf - c * c;
    loss = 0.5 * cf * slip + c * c * outer;
    lossHk = 0.5 * cfHk * slip + rest * slipHk;
    lossRe = 0.5 * cfRe * slip + rest * slipRe;
    lossMach = 0.5 * cfMach * slip;
    lossH = rest * slipH;
    lossC = 2 * c * outer;
  }
  const k = 2 / energy;
  put(
    out + DISSIPATION,
    k * loss,
    k * (lossHk - (loss * eHk) / energy),
    k * (lossRe - (loss * eRe) / energy),
    k * lossMach,
    k * lossH,
    0,
    k * lossC,
  );
}
