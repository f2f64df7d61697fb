import type { PanelMesh } from './panel-mesh';

/** Panels as flat lists; corners in anticlockwise order seen from outside. */
export interface Panels {
  count: number;
  /** 12 numbers a panel. */ corners: Float64Array;
  /** 3 numbers a panel. */ centre: Float64Array;
  normal: Float64Array;
  area: Float64Array;
  /** Longest diagonal. */ size: Float64Array;
  /** 1 where the corners do not lie in a plane: it is the mean of what either diagonal makes of it. */ warped: Uint8Array;
}

/** Corners off the mean plane by less than this share of a panel's size are in it. */
const FLAT = 1e-9;

/** Flat lists of all panels of a mesh, patch by patch, i fastest. */
export function panelsOf(mesh: PanelMesh): Panels {
  const n = mesh.panels;
  const p: Panels = {
    count: n,
    corners: new Float64Array(12 * n),
    centre: new Float64Array(3 * n),
    normal: new Float64Array(3 * n),
    area: new Float64Array(n),
    size: new Float64Array(n),
    warped: new Uint8Array(n),
  };
  let k = 0;
  for (const { ni, nj, nodes, out } of mesh.patches)
    for (let j = 0; j < nj; j++)
      for (let i = 0; i < ni; i++, k++) {
        const at = (a: number, b: number) => 3 * (b * (ni + 1) + a);
        const order = [at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)];
        if (out < 0) order.reverse();
        order.forEach((from, c) => {
          for (let d = 0; d < 3; d++) p.corners[12 * k + 3 * c + d] = nodes[from + d];
        });
        measure(p, k);
      }
  return p;
}

/** Panels of given corners, 12 numbers each. @param by their x is multiplied. */
export function measured(corners: Float64Array, by = 1): Panels {
  const n = corners.length / 12;
  const p: Panels = {
    count: n,
    corners: by === 1 ? corners : corners.map((v, k) => (k % 3 === 0 ? v * by : v)),
    centre: new Float64Array(3 * n),
    normal: new Float64Array(3 * n),
    area: new Float64Array(n),
    size: new Float64Array(n),
    warped: new Uint8Array(n),
  };
  for (let k = 0; k < n; k++) measure(p, k);
  return p;
}

function measure(p: Panels, k: number): void {
  const c = p.corners.subarray(12 * k, 12 * k + 12);
  const [ux, uy, uz] = [c[6] - c[0], c[7] - c[1], c[8] - c[2]];
  const [vx, vy, vz] = [c[9] - c[3], c[10] - c[4], c[11] - c[5]];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const norm = Math.hypot(nx, ny, nz);
  p.area[k] = 0.5 * norm;
  p.size[k] = Math.max(Math.hypot(ux, uy, uz), Math.hypot(vx, vy, vz));
  const apart = ux === 0 && uy === 0 && uz === 0 ? 0 : (c[3] - c[0]) * nx + (c[4] - c[1]) * ny + (c[5] - c[2]) * nz;
  p.warped[k] = Math.abs(apart) > FLAT * p.size[k] * norm ? 1 : 0;
  // A triangle has a corner twice: its centre is that of its area all the same.
  const [w1, w2] = [triangle(c, 0, 3, 6), triangle(c, 0, 6, 9)];
  const [w3, w4] = [triangle(c, 3, 6, 9), triangle(c, 3, 9, 0)];
  const [sum, other] = [w1 + w2 || 1, w3 + w4 || 1];
  for (let d = 0; d < 3; d++) {
    p.normal[3 * k + d] = norm > 0 ? [nx, ny, nz][d] / norm : 0;
    p.centre[3 * k + d] =
      (w1 * (c[d] + c[3 + d] + c[6 + d]) + w2 * (c[d] + c[6 + d] + c[9 + d])) / (6 * sum) +
      (w3 * (c[3 + d] + c[6 + d] + c[9 + d]) + w4 * (c[3 + d] + c[9 + d] + c[d])) / (6 * other);
  }
}

function triangle(c: Float64Array, a: number, b: number, d: number): number {
  const [ux, uy, uz] = [c[b] - c[a], c[b + 1] - c[a + 1], c[b + 2] - c[a + 2]];
  const [vx, vy, vz] = [c[d] - c[a], c[d + 1] - c[a + 1], c[d + 2] - c[a + 2]];
  return 0.5 * Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
}
