import { flowState, GRAVITY } from '../atmosphere';
import { gauss5 } from '../numerics';
import { thrustAvailable, type Flyer } from './flyer';
import { glideAt } from './glide';
import { levelPoint } from './level';

/** Lift and drag on the ground, and the ground itself; SI. */
export interface GroundCase {
  /** Coefficients at the attitude of the roll. */ CL: number;
  CD: number;
  /** Of the rolling wheels; while braking. */ rolling: number;
  braking: number;
  /** To be cleared, m. */ obstacle: number;
}

/** Speeds over the stall: lift-off, over the obstacle, approach, touch-down. @source 14 CFR 23.51, 23.53, 23.73 and 23.75, 1996 (1.1, 1.2, 1.3); touch-down by usual practice. */
const OVER_STALL = { liftOff: 1.1, climbOut: 1.2, approach: 1.3, touchDown: 1.15 };

/** Where the ground is in the way of the aircraft: nothing rolls. */
export const inGround = ({ message, hint }: { message: string; hint?: string }): GroundRun =>
  failed([message, hint].filter(Boolean).join(' '));

/** A take-off or landing that can be made, or why not. */
export type GroundRun =
  | {
      ok: true;
      /** m */ run: number;
      /** s, of the run. */ time: number;
      /** From standstill to the obstacle's height, or the other way, m. */ total: number;
      /** At lift-off or touch-down, m/s. */ speed: number;
    }
  | { ok: false; reason: string };

const failed = (reason: string): GroundRun => ({ ok: false, reason });

/** Run from one speed to another: ∫ V dV/a and ∫ dV/a; null where it comes to rest in between. */
function runBetween(
  from: number,
  to: number,
  accelerationAt: (v: number) => number,
): { run: number; time: number } | null {
  const slices = 8;
  let [run, time] = [0, 0];
  for (let k = 0; k < slices; k++) {
    const [a, b] = [from + ((to - from) * k) / slices, from + ((to - from) * (k + 1)) / slices];
    const sign = Math.sign(to - from);
    if ([a, 0.5 * (a + b), b].some((v) => !(sign * accelerationAt(v) > 1e-6))) return null;
    run += gauss5((v) => v / accelerationAt(v), a, b);
    time += gauss5((v) => 1 / accelerationAt(v), a, b);
  }
  return { run, time };
}

/**
 * Take-off from wheels: roll to 1.1 of the stall speed at full thrust, and the climb to the obstacle's height at 1.2.
 * @source equation of motion along the ground, m a = T − D − μ (W − L), integrated over the speed.
 */
export function takeOff(flyer: Flyer, altitude: number, { CL, CD, rolling, obstacle }: GroundCase): GroundRun {
  if (!flyer.thruster) return failed('It has no engine.');
  const stall = flyer.stall(altitude);
  if (stall === null) return failed('The stall speed is not known: it needs section polars.');
  const { weight, area } = flyer;
  const mass = weight / GRAVITY;
  const liftOff = OVER_STALL.liftOff * stall;
  const { density } = flowState(1, altitude);
  const acceleration = (v: number) => {
    const qS = 0.5 * density * v * v * area;
    const thrust = thrustAvailable(flyer, Math.max(0.01, v), altitude)!;
    return (thrust - qS * CD - rolling * Math.max(0, weight - qS * CL)) / mass;
  };
  const rolled = runBetween(0, liftOff, acceleration);
  if (!rolled)
    return failed(`Full thrust does not reach the lift-off speed of ${liftOff.toFixed(1)} m/s on the ground.`);
  const v2 = OVER_STALL.climbOut * stall;
  const { climb, climbAngle } = levelPoint(flyer, v2, altitude);
  if (climb === null || climbAngle === null || climb <= 0)
    return failed(`It does not climb at ${v2.toFixed(1)} m/s, 1.2 of its stall speed.`);
  // From lift-off to the speed of the climb the excess of thrust speeds it up; what is left of the height is climbed.
  const faster = (v2 * v2 - liftOff * liftOff) / (2 * GRAVITY);
  const air = (obstacle + faster) / Math.tan(climbAngle);
  return { ok: true, run: rolled.run, time: rolled.time, total: rolled.run + air, speed: liftOff };
}

/** Landing over the obstacle: glide at 1.3 of the stall speed, touch-down at 1.15, and the braked roll with the engine idle. */
export function landing(flyer: Flyer, altitude: number, { CL, CD, braking, obstacle }: GroundCase): GroundRun {
  const stall = flyer.stall(altitude);
  if (stall === null) return failed('The stall speed is not known: it needs section polars.');
  const [approach, touch] = [OVER_STALL.approach * stall, OVER_STALL.touchDown * stall];
  const glide = glideAt(flyer, approach, altitude);
  if (!glide) return failed(`It does not glide in trim at ${approach.toFixed(1)} m/s, 1.3 of its stall speed.`);
  const { weight, area } = flyer;
  const { density } = flowState(1, altitude);
  const acceleration = (v: number) => {
    const qS = 0.5 * density * v * v * area;
    return (-(qS * CD + braking * Math.max(0, weight - qS * CL)) * GRAVITY) / weight;
  };
  const rolled = runBetween(touch, 0, acceleration);
  if (!rolled) return failed('Nothing brakes it on the ground.');
  const air = (obstacle + (approach * approach - touch * touch) / (2 * GRAVITY)) * glide.ratio;
  return { ok: true, run: rolled.run, time: rolled.time, total: rolled.run + air, speed: touch };
}

/** A launch from a rail: what it comes to at the end, and what it would need. */
export interface RailLaunch {
  /** m/s */ speed: number;
  /** Over the stall speed; null without one. */ overStall: number | null;
  /** For 1.1 of the stall speed, m; null without a stall speed, and where the force does not reach it. */ neededLength:
    number | null;
}

/** Launch along a level rail by a force that is the same over its length, with full thrust. @param length m. @param force N. */
export function railLaunch(
  flyer: Flyer,
  altitude: number,
  { length, force }: { length: number; force: number },
  CD: number,
): RailLaunch {
  const { weight, area } = flyer;
  const mass = weight / GRAVITY;
  const { density } = flowState(1, altitude);
  const stall = flyer.stall(altitude);
  const acceleration = (v: number) =>
    (force + (thrustAvailable(flyer, Math.max(0.01, v), altitude) ?? 0) - 0.5 * density * v * v * area * CD) / mass;
  // Over the way, by steps of the speed's square.
  let square = 0;
  const steps = 400;
  for (let k = 0; k < steps; k++) {
    const h = length / steps;
    const first = 2 * acceleration(Math.sqrt(Math.max(0, square)));
    const second = 2 * acceleration(Math.sqrt(Math.max(0, square + 0.5 * h * first)));
    square = Math.max(0, square + h * second);
  }
  const speed = Math.sqrt(square);
  const needed = stall === null ? null : runBetween(0, OVER_STALL.liftOff * stall, acceleration);
  return { speed, overStall: stall === null ? null : speed / stall, neededLength: needed?.run ?? null };
}
