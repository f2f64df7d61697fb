import { solveColumns } from '../../kernels';
import { RAD } from '../../numerics';
import { trailingEdgeShares, type InviscidSection } from '../inviscid';
import { sourceStream, sourceVelocity, vortexVelocity } from '../influence';

/**
 * How the mass defect changes the edge speed.
 *
 * The displacement of the flow acts as sources σ = dM∕ds on the panels of section and wake, with M = V·δ* the signed mass defect along the loop
 * (and along the wake). Node speeds are then V = V_inviscid + D·M, with D made of the panel method's own factorisation.
 * Nodes: 0 … n−1 on the section along the loop, n … n+w−1 along the wake.
 * ```
 *        ┌───────────────┬─────────┐
 *        │ section (n×n) │ columns │   the section's block does not depend on the angle
 *   D  = ├───────────────┼─────────┤
 *        │     rows      │  wake   │
 *        └───────────────┴─────────┘
 * ```
 * @source AIAA J. 25(10), 1987, 1347–1355.
 */
export interface Coupling {
  nodes: number;
  wake: number;
  /** Wake points, the first at the trailing edge; arc length from there. */
  wakeX: Float64Array;
  wakeY: Float64Array;
  wakeS: Float64Array;
  /** Inviscid signed speed at all nodes. */
  inviscid: Float64Array;
  /** (nodes + wake)², row-major: speed at a node for unit mass defect at another. */
  mass: Float64Array;
}

/** What depends on the shape of the wake. */
interface Wake {
  x: Float64Array;
  y: Float64Array;
  /** Wake speeds for unit streams along x and y. */
  alongX: Float64Array;
  alongY: Float64Array;
  /** count × total, and n × count. */
  rows: Float64Array;
  columns: Float64Array;
}

export const WAKE_POINTS = 22;
const WAKE_LENGTH = 1;
/** Wakes are traced at multiples of this angle; between two of them everything is blended. */
const WAKE_STEP = 2.5 * RAD;
const MOST_WAKES = 24;

/** The coupling of a section at any angle; the section's own part is computed once, the wakes as they are needed. */
export class SectionCoupling {
  private readonly n: number;
  private readonly total: number;
  /** Node strengths for unit source on each section panel, column by column. */
  private readonly bySource: Float64Array[];
  private readonly share: [number, number];
  private readonly wakeS: Float64Array;
  private readonly wakes = new Map<number, Wake>();
  private readonly coupling: Coupling;

  constructor(
    readonly solver: InviscidSection,
    readonly count = WAKE_POINTS,
  ) {
    const { x, y, s } = solver.nodes;
    const n = x.length;
    this.n = n;
    this.total = n + count;
    this.share = solver.blunt ? trailingEdgeShares(x, y) : [0, 0];
    this.wakeS = wakeSpacing(0.5 * (s[1] - s[0] + s[n - 1] - s[n - 2]), count);
    const mass = new Float64Array(this.total * this.total);
    this.bySource = this.strengths(x, y);
    for (let j = 0; j + 1 < n; j++) {
      const strengths = this.bySource[j];
      const length = Math.hypot(x[j + 1] - x[j], y[j + 1] - y[j]);
      for (let i = 0; i < n; i++) {
        mass[i * this.total + j] += strengths[i] / length;
        mass[i * this.total + j + 1] -= strengths[i] / length;
      }
    }
    this.coupling = {
      nodes: n,
      wake: count,
      wakeX: new Float64Array(count),
      wakeY: new Float64Array(count),
      wakeS: this.wakeS,
      inviscid: new Float64Array(this.total),
      mass,
    };
  }

  /** The coupling at one angle. Its arrays are used again by the next call. @param alpha rad. */
  at(alpha: number): Coupling {
    const { n, total, count, coupling } = this;
    const k = Math.floor(alpha / WAKE_STEP);
    const t = alpha / WAKE_STEP - k;
    const a = this.wakeOf(k);
    const b = t > 0 ? this.wakeOf(k + 1) : a;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const { alongX, alongY } = this.solver;
    for (let i = 0; i < n; i++) coupling.inviscid[i] = -(cos * alongX[i] + sin * alongY[i]);
    const p = 1 - t;
    for (let w = 0; w < count; w++) {
      coupling.wakeX[w] = p * a.x[w] + t * b.x[w];
      coupling.wakeY[w] = p * a.y[w] + t * b.y[w];
      coupling.inviscid[n + w] = cos * (p * a.alongX[w] + t * b.alongX[w]) + sin * (p * a.alongY[w] + t * b.alongY[w]);
      const row = (n + w) * total;
      for (let j = 0; j < total; j++) coupling.mass[row + j] = p * a.rows[w * total + j] + t * b.rows[w * total + j];
    }
    for (let i = 0; i < n; i++) {
      const row = i * total + n;
      for (let w = 0; w < count; w++)
        coupling.mass[row + w] = p * a.columns[i * count + w] + t * b.columns[i * count + w];
    }
    return coupling;
  }

  private wakeOf(k: number): Wake {
    let wake = this.wakes.get(k);
    if (wake) return wake;
    if (this.wakes.size >= MOST_WAKES) this.wakes.delete(this.wakes.keys().next().value!);
    wake = this.trace(k * WAKE_STEP);
    this.wakes.set(k, wake);
    return wake;
  }

  /** Node strengths for a unit source on each panel of a line of points. */
  private strengths(px: Float64Array, py: Float64Array): Float64Array[] {
    const { x, y } = this.solver.nodes;
    const { n } = this;
    const width = n + 1;
    const rows = this.solver.blunt ? n : n - 1;
    const b = new Float64Array((px.length - 1) * width);
    for (let k = 0; k + 1 < px.length; k++)
      for (let i = 0; i < rows; i++) b[k * width + i] = -sourceStream(px[k], py[k], px[k + 1], py[k + 1], x[i], y[i]);
    solveColumns(this.solver.system, b);
    return Array.from({ length: px.length - 1 }, (_, k) => b.subarray(k * width, (k + 1) * width));
  }

  /** Velocity along x and y at a point for unit strength at every node, as two rows. */
  private influence(px: number, py: number, u: Float64Array, v: Float64Array): void {
    const { x, y } = this.solver.nodes;
    const { n, share, pair } = this;
    u.fill(0);
    v.fill(0);
    for (let j = 0; j + 1 < n; j++) {
      vortexVelocity(x[j], y[j], x[j + 1], y[j + 1], px, py, pair);
      u[j] += pair[0];
      v[j] += pair[1];
      u[j + 1] += pair[2];
      v[j + 1] += pair[3];
    }
    if (!this.solver.blunt) return;
    vortexVelocity(x[n - 1], y[n - 1], x[0], y[0], px, py, pair);
    const [su, sv] = sourceVelocity(x[n - 1], y[n - 1], x[0], y[0], px, py);
    const eu = 0.5 * (share[1] * (pair[0] + pair[2]) + share[0] * su);
    const ev = 0.5 * (share[1] * (pair[1] + pair[3]) + share[0] * sv);
    u[0] += eu;
    v[0] += ev;
    u[n - 1] -= eu;
    v[n - 1] -= ev;
  }
  private readonly pair = new Float64Array(4);

  /** The wake at an angle: it starts in the middle of the edge, along its bisector, and follows the inviscid flow. */
  private trace(alpha: number): Wake {
    const { n, total, count, wakeS, solver } = this;
    const { x, y } = solver.nodes;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const gamma = Float64Array.from(solver.alongX, (g, i) => cos * g + sin * solver.alongY[i]);
    const wx = new Float64Array(count);
    const wy = new Float64Array(count);
    wx[0] = 0.5 * (x[0] + x[n - 1]);
    wy[0] = 0.5 * (y[0] + y[n - 1]);
    const alongRows: [Float64Array, Float64Array][] = [];
    let dx = 0.5 * (x[0] - x[1] + x[n - 1] - x[n - 2]);
    let dy = 0.5 * (y[0] - y[1] + y[n - 1] - y[n - 2]);
    for (let k = 1; k < count; k++) {
      const h = (wakeS[k] - wakeS[k - 1]) / Math.hypot(dx, dy);
      wx[k] = wx[k - 1] + h * dx;
      wy[k] = wy[k - 1] + h * dy;
      const [u, v] = [new Float64Array(n), new Float64Array(n)];
      this.influence(wx[k], wy[k], u, v);
      alongRows.push([u, v]);
      dx = cos + dot(u, gamma);
      dy = sin + dot(v, gamma);
    }
    // Speeds at the wake's nodes but the first, along the mean direction of the panels beside them.
    const panels = count - 1;
    const tangents: [Float64Array, Float64Array] = [new Float64Array(count), new Float64Array(count)];
    const [tx, ty] = tangents;
    const perNode: Float64Array[] = [];
    for (let k = 1; k < count; k++) {
      const [a, b] = [k - 1, Math.min(panels, k + 1)];
      const h = Math.hypot(wx[b] - wx[a], wy[b] - wy[a]);
      tx[k] = (wx[b] - wx[a]) / h;
      ty[k] = (wy[b] - wy[a]) / h;
      const [u, v] = alongRows[k - 1];
      perNode.push(u.map((value, j) => tx[k] * value + ty[k] * v[j]));
    }
    const edgeOf = (strengths: Float64Array) => 0.5 * (strengths[0] - strengths[n - 1]);
    const alongX = new Float64Array(count);
    const alongY = new Float64Array(count);
    for (const [strengths, axis, out] of [
      [solver.alongX, 0, alongX],
      [solver.alongY, 1, alongY],
    ] as const) {
      out[0] = edgeOf(strengths);
      for (let k = 1; k < count; k++) out[k] = tangents[axis][k] + dot(perNode[k - 1], strengths);
    }
    const rows = new Float64Array(count * total);
    const columns = new Float64Array(n * count);
    const add = (
      strengths: Float64Array,
      x1: number,
      y1: number,
      x2: number,
      y2: number,
      own: number,
      from: number,
      to: number,
    ) => {
      const length = Math.hypot(x2 - x1, y2 - y1);
      for (let k = 0; k < count; k++) {
        let q: number;
        if (k === 0) q = edgeOf(strengths);
        else {
          q = dot(perNode[k - 1], strengths);
          if (own === k - 1 || own === k) q += besideNode(k, own, length);
          else {
            const [u, v] = sourceVelocity(x1, y1, x2, y2, wx[k], wy[k]);
            q += u * tx[k] + v * ty[k];
          }
        }
        rows[k * total + to] += q / length;
        rows[k * total + from] -= q / length;
      }
    };
    /**
     * Speed that a panel causes at its own end. Constant strengths would make it infinite; strengths that change linearly from the middle of one panel
     * to the middle of the next give this. Behind the last node the wake goes on as before it.
     */
    const besideNode = (k: number, own: number, length: number): number => {
      if (k === panels) return 0;
      const other = own === k - 1 ? wakeS[k + 1] - wakeS[k] : wakeS[k] - wakeS[k - 1];
      const reach = 0.5 * (length + other) * Math.exp(-1 - Math.LN2);
      return ((own === k - 1 ? 1 : -1) * Math.log(length / reach)) / (2 * Math.PI);
    };
    for (let j = 0; j + 1 < n; j++) add(this.bySource[j], x[j], y[j], x[j + 1], y[j + 1], -1, j, j + 1);
    const byWake = this.strengths(wx, wy);
    for (let k = 0; k < panels; k++) {
      const strengths = byWake[k];
      add(strengths, wx[k], wy[k], wx[k + 1], wy[k + 1], k, n + k, n + k + 1);
      const length = wakeS[k + 1] - wakeS[k];
      for (let i = 0; i < n; i++) {
        columns[i * count + k + 1] -= strengths[i] / length;
        columns[i * count + k] += strengths[i] / length;
      }
    }
    return { x: wx, y: wy, alongX, alongY, rows, columns };
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let j = 0; j < a.length; j++) sum += a[j] * b[j];
  return sum;
}

/** Arc lengths of wake points whose intervals grow by a fixed ratio from the last panel's length. */
function wakeSpacing(first: number, count: number): Float64Array {
  let low = 1.0001;
  let high = 3;
  for (let k = 0; k < 60; k++) {
    const r = 0.5 * (low + high);
    if ((first * (r ** (count - 1) - 1)) / (r - 1) > WAKE_LENGTH) high = r;
    else low = r;
  }
  const s = new Float64Array(count);
  for (let k = 1; k < count; k++) s[k] = s[k - 1] + first * low ** (k - 1);
  return s;
}
