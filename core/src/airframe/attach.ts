import { InvalidInput } from '../numerics';
import type { Body } from './body';
import { placeSurface, trailingEdge } from './placement';
import { trueOffsets } from './true-span';
import type { LiftingSurface, Point3 } from './types';

const refuse = (s: LiftingSurface, what: string, hint: string): never => {
  throw new InvalidInput('attachment', `${s.name || s.id} ${what}`, hint, 'attachedTo');
};

/** The point of a surface at a share of its half span and a chord fraction (its right or upper side). */
export function pointOn(surface: LiftingSurface, share: number, chord = 0): Point3 {
  const placed = placeSurface(surface);
  const where = trueOffsets(surface, placed).at(share);
  const at = placed.at(where.bay, where.share);
  const { leadingEdge: le } = at;
  const te = trailingEdge(at);
  return {
    x: le.x + chord * (te.x - le.x),
    y: le.y + chord * (te.y - le.y),
    z: le.z + chord * (te.z - le.z),
  };
}

/** The point of a body's line of centres at a share of its length. */
export function pointAlong(body: Body, share: number): Point3 {
  const { stations, position } = body;
  const last = stations.length - 1;
  const x = stations[0].x + share * (stations[last].x - stations[0].x);
  let k = 0;
  while (k < last - 1 && stations[k + 1].x < x) k++;
  const [a, b] = [stations[k], stations[k + 1]];
  const t = (x - a.x) / (b.x - a.x);
  return { x: position.x + x, y: position.y, z: position.z + (1 - t) * a.z + t * b.z };
}

/**
 * Surfaces where they stand: the places of those that are attached count from what they are attached to.
 * @returns the same objects where nothing is attached. @throws InvalidInput `attachment` where a link leads nowhere or back to itself.
 */
export function standing(surfaces: readonly LiftingSurface[], bodies: readonly Body[] = []): LiftingSurface[] {
  const done = new Map<string, LiftingSurface>();
  const under = new Set<string>();
  const place = (s: LiftingSurface): LiftingSurface => {
    if (!s.attachedTo) return s;
    const known = done.get(s.id);
    if (known) return known;
    if (under.has(s.id)) refuse(s, 'is attached to itself by way of others.', 'Let one of them stand by itself.');
    under.add(s.id);
    const to = s.attachedTo;
    let point: Point3;
    if ('surface' in to) {
      const base = surfaces.find((k) => k.id === to.surface);
      if (!base) return refuse(s, `is attached to "${to.surface}", which is not there.`, 'Attach it to another part.');
      point = pointOn(place(base), to.share, to.chord ?? 0);
    } else {
      const base = bodies.find((k) => k.id === to.body);
      if (!base) return refuse(s, `is attached to "${to.body}", which is not there.`, 'Attach it to another part.');
      point = pointAlong(base, to.share);
    }
    const { attachedTo: _, ...rest } = s;
    const made = {
      ...rest,
      position: { x: s.position.x + point.x, y: s.position.y + point.y, z: s.position.z + point.z },
    };
    under.delete(s.id);
    done.set(s.id, made);
    return made;
  };
  return surfaces.map(place);
}

/** An airframe with its surfaces where they stand. */
export const standingIn = <C extends { surfaces: LiftingSurface[]; bodies: Body[] }>(candidate: C): C =>
  candidate.surfaces.some((s) => s.attachedTo)
    ? { ...candidate, surfaces: standing(candidate.surfaces, candidate.bodies) }
    : candidate;

/**
 * Lets surfaces go that are attached to a part which is to be removed; they stay where they stand. The airframe given is changed.
 * @param part id of a surface or a body. @throws InvalidInput `attachment` where a link leads nowhere.
 */
export function letGo(airframe: { surfaces: LiftingSurface[]; bodies: Body[] }, part: string): void {
  const on = (s: LiftingSurface) =>
    s.attachedTo && ('surface' in s.attachedTo ? s.attachedTo.surface : s.attachedTo.body) === part;
  if (!airframe.surfaces.some(on)) return;
  const placed = standing(airframe.surfaces, airframe.bodies).map((s) => ({ ...s.position }));
  airframe.surfaces.forEach((s, i) => {
    if (!on(s)) return;
    const tidy = (v: number) => Number(v.toFixed(5));
    s.position = { x: tidy(placed[i].x), y: tidy(placed[i].y), z: tidy(placed[i].z) };
    delete s.attachedTo;
  });
}
