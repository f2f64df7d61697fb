import { InvalidInput } from '../numerics';
import { HorseshoeField } from './horseshoe';
import type { VortexLattice } from './vortex-lattice';

/** A line that the air goes along, in the airframe's axes. */
export interface FlowLine {
  /** Id of the surface whose trailing edge it leaves; none for a line from ahead. */
  surface?: string;
  /** x, y, z of each point, m. */ points: number[];
  /** Speed at each point, over that of the stream. */ speed: number[];
}
export interface FlowLines {
  /** Whether only the right side is given; the left is its image. */ half: boolean;
  /** From the trailing edges, where strips meet. */ wake: FlowLine[];
  /** From ahead. */ stream: FlowLine[];
}

export interface FlowLinesOptions {
  /** Circulation of each strip over speed, m, in the order of the lattice's strips, as with the polars of the sections; the lattice's own without. */
  circulations?: readonly number[];
  /** How far lines go behind the airframe, spans. */ behind?: number;
  /** Lines from ahead on a half. */ across?: number;
  cancelled?: () => boolean;
}

/** Length of a step over the span. */
const STEP = 0.025;
/** Induced speeds beyond this are those of a vortex that the line passes through, and of no flow, stream speeds. */
const GREATEST = 0.8;

/** Velocities about a lattice in one state: the stream and all its horseshoes with their images. */
class VelocityField {
  private readonly fields: HorseshoeField[];
  private readonly right: Float64Array;
  private readonly left: Float64Array | null;
  readonly stream: readonly [number, number, number];

  constructor(
    private readonly lattice: VortexLattice,
    alpha: number,
    beta: number,
    controls: Readonly<Record<string, number>>,
    circulations?: readonly number[],
  ) {
    const state = { alpha, sideslip: beta, controls };
    const problems = lattice.problemsOf(state);
    const gammas = problems.map((p) => lattice.circulationsIn(state, p));
    const { symmetry, parts, panels } = lattice.lattice;
    this.right = new Float64Array(panels);
    for (const g of gammas) for (let k = 0; k < panels; k++) this.right[k] += g[k];
    if (circulations) this.scale(circulations);
    this.left = null;
    if (symmetry === 'half') {
      // On the left stands even minus odd.
      this.left = new Float64Array(panels);
      const odd = problems.indexOf('odd');
      for (let k = 0; k < panels; k++) this.left[k] = this.right[k] - (odd < 0 ? 0 : 2 * gammas[odd][k]);
    }
    this.fields = parts.map((p) => new HorseshoeField(p, [1, 0, 0]));
    this.stream = [Math.cos(alpha) * Math.cos(beta), -Math.sin(beta), Math.sin(alpha) * Math.cos(beta)];
  }

  /** Makes each strip carry what it is said to carry, spread over its chord as it is. */
  private scale(circulations: readonly number[]): void {
    const { parts } = this.lattice.lattice;
    const count = parts.reduce((n, p) => n + p.strips, 0);
    if (circulations.length !== count || !circulations.every(Number.isFinite))
      throw new InvalidInput(
        'circulations',
        `There are ${count} strips, and ${circulations.filter(Number.isFinite).length} finite circulations of them.`,
        'Give one number a strip.',
        'circulations',
      );
    let [k, strip] = [0, 0];
    for (const { rows, strips } of parts)
      for (let s = 0; s < strips; s++, strip++, k += rows) {
        let own = 0;
        for (let i = 0; i < rows; i++) own += this.right[k + i];
        for (let i = 0; i < rows; i++)
          this.right[k + i] =
            Math.abs(own) > 1e-12 ? (this.right[k + i] * circulations[strip]) / own : circulations[strip] / rows;
      }
  }

  /** Velocity at a point over the speed of the stream. */
  at(x: number, y: number, z: number, out: Float64Array): void {
    let [u, v, w] = [0, 0, 0];
    let base = 0;
    const { parts } = this.lattice.lattice;
    for (let p = 0; p < parts.length; p++) {
      const f = this.fields[p];
      const n = f.vx.length;
      f.at(x, y, z, false);
      for (let k = 0; k < n; k++) {
        const g = this.right[base + k];
        u += g * f.vx[k];
        v += g * f.vy[k];
        w += g * f.vz[k];
      }
      if (this.left && parts[p].mirrored) {
        f.at(x, -y, z, false);
        for (let k = 0; k < n; k++) {
          const g = this.left[base + k];
          u += g * f.vx[k];
          v -= g * f.vy[k];
          w += g * f.vz[k];
        }
      }
      base += n;
    }
    const size = Math.sqrt(u * u + v * v + w * w);
    const k = size > GREATEST ? GREATEST / size : 1;
    out[0] = this.stream[0] + k * u;
    out[1] = this.stream[1] + k * v;
    out[2] = this.stream[2] + k * w;
  }
}

/** A line through a point, by midpoints along its length. */
function follow(field: VelocityField, from: readonly number[], step: number, count: number): FlowLine {
  const v = new Float64Array(3);
  const points = [...from];
  const speed: number[] = [];
  let [x, y, z] = from;
  for (let k = 0; ; k++) {
    field.at(x, y, z, v);
    const here = Math.hypot(v[0], v[1], v[2]);
    speed.push(here);
    if (k === count || here < 1e-6) return { points, speed };
    const h = (0.5 * step) / here;
    field.at(x + h * v[0], y + h * v[1], z + h * v[2], v);
    const mid = Math.max(1e-6, Math.hypot(v[0], v[1], v[2]));
    x += (step * v[0]) / mid;
    y += (step * v[1]) / mid;
    z += (step * v[2]) / mid;
    points.push(x, y, z);
  }
}

/**
 * Lines that the air goes along about a lattice: those that leave its trailing edges, which roll up behind the tips, and some from ahead. The wake that
 * causes them goes straight back, as in the lattice: they are the first turn of one that would follow the air.
 * @param alpha and @param beta rad. @param controls deflections, rad by id. @throws InvalidInput `circulations`, `control-missing`.
 */
export function flowLines(
  lattice: VortexLattice,
  { alpha, beta = 0, controls = {} }: { alpha: number; beta?: number; controls?: Readonly<Record<string, number>> },
  { circulations, behind = 1.2, across = 12, cancelled }: FlowLinesOptions = {},
): FlowLines {
  const field = new VelocityField(lattice, alpha, beta, controls, circulations);
  const { parts, symmetry } = lattice.lattice;
  const half = symmetry === 'half' && lattice.problemsOf({ alpha, sideslip: beta, controls }).length === 1;
  const { span } = lattice.reference;
  const step = STEP * span;
  let [front, back, tip, top] = [Infinity, -Infinity, 0, 0];
  for (const { corners } of parts)
    for (let c = 0; c < corners.length; c += 3) {
      front = Math.min(front, corners[c]);
      back = Math.max(back, corners[c]);
      if (Math.abs(corners[c + 1]) > tip) [tip, top] = [Math.abs(corners[c + 1]), corners[c + 2]];
    }
  const end = back + behind * span;
  const sides = half || symmetry === 'full' ? [1] : [1, -1];
  const stepsTo = (x: number) => Math.ceil((end - x) / step);
  const wake: FlowLine[] = [];
  for (const side of sides)
    for (const part of parts) {
      if (side < 0 && !part.mirrored) continue;
      const stride = 3 * (part.rows + 1);
      for (let e = 0; e <= part.strips; e++) {
        // The tips wholly, every second one between them.
        if (e % 2 && e !== part.strips && e !== part.strips - 1) continue;
        if (cancelled?.()) break;
        const c = e * stride + 3 * part.rows;
        const from = [part.corners[c], side * part.corners[c + 1], part.corners[c + 2]];
        wake.push({ ...follow(field, from, step, stepsTo(from[0])), surface: part.id });
      }
    }
  const stream: FlowLine[] = [];
  const ahead = front - 0.3 * span;
  for (const side of half ? [1] : [1, -1])
    for (let k = 0; k < across; k++) {
      if (cancelled?.()) break;
      const y = side * 1.15 * tip * ((k + 0.5) / across);
      // They come in at the height at which the stream would bring them to the wing.
      const rise = (field.stream[2] / field.stream[0]) * (front - ahead);
      const z = (top * Math.abs(y)) / Math.max(1e-9, tip) - rise + 0.01 * span;
      stream.push(follow(field, [ahead, y, z], step, stepsTo(ahead)));
    }
  return { half, wake, stream };
}
