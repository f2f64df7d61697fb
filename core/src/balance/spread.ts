import { partMeshes, placeSurface, standing, type Body, type LiftingSurface, type SectionLookup } from '../airframe';
import { InvalidInput } from '../numerics';
import { kept, type SectionSource } from '../shaping';
import type { MassItem } from './balance';

/** Ways in which a mass is spread over a part of the airframe. */
export const SPREADS = ['skin', 'volume', 'area'] as const;
export type Spread = (typeof SPREADS)[number];
const isSpread = (shape: string | undefined): shape is Spread => SPREADS.includes(shape as Spread);

type P = readonly [number, number, number];

/** Sums of content, first and second moments about the origin. */
class Moments {
  content = 0;
  readonly first = [0, 0, 0];
  readonly second = [0, 0, 0, 0, 0, 0];
  private add(weight: number, corners: readonly P[], parts: number, share: number): void {
    const s: P = [0, 1, 2].map((i) => corners.reduce((sum, c) => sum + c[i], 0)) as never;
    this.content += weight;
    for (let i = 0; i < 3; i++) this.first[i] += (weight * s[i]) / parts;
    let k = 0;
    for (let i = 0; i < 3; i++)
      for (let j = i; j < 3; j++) {
        this.second[k] += weight * share * (s[i] * s[j] + corners.reduce((sum, c) => sum + c[i] * c[j], 0));
        k++;
      }
  }
  /** A triangle, by its area. */
  triangle(a: P, b: P, c: P): void {
    const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
    const area = 0.5 * Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]);
    this.add(area, [a, b, c], 3, 1 / 12);
  }
  /** The tetrahedron of a triangle and the origin, by its volume with its sign. */
  tetrahedron(a: P, b: P, c: P): void {
    const volume =
      (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) /
      6;
    this.add(volume, [a, b, c], 4, 1 / 20);
  }
}

/** Slices that a bay's planform is cut into. */
const SLICES = 12;

/** A part by itself, with the sections that its skin needs, as a key of what was measured before. */
interface Measured {
  how: Spread;
  surface?: LiftingSurface;
  body?: Body;
  sources: Record<string, SectionSource>;
}

/** Parts change seldom while masses do, and a skin takes milliseconds: what was measured is kept. */
const keptMoments = kept(120, ({ how, surface, body, sources }: Measured): Moments => {
  const m = new Moments();
  if (how === 'area' && surface) {
    const placed = placeSurface(surface);
    for (const side of surface.mirrored ? [1, -1] : [1])
      surface.bays.forEach((_, bay) => {
        const edge = (k: number): [P, P] => {
          const t = placed.at(bay, k / SLICES);
          const [n, q] = [t.leadingEdge, t.quarterChord];
          return [
            [n.x, side * n.y, n.z],
            [n.x + 4 * (q.x - n.x), side * (n.y + 4 * (q.y - n.y)), n.z + 4 * (q.z - n.z)],
          ];
        };
        for (let k = 0; k < SLICES; k++) {
          const [[a, b], [c, d]] = [edge(k), edge(k + 1)];
          m.triangle(a, b, d);
          m.triangle(a, d, c);
        }
      });
    return m;
  }
  const lookup = (key: string) => sources[key];
  for (const mesh of partMeshes(surface ? [surface] : [], body ? [body] : [], lookup)) {
    const { vertices: v, triangles: t } = mesh;
    const at = (i: number): P => [v[3 * i], v[3 * i + 1], v[3 * i + 2]];
    for (let i = 0; i < t.length; i += 3)
      if (how === 'volume') m.tetrahedron(at(t[i]), at(t[i + 1]), at(t[i + 2]));
      else m.triangle(at(t[i]), at(t[i + 1]), at(t[i + 2]));
  }
  return m;
});

function momentsOf(
  id: string,
  how: Spread,
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): Moments | null {
  const surface = surfaces.find((s) => s.id === id);
  const body = bodies.find((b) => b.id === id);
  if (!surface && !body) return null;
  const sources = Object.fromEntries(
    how === 'area' ? [] : (surface?.stations ?? []).map((t) => [t.section, lookup(t.section)]),
  );
  return keptMoments({ how, ...(surface ? { surface } : { body }), sources });
}

/**
 * Mass items with a place and an inertia: those that are spread over a part of the airframe get theirs from its shape, both sides of a mirrored part together.
 * @param surfaces, bodies as the candidate has them. @returns the same list where nothing is spread.
 * @throws InvalidInput `mass-part` for a part that is not there, and for a part that is no shape.
 */
export function placedItems(
  items: readonly MassItem[],
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): readonly MassItem[] {
  if (!items.some((i) => i.part !== undefined && (i.shape === undefined || isSpread(i.shape)))) return items;
  const stood = standing(surfaces, bodies);
  return items.map((item, index): MassItem => {
    if (item.part === undefined || !(item.shape === undefined || isSpread(item.shape))) return item;
    const m = momentsOf(item.part, item.shape ?? 'skin', stood, bodies, lookup);
    if (!m)
      throw new InvalidInput(
        'mass-part',
        `${item.name || `Item ${index + 1}`} is spread over a part "${item.part}" that is not there.`,
        `There are ${[...surfaces, ...bodies].map((p) => p.id).join(', ') || 'no parts'}.`,
        `massItems.${index}.part`,
      );
    const [cx, cy, cz] = m.first.map((v) => v / m.content);
    const k = item.mass / m.content;
    const [xx, xy, xz, yy, yz, zz] = m.second.map((v) => v * k);
    const about = (v: number, a: number, b: number) => v - item.mass * a * b;
    const [sx, sy, sz] = [about(xx, cx, cx), about(yy, cy, cy), about(zz, cz, cz)];
    const tidy = (v: number) => (Math.abs(v) < 1e-12 * (sx + sy + sz) ? 0 : v);
    const { shape: _s, size: _z, mirrored: _m, part: _p, ...rest } = item;
    return {
      ...rest,
      position: { x: cx, y: Math.abs(cy) < 1e-12 ? 0 : cy, z: cz },
      ...(item.mass > 0 && {
        inertia: {
          Ixx: sy + sz,
          Iyy: sx + sz,
          Izz: sx + sy,
          Ixy: tidy(about(xy, cx, cy)),
          Ixz: tidy(about(xz, cx, cz)),
          Iyz: tidy(about(yz, cy, cz)),
        },
      }),
    };
  });
}

/** Area of a part's skin (m²), its volume (m³) or its planform (m²), both sides together. @returns null for a part that is not there. */
export function partContent(
  id: string,
  how: Spread,
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): number | null {
  return momentsOf(id, how, standing(surfaces, bodies), bodies, lookup)?.content ?? null;
}
