import { factorise, FailedComputation, RAD, solveFactorised } from '../numerics';
import { quaternionOf } from './attitude';
import type { Equations } from './dynamics';

/** Accelerations that are left, m/s² and rad/s². */
const CONVERGED = 1e-6;

/** Straight flight without acceleration. */
export interface FlightTrim {
  /** rad */ alpha: number;
  /** Deflection of the control that pitches, rad; its index, −1 where none does. */ deflection: number;
  control: number;
  /** rad; negative in a glide. */ climb: number;
  throttle: number;
}

/**
 * Trims straight flight at an airspeed with the wings level: the angle, the deflection that takes the moment, and the throttle of a wanted climb, or the
 * glide of an aircraft without an engine.
 * @param height over the ground, m. @param climb rad, wanted; of an aircraft without an engine the glide is found instead.
 * @param powered whether there is a throttle. @param heading rad. @throws FailedComputation `no-trim`.
 */
export function trimFlight(
  equations: Equations,
  options: { speed: number; height: number; climb: number; powered: boolean; controls: number; control: number },
): FlightTrim {
  const { speed, height, powered, control, controls } = options;
  const y = new Float64Array(13);
  const out = new Float64Array(13);
  const deflections = new Float64Array(controls);
  // Unknowns: angle of attack, deflection, and throttle or climb.
  const free = control >= 0 ? [0, 1, 2] : [0, 2];
  const rows = control >= 0 ? [3, 5, 11] : [3, 5];
  const residual = (v: readonly number[]): number[] => {
    const climb = powered ? options.climb : v[2];
    const q = quaternionOf(0, v[0] + climb, 0);
    y.fill(0);
    y[2] = -height;
    y[3] = speed * Math.cos(v[0]);
    y[5] = speed * Math.sin(v[0]);
    y.set(q, 6);
    deflections.fill(0);
    if (control >= 0) deflections[control] = v[1];
    // The wind's shear is left out of the trim: it is about the air.
    equations.rates(0, y, deflections, powered ? v[2] : 0, out);
    return rows.map((i) => out[i]);
  };
  const n = free.length;
  const most = [0.2, 0.2, powered ? 5 : 0.2];
  const from = (third: number) => {
    const x = [0.05, 0, third];
    let r = residual(x);
    let size = Math.hypot(...r);
    for (let k = 0; k < 60; k++) {
      if (size < 1e-10) break;
      const jacobian = new Float64Array(n * n);
      free.forEach((i, column) => {
        const h = 1e-6;
        const there = x.slice();
        there[i] += h;
        const up = residual(there);
        there[i] -= 2 * h;
        const down = residual(there);
        for (let row = 0; row < n; row++) jacobian[row * n + column] = (up[row] - down[row]) / (2 * h);
      });
      let step: Float64Array;
      try {
        step = solveFactorised(
          factorise(jacobian, n),
          Float64Array.from(r, (v) => -v),
        );
      } catch {
        break;
      }
      let taken = false;
      for (let share = 1; share > 1e-4; share *= 0.5) {
        const there = x.slice();
        free.forEach((i, column) => (there[i] += share * Math.max(-most[i], Math.min(most[i], step[column]))));
        if (powered && there[2] < -2) continue;
        const now = residual(there);
        const far = Math.hypot(...now);
        if (!(far < size)) continue;
        x.splice(0, 3, ...there);
        [r, size] = [now, far];
        taken = true;
        break;
      }
      if (!taken) break;
    }
    return { x, size };
  };
  // A propeller's thrust is flat, or that of a windmill, below some throttle: from there no step leads on.
  let { x, size } = from(powered ? 0.3 : -0.08);
  for (const start of powered ? [0.6, 0.9, 0.1] : []) {
    if (size < CONVERGED) break;
    ({ x, size } = from(start));
  }
  const refuse = (why: string, hint: string): never => {
    throw new FailedComputation('no-trim', `It does not trim at ${Number(speed.toPrecision(4))} m/s: ${why}.`, hint);
  };
  if (!(size < CONVERGED)) refuse('no angle and deflection carry it without acceleration', 'Fly faster, or lighter.');
  if (powered && x[2] > 1 + 1e-9)
    refuse(
      `a climb of ${(options.climb / RAD).toFixed(1)}° needs ${(100 * x[2]).toFixed(0)} % of its power`,
      'Give the propeller more power, or climb less.',
    );
  if (powered && x[2] < -1e-9)
    refuse(
      `a descent of ${(-options.climb / RAD).toFixed(1)}° is steeper than its glide without power`,
      'Descend less, or leave the propeller out and let it glide.',
    );
  return {
    alpha: x[0],
    deflection: control >= 0 ? x[1] : 0,
    control,
    climb: powered ? options.climb : x[2],
    throttle: powered ? Math.max(0, x[2]) : 0,
  };
}
