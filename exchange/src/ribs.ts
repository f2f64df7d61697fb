import { MaxRectsPacker } from 'maxrects-packer/dist/maxrects-packer.mjs';
import {
  bodyRings,
  placeSurface,
  ringOf,
  trueOffsets,
  type Body,
  type LiftingSurface,
  type SectionLookup,
} from '@veldtwind/core/airframe';
import { InvalidInput } from '@veldtwind/core/numerics';
import { extentOf, moved, type Drawing, type DrawingItem } from '@veldtwind/core/figures';
import { inset } from './inset';
import type { RibOptions, SparHole } from './options';

const MM = 1000;

const MOST_RIBS = 500;

/** @throws InvalidInput `ribs` for numbers that cannot be. */
export function checkRibOptions(o: RibOptions): void {
  const hold = (what: string, value: number, low: number, high: number) => {
    if (!(value >= low && value <= high))
      throw new InvalidInput('ribs', `${what} must be from ${low} to ${high} mm; ${value} is not.`, undefined, 'ribs');
  };
  hold('The skin', o.skin, 0, 100);
  hold('The distance of ribs', o.spacing, 5, 100000);
  hold('The width of frames', o.ring, 0, 1000);
  hold('The width of a sheet', o.sheet.width, 50, 20000);
  hold('The height of a sheet', o.sheet.height, 50, 20000);
  hold('The room between parts', o.gap, 0, 200);
  for (const h of o.holes) {
    if (!(h.at > 0 && h.at < 1))
      throw new InvalidInput(
        'ribs',
        `A hole lies at a chord fraction between 0 and 1; ${h.at} is not.`,
        undefined,
        'ribs',
      );
    hold('The width of a hole', h.width, 0.5, 500);
    if (h.height !== undefined) hold('The height of a hole', h.height, 0.5, 500);
  }
}

/** One part to be cut. */
export interface CutPart {
  label: string;
  items: DrawingItem[];
  /** What could not be made on it. */ notes: string[];
}

/** Height of the outline at x: its lower and upper ordinate. */
function spanAt(outline: readonly [number, number][], x: number): [number, number] | null {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < outline.length; i++) {
    const [[ax, ay], [bx, by]] = [outline[i], outline[(i + 1) % outline.length]];
    if ((ax - x) * (bx - x) > 0 || ax === bx) continue;
    const y = ay + ((x - ax) / (bx - ax)) * (by - ay);
    low = Math.min(low, y);
    high = Math.max(high, y);
  }
  return high > low ? [low, high] : null;
}

/** Material that is left about a hole, mm. */
export const LEAST_EDGE = 1.5;

function holeItem(outline: readonly [number, number][], hole: SparHole, chord: number): DrawingItem | string {
  const x = hole.at * chord;
  const name = hole.height === undefined ? `rod ⌀${hole.width}` : `spar ${hole.width}×${hole.height}`;
  const spans = [x - hole.width / 2, x, x + hole.width / 2].map((at) => spanAt(outline, at));
  if (spans.some((s) => s === null)) return `${name} lies outside`;
  const [, middle] = spans as [number, number][];
  const centre = 0.5 * (middle[0] + middle[1]);
  const height = hole.height ?? hole.width;
  const fits = (spans as [number, number][]).every(
    (s) => s[1] - centre >= height / 2 + LEAST_EDGE && centre - s[0] >= height / 2 + LEAST_EDGE,
  );
  if (!fits) return `${name} does not fit`;
  if (hole.height === undefined) return { kind: 'circle', layer: 'hole', at: [x, centre], radius: hole.width / 2 };
  const [w, h] = [hole.width / 2, hole.height / 2];
  return {
    kind: 'line',
    layer: 'hole',
    closed: true,
    points: [
      [x - w, centre - h],
      [x + w, centre - h],
      [x + w, centre + h],
      [x - w, centre + h],
    ],
  };
}

/** Widths of letters as shares of their height. */
export const LETTER = 0.62;

/**
 * The name of a rib on its camber line, as large as the place between what is cut out allows.
 * @param cuts stretches of x that are not to be written on. @param ends where the rib begins and ends. @param most height of the letters. mm.
 */
export function labelAt(
  text: string,
  outline: readonly [number, number][],
  cuts: readonly { from: number; to: number }[],
  [nose, tail]: readonly [number, number],
  most = 6,
): Extract<DrawingItem, { kind: 'text' }> {
  const chord = tail - nose;
  const stops = [nose + 0.06 * chord, ...cuts.flatMap((c) => [c.from, c.to]), nose + 0.85 * chord];
  stops.sort((a, b) => a - b);
  let [at, height] = [nose + 0.1 * chord, 1];
  for (let k = 0; k + 1 < stops.length; k += 2) {
    const [from, to] = [stops[k] + 1, stops[k + 1] - 1];
    // A place that is long is of no use where the rib is thin.
    const thin = Math.min(...[from, to].map((x) => spanAt(outline, x)).map((s) => (s ? s[1] - s[0] : 0)));
    const fits = Math.min(most, (to - from) / (LETTER * text.length), 0.5 * thin);
    if (fits > height) [at, height] = [from + 0.5 * (to - from - LETTER * text.length * fits), fits];
  }
  const here = spanAt(outline, at + 0.5 * LETTER * text.length * height);
  return { kind: 'text', layer: 'text', at: [at, here ? 0.5 * (here[0] + here[1]) - height / 2 : 0], height, text };
}

/** {@link labelAt} of holes at chord fractions. */
const labelOf = (
  text: string,
  outline: readonly [number, number][],
  holes: readonly SparHole[],
  chord: number,
): DrawingItem =>
  labelAt(
    text,
    outline,
    holes.map((h) => ({ from: h.at * chord - h.width / 2, to: h.at * chord + h.width / 2 })),
    [0, chord],
  );

/** The ribs of a surface, root outward (one side). */
export function ribsOf(surface: LiftingSurface, lookup: SectionLookup, options: RibOptions): CutPart[] {
  const placed = placeSurface(surface);
  const span = trueOffsets(surface, placed);
  const shares: number[] = [];
  span.stations.forEach((to, i) => {
    if (i === 0) return;
    const from = span.stations[i - 1];
    const n = Math.max(1, Math.ceil(((to - from) * MM) / options.spacing - 1e-9));
    for (let k = i === 1 ? 0 : 1; k <= n; k++) shares.push((from + ((to - from) * k) / n) / span.total);
  });
  if (shares.length > MOST_RIBS)
    throw new InvalidInput(
      'ribs',
      `${surface.name} would have ${shares.length} ribs; ${MOST_RIBS} is the most.`,
      'Set them farther apart.',
      'ribs',
    );
  const rings = new Map<string, [number, number][]>();
  const ring = (key: string) => {
    let made = rings.get(key);
    if (!made) rings.set(key, (made = ringOf(lookup, key)));
    return made;
  };
  return shares.map((share, i): CutPart => {
    const { bay, share: t } = span.at(share);
    const at = placed.at(bay, t);
    const own = ring(at.section);
    const other = at.blend && at.blend.section !== at.section ? ring(at.blend.section) : null;
    const mix = at.blend?.share ?? 0;
    const chord = MM * at.chord;
    const shape = own.map(([x, y], k): [number, number] => {
      const [u, v] = other ? [(1 - mix) * x + mix * other[k][0], (1 - mix) * y + mix * other[k][1]] : [x, y];
      return [chord * u, chord * v];
    });
    const label = `${surface.name} ${i + 1}, ${Math.round(share * span.total * MM)} mm`;
    const outline = inset(shape, options.skin);
    if (outline.length < 3)
      return { label, items: [], notes: [`${label}: nothing is left inside a skin of ${options.skin} mm`] };
    const items: DrawingItem[] = [{ kind: 'line', layer: 'cut', points: outline, closed: true }];
    const notes: string[] = [];
    for (const hole of options.holes) {
      const made = holeItem(outline, hole, chord);
      if (typeof made === 'string') notes.push(`${label}: ${made}`);
      else items.push(made);
    }
    items.push(labelOf(label, outline, options.holes, chord));
    return { label, items, notes };
  });
}

/** The frames of a body at its stations, one side. */
export function framesOf(body: Body, options: RibOptions): CutPart[] {
  const rings = bodyRings(body);
  const slices = (rings.length - 1) / (body.stations.length - 1);
  return body.stations.flatMap((s, i): CutPart[] => {
    const label = `${body.name} ${i + 1}, ${Math.round(s.x * MM)} mm`;
    const shape = rings[i * slices].map((p): [number, number] => [
      MM * (p.y - body.position.y),
      MM * (p.z - body.position.z),
    ]);
    if (s.width === 0 || s.height === 0) return [];
    const outline = inset(shape, options.skin);
    if (outline.length < 3)
      return [{ label, items: [], notes: [`${label}: nothing is left inside a skin of ${options.skin} mm`] }];
    const items: DrawingItem[] = [{ kind: 'line', layer: 'cut', points: outline, closed: true }];
    if (options.ring > 0) {
      const hole = inset(outline, options.ring);
      if (hole.length > 8) items.push({ kind: 'line', layer: 'hole', points: hole, closed: true });
    }
    // In the material of the ring, at its foot.
    const height = Math.max(1, Math.min(5, options.ring > 0 ? 0.4 * options.ring : 40 * s.width));
    const foot = Math.min(...outline.map((p) => p[1])) + (options.ring > 0 ? 0.3 * options.ring : MM * 0.5 * s.height);
    items.push({ kind: 'text', layer: 'text', at: [-0.5 * LETTER * label.length * height, foot], height, text: label });
    return [{ label, items, notes: [] }];
  });
}

/**
 * Parts laid out on sheets of a size, at true scale, the sheets beside each other.
 * @throws InvalidInput `sheet` for a part that no sheet holds.
 */
export function nested(
  title: string,
  parts: readonly CutPart[],
  options: Pick<RibOptions, 'sheet' | 'gap'>,
): Drawing & { sheets: number; notes: string[] } {
  const { width, height } = options.sheet;
  const packer = new MaxRectsPacker(width - 2 * options.gap, height - 2 * options.gap, options.gap, {
    smart: false,
    pot: false,
    square: false,
    allowRotation: true,
  });
  const made = parts.filter((p) => p.items.length > 0);
  made.forEach((part) => {
    const outline = part.items.filter((i) => i.kind !== 'text');
    const { low, high } = extentOf({ items: outline });
    const [w, h] = [high[0] - low[0], high[1] - low[1]];
    const [long, short] = [Math.max(w, h), Math.min(w, h)];
    const [most, least] = [Math.max(width, height) - 2 * options.gap, Math.min(width, height) - 2 * options.gap];
    if (long > most || short > least)
      throw new InvalidInput(
        'sheet',
        `${part.label} is ${Math.ceil(w)} × ${Math.ceil(h)} mm; a sheet of ${width} × ${height} mm does not hold it.`,
        'Give a larger sheet.',
        'sheet',
      );
    packer.add(w, h, { part, low, w, h });
  });
  const items: DrawingItem[] = [];
  packer.bins.forEach((bin, b) => {
    const left = b * (width + 40);
    items.push({
      kind: 'line',
      layer: 'sheet',
      closed: true,
      points: [
        [left, 0],
        [left + width, 0],
        [left + width, height],
        [left, height],
      ],
    });
    items.push({
      kind: 'text',
      layer: 'sheet',
      at: [left, height + 4],
      height: 6,
      text: `${title}, sheet ${b + 1} of ${packer.bins.length}`,
    });
    for (const r of bin.rects) {
      const { part, low, h } = r.data as { part: CutPart; low: [number, number]; w: number; h: number };
      const at: [number, number] = [left + options.gap + r.x, options.gap + r.y];
      if (!r.rot) {
        items.push(...moved(part.items, at[0] - low[0], at[1] - low[1]));
        continue;
      }
      // Turned by a quarter, with its words.
      const turn = ([x, y]: [number, number]): [number, number] => [at[0] + h - (y - low[1]), at[1] + (x - low[0])];
      items.push(
        ...part.items.map((item): DrawingItem =>
          item.kind === 'line'
            ? { ...item, points: item.points.map(turn) }
            : { ...item, at: turn(item.at), ...(item.kind === 'text' ? { upward: true } : {}) },
        ),
      );
    }
  });
  return { title, items, sheets: packer.bins.length, notes: parts.flatMap((p) => p.notes) };
}
