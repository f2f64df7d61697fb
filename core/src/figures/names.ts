/** A name beside a curve, px; `y` is its baseline. */
export interface Named {
  text: string;
  x: number;
  y: number;
  ink: string;
  width: number;
}

const LINE = 12;

/** Names moved inside a box and away from each other: those that come first keep their place. */
export function apart(
  names: readonly Named[],
  box: { left: number; right: number; top: number; bottom: number },
): Named[] {
  const placed: Named[] = [];
  for (const n of names) {
    const x = Math.max(box.left + 2, Math.min(n.x, box.right - n.width));
    const tries = Array.from({ length: 25 }, (_, k) => n.y + LINE * (k % 2 ? 1 : -1) * Math.ceil(k / 2));
    const inside = tries.filter((y) => y > box.top + 9 && y < box.bottom - 2);
    const free = (y: number) =>
      placed.every((p) => Math.abs(p.y - y) >= LINE || p.x + p.width < x || x + n.width < p.x);
    placed.push({ ...n, x, y: inside.find(free) ?? Math.max(box.top + 9, Math.min(n.y, box.bottom - 2)) });
  }
  return placed;
}

/** The middle of what is seen of a band; null where nothing is. */
export function clearOf(from: number, to: number, [low, high]: [number, number]): number | null {
  const [a, b] = [Math.max(low, Math.min(from, to)), Math.min(high, Math.max(from, to))];
  return a < b ? 0.5 * (a + b) : null;
}
