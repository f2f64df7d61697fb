import { solveFactorised } from '../../numerics';
import type { InviscidSection } from '../inviscid';
import { sourceStream, vortexVelocity } from '../influence';
import { trailingEdgeShares } from '../inviscid';

/**
 * How the mass defect changes the edge speed.
 *
 * The displacement of the flow acts as sources σ = dM∕ds on the panels of section and wake, with M = V·δ* the signed mass defect along the loop
 * (and along the wake). Node speeds are then V = V_inviscid + D·M, with D made of the panel method's own factorisation.
 * Nodes: 0 … n−1 on the section along the loop, n … n+w−1 along the wake.
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

/** Velocity of a constant source panel at a point, [u, v]. */
function sourceVelocity(x1: number, y1: number, x2: number, y2: number, px: number, py: number): [number, number] {
  const dx = x2 - x1;
  const dy = y2 - y1;
  const length = Math.hypot(dx, dy);
  const tx = dx / length;
  const ty = dy / length;
  const X = (px - x1) * tx + (py - y1) * ty;
  const Y = (py - y1) * tx - (px - x1) * ty;
  const u = Math.log((X * X + Y * Y) / ((X - length) ** 2 + Y * Y)) / (4 * Math.PI);
  const v = Math.abs(Y) < 1e-12 ? 0 : (Math.atan((length - X) / Y) + Math.atan(X / Y)) / (2 * Math.PI);
  return [u * tx - v * ty, u * ty + v * tx];
}

/** Panels of the section alone, whose columns do not depend on the angle. */
export class SectionCoupling {
  /** Node strengths for unit source on each section panel, column by column. */
  private readonly bySource: Float64Array[];

  constructor(readonly solver: InviscidSection) {
    const { x, y } = solver.nodes;
    this.bySource = [];
    for (let j = 0; j + 1 < x.length; j++) this.bySource.push(this.column(x[j], y[j], x[j + 1], y[j + 1]));
  }

  private column(x1: number, y1: number, x2: number, y2: number): Float64Array {
    const { x, y } = this.solver.nodes;
    const n = x.length;
    const b = new Float64Array(n + 1);
    const rows = this.solver.blunt ? n : n - 1;
    for (let i = 0; i < rows; i++) b[i] = -sourceStream(x1, y1, x2, y2, x[i], y[i]);
    return solveFactorised(this.solver.system, b);
  }

  /** The coupling at one angle: its wake follows the inviscid flow. @param count wake points. */
  at(alpha: number, count: number): Coupling {
    const { solver } = this;
    const { x, y } = solver.nodes;
    const n = x.length;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const gamma = Float64Array.from(solver.alongX, (g, i) => cos * g + sin * solver.alongY[i]);
    const share = solver.blunt ? trailingEdgeShares(x, y) : ([0, 0] as [number, number]);
    const pair = new Float64Array(4);
    /** Velocity from node strengths at a point. */
    const velocity = (px: number, py: number, strengths: ArrayLike<number>): [number, number] => {
      let u = 0;
      let v = 0;
      for (let j = 0; j + 1 < n; j++) {
        vortexVelocity(x[j], y[j], x[j + 1], y[j + 1], px, py, pair);
        u += strengths[j] * pair[0] + strengths[j + 1] * pair[2];
        v += strengths[j] * pair[1] + strengths[j + 1] * pair[3];
      }
      if (solver.blunt) {
        const q = 0.5 * (strengths[0] - strengths[n - 1]);
        vortexVelocity(x[n - 1], y[n - 1], x[0], y[0], px, py, pair);
        const [su, sv] = sourceVelocity(x[n - 1], y[n - 1], x[0], y[0], px, py);
        u += q * (share[1] * (pair[0] + pair[2]) + share[0] * su);
        v += q * (share[1] * (pair[1] + pair[3]) + share[0] * sv);
      }
      return [u, v];
    };
    // The wake starts in the middle of the edge, along its bisector, and follows the flow.
    const wakeX = new Float64Array(count);
    const wakeY = new Float64Array(count);
    const wakeS = new Float64Array(count);
    wakeX[0] = 0.5 * (x[0] + x[n - 1]);
    wakeY[0] = 0.5 * (y[0] + y[n - 1]);
    const first = 0.5 * (solver.nodes.s[1] - solver.nodes.s[0] + solver.nodes.s[n - 1] - solver.nodes.s[n - 2]);
    let low = 1.0001;
    let high = 3;
    for (let k = 0; k < 60; k++) {
      const r = 0.5 * (low + high);
      if ((first * (r ** (count - 1) - 1)) / (r - 1) > 1) high = r;
      else low = r;
    }
    let dx = 0.5 * (x[0] - x[1] + x[n - 1] - x[n - 2]);
    let dy = 0.5 * (y[0] - y[1] + y[n - 1] - y[n - 2]);
    for (let k = 1; k < count; k++) {
      const h = first * low ** (k - 1);
      const norm = Math.hypot(dx, dy);
      wakeX[k] = wakeX[k - 1] + (h * dx) / norm;
      wakeY[k] = wakeY[k - 1] + (h * dy) / norm;
      wakeS[k] = wakeS[k - 1] + h;
      const [u, v] = velocity(wakeX[k], wakeY[k], gamma);
      dx = cos + u;
      dy = sin + v;
    }
    const total = n + count;
    const inviscid = new Float64Array(total);
    for (let i = 0; i < n; i++) inviscid[i] = -gamma[i];
    // Wake speeds are taken in the middles of wake panels, where each panel's own sources cause none, and shared out to the nodes.
    const panels = count - 1;
    const tangent = (k: number): [number, number] => {
      const h = wakeS[k + 1] - wakeS[k];
      return [(wakeX[k + 1] - wakeX[k]) / h, (wakeY[k + 1] - wakeY[k]) / h];
    };
    const middle = (k: number): [number, number] => [0.5 * (wakeX[k] + wakeX[k + 1]), 0.5 * (wakeY[k] + wakeY[k + 1])];
    // Tangential velocity at wake middles for unit strength at every node.
    const perNode: Float64Array[] = [];
    for (let k = 0; k < panels; k++) {
      const [px, py] = middle(k);
      const [tx, ty] = tangent(k);
      const row = new Float64Array(n);
      for (let j = 0; j + 1 < n; j++) {
        vortexVelocity(x[j], y[j], x[j + 1], y[j + 1], px, py, pair);
        row[j] += pair[0] * tx + pair[1] * ty;
        row[j + 1] += pair[2] * tx + pair[3] * ty;
      }
      if (solver.blunt) {
        vortexVelocity(x[n - 1], y[n - 1], x[0], y[0], px, py, pair);
        const [su, sv] = sourceVelocity(x[n - 1], y[n - 1], x[0], y[0], px, py);
        const edge = share[1] * ((pair[0] + pair[2]) * tx + (pair[1] + pair[3]) * ty) + share[0] * (su * tx + sv * ty);
        row[0] += 0.5 * edge;
        row[n - 1] -= 0.5 * edge;
      }
      perNode.push(row);
    }
    const dot = (row: Float64Array, g: ArrayLike<number>) => {
      let sum = 0;
      for (let j = 0; j < n; j++) sum += row[j] * g[j];
      return sum;
    };
    const toNodes = (mid: Float64Array, edge: number, out: Float64Array, offset: number) => {
      out[offset] = edge;
      for (let k = 1; k < panels; k++) out[offset + k] = 0.5 * (mid[k - 1] + mid[k]);
      out[offset + panels] = mid[panels - 1];
    };
    const mid = new Float64Array(panels);
    for (let k = 0; k < panels; k++) {
      const [tx, ty] = tangent(k);
      mid[k] = cos * tx + sin * ty + dot(perNode[k], gamma);
    }
    toNodes(mid, 0.5 * (gamma[0] - gamma[n - 1]), inviscid, n);
    // Source columns: node strengths, then speeds everywhere, then mass by differences.
    const mass = new Float64Array(total * total);
    const add = (
      strengths: Float64Array,
      x1: number,
      y1: number,
      x2: number,
      y2: number,
      own: number,
      from: number,
      to: number,
      length: number,
    ) => {
      for (let k = 0; k < panels; k++) {
        const [px, py] = middle(k);
        const [tx, ty] = tangent(k);
        let q = dot(perNode[k], strengths);
        if (k !== own) {
          const [u, v] = sourceVelocity(x1, y1, x2, y2, px, py);
          q += u * tx + v * ty;
        }
        mid[k] = q;
      }
      const column = new Float64Array(total);
      for (let i = 0; i < n; i++) column[i] = -strengths[i];
      toNodes(mid, 0.5 * (strengths[0] - strengths[n - 1]), column, n);
      for (let i = 0; i < total; i++) {
        mass[i * total + to] += column[i] / length;
        mass[i * total + from] -= column[i] / length;
      }
    };
    for (let j = 0; j + 1 < n; j++) {
      add(this.bySource[j], x[j], y[j], x[j + 1], y[j + 1], -1, j, j + 1, Math.hypot(x[j + 1] - x[j], y[j + 1] - y[j]));
    }
    for (let k = 0; k < panels; k++) {
      const strengths = this.column(wakeX[k], wakeY[k], wakeX[k + 1], wakeY[k + 1]);
      add(strengths, wakeX[k], wakeY[k], wakeX[k + 1], wakeY[k + 1], k, n + k, n + k + 1, wakeS[k + 1] - wakeS[k]);
    }
    return { nodes: n, wake: count, wakeX, wakeY, wakeS, inviscid, mass };
  }
}
