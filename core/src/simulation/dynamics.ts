import { standardAir, HIGHEST_ALTITUDE, LOWEST_ALTITUDE } from '../atmosphere';
import { bodyToLocal, rotateBack, type Vector } from './attitude';
import type { Earth } from './earth';
import {
  bodyTensor,
  invertTensor,
  type AirState,
  type BodyCoefficients,
  type Jet,
  type MassState,
  type Vehicle,
} from './vehicle';

/*
 * The state:
 *   0–2   place, north, east and down of the launch place, m
 *   3–5   velocity over the ground in the body's axes, m/s
 *   6–9   attitude, as a quaternion
 *   10–12 rates of turn against the stars in the body's axes, rad/s
 *   13–   deflections that actuators move
 */
export const PLACE = 0;
export const VELOCITY = 3;
export const ATTITUDE = 6;
export const RATES = 10;
export const ACTUATORS = 13;

/** What the equations of motion need beside the state. */
export interface Surroundings {
  earth: Earth;
  /** Altitude of the ground, m. */ ground: number;
  /** Velocity of the air over the ground at a time and height, local axes, m/s. */
  airAt: (t: number, height: number) => Vector;
  /** What the air turns with about the body's axes, rad/s. */ turning?: Vector;
}

/** Forces, moments and what the air does in one state. */
export interface Instant {
  air: AirState;
  coefficients: BodyCoefficients;
  /** Body axes, N: air and thrust; without weight. */ force: Vector;
  /** Body axes about the centre, N·m. */ moment: Vector;
  mass: MassState;
  height: number;
  density: number;
}

/** Air properties by height, without a new table walk for every evaluation. */
class AirColumn {
  private height = NaN;
  private density = 0;
  at(altitude: number): number {
    // A state that ran away: the step is thrown away.
    if (!Number.isFinite(altitude)) return NaN;
    if (!(Math.abs(altitude - this.height) <= 1e-9)) {
      this.density = standardAir(Math.max(LOWEST_ALTITUDE, Math.min(HIGHEST_ALTITUDE, altitude))).density;
      this.height = altitude;
    }
    return this.density;
  }
}

/**
 * The equations of motion of a rigid body in six degrees of freedom, over a flat or a round earth, turning or not.
 * @source Stevens, Lewis and Johnson, Aircraft Control and Simulation, 3rd ed., 2016, §1.7; Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, chapter 4.
 */
export class Equations {
  private readonly cosines = new Float64Array(9);
  private readonly column = new AirColumn();
  private massTime = NaN;
  private mass!: MassState;
  private tensor!: Float64Array;
  private inverse!: Float64Array | null;
  private readonly coefficients: BodyCoefficients = { CX: 0, CY: 0, CZ: 0, Cl: 0, Cm: 0, Cn: 0, beyond: false };

  constructor(
    readonly vehicle: Vehicle,
    readonly around: Surroundings,
  ) {}

  private weigh(t: number): void {
    if (t === this.massTime) return;
    const mass = this.vehicle.massAt(t);
    this.massTime = t;
    if (mass === this.mass) return;
    this.mass = mass;
    this.tensor = bodyTensor(mass.inertia);
    this.inverse = invertTensor(this.tensor);
  }

  /** Whether the body can turn: its mass does not lie in one point or on one line. */
  turns(t: number): boolean {
    this.weigh(t);
    return this.inverse !== null;
  }

  massAt(t: number): MassState {
    this.weigh(t);
    return this.mass;
  }

  /** Direction cosines of a state; of use until the next evaluation. */
  attitude(y: ArrayLike<number>): Float64Array {
    return bodyToLocal(y, ATTITUDE, this.cosines);
  }

  /** Speed, angles and rates against the air. */
  airState(t: number, y: ArrayLike<number>, controls: ArrayLike<number>): { air: AirState; height: number } {
    const m = this.attitude(y);
    const height = this.around.earth.height(y[0], y[1], y[2]);
    const [wn, we, wd] = this.around.airAt(t, height);
    const calm = wn === 0 && we === 0 && wd === 0;
    const [wu, wv, ww] = calm ? [0, 0, 0] : rotateBack(m, wn, we, wd);
    const [u, v, w] = [y[3] - wu, y[4] - wv, y[5] - ww];
    const speed = Math.sqrt(u * u + v * v + w * w);
    const ref = this.vehicle.aerodynamics?.reference;
    const slow = speed < 1e-6;
    const [tp, tq, tr] = this.around.turning ?? [0, 0, 0];
    const [half, halfChord] = ref && !slow ? [ref.span / (2 * speed), ref.chord / (2 * speed)] : [0, 0];
    return {
      height,
      air: {
        speed,
        alpha: slow ? 0 : Math.atan2(w, u),
        beta: slow ? 0 : Math.asin(Math.max(-1, Math.min(1, v / speed))),
        p: clampRate((y[10] - tp) * half),
        q: clampRate((y[11] - tq) * halfChord),
        r: clampRate((y[12] - tr) * half),
        height,
        controls,
      },
    };
  }

  /** Everything that acts in a state. @param deflections rad, of all controls. */
  instant(t: number, y: ArrayLike<number>, deflections: ArrayLike<number>, throttle: number): Instant {
    this.weigh(t);
    const { vehicle, mass } = this;
    const { air, height } = this.airState(t, y, deflections);
    const density = this.column.at(this.around.ground + height);
    const force: Vector = [0, 0, 0];
    const moment: Vector = [0, 0, 0];
    const c = this.coefficients;
    const aero = vehicle.aerodynamics;
    if (aero && air.speed > 0) {
      aero.at(air, c);
      const { area, span, chord } = aero.reference;
      const qS = 0.5 * density * air.speed * air.speed * area;
      force[0] = qS * c.CX;
      force[1] = qS * c.CY;
      force[2] = qS * c.CZ;
      // The point that the tables are about, seen from the centre of gravity, body axes.
      const [rx, ry, rz] = fromCentre(aero.about, mass);
      moment[0] = qS * span * c.Cl + ry * force[2] - rz * force[1];
      moment[1] = qS * chord * c.Cm + rz * force[0] - rx * force[2];
      moment[2] = qS * span * c.Cn + rx * force[1] - ry * force[0];
    }
    for (const { force: f, at, moment: own } of vehicle.pushes(t, air, density, throttle)) {
      const [rx, ry, rz] = fromCentre(at, mass);
      for (let i = 0; i < 3; i++) force[i] += f[i];
      moment[0] += ry * f[2] - rz * f[1];
      moment[1] += rz * f[0] - rx * f[2];
      moment[2] += rx * f[1] - ry * f[0];
      if (own) for (let i = 0; i < 3; i++) moment[i] += own[i];
    }
    return { air, coefficients: c, force, moment, mass, height, density };
  }

  /** Rates of change of the first thirteen of the state. */
  rates(t: number, y: Float64Array, deflections: ArrayLike<number>, throttle: number, out: Float64Array): Instant {
    const now = this.instant(t, y, deflections, throttle);
    const { earth } = this.around;
    const m = this.cosines;
    const [u, v, w] = [y[3], y[4], y[5]];
    const [p, q, r] = [y[10], y[11], y[12]];
    out[0] = m[0] * u + m[1] * v + m[2] * w;
    out[1] = m[3] * u + m[4] * v + m[5] * w;
    out[2] = m[6] * u + m[7] * v + m[8] * w;
    const [gx, gy, gz] = earth.gravity(y[0], y[1], y[2]);
    let [ax, ay, az] = [gx, gy, gz];
    let [pr, qr, rr] = [p, q, r];
    if (earth.rate) {
      const [ex, ey, ez] = earth.rate;
      // What the turn of the axes adds: twice across the velocity, and outward.
      const [cx, cy, cz] = [y[0], y[1], y[2] - earth.centre];
      const [sx, sy, sz] = [ey * cz - ez * cy, ez * cx - ex * cz, ex * cy - ey * cx];
      ax -= 2 * (ey * out[2] - ez * out[1]) + ey * sz - ez * sy;
      ay -= 2 * (ez * out[0] - ex * out[2]) + ez * sx - ex * sz;
      az -= 2 * (ex * out[1] - ey * out[0]) + ex * sy - ey * sx;
      const [bx, by, bz] = rotateBack(m, ex, ey, ez);
      [pr, qr, rr] = [p - bx, q - by, r - bz];
    }
    const [bx, by, bz] = rotateBack(m, ax, ay, az);
    const { mass } = now.mass;
    out[3] = now.force[0] / mass + bx + rr * v - qr * w;
    out[4] = now.force[1] / mass + by + pr * w - rr * u;
    out[5] = now.force[2] / mass + bz + qr * u - pr * v;
    const [a, b, c, d] = [y[6], y[7], y[8], y[9]];
    // Drawn back to length one, to which it is held only by the equations otherwise.
    const keep = 1 - (a * a + b * b + c * c + d * d);
    out[6] = 0.5 * (-b * pr - c * qr - d * rr) + keep * a;
    out[7] = 0.5 * (a * pr + c * rr - d * qr) + keep * b;
    out[8] = 0.5 * (a * qr + d * pr - b * rr) + keep * c;
    out[9] = 0.5 * (a * rr + b * qr - c * pr) + keep * d;
    let [mx, my, mz] = now.moment;
    this.lagOf(now, y, out, (moment) => (my += moment));
    if (!this.inverse) {
      out[10] = out[11] = out[12] = 0;
      return now;
    }
    const I = this.tensor;
    const [hx, hy, hz] = [
      I[0] * p + I[1] * q + I[2] * r,
      I[3] * p + I[4] * q + I[5] * r,
      I[6] * p + I[7] * q + I[8] * r,
    ];
    const leaves = this.vehicle.jets?.(t);
    if (leaves?.length) [mx, my, mz] = this.leaving(t, leaves, now.mass, [p, q, r], [mx, my, mz]);
    mx -= q * hz - r * hy;
    my -= r * hx - p * hz;
    mz -= p * hy - q * hx;
    const J = this.inverse;
    out[10] = J[0] * mx + J[1] * my + J[2] * mz;
    out[11] = J[3] * mx + J[4] * my + J[5] * mz;
    out[12] = J[6] * mx + J[7] * my + J[8] * mz;
    return now;
  }

  /**
   * What gas that leaves carries away of the turn: −dI/dt ω − ṁ r × (ω × r), r from the centre to where it leaves.
   * @source Thomson, Introduction to Space Dynamics, 1961, chapter 8 (jet damping).
   */
  private leaving(t: number, jets: readonly Jet[], mass: MassState, w: Vector, moment: Vector): Vector {
    const d = 1e-4;
    const [before, after] = [
      bodyTensor(this.vehicle.massAt(Math.max(0, t - d)).inertia),
      bodyTensor(this.vehicle.massAt(t + d).inertia),
    ];
    const span = t + d - Math.max(0, t - d);
    const out: Vector = [...moment];
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) out[i] -= ((after[3 * i + j] - before[3 * i + j]) / span) * w[j];
    for (const jet of jets) {
      const r = fromCentre(jet.at, mass);
      const across = r[0] * w[0] + r[1] * w[1] + r[2] * w[2];
      const size = r[0] * r[0] + r[1] * r[1] + r[2] * r[2];
      for (let i = 0; i < 3; i++) out[i] -= jet.flow * (size * w[i] - across * r[i]);
    }
    return out;
  }

  /** What the lag of the downwash does to heave and pitch: the rate of the angle of attack depends on the force that it makes, and is solved for. */
  private lagOf(now: Instant, y: Float64Array, out: Float64Array, addMoment: (m: number) => void): void {
    const aero = this.vehicle.aerodynamics;
    const { speed, alpha } = now.air;
    if (!aero || speed < 1 || (aero.lag.CL === 0 && aero.lag.Cm === 0)) return;
    // The lag is that of attached flow; it fades out where the wing has long stalled.
    const share = Math.max(0, Math.min(1, (0.6 - Math.abs(alpha)) / 0.3)) * Math.min(1, (speed - 1) / 2);
    if (share === 0) return;
    const qS = 0.5 * now.density * speed * speed * aero.reference.area;
    const lag = aero.reference.chord / (2 * speed);
    const [u, w] = [y[3], y[5]];
    const plain = (u * out[5] - w * out[3]) / Math.max(1, u * u + w * w);
    const rate = plain / (1 + (share * qS * aero.lag.CL * lag) / (now.mass.mass * speed));
    const lift = share * qS * aero.lag.CL * lag * rate;
    out[3] += (lift * Math.sin(alpha)) / now.mass.mass;
    out[5] -= (lift * Math.cos(alpha)) / now.mass.mass;
    addMoment(share * qS * aero.reference.chord * aero.lag.Cm * lag * rate);
  }
}

/** Rates beyond which no derivative means anything: kept from running away near standstill. */
const clampRate = (v: number) => (v > 0.5 ? 0.5 : v < -0.5 ? -0.5 : v);

/** A point of the geometry seen from the centre of gravity, body axes. */
export const fromCentre = (point: { x: number; y: number; z: number }, mass: MassState): Vector => [
  mass.centre.x - point.x,
  point.y - mass.centre.y,
  mass.centre.z - point.z,
];
