import { z } from 'zod';
import { finiteNumber } from '../limits';
import { RAD, rootBetween } from '../numerics';
import { pitchedPropeller, propellerTable, type PropellerPoint } from './blade-element';
import { propellerThrust } from './ideal-propeller';
import { motorState, valueAt, type MotorState } from './motor';

/** How a shaft's power falls with height; see {@link availablePower}. */
const powerLapse = { powerDensityExponent: finiteNumber.min(0).max(2).optional() };

const between = (least: number, greatest: number) => finiteNumber.min(least).max(greatest);
const above = (what: string, most = 1e9) =>
  finiteNumber.refine((v) => v > 0 && v <= most, `must be greater than 0 and at most ${most}, ${what}`);

/** Where a thrust acts, geometry's axes, m, and where it points: up and to the right of forward, degrees. */
const line = {
  position: z.strictObject({ x: between(-1e4, 1e4), y: between(-1e4, 1e4), z: between(-1e4, 1e4) }),
  pitchDeg: between(-90, 90).default(0),
  yawDeg: between(-180, 180).default(0),
};

/** A propeller by its nominal pitch. */
const propellerShape = z.strictObject({
  diameter: above('m', 100),
  /** Advance per turn without slip, m. */ pitch: above('m', 100),
  blades: z.int().min(1).max(12).default(2),
  /** Area of the blades over that of the disc. */ solidity: between(0.005, 0.6).default(0.06),
  /** The blades' section. */
  zeroLiftDeg: between(-15, 5).default(-3.5),
  slope: between(3, 7).default(5.8),
  clMax: between(0.4, 2.5).default(1.2),
  cdMin: between(0.004, 0.1).default(0.014),
});

/** What pushes an aircraft. */
export const engineSchema = z.discriminatedUnion('kind', [
  /** Nothing: a glider. */
  z.strictObject({ kind: z.literal('none') }),
  /** The same thrust at any speed, N. */
  z.strictObject({ kind: z.literal('constant'), thrust: above('N'), ...line }),
  /** A shaft's power with one efficiency at all speeds: T = ηP/V, at most that of the ideal propeller where a diameter is given. */
  z.strictObject({
    kind: z.literal('power'),
    power: above('W'),
    efficiency: between(0.01, 1).default(0.7),
    diameter: above('m', 100).optional(),
    ...powerLapse,
    ...line,
  }),
  /** A shaft's power on the ideal propeller, of which a share comes through. */
  z.strictObject({
    kind: z.literal('propeller'),
    power: above('W'),
    diameter: above('m', 100),
    /** Share of the power that reaches the air; the ideal propeller's own loss comes on top. */
    efficiency: between(0.01, 1).default(0.8),
    ...powerLapse,
    ...line,
  }),
  /** An electric motor, its battery and a propeller of blades. */
  z.strictObject({
    kind: z.literal('motor'),
    propeller: propellerShape,
    /** Revolutions a minute and volt. */ kv: above('rpm/V', 1e5),
    /** Ω */ resistance: above('Ω', 100),
    /** A */ idleCurrent: between(0, 1000).default(0.5),
    /** Which way it turns, seen from behind; `none` leaves its torque out, as of two that turn against each other. */
    turns: z.enum(['right', 'left', 'none']).default('none'),
    /** Whether the force across the axis counts, that a stream from the side makes. */ sideForce: z
      .boolean()
      .default(true),
    /** V, without load. */ voltage: above('V', 1e5),
    /** Ω */ batteryResistance: between(0, 100).default(0.02),
    ...line,
  }),
  /** A jet: static thrust at sea level, N, that falls with the Mach number and the air's density. */
  z.strictObject({
    kind: z.literal('jet'),
    thrust: above('N'),
    /** Thrust lost per Mach number at low speeds. */ machLapse: between(0, 3).default(0.4),
    /** Of the density ratio. */ densityExponent: between(0, 2).default(0.8),
    ...line,
  }),
  /** Full thrust, N, over speed, m/s, at sea level. */
  z.strictObject({
    kind: z.literal('table'),
    points: z
      .array(z.tuple([between(0, 1000), between(0, 1e9)]))
      .min(2)
      .max(200)
      .refine((list) => list.every(([v], i) => i === 0 || v > list[i - 1][0]), 'must go on in speed'),
    densityExponent: between(0, 2).default(1),
    ...line,
  }),
]);
export type Engine = z.infer<typeof engineSchema>;
export type EngineKind = Engine['kind'];
type Pushing = Exclude<Engine, { kind: 'none' }>;
/** Whether it pushes at all. */
export const pushes = (engine: Engine | null | undefined): engine is Pushing =>
  engine !== null && engine !== undefined && engine.kind !== 'none';

/** The air that an engine is in. */
export interface EngineAir {
  /** m/s */ speed: number;
  /** kg/m³ */ density: number;
  /** m/s; 340 without. */ soundSpeed?: number;
}

type Table = { points: PropellerPoint[]; J: number[]; CT: number[]; CP: number[]; CN: number[] };
/** Tables of propellers that were made, by what they are made of: engines are asked anew with every edit, propellers hardly change. */
const tables = new Map<string, Table>();
const MOST_TABLES = 30;

const SEA_LEVEL = 1.225;
/** Exponent of a naturally aspirated piston engine: within 2 % of 1.132 σ − 0.132 down to σ = 0.6, the published rule of such engines (SAE Transactions 29, 1934, 217). */
export const PISTON_LAPSE = 1.15;

/**
 * Full power of a shaft in air of a density: that at sea level times the density ratio to `powerDensityExponent`; without one, as of an electric motor, it
 * does not change.
 * @param engine `power` at sea level, W. @param density kg/m³. @returns W.
 */
export const availablePower = (engine: { power: number; powerDensityExponent?: number }, density: number): number =>
  engine.power * (density / SEA_LEVEL) ** (engine.powerDensityExponent ?? 0);
/** Slower than this a power has no thrust of its own, m/s. */
const SLOWEST = 1;

/** An engine that is ready to be asked: its propeller's table is made once. */
export class Thruster {
  private table: Table | null = null;

  constructor(readonly engine: Engine) {}

  /** Coefficients of a motor's propeller over the advance ratio; null of other engines. */
  get propeller() {
    if (this.engine.kind !== 'motor') return null;
    if (this.table) return this.table;
    const rps = (0.7 * this.engine.kv * this.engine.voltage) / 60;
    const key = JSON.stringify([this.engine.propeller, rps]);
    this.table = tables.get(key) ?? null;
    if (!this.table) {
      const { zeroLiftDeg, slope, clMax, cdMin, ...shape } = this.engine.propeller;
      const zeroLift = zeroLiftDeg * RAD;
      const made = pitchedPropeller(shape, { zeroLift, slope, clMax, cdMin, cdGrowth: 0.01, clOfLeastDrag: 0.3 });
      const points = propellerTable(made, rps);
      const of = (key: 'J' | 'CT' | 'CP' | 'CN') => points.map((p) => p[key]);
      this.table = { points, J: of('J'), CT: of('CT'), CP: of('CP'), CN: of('CN') };
      if (tables.size >= MOST_TABLES) tables.clear();
      tables.set(key, this.table);
    }
    return this.table;
  }

  /** The state of a motor; null of other engines. @param throttle 0 to 1, share of the battery's voltage. */
  motor(throttle: number, air: EngineAir): MotorState | null {
    const { engine } = this;
    if (engine.kind !== 'motor') return null;
    const { kv, resistance, idleCurrent, voltage, batteryResistance } = engine;
    return motorState(
      { kv, resistance, idleCurrent, battery: { voltage, resistance: batteryResistance } },
      { ...this.propeller!, diameter: engine.propeller.diameter },
      throttle,
      air.speed,
      air.density,
    );
  }

  /** Thrust, N. @param throttle 0 to 1; beyond it goes on as it is at full, so that what would be needed can be told. */
  thrust(throttle: number, air: EngineAir): number {
    if (throttle === 0 || this.engine.kind === 'none') return 0;
    if (this.engine.kind === 'propeller') {
      const { efficiency, diameter } = this.engine;
      const power = availablePower(this.engine, air.density);
      const size = propellerThrust(Math.abs(throttle) * power * efficiency, diameter, air.density, air.speed);
      return Math.sign(throttle) * size;
    }
    if (throttle < 0 || throttle > 1) return throttle * this.full(air);
    return this.engine.kind === 'motor' ? this.motor(throttle, air)!.thrust : throttle * this.full(air);
  }

  private full({ speed, density, soundSpeed = 340 }: EngineAir): number {
    const { engine } = this;
    const v = Math.max(0, speed);
    switch (engine.kind) {
      case 'none':
        return 0;
      case 'constant':
        return engine.thrust;
      case 'power': {
        const power = availablePower(engine, density);
        const plain = (engine.efficiency * power) / Math.max(SLOWEST, v);
        return engine.diameter === undefined
          ? plain
          : Math.min(plain, propellerThrust(power, engine.diameter, density, v));
      }
      case 'propeller':
        return propellerThrust(availablePower(engine, density) * engine.efficiency, engine.diameter, density, v);
      case 'motor':
        return this.motor(1, { speed, density })!.thrust;
      case 'jet':
        return (
          engine.thrust *
          Math.max(0, 1 - engine.machLapse * (v / soundSpeed)) *
          (density / SEA_LEVEL) ** engine.densityExponent
        );
      case 'table': {
        const { points } = engine;
        const last = points.length - 1;
        let i = 0;
        while (i < last - 1 && v > points[i + 1][0]) i++;
        const [[v0, a], [v1, b]] = [points[i], points[i + 1]];
        const share = Math.max(0, Math.min(1, (v - v0) / (v1 - v0)));
        return (a + share * (b - a)) * (density / SEA_LEVEL) ** engine.densityExponent;
      }
    }
  }

  /**
   * Force across a propeller's axis per rad between axis and stream, N, and its torque on the aircraft about the axis, N·m, right wing down positive; null of what
   * has none, or where both are switched off.
   */
  sideways(throttle: number, air: EngineAir): { forcePerAngle: number; torque: number } | null {
    const { engine } = this;
    if (engine.kind !== 'motor' || (!engine.sideForce && engine.turns === 'none')) return null;
    const state = this.motor(Math.max(0, Math.min(1, throttle)), air)!;
    if (!(state.rps > 0)) return null;
    const { diameter } = engine.propeller;
    const { J, CN } = this.propeller!;
    const J0 = air.speed / (state.rps * diameter);
    const forcePerAngle = engine.sideForce ? valueAt(J, CN, J0) * air.density * state.rps ** 2 * diameter ** 4 : 0;
    const size = state.shaftPower / (2 * Math.PI * state.rps);
    // It turns the aircraft the other way.
    return { forcePerAngle, torque: engine.turns === 'none' ? 0 : engine.turns === 'right' ? -size : size };
  }

  /** The throttle that gives a thrust, N; above 1 where there is not so much. */
  throttleFor(thrust: number, air: EngineAir): number {
    const full = this.thrust(1, air);
    if (!(thrust > 0)) return 0;
    if (!(full > 0)) return Infinity;
    if (thrust >= full && this.engine.kind !== 'propeller') return thrust / full;
    let high = 1;
    while (this.thrust(high, air) < thrust && high < 1e6) high *= 2;
    if (this.thrust(high, air) < thrust) return high;
    return rootBetween((throttle) => this.thrust(throttle, air) - thrust, 0, high, 1e-13 * high);
  }

  /** Change of the thrust with the speed at one throttle, N s/m. */
  perSpeed(throttle: number, air: EngineAir): number {
    const h = 1e-3 * Math.max(1, air.speed);
    const at = (speed: number) => this.thrust(throttle, { ...air, speed });
    return (at(air.speed + h) - at(air.speed - h)) / (2 * h);
  }
}
