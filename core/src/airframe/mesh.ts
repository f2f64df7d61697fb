import { bodyRings, type Body } from './body';
import { ringArea, skinRings } from './loft';
import type { SectionLookup } from './mean-surface';
import type { LiftingSurface, Point3 } from './types';

/** A closed skin of triangles, seen anticlockwise from outside; m. */
export interface PartMesh {
  id: string;
  name: string;
  kind: 'surface' | 'body';
  /** x, y, z of every vertex. */ vertices: Float64Array;
  /** Three vertices a triangle. */ triangles: Uint32Array;
}

/** Vertices that lie closer than this are one, m. */
const WELD = 1e-8;

class MeshMaker {
  private readonly places: number[] = [];
  private readonly known = new Map<string, number>();
  private readonly faces: number[] = [];

  vertex({ x, y, z }: Point3): number {
    const key = `${Math.round(x / WELD)},${Math.round(y / WELD)},${Math.round(z / WELD)}`;
    let at = this.known.get(key);
    if (at === undefined) {
      this.known.set(key, (at = this.places.length / 3));
      this.places.push(x, y, z);
    }
    return at;
  }
  triangle(a: number, b: number, c: number): void {
    if (a !== b && b !== c && c !== a) this.faces.push(a, b, c);
  }
  /** Two rings of equal length, closed from the last point to the first. */
  band(a: readonly number[], b: readonly number[]): void {
    for (let i = 0; i < a.length; i++) {
      const j = (i + 1) % a.length;
      this.triangle(a[i], b[i], b[j]);
      this.triangle(a[i], b[j], a[j]);
    }
  }
  /** A ring closed flat, by a band from side to side. */
  cap(ring: readonly number[], flip: boolean): void {
    let [i, j] = [0, ring.length - 1];
    const turn = (a: number, b: number, c: number) => (flip ? this.triangle(a, c, b) : this.triangle(a, b, c));
    while (i + 1 < j) {
      turn(ring[i], ring[i + 1], ring[j]);
      i++;
      if (i + 1 <= j - 1 || i < j - 1) turn(ring[i], ring[j - 1], ring[j]);
      j--;
    }
  }
  mesh(id: string, name: string, kind: PartMesh['kind']): PartMesh {
    const made = { id, name, kind, vertices: Float64Array.from(this.places), triangles: Uint32Array.from(this.faces) };
    if (meshFacts(made).volume < 0)
      for (let i = 0; i < made.triangles.length; i += 3) {
        const k = made.triangles[i + 1];
        made.triangles[i + 1] = made.triangles[i + 2];
        made.triangles[i + 2] = k;
      }
    return made;
  }
}

const mirrorRing = (ring: readonly Point3[]): Point3[] => ring.map((p) => ({ ...p, y: -p.y }));

function shell(rings: readonly Point3[][], id: string, name: string, kind: PartMesh['kind']): PartMesh {
  const maker = new MeshMaker();
  const indices = rings.map((r) => r.map((p) => maker.vertex(p)));
  for (let i = 1; i < indices.length; i++) maker.band(indices[i - 1], indices[i]);
  // An end that closes to a point or an edge needs no lid.
  const last = rings.length - 1;
  if (ringArea(rings[0]) > WELD * WELD) maker.cap(indices[0], false);
  if (ringArea(rings[last]) > WELD * WELD) maker.cap(indices[last], true);
  return maker.mesh(id, name, kind);
}

/**
 * The skins of an airframe as closed meshes, one a part. A mirrored surface whose root lies in the plane of symmetry is one part from tip to tip; any
 * other stands twice, its left side under an id that ends in `-left`.
 * @param surfaces where they stand. @throws InvalidInput for a part that is no shape.
 */
export function partMeshes(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): PartMesh[] {
  const meshes: PartMesh[] = [];
  for (const s of surfaces) {
    const rings = skinRings(s, lookup).map((r) => r.points);
    if (s.mirrored && rings[0].every((p) => Math.abs(p.y) < WELD)) {
      const left = rings.slice(1).reverse().map(mirrorRing);
      meshes.push(shell([...left, ...rings], s.id, s.name, 'surface'));
      continue;
    }
    meshes.push(shell(rings, s.id, s.name, 'surface'));
    if (s.mirrored) meshes.push(shell(rings.map(mirrorRing), `${s.id}-left`, `${s.name}, left`, 'surface'));
  }
  for (const b of bodies) {
    const rings = bodyRings(b);
    meshes.push(shell(rings, b.id, b.name, 'body'));
    if (b.mirrored) meshes.push(shell(rings.map(mirrorRing), `${b.id}-left`, `${b.name}, left`, 'body'));
  }
  return meshes;
}

/** What can be measured on a mesh. */
export interface MeshFacts {
  /** True where every edge belongs to two triangles that run along it in opposite directions. */
  closed: boolean;
  /** Edges that do not. */ openEdges: number;
  /** m³; negative where it is seen from inside. */ volume: number;
  /** m² */ area: number;
  triangles: number;
}

/** Measures a mesh and checks that it is closed. */
export function meshFacts({ vertices: v, triangles: t }: Pick<PartMesh, 'vertices' | 'triangles'>): MeshFacts {
  const edges = new Map<number, number>();
  const count = v.length / 3;
  let [volume, area] = [0, 0];
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [t[i], t[i + 1], t[i + 2]];
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ]) {
      const forward = p < q;
      const key = forward ? p * count + q : q * count + p;
      edges.set(key, (edges.get(key) ?? 0) + (forward ? 1 : -1) + 1000);
    }
    const [ax, ay, az] = [v[3 * a], v[3 * a + 1], v[3 * a + 2]];
    const [ux, uy, uz] = [v[3 * b] - ax, v[3 * b + 1] - ay, v[3 * b + 2] - az];
    const [wx, wy, wz] = [v[3 * c] - ax, v[3 * c + 1] - ay, v[3 * c + 2] - az];
    const [nx, ny, nz] = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
    area += 0.5 * Math.hypot(nx, ny, nz);
    volume += (ax * nx + ay * ny + az * nz) / 6;
  }
  let openEdges = 0;
  for (const n of edges.values()) if (n !== 2000) openEdges++;
  return { closed: openEdges === 0 && t.length > 0, openEdges, volume, area, triangles: t.length / 3 };
}
