import { z } from 'zod';
import { finiteNumber } from '../limits';
import { DEG } from '../numerics';

const number = finiteNumber;
const optional = number.default(0);

/** What a control does, per rad of deflection. */
export const controlDerivatives = z.object({
  CL: optional,
  CD: optional,
  Cm: optional,
  CY: optional,
  Cl: optional,
  Cn: optional,
});

/**
 * Derivatives in stability axes, per rad; rates are made non-dimensional with b/2V (p, r) and c/2V (q, α-dot), speed with V (u: per change of V over V).
 * Those that are not given are zero.
 */
export const derivativeSet = z.strictObject({
  CL_alpha: optional,
  CD_alpha: optional,
  Cm_alpha: optional,
  CL_q: optional,
  CD_q: optional,
  Cm_q: optional,
  CL_alphadot: optional,
  Cm_alphadot: optional,
  CL_u: optional,
  CD_u: optional,
  Cm_u: optional,
  CY_beta: optional,
  Cl_beta: optional,
  Cn_beta: optional,
  CY_p: optional,
  Cl_p: optional,
  Cn_p: optional,
  CY_r: optional,
  Cl_r: optional,
  Cn_r: optional,
  controls: z.record(z.string().min(1).max(60), controlDerivatives).default({}),
});
export type DerivativeSet = z.infer<typeof derivativeSet>;

const positive = (what: string) => number.refine((v) => v > 0, `must be greater than 0: ${what}`);

/** An aircraft in steady flight, with all that its small motions depend on; SI, inertia about the centre in stability axes, Ixz = ∫xz dm. */
export const motionCase = z
  .object({
    mass: positive('kg'),
    Ixx: positive('kg m²'),
    Iyy: positive('kg m²'),
    Izz: positive('kg m²'),
    Ixz: number.default(0),
    area: positive('m²'),
    chord: positive('m'),
    span: positive('m'),
    speed: positive('m/s'),
    density: positive('kg/m³'),
    climbDeg: number.min(-80).max(80).default(0),
    CL: number,
    CD: number,
    /** The thrust of that flight: N and N s/m at one throttle; its line, seen from the centre along and below the body's axes, m, and its angle above the path. */
    thrust: z
      .object({
        force: number,
        perSpeed: number,
        ahead: number.default(0),
        below: number.default(0),
        abovePathDeg: number.min(-90).max(90).default(0),
        tiltDeg: number.min(-90).max(90).default(0),
      })
      .optional(),
    derivatives: derivativeSet,
  })
  .superRefine((c, context) => {
    const refuse = (path: string, message: string) => context.addIssue({ code: 'custom', path: [path], message });
    // A body of any shape: each moment is at most the sum of the two others.
    const moments = { Ixx: c.Ixx, Iyy: c.Iyy, Izz: c.Izz };
    for (const [name, value] of Object.entries(moments)) {
      const others = Object.entries(moments).filter(([k]) => k !== name);
      const sum = others.reduce((s, [, v]) => s + v, 0);
      if (value > sum * (1 + 1e-9))
        refuse(
          name,
          `must not be greater than ${others.map(([k]) => k).join(' + ')} = ${Number(sum.toPrecision(5))}: no body has such moments of inertia. Are they about the centre of gravity?`,
        );
    }
    if (c.Ixz * c.Ixz >= c.Ixx * c.Izz) refuse('Ixz', 'is too great for Ixx and Izz: the tensor would not be positive');
  });
export type MotionCase = z.infer<typeof motionCase>;

/** What looks wrong in a set that can be computed all the same: units, signs. */
export function doubtsOf({ derivatives: d, CL }: MotionCase): string[] {
  const doubts: string[] = [];
  if (d.CL_alpha !== 0 && Math.abs(d.CL_alpha) < 0.25)
    doubts.push(
      `CL_alpha is ${d.CL_alpha}: that is usual per degree, and ${Number((d.CL_alpha * DEG).toPrecision(4))} per rad would be usual. Are the derivatives per degree?`,
    );
  if (d.CL_alpha < 0) doubts.push('CL_alpha is negative: lift would fall with the angle of attack.');
  if (d.Cm_q > 0)
    doubts.push(
      'Cm_q is positive: it would drive pitching on instead of damping it. Is its sign that of nose-up moments?',
    );
  if (d.Cm_alphadot > 0) doubts.push('Cm_alphadot is positive: a tail behind the wing makes it negative.');
  if (d.Cl_p > 0) doubts.push('Cl_p is positive: it would drive rolling on. Is its sign that of right wing down?');
  if (d.Cn_r > 0) doubts.push('Cn_r is positive: it would drive yawing on. Is its sign that of nose right?');
  if (CL < 0) doubts.push('CL is negative: the aircraft would be held down by its wing.');
  return doubts;
}
