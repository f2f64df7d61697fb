import * as THREE from 'three';
import type { LiftingSurface, SectionLookup } from '@veldtwind/core/airframe';
import { buildLattice, keptMeanLine } from '@veldtwind/core/lift';

/** How surfaces of parts are drawn. */
export type Skin = 'smooth' | 'outlined' | 'see-through';
/** How one part is drawn, instead of as all are. */
export type PartStyle = Skin | 'hidden';

/** Lines from point to point, two points each. @param onTop drawn over what lies before them. */
export function lineSegments(
  points: number[],
  colour: THREE.Color,
  opacity: number,
  onTop = false,
): THREE.LineSegments {
  const g = new THREE.BufferGeometry();
  g.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
  const made = new THREE.LineSegments(
    g,
    new THREE.LineBasicMaterial({ color: colour, transparent: true, opacity, depthTest: !onTop }),
  );
  if (onTop) made.renderOrder = 3;
  return made;
}

/** The stretches of a line, each by its two ends. */
export function segmentsOf(points: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 3; i < points.length; i += 3) out.push(...points.slice(i - 3, i + 3));
  return out;
}

/** A ribbon between two lines of as many points, seen through. */
export function ribbonOf(foot: readonly number[], edge: readonly number[], colour: THREE.Color): THREE.Mesh {
  const place: number[] = [];
  for (let i = 3; i < foot.length; i += 3) {
    const [a, b] = [foot.slice(i - 3, i), foot.slice(i, i + 3)];
    const [c, d] = [edge.slice(i - 3, i), edge.slice(i, i + 3)];
    place.push(...a, ...b, ...d, ...a, ...d, ...c);
  }
  const g = new THREE.BufferGeometry();
  g.setAttribute('position', new THREE.Float32BufferAttribute(place, 3));
  const look = { color: colour, transparent: true, opacity: 0.28, side: THREE.DoubleSide, depthWrite: false };
  return new THREE.Mesh(g, new THREE.MeshBasicMaterial(look));
}

/** How a part is drawn. */
export interface PartLook {
  /** Its part of the document. */ id: string;
  colour: THREE.Color;
  ink: THREE.Color;
  /** Of the candidate that is worked on; others are drawn by their lines alone, so that it is seen through them. */
  active: boolean;
  mode: Skin;
  /** Rings that stand at stations. */ stations: ReadonlySet<number>;
  /** Lines of all stations, or of the ends alone. */ sections: boolean;
  /** Rings that close: of a body. */ closed: boolean;
}

/** Skin between rings, end caps, and ink lines along edges and ribs. */
export function loft(rings: Float64Array[], look: PartLook): THREE.Object3D[] {
  const { mode } = look;
  const n = rings[0].length / 3;
  const position: number[] = [];
  const index: number[] = [];
  rings.forEach((r) => position.push(...r));
  for (let k = 0; k + 1 < rings.length; k++) {
    for (let i = 0; i + 1 < n; i++) {
      const a = k * n + i;
      index.push(a, a + n, a + 1, a + 1, a + n, a + n + 1);
    }
  }
  for (const k of [0, rings.length - 1])
    for (let i = 0; i + 1 < n / 2; i++)
      index.push(k * n + i, k * n + i + 1, k * n + n - 1 - i, k * n + i + 1, k * n + n - 2 - i, k * n + n - 1 - i);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(position, 3));
  geometry.setIndex(index);
  geometry.computeVertexNormals();
  const skin = new THREE.Mesh(
    geometry,
    new THREE.MeshLambertMaterial({
      color: look.colour,
      side: THREE.DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
      ...(mode === 'see-through' ? { transparent: true, opacity: 0.22, depthWrite: false } : {}),
    }),
  );
  skin.castShadow = mode !== 'see-through';
  skin.userData.part = look.id;
  const lines: number[] = [];
  const seg = (a: Float64Array, i: number, b: Float64Array, j: number) =>
    lines.push(a[3 * i], a[3 * i + 1], a[3 * i + 2], b[3 * j], b[3 * j + 1], b[3 * j + 2]);
  rings.forEach((r, k) => {
    if (look.stations.has(k) && (k === 0 || k === rings.length - 1 || look.sections))
      for (let i = 0; i + 1 < n; i++) seg(r, i, r, i + 1);
    if (k + 1 < rings.length)
      for (const i of look.closed ? [0, (n - 1) / 4, (n - 1) / 2, (3 * (n - 1)) / 4] : [0, (n - 1) / 2, n - 1])
        seg(r, i, rings[k + 1], i);
  });
  const outline = lineSegments(lines, look.ink, 0.8);
  return look.active ? (mode === 'smooth' ? [skin] : [skin, outline]) : [outline];
}

/** The panels of the lattice that Lift computes with: the lines between their corners, x, y, z from end to end. @throws InvalidInput where it cannot be cut. */
export function panelLines(surfaces: readonly LiftingSurface[], lookup: SectionLookup): number[] {
  const cut = buildLattice(surfaces, (key) => keptMeanLine(lookup(key)));
  const lines: number[] = [];
  for (const p of cut.parts) {
    const stride = 3 * (p.rows + 1);
    const seg = (a: number, b: number) => {
      const k = p.corners;
      lines.push(k[a], k[a + 1], k[a + 2], k[b], k[b + 1], k[b + 2]);
      if (p.mirrored) lines.push(k[a], -k[a + 1], k[a + 2], k[b], -k[b + 1], k[b + 2]);
    };
    for (let e = 0; e <= p.strips; e++)
      for (let i = 0; i <= p.rows; i++) {
        if (i < p.rows) seg(e * stride + 3 * i, e * stride + 3 * i + 3);
        if (e < p.strips) seg(e * stride + 3 * i, (e + 1) * stride + 3 * i);
      }
  }
  return lines;
}
