import type { Panels } from './panel-geometry';

/** Beyond so many times its longest diagonal a panel is a point. */
const FAR = 4.5;

/** Solid angle of a triangle seen from a point, positive on the side that its normal looks to; corners relative to the point. */
function triangleAngle(
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  cx: number,
  cy: number,
  cz: number,
): number {
  const det = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  const a = Math.sqrt(ax * ax + ay * ay + az * az);
  const b = Math.sqrt(bx * bx + by * by + bz * bz);
  const c = Math.sqrt(cx * cx + cy * cy + cz * cz);
  const below =
    a * b * c +
    (ax * bx + ay * by + az * bz) * c +
    (bx * cx + by * cy + bz * cz) * a +
    (cx * ax + cy * ay + cz * az) * b;
  return -2 * Math.atan2(det, below);
}

/** Solid angle of a quadrilateral in space, cut along its first diagonal. @param c 12 numbers from `at` on. @source IEEE Trans. Biomed. Eng. 30(2), 1983, 125–126. */
export function solidAngle(c: Float64Array, at: number, x: number, y: number, z: number): number {
  const ax = c[at] - x;
  const ay = c[at + 1] - y;
  const az = c[at + 2] - z;
  const cx = c[at + 6] - x;
  const cy = c[at + 7] - y;
  const cz = c[at + 8] - z;
  return (
    triangleAngle(ax, ay, az, c[at + 3] - x, c[at + 4] - y, c[at + 5] - z, cx, cy, cz) +
    triangleAngle(ax, ay, az, cx, cy, cz, c[at + 9] - x, c[at + 10] - y, c[at + 11] - z)
  );
}

/** The same, cut along the other diagonal. */
function solidAngleAcross(c: Float64Array, at: number, x: number, y: number, z: number): number {
  const bx = c[at + 3] - x;
  const by = c[at + 4] - y;
  const bz = c[at + 5] - z;
  const dx = c[at + 9] - x;
  const dy = c[at + 10] - y;
  const dz = c[at + 11] - z;
  return (
    triangleAngle(bx, by, bz, c[at + 6] - x, c[at + 7] - y, c[at + 8] - z, dx, dy, dz) +
    triangleAngle(bx, by, bz, dx, dy, dz, c[at] - x, c[at + 1] - y, c[at + 2] - z)
  );
}

/**
 * Solid angle Ω of a panel and ∫ dS / r over it, from a point: what doublets and sources of unit strength do there, times 4π.
 * @param out [Ω, ∫ dS / r]. @param own whether the point is the panel's own centre, seen from inside.
 * @source Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, §10.4; solid angles by triangles.
 */
export function panelInfluence(
  p: Panels,
  k: number,
  x: number,
  y: number,
  z: number,
  own: boolean,
  out: Float64Array,
): void {
  const { corners: c, centre, normal } = p;
  const at = 12 * k;
  const n = 3 * k;
  const dx = x - centre[n];
  const dy = y - centre[n + 1];
  const dz = z - centre[n + 2];
  const nx = normal[n];
  const ny = normal[n + 1];
  const nz = normal[n + 2];
  const height = dx * nx + dy * ny + dz * nz;
  const r2 = dx * dx + dy * dy + dz * dz;
  const size = FAR * p.size[k];
  if (r2 > size * size) {
    const r = Math.sqrt(r2);
    out[1] = p.area[k] / r;
    out[0] = (p.area[k] * height) / (r2 * r);
    return;
  }
  let angle = -2 * Math.PI;
  if (!own) {
    angle = solidAngle(c, at, x, y, z);
    // Either diagonal alone would set a thin skin’s faces nearer to each other or farther apart than they are.
    if (p.warped[k]) angle = 0.5 * (angle + solidAngleAcross(c, at, x, y, z));
  }
  out[0] = angle;
  // In the panel's mean plane: each edge by its distance from the foot of the point.
  let sum = 0;
  for (let e = 0; e < 4; e++) {
    const a = at + 3 * e;
    const b = e === 3 ? at : a + 3;
    const px = c[a] - x;
    const py = c[a + 1] - y;
    const pz = c[a + 2] - z;
    const qx = c[b] - x;
    const qy = c[b + 1] - y;
    const qz = c[b + 2] - z;
    const ex = qx - px;
    const ey = qy - py;
    const ez = qz - pz;
    const length = Math.sqrt(ex * ex + ey * ey + ez * ez);
    if (length < 1e-12) continue;
    // n · (p × e) / |e|: the distance of the foot from the edge, positive inside.
    const cross = nx * (py * ez - pz * ey) + ny * (pz * ex - px * ez) + nz * (px * ey - py * ex);
    const ra = Math.sqrt(px * px + py * py + pz * pz);
    const rb = Math.sqrt(qx * qx + qy * qy + qz * qz);
    sum += (cross / length) * Math.log((ra + rb + length) / Math.max(1e-300, ra + rb - length));
  }
  const h = own ? 0 : height;
  out[1] = sum - h * angle;
}
