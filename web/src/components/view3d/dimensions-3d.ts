import * as THREE from 'three';
import { placeStations, referenceSurface, type LiftingSurface } from '@veldtwind/core/airframe';
import type { CandidatePart } from '@veldtwind/core/project';

/** Lines of the overall span and length as on a drawing, with the places of their numbers. @param size span of the aircraft, m. */
export function overallDimensions(
  c: Pick<CandidatePart, 'surfaces' | 'bodies'>,
  size: number,
): {
  lines: number[];
  span: { at: THREE.Vector3; value: number };
  length: { at: THREE.Vector3; value: number };
} {
  const wing = placeStations(referenceSurface(c.surfaces));
  const tip = wing[wing.length - 1];
  const half = tip.offset;
  const x = Math.min(...wing.map((p) => p.leadingEdge.x)) - 0.06 * size;
  const z = tip.leadingEdge.z;
  const all = c.surfaces.flatMap((s) => placeStations(s));
  const nose = Math.min(...all.map((p) => p.leadingEdge.x), ...c.bodies.map((b) => b.position.x + b.stations[0].x));
  const tail = Math.max(
    ...all.map((p) => p.leadingEdge.x + p.chord),
    ...c.bodies.map((b) => b.position.x + b.stations[b.stations.length - 1].x),
  );
  const side = half + 0.05 * size;
  const floor = Math.min(...all.map((p) => p.leadingEdge.z));
  const tick = (y: number) => [x - 0.02 * size, y, z, x + 0.05 * size, y, z];
  const end = (at: number) => [at, -side - 0.02 * size, floor, at, -side + 0.03 * size, floor];
  return {
    lines: [
      ...[x, -half, z, x, half, z],
      ...tick(half),
      ...tick(-half),
      ...[nose, -side, floor, tail, -side, floor],
      ...end(nose),
      ...end(tail),
    ],
    span: { at: new THREE.Vector3(x, half * 0.3, z), value: 2 * half },
    length: { at: new THREE.Vector3(nose + 0.55 * (tail - nose), -side, floor), value: tail - nose },
  };
}

/** Frames around a surface, and its mirror image, at a share of its half span: corners of each. */
export function stationFrames(wing: LiftingSurface, share: number): THREE.Vector3[][] {
  const placed = placeStations(wing);
  const at = Math.abs(share) * placed[placed.length - 1].offset;
  const k = Math.max(0, placed.findIndex((p) => p.offset >= at) - 1);
  const [a, b] = [placed[k], placed[Math.min(placed.length - 1, k + 1)]];
  const u = b.offset > a.offset ? (at - a.offset) / (b.offset - a.offset) : 0;
  const mix = (p: number, q: number) => p + u * (q - p);
  const chord = mix(a.chord, b.chord);
  const x = mix(a.leadingEdge.x, b.leadingEdge.x);
  const y = mix(a.leadingEdge.y, b.leadingEdge.y);
  const z = mix(a.leadingEdge.z, b.leadingEdge.z);
  const h = 0.16 * chord + 0.01;
  return (wing.mirrored ? [1, -1] : [1]).map((side) =>
    [
      [x - 0.03, z - h],
      [x + chord + 0.03, z - h],
      [x + chord + 0.03, z + h],
      [x - 0.03, z + h],
    ].map(([px, pz]) => new THREE.Vector3(px, side * y, pz)),
  );
}
