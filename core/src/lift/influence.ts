import { factorise, type Factorisation } from '../numerics';
import { Arena, factoriseInPlace, kernels, type Kernels } from '../kernels';
import { reflect, type GroundPlane } from './ground';
import { HorseshoeField } from './horseshoe';
import { joinedParts } from './joined';
import type { SurfaceLattice } from './lattice';

/**
 * What the horseshoe vortices of all parts do to each other. `active` lists the parts that take part; `sign` is that of the mirror image,
 * 1 in symmetric and −1 in antisymmetric flow.
 */
export interface Influence {
  /** The factorised matrix of normal velocities at the control points, rows and columns in the order of `active`. */
  system(active: number[], sign: number): Factorisation;
  /**
   * Velocities at points of part `to`. @param points x, y, z triples. @param sets circulations of all horseshoes of all parts, one array a set.
   * @returns triples, one array a set.
   */
  induced(active: number[], sign: number, to: number, points: Float64Array, sets: Float64Array[]): Float64Array[];
}

/** First horseshoe of each part in arrays over all parts. */
export function partOffsets(parts: readonly SurfaceLattice[]): number[] {
  let sum = 0;
  return parts.map((p) => {
    const at = sum;
    sum += p.rows * p.strips;
    return at;
  });
}

const sizeOf = (p: SurfaceLattice) => p.rows * p.strips;

/** The reference: plain TypeScript. */
export class ReferenceInfluence implements Influence {
  private readonly fields: HorseshoeField[];
  private readonly offsets: number[];
  private readonly joined: (a: number, b: number) => boolean;

  constructor(
    private readonly parts: readonly SurfaceLattice[],
    wake: readonly [number, number, number],
    private readonly ground: GroundPlane | null = null,
  ) {
    this.fields = parts.map((p) => new HorseshoeField(p, wake));
    this.offsets = partOffsets(parts);
    this.joined = joinedParts(parts);
  }

  /** A part and its images: in the plane of symmetry, in the ground, and in both. Seen from an image, a point lies at its own image. */
  private seen(from: number, sign: number): { side: 1 | -1; weight: number; ground: GroundPlane | null }[] {
    const sides: { side: 1 | -1; weight: number }[] = [{ side: 1, weight: 1 }];
    if (this.parts[from].mirrored) sides.push({ side: -1, weight: sign });
    return sides.flatMap((s) => (this.ground ? [null, this.ground] : [null]).map((ground) => ({ ...s, ground })));
  }

  system(active: number[], sign: number): Factorisation {
    const n = active.reduce((sum, p) => sum + sizeOf(this.parts[p]), 0);
    const a = new Float64Array(n * n);
    let row = 0;
    for (const to of active) {
      const { controls, normals } = this.parts[to];
      for (let c = 0; c < controls.length; c += 3, row++) {
        let column = row * n;
        for (const from of active) {
          const field = this.fields[from];
          const own = this.joined(from, to);
          const { vx, vy, vz } = field;
          for (const seen of this.seen(from, sign)) {
            const [x, z] = seen.ground
              ? reflect(seen.ground, controls[c], controls[c + 2])
              : [controls[c], controls[c + 2]];
            const [nx, nz] = seen.ground
              ? reflect(seen.ground, normals[c], normals[c + 2], true)
              : [normals[c], normals[c + 2]];
            const [side, weight] = [seen.side, seen.weight];
            field.at(x, side * controls[c + 1], z, own);
            for (let k = 0; k < vx.length; k++)
              a[column + k] += weight * (nx * vx[k] + side * normals[c + 1] * vy[k] + nz * vz[k]);
          }
          column += vx.length;
        }
      }
    }
    return factorise(a, n);
  }

  induced(active: number[], sign: number, to: number, points: Float64Array, sets: Float64Array[]): Float64Array[] {
    const out = sets.map(() => new Float64Array(points.length));
    for (const from of active) {
      const field = this.fields[from];
      const own = this.joined(from, to);
      const offset = this.offsets[from];
      for (let c = 0; c < points.length; c += 3) {
        for (const { side, weight, ground } of this.seen(from, sign)) {
          const [x, z] = ground ? reflect(ground, points[c], points[c + 2]) : [points[c], points[c + 2]];
          field.at(x, side * points[c + 1], z, own);
          sets.forEach((gamma, s) => {
            let [u, v, w] = [0, 0, 0];
            for (let k = 0; k < field.vx.length; k++) {
              const g = weight * gamma[offset + k];
              u += g * field.vx[k];
              v += g * field.vy[k];
              w += g * field.vz[k];
            }
            if (ground) [u, w] = reflect(ground, u, w, true);
            out[s][c] += u;
            out[s][c + 1] += side * v;
            out[s][c + 2] += w;
          });
        }
      }
    }
    return out;
  }
}

/** The same by the compiled kernels. */
export class KernelInfluence implements Influence {
  private readonly offsets: number[];
  private readonly joined: (a: number, b: number) => boolean;

  constructor(
    private readonly k: Kernels,
    private readonly parts: readonly SurfaceLattice[],
    private readonly wake: readonly [number, number, number],
  ) {
    this.offsets = partOffsets(parts);
    this.joined = joinedParts(parts);
  }

  private scratch(arena: Arena): number {
    return arena.room(Math.max(...this.parts.map((p) => 2 * (2 * 7 * (p.rows + 1) + 3 * sizeOf(p)))));
  }

  system(active: number[], sign: number): Factorisation {
    const arena = new Arena(this.k);
    const n = active.reduce((sum, p) => sum + sizeOf(this.parts[p]), 0);
    const lda = n + (n & 1);
    const geometry = active.map((p) => {
      const part = this.parts[p];
      return {
        part,
        index: p,
        corners: arena.put(part.corners),
        width: arena.put(part.width),
        controls: arena.put(part.controls),
        normals: arena.put(part.normals),
      };
    });
    const scratch = this.scratch(arena);
    const matrix = arena.room(n * lda);
    let row = 0;
    for (const to of geometry) {
      let column = 0;
      for (const from of geometry) {
        const { part } = from;
        this.k.assemble(
          from.corners,
          part.rows,
          part.strips,
          from.width,
          this.wake[0],
          this.wake[2],
          to.controls,
          to.normals,
          sizeOf(to.part),
          this.joined(from.index, to.index) ? 1 : 0,
          part.mirrored ? sign : 0,
          matrix + 8 * (row * lda + column),
          lda,
          scratch,
        );
        column += sizeOf(part);
      }
      row += sizeOf(to.part);
    }
    return factoriseInPlace(this.k, arena, matrix, n, lda);
  }

  induced(active: number[], sign: number, to: number, points: Float64Array, sets: Float64Array[]): Float64Array[] {
    const arena = new Arena(this.k);
    const at = arena.put(points);
    const scratch = this.scratch(arena);
    const result = arena.put(new Float64Array(points.length * sets.length));
    for (const from of active) {
      const part = this.parts[from];
      const gammas = arena.room(sizeOf(part) * sets.length);
      const corners = arena.put(part.corners);
      const width = arena.put(part.width);
      const view = arena.doubles(gammas, sizeOf(part) * sets.length);
      sets.forEach((g, s) =>
        view.set(g.subarray(this.offsets[from], this.offsets[from] + sizeOf(part)), s * sizeOf(part)),
      );
      this.k.induce(
        corners,
        part.rows,
        part.strips,
        width,
        this.wake[0],
        this.wake[2],
        at,
        points.length / 3,
        this.joined(from, to) ? 1 : 0,
        part.mirrored ? sign : 0,
        gammas,
        sets.length,
        result,
        scratch,
      );
    }
    return sets.map((_, s) => arena.doubles(result + 8 * s * points.length, points.length).slice());
  }
}

/** The kernels where they can run, else the reference. */
export function makeInfluence(parts: readonly SurfaceLattice[], wake: readonly [number, number, number]): Influence {
  const k = kernels();
  return k ? new KernelInfluence(k, parts, wake) : new ReferenceInfluence(parts, wake);
}
