import { INTERVAL_RECORD, intervalResiduals, RESIDUAL } from './interval';
import { evaluateStation, PRIMARY, QUANTITY, STATION_RECORD, type LayerFlow } from './station';

/** A turbulent layer just begun has this share of the equilibrium √Cτ. */
const FRESH_SHEAR = Math.sqrt(0.7);

const state = new Float64Array(2 * STATION_RECORD);
const ahead = new Float64Array(INTERVAL_RECORD);
const behind = new Float64Array(INTERVAL_RECORD);

/**
 * Residuals of the interval in which transition lies: laminar up to the place, turbulent behind; the state there lies on the straight line between
 * the two stations.
 * @param ra, rb records of the laminar and the turbulent station, at `a` and `b`. @param xt arc length of transition, from x1 to x2.
 */
export function transitionResiduals(
  out: Float64Array,
  ra: Float64Array,
  a: number,
  rb: Float64Array,
  b: number,
  x1: number,
  x2: number,
  xt: number,
  flow: LayerFlow,
): void {
  const dx = x2 - x1;
  const f = Math.max(0, Math.min(1, (xt - x1) / dx));
  const between = (q: number) => ra[a + q] + f * (rb[b + q] - ra[a + q]);
  const theta = between(PRIMARY.theta);
  const displacement = between(PRIMARY.displacement);
  const speed = between(PRIMARY.speed);
  evaluateStation(state, 0, 'laminar', ra[a], theta, displacement, speed, flow);
  intervalResiduals(ahead, ra, a, state, 0, x1, xt, true);
  const t = STATION_RECORD;
  evaluateStation(state, t, 'turbulent', 0.05, theta, displacement, speed, flow);
  const q = t + QUANTITY.equilibrium;
  const [byTheta, byDelta, bySpeed] = [state[q + 2], state[q + 3], state[q + 4]].map((v) => FRESH_SHEAR * v);
  evaluateStation(state, t, 'turbulent', FRESH_SHEAR * state[q], theta, displacement, speed, flow);
  intervalResiduals(behind, state, t, rb, b, xt, x2, false);
  for (let r = 0; r < 3; r++) {
    const at = r * RESIDUAL;
    // The laminar layer has no equation of its own for the shear stress.
    const share = r === 0 ? 0 : 1;
    const dTheta = share * ahead[at + 6] + behind[at + 2] + behind[at + 1] * byTheta;
    const dDelta = share * ahead[at + 7] + behind[at + 3] + behind[at + 1] * byDelta;
    const dSpeed = share * ahead[at + 8] + behind[at + 4] + behind[at + 1] * bySpeed;
    out[at] = share * ahead[at] + behind[at];
    out[at + 1] = share * ahead[at + 1];
    out[at + 2] = share * ahead[at + 2] + (1 - f) * dTheta;
    out[at + 3] = share * ahead[at + 3] + (1 - f) * dDelta;
    out[at + 4] = share * ahead[at + 4] + (1 - f) * dSpeed;
    out[at + 5] = behind[at + 5];
    out[at + 6] = behind[at + 6] + f * dTheta;
    out[at + 7] = behind[at + 7] + f * dDelta;
    out[at + 8] = behind[at + 8] + f * dSpeed;
    const byShare =
      (dTheta * (rb[b + PRIMARY.theta] - ra[a + PRIMARY.theta]) +
        dDelta * (rb[b + PRIMARY.displacement] - ra[a + PRIMARY.displacement]) +
        dSpeed * (rb[b + PRIMARY.speed] - ra[a + PRIMARY.speed])) /
      dx;
    out[at + 9] = share * ahead[at + 9] + byShare * (f - 1);
    out[at + 10] = behind[at + 10] - byShare * f;
    out[at + 11] = share * ahead[at + 10] + behind[at + 9] + byShare;
  }
}

/** √Cτ of a turbulent layer that begins at a record's state. */
export function freshShear(record: Float64Array, at: number): number {
  return FRESH_SHEAR * record[at + QUANTITY.equilibrium];
}
