import { flowState } from '../atmosphere';
import type { Thruster } from '../propulsion';

/** A steady flight that is asked for; SI, rad. */
export interface SteadyRequest {
  speed: number;
  altitude: number;
  /** Of the path. */ climb?: number;
  /** Of a level turn. */ bank?: number;
  /** Weight over that of the flyer; 1 without. */ weightShare?: number;
  /** Engine idle: no thrust takes part in lift and moment. */ idle?: boolean;
  /** Thrust along its line where it is known, N: full throttle in a climb. */ thrust?: number;
  /** Whether the drag of trimming is asked for. */ split?: boolean;
}

/** A steady flight in trim. */
export interface TrimmedPoint {
  speed: number;
  altitude: number;
  /** rad */ alpha: number;
  /** What trims; null where nothing does, and a moment is left. */
  control: {
    id: string;
    name: string;
    deflection: number;
    /** That it would have to go beyond; null within. */ limit: number | null;
    /** To the nearer limit: negative beyond it; null of what has none. */ left: number | null;
  } | null;
  CL: number;
  CD: number;
  /** Drag coefficient that trimming costs: beside the same lift with the control where it stands. */ CDtrim: number;
  /** Pitching moment that is left. */ Cm: number;
  /** N */ drag: number;
  /** Share of the thrust that acts along the path. */ cosTilt: number;
  loadFactor: number;
  /** Of the method, where it is not to be relied on. */ doubt?: string;
}

/** An aircraft that can be asked to fly: whatever trims it. */
export interface Flyer {
  /** N */ weight: number;
  /** m² */ area: number;
  /** m, mean chord */ chord: number;
  /** Null without an engine that pushes. */ thruster: Thruster | null;
  /** @throws FailedComputation where no angle carries the weight. */
  trim(flight: SteadyRequest): TrimmedPoint;
  /** The same, quick enough for searches, and so close that only differences and places are read from it; itself where it is quick. */
  readonly search: Flyer;
  /** The slowest level flight in trim with the engine idle, m/s; null where the method knows no stall. */
  stall(altitude: number, weightShare?: number): number | null;
  /** dCL/dα, per rad. */ liftSlope: number;
  /** Greatest lift upside down, as a coefficient, negative; null where the method knows none. */ leastCL:
    number | null;
}

/** Full thrust along its own line, N; null without an engine. */
export function thrustAvailable(flyer: Flyer, speed: number, altitude: number): number | null {
  const { thruster } = flyer;
  if (!thruster) return null;
  const { density, soundSpeed } = flowState(speed, altitude);
  return thruster.thrust(1, { speed, density, soundSpeed });
}

/** Throttle that a thrust along the path asks for: above 1 where there is not so much; null without an engine. */
export function throttleFor(
  flyer: Flyer,
  alongPath: number,
  point: Pick<TrimmedPoint, 'speed' | 'altitude' | 'cosTilt'>,
) {
  const { thruster } = flyer;
  if (!thruster) return null;
  const { density, soundSpeed } = flowState(point.speed, point.altitude);
  return thruster.throttleFor(alongPath / point.cosTilt, { speed: point.speed, density, soundSpeed });
}
