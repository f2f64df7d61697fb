import { DEG, FailedComputation } from '../numerics';
import { climbOf, type Climb } from './climb';
import { thrustAvailable, throttleFor, type Flyer, type TrimmedPoint } from './flyer';

/** Level flight in trim at a speed, and what can be done there; SI, rad. Null is not there: a glider has no climb. */
export interface LevelPoint {
  speed: number;
  /** `limited`: the control would have to go beyond its travel. `unflyable`: no angle carries the weight. */
  status: 'solved' | 'limited' | 'doubtful' | 'unflyable';
  reason?: string;
  trim: TrimmedPoint | null;
  /** Lift over drag. */ ratio: number | null;
  drag: number | null;
  /** Drag times speed, W. */ power: number | null;
  /** Power over weight: what an unpowered aircraft sinks, m/s. */ sink: number | null;
  /** Full thrust along its line, N, and the power of its part along the path, W. */ thrustAvailable: number | null;
  powerAvailable: number | null;
  throttle: number | null;
  /** Steady climb at full throttle, m/s and rad. */ climb: number | null;
  climbAngle: number | null;
  /** Drag times speed in that climb, W: its lift carries less than the weight. And the power of the thrust along its path. */
  climbPower: number | null;
  climbAvailable: number | null;
}

const NOTHING = {
  trim: null,
  ratio: null,
  drag: null,
  power: null,
  sink: null,
  thrustAvailable: null,
  powerAvailable: null,
  throttle: null,
  climb: null,
  climbAngle: null,
  climbPower: null,
  climbAvailable: null,
} as const;

/** Why a point is not whole. */
function statusOf({ control, doubt }: TrimmedPoint): Pick<LevelPoint, 'status' | 'reason'> {
  if (control && control.limit !== null)
    return {
      status: 'limited',
      reason: `${control.name} would have to go to ${(control.deflection * DEG).toFixed(1)}°; its limit is ${(control.limit * DEG).toFixed(1)}°.`,
    };
  return doubt === undefined ? { status: 'solved' } : { status: 'doubtful', reason: doubt };
}

/**
 * Level flight in trim at a speed and an altitude, with what the engine can do there. Never throws for a flight that cannot be: the point says why.
 * @param flyer in trim. @param speed m/s. @param altitude m. @param climbs whether the climb is asked for, which is several trims.
 * @throws InvalidInput for a speed or an altitude that is none.
 */
export function levelPoint(flyer: Flyer, speed: number, altitude: number, climbs = true): LevelPoint {
  let trim: TrimmedPoint;
  try {
    trim = flyer.trim({ speed, altitude, split: true });
  } catch (error) {
    if (error instanceof FailedComputation) return { speed, status: 'unflyable', reason: error.message, ...NOTHING };
    throw error;
  }
  const full = thrustAvailable(flyer, speed, altitude);
  const power = trim.drag * speed;
  const climb: Climb | null = climbs ? climbOf(flyer, trim, full) : null;
  return {
    speed,
    ...statusOf(trim),
    trim,
    ratio: trim.CL / trim.CD,
    drag: trim.drag,
    power,
    sink: power / flyer.weight,
    thrustAvailable: full,
    powerAvailable: full === null ? null : full * trim.cosTilt * speed,
    throttle: throttleFor(flyer, trim.drag, trim),
    climb: climb && climb.rate,
    climbAngle: climb && climb.angle,
    climbPower: climb && climb.power,
    climbAvailable: climb && climb.available,
  };
}

/** {@link levelPoint} over speeds, m/s, in their order. */
export const levelFlights = (flyer: Flyer, speeds: readonly number[], altitude: number): LevelPoint[] =>
  speeds.map((v) => levelPoint(flyer, v, altitude));

/** Whether a point is a flight that can be held. */
export const holds = (p: LevelPoint): boolean => p.status === 'solved' || p.status === 'doubtful';
