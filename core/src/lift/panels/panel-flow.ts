import type { Point3, Reference } from '../../airframe';
import { SingleMatrix } from '../../kernels';
import { factorise, FailedComputation, solveFactorised, type Factorisation } from '../../numerics';
import { Cancelled, type RunContext } from '../../results';
import { gmres } from './gmres';
import type { Place } from './body-skin';
import { measured, panelsOf, type Panels } from './panel-geometry';
import { panelInfluence, solidAngle } from './panel-influence';
import type { PanelMesh } from './panel-mesh';
import { patchGradient } from './skin-gradient';
import { CELLS, unitsOf, type Cutting, type Units } from './units';
import { sidesOn, wakeEdges, type BodyLine, type WakeEdge } from './wakes';

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
/** Change of the solid angles of all wakes together, over the sphere's, from which a wake lies between two places; and of one strip that counts. */
const PASSED = 0.15;
const LEAST_CHANGE = 0.03;
/** Wakes that can lie on one body. */
const MOST_LINES = 15;
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

/** A wake's column with the units on both faces that it goes out from. */
interface WakeStrip extends WakeEdge {
  upper: number;
  lower: number;
}

/**
 * Flow without viscosity about closed thick skins: sources and doublets of constant strength on flat panels, the potential of the disturbance zero
 * inside, the wake along the stream with the Kutta condition that its jump is that of the faces at the trailing edge.
 * @source Morino and Kuo, AIAA J. 12(2), 1974, 191–197; Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, §9.4 and §12.5.
 */
export class PanelFlow {
  readonly panels: Panels;
  private readonly units: Units;
  /** Pieces of the skins that the stream touches; and longer along x by 1∕β: there small disturbances are those of a stream without compressibility. */
  private readonly pieces: Panels;
  private readonly flat: Panels;
  /** By unit: where its condition is posed and its normal in the longer space; its area times its normal as it is. */
  private readonly centre: Float64Array;
  private readonly normal: Float64Array;
  private readonly faces: Float64Array;
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
    const edges = wakeEdges(mesh, mesh.hiding, [...new Set(mesh.skins.values())]);
    this.units = unitsOf(mesh, cuttingOf(mesh, edges));
    this.pieces = measured(this.units.corners);
    this.flat = mach > 0 ? measured(this.units.corners, 1 / this.beta) : this.pieces;
    [this.centre, this.normal, this.faces] = this.measureUnits();
    let sum = 0;
    this.offsets = mesh.patches.map((p) => {
      const at = sum;
      sum += p.ni * p.nj;
      return at;
    });
    const { first, count: n } = this.units;
    mesh.patches.forEach((p, k) => {
      const block = (panel: number, panels: number) => {
        const from = first[panel];
        const size = first[panel + panels] - from;
        if (size > 0) this.blocks.push({ from, size });
      };
      if (p.kind === 'wing') for (let j = 0; j < p.nj; j++) block(this.offsets[k] + j * p.ni, p.ni);
      else {
        const size = p.ni * p.nj;
        for (let at = 0; at < size; at += 64) block(this.offsets[k] + at, Math.min(64, size - at));
      }
    });
    this.wakes = edges.flatMap((edge) => this.strip(edge));
    this.matrix = new SingleMatrix(n);
    this.right = [0, 1, 2].map(() => new Float64Array(n));
    this.assemble(context);
  }

  private measureUnits(): [Float64Array, Float64Array, Float64Array] {
    const { count, own, of } = this.units;
    const { flat, pieces } = this;
    const [centre, normal, faces] = [0, 1, 2].map(() => new Float64Array(3 * count));
    for (let k = 0; k < of.length; k++)
      for (let d = 0; d < 3; d++) {
        normal[3 * of[k] + d] += flat.area[k] * flat.normal[3 * k + d];
        faces[3 * of[k] + d] += pieces.area[k] * pieces.normal[3 * k + d];
      }
    for (let u = 0; u < count; u++) {
      const size = Math.hypot(normal[3 * u], normal[3 * u + 1], normal[3 * u + 2]);
      for (let d = 0; d < 3; d++) {
        centre[3 * u + d] = flat.centre[3 * own[u] + d];
        normal[3 * u + d] = size > 0 ? normal[3 * u + d] / size : 0;
      }
    }
    return [centre, normal, faces];
  }

  private assemble({ report, cancelled }: RunContext): void {
    const p = this.flat;
    const { count: n, of, own } = this.units;
    const { normal } = p;
    const { centre } = this;
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
      for (let k = 0; k < p.count; k++) {
        panelInfluence(p, k, x, y, z, own[i] === k, out);
        let angle = out[0];
        let source = out[1];
        if (half) {
          // The image of a panel is seen from here as the panel is from the image of here.
          panelInfluence(p, k, x, -y, z, false, out);
          angle += out[0];
          source += out[1];
        }
        matrix[row + of[k]] += angle * INV4PI;
        sx -= source * normal[3 * k];
        sy -= source * normal[3 * k + 1];
        sz -= source * normal[3 * k + 2];
      }
      rx[i] = (sx * INV4PI) / this.beta;
      ry[i] = sy * INV4PI;
      rz[i] = sz * INV4PI;
    }
  }

  /** The wake of a column, where units of both faces lie at its edge. */
  private strip(edge: WakeEdge): WakeStrip[] {
    const { patch, index, column, from, to } = edge;
    const upperPanel = this.offsets[index] + column * patch.ni;
    const lowerPanel = upperPanel + patch.ni - 1;
    const share = 0.5 * (from + to);
    const [upper, lower] = [unitAtEdge(this.units, upperPanel, share, 0), unitAtEdge(this.units, lowerPanel, share, 1)];
    return upper < 0 || lower < 0 ? [] : [{ ...edge, upper, lower }];
  }

  /** Influence of the wake strips at all centres, row by row, for a direction of the stream. */
  private wakeInfluence(dir: Place): Float64Array {
    const n = this.units.count;
    const m = this.wakes.length;
    const out = new Float64Array(n * m);
    const { centre } = this;
    const flat = new Float64Array(12);
    /** Seen from above: inner trailing edge, far inner, far outer, outer; the order turns with the side. */
    const add = (w: WakeStrip, k: number, corners: readonly Place[]) => {
      const order = w.patch.out > 0 ? corners : [...corners].reverse();
      order.forEach(([px, py, pz], c) => flat.set([px / this.beta, py, pz], 3 * c));
      for (let i = 0; i < n; i++) {
        const [x, y, z] = [centre[3 * i], centre[3 * i + 1], centre[3 * i + 2]];
        let angle = solidAngle(flat, 0, x, y, z);
        if (this.mesh.half) angle += solidAngle(flat, 0, x, -y, z);
        out[i * m + k] += angle * INV4PI;
      }
    };
    this.wakes.forEach((w, k) => {
      add(w, k, [w.a, this.far(w.a, dir), this.far(w.b, dir), w.b]);
      for (const line of w.lines) {
        const [near, on] = this.alongBody(line, dir);
        for (let q = 0; q + 1 < on.length; q++)
          add(
            w,
            k,
            line.end === 'inner' ? [on[q], on[q + 1], near[q + 1], near[q]] : [near[q], near[q + 1], on[q + 1], on[q]],
          );
      }
    });
    return out;
  }

  private far(p: Place, dir: Place): Place {
    const length = WAKE * this.reference.span;
    return [p[0] + length * dir[0], p[1] + length * dir[1], p[2] + length * dir[2]];
  }

  /** The sheet between the stream's line behind the end of a trailing edge and the wake's edge on the body: places of both. */
  private alongBody({ places }: BodyLine, dir: Place): [Place[], Place[]] {
    const [root] = places;
    const near = places.map((p): Place => {
      const d = (p[0] - root[0]) / dir[0];
      return [p[0], root[1] + d * dir[1], root[2] + d * dir[2]];
    });
    const last = places.length - 1;
    return [
      [...near, this.far(near[last], dir)],
      [...places, this.far(places[last], dir)],
    ];
  }

  /**
   * The potential on the skins in one state.
   * @param jumps of the wake strips, where they are given; else they follow from the Kutta condition. @param start of the iteration.
   * @throws FailedComputation `panels-unsolved` where the iteration does not come to its end.
   */
  private potential(state: PanelState, jumps?: Float64Array, start?: Float64Array): Float64Array {
    const stream = streamOf(state);
    const n = this.units.count;
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
    const n = this.units.count;
    const m = this.wakes.length;
    return this.blocks.map(({ from, size }) => {
      const a = new Float64Array(size * size);
      for (let i = 0; i < size; i++)
        for (let k = 0; k < size; k++) a[i * size + k] = this.matrix.values[(from + i) * n + from + k];
      const inside = (u: number) => u >= from && u < from + size;
      this.wakes.forEach((w, s) => {
        if (!wake || !inside(w.upper) || !inside(w.lower)) return;
        for (let i = 0; i < size; i++) {
          a[i * size + w.upper - from] += wake[(from + i) * m + s];
          a[i * size + w.lower - from] -= wake[(from + i) * m + s];
        }
      });
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
    const { count: n } = this.units;
    const { faces, pieces } = this;
    const { centre } = pieces;
    const cp = new Float64Array(n);
    const gradient = this.gradient(mu, stream, jumps);
    const along = this.normal;
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
      const [px, py, pz] = [-pressure * faces[at], -pressure * faces[at + 1], -pressure * faces[at + 2]];
      const c = 3 * this.units.own[k];
      const [rx, ry, rz] = [centre[c] - this.about.x, centre[c + 1] - this.about.y, centre[c + 2] - this.about.z];
      fx += px;
      fy += py;
      fz += pz;
      mx += ry * pz - rz * py;
      my += rz * px - rx * pz;
      mz += rx * py - ry * px;
    }
    const pressure = (fx * Math.cos(state.alpha) + fz * Math.sin(state.alpha)) * (this.mesh.half ? 2 : 1);
    // Panels do not resolve the suction of a thin nose: what pressures give besides the circulation is taken off there.
    const { first } = this.units;
    this.wakes.forEach((w, s) => {
      const { patch, column } = w;
      let [drag, lift, side] = [0, 0, 0];
      const panel = this.offsets[w.index] + column * patch.ni;
      for (let k = first[panel]; k < first[panel + patch.ni]; k++) {
        drag -= cp[k] * faces[3 * k];
        lift -= cp[k] * faces[3 * k + 2];
        side -= cp[k] * faces[3 * k + 1];
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
      cp: this.onPanels(cp),
      strips,
    };
  }

  /** Values of units as means on their panels; none on those that lie inside of others. */
  private onPanels(values: Float64Array): Float32Array {
    const { first } = this.units;
    const { faces } = this;
    return Float32Array.from({ length: this.panels.count }, (_, k) => {
      if (first[k + 1] - first[k] === 1) return values[first[k]];
      let [sum, area] = [0, 0];
      for (let u = first[k]; u < first[k + 1]; u++) {
        const size = Math.hypot(faces[3 * u], faces[3 * u + 1], faces[3 * u + 2]);
        sum += size * values[u];
        area += size;
      }
      return area > 0 ? sum / area : 0;
    });
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
    // Seen along the stream.
    const aside = (p: Place) => p[1] - (stream[1] / stream[0]) * p[0];
    const height = (p: Place) => p[2] - (stream[2] / stream[0]) * p[0];
    const sheet = this.wakes.flatMap(({ a, b, patch, lines }, k) => {
      const pieces: (readonly [Place, Place])[] = [[a, b]];
      // What lies between the wing and the place behind its body where the wake comes to rest is carried by the body.
      for (const line of lines) {
        const [near, on] = this.alongBody(line, stream).map((places) => places[places.length - 1]);
        pieces.push(line.end === 'inner' ? [on, near] : [near, on]);
      }
      return pieces.flatMap(([from, to]) => {
        const [inner, outer] = patch.out > 0 ? [from, to] : [to, from];
        const one = {
          ya: aside(inner),
          za: height(inner),
          yb: aside(outer),
          zb: height(outer),
          g: strips[k].circulation,
        };
        if (Math.hypot(one.yb - one.ya, one.zb - one.za) < 1e-9) return [];
        return this.mesh.half ? [one, { ya: -one.yb, za: one.zb, yb: -one.ya, zb: one.za, g: one.g }] : [one];
      });
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

  /** Gradient of the potential along the skin at every unit, from its neighbours in both directions. */
  private gradient(mu: Float64Array, stream: Place, jumps: Float64Array): Float64Array {
    const out = new Float64Array(3 * this.units.count);
    const wake = this.wakeFor(stream);
    const m = this.wakes.length;
    // Seen from one side of a sheet to the other, the solid angles of its strips change by the whole sphere together.
    const jump = (from: number, to: number): number => {
      let [all, by] = [0, 0];
      for (let s = 0, a = from * m, b = to * m; s < m; s++, a++, b++) {
        const change = wake[b] - wake[a];
        all += change;
        if (Math.abs(change) > LEAST_CHANGE) by += change * jumps[s];
      }
      return Math.abs(all) > PASSED ? by : 0;
    };
    const skin = { units: this.units, centre: this.centre, normal: this.normal, stretch: 1 / this.beta, jump };
    this.mesh.patches.forEach((patch, p) => patchGradient(skin, patch, this.offsets[p], mu, out));
    return out;
  }
}

/** How the skins are cut: by what passes through them, and along the wakes that lie on them. */
function cuttingOf(mesh: PanelMesh, edges: readonly WakeEdge[]): Map<number, Cutting> {
  const lines = edges.flatMap((e) => e.lines);
  return new Map(
    [...mesh.hiding].map(([index, hidden]) => {
      const skin = mesh.skins.get(index);
      const own = skin ? lines.filter((l) => l.skin === skin).slice(0, MOST_LINES) : [];
      return [index, own.length > 0 ? { hidden, sides: (p: Place) => sidesOn(own, p) } : { hidden }];
    }),
  );
}

/** The unit of a panel at the trailing edge, at a share of its width. @param side 0 at the panel's first row, 1 at its last. */
function unitAtEdge({ cells, first }: Units, panel: number, share: number, side: 0 | 1): number {
  const own = cells.get(panel);
  if (!own) return first[panel + 1] > first[panel] ? first[panel] : -1;
  const row = Math.min(CELLS - 1, Math.floor(share * CELLS));
  return own[row * CELLS + (side === 0 ? 0 : CELLS - 1)];
}
