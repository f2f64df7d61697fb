import { standardAir } from '../atmosphere';
import { FailedComputation, greatestOf, rootBetween } from '../numerics';
import { levelPoint } from './level';
import { thrustAvailable, type Flyer, type TrimmedPoint } from './flyer';

/** A steady climb at full throttle. */
export interface Climb {
  /** Upward, m/s. */ rate: number;
  /** Of the path, rad. */ angle: number;
  /** Drag times speed in the climb, W. */ power: number;
  /** Of the thrust along the path, W. */ available: number;
}

/** Rounds in which the lift that a climb needs, and with it its drag, follow its angle. */
const ROUNDS = 12;
const SETTLED = 1e-6;
/** No path is steeper, as a sine: there the wing carries nothing, and the method ends. */
const STEEPEST = 0.98;

/**
 * The steady climb of full thrust at the speed of a level flight: (available − needed power) over weight, the power needed at the lift W cos γ of the path.
 * @param level the level flight in trim there. @param thrust full thrust along its line, N; null without an engine.
 * @returns null without an engine, and where the thrust lifts more than the wing.
 * @source any textbook: T cos(α + τ) = D + W sin γ, L = W cos γ.
 */
export function climbOf(flyer: Flyer, level: TrimmedPoint, thrust: number | null): Climb | null {
  if (thrust === null) return null;
  const { speed, altitude } = level;
  const { weight, search } = flyer;
  let at = level;
  let sine = 0;
  // Only what the path changes is read from the search.
  const offset = search === flyer ? 0 : level.drag - search.trim({ speed, altitude }).drag;
  for (let k = 0; k < ROUNDS; k++) {
    const next = (thrust * at.cosTilt - at.drag) / weight;
    if (next > STEEPEST) return null;
    const step = next - sine;
    sine = Math.max(-STEEPEST, next);
    if (Math.abs(step) < SETTLED) break;
    try {
      at = search.trim({ speed, altitude, climb: Math.asin(sine), thrust });
      at = { ...at, drag: at.drag + offset };
    } catch (error) {
      if (error instanceof FailedComputation) return null;
      throw error;
    }
  }
  const power = at.drag * speed;
  const available = thrust * at.cosTilt * speed;
  const rate = (available - power) / weight;
  return { rate, angle: Math.asin(Math.max(-1, Math.min(1, rate / speed))), power, available };
}

/** The greatest rate and the steepest angle of climb over speeds, and the fastest level flight. */
export interface ClimbOptima {
  /** m/s */ best: { speed: number; rate: number; angle: number } | null;
  steepest: { speed: number; rate: number; angle: number } | null;
  /** At full throttle, m/s. */ fastest: number | null;
}

/** Speeds in equal steps of their logarithm. */
export const speedsBetween = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => from * (to / from) ** (i / (count - 1)));

/** Climb optima at an altitude. @param speeds least and greatest that are looked at, m/s. All null without an engine. */
export function climbOptima(flyer: Flyer, altitude: number, [least, greatest]: readonly [number, number]): ClimbOptima {
  if (!flyer.thruster) return { best: null, steepest: null, fastest: null };
  const samples = speedsBetween(least, greatest, 12);
  const of = (key: 'climb' | 'climbAngle') => {
    const found = greatestOf((v) => levelPoint(flyer.search, v, altitude)[key], samples);
    if (!found) return null;
    const p = levelPoint(flyer, found.x, altitude);
    return p.climb === null ? null : { speed: found.x, rate: p.climb, angle: p.climbAngle! };
  };
  return { best: of('climb'), steepest: of('climbAngle'), fastest: fastestLevel(flyer.search, altitude, samples) };
}

/** The fastest level flight at full throttle; null where none is held, or where it is beyond the speeds. */
function fastestLevel(flyer: Flyer, altitude: number, samples: readonly number[]): number | null {
  const excess = (v: number): number | null => {
    const p = levelPoint(flyer, v, altitude, false);
    return p.drag === null ? null : thrustAvailable(flyer, v, altitude)! * p.trim!.cosTilt - p.drag;
  };
  for (let i = samples.length - 1; i > 0; i--) {
    const [low, high] = [excess(samples[i - 1]), excess(samples[i])];
    if (low === null || high === null || !(low >= 0 && high < 0)) continue;
    return rootBetween((v) => excess(v) ?? NaN, samples[i - 1], samples[i], 1e-6, [low, high]);
  }
  return null;
}

/** Altitudes that a ceiling lies between, m: of the standard atmosphere's lower layers. */
const HIGHEST = 20_000;
const STEP = 500;

/** Where the climb ends. */
export interface Ceiling {
  /** m */ altitude: number;
  /** Speed of the last climb, m/s. */ speed: number;
}

/**
 * The altitude at which the best rate of climb has fallen to a rate.
 * @param rate m/s: 0 for the absolute ceiling, 0.5 for the service ceiling. @param from altitude that it is looked for from, m.
 * @returns null without an engine, where it does not climb so well at `from`, or still does at 20 km.
 */
export function ceiling(
  { search: flyer }: Flyer,
  from: number,
  speeds: readonly [number, number],
  rate = 0,
): Ceiling | null {
  if (!flyer.thruster) return null;
  const bestAt = (h: number): { x: number; value: number } | null => {
    // At one lift coefficient the speed goes with the root of the air's density: the range follows.
    const share = Math.sqrt(1 / densityShare(h, from));
    const [low, high] = speeds.map((v) => v * share) as [number, number];
    return greatestOf((v) => levelPoint(flyer, v, h).climb, speedsBetween(low, high, 9), 1e-3);
  };
  const here = bestAt(from);
  if (!here || here.value <= rate) return null;
  let [low, high] = [from, from];
  let [lowRate, highRate] = [here.value - rate, here.value - rate];
  let speed = here.x;
  // Steps that grow, until the climb has fallen below the rate.
  for (let step = STEP; highRate > 0; step *= 2) {
    if (high >= HIGHEST) return null;
    [low, lowRate] = [high, highRate];
    high = Math.min(HIGHEST, high + step);
    const found = bestAt(high);
    highRate = (found?.value ?? -1) - rate;
  }
  const at = rootBetween(
    (h) => {
      const found = bestAt(h);
      if (found) speed = found.x;
      return (found?.value ?? -1) - rate;
    },
    low,
    high,
    0.1,
    [lowRate, highRate],
  );
  return { altitude: at, speed };
}

function densityShare(altitude: number, from: number): number {
  return standardAir(altitude).density / standardAir(from).density;
}
