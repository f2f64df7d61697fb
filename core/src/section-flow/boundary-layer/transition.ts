import { INTERVAL_RECORD, intervalResiduals, RESIDUAL } from './interval';
import { evaluateStation, PRIMARY, QUANTITY, STATION_RECORD, type LayerFlow } from './station';

/** A turbulent layer just begun has this share of the equilibrium √Cτ. */
const FRESH_SHEAR = Math.sqrt(0.7);

const state = new Float64Array(2 * STATION_RECORD);
const ahead = new Float64Array(INTERVAL_RECORD);
const behind = new Float64Array(INTERVAL_RECORD);

/** Numbers of a growth record: n per length at the place, its slopes by (θ, δ*, U) ahead and behind, by x₁, x₂ and the place. */
export const GROWTH_RECORD = 10;
/** Where the slopes of a growth record begin: ahead, behind, by x₁, x₂, x_t. */
export const GROWTH = { ahead: 1, behind: 4, x1: 7, x2: 8, xt: 9 } as const;

/** Newton steps for the laminar part, and the relative change at which it is solved. */
const MOST_STEPS = 25;
const SOLVED = 1e-11;
const LARGEST_STEP = 0.2;

/** Where transition lies: the two stations beside it, their abscissae and its own. */
interface Place {
  ra: Float64Array;
  a: number;
  rb: Float64Array;
  b: number;
  x1: number;
  x2: number;
  xt: number;
  flow: LayerFlow;
}

/**
 * Residuals of the interval in which transition lies: a laminar layer up to the place, a turbulent one behind.
 *
 * The laminar part is solved: θ and U at the place follow from its momentum and energy equations, with the mass defect U δ* on the straight line
 * between the stations. A state that is interpolated instead makes the growth of disturbances jump in slope when the place passes a station, by up
 * to 40 %, and Newton's method then goes to and fro between the two. Where the laminar equations have no solution up to the place, it is interpolated.
 * @param growth growth of disturbances at the place with its slopes, see GROWTH.
 * @param ra, rb records of the laminar and the turbulent station, at `a` and `b`. @param xt arc length of transition, from x1 to x2.
 */
export function transitionResiduals(
  out: Float64Array,
  growth: Float64Array,
  ra: Float64Array,
  a: number,
  rb: Float64Array,
  b: number,
  x1: number,
  x2: number,
  xt: number,
  flow: LayerFlow,
): void {
  const place = { ra, a, rb, b, x1, x2, xt: Math.max(x1, Math.min(x2, xt)), flow };
  if (!solvedTransition(out, growth, place)) straightTransition(out, growth, place);
}

/** Slopes of the fresh shear stress at the place by θ, δ* and U there. */
const freshBy = new Float64Array(3);

/** The turbulent layer that begins at the place, and the interval behind it. */
function behindThePlace({ rb, b, x2, xt, flow }: Place, theta: number, displacement: number, speed: number): void {
  const t = STATION_RECORD;
  evaluateStation(state, t, 'turbulent', 0.05, theta, displacement, speed, flow);
  const q = t + QUANTITY.equilibrium;
  for (let k = 0; k < 3; k++) freshBy[k] = FRESH_SHEAR * state[q + 2 + k];
  evaluateStation(state, t, 'turbulent', FRESH_SHEAR * state[q], theta, displacement, speed, flow);
  intervalResiduals(behind, state, t, rb, b, xt, x2, false);
}

const M = RESIDUAL;
const E = 2 * RESIDUAL;

/** The laminar state at the place and its matrix ∂(momentum, energy)∕∂(θ, U) with the mass held. */
const laminar = { theta: 0, speed: 0, j11: 0, j12: 0, j21: 0, j22: 0, det: 0 };

/** Solves θ and U at the place. @param mass defect there. @returns false where the laminar equations do not lead that far. */
function solveLaminar({ ra, a, x1, xt, flow }: Place, mass: number): boolean {
  let theta = ra[a + PRIMARY.theta];
  let speed = ra[a + PRIMARY.speed];
  let last = false;
  for (let k = 0; k < MOST_STEPS; k++) {
    const delta = mass / speed;
    if (!(delta > 1.03 * theta)) theta = delta / 1.1;
    evaluateStation(state, 0, 'laminar', ra[a], theta, delta, speed, flow);
    intervalResiduals(ahead, ra, a, state, 0, x1, xt, true);
    const j11 = ahead[M + 6];
    const j12 = ahead[M + 8] - (ahead[M + 7] * delta) / speed;
    const j21 = ahead[E + 6];
    const j22 = ahead[E + 8] - (ahead[E + 7] * delta) / speed;
    const det = j11 * j22 - j12 * j21;
    // One evaluation more at the solution, whose slopes are wanted.
    if (last) {
      Object.assign(laminar, { theta, speed, j11, j12, j21, j22, det });
      return theta > 0 && speed > 0 && Number.isFinite(det);
    }
    const byTheta = (-ahead[M] * j22 + ahead[E] * j12) / det;
    const bySpeed = (-ahead[E] * j11 + ahead[M] * j21) / det;
    const size = Math.max(Math.abs(byTheta) / theta, Math.abs(bySpeed) / speed);
    if (!Number.isFinite(size)) return false;
    const share = size > LARGEST_STEP ? LARGEST_STEP / size : 1;
    theta += share * byTheta;
    speed += share * bySpeed;
    last = size < SOLVED;
  }
  return false;
}

/** Response of (θ, U) at the place to one column of the laminar equations. */
const response = new Float64Array(2);
function respond(momentum: number, energy: number): void {
  const { j11, j12, j21, j22, det } = laminar;
  response[0] = (-momentum * j22 + energy * j12) / det;
  response[1] = (-energy * j11 + momentum * j21) / det;
}
/** Slopes of θ, δ* (the mass aside) and U at the place by θ, δ*, U ahead, by the mass there, by x₁ and by the place. */
const placeTheta = new Float64Array(6);
const placeSpeed = new Float64Array(6);

function solvedTransition(out: Float64Array, growth: Float64Array, place: Place): boolean {
  const { ra, a, rb, b, x1, x2, xt } = place;
  const dx = x2 - x1;
  const f = (xt - x1) / dx;
  const [ua, da] = [ra[a + PRIMARY.speed], ra[a + PRIMARY.displacement]];
  const [ub, db] = [rb[b + PRIMARY.speed], rb[b + PRIMARY.displacement]];
  const rise = ub * db - ua * da;
  const mass = ua * da + f * rise;
  if (!solveLaminar(place, mass)) return false;
  const { theta, speed } = laminar;
  const displacement = mass / speed;
  behindThePlace(place, theta, displacement, speed);
  const columns = [2, 3, 4].map((k) => [ahead[M + k], ahead[E + k]]);
  columns.push(
    [ahead[M + 7] / speed, ahead[E + 7] / speed],
    [ahead[M + 9], ahead[E + 9]],
    [ahead[M + 10], ahead[E + 10]],
  );
  columns.forEach(([momentum, energy], k) => {
    respond(momentum, energy);
    placeTheta[k] = response[0];
    placeSpeed[k] = response[1];
  });
  /** Chains a quantity's slopes by (θ, δ*, U) at the place to the stations and abscissae. @param own its slope by the place itself. */
  const chain = (into: Float64Array, at: number, byTheta: number, byDelta: number, bySpeedAlone: number): void => {
    const bySpeed = bySpeedAlone - (byDelta * displacement) / speed;
    const through = (k: number) => byTheta * placeTheta[k] + bySpeed * placeSpeed[k];
    const byMass = byDelta / speed + through(3);
    const byShare = (byMass * rise) / dx;
    into[at] = through(0);
    into[at + 1] = through(1) + byMass * (1 - f) * ua;
    into[at + 2] = through(2) + byMass * (1 - f) * da;
    into[at + 3] = 0;
    into[at + 4] = byMass * f * ub;
    into[at + 5] = byMass * f * db;
    into[at + 6] = through(4) - byShare * (1 - f);
    into[at + 7] = -byShare * f;
    into[at + 8] = through(5) + byShare;
  };
  for (let r = 0; r < 3; r++) {
    const o = r * RESIDUAL;
    const byShear = behind[o + 1];
    chain(
      chained,
      0,
      behind[o + 2] + byShear * freshBy[0],
      behind[o + 3] + byShear * freshBy[1],
      behind[o + 4] + byShear * freshBy[2],
    );
    out[o] = behind[o];
    out[o + 1] = 0;
    for (let k = 0; k < 3; k++) out[o + 2 + k] = chained[k];
    out[o + 5] = behind[o + 5];
    for (let k = 0; k < 3; k++) out[o + 6 + k] = behind[o + 6 + k] + chained[3 + k];
    out[o + 9] = chained[6];
    out[o + 10] = behind[o + 10] + chained[7];
    out[o + 11] = behind[o + 9] + chained[8];
  }
  const g = QUANTITY.growth;
  growth[0] = state[g];
  chain(growth, GROWTH.ahead, state[g + 2], state[g + 3], state[g + 4]);
  return true;
}
const chained = new Float64Array(9);

/** With the state at the place on the straight line between the two stations. */
function straightTransition(out: Float64Array, growth: Float64Array, place: Place): void {
  const { ra, a, rb, b, x1, x2, xt, flow } = place;
  const dx = x2 - x1;
  const f = (xt - x1) / dx;
  const PLACES = [PRIMARY.theta, PRIMARY.displacement, PRIMARY.speed];
  const rise = PLACES.map((q) => rb[b + q] - ra[a + q]);
  const [theta, displacement, speed] = PLACES.map((q, k) => ra[a + q] + f * rise[k]);
  evaluateStation(state, 0, 'laminar', ra[a], theta, displacement, speed, flow);
  intervalResiduals(ahead, ra, a, state, 0, x1, xt, true);
  behindThePlace(place, theta, displacement, speed);
  const g = QUANTITY.growth;
  growth[0] = state[g];
  let growthByShare = 0;
  for (let k = 0; k < 3; k++) {
    const by = state[g + 2 + k];
    growth[GROWTH.ahead + k] = (1 - f) * by;
    growth[GROWTH.behind + k] = f * by;
    growthByShare += (by * rise[k]) / dx;
  }
  growth[GROWTH.x1] = growthByShare * (f - 1);
  growth[GROWTH.x2] = -growthByShare * f;
  growth[GROWTH.xt] = growthByShare;
  for (let r = 0; r < 3; r++) {
    const at = r * RESIDUAL;
    // The laminar layer has no equation of its own for the shear stress.
    const share = r === 0 ? 0 : 1;
    let byShare = 0;
    out[at] = share * ahead[at] + behind[at];
    out[at + 1] = share * ahead[at + 1];
    out[at + 5] = behind[at + 5];
    for (let k = 0; k < 3; k++) {
      const by = share * ahead[at + 6 + k] + behind[at + 2 + k] + behind[at + 1] * freshBy[k];
      out[at + 2 + k] = share * ahead[at + 2 + k] + (1 - f) * by;
      out[at + 6 + k] = behind[at + 6 + k] + f * by;
      byShare += (by * rise[k]) / dx;
    }
    out[at + 9] = share * ahead[at + 9] + byShare * (f - 1);
    out[at + 10] = behind[at + 10] - byShare * f;
    out[at + 11] = share * ahead[at + 10] + behind[at + 9] + byShare;
  }
}
