import { bodyRings, skinRings, type Body, type LiftingSurface } from '@veldtwind/core/airframe';
import { SurfaceSpline } from '@veldtwind/core/section';
import { sourceOutline, type SectionSource } from '@veldtwind/core/shaping';

/** Points along each surface of a section for drawing, from trailing edge to nose. */
const HALF = 22;

const loops = new Map<string, Float64Array>();

/** A section's loop as 2·HALF + 1 points (x, y pairs) at the same shares of each surface, so that any two can be joined. */
export function drawnLoop(source: SectionSource): Float64Array {
  const key = JSON.stringify(source);
  let loop = loops.get(key);
  if (!loop) {
    const spline = new SurfaceSpline(sourceOutline(source, 121));
    loop = new Float64Array(2 * (2 * HALF + 1));
    for (let i = 0; i <= 2 * HALF; i++) {
      const u = i <= HALF ? i / HALF : (i - HALF) / HALF;
      const share = i <= HALF ? Math.sin((u * Math.PI) / 2) : 1 - Math.cos((u * Math.PI) / 2);
      const s = i <= HALF ? spline.nose * share : spline.nose + (spline.length - spline.nose) * share;
      loop[2 * i] = spline.x(s);
      loop[2 * i + 1] = spline.y(s);
    }
    if (loops.size > 300) loops.clear();
    loops.set(key, loop);
  }
  return loop;
}

/** Slices that a bay whose edges flow is drawn in. */
const SLICES = 12;

/** One side of a surface as rings of points in the airframe's axes (x aft, y right, z up), with which of them stand at its stations. */
export function surfaceRings(
  surface: LiftingSurface,
  lookup: (key: string) => SectionSource,
): { rings: Float64Array[]; stations: Set<number> } {
  const drawn = (key: string) => {
    const loop = drawnLoop(lookup(key));
    return Array.from({ length: loop.length / 2 }, (_, i): [number, number] => [loop[2 * i], loop[2 * i + 1]]);
  };
  const rings = skinRings(surface, lookup, drawn, SLICES);
  return {
    rings: rings.map((r) => Float64Array.from(r.points.flatMap((p) => [p.x, p.y, p.z]))),
    stations: new Set(rings.flatMap((r, k) => (r.station === null ? [] : [k]))),
  };
}

/** Every so many of a body's rings, and of their points, is drawn. */
const RINGS_SKIPPED = 4;
const POINTS_SKIPPED = 6;

/** A body as closed rings, nose to tail (its own side), with which of them stand at its stations. */
export function drawnBody(body: Body): { rings: Float64Array[]; stations: Set<number> } {
  const all = bodyRings(body);
  const slices = (all.length - 1) / (body.stations.length - 1);
  const kept = all.map((_, i) => i).filter((i) => i % RINGS_SKIPPED === 0 || i === all.length - 1);
  const rings = kept.map((i) => {
    const ring = all[i].filter((_, k) => k % POINTS_SKIPPED === 0);
    return Float64Array.from([...ring, ring[0]].flatMap((p) => [p.x, p.y, p.z]));
  });
  const stations = new Set(kept.flatMap((i, k) => (i % slices === 0 ? [k] : [])));
  return { rings, stations };
}
