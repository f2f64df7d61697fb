import type { SurfaceLattice } from './lattice';

/**
 * Square of the distance from a vortex, over its length, within which a point lies on it and nothing is induced. The middle of a bound vortex lies on it but
 * for rounding, whatever the size of the aircraft.
 */
const ON_LINE = 1e-12;

/**
 * Velocities that the horseshoe vortices of a part cause at a point, for unit circulation each.
 *
 * Straight vortex from A to B, with r₁ = P − A and r₂ = P − B:
 *   V = Γ/4π · (r₁ × r₂)(|r₁| + |r₂|) / (|r₁||r₂| (|r₁||r₂| + r₁·r₂))
 * Half-infinite vortex from A along the unit vector d:
 *   V = Γ/4π · (d × r) / (|r| (|r| − d·r))
 * Legs of one edge are summed from the wake forward, so every segment is evaluated once and not once per horseshoe.
 * @source Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, §10.4 and §12.1, in the form without trigonometric functions.
 */
export class HorseshoeField {
  /** Velocity components for each horseshoe of the part (strip-major, row inside). */
  readonly vx: Float64Array;
  readonly vy: Float64Array;
  readonly vz: Float64Array;
  private readonly rx: Float64Array;
  private readonly ry: Float64Array;
  private readonly rz: Float64Array;
  private readonly r: Float64Array;
  /** Sum of the legs of an edge from row i aft, for the last edge and for this one. */
  private left: Float64Array;
  private right: Float64Array;

  constructor(
    readonly part: SurfaceLattice,
    /** Unit vector of the wake. */
    readonly wake: readonly [number, number, number],
  ) {
    const n = part.rows * part.strips;
    this.vx = new Float64Array(n);
    this.vy = new Float64Array(n);
    this.vz = new Float64Array(n);
    const corners = part.corners.length / 3;
    this.rx = new Float64Array(corners);
    this.ry = new Float64Array(corners);
    this.rz = new Float64Array(corners);
    this.r = new Float64Array(corners);
    this.left = new Float64Array(3 * (part.rows + 1));
    this.right = new Float64Array(3 * (part.rows + 1));
  }

  /**
   * Evaluates the field at a point into vx, vy, vz.
   * @param ownSurface whether the point lies on this part's own surface, or on one that shares an edge with it. On another surface the wake's legs get a core of half their
   *   strip's width, so that a tail in the wing's wake sees a sheet and not single threads.
   */
  at(px: number, py: number, pz: number, ownSurface: boolean): void {
    const { part, rx, ry, rz, r } = this;
    const { rows, strips, corners, width } = part;
    const [dx, dy, dz] = this.wake;
    const stride = rows + 1;
    const count = r.length;
    for (let k = 0, c = 0; k < count; k++, c += 3) {
      const x = px - corners[c];
      const y = py - corners[c + 1];
      const z = pz - corners[c + 2];
      rx[k] = x;
      ry[k] = y;
      rz[k] = z;
      r[k] = Math.sqrt(x * x + y * y + z * z);
    }
    const K = 0.25 / Math.PI;
    for (let e = 0; e <= strips; e++) {
      const legs = this.right;
      const base = e * stride;
      // Wake.
      let k = base + rows;
      let wx = dy * rz[k] - dz * ry[k];
      let wy = dz * rx[k] - dx * rz[k];
      let wz = dx * ry[k] - dy * rx[k];
      const along = dx * rx[k] + dy * ry[k] + dz * rz[k];
      let core = 0;
      if (!ownSurface) {
        const w = e === 0 ? width[0] : e === strips ? width[strips - 1] : Math.max(width[e - 1], width[e]);
        core = 0.25 * w * w;
      }
      const cross = wx * wx + wy * wy + wz * wz;
      // (|r| − d·r)·|r| = |d × r|² · |r| / (|r| + d·r), safe on both sides of the start.
      const factor = cross + core > 1e-24 ? (K * (1 + along / Math.max(r[k], 1e-12))) / (cross + core) : 0;
      let sx = wx * factor;
      let sy = wy * factor;
      let sz = wz * factor;
      legs[3 * rows] = sx;
      legs[3 * rows + 1] = sy;
      legs[3 * rows + 2] = sz;
      for (let i = rows - 1; i >= 0; i--) {
        k = base + i;
        const m = k + 1;
        wx = ry[k] * rz[m] - rz[k] * ry[m];
        wy = rz[k] * rx[m] - rx[k] * rz[m];
        wz = rx[k] * ry[m] - ry[k] * rx[m];
        const rr = r[k] * r[m];
        const dot = rx[k] * rx[m] + ry[k] * ry[m] + rz[k] * rz[m];
        const below = rr * (rr + dot);
        const f = below > ON_LINE * rr * rr ? (K * (r[k] + r[m])) / below : 0;
        sx += wx * f;
        sy += wy * f;
        sz += wz * f;
        legs[3 * i] = sx;
        legs[3 * i + 1] = sy;
        legs[3 * i + 2] = sz;
      }
      if (e > 0) {
        const before = this.left;
        const first = (e - 1) * rows;
        for (let i = 0; i < rows; i++) {
          // Bound vortex from the left edge to the right one; the circuit runs up the left leg, across, and down the right leg.
          const a = (e - 1) * stride + i;
          const b = base + i;
          const bx = ry[a] * rz[b] - rz[a] * ry[b];
          const by = rz[a] * rx[b] - rx[a] * rz[b];
          const bz = rx[a] * ry[b] - ry[a] * rx[b];
          const rr = r[a] * r[b];
          const dot = rx[a] * rx[b] + ry[a] * ry[b] + rz[a] * rz[b];
          const below = rr * (rr + dot);
          const f = below > ON_LINE * rr * rr ? (K * (r[a] + r[b])) / below : 0;
          const at = first + i;
          this.vx[at] = bx * f + legs[3 * i] - before[3 * i];
          this.vy[at] = by * f + legs[3 * i + 1] - before[3 * i + 1];
          this.vz[at] = bz * f + legs[3 * i + 2] - before[3 * i + 2];
        }
      }
      const swap = this.left;
      this.left = this.right;
      this.right = swap;
    }
  }
}
