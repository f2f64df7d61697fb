import type { InertiaTensor } from '../balance';
import type { Point3, Reference } from '../airframe';
import type { Thruster } from '../propulsion';
import type { Vector } from './attitude';

/** How the air meets the vehicle. */
export interface AirState {
  /** m/s */ speed: number;
  /** rad */ alpha: number;
  beta: number;
  /** Rates of turn in the body's axes, made non-dimensional with b/2V (p, r) and c/2V (q). */ p: number;
  q: number;
  r: number;
  /** Over the ground, m; far away without. */ height?: number;
  /** Deflections, rad, in the order of the vehicle's controls. */ controls: ArrayLike<number>;
}

/** Coefficients of force along the body's axes and of moment about them, at the point that the aerodynamics are told about. */
export interface BodyCoefficients {
  CX: number;
  CY: number;
  CZ: number;
  Cl: number;
  Cm: number;
  Cn: number;
  /** True where the tables end and a plate's forces stand in. */ beyond: boolean;
}

/** Aerodynamics of a vehicle. */
export interface Aerodynamics {
  reference: Reference;
  /** Moments are about it; in the geometry's axes. */ about: Point3;
  /** Per rate of the angle of attack times c/2V: what the downwash's lag does. */ lag: { CL: number; Cm: number };
  at: (state: AirState, out: BodyCoefficients) => void;
}

/** Mass at a time: kg, geometry's axes, tensor about the centre. */
export interface MassState {
  mass: number;
  centre: Point3;
  inertia: InertiaTensor;
}

/** Force in the body's axes and where it acts, geometry's axes. */
export interface Push {
  force: Vector;
  at: Point3;
  /** Beside it, N·m; body axes. */ moment?: Vector;
}

/** Gas that leaves: kg/s, and where, geometry's axes. */
export interface Jet {
  flow: number;
  at: Point3;
}

/** What flies. */
export interface Vehicle {
  massAt: (t: number) => MassState;
  aerodynamics: Aerodynamics | null;
  /** Thrusts at a time. @param density kg/m³. */
  pushes: (t: number, air: Pick<AirState, 'speed' | 'alpha' | 'beta'>, density: number, throttle: number) => Push[];
  /** What the throttle works; none of a glider. */ thruster?: Thruster | null;
  /** Mass that leaves at a time. */ jets?: (t: number) => Jet[];
  controls: { name: string; least: number; greatest: number }[];
}

/** The tensor in the body's axes (forward, right, down) of one in the geometry's (aft, right, up): two axes are turned about. */
export const bodyTensor = (t: InertiaTensor): Float64Array =>
  Float64Array.of(t.xx, -t.xy, t.xz, -t.xy, t.yy, -t.yz, t.xz, -t.yz, t.zz);

/** The inverse of a symmetric positive 3 × 3 matrix, row-major; null where it has none. */
export function invertTensor(m: ArrayLike<number>): Float64Array | null {
  const [a, b, c, , d, e, , , f] = Array.from(m);
  const det = a * (d * f - e * e) - b * (b * f - c * e) + c * (b * e - c * d);
  if (!(det > 1e-12 * Math.abs(a * d * f)) || !(a * d * f > 0)) return null;
  const k = 1 / det;
  const [xx, xy, xz] = [k * (d * f - e * e), k * (c * e - b * f), k * (b * e - c * d)];
  const [yy, yz, zz] = [k * (a * f - c * c), k * (b * c - a * e), k * (a * d - b * b)];
  return Float64Array.of(xx, xy, xz, xy, yy, yz, xz, yz, zz);
}
