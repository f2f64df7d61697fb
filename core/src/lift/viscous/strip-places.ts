import type { SurfaceLattice as Part } from '../lattice';

/** The quarter point of a strip, m, and the direction of its span. */
export interface QuarterPoint {
  x: number;
  y: number;
  z: number;
  ey: number;
  ez: number;
}
/** Places of a lattice's strips: asked for with every state, and the same for as long as the lattice stands. */
const fractions = new WeakMap<Part, number[][]>();
const quarters = new WeakMap<Part, QuarterPoint[][]>();

/** Chord fractions of the bound vortices of a strip: with the trailing edge they divide its middle line. */
export function boundFractions(part: Part, strip: number): number[] {
  let all = fractions.get(part);
  if (!all) fractions.set(part, (all = Array.from({ length: part.strips }, (_, s) => fractionsOf(part, s))));
  return all[strip];
}

function fractionsOf(part: Part, strip: number): number[] {
  const { rows, corners } = part;
  const stride = 3 * (rows + 1);
  const x = (i: number) => 0.5 * (corners[strip * stride + 3 * i] + corners[(strip + 1) * stride + 3 * i]);
  const tail = x(rows);
  return Array.from({ length: rows }, (_, i) => 1 - (tail - x(i)) / part.chord[strip]);
}

/** The quarter point of a strip and the direction of its span, right to left sides as they are. */
export function quarterPoint(part: Part, strip: number, side: 1 | -1): QuarterPoint {
  let all = quarters.get(part);
  if (!all)
    quarters.set(
      part,
      (all = Array.from({ length: part.strips }, (_, s) => [quarterOf(part, s, 1), quarterOf(part, s, -1)])),
    );
  return all[strip][side > 0 ? 0 : 1];
}

function quarterOf(part: Part, strip: number, side: 1 | -1): QuarterPoint {
  const { rows, corners } = part;
  const stride = 3 * (rows + 1);
  const bound = boundFractions(part, strip);
  let i = 0;
  while (i < rows - 2 && bound[i + 1] < 0.25) i++;
  const next = i + 1 < rows ? bound[i + 1] : 1;
  const t = (0.25 - bound[i]) / (next - bound[i]);
  const at = (k: number) => {
    const [a, b] = [strip * stride + k, (strip + 1) * stride + k];
    return 0.5 * (corners[a] + corners[b]);
  };
  const mix = (d: number) => at(3 * i + d) + t * (at(3 * i + 3 + d) - at(3 * i + d));
  const [a, b] = [strip * stride, (strip + 1) * stride];
  const [dy, dz] = [corners[b + 1] - corners[a + 1], side * (corners[b + 2] - corners[a + 2])];
  const size = Math.hypot(dy, dz);
  return { x: mix(0), y: side * mix(1), z: mix(2), ey: dy / size, ez: dz / size };
}
