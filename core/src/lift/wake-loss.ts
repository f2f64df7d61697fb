/** The wake of a section's profile drag at a place behind it. */
export interface WakeSection {
  /** Loss of dynamic pressure in its middle over that of the stream. */ loss: number;
  /** Half of its width, chords. */ halfWidth: number;
}

/** Nearer to the trailing edge than this the formulas say nothing, chords. */
const NEAREST = 0.15;

/**
 * The wake of a section of profile drag `cd` behind its trailing edge.
 * @param distance chords behind the trailing edge. @source NACA TR-648, 1939: Δq/q = 2.42 √cd/(ξ + 0.3), half width 0.68 √(cd (ξ + 0.15)) chords; attached flow.
 */
export function wakeSection(cd: number, distance: number): WakeSection {
  const x = Math.max(NEAREST, distance);
  const root = Math.sqrt(Math.max(0, cd));
  return { loss: Math.min(0.9, (2.42 * root) / (x + 0.3)), halfWidth: 0.68 * root * Math.sqrt(x + 0.15) };
}

/** Loss at a height off the middle of a wake, chords: a cosine squared. @source NACA TR-648, 1939. */
export function lossAt({ loss, halfWidth }: WakeSection, off: number): number {
  return Math.abs(off) >= halfWidth ? 0 : loss * Math.cos((0.5 * Math.PI * off) / halfWidth) ** 2;
}
