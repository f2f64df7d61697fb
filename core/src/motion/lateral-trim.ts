import { factorise, FailedComputation, RAD, solveFactorised } from '../numerics';
import { GRAVITY } from '../atmosphere';
import type { ControlTravel } from '../lift';
import type { MotionCase } from './derivatives';

/** What steady straight flight with a sideslip has to hold; rad, N, N·m. */
export interface LateralDemand {
  /** With the wind from the right positive, rad. */ sideslip: number;
  /** Moments from elsewhere, body axes: an engine out, unequal wings; right wing down and nose right positive, N·m. */
  rollMoment?: number;
  yawMoment?: number;
  /** To the right, N. */ sideForce?: number;
}

/** A control in lateral trim. */
export interface LateralControl {
  name: string;
  /** rad */ deflection: number;
  /** Of its limits on that side, rad; null where none is given. */ limit: number | null;
  /** Share of the limit that is left; below 0 beyond it. */ left: number | null;
}

/** Steady straight flight that one control holds: the sideslip follows. */
export interface SlippingTrim {
  sideslip: number;
  bank: number;
  controls: LateralControl[];
}

/** Steady straight flight with a sideslip. */
export interface LateralTrim {
  /** Right wing down positive, rad. */ bank: number;
  controls: LateralControl[];
  /** Greatest sideslip to that side until a control meets its limit, rad, and which; null where none does. */
  most: { sideslip: number; control: string } | null;
}

/** What works of a small deflection about where a control stands. */
const shareAbout = (travel?: ControlTravel) => travel?.slope(travel.standing) ?? 1;

/** A control that has to come to an effective deflection, which the derivatives are told in: those about where it stands. */
function controlAt(
  name: string,
  effective: number,
  limits?: readonly [number, number],
  travel?: ControlTravel,
): LateralControl {
  const deflection = travel?.deflectionFor(shareAbout(travel) * effective) ?? effective;
  const limit = limits ? (deflection < 0 ? limits[0] : limits[1]) : null;
  return { name, deflection, limit, left: limit ? 1 - deflection / limit : null };
}

/**
 * Trims steady straight flight with a sideslip, a crosswind on the approach, an engine out or unequal wings: bank, and the controls that roll and yaw, from the
 * linear lateral equations.
 * @param c in steady flight, derivatives in stability axes. @param limits of controls by name, rad: least and greatest. @param travels what their deflections come
 *   to; all of it without.
 * @throws FailedComputation `no-lateral-control` where no two controls hold roll and yaw.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §7.8 (steady sideslip).
 */
export function lateralTrim(
  c: MotionCase,
  demand: LateralDemand,
  limits: Readonly<Record<string, readonly [number, number]>> = {},
  travels: Readonly<Record<string, ControlTravel>> = {},
): LateralTrim {
  const { derivatives: d, area, span, mass, density, speed } = c;
  const qS = 0.5 * density * speed * speed * area;
  // Of all pairs of controls the one that holds roll and yaw with the least effort of both.
  const able = Object.entries(d.controls).filter(([, k]) => Math.hypot(k.Cl, k.Cn) > 1e-4);
  let best: { names: [string, string]; strength: number } | null = null;
  able.forEach(([a, p], i) =>
    able.slice(i + 1).forEach(([b, q]) => {
      const strength = Math.abs(p.Cl * q.Cn - p.Cn * q.Cl);
      if (strength > 1e-7 && (!best || strength > best.strength)) best = { names: [a, b], strength };
    }),
  );
  if (!best)
    throw new FailedComputation(
      'no-lateral-control',
      able.length === 0
        ? 'No control rolls or yaws: a sideslip cannot be held.'
        : `${able.map(([name]) => name).join(', ')} alone cannot hold roll and yaw together.`,
      'Give it an aileron and a rudder in Airframe.',
    );
  const { names } = best as { names: [string, string] };
  const [p, q] = names.map((name) => d.controls[name]);
  const weight = (mass * GRAVITY * Math.cos(c.climbDeg * RAD)) / qS;
  const solve = (of: LateralDemand) => {
    // Side force, roll and yaw; the weight's part is linear in the sine of the bank.
    const matrix = Float64Array.of(weight, p.CY, q.CY, 0, p.Cl, q.Cl, 0, p.Cn, q.Cn);
    const right = Float64Array.of(
      -d.CY_beta * of.sideslip - (of.sideForce ?? 0) / qS,
      -d.Cl_beta * of.sideslip - (of.rollMoment ?? 0) / (qS * span),
      -d.Cn_beta * of.sideslip - (of.yawMoment ?? 0) / (qS * span),
    );
    const [sine, one, two] = solveFactorised(factorise(matrix, 3), right);
    return { sine, deflections: [one, two] };
  };
  const now = solve(demand);
  const [still, unit] = [solve({ ...demand, sideslip: 0 }), solve({ sideslip: 1 })];
  const side = demand.sideslip < 0 ? -1 : 1;
  let most: LateralTrim['most'] = null;
  const controls = names.map((name, i): LateralControl => {
    const own = limits[name];
    const travel = travels[name];
    const about = shareAbout(travel);
    if (own) {
      const slope = side * unit.deflections[i];
      const [least, greatest] = own.map((d) => (travel ? travel.effective(d) / about : d));
      const until = slope > 0 ? (greatest - still.deflections[i]) / slope : (least - still.deflections[i]) / slope;
      if (Number.isFinite(until) && (!most || until < Math.abs(most.sideslip)))
        most = { sideslip: side * Math.max(0, until), control: name };
    }
    return controlAt(name, now.deflections[i], own, travel);
  });
  return { bank: Math.asin(Math.max(-1, Math.min(1, now.sine))), controls, most };
}

/**
 * Steady straight flight against moments from elsewhere with the strongest single control: bank and sideslip follow.
 * @param c, limits, travels as {@link lateralTrim}. @returns null where no control rolls or yaws, or where the equations have no answer.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §7.8.
 */
export function slippingTrim(
  c: MotionCase,
  demand: Omit<LateralDemand, 'sideslip'>,
  limits: Readonly<Record<string, readonly [number, number]>> = {},
  travels: Readonly<Record<string, ControlTravel>> = {},
): SlippingTrim | null {
  const { derivatives: d, area, span, mass, density, speed } = c;
  const qS = 0.5 * density * speed * speed * area;
  const [first] = Object.entries(d.controls)
    .filter(([, k]) => Math.hypot(k.Cl, k.Cn) > 1e-4)
    .sort(([, a], [, b]) => Math.hypot(b.Cl, b.Cn) - Math.hypot(a.Cl, a.Cn));
  if (!first) return null;
  const [name, k] = first;
  const weight = (mass * GRAVITY * Math.cos(c.climbDeg * RAD)) / qS;
  const matrix = Float64Array.of(weight, d.CY_beta, k.CY, 0, d.Cl_beta, k.Cl, 0, d.Cn_beta, k.Cn);
  if (Math.abs(d.Cl_beta * k.Cn - d.Cn_beta * k.Cl) < 1e-7) return null;
  const right = Float64Array.of(
    -(demand.sideForce ?? 0) / qS,
    -(demand.rollMoment ?? 0) / (qS * span),
    -(demand.yawMoment ?? 0) / (qS * span),
  );
  const [sine, sideslip, effective] = solveFactorised(factorise(matrix, 3), right);
  return {
    sideslip,
    bank: Math.asin(Math.max(-1, Math.min(1, sine))),
    controls: [controlAt(name, effective, limits[name], travels[name])],
  };
}
