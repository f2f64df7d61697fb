import { EXTRA_COLUMNS as EXTRA } from '../../kernels';
import { GROWTH, QUANTITY, STATION_RECORD } from '../boundary-layer';
import type { PanelNodes } from '../panelling';
import type { Coupling } from './coupling';
import { CoupledEquations, KEPT } from './equations';
import { emptyLayers, type Layers, type ViscousConditions } from './layers';
import { TransitionMoves } from './transition-moves';

/** Columns of a response behind those of the mass defects. */
const CONSTANT = 0;
const BY_STAGNATION = 1;
const BY_UPPER = 2;
const BY_LOWER = 3;
/** What one step of Newton’s method did. */
export interface StepReport {
  /** Share of the Newton step that was taken. */
  share: number;
  /** Largest relative change that the full step asked for. */
  largest: number;
}

/**
 * The coupled equations of layers, wake and panels, and one Newton step on them.
 *
 * Unknown at every node: the mass defect m = u δ*. The layer's own equations, taken in their inverse form, give the response of (C, θ, u) to m
 * along the stream, which is regular through separation:
 * ```
 *   dY_i = T_i dY_(i−1) + a_i dm_(i−1) + b_i dm_i + r_i + g_i ds₀ + h_i ds_t        Y = (C, θ, u)
 * ```
 * The panels give du = D dm + r. Equal speeds of both make a dense system for dm alone. The stagnation point s₀ follows from the speeds beside
 * it (a rank-one term). The places of transition s_t are unknowns of their own, each with the equation n(s_t) = n_crit: the dense system is solved
 * for three right-hand sides, and the two places follow from a 2 × 2 system, so that their moves can be bounded and the rest still fits.
 * @source AIAA J. 25(10), 1987, 1347–1355; the elimination in inverse form and the explicit places of transition are our own.
 */
export class CoupledSystem extends CoupledEquations {
  private readonly upperEnd: Float64Array;
  private readonly lowerEnd: Float64Array;
  private readonly growthRow: Float64Array[];
  private readonly stagnationRow: Float64Array;
  private readonly right: Float64Array[];
  private readonly step: Layers;
  private readonly places = new TransitionMoves();
  /** Bound on the share of a large step; lowered where an iteration goes in circles. */
  mostShare = 1;

  /** @param compiled false runs the TypeScript reference of the inner loops. */
  constructor(nodes: PanelNodes, wake: number, compiled = true) {
    super(nodes, wake, compiled);
    const width = this.total + EXTRA;
    this.upperEnd = new Float64Array(3 * width);
    this.lowerEnd = new Float64Array(3 * width);
    this.growthRow = [0, 1].map(() => new Float64Array(width));
    this.right = this.memory.right;
    this.stagnationRow = this.memory.stagnation;
    this.step = emptyLayers(this.total);
  }

  override load(coupling: Coupling, conditions: ViscousConditions, dead: Float64Array, start: Layers): void {
    super.load(coupling, conditions, dead, start);
    this.memory.mass.set(coupling.mass);
    this.places.reset();
    this.residual = Infinity;
  }

  /** One Newton step from the state last evaluated. @throws FailedComputation where the system is singular. */
  advance(): StepReport {
    const { layers, stations, total, memory, right } = this;
    const { order, upper, lower } = stations;
    const width = total + EXTRA;
    for (let i = 0; i < total; i++) {
      const sign = layers.side[i] < 0 ? -1 : 1;
      memory.scale[i] = Math.max(1e-9, Math.abs(layers.mass[i]));
      memory.signs[i] = sign;
      right[0][i] = -sign * this.speedResidual[i];
      right[1][i] = 0;
      right[2][i] = 0;
    }
    memory.response.fill(0);
    memory.byStagnation.fill(0);
    for (const g of this.growthRow) g.fill(0);
    // Upper surface: responses reach from the station itself to the stagnation point, in falling node order.
    const [r0, r1, r2] = memory.rows;
    const clear = () => memory.rows.forEach((r) => r.fill(0));
    const sweep = (surface: 0 | 1, from: number, to: number, end: Float64Array) => {
      clear();
      for (let p = from; p < to; p++) {
        const node = order[p];
        const previous = p > from ? order[p - 1] : -1;
        const low = surface === 0 ? node : order[from];
        const high = surface === 0 ? order[from] : node;
        this.extend(node, previous, low, high + 1, surface);
        this.keepSpeed(node, low, high + 1);
        const first = this.firstTurbulent[surface];
        if (p < first) this.criterionRow(surface, node, low, high + 1);
        if (p === first - 1) this.criterionThere(surface, node, low, high + 1, GROWTH.ahead);
        else if (p === first) this.criterionThere(surface, node, low, high + 1, GROWTH.behind);
      }
      this.growthRow[surface][total + (surface === 0 ? BY_UPPER : BY_LOWER)] +=
        this.criterionSlope[surface] * (surface === 0 ? -1 : 1);
      end.set(r0.subarray(0, width), 0);
      end.set(r1.subarray(0, width), width);
      end.set(r2.subarray(0, width), 2 * width);
    };
    sweep(0, 0, upper, this.upperEnd);
    sweep(1, upper, lower, this.lowerEnd);
    clear();
    this.joinWake(order[upper - 1], order[lower - 1]);
    this.keepSpeed(order[lower], 0, total);
    for (let w = 1; w < this.wake; w++) {
      this.extend(order[lower + w], order[lower + w - 1], 0, total, 1);
      this.keepSpeed(order[lower + w], 0, total);
    }
    this.stagnationTerm();
    memory.assemble();
    this.stagnationRows();
    memory.solve();
    for (const b of right) for (let i = 0; i < total; i++) b[i] *= memory.scale[i];
    return this.applyStep();
  }

  /** Carries the response over one interval. */
  private extend(node: number, previous: number, low: number, high: number, surface: 0 | 1): void {
    const { kept: k, memory, total } = this;
    const at = node * KEPT;
    const [r0, r1, r2] = memory.rows;
    if (previous >= 0) {
      for (let i = 0; i < 9; i++) memory.transfer[i] = k[at + i];
      memory.extend(low, high);
      memory.extend(total, total + EXTRA);
      r0[previous] += k[at + 9];
      r1[previous] += k[at + 10];
      r2[previous] += k[at + 11];
    }
    const add = (column: number, offset: number) => {
      r0[column] += k[at + offset];
      r1[column] += k[at + offset + 1];
      r2[column] += k[at + offset + 2];
    };
    add(node, 12);
    add(total + CONSTANT, 15);
    add(total + BY_STAGNATION, 18);
    add(total + (surface === 0 ? BY_UPPER : BY_LOWER), 21);
  }

  /** Keeps the response of a node's speed for its row: (D − B) dm = b₀ − r + g ds₀ + h ds_t. */
  private keepSpeed(node: number, low: number, high: number): void {
    const { total, right, memory } = this;
    const u = memory.rows[2];
    memory.response.set(u.subarray(low, high), node * total + low);
    right[0][node] += u[total + CONSTANT];
    right[1][node] += u[total + BY_UPPER];
    right[2][node] += u[total + BY_LOWER];
    memory.byStagnation[node] = u[total + BY_STAGNATION];
  }

  /** Adds a laminar station's part of dn at the place of transition, as a row over everything. */
  private criterionRow(surface: 0 | 1, node: number, low: number, high: number): void {
    const row = this.growthRow[surface];
    const [, r1, r2] = this.memory.rows;
    const at = node * STATION_RECORD + QUANTITY.growth;
    const { record, total } = this;
    const weight = this.weight[node];
    const chain = this.chainOf(node);
    const byTheta = record[at + 2] * weight;
    const bySpeed = (record[at + 4] + record[at + 3] * chain[2]) * chain[1] * weight;
    if (byTheta !== 0 || bySpeed !== 0) {
      for (let j = low; j < high; j++) row[j] += byTheta * r1[j] + bySpeed * r2[j];
      for (let e = 0; e < EXTRA; e++) row[total + e] += byTheta * r1[total + e] + bySpeed * r2[total + e];
    }
    row[node] += record[at + 3] * chain[0] * weight;
  }

  /** Adds what the growth at the place of transition itself has of one of the two stations beside it. @param side where its slopes begin. */
  private criterionThere(surface: 0 | 1, node: number, low: number, high: number, side: number): void {
    const row = this.growthRow[surface];
    const [, r1, r2] = this.memory.rows;
    const { total } = this;
    const there = this.growthThere[surface];
    const half = this.lastHalf[surface];
    const chain = this.chainOf(node);
    const byTheta = half * there[side];
    const bySpeed = half * (there[side + 2] + there[side + 1] * chain[2]) * chain[1];
    if (byTheta !== 0 || bySpeed !== 0) {
      for (let j = low; j < high; j++) row[j] += byTheta * r1[j] + bySpeed * r2[j];
      for (let e = 0; e < EXTRA; e++) row[total + e] += byTheta * r1[total + e] + bySpeed * r2[total + e];
    }
    row[node] += half * there[side + 1] * chain[0];
    // All three abscissae move with the stagnation point.
    if (side === GROWTH.behind)
      row[total + BY_STAGNATION] -=
        half * (surface === 0 ? -1 : 1) * (there[GROWTH.x1] + there[GROWTH.x2] + there[GROWTH.xt]);
  }

  private joinWake(upper: number, lower: number): void {
    const { layers, total, upperEnd, lowerEnd, nodes } = this;
    const n = nodes.x.length;
    const width = total + EXTRA;
    const [r0, r1, r2] = this.memory.rows;
    const [ta, tb] = [layers.theta[upper], layers.theta[lower]];
    const theta = ta + tb;
    const [ca, cb] = [layers.c[upper], layers.c[lower]];
    const [ua, ka] = [this.edgeSpeed(-layers.velocity[upper]), this.edgeSlope(-layers.velocity[upper])];
    const [ub, kb] = [this.edgeSpeed(layers.velocity[lower]), this.edgeSlope(layers.velocity[lower])];
    const [uw, kw] = [this.edgeSpeed(layers.velocity[n]), this.edgeSlope(layers.velocity[n])];
    const [da, db, dw] = [-layers.mass[upper] / ua, layers.mass[lower] / ub, layers.mass[n] / uw];
    const k = uw / (dw * kw);
    for (let j = 0; j < width; j++) {
      const dta = upperEnd[width + j];
      const dtb = lowerEnd[width + j];
      r0[j] = (ta * upperEnd[j] + tb * lowerEnd[j] + ((ca - cb) * (dta * tb - dtb * ta)) / theta) / theta;
      r1[j] = dta + dtb;
      const change = (-da / ua) * ka * upperEnd[2 * width + j] + (-db / ub) * kb * lowerEnd[2 * width + j];
      r2[j] = -k * change;
    }
    r2[upper] -= k / ua;
    r2[lower] -= k / ub;
    r2[n] += k / uw;
    r0[total + CONSTANT] -= layers.c[n] - (ca * ta + cb * tb) / theta;
    r1[total + CONSTANT] -= layers.theta[n] - theta;
    r2[total + CONSTANT] += k * (dw - da - db - this.gap);
  }

  /** ds₀ = w·dV of the two nodes beside the stagnation point, put in as a rank-one term. */
  private stagnationTerm(): void {
    const { layers, nodes, total, memory, right, panel } = this;
    memory.stagnation.fill(0);
    if (panel < 0) return;
    const { s } = nodes;
    const [va, vb] = [layers.velocity[panel], layers.velocity[panel + 1]];
    const scale = (s[panel + 1] - s[panel]) / ((vb - va) * (vb - va));
    const [wa, wb] = [-vb * scale, va * scale];
    const { mass, signs, stagnation } = memory;
    for (let j = 0; j < total; j++)
      stagnation[j] = signs[j] * (wa * mass[panel * total + j] + wb * mass[(panel + 1) * total + j]);
    const constant = this.stagnationConstant();
    for (let i = 0; i < total; i++) right[0][i] += memory.byStagnation[i] * constant;
  }

  /** A node on the stagnation point takes the mean of its neighbours' mass. */
  private stagnationRows(): void {
    const { layers, nodes, total, memory, right } = this;
    const { s } = nodes;
    const { matrix, stride, scale, signs } = memory;
    for (let i = 1; i + 1 < s.length; i++) {
      if (layers.side[i] !== 0) continue;
      const at = i * stride;
      matrix.fill(0, at, at + total);
      const t = (s[i + 1] - s[i]) / (s[i + 1] - s[i - 1]);
      matrix[at + i] = scale[i];
      matrix[at + i - 1] = -t * signs[i - 1] * scale[i - 1];
      matrix[at + i + 1] = -(1 - t) * signs[i + 1] * scale[i + 1];
      right[0][i] = -(layers.mass[i] - t * layers.mass[i - 1] - (1 - t) * layers.mass[i + 1]);
      right[1][i] = 0;
      right[2][i] = 0;
    }
  }

  /** n less the critical one at both places of transition. */
  get criteria(): readonly [number, number] {
    return this.criterion;
  }

  /** Whether a place of transition is being driven on, so that residuals say nothing about progress. */
  get driven(): boolean {
    return this.places.driven;
  }

  /** How n at both places of transition answers the step and the places' own moves, and how far these go. */
  private transitionMoves(): [number, number] {
    const { total, right, layers, growthRow, criterion } = this;
    const rows = [0, 1].map((k) => {
      const g = growthRow[k];
      const out = [criterion[k] + g[total + CONSTANT], g[total + BY_UPPER], g[total + BY_LOWER]];
      const stagnation = g[total + BY_STAGNATION];
      for (let e = 0; e < 3; e++) {
        let sum = 0;
        for (let j = 0; j < total; j++) sum += g[j] * right[e][j];
        if (this.panel >= 0) {
          let move = 0;
          for (let j = 0; j < total; j++) move += this.stagnationRow[j] * right[e][j];
          if (e === 0) move += this.stagnationConstant();
          sum += stagnation * move;
        }
        out[e] += sum;
      }
      return out;
    });
    return this.places.decide(rows, {
      criterion,
      critical: this.conditions.criticalAmplification,
      free: [!layers.held[0], !layers.held[1]],
      flowResidual: this.flowResidual,
      interval: (k) => {
        const p = this.firstTurbulent[k];
        const { order } = this.stations;
        return Math.abs(this.nodes.s[order[p]] - this.nodes.s[order[p - 1]]);
      },
    });
  }

  private stagnationConstant(): number {
    const { layers, panel } = this;
    const { s } = this.nodes;
    const [va, vb] = [layers.velocity[panel], layers.velocity[panel + 1]];
    const scale = (s[panel + 1] - s[panel]) / ((vb - va) * (vb - va));
    return -vb * scale * this.speedResidual[panel] + va * scale * this.speedResidual[panel + 1];
  }

  /** Finds the whole step of all unknowns, bounds it, and takes it. */
  private applyStep(): StepReport {
    const { layers, step, stations, total, right, kept, memory, nodes } = this;
    const { order, upper, lower } = stations;
    const n = nodes.x.length;
    const moves = this.transitionMoves();
    const dm = step.mass;
    for (let i = 0; i < total; i++) dm[i] = right[0][i] + moves[0] * right[1][i] + moves[1] * right[2][i];
    let ds0 = 0;
    if (this.panel >= 0) {
      ds0 = this.stagnationConstant();
      for (let j = 0; j < total; j++) ds0 += this.stagnationRow[j] * dm[j];
    }
    // Signed speeds by the panels; C and θ along the stream.
    for (let j = 0; j < total; j++) memory.vector[j] = memory.signs[j] * dm[j];
    memory.multiply();
    for (let i = 0; i < total; i++) step.velocity[i] = this.speedResidual[i] + memory.product[i];
    const march = (p: number, previous: number, surface: 0 | 1) => {
      const node = order[p];
      const at = node * KEPT;
      const [pc, pt, pu, pm] =
        previous >= 0
          ? [step.c[previous], step.theta[previous], this.layerSpeed[previous], dm[previous]]
          : [0, 0, 0, 0];
      const y = (k: number) =>
        kept[at + 3 * k] * pc +
        kept[at + 3 * k + 1] * pt +
        kept[at + 3 * k + 2] * pu +
        kept[at + 9 + k] * pm +
        kept[at + 12 + k] * dm[node] +
        kept[at + 15 + k] +
        kept[at + 18 + k] * ds0 +
        kept[at + 21 + k] * moves[surface];
      step.c[node] = y(0);
      step.theta[node] = y(1);
      this.layerSpeed[node] = y(2);
    };
    for (let p = 0; p < upper; p++) march(p, p > 0 ? order[p - 1] : -1, 0);
    for (let p = upper; p < lower; p++) march(p, p > upper ? order[p - 1] : -1, 1);
    const [a, b] = [order[upper - 1], order[lower - 1]];
    const theta = layers.theta[a] + layers.theta[b];
    step.theta[n] = step.theta[a] + step.theta[b] - (layers.theta[n] - theta);
    step.c[n] =
      (layers.theta[a] * step.c[a] +
        layers.theta[b] * step.c[b] +
        ((layers.c[a] - layers.c[b]) * (step.theta[a] * layers.theta[b] - step.theta[b] * layers.theta[a])) / theta) /
        theta -
      (layers.c[n] - (layers.c[a] * layers.theta[a] + layers.c[b] * layers.theta[b]) / theta);
    this.layerSpeed[n] = step.velocity[n];
    for (let w = 1; w < this.wake; w++) march(lower + w, order[lower + w - 1], 1);
    return this.take(moves);
  }
  private readonly layerSpeed = new Float64Array(2048);

  private take(moves: [number, number]): StepReport {
    const { layers, step, stations, total, nodes } = this;
    const n = nodes.x.length;
    let share = 1;
    let largest = 0;

    const bound = (change: number, up: number, down: number) => {
      largest = Math.max(largest, Math.abs(change));
      if (change > up) share = Math.min(share, up / change);
      else if (change < -down) share = Math.min(share, down / -change);
    };
    for (let p = 0; p < stations.lower + this.wake; p++) {
      const node = stations.order[p];
      const sign = layers.side[node] < 0 ? -1 : 1;
      const u = sign * layers.velocity[node];
      const du = sign * step.velocity[node];
      bound(step.theta[node] / layers.theta[node], 1, 0.5);
      bound(step.mass[node] / (sign * layers.mass[node]) - du / u, 1, 0.5);
      if (this.kind(node) !== 'laminar') bound(step.c[node] / layers.c[node], 1.5, 0.6);
      bound(du / Math.max(u, 0.3), 0.5, 0.4);
    }
    if (largest > 0.05) share = Math.min(share, this.mostShare);
    if (!Number.isFinite(largest)) return { share: 0, largest: Infinity };
    for (let i = 0; i < total; i++) {
      const sign = layers.side[i] < 0 ? -1 : 1;
      layers.velocity[i] += share * step.velocity[i];
      layers.mass[i] += share * sign * step.mass[i];
      if (i < n && layers.side[i] === 0) continue;
      if (this.kind(i) !== 'laminar') layers.c[i] += share * step.c[i];
      layers.theta[i] += share * step.theta[i];
    }
    for (const k of [0, 1] as const) layers.transition[k] += share * moves[k];
    this.places.took(share, moves);
    return { share, largest };
  }
}
