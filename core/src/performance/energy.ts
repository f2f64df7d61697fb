import { z } from 'zod';
import { flowState, GRAVITY } from '../atmosphere';
import { finiteNumber, type FieldLimit } from '../limits';
import { FailedComputation, gaussPoints, greatestOf } from '../numerics';
import { speedsBetween } from './climb';
import { availablePower } from '../propulsion';
import { throttleFor, type Flyer, type TrimmedPoint } from './flyer';

const above = (most: number) =>
  finiteNumber.refine((v) => v > 0 && v <= most, `must be greater than 0 and at most ${most}`);
const share = finiteNumber.refine((v) => v > 0 && v <= 1, 'must be greater than 0 and at most 1');

/** What an aircraft flies on. */
export const energySchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('battery'),
    /** Wh, when full. */ capacity: above(1e9),
    /** Share of it that is flown. */ usable: share.default(0.8),
    /** Of motor and controller; of a motor with its own numbers, these tell it instead. */ efficiency:
      share.default(0.85),
  }),
  z.strictObject({
    kind: z.literal('fuel'),
    /** kg that are burnt: part of the mass at the beginning. */ mass: above(1e7),
    /** kg per kWh of the shaft, or kg per N and hour of thrust (`per`). */ consumption: above(100),
    per: z.enum(['power', 'thrust']).default('power'),
  }),
]);
export type Energy = z.infer<typeof energySchema>;

/** Limits of the numbers of an energy, for fields. */
export const ENERGY_LIMITS = {
  capacity: { label: 'Capacity, Wh', dimension: 'plain', min: 0, max: 1e9, step: 10, above: { nearest: 1 } },
  usable: { label: 'Usable share', dimension: 'ratio', min: 0, max: 1, step: 0.05, above: { nearest: 0.01 } },
  efficiency: {
    label: 'Motor efficiency',
    dimension: 'ratio',
    min: 0,
    max: 1,
    step: 0.01,
    above: { nearest: 0.01 },
    hint: 'Of motor and controller; a motor with its own numbers tells it by these',
  },
  mass: {
    label: 'Fuel',
    dimension: 'mass',
    min: 0,
    max: 1e7,
    step: 0.1,
    above: { nearest: 0.001 },
    hint: 'Part of the mass',
  },
  consumption: {
    label: 'Specific fuel consumption',
    dimension: 'plain',
    min: 0,
    max: 100,
    step: 0.01,
    above: { nearest: 0.001 },
  },
} as const satisfies Record<string, FieldLimit>;

/** Power of the shaft, W, that a thrust along the path asks for: the thrust's own power where the engine knows no shaft. */
function shaftPower(flyer: Flyer, p: TrimmedPoint, throttle: number): number {
  const { engine } = flyer.thruster!;
  if (engine.kind === 'power') return (p.drag / p.cosTilt) * p.speed * (1 / engine.efficiency);
  if (engine.kind === 'propeller') return throttle * availablePower(engine, flowState(p.speed, p.altitude).density);
  if (engine.kind === 'motor') {
    const { density } = flowState(p.speed, p.altitude);
    return flyer.thruster!.motor(Math.min(1, throttle), { speed: p.speed, density })!.shaftPower;
  }
  return (p.drag / p.cosTilt) * p.speed;
}

/**
 * What level flight takes: W of a battery, kg/s of fuel.
 * @returns null without an engine, and where full thrust does not hold the speed.
 */
export function consumptionOf(flyer: Flyer, energy: Energy, p: TrimmedPoint): number | null {
  const throttle = throttleFor(flyer, p.drag, p);
  if (throttle === null || throttle > 1) return null;
  if (energy.kind === 'fuel' && energy.per === 'thrust') return (energy.consumption * (p.drag / p.cosTilt)) / 3600;
  if (energy.kind === 'battery' && flyer.thruster!.engine.kind === 'motor') {
    const { density } = flowState(p.speed, p.altitude);
    return flyer.thruster!.motor(throttle, { speed: p.speed, density })!.batteryPower;
  }
  const shaft = shaftPower(flyer, p, throttle);
  return energy.kind === 'fuel' ? (energy.consumption * shaft) / 3.6e6 : shaft / energy.efficiency;
}

/** How far and how long it flies. */
export interface Cruise {
  /** At the beginning, m/s. */ speed: number;
  /** m */ range: number;
  /** s */ time: number;
}
export interface RangeFacts {
  bestRange: Cruise | null;
  bestEndurance: Cruise | null;
}

/** Places of the weight at which fuel flights are held against each other. */
const SLICES = 2;

/**
 * The greatest range and endurance in level flight at an altitude: at each weight, of the fuel that is burnt, the speed is the best one.
 * @param speeds least and greatest that are looked at, m/s. @returns null for what cannot be: no engine, or no speed that it holds.
 * @throws FailedComputation `no-fuel` where the fuel is not less than the whole mass.
 * @source range and endurance as integrals over the weight, without an assumption on its polar; of a parabolic polar they are Breguet's.
 */
export function rangeFacts(
  { search: flyer }: Flyer,
  energy: Energy,
  altitude: number,
  [least, greatest]: readonly [number, number],
): RangeFacts {
  if (!flyer.thruster) return { bestRange: null, bestEndurance: null };
  const samples = speedsBetween(least, greatest, 11);
  const rateAt = (v: number, weightShare: number): number | null => {
    try {
      const p = flyer.trim({ speed: v, altitude, weightShare });
      return p.control?.limit === undefined || p.control.limit === null ? consumptionOf(flyer, energy, p) : null;
    } catch (error) {
      if (error instanceof FailedComputation) return null;
      throw error;
    }
  };
  const best = (weightShare: number, far: boolean) => {
    const found = greatestOf(
      (v) => {
        const rate = rateAt(v, weightShare);
        return rate === null || !(rate > 0) ? null : (far ? v : 1) / rate;
      },
      samples.map((v) => v * Math.sqrt(weightShare)),
    );
    if (!found) return null;
    return { speed: found.x, rate: rateAt(found.x, weightShare)! };
  };
  if (energy.kind === 'battery') {
    const joules = energy.capacity * 3600 * energy.usable;
    const cruise = (far: boolean): Cruise | null => {
      const b = best(1, far);
      return b && { speed: b.speed, range: (joules * b.speed) / b.rate, time: joules / b.rate };
    };
    return { bestRange: cruise(true), bestEndurance: cruise(false) };
  }
  const burnt = (energy.mass * GRAVITY) / flyer.weight;
  if (burnt >= 1)
    throw new FailedComputation(
      'no-fuel',
      `The fuel, ${energy.mass} kg, is not less than the whole mass, ${(flyer.weight / GRAVITY).toFixed(2)} kg.`,
      'Give the fuel that is part of the mass.',
    );
  const cruise = (far: boolean): Cruise | null => {
    const first = best(1, far);
    if (!first) return null;
    let [range, time] = [0, 0];
    // Over the logarithm of the weight, where a flight at one lift coefficient is straight.
    for (const { x, w } of gaussPoints(Math.log(1 - burnt), 0, SLICES)) {
      const at = Math.exp(x);
      const b = best(at, far);
      if (!b) return null;
      const kilograms = (at * flyer.weight) / GRAVITY;
      time += (w * kilograms) / b.rate;
      range += (w * kilograms * b.speed) / b.rate;
    }
    return { speed: first.speed, range, time };
  };
  return { bestRange: cruise(true), bestEndurance: cruise(false) };
}

/** The same aircraft at another weight, its centre of gravity where it is. @param share of its weight. */
export function atWeight({ search: flyer }: Flyer, share: number): Flyer {
  const made: Flyer = {
    weight: flyer.weight * share,
    area: flyer.area,
    chord: flyer.chord,
    thruster: flyer.thruster,
    liftSlope: flyer.liftSlope,
    leastCL: flyer.leastCL,
    get search() {
      return made;
    },
    trim: (f) => flyer.trim({ ...f, weightShare: share * (f.weightShare ?? 1) }),
    stall: (altitude, own = 1) => flyer.stall(altitude, share * own),
  };
  return made;
}

/** Range and endurance of a mass. */
export interface MassRange {
  /** kg */ mass: number;
  range: number | null;
  time: number | null;
}

/** Range and endurance over the mass, which takes payload for the same energy. @param shares of the mass as it is. @throws as {@link rangeFacts}. */
export const rangeOverMass = (
  flyer: Flyer,
  energy: Energy,
  altitude: number,
  speeds: readonly [number, number],
  shares: readonly number[],
): MassRange[] =>
  shares.map((share) => {
    const own = atWeight(flyer, share);
    const faster = Math.sqrt(share);
    const found = rangeFacts(own, energy, altitude, [speeds[0] * faster, speeds[1] * faster]);
    return {
      mass: own.weight / GRAVITY,
      range: found.bestRange?.range ?? null,
      time: found.bestEndurance?.time ?? null,
    };
  });
