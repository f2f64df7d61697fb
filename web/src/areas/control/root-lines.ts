type Pole = [number, number];

/** How far two poles are apart, in proportion: a fast one may move far. */
const apartness = (a: Pole, b: Pole) =>
  Math.hypot(a[0] - b[0], a[1] - b[1]) / (0.5 + Math.hypot(a[0], a[1]) + Math.hypot(b[0], b[1]));

/** Where the end of each line goes next; each pole is taken once, the nearest pairs first. @returns a pole's index for each end, or −1. */
function following(ends: readonly Pole[], poles: readonly Pole[]): number[] {
  const taken = new Set<number>();
  const nearest = ends.map((end) => {
    let [best, least] = [-1, Infinity];
    poles.forEach((p, i) => {
      const d = apartness(p, end);
      if (d < least) [best, least] = [i, d];
    });
    taken.add(best);
    return best;
  });
  // Nearly always no two lines go to one pole.
  if (taken.size === ends.length && !taken.has(-1)) return nearest;
  const next = ends.map(() => -1);
  const free = new Set(poles.keys());
  const pairs = ends
    .flatMap((end, line) => poles.map((p, pole) => ({ line, pole, d: apartness(p, end) })))
    .sort((a, b) => a.d - b.d);
  for (const { line, pole } of pairs)
    if (next[line] < 0 && free.has(pole)) {
      next[line] = pole;
      free.delete(pole);
    }
  return next;
}

/** The lines along which poles go while a gain grows: those above and on the real axis. A line ends where its poles meet, another begins where they part. */
export function rootLines(path: readonly { poles: readonly Pole[] }[]): Pole[][] {
  const lines: Pole[][] = [];
  let open: Pole[][] = [];
  for (const { poles } of path) {
    const upper = poles.filter((p) => p[1] >= -1e-9);
    const next = following(
      open.map((l) => l.at(-1)!),
      upper,
    );
    const goesOn = open.filter((_, i) => next[i] >= 0);
    open.forEach((line, i) => next[i] >= 0 && line.push(upper[next[i]]));
    const used = new Set(next);
    const fresh = upper.filter((_, i) => !used.has(i)).map((p) => [p]);
    lines.push(...fresh);
    open = [...goesOn, ...fresh];
  }
  return lines;
}
