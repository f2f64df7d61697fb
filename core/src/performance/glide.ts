import { FailedComputation, greatestOf } from '../numerics';
import { speedsBetween } from './climb';
import type { Flyer, TrimmedPoint } from './flyer';

/** A steady glide in trim with the engine idle. */
export interface Glide {
  /** Along the path, m/s. */ speed: number;
  /** Lift over drag: far over height in air at rest. */ ratio: number;
  /** Of the path below the horizon, rad. */ angle: number;
  /** Downward, m/s. */ sink: number;
}

const SETTLED = 1e-9;

/** The steady glide at a speed along the path; null where no angle carries it, or the control has no travel left. */
export function glideAt(flyer: Flyer, speed: number, altitude: number, weightShare = 1): Glide | null {
  const weight = flyer.weight * weightShare;
  let sine = 0;
  let p: TrimmedPoint;
  try {
    p = flyer.trim({ speed, altitude, weightShare, idle: true });
    for (let k = 0; k < 8; k++) {
      const next = Math.max(-0.98, -p.drag / weight);
      const step = Math.abs(next - sine);
      sine = next;
      if (step < SETTLED) break;
      p = flyer.trim({ speed, altitude, weightShare, idle: true, climb: Math.asin(sine) });
    }
  } catch (error) {
    if (error instanceof FailedComputation) return null;
    throw error;
  }
  if (p.control && p.control.limit !== null) return null;
  const angle = Math.atan2(p.CD, p.CL);
  return { speed, ratio: p.CL / p.CD, angle, sink: speed * Math.sin(angle) };
}

export interface GlideOptima {
  bestGlide: Glide | null;
  leastSink: Glide | null;
}

/** The best glide and the least sink in trim. @param speeds least and greatest that are looked at, m/s. A crest at an end of them is none. */
export function glideOptima(flyer: Flyer, altitude: number, [least, greatest]: readonly [number, number]): GlideOptima {
  const samples = speedsBetween(least, greatest, 14);
  const of = (score: (g: Glide) => number): Glide | null => {
    const found = greatestOf((v) => {
      const g = glideAt(flyer.search, v, altitude);
      return g && score(g);
    }, samples);
    // At the fast end it still gets better; at the slow end it is the stall that ends it.
    return found && found.atEnd !== 'high' ? glideAt(flyer, found.x, altitude) : null;
  };
  return { bestGlide: of((g) => g.ratio), leastSink: of((g) => -g.sink) };
}
