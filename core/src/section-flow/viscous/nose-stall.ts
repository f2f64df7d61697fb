/**
 * Difference of pressure coefficient between the trailing edge and the suction peak at which thin sections stall from the nose, at low Mach numbers.
 * It is a correlation, not a part of the solution: the bubble at the nose is resolved by three or four nodes only, and in the equations it always
 * reattaches. The form of the rule is that of J. Aircraft 31(1), 1994, 103–109; the value is ours for the range below, read from NACA TR-824 (smooth,
 * 3 to 9 million). How it falls at lower Reynolds numbers is not known here, so there nothing is said.
 */
const BURST = 13;
const LOWEST = 2.5e6;
const HIGHEST = 1.2e7;
const MOST_MACH = 0.3;
/** A suction peak farther aft is none of the nose, chords. */
const NOSE = 0.05;

/**
 * Whether the bubble at the nose has burst by the correlation.
 * @param difference of Cp between trailing edge and suction peak. @param at x of the peak, chords.
 */
export const noseBursts = (difference: number, at: number, reynolds: number, mach: number): boolean =>
  difference > BURST && at < NOSE && reynolds >= LOWEST && reynolds <= HIGHEST && mach <= MOST_MACH;
