import { standing, type Body, type LiftingSurface, type SectionLookup } from '../airframe';
import { isBuilt, memberMasses, type BuiltSurface, type MemberMass } from '../members';
import { kept, type SectionSource } from '../shaping';
import type { MassItem } from './balance';

/** What the members' masses of a surface depend on. */
interface Built {
  surface: BuiltSurface;
  sources: Record<string, SectionSource>;
}

/** Mass items of a surface's members. */
const keptItems = kept(60, ({ surface, sources }: Built): MassItem[] =>
  memberMasses(surface, (key) => sources[key])
    .filter((m) => m.mass > 0)
    .map((member) => itemOf(surface, member)),
);

/** The group that computed members are told under. */
export const MEMBER_GROUP = 'Structure';
/** Id of the mass item that is made of a member. */
export const memberItemId = (surface: string, member: string): string => `${surface}-${member}`.slice(0, 64);

/** A member as a mass with a place and an inertia, both sides together. */
function itemOf(surface: BuiltSurface, { id, name, lumps, mass }: MemberMass): MassItem {
  const sides = surface.mirrored ? [1, -1] : [1];
  const total = { m: 0, x: 0, y: 0, z: 0 };
  for (const side of sides)
    for (const l of lumps) {
      total.m += l.mass;
      total.x += l.mass * l.x;
      total.y += l.mass * side * l.y;
      total.z += l.mass * l.z;
    }
  const [x, y, z] = [total.x / total.m, surface.mirrored ? 0 : total.y / total.m, total.z / total.m];
  // About the centre from the start: of a straight tube little would be left of a difference.
  let [xx, yy, zz, xy, xz, yz] = [0, 0, 0, 0, 0, 0];
  for (const side of sides)
    for (const l of lumps) {
      const [a, b, c] = [l.x - x, side * l.y - y, l.z - z];
      xx += l.mass * a * a;
      yy += l.mass * b * b;
      zz += l.mass * c * c;
      xy += l.mass * a * b;
      xz += l.mass * a * c;
      yz += l.mass * b * c;
    }
  return {
    id: memberItemId(surface.id, id),
    name: `${surface.name || surface.id}, ${name}`.slice(0, 80),
    mass,
    position: { x, y, z },
    inertia: {
      Ixx: yy + zz,
      Iyy: xx + zz,
      Izz: xx + yy,
      ...(!surface.mirrored && { Ixy: xy, Iyz: yz }),
      Ixz: xz,
    },
    group: MEMBER_GROUP,
  };
}

/** Mass items of all members of built surfaces: they follow every change of shape. */
export function memberItems(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): MassItem[] {
  if (!surfaces.some(isBuilt)) return [];
  return standing(surfaces, bodies)
    .filter(isBuilt)
    .flatMap((surface) =>
      keptItems({ surface, sources: Object.fromEntries(surface.stations.map((t) => [t.section, lookup(t.section)])) }),
    );
}
