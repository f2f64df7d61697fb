import { InvalidInput } from '@veldtwind/core/numerics';
import type { DrawingItem } from '@veldtwind/core/figures';
import {
  checkSkin,
  ribPlaces,
  skinAt,
  sparAt,
  SurfaceShape,
  type BuiltSurface,
  type SectionPlace,
  type SparPlace,
} from '@veldtwind/core/members';
import { inset } from '../inset';
import { labelAt, LEAST_EDGE, LETTER } from '../ribs';
import { checkContour, longSide, massOf, outset, turning, type MadePart, type Pair } from './part';

const MM = 1000;
/** Greatest height of the letters on a rib, mm. */
const LETTERS = 4;

/** How parts are cut; mm. */
export interface CutOptions {
  /** Width that the saw or the laser takes away. */ kerf: number;
  /** Holes are larger than what goes through them by so much. */ clearance: number;
}
export const CUT_DEFAULTS: CutOptions = { kerf: 0.1, clearance: 0.1 };

/** One side of a rib, from the nose to the tail: x rising, mm. */
type Side = Pair[];

/** Ordinate of a side at x. */
function heightAt(side: Side, x: number): number {
  let i = 0;
  while (i < side.length - 2 && side[i + 1][0] < x) i++;
  const [a, b] = [side[i], side[i + 1]];
  const t = b[0] > a[0] ? Math.min(1, Math.max(0, (x - a[0]) / (b[0] - a[0]))) : 0;
  return a[1] + t * (b[1] - a[1]);
}

/** Two sides without the thin ends where an inset lets them touch or pass each other. */
function apart({ upper, lower }: { upper: Side; lower: Side }): { upper: Side; lower: Side } | null {
  const LEAST = 0.05;
  const open = (x: number) => heightAt(upper, x) - heightAt(lower, x) > LEAST;
  const xs = [...upper, ...lower].map((p) => p[0]).sort((a, b) => a - b);
  const middle = xs.findIndex((x, i) => i > 0.2 * xs.length && open(x));
  if (middle < 0) return null;
  let [first, last] = [middle, middle];
  while (first > 0 && open(xs[first - 1])) first--;
  while (last < xs.length - 1 && open(xs[last + 1])) last++;
  const [from, to] = [xs[first], xs[last]];
  const kept = (side: Side): Side => [
    [from, heightAt(side, from)],
    ...side.filter((p) => p[0] > from + 1e-6 && p[0] < to - 1e-6),
    [to, heightAt(side, to)],
  ];
  return { upper: kept(upper), lower: kept(lower) };
}

/** The rib's own outline inside of the skin, as its two sides; null where nothing is left. */
function sidesOf(place: SectionPlace, surface: BuiltSurface, kerf: number): { upper: Side; lower: Side } | null {
  const { skin } = surface.structure;
  const ring = place.ring.map(([x, z]): Pair => [MM * x, MM * z]);
  const within = skin ? MM * skin.thickness : 0;
  const end = skin ? MM * place.chord * (skin.to ?? 1) : 0;
  const whole = (skin?.to ?? 1) >= 1;
  const inner = within > 0 ? inset(ring, Math.max(0, within - 0.5 * kerf)) : [];
  if (within > 0 && inner.length < 3) return null;
  const split = (list: readonly Pair[]): { upper: Side; lower: Side } => {
    let nose = 0;
    list.forEach((p, i) => {
      if (p[0] < list[nose][0]) nose = i;
    });
    const rising = (side: Pair[]) => side.filter((p, i) => i === 0 || p[0] > side[i - 1][0] + 1e-6);
    return { upper: rising(list.slice(0, nose + 1).reverse()), lower: rising(list.slice(nose)) };
  };
  const outer = split(kerf > 0 ? outset(ring, 0.5 * kerf) : ring);
  if (within === 0) return outer;
  const own = apart(split(inner));
  if (!own) return null;
  if (whole) return own;
  // Steps out where the skin ends.
  const stepped = (a: Side, b: Side): Side => {
    const before = a.filter((p) => p[0] < end - 1e-3);
    const after = b.filter((p) => p[0] > end + 1e-3);
    return [...before, [end, heightAt(a, end)], [end + 1e-3, heightAt(b, end)], ...after];
  };
  return { upper: stepped(own.upper, outer.upper), lower: stepped(own.lower, outer.lower) };
}

/** A side with a notch from outside down to a level. */
function notched(side: Side, from: number, to: number, level: number): Side {
  return [
    ...side.filter((p) => p[0] < from - 1e-3),
    [from, heightAt(side, from)],
    [from + 1e-4, level],
    [to - 1e-4, level],
    [to, heightAt(side, to)],
    ...side.filter((p) => p[0] > to + 1e-3),
  ];
}
const cutOff = (side: Side, x: number, front: boolean): Side =>
  front
    ? [...side.filter((p) => p[0] < x - 1e-3), [x, heightAt(side, x)]]
    : [[x, heightAt(side, x)], ...side.filter((p) => p[0] > x + 1e-3)];

interface Piece {
  upper: Side;
  lower: Side;
}

/** Round holes along a stretch of a rib that take away a share of it, as far as there is room. */
function lightening(piece: Piece, stops: readonly [number, number][], wanted: number): { at: Pair; radius: number }[] {
  const nose = Math.max(piece.upper[0][0], piece.lower[0][0]);
  const tail = Math.min(piece.upper.at(-1)![0], piece.lower.at(-1)![0]);
  const free: [number, number][] = [];
  let from = nose;
  for (const [a, b] of [...stops].sort((p, q) => p[0] - q[0])) {
    if (a > from) free.push([from, a]);
    from = Math.max(from, b);
  }
  if (tail > from) free.push([from, tail]);
  const out: { at: Pair; radius: number }[] = [];
  for (const [a, b] of free) {
    let x = a;
    while (x < b) {
      // The largest circle that begins there and keeps its distance from both sides.
      let radius = 0;
      let centre = 0;
      for (let r = 0.5 * (b - x); r > 2; r *= 0.93) {
        const edge = Math.max(2 * LEAST_EDGE, 0.3 * r);
        const middle = x + edge + r;
        if (middle + r + edge > b) continue;
        const z = 0.5 * (heightAt(piece.upper, middle) + heightAt(piece.lower, middle));
        const fits = [-1, -0.7, -0.3, 0, 0.3, 0.7, 1].every((t) => {
          const q = middle + t * r;
          const h = r * Math.sqrt(1 - t * t);
          return heightAt(piece.upper, q) - z >= h + edge && z - heightAt(piece.lower, q) >= h + edge;
        });
        if (fits) {
          [radius, centre] = [r, middle];
          out.push({ at: [middle, z], radius: r });
          break;
        }
      }
      if (radius > 0) x = centre + radius + Math.max(2 * LEAST_EDGE, 0.3 * radius) - LEAST_EDGE;
      else x += Math.max(1, 0.02 * (b - a));
    }
  }
  const taken = out.reduce((sum, c) => sum + Math.PI * c.radius ** 2, 0);
  const scale = taken > wanted ? Math.sqrt(wanted / taken) : 1;
  return out.map((c) => ({ ...c, radius: c.radius * scale }));
}

/**
 * The ribs of a built surface, root outward, one side: inside of the skin, with slots for caps and spars, holes for tubes, lightening holes and names.
 * A solid spar over the full height divides a rib into nose and tail.
 * @throws InvalidInput `spar-outside`, `skin-thick`; `slot-edge` where a slot leaves nothing of the rib; FailedComputation `contour`.
 */
export function ribParts(surface: BuiltSurface, shape: SurfaceShape, options: CutOptions): MadePart[] {
  const { structure } = surface;
  const { ribs } = structure;
  if (!ribs) return [];
  const thickness = MM * ribs.thickness;
  return ribPlaces(shape.total, ribs.spacing).flatMap((share, index): MadePart[] => {
    const place = shape.at(share);
    const label = `${surface.name} rib ${index + 1}, ${Math.round(share * shape.total * MM)} mm`;
    checkSkin(structure, place, surface.name);
    const sides = sidesOf(place, surface, options.kerf);
    if (!sides)
      return [blank(surface, label, ribs.material, thickness, `${label}: nothing is left inside of the skin`)];
    const spars = structure.spars.flatMap(
      (s) => sparAt(s, place, surface.name, skinAt(structure, s.at * place.chord, place.chord)) ?? [],
    );
    const holes: DrawingItem[] = [];
    const stops: [number, number][] = [];
    let pieces: Piece[] = [sides];
    for (const [k, s] of spars.entries()) {
      const cut = slotOf(s, options, pieces, label);
      const other = stops.findIndex(([a, b]) => cut.stop[0] < b && cut.stop[1] > a);
      if (other >= 0)
        throw new InvalidInput(
          'slot-edge',
          `${label}: the slots for ${spars[other].spar.name} and ${s.spar.name} overlap.`,
          'Set the spars farther apart.',
          `structure.spars.${spars[k].spar.id}`,
        );
      pieces = cut.pieces;
      holes.push(...cut.holes);
      stops.push(cut.stop);
    }
    const notes: string[] = [];
    return pieces.map((piece, k): MadePart => {
      const name = pieces.length > 1 ? `${label} ${'abcdefgh'[k]}` : label;
      const outline: Pair[] = [...piece.upper, ...[...piece.lower].reverse()];
      const clean = outline.filter(
        (p, i) => i === 0 || Math.hypot(p[0] - outline[i - 1][0], p[1] - outline[i - 1][1]) > 1e-5,
      );
      checkContour(clean, name);
      const [low, high] = [piece.upper[0][0], piece.upper.at(-1)![0]];
      const own = holes.filter((h) => {
        const x = h.kind === 'circle' ? h.at[0] : h.kind === 'line' ? h.points[0][0] : NaN;
        return x > low && x < high;
      });
      const full = 0.5 * Math.abs(turning(clean));
      const wanted = full * (ribs.holes ?? 0);
      const words = labelAt(
        name,
        clean,
        stops.map(([a, b]) => ({ from: a, to: b })),
        [low, high],
        LETTERS,
      );
      // Nothing is cut out of the name.
      const written: [number, number] = [words.at[0] - 1, words.at[0] + LETTER * name.length * words.height + 1];
      const light = wanted > 0 ? lightening(piece, [...stops, written], wanted) : [];
      const taken = light.reduce((sum, c) => sum + Math.PI * c.radius ** 2, 0);
      if (wanted > 0 && taken < 0.9 * wanted)
        notes.push(
          `${name}: lightening holes of ${Math.round((100 * taken) / full)} % fit, ${Math.round(100 * ribs.holes!)} % are asked for`,
        );
      const round = light.map((c): DrawingItem => ({
        kind: 'circle',
        layer: 'hole',
        at: c.at,
        radius: c.radius - 0.5 * options.kerf,
      }));
      const area =
        full -
        taken -
        own.reduce(
          (sum, h) =>
            sum +
            (h.kind === 'circle' ? Math.PI * h.radius ** 2 : h.kind === 'line' ? 0.5 * Math.abs(turning(h.points)) : 0),
          0,
        );
      return {
        label: name,
        surface: surface.id,
        kind: 'rib',
        material: ribs.material,
        thickness,
        area,
        length: longSide(clean),
        count: surface.mirrored ? 2 : 1,
        mass: massOf(ribs.material, area, thickness),
        items: [{ kind: 'line', layer: 'cut', points: clean, closed: true }, ...own, ...round, words],
        notes: [...notes.splice(0)],
      };
    });
  });
}

/** A slot for a spar in the pieces of a rib; what it leaves, and the stretch where nothing else may be. */
function slotOf(
  s: SparPlace,
  { kerf, clearance }: CutOptions,
  pieces: Piece[],
  label: string,
): { pieces: Piece[]; holes: DrawingItem[]; stop: [number, number] } {
  const { spar } = s;
  const [x, z, w, h] = [MM * s.x, MM * s.z, MM * s.width, MM * s.height];
  const room = clearance - 0.5 * kerf;
  const stop: [number, number] = [x - 0.5 * w - room, x + 0.5 * w + room];
  const at = pieces.findIndex((p) => p.upper[0][0] < x && p.upper.at(-1)![0] > x);
  if (at < 0) return { pieces, holes: [], stop };
  const piece = pieces[at];
  const refuse = (what: string): never => {
    throw new InvalidInput(
      'slot-edge',
      `${label}: the slot for ${spar.name} ${what}.`,
      'Make the spar smaller there, move it, or end it further inboard.',
      `structure.spars.${spar.id}`,
    );
  };
  const inside = (from: number, to: number, low: number, high: number) => {
    for (const q of [from, 0.5 * (from + to), to])
      if (heightAt(piece.upper, q) < high || heightAt(piece.lower, q) > low) return false;
    return from > piece.upper[0][0] && to < piece.upper.at(-1)![0];
  };
  if (spar.kind === 'tube') {
    const radius = 0.5 * w + room;
    for (let k = 0; k < 24; k++) {
      const a = (2 * Math.PI * k) / 24;
      const [q, v] = [x + radius * Math.cos(a), z + radius * Math.sin(a)];
      if (v > heightAt(piece.upper, q) || v < heightAt(piece.lower, q)) refuse('goes through the edge of the rib');
    }
    return { pieces, holes: [{ kind: 'circle', layer: 'hole', at: [x, z], radius }], stop };
  }
  if (!s.full || spar.kind === 'solid') {
    if (s.full) {
      // Nose and tail.
      const front = { upper: cutOff(piece.upper, stop[0], true), lower: cutOff(piece.lower, stop[0], true) };
      const back = { upper: cutOff(piece.upper, stop[1], false), lower: cutOff(piece.lower, stop[1], false) };
      if (front.upper.length < 3 || back.upper.length < 3) refuse('leaves nothing of the rib on one side');
      return { pieces: [...pieces.slice(0, at), front, back, ...pieces.slice(at + 1)], holes: [], stop };
    }
    const [low, high] = [z - 0.5 * h - room, z + 0.5 * h + room];
    if (!inside(stop[0], stop[1], low, high)) refuse('goes through the edge of the rib');
    const points: Pair[] = [
      [stop[0], low],
      [stop[1], low],
      [stop[1], high],
      [stop[0], high],
    ];
    return { pieces, holes: [{ kind: 'line', layer: 'hole', points, closed: true }], stop };
  }
  // Caps lie in notches; webs stand between the ribs.
  const cap = MM * s.cap + room;
  const top = Math.min(heightAt(piece.upper, stop[0]), heightAt(piece.upper, stop[1])) - cap;
  const bottom = Math.max(heightAt(piece.lower, stop[0]), heightAt(piece.lower, stop[1])) + cap;
  if (top - bottom < 2 * LEAST_EDGE) refuse(`leaves ${(top - bottom).toFixed(1)} mm between the caps`);
  const next: Piece = {
    upper: notched(piece.upper, stop[0], stop[1], top),
    lower: notched(piece.lower, stop[0], stop[1], bottom),
  };
  return { pieces: [...pieces.slice(0, at), next, ...pieces.slice(at + 1)], holes: [], stop };
}

function blank(
  surface: BuiltSurface,
  label: string,
  material: MadePart['material'],
  thickness: number,
  note: string,
): MadePart {
  return {
    label,
    surface: surface.id,
    kind: 'rib',
    material,
    thickness,
    area: 0,
    length: 0,
    count: 0,
    mass: 0,
    items: [],
    notes: [note],
  };
}
