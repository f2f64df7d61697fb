import type { Point3 } from '../airframe';
import type { Lattice } from './lattice';
import type { StripLoad } from './loads';
import type { RightSide } from './streams';

/** What a unit of a right-hand side comes to. */
export interface Response {
  /** Circulation of every horseshoe. */
  gamma: Float64Array;
  /** Velocity that they cause at the middle of every bound vortex. */
  u: Float64Array;
  v: Float64Array;
  w: Float64Array;
}

/** A response and how much of it there is. */
export interface Share {
  basis: RightSide;
  weight: number;
  response: Response;
}

/** Forces and moments in geometry axes (aft, right, up), over density and speed squared; m². m³. */
export interface Totals {
  fx: number;
  fy: number;
  fz: number;
  mx: number;
  my: number;
  mz: number;
}

/**
 * Forces on the bound vortices of one side by the theorem of lift, V × Γ at the middle of each, and on the legs that lie on the surface, where the
 * stream alone is used, which is first order.
 * @param side 1 for the right one, −1 for its mirror image. @param doubled both sides at once, for symmetric flow.
 * @param totals added to. @param strips appended to.
 * @source Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, §12.1 and §13.10.
 */
export function addNearField(
  lattice: Lattice,
  offsets: readonly number[],
  about: Point3,
  shares: readonly Share[],
  side: 1 | -1,
  doubled: boolean,
  totals: Totals,
  strips: StripLoad[],
): void {
  const stream = new Float64Array(3);
  // Odd streams change sign on the left side of a symmetric lattice.
  const responses = shares.map((s) => ({ ...s, sign: side < 0 && s.basis.symmetry === 'odd' ? -1 : 1 }));
  lattice.parts.forEach((part, p) => {
    if (side < 0 && !part.mirrored) return;
    const twice = doubled && part.mirrored;
    const stride = 3 * (part.rows + 1);
    const add = (px: number, py: number, pz: number, ux: number, uy: number, uz: number) => {
      const [fx, fy, fz] = [part.pressure * ux, part.pressure * uy, part.pressure * uz];
      const rx = px - about.x;
      const ry = py - about.y;
      const rz = pz - about.z;
      const m = twice ? 2 : 1;
      totals.fx += m * fx;
      totals.fz += m * fz;
      totals.my += m * (rz * fx - rx * fz);
      if (!twice) {
        totals.fy += fy;
        totals.mx += ry * fz - rz * fy;
        totals.mz += rx * fy - ry * fx;
      }
    };
    const cumulative = new Float64Array((part.strips + 2) * part.rows);
    for (let s = 0; s < part.strips; s++) {
      let circulation = 0;
      for (let i = 0; i < part.rows; i++) {
        const at = offsets[p] + s * part.rows + i;
        const a = s * stride + 3 * i;
        const b = a + stride;
        const px = 0.5 * (part.corners[a] + part.corners[b]);
        const py = side * 0.5 * (part.corners[a + 1] + part.corners[b + 1]);
        const pz = 0.5 * (part.corners[a + 2] + part.corners[b + 2]);
        const lx = side * (part.corners[b] - part.corners[a]);
        const ly = part.corners[b + 1] - part.corners[a + 1];
        const lz = side * (part.corners[b + 2] - part.corners[a + 2]);
        let g = 0;
        let vx = 0;
        let vy = 0;
        let vz = 0;
        for (const { basis, weight, sign, response: r } of responses) {
          stream.fill(0);
          basis.velocity?.(px, py, pz, stream);
          const k = weight * sign;
          g += k * r.gamma[at];
          vx += weight * stream[0] + k * r.u[at];
          vy += weight * stream[1] + side * k * r.v[at];
          vz += weight * stream[2] + k * r.w[at];
        }
        circulation += g;
        cumulative[(s + 1) * part.rows + i] = circulation;
        add(px, py, pz, g * (vy * lz - vz * ly), g * (vz * lx - vx * lz), g * (vx * ly - vy * lx));
      }
      strips.push({
        surface: part.surface,
        id: part.id,
        station: side * part.station[s],
        y: side * part.middleY[s],
        z: part.middleZ[s],
        chord: part.chord[s],
        width: part.width[s],
        circulation,
        cl: (2 * circulation) / part.chord[s],
        inducedAngle: 0,
      });
    }
    // Legs on the surface: the circulation of two neighbouring strips differs there. The stream alone is used, which is first order.
    for (let e = 0; e <= part.strips; e++) {
      for (let i = 0; i < part.rows; i++) {
        const g = side * (cumulative[e * part.rows + i] - cumulative[(e + 1) * part.rows + i]);
        if (g === 0) continue;
        const a = e * stride + 3 * i;
        const px = 0.5 * (part.corners[a] + part.corners[a + 3]);
        const py = side * 0.5 * (part.corners[a + 1] + part.corners[a + 4]);
        const pz = 0.5 * (part.corners[a + 2] + part.corners[a + 5]);
        const lx = part.corners[a + 3] - part.corners[a];
        const ly = side * (part.corners[a + 4] - part.corners[a + 1]);
        const lz = part.corners[a + 5] - part.corners[a + 2];
        let vx = 0;
        let vy = 0;
        let vz = 0;
        for (const { basis, weight } of responses) {
          stream.fill(0);
          basis.velocity?.(px, py, pz, stream);
          vx += weight * stream[0];
          vy += weight * stream[1];
          vz += weight * stream[2];
        }
        add(px, py, pz, g * (vy * lz - vz * ly), g * (vz * lx - vx * lz), g * (vx * ly - vy * lx));
      }
    }
  });
}
