import { bodyRings, type Body } from './body';
import { placeRing, ringOf } from './loft';
import type { SectionLookup } from './mean-surface';
import { placeSurface, skinPlaces, trailingEdge } from './placement';
import { trueOffsets } from './true-span';
import type { LiftingSurface, Point3 } from './types';

/** The three views of a drawing: from above (y right, x down), from ahead (y, z) and from the left (x, z). */
export const DRAWING_VIEWS = ['plan', 'front', 'side'] as const;
export type DrawingView = (typeof DRAWING_VIEWS)[number];

/** A point of space in a view, m. */
export const inView = (p: Point3, view: DrawingView): [number, number] =>
  view === 'plan' ? [p.y, p.x] : view === 'front' ? [p.y, p.z] : [p.x, p.z];

/** A line of a drawing in a view; m. */
export interface ViewLine {
  points: [number, number][];
  closed: boolean;
  /** `edge`: the outline of the part; `section`: a section seen from its end; `hinge`: of a control. */
  what: 'edge' | 'section' | 'hinge';
}

/** Slices of a flowing bay in a drawing. */
const SLICES = 16;

const sides = (lines: ViewLine[], view: DrawingView, mirrored: boolean): ViewLine[] =>
  mirrored && view !== 'side'
    ? [...lines, ...lines.map((l) => ({ ...l, points: l.points.map(([u, v]): [number, number] => [-u, v]) }))]
    : lines;

/**
 * The lines of a surface in a view, both sides where it is mirrored: its edges, its thickness seen from ahead, its sections seen from their end, and
 * the outlines of its controls.
 * @throws InvalidInput for a surface that is no shape, and from the lookup.
 */
export function surfaceLines(surface: LiftingSurface, view: DrawingView, lookup: SectionLookup): ViewLine[] {
  const placed = placeSurface(surface);
  const places = skinPlaces(placed, SLICES);
  const lines: ViewLine[] = [];
  const rings = new Map<string, [number, number][]>();
  const ring = (key: string) => {
    let made = rings.get(key);
    if (!made) rings.set(key, (made = ringOf(lookup, key)));
    return made;
  };
  const edges = [
    ...places.map((p) => p.at.leadingEdge),
    ...places
      .slice()
      .reverse()
      .map((p) => trailingEdge(p.at)),
  ];
  if (view === 'front') {
    // Where each section is thickest, seen from ahead.
    const skins = places.map(({ at }) => {
      const points = placeRing(at, ring(at.section));
      const height = (p: Point3) =>
        (p.x - at.leadingEdge.x) * at.up.x + (p.y - at.leadingEdge.y) * at.up.y + (p.z - at.leadingEdge.z) * at.up.z;
      const heights = points.map(height);
      return [points[heights.indexOf(Math.max(...heights))], points[heights.indexOf(Math.min(...heights))]] as const;
    });
    lines.push({
      points: [...skins.map((s) => s[0]), ...skins.reverse().map((s) => s[1])].map((p) => inView(p, view)),
      closed: true,
      what: 'edge',
    });
  } else lines.push({ points: edges.map((p) => inView(p, view)), closed: true, what: 'edge' });
  if (view !== 'front') {
    const span = trueOffsets(surface, placed);
    for (const c of surface.controls ?? []) {
      const steps = Array.from({ length: 9 }, (_, i) => {
        const { bay, share } = span.at(c.from + ((c.to - c.from) * i) / 8);
        return placed.at(bay, share);
      });
      const at = (p: (typeof steps)[number], f: number) => {
        const te = trailingEdge(p);
        const le = p.leadingEdge;
        return { x: le.x + f * (te.x - le.x), y: le.y + f * (te.y - le.y), z: le.z + f * (te.z - le.z) };
      };
      lines.push({
        points: [at(steps[0], 1), ...steps.map((p) => at(p, c.hinge)), at(steps[steps.length - 1], 1)].map((p) =>
          inView(p, view),
        ),
        closed: false,
        what: 'hinge',
      });
    }
  }
  const endOn = surface.plane === 'vertical' ? 'plan' : 'side';
  if (view === endOn)
    for (const at of placed.stations)
      lines.push({
        points: placeRing(at, ring(at.section)).map((p) => inView(p, view)),
        closed: true,
        what: 'section',
      });
  return sides(lines, view, surface.mirrored);
}

/** The lines of a body in a view, both where it is mirrored. @throws InvalidInput for a body that is none. */
export function bodyLines(body: Body, view: DrawingView): ViewLine[] {
  const rings = bodyRings(body);
  if (view === 'front') {
    const size = (r: readonly Point3[]) => {
      const [ys, zs] = [r.map((p) => p.y), r.map((p) => p.z)];
      return (Math.max(...ys) - Math.min(...ys)) * (Math.max(...zs) - Math.min(...zs));
    };
    // The widest ring, and the outline of the others where they stand out.
    const widest = rings.reduce((a, b) => (size(b) > size(a) ? b : a));
    return sides([{ points: widest.map((p) => inView(p, view)), closed: true, what: 'edge' }], view, body.mirrored);
  }
  const across = view === 'plan' ? (p: Point3) => p.y : (p: Point3) => p.z;
  const ends = rings.map((r) =>
    r.reduce((a, p) => [across(p) < across(a[0]) ? p : a[0], across(p) > across(a[1]) ? p : a[1]], [r[0], r[0]]),
  );
  const points = [...ends.map((e) => e[0]), ...ends.reverse().map((e) => e[1])].map((p) => inView(p, view));
  return sides([{ points, closed: true, what: 'edge' }], view, body.mirrored);
}
