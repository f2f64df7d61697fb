import { analyseViscousLift } from '../lift';
import { CubicSpline, RAD } from '../numerics';
import type { SteadyAircraft, SteadyPoint } from './aircraft';
import { glideFacts, type GlideFacts } from './performance';
import { carrying } from './sweeps';

/** Angles about the crest that the greatest lift is looked for among, rad. */
const ABOUT = [-3, -2, -1, 0, 1, 2].map((d) => d * RAD);
/** Rounds in which speed and greatest lift follow each other, and when they have settled. */
const ROUNDS = 12;
const SETTLED = 5e-4;

/** No greatest lift is looked for beyond this angle, rad. */
const STEEPEST = 30 * RAD;

/** Lift coefficients between which a stall is expected before anything is known: polars of the speeds at which these carry the weight are wanted. */
const EXPECTED = [1.1, 1.8];

/** Speeds about the stall whose polars a look at the stall needs, m/s. @param weight N. @param area m². @param density kg/m³. */
export const stallSpeedsExpected = (weight: number, area: number, density: number): number[] =>
  weight > 0 ? EXPECTED.map((CL) => Math.sqrt((2 * weight) / (density * area * CL))) : [];

/** Glide of an aircraft, each state at the speed that it is flown at. */
export interface OwnSpeeds {
  glide: GlideFacts;
  /** What the stall is found at; null where the lift still rises at the end of the angles. */
  stall: { speed: number; CL: number; alpha: number } | null;
}

/**
 * Stall speed, best glide and least sink of a weight, each at its own Reynolds number: the stall where speed and greatest lift agree, the others among states
 * whose lift carries the weight.
 * @param points of a sweep over angles at any one speed. @param greatest where its lift is greatest, rad; null where it rises to the end. @param start speed of it, m/s.
 */
export function ownSpeeds(
  flown: SteadyAircraft,
  points: readonly SteadyPoint[],
  greatest: { alpha: number } | null,
  start: number,
): OwnSpeeds {
  const { area } = flown.reference;
  const { density } = flown.flowAt(start);
  // Where it still rises at the end of the sweep it may turn down a little beyond, or sooner at the stall's own speed.
  const top = points.reduce<SteadyPoint | null>(
    (b, p) => (p.status !== 'unsolved' && p.CL > (b?.CL ?? 0) ? p : b),
    null,
  );
  const begin = greatest ?? top;
  const stall = begin && stallOf(flown, begin.alpha, start);
  const alphas = points.filter((p) => p.status !== 'unsolved' && p.CL > 0.1).map((p) => p.alpha);
  const states = alphas.length > 0 ? carrying(flown, alphas, start, SETTLED) : [];
  return {
    glide: glideFacts(states, stall?.CL ?? null, flown.weight, area, density),
    stall,
  };
}

/** The speed at which the greatest lift there carries the weight. */
function stallOf(flown: SteadyAircraft, alpha: number, start: number): OwnSpeeds['stall'] {
  const { area } = flown.reference;
  let speed = start;
  let at = alpha;
  let found: OwnSpeeds['stall'] = null;
  for (let round = 0; round < ROUNDS; round++) {
    const alphas = ABOUT.map((d) => Math.max(-Math.PI / 4, Math.min(Math.PI / 4, at + d)));
    const { points, CLmax, alphaCLmax } = analyseViscousLift({ surfaces: flown.surfaces, alphas }, flown.at(speed));
    if (CLmax === null || alphaCLmax === null) {
      // The crest lies beyond one of the ends: it is looked for there.
      const solved = points.filter((p) => p.status !== 'unsolved').sort((a, b) => b.CL - a.CL);
      const shift = solved.length > 0 ? solved[0].alpha - at : 0;
      if (Math.abs(shift) < RAD || at > STEEPEST) return null;
      at += shift;
      continue;
    }
    if (!(CLmax > 0)) return null;
    const next = Math.sqrt((2 * flown.weight) / (flown.flowAt(speed).density * area * CLmax));
    found = { speed: next, CL: CLmax, alpha: alphaCLmax };
    if (Math.abs(next / speed - 1) < SETTLED) return found;
    [speed, at] = [next, alphaCLmax];
  }
  return found;
}

/** Slopes of a sweep over angles, from its own points. */
export interface PointSlopes {
  /** Where they are told, rad: 0, or the angle of the sweep that is nearest to it. */ alpha: number;
  /** Per rad. */ liftSlope: number;
  momentSlope: number;
  /** By the tangent, rad. */ zeroLiftAngle: number;
  /** m */ neutralPoint: number;
  zeroLiftMoment: number;
}

/** Slopes of a curve through the solved points of a sweep; null of fewer than two. @param about x that moments are about, m. @param chord m. */
export function pointSlopes(points: readonly SteadyPoint[], about: number, chord: number): PointSlopes | null {
  const used = points
    .filter((p) => p.status !== 'unsolved')
    .sort((a, b) => a.alpha - b.alpha)
    .filter((p, i, all) => i === 0 || p.alpha > all[i - 1].alpha);
  if (used.length < 2) return null;
  const alphas = used.map((p) => p.alpha);
  const alpha = Math.max(alphas[0], Math.min(alphas[alphas.length - 1], 0));
  const at = (of: (p: SteadyPoint) => number): { value: number; slope: number } => {
    const y = used.map(of);
    if (used.length === 2) {
      const slope = (y[1] - y[0]) / (alphas[1] - alphas[0]);
      return { value: y[0] + slope * (alpha - alphas[0]), slope };
    }
    const curve = new CubicSpline(alphas, y);
    return { value: curve.at(alpha), slope: curve.derivative(alpha) };
  };
  const [lift, moment] = [at((p) => p.CL), at((p) => p.Cm)];
  const perLift = moment.slope / lift.slope;
  return {
    alpha,
    liftSlope: lift.slope,
    momentSlope: moment.slope,
    zeroLiftAngle: alpha - lift.value / lift.slope,
    neutralPoint: about - perLift * chord,
    zeroLiftMoment: moment.value - perLift * lift.value,
  };
}
