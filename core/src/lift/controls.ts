import type { Control, LiftingSurface } from '../airframe';
import { RAD } from '../numerics';
import { chordPlaces, type Lattice, type LatticeSpread, type SurfaceLattice } from './lattice';
import type { RightSide } from './streams';

/**
 * How much of a flap's turn the flow at each control point of a chord has to follow, such that the lift of a thin section comes out as it should wherever
 * its hinge lies between two of them: the turn is averaged over each point's share of the chord, with the weight that lift gives it.
 * @param hinge chord fraction. @source thin-section theory, NACA TR-142, 1922; the sums are those of J. Aircraft 11(9), 1974, 518–527.
 */
export function flapShares(rows: number, spacing: LatticeSpread['spacing'], hinge: number): number[] {
  const lift = (theta: number) => theta - Math.sin(theta);
  const at = Math.acos(Math.max(-1, Math.min(1, 1 - 2 * hinge)));
  if (rows === 1) return [(Math.PI - lift(at)) / Math.PI];
  if (spacing === 'uniform')
    return Array.from({ length: rows }, (_, i) => Math.min(1, Math.max(0, i + 1 - hinge * rows)));
  const { control } = chordPlaces(rows, spacing);
  const step = Math.PI / rows;
  return control.map((c, i) => {
    const from = (i + 0.5) * step;
    const to = Math.min(Math.PI, from + step);
    const part = lift(to) - lift(Math.max(from, Math.min(to, at)));
    const whole = (to - from) * 2 * c;
    return part / whole;
  });
}

/** Lift per rad of a thin section's flap. @param hinge chord fraction. @source NACA TR-142, 1922. */
export function thinFlapLift(hinge: number): number {
  const at = Math.acos(Math.max(-1, Math.min(1, 1 - 2 * hinge)));
  return 2 * (Math.PI - at + Math.sin(at));
}

/** Shares of each strip's width that lie between two shares of the half span in true length; from root to tip, or back on a left side. */
export function stripShares(part: SurfaceLattice, from: number, to: number): Float64Array {
  const { width, strips, station } = part;
  const total = width.reduce((a, b) => a + b, 0);
  const out = new Float64Array(strips);
  // An explicit left side is listed from its tip inward.
  const left = station[0] < 0;
  let end = 0;
  for (let k = 0; k < strips; k++) {
    const s = left ? strips - 1 - k : k;
    const start = end;
    end += width[s] / total;
    out[s] = Math.max(0, Math.min(end, to) - Math.max(start, from)) / (end - start);
  }
  return out;
}

/** Point of an edge of the lattice at a chord fraction. */
export function edgePoint(
  part: SurfaceLattice,
  bound: readonly number[],
  edge: number,
  c: number,
): [number, number, number] {
  const places = [...bound, 1];
  let i = 0;
  while (i < part.rows - 1 && places[i + 1] < c) i++;
  const t = (c - places[i]) / (places[i + 1] - places[i]);
  const at = 3 * (edge * (part.rows + 1) + i);
  const k = part.corners;
  return [0, 1, 2].map((d) => k[at + d] + t * (k[at + 3 + d] - k[at + d])) as [number, number, number];
}

/**
 * The right-hand sides of all controls of an airframe, per rad. A control turns the normals behind its hinge about the hinge line; it is linear in its
 * deflection.
 * @param lattice the true geometry, cut from these surfaces.
 */
export function controlSides(
  surfaces: readonly LiftingSurface[],
  lattice: Lattice,
  spacing: LatticeSpread['spacing'],
): RightSide[] {
  return surfaces.flatMap((surface, index) =>
    (surface.controls ?? []).map((control) => sideOf(surface, index, control, lattice, spacing)),
  );
}

function sideOf(
  surface: LiftingSurface,
  index: number,
  control: Control,
  lattice: Lattice,
  spacing: LatticeSpread['spacing'],
): RightSide {
  const vertical = surface.plane === 'vertical';
  // The mirror image of a rudder that goes to the left goes to the right.
  const alike = (control.kind === 'symmetric') !== vertical;
  const symmetry = alike ? 'even' : 'odd';
  const central = !surface.mirrored && vertical;
  const washes = lattice.parts.map((part): Float64Array | null => {
    if (part.surface !== index) return null;
    const { rows, strips, normals } = part;
    const out = new Float64Array(rows * strips);
    const spans = stripShares(part, control.from, control.to);
    const chords = flapShares(rows, spacing, control.hinge);
    const { bound } = chordPlaces(rows, spacing);
    const other = part.station[0] < 0 && !alike ? -1 : 1;
    const sign = (vertical ? -1 : 1) * other;
    for (let s = 0; s < strips; s++) {
      if (spans[s] === 0) continue;
      const p = edgePoint(part, bound, s, control.hinge);
      const q = edgePoint(part, bound, s + 1, control.hinge);
      const size = Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
      const [ey, ez] = [(q[1] - p[1]) / size, (q[2] - p[2]) / size];
      for (let i = 0; i < rows; i++) {
        const n = 3 * (s * rows + i);
        // x of hinge × normal: what the turned normal meets of a stream along x.
        out[s * rows + i] = sign * spans[s] * chords[i] * (ey * normals[n + 2] - ez * normals[n + 1]);
      }
    }
    return out;
  });
  return {
    id: control.id,
    symmetry: central ? 'odd' : symmetry,
    wash: (part, panel) => washes[part]?.[panel] ?? 0,
  };
}

/** Deflections of an airframe's controls, rad, by id; those at rest are left out. */
export function deflectionsOf(surfaces: readonly LiftingSurface[]): Record<string, number> {
  const out: Record<string, number> = {};
  for (const s of surfaces)
    for (const c of s.controls ?? []) if (c.deflectionDeg !== 0) out[c.id] = c.deflectionDeg * RAD;
  return out;
}
