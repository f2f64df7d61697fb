import { flowState, GRAVITY } from '../atmosphere';
import { InvalidInput } from '../numerics';
import type { LayoutPlan } from './plans';

/** What an engineer asks of a starting layout. */
export interface LayoutNumbers {
  /** kg */ mass: number;
  /** Design speed, m/s. */ speed: number;
  /** m */ altitude: number;
  /** m; null for none. */ spanLimit: number | null;
  /** Greatest power at the shaft, W, or static thrust of a jet, N; no matter for a glider. */ push: number;
}

/** Sizes that follow; m and kg. */
export interface LayoutSizes {
  /** Of each wing. */
  area: number;
  span: number;
  chord: number;
  aspect: number;
  /** Greatest width and height of the body. */ body: number;
  propeller: number;
  masses: { structure: number; equipment: number; engine: number; energy: number; payload: number };
}

/** Shares of the mass that are usual for light aircraft; the rest is payload. */
export const MASS_SHARES = { structure: 0.32, equipment: 0.08, battery: 0.16, fuel: 0.2 };
/** Less than this share left for a payload is refused. */
const LEAST_PAYLOAD = 0.04;
/** kg per W at the shaft: electric up to {@link ELECTRIC_UP_TO} W, piston engines above; kg per N of a small jet. */
const ENGINE_MASS = { electric: 1 / 2200, piston: 1 / 1000, jet: 1 / 80 };
export const ELECTRIC_UP_TO = 20_000;
/** Mass over volume of the fuller part of a body, kg/m³. */
const BODY_DENSITY = 480;

const digits = (v: number) => Number(v.toPrecision(3));

/**
 * Wing, body and masses of a layout from its numbers.
 * @throws InvalidInput `layout` where no aircraft of the kind can have them, with the nearest number that works.
 */
export function layoutSizes(plan: LayoutPlan, of: LayoutNumbers): LayoutSizes {
  if (plan.pushedBy !== 'none' && !(of.push > 0))
    throw new InvalidInput(
      'layout',
      `${plan.name} needs ${plan.pushedBy === 'thrust' ? 'a thrust' : 'a power'}.`,
      `Give a ${plan.pushedBy === 'thrust' ? 'thrust in N' : 'power in W'}, such as ${plan.usual.push}.`,
      'push',
    );
  const q = flowState(of.speed, of.altitude).dynamicPressure;
  const wings = plan.second ? 2 : 1;
  const area = (of.mass * GRAVITY) / (q * plan.wing.CL) / wings;
  const wanted = Math.sqrt(plan.wing.aspect * area);
  const span = of.spanLimit === null ? wanted : Math.min(wanted, of.spanLimit);
  const aspect = (span * span) / area;
  if (aspect < plan.wing.leastAspect) {
    const least = Math.sqrt(plan.wing.leastAspect * area);
    const speed = of.speed * Math.sqrt((plan.wing.leastAspect * area) / span ** 2);
    throw new InvalidInput(
      'layout',
      `A span of ${digits(span)} m is too small for ${digits(of.mass)} kg at ${digits(of.speed)} m/s: the aspect ratio would be ${aspect.toFixed(1)}, and this layout needs ${plan.wing.leastAspect}.`,
      `Allow ${digits(Math.ceil(least * 100) / 100)} m, or fly at ${digits(Math.ceil(speed * 10) / 10)} m/s.`,
      'spanLimit',
    );
  }
  const electric = of.push <= ELECTRIC_UP_TO;
  const per = plan.pushedBy === 'thrust' ? ENGINE_MASS.jet : electric ? ENGINE_MASS.electric : ENGINE_MASS.piston;
  const engine = plan.pushedBy === 'none' ? 0 : of.push * per;
  const energyShare =
    plan.pushedBy === 'none' ? 0.04 : plan.pushedBy === 'power' && electric ? MASS_SHARES.battery : MASS_SHARES.fuel;
  const structure = MASS_SHARES.structure * of.mass;
  const equipment = MASS_SHARES.equipment * of.mass;
  const energy = energyShare * of.mass;
  const payload = of.mass - structure - equipment - energy - engine;
  if (payload < LEAST_PAYLOAD * of.mass) {
    const most = (of.mass - structure - equipment - energy - LEAST_PAYLOAD * of.mass) / per;
    throw new InvalidInput(
      'layout',
      `An engine of ${digits(of.push)} ${plan.pushedBy === 'thrust' ? 'N' : 'W'} weighs about ${digits(engine)} kg: that leaves too little of ${digits(of.mass)} kg for a payload.`,
      `Give at most ${Math.floor(most)} ${plan.pushedBy === 'thrust' ? 'N' : 'W'}, or more mass.`,
      'push',
    );
  }
  const chord = area / span;
  const cabin = plan.nose * chord + 1.2 * chord;
  return {
    area,
    span,
    chord,
    aspect,
    body: Math.sqrt((of.mass * 0.6) / BODY_DENSITY / (0.65 * cabin)),
    propeller: 0.033 * of.push ** 0.35,
    masses: { structure, equipment, engine, energy, payload },
  };
}
