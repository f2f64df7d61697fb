import { GRAVITY } from '../atmosphere';
import { RAD } from '../numerics';
import type { MotionCase } from './derivatives';

/** A linear system x' = A x + B u. */
export interface LinearSystem {
  A: number[][];
  B: number[][];
  states: string[];
  inputs: string[];
}

/**
 * The linearised equations of longitudinal motion about steady flight, stability axes: u, w in m/s, q in rad/s, θ in rad; controls in rad.
 * Thrust is held by its throttle: what it changes by with the speed acts along its line. Without one it does not change.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, chapter 4; rates c/2V.
 */
export function longitudinalSystem(c: MotionCase): LinearSystem {
  const { derivatives: d, mass, Iyy, area, chord, speed, density, CL, CD } = c;
  const q = 0.5 * density * speed * speed;
  const force = (q * area) / mass;
  const moment = (q * area * chord) / Iyy;
  const lag = chord / (2 * speed);
  const climb = c.climbDeg * RAD;
  const push = thrustSlopes(c);
  const Xu = (-(d.CD_u + 2 * CD) * force) / speed + push.along / mass;
  const Xw = ((CL - d.CD_alpha) * force) / speed;
  const Xq = -d.CD_q * lag * force;
  const Zu = (-(d.CL_u + 2 * CL) * force) / speed - push.up / mass;
  const Zw = (-(d.CL_alpha + CD) * force) / speed;
  const Zwdot = (-d.CL_alphadot * lag * force) / speed;
  const Zq = -d.CL_q * lag * force;
  // What the air turns it with is what thrust beside the centre asks for, and grows with the square of the speed.
  const Mu = (d.Cm_u * moment) / speed + (push.noseUp - (2 * push.moment) / speed) / Iyy;
  const Mw = (d.Cm_alpha * moment) / speed;
  const Mwdot = (d.Cm_alphadot * lag * moment) / speed;
  const Mq = d.Cm_q * lag * moment;
  // The heave equation is solved for w-dot, which the pitching moment needs too.
  const heave = 1 / (1 - Zwdot);
  const w = [Zu, Zw, speed + Zq, -GRAVITY * Math.sin(climb)].map((v) => v * heave);
  const inputs = Object.keys(d.controls);
  const columns = inputs.map((id) => {
    const k = d.controls[id];
    const Zd = -k.CL * force * heave;
    return [-k.CD * force, Zd, k.Cm * moment + Mwdot * Zd, 0];
  });
  return {
    A: [
      [Xu, Xw, Xq, -GRAVITY * Math.cos(climb)],
      w,
      [Mu + Mwdot * w[0], Mw + Mwdot * w[1], Mq + Mwdot * w[2], Mwdot * w[3]],
      [0, 0, 1, 0],
    ],
    B: [0, 1, 2, 3].map((i) => columns.map((col) => col[i])),
    states: ['u', 'w', 'q', 'theta'],
    inputs,
  };
}

/** What thrust changes by with the speed: along the path, up, N s/m, and nose up about the centre, N s; and its moment, N m. */
function thrustSlopes({ thrust }: MotionCase): { along: number; up: number; noseUp: number; moment: number } {
  if (!thrust) return { along: 0, up: 0, noseUp: 0, moment: 0 };
  const { force, perSpeed, ahead, below, abovePathDeg, tiltDeg } = thrust;
  const [path, tilt] = [abovePathDeg, tiltDeg].map((deg) => deg * RAD);
  const arm = below * Math.cos(tilt) + ahead * Math.sin(tilt);
  return {
    moment: force * arm,
    along: perSpeed * Math.cos(path),
    up: perSpeed * Math.sin(path),
    noseUp: perSpeed * arm,
  };
}

/** The same of lateral motion: v in m/s, p, r in rad/s, φ in rad. @source as {@link longitudinalSystem}; rates b/2V. */
export function lateralSystem(c: MotionCase): LinearSystem {
  const { derivatives: d, mass, Ixx, Izz, Ixz, area, span, speed, density } = c;
  const q = 0.5 * density * speed * speed;
  const force = (q * area) / mass;
  const moment = q * area * span;
  const turn = span / (2 * speed);
  const climb = c.climbDeg * RAD;
  const det = Ixx * Izz - Ixz * Ixz;
  /** Rolling and yawing moments into accelerations, through the product of inertia. */
  const rates = (l: number, n: number): [number, number] => [
    (moment * (Izz * l + Ixz * n)) / det,
    (moment * (Ixz * l + Ixx * n)) / det,
  ];
  const [pv, rv] = rates(d.Cl_beta / speed, d.Cn_beta / speed);
  const [pp, rp] = rates(d.Cl_p * turn, d.Cn_p * turn);
  const [pr, rr] = rates(d.Cl_r * turn, d.Cn_r * turn);
  const inputs = Object.keys(d.controls);
  const columns = inputs.map((id) => {
    const k = d.controls[id];
    const [p, r] = rates(k.Cl, k.Cn);
    return [k.CY * force, p, r, 0];
  });
  return {
    A: [
      [(d.CY_beta * force) / speed, d.CY_p * turn * force, d.CY_r * turn * force - speed, GRAVITY * Math.cos(climb)],
      [pv, pp, pr, 0],
      [rv, rp, rr, 0],
      [0, 1, Math.tan(climb), 0],
    ],
    B: [0, 1, 2, 3].map((i) => columns.map((col) => col[i])),
    states: ['v', 'p', 'r', 'phi'],
    inputs,
  };
}
