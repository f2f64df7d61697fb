type Pole = [number, number];

/** Roots that grow no faster, 1/s, and turn no faster, rad/s, may be left to what is outside of a loop: a spiral, a slow exchange of speed and height. */
const SLOW = { growth: 0.04, size: 0.1 };
const right = ([re]: Pole): boolean => !(re < -1e-9);
const slow = (p: Pole): boolean => right(p) && Math.hypot(...p) < SLOW.size && p[0] < SLOW.growth;

/** Closed poles on the right: those that the loop is to blame for, and slow ones that were there before it and that it cannot move to the left. */
export interface RightPoles {
  /** Number of poles that make the loop unstable. */ unstable: number;
  left: Pole[];
}

/**
 * Tells closed poles on the right apart. A slow one is left to the pilot or to the loops outside only where the open loop has it too, the loop makes it no
 * worse, and ten times the gains would not bring it to the left either; or where the loops outside of it, with the gains that they have, do bring it there.
 * @param bolder the poles with ten times the gains; asked for where it matters alone. @param whole those with the loops outside closed; null without such.
 */
export function rightPoles(
  closed: readonly Pole[],
  open: readonly Pole[],
  bolder: () => readonly Pole[],
  whole: () => readonly Pole[] | null = () => null,
): RightPoles {
  const grows = closed.filter(right);
  const [own, before] = [closed.filter(slow), open.filter(slow)];
  if (own.length === 0) return { unstable: grows.length, left: [] };
  const worst = (list: readonly Pole[]) => Math.max(...list.map(([re]) => re));
  const kept =
    own.length <= before.length &&
    worst(own) <= worst(before) * (1 + 1e-6) + 1e-9 &&
    bolder().filter(right).length >= own.length;
  if (kept || whole()?.every((p) => !right(p))) return { unstable: grows.length - own.length, left: own };
  return { unstable: grows.length, left: [] };
}
