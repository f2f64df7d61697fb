import type { Point3, Reference } from '../../airframe';
import { SingleMatrix } from '../../kernels';
import { factorise, FailedComputation, solveFactorised, type Factorisation } from '../../numerics';
import { Cancelled, type RunContext } from '../../results';
import { gmres } from './gmres';
import { panelsOf, type Panels } from './panel-geometry';
import { panelInfluence, solidAngle } from './panel-influence';
import type { PanelMesh } from './panel-mesh';
import type { Patch } from './patch';
import { patchGradient } from './skin-gradient';

/** A state of the stream; rad. */
export interface PanelState {
  alpha: number;
  /** Positive with the wind from the right; only with both sides explicit. */
  sideslip?: number;
}

/** What one strip of a wing carries. */
export interface PanelStrip {
  id: string;
  /** Share of the half span; negative on an explicit left side. */ station: number;
  y: number;
  chord: number;
  width: number;
  circulation: number;
  cl: number;
}

/** The flow about the skins in one state; coefficients on the reference, moments about its point. */
export interface PanelPoint {
  alpha: number;
  beta: number;
  CL: number;
  /** From the wake far behind. */ CDi: number;
  /** From pressures: noisy, a check. */ CDpressure: number;
  CY: number;
  Cl: number;
  Cm: number;
  Cn: number;
  /** Pressure coefficient of every panel. */ cp: Float32Array;
  strips: PanelStrip[];
}

/** Of the iteration, against the right-hand side. */
const TOLERANCE = 1e-6;
const INV4PI = 1 / (4 * Math.PI);
/** Length of the wake in spans. */
const WAKE = 60;

const streamOf = ({ alpha, sideslip = 0 }: PanelState): [number, number, number] => [
  Math.cos(alpha) * Math.cos(sideslip),
  -Math.sin(sideslip),
  Math.sin(alpha) * Math.cos(sideslip),
];

/** Pressure coefficient of a speed without loss of total pressure. */
function pressureOf(speed2: number, mach: number): number {
  if (mach === 0) return 1 - speed2;
  const half = 0.5 * mach * mach;
  // Air that is faster than into a vacuum is at none.
  const temperature = Math.max(0, 1 + 0.4 * half * (1 - speed2));
  return (temperature ** 3.5 - 1) / (1.4 * half);
}

/** The mesh, longer along x. */
const stretched = (mesh: PanelMesh, by: number): PanelMesh => ({
  ...mesh,
  patches: mesh.patches.map((p) => ({ ...p, nodes: p.nodes.map((v, k) => (k % 3 === 0 ? v * by : v)) })),
});

interface WakeStrip {
  patch: Patch;
  column: number;
  upper: number;
  lower: number;
  /** Trailing edge, inner and outer end. */
  a: [number, number, number];
  b: [number, number, number];
}

/**
 * Flow without viscosity about closed thick skins: sources and doublets of constant strength on flat panels, the potential of the disturbance zero
 * inside, the wake along the stream with the Kutta condition that its jump is that of the faces at the trailing edge.
 * @source Morino and Kuo, AIAA J. 12(2), 1974, 191–197; Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, §9.4 and §12.5.
 */
export class PanelFlow {
  readonly panels: Panels;
  /** The same skins, longer along x by 1∕β: there the flow of small disturbances is that of a stream without compressibility. */
  private readonly flat: Panels;
  private readonly flatMesh: PanelMesh;
  /** √(1 − M²). */ private readonly beta: number;
  /** Single numbers: the iteration passes over all of them many times, and what they round is far below what panels are. */
  private readonly matrix: SingleMatrix;
  /** What sources of a unit stream along x, y, z come to on the right-hand side. */
  private readonly right: Float64Array[];
  private readonly wakes: WakeStrip[];
  private readonly offsets: number[];
  private readonly blocks: { from: number; size: number }[] = [];

  /**
   * @param about moment reference, m. @param coarse the same with half the panels along the chords: the circulation, whose error falls with the first
   *   power of their number, is carried on from both to the limit.
   * @param context told how far it has come, and asked whether to end.
   * @param mach of the stream, below 1.
   * @throws Cancelled when it is ended.
   */
  constructor(
    readonly mesh: PanelMesh,
    readonly reference: Reference,
    readonly about: Point3,
    private readonly coarse?: PanelFlow,
    context: RunContext = {},
    private readonly mach = 0,
  ) {
    this.beta = Math.sqrt(1 - mach * mach);
    this.panels = panelsOf(mesh);
    this.flatMesh = mach > 0 ? stretched(mesh, 1 / this.beta) : mesh;
    this.flat = mach > 0 ? panelsOf(this.flatMesh) : this.panels;
    let sum = 0;
    this.offsets = mesh.patches.map((p) => {
      const at = sum;
      sum += p.ni * p.nj;
      return at;
    });
    mesh.patches.forEach((p, k) => {
      if (p.kind === 'wing')
        for (let j = 0; j < p.nj; j++) this.blocks.push({ from: this.offsets[k] + j * p.ni, size: p.ni });
      else {
        const size = p.ni * p.nj;
        for (let at = 0; at < size; at += 64)
          this.blocks.push({ from: this.offsets[k] + at, size: Math.min(64, size - at) });
      }
    });
    this.wakes = this.wakeStrips();
    const n = this.panels.count;
    this.matrix = new SingleMatrix(n);
    this.right = [0, 1, 2].map(() => new Float64Array(n));
    this.assemble(context);
  }

  private assemble({ report, cancelled }: RunContext): void {
    const p = this.flat;
    const n = p.count;
    const { centre, normal } = p;
    const [rx, ry, rz] = this.right;
    const out = new Float64Array(2);
    const { half } = this.mesh;
    const matrix = this.matrix.values;
    for (let i = 0; i < n; i++) {
      if (i % 64 === 0) {
        if (cancelled?.()) throw new Cancelled();
        report?.({ done: i, of: n });
      }
      const [x, y, z] = [centre[3 * i], centre[3 * i + 1], centre[3 * i + 2]];
      const row = i * n;
      let [sx, sy, sz] = [0, 0, 0];
      for (let k = 0; k < n; k++) {
        panelInfluence(p, k, x, y, z, i === k, out);
        let angle = out[0];
        let source = out[1];
        if (half) {
          // The image of a panel is seen from here as the panel is from the image of here.
          panelInfluence(p, k, x, -y, z, false, out);
          angle += out[0];
          source += out[1];
        }
        matrix[row + k] = angle * INV4PI;
        sx -= source * normal[3 * k];
        sy -= source * normal[3 * k + 1];
        sz -= source * normal[3 * k + 2];
      }
      rx[i] = (sx * INV4PI) / this.beta;
      ry[i] = sy * INV4PI;
      rz[i] = sz * INV4PI;
    }
  }

  private wakeStrips(): WakeStrip[] {
    const out: WakeStrip[] = [];
    this.mesh.patches.forEach((patch, k) => {
      if (patch.kind !== 'wing') return;
      const { ni, nj, nodes } = patch;
      for (let j = 0; j < nj; j++) {
        const node = (jj: number): [number, number, number] => {
          const at = 3 * jj * (ni + 1);
          return [nodes[at], nodes[at + 1], nodes[at + 2]];
        };
        const upper = this.offsets[k] + j * ni;
        const lower = upper + ni - 1;
        out.push({ patch, column: j, upper, lower, a: node(j), b: node(j + 1) });
      }
    });
    return out;
  }

  /** Influence of the wake strips at all centres, row by row, for a direction of the stream. */
  private wakeInfluence(dir: readonly [number, number, number]): Float64Array {
    const { centre, count: n } = this.flat;
    const m = this.wakes.length;
    const out = new Float64Array(n * m);
    const length = WAKE * this.reference.span;
    const corners = new Float64Array(12);
    this.wakes.forEach((w, k) => {
      // Seen from above: inner trailing edge, far inner, far outer, outer; the order turns with the side.
      const far = (p: readonly number[]) => p.map((v, d) => v + length * dir[d]);
      const order = w.patch.out > 0 ? [w.a, far(w.a), far(w.b), w.b] : [w.b, far(w.b), far(w.a), w.a];
      order.forEach(([px, py, pz], c) => corners.set([px / this.beta, py, pz], 3 * c));
      for (let i = 0; i < n; i++) {
        const [x, y, z] = [centre[3 * i], centre[3 * i + 1], centre[3 * i + 2]];
        let angle = solidAngle(corners, 0, x, y, z);
        if (this.mesh.half) angle += solidAngle(corners, 0, x, -y, z);
        out[i * m + k] = angle * INV4PI;
      }
    });
    return out;
  }

  /**
   * The potential on the skins in one state.
   * @param jumps of the wake strips, where they are given; else they follow from the Kutta condition. @param start of the iteration.
   * @throws FailedComputation `panels-unsolved` where the iteration does not come to its end.
   */
  private potential(state: PanelState, jumps?: Float64Array, start?: Float64Array): Float64Array {
    const stream = streamOf(state);
    const n = this.panels.count;
    const m = this.wakes.length;
    const wake = this.wakeFor(stream);
    const { matrix, wakes } = this;
    const b = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      b[i] = stream[0] * this.right[0][i] + stream[1] * this.right[1][i] + stream[2] * this.right[2][i];
      if (jumps) for (let w = 0; w < m; w++) b[i] -= wake[i * m + w] * jumps[w];
    }
    const factors = this.blockFactors(jumps ? null : wake);
    const jump = new Float64Array(m);
    const mu = start?.slice() ?? new Float64Array(n);
    const rest = gmres(
      (x, out) => {
        if (!jumps) for (let k = 0; k < m; k++) jump[k] = x[wakes[k].upper] - x[wakes[k].lower];
        out.set(matrix.times(x));
        if (jumps) return;
        for (let i = 0; i < n; i++) {
          let sum = 0;
          for (let w = 0, at = i * m; w < m; w++) sum += wake[at + w] * jump[w];
          out[i] += sum;
        }
      },
      (x) => {
        for (const { from, size, f } of factors) solveFactorised(f, x.subarray(from, from + size));
      },
      b,
      mu,
      TOLERANCE,
    );
    if (!(rest < 1e-4))
      throw new FailedComputation(
        'panels-unsolved',
        `The flow about the skins was not found at ${((state.alpha * 180) / Math.PI).toFixed(2)}°: a rest of ${rest.toExponential(1)} stays.`,
        'Look for parts that touch or pass through each other.',
      );
    return mu;
  }

  /** Jumps of the wake strips from the Kutta condition. */
  private kutta(state: PanelState): { jumps: Float64Array; mu: Float64Array } {
    const mu = this.potential(state, undefined, this.lastPotential);
    this.lastPotential = mu;
    return { jumps: Float64Array.from(this.wakes, (w) => mu[w.upper] - mu[w.lower]), mu };
  }
  /** Of the state before, from which the next one goes on. */
  private lastPotential?: Float64Array;

  /** Solves one state. @throws FailedComputation `panels-unsolved` where the iteration does not come to its end. */
  at(state: PanelState): PanelPoint {
    const own = this.kutta(state);
    if (!this.coarse) return this.point(state, streamOf(state), own.mu, own.jumps);
    const before = this.coarse.kutta(state).jumps;
    const jumps = own.jumps.map((v, k) => 2 * v - before[k]);
    return this.point(state, streamOf(state), this.potential(state, jumps, own.mu), jumps);
  }

  private lastWake?: { key: string; wake: Float64Array };
  private wakeFor(stream: readonly [number, number, number]): Float64Array {
    const key = stream.join();
    if (this.lastWake?.key !== key) this.lastWake = { key, wake: this.wakeInfluence(stream) };
    return this.lastWake.wake;
  }

  private blockFactors(wake: Float64Array | null): { from: number; size: number; f: Factorisation }[] {
    const n = this.panels.count;
    const m = this.wakes.length;
    const own = new Map(this.wakes.map((w, k) => [w.upper, k]));
    return this.blocks.map(({ from, size }) => {
      const a = new Float64Array(size * size);
      for (let i = 0; i < size; i++)
        for (let k = 0; k < size; k++) a[i * size + k] = this.matrix.values[(from + i) * n + from + k];
      const w = own.get(from);
      if (wake && w !== undefined)
        for (let i = 0; i < size; i++) {
          a[i * size] += wake[(from + i) * m + w];
          a[i * size + size - 1] -= wake[(from + i) * m + w];
        }
      return { from, size, f: factorise(a, size) };
    });
  }

  /** Speeds, pressures and forces from the potential on the skins. */
  private point(
    state: PanelState,
    stream: readonly [number, number, number],
    mu: Float64Array,
    jumps: Float64Array,
  ): PanelPoint {
    const { centre, normal, area, count: n } = this.panels;
    const cp = new Float32Array(n);
    const gradient = this.gradient(mu);
    const along = this.flat.normal;
    let [fx, fy, fz, mx, my, mz] = [0, 0, 0, 0, 0, 0];
    for (let k = 0; k < n; k++) {
      const at = 3 * k;
      // The disturbance along the skin, and that across it, which takes away what the stream would bring through.
      const across = (stream[0] / this.beta) * along[at] + stream[1] * along[at + 1] + stream[2] * along[at + 2];
      let speed2 = 0;
      for (let d = 0; d < 3; d++) {
        const disturbance = gradient[at + d] - across * along[at + d];
        speed2 += (stream[d] + (d === 0 ? disturbance / this.beta : disturbance)) ** 2;
      }
      const pressure = pressureOf(speed2, this.mach);
      cp[k] = pressure;
      const force = -pressure * area[k];
      const [px, py, pz] = [force * normal[at], force * normal[at + 1], force * normal[at + 2]];
      const [rx, ry, rz] = [centre[at] - this.about.x, centre[at + 1] - this.about.y, centre[at + 2] - this.about.z];
      fx += px;
      fy += py;
      fz += pz;
      mx += ry * pz - rz * py;
      my += rz * px - rx * pz;
      mz += rx * py - ry * px;
    }
    const pressure = (fx * Math.cos(state.alpha) + fz * Math.sin(state.alpha)) * (this.mesh.half ? 2 : 1);
    // Panels do not resolve the suction of a thin nose: what pressures give besides the circulation is taken off there.
    const offset = new Map(this.mesh.patches.map((p, i) => [p, this.offsets[i]]));
    this.wakes.forEach((w, s) => {
      const { patch, column } = w;
      let [drag, lift, side] = [0, 0, 0];
      for (let i = 0; i < patch.ni; i++) {
        const k = offset.get(patch)! + column * patch.ni + i;
        const force = -cp[k] * area[k];
        drag += force * normal[3 * k];
        lift += force * normal[3 * k + 2];
        side += force * normal[3 * k + 1];
      }
      const [inner, outer] = patch.out > 0 ? [w.a, w.b] : [w.b, w.a];
      // Force over the stream's pressure: twice the circulation, across the stream and the strip.
      const [wy, wz] = [2 * jumps[s] * (outer[1] - inner[1]), 2 * jumps[s] * (outer[2] - inner[2])];
      const dx = wz * stream[1] - wy * stream[2] - drag;
      const dy = -wz * stream[0] - side;
      const dz = wy * stream[0] - lift;
      const nose = 3 * (column * (patch.ni + 1) + patch.ni / 2);
      const { nodes } = patch;
      const next = nose + 3 * (patch.ni + 1);
      const [rx, ry, rz] = [0, 1, 2].map(
        (d) => 0.5 * (nodes[nose + d] + nodes[next + d]) - [this.about.x, this.about.y, this.about.z][d],
      );
      fx += dx;
      fy += dy;
      fz += dz;
      mx += ry * dz - rz * dy;
      my += rz * dx - rx * dz;
      mz += rx * dy - ry * dx;
    });
    if (this.mesh.half) [fx, fy, fz, mx, my, mz] = [2 * fx, 0, 2 * fz, 0, 2 * my, 0];
    const { area: S, span, chord } = this.reference;
    const { alpha, sideslip = 0 } = state;
    const [c, s] = [Math.cos(alpha), Math.sin(alpha)];
    const strips = this.strips(jumps);
    return {
      alpha,
      beta: sideslip,
      CL: (fz * c - fx * s) / S,
      CDi: this.trefftz(strips, stream) / S,
      CDpressure: pressure / S,
      CY: fy / S,
      Cl: -mx / (S * span),
      Cm: my / (S * chord),
      Cn: -mz / (S * span),
      cp,
      strips,
    };
  }

  private strips(jumps: Float64Array): PanelStrip[] {
    return this.wakes.map(({ patch, column, a, b }, k): PanelStrip => {
      const circulation = jumps[k];
      const { ni, nodes } = patch;
      const nose = ni / 2;
      const chordAt = (j: number) => {
        const [t, l] = [3 * j * (ni + 1), 3 * (j * (ni + 1) + nose)];
        return Math.hypot(nodes[t] - nodes[l], nodes[t + 1] - nodes[l + 1], nodes[t + 2] - nodes[l + 2]);
      };
      const chord = 0.5 * (chordAt(column) + chordAt(column + 1));
      return {
        id: patch.id,
        station: patch.stations![column],
        y: 0.5 * (a[1] + b[1]),
        chord,
        width: Math.hypot(b[1] - a[1], b[2] - a[2]),
        circulation,
        cl: (2 * circulation) / chord,
      };
    });
  }

  /** Induced drag area from the wake far behind: the sheet's normal velocity at the middle of each strip. */
  private trefftz(strips: readonly PanelStrip[], stream: readonly [number, number, number]): number {
    const height = (p: readonly number[]) => p[2] - (stream[2] / stream[0]) * p[0];
    const sheet = this.wakes.flatMap(({ a, b, patch }, k) => {
      const [inner, outer] = patch.out > 0 ? [a, b] : [b, a];
      const one = { ya: inner[1], za: height(inner), yb: outer[1], zb: height(outer), g: strips[k].circulation };
      return this.mesh.half ? [one, { ya: -one.yb, za: one.zb, yb: -one.ya, zb: one.za, g: one.g }] : [one];
    });
    let drag = 0;
    for (const s of sheet) {
      const [y, z] = [0.5 * (s.ya + s.yb), 0.5 * (s.za + s.zb)];
      const width = Math.hypot(s.yb - s.ya, s.zb - s.za);
      const [ny, nz] = [-(s.zb - s.za) / width, (s.yb - s.ya) / width];
      let w = 0;
      for (const t of sheet)
        for (const [ty, tz, sign] of [
          [t.yb, t.zb, 1],
          [t.ya, t.za, -1],
        ]) {
          const [dy, dz] = [y - ty, z - tz];
          const d2 = dy * dy + dz * dz;
          if (d2 > 1e-16) w += (sign * t.g * (-dz * ny + dy * nz)) / (2 * Math.PI * d2);
        }
      drag += -s.g * w * width;
    }
    return drag;
  }

  /** Gradient of the potential along the skin at every panel, from its neighbours in both directions. */
  private gradient(mu: Float64Array): Float64Array {
    const out = new Float64Array(3 * this.panels.count);
    this.flatMesh.patches.forEach((patch, p) => patchGradient(this.flat, patch, this.offsets[p], mu, out));
    return out;
  }
}
