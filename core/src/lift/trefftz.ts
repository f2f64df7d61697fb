import type { Lattice, SurfaceLattice } from './lattice';
import type { StripLoad } from './loads';

/** A strip of the wake as it is seen from far behind: a line from a to b with its circulation. */
interface Trace {
  ya: number;
  za: number;
  yb: number;
  zb: number;
  circulation: number;
  /** Where on it the strip's middle lies, from a. */
  share: number;
  mirrored: boolean;
}

/**
 * Induced drag from the wake far behind; fills in every strip's induced angle.
 * @param strips of the right sides in the lattice's order, then of the left ones where both are explicit. @param doubled both sides at once.
 * @param tilt angle of the wake above the body's x axis, rad. @param ground height of the ground as the wake's heights are measured, m; none without.
 * @returns drag over density and speed squared, m².
 * @source NACA TR-121, 1921.
 */
export function trefftzDrag(
  lattice: Lattice,
  strips: readonly StripLoad[],
  doubled: boolean,
  tilt: number,
  ground?: number,
): number {
  const own = wakeTraces(lattice, strips, doubled, tilt);
  const images =
    ground === undefined
      ? []
      : own.map((t) => ({ ...t, za: 2 * ground - t.za, zb: 2 * ground - t.zb, circulation: -t.circulation }));
  const traces = [...own, ...images];
  let drag = 0;
  strips.forEach((strip, i) => {
    const t = traces[i];
    const y = (1 - t.share) * t.ya + t.share * t.yb;
    const z = (1 - t.share) * t.za + t.share * t.zb;
    const width = Math.hypot(t.yb - t.ya, t.zb - t.za);
    const ny = -(t.zb - t.za) / width;
    const nz = (t.yb - t.ya) / width;
    let normal = 0;
    for (const o of traces) {
      if (o.circulation === 0) continue;
      normal += o.circulation * (threadVelocity(y, z, o.yb, o.zb, ny, nz) - threadVelocity(y, z, o.ya, o.za, ny, nz));
    }
    strip.inducedAngle = -0.5 * normal;
    drag += -0.5 * strip.circulation * normal * width * (doubled && t.mirrored ? 2 : 1);
  });
  return drag;
}

function wakeTraces(lattice: Lattice, strips: readonly StripLoad[], doubled: boolean, tilt: number): Trace[] {
  const traces: Trace[] = [];
  let k = 0;
  const pushPart = (part: SurfaceLattice, side: number) => {
    const stride = 3 * (part.rows + 1);
    for (let s = 0; s < part.strips; s++, k++) {
      const a = s * stride + 3 * part.rows;
      const b = a + stride;
      const height = (c: number) => part.corners[c + 2] * Math.cos(tilt) - part.corners[c] * Math.sin(tilt);
      const right = { y: part.corners[b + 1], z: height(b) };
      const left = { y: part.corners[a + 1], z: height(a) };
      // A left side is its right side seen in the mirror: the ends change places.
      const [from, to] =
        side > 0
          ? [left, right]
          : [
              { y: -right.y, z: right.z },
              { y: -left.y, z: left.z },
            ];
      traces.push({
        ya: from.y,
        za: from.z,
        yb: to.y,
        zb: to.z,
        circulation: strips[k].circulation,
        share: side > 0 ? part.share[s] : 1 - part.share[s],
        mirrored: part.mirrored,
      });
    }
  };
  for (const part of lattice.parts) pushPart(part, 1);
  if (!doubled && lattice.symmetry === 'half')
    for (const part of lattice.parts) if (part.mirrored && k < strips.length) pushPart(part, -1);
  if (doubled) {
    const images = traces
      .filter((t) => t.mirrored)
      .map((t) => ({
        ya: -t.yb,
        za: t.zb,
        yb: -t.ya,
        zb: t.za,
        circulation: t.circulation,
        share: 1 - t.share,
        mirrored: true,
      }));
    return [...traces, ...images];
  }
  return traces;
}

/** Velocity along (ny, nz) at (y, z) from a straight thread along x through (ty, tz), unit circulation about +x. */
function threadVelocity(y: number, z: number, ty: number, tz: number, ny: number, nz: number): number {
  const dy = y - ty;
  const dz = z - tz;
  const d2 = dy * dy + dz * dz;
  if (d2 < 1e-16) return 0;
  return (-dz * ny + dy * nz) / (2 * Math.PI * d2);
}
