/** A place on the screen, px. */
export interface Place {
  px: number;
  py: number;
}
const middle = ([a, b]: readonly [Place, Place]) => ({ px: 0.5 * (a.px + b.px), py: 0.5 * (a.py + b.py) });
const apart = ([a, b]: readonly [Place, Place]) => Math.hypot(a.px - b.px, a.py - b.py);
/** Fingers nearer than this tell no stretch, px; nor is it more than so many times. */
const LEAST = 12;
const MOST = 40;

/**
 * The part of a picture that two fingers leave in view: what lay between them when they touched is between them now.
 * @param from where they touched. @param now where they are. @param size of the picture, px.
 * @returns ends of the view along and down, in pixels of the picture as it was.
 */
export function pinched(
  from: readonly [Place, Place],
  now: readonly [Place, Place],
  size: { w: number; h: number },
): { x: [number, number]; y: [number, number] } {
  const by = Math.min(MOST, Math.max(1 / MOST, Math.max(LEAST, apart(now)) / Math.max(LEAST, apart(from))));
  const [a, b] = [middle(from), middle(now)];
  // A place p of the picture as it was is seen at b + by (p − a).
  const back = (seen: number, was: number, is: number) => was + (seen - is) / by;
  return {
    x: [back(0, a.px, b.px), back(size.w, a.px, b.px)],
    y: [back(0, a.py, b.py), back(size.h, a.py, b.py)],
  };
}
