import { materialOf } from '../structure';
import type { SectionLookup } from '../airframe';
import { isBuilt, skinAt, sparAt, SurfaceShape, type BuiltSurface, type SectionPlace } from './shape';
import type { LiftingSurface } from '../airframe';

/** A small piece of a member, on the right or upper side. */
export interface MemberLump {
  /** kg */ mass: number;
  /** From the root in true length, m. */ along: number;
  /** m, in the airframe's axes. */ x: number;
  y: number;
  z: number;
}

/** A member of a surface: what it weighs. */
export interface MemberMass {
  /** Id of a spar, `skin`, `ribs` or `core`. */ id: string;
  name: string;
  /** All of it, on both sides where there are two, kg: as weighed, else as computed. */ mass: number;
  /** From densities and sizes, kg. */ computed: number;
  weighed: boolean;
  /** By the material's price, where it has one. */ price: number | null;
  /** Of one side; they add up to the mass of one side. */ lumps: MemberLump[];
}

/** Slices of a member along the span, and columns of a section. */
const SLICES = 32;
const COLUMNS = 12;

/** Ribs along a half span: their places as shares of it. */
export function ribPlaces(total: number, spacing: number): number[] {
  const bays = Math.max(1, Math.round(total / spacing));
  return Array.from({ length: bays + 1 }, (_, k) => k / bays);
}

/** Masses of the members of a built surface, of those that do not fit it too. @throws InvalidInput what placing the surface throws. */
export function memberMasses(surface: BuiltSurface, lookup: SectionLookup): MemberMass[] {
  const shape = new SurfaceShape(surface, lookup);
  const { structure } = surface;
  const name = surface.name || surface.id;
  const out: MemberMass[] = [];
  const sides = surface.mirrored ? 2 : 1;
  const lump = (place: SectionPlace, mass: number, x: number, z: number): MemberLump => {
    const { leadingEdge: p, along: a, up: u } = place.station;
    return {
      mass,
      along: place.along,
      x: p.x + x * a.x + z * u.x,
      y: p.y + x * a.y + z * u.y,
      z: p.z + x * a.z + z * u.z,
    };
  };
  const add = (
    id: string,
    called: string,
    price: number | undefined,
    weighed: number | undefined,
    lumps: MemberLump[],
  ) => {
    const computed = sides * lumps.reduce((sum, l) => sum + l.mass, 0);
    const mass = weighed ?? computed;
    const scale = computed > 0 ? mass / computed : 0;
    out.push({
      id,
      name: called,
      mass,
      computed,
      weighed: weighed !== undefined,
      price: price === undefined ? null : price * mass,
      lumps: lumps.map((l) => ({ ...l, mass: l.mass * scale })),
    });
  };
  /** Middles of even slices between two shares, with their length in m. */
  const slices = (from: number, to: number): { place: SectionPlace; length: number }[] =>
    Array.from({ length: SLICES }, (_, k) => ({
      place: shape.at(from + ((to - from) * (k + 0.5)) / SLICES),
      length: ((to - from) * shape.total) / SLICES,
    }));
  /** Columns of a section: x, middle z and area. */
  const columns = (place: SectionPlace) =>
    Array.from({ length: COLUMNS }, (_, k) => {
      const edge = (i: number) => 0.5 * place.chord * (1 - Math.cos((Math.PI * i) / COLUMNS));
      const [a, b] = [edge(k), edge(k + 1)];
      const x = 0.5 * (a + b);
      const inside = skinAt(structure, x, place.chord);
      const [u, l] = [place.upper(x) - inside, place.lower(x) + inside];
      return { x, z: 0.5 * (u + l), area: Math.max(0, u - l) * (b - a) };
    });
  const { skin, ribs, core } = structure;
  if (skin) {
    const material = materialOf(skin.material);
    const lumps = slices(0, 1).flatMap(({ place, length }) => {
      const end = (skin.to ?? 1) * place.chord;
      const list: MemberLump[] = [];
      for (let i = 1; i < place.ring.length; i++) {
        let [a, b] = [place.ring[i - 1], place.ring[i]];
        if (Math.min(a[0], b[0]) >= end) continue;
        if (Math.max(a[0], b[0]) > end) {
          const cut = (p: readonly number[], q: readonly number[]): [number, number] => {
            const s = (end - p[0]) / (q[0] - p[0]);
            return [end, p[1] + s * (q[1] - p[1])];
          };
          if (a[0] > end) a = cut(b, a);
          else b = cut(a, b);
        }
        const mass = Math.hypot(b[0] - a[0], b[1] - a[1]) * skin.thickness * length * material.density;
        list.push(lump(place, mass, 0.5 * (a[0] + b[0]), 0.5 * (a[1] + b[1])));
      }
      return list;
    });
    add('skin', 'skin', material.price, skin.weighed, lumps);
  }
  for (const spar of structure.spars) {
    const material = materialOf(spar.material);
    const web = materialOf(spar.webMaterial ?? spar.material);
    let [cost, priced] = [0, true];
    let before: { x: number; along: number } | null = null;
    const lumps = slices(spar.from, spar.to).map(({ place, length }) => {
      const s = sparAt(spar, place, name, skinAt(structure, spar.at * place.chord, place.chord), false)!;
      const x = place.station.leadingEdge.x + s.x * place.station.along.x;
      // As long as it lies aslant.
      const slant: number = before === null ? 1 : Math.hypot(1, (x - before.x) / (place.along - before.along));
      before = { x, along: place.along };
      const long = length * slant;
      const [main, other] =
        spar.kind === 'solid'
          ? [s.width * s.height, 0]
          : spar.kind === 'tube'
            ? [Math.PI * s.wall * (s.width - s.wall), 0]
            : [2 * s.width * s.cap, (spar.kind === 'box' ? 2 : 1) * s.web * Math.max(0, s.height - 2 * s.cap)];
      const [a, b] = [main * long * material.density, other * long * web.density];
      if (material.price === undefined || (other > 0 && web.price === undefined)) priced = false;
      cost += a * (material.price ?? 0) + b * (web.price ?? 0);
      return lump(place, a + b, s.x, s.z);
    });
    const computed = lumps.reduce((sum, l) => sum + l.mass, 0);
    add(spar.id, spar.name, priced && computed > 0 ? cost / computed : undefined, spar.weighed, lumps);
  }
  if (ribs) {
    const material = materialOf(ribs.material);
    const solid = material.density * ribs.thickness * (1 - (ribs.holes ?? 0));
    const lumps = ribPlaces(shape.total, ribs.spacing).flatMap((share) => {
      const place = shape.at(share);
      return columns(place).map(({ x, z, area }) => lump(place, area * solid, x, z));
    });
    add('ribs', 'ribs', material.price, ribs.weighed, lumps);
  }
  if (core) {
    const material = materialOf(core.material);
    const lumps = slices(0, 1).flatMap(({ place, length }) =>
      columns(place).map(({ x, z, area }) => lump(place, area * length * material.density, x, z)),
    );
    add('core', 'core', material.price, core.weighed, lumps);
  }
  return out;
}

/** Masses of the members of all built surfaces, by the surface. */
export const builtMasses = (
  surfaces: readonly LiftingSurface[],
  lookup: SectionLookup,
): { surface: BuiltSurface; members: MemberMass[] }[] =>
  surfaces.filter(isBuilt).map((surface) => ({ surface, members: memberMasses(surface, lookup) }));
