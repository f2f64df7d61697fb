import { GRAVITY } from '../atmosphere';
import { FailedComputation, greatestOf, rootBetween } from '../numerics';
import { speedsBetween } from './climb';
import { thrustAvailable, type Flyer, type TrimmedPoint } from './flyer';

/** What ends a turn: the stall, the control's travel, the structure or the engine. */
export type TurnLimit = 'stall' | 'travel' | 'structure' | 'power';

/** A level turn; SI, rad. */
export interface Turn {
  speed: number;
  bank: number;
  loadFactor: number;
  radius: number;
  /** rad/s */ rate: number;
  by: TurnLimit;
}

/** The flight of a level turn. @source n = 1/cos φ, R = V²/(g tan φ), ω = g tan φ/V. */
function turnOf(speed: number, bank: number, by: TurnLimit): Turn {
  const tan = Math.tan(bank);
  return {
    speed,
    bank,
    loadFactor: 1 / Math.cos(bank),
    radius: (speed * speed) / (GRAVITY * tan),
    rate: (GRAVITY * tan) / speed,
    by,
  };
}

/** Banks that are looked at, rad: up to a load factor of 57. */
const STEEPEST = 1.553;
const SAMPLES = 12;

/**
 * The tightest level turn at a speed.
 * @param limit greatest load factor of the structure. @param held whether the engine must hold the speed: a sustained turn; else only stall, travel and structure
 *   count, and the speed falls. @returns null where even level flight cannot be held.
 */
export function tightestTurn(
  { search: flyer }: Flyer,
  speed: number,
  altitude: number,
  limit: number,
  held: boolean,
): Turn | null {
  const full = held ? thrustAvailable(flyer, speed, altitude) : null;
  if (held && full === null) return null;
  const trimAt = (bank: number): TrimmedPoint | null => {
    try {
      return flyer.trim({ speed, altitude, bank });
    } catch (error) {
      if (error instanceof FailedComputation) return null;
      throw error;
    }
  };
  /** Why a bank cannot be flown; null where it can. */
  const ends = (bank: number): Exclude<TurnLimit, 'structure'> | null => {
    const p = trimAt(bank);
    if (!p) return 'stall';
    if (p.control && p.control.limit !== null) return 'travel';
    return full !== null && p.drag > full * p.cosTilt ? 'power' : null;
  };
  if (ends(0) !== null) return null;
  const structure = Math.acos(1 / Math.max(1, limit));
  const most = Math.min(STEEPEST, structure);
  if (!(most > 0)) return null;
  let low = 0;
  let why: TurnLimit = 'structure';
  let high = most;
  for (let k = 1; k <= SAMPLES; k++) {
    // In equal steps of the load factor.
    const n = 1 + ((1 / Math.cos(most) - 1) * k) / SAMPLES;
    const bank = Math.min(most, Math.acos(1 / n));
    const reason = ends(bank);
    if (reason === null) {
      low = bank;
      continue;
    }
    [high, why] = [bank, reason];
    break;
  }
  if (why === 'structure') return turnOf(speed, most, 'structure');
  if (why === 'power') {
    const excess = (bank: number) => {
      const p = trimAt(bank);
      return p ? full! * p.cosTilt - p.drag : -flyer.weight;
    };
    return turnOf(speed, rootBetween(excess, low, high, 1e-7), 'power');
  }
  for (let k = 0; k < 14; k++) {
    const middle = 0.5 * (low + high);
    const reason = ends(middle);
    if (reason === null) low = middle;
    else [high, why] = [middle, reason];
  }
  return low > 0 ? turnOf(speed, low, why) : null;
}

/** The turns that are told: the quickest and the tightest that the engine holds. */
export interface TurnOptima {
  quickest: Turn | null;
  tightest: Turn | null;
}

/** The quickest (greatest rate) and the tightest (least radius) turn over speeds. */
export function turnOptima(
  flyer: Flyer,
  altitude: number,
  [least, greatest]: readonly [number, number],
  limit: number,
  held = true,
): TurnOptima {
  const at = (v: number) => tightestTurn(flyer, v, altitude, limit, held);
  const samples = speedsBetween(least, greatest, 9);
  const of = (score: (t: Turn) => number): Turn | null => {
    const found = greatestOf(
      (v) => {
        const t = at(v);
        return t && t.bank > 0 ? score(t) : null;
      },
      samples,
      1e-3,
    );
    return found && at(found.x);
  };
  return { quickest: of((t) => t.rate), tightest: of((t) => -t.radius) };
}
