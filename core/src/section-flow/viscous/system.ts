import { EXTRA_COLUMNS as EXTRA, KEPT } from '../../kernels';
import { GROWTH, QUANTITY, STATION_RECORD } from '../boundary-layer';
import type { PanelNodes } from '../panelling';
import type { Coupling } from './coupling';
import { CoupledEquations } from './equations';
import { emptyLayers, type Layers, type ViscousConditions } from './layers';
import { TransitionMoves } from './transition-moves';

/** Columns of a response behind those of the mass defects. */
const CONSTANT = 0;
const BY_STAGNATION = 1;
const BY_UPPER = 2;
const BY_LOWER = 3;
/** Least share of H − 1 that a turbulent station keeps in one step. */
const LEAST_OF_SHAPE = 0.5;

/** Residual from which on the step may be taken with the matrix before, and the share of the residual before that it must have fallen to. */
const NEAR = 3e-5;
const FALLING = 0.02;

/** How far the linear system is solved: a share of the residual, which is no matter to how Newton’s method converges. */
const LINEAR_REST = 1e-3;
const LOOSE = 0.1;

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
    this.right = this.memory.right;
    this.stagnationRow = this.memory.stagnation;
    this.step = emptyLayers(this.total);
  }

  override load(coupling: Coupling, conditions: ViscousConditions, dead: Float64Array, start: Layers): void {
    super.load(coupling, conditions, dead, start);
    this.memory.mass.set(coupling.mass);
    this.places.reset();
    this.residual = Infinity;
    this.lastResidual = 0;
    this.memory.forget();
  }

  /** One Newton step from the state last evaluated. @throws FailedComputation where the system is singular. */
  advance(): StepReport {
    const { layers, stations, total, memory, right } = this;
    const { order, upper, lower } = stations;
    const near = this.nearEnough();
    for (let i = 0; i < total; i++) {
      const sign = layers.side[i] < 0 ? -1 : 1;
      if (!near) memory.scale[i] = Math.max(1e-9, Math.abs(layers.mass[i]));
      memory.signs[i] = sign;
      right[0][i] = -sign * this.speedResidual[i];
      right[1][i] = 0;
      right[2][i] = 0;
    }
    memory.response.fill(0);
    memory.byStagnation.fill(0);
    memory.order.set(order);
    this.sweep(0, 0, upper, this.upperEnd);
    this.sweep(1, upper, lower, this.lowerEnd);
    this.clearRows();
    this.joinWake(order[upper - 1], order[lower - 1]);
    // The first node of the wake holds the rows as they were joined; the others follow from it.
    const first = order[lower];
    const u = memory.rows[2];
    memory.response.set(u.subarray(0, total), first * total);
    right[0][first] += u[total + CONSTANT];
    right[1][first] += u[total + BY_UPPER];
    right[2][first] += u[total + BY_LOWER];
    memory.byStagnation[first] = u[total + BY_STAGNATION];
    memory.respond(2, first, lower + 1, lower + this.wake, 0);
    this.stagnationTerm();
    memory.assemble();
    this.stagnationRows();
    memory.solve(LINEAR_REST * Math.min(LOOSE, this.residual), near);
    for (const b of right) for (let i = 0; i < total; i++) b[i] *= memory.scale[i];
    return this.applyStep();
  }

  /** Whether the matrix factorised last is as good as a new one: close to the root, where nothing has changed its place or kind since. */
  private nearEnough(): boolean {
    const { residual, stations, firstTurbulent, panel } = this;
    const layout = [stations.upper, stations.lower, firstTurbulent[0], firstTurbulent[1], panel];
    const near =
      residual < NEAR && residual < FALLING * this.lastResidual && layout.every((v, k) => v === this.layout[k]);
    this.lastResidual = residual;
    this.layout = layout;
    return near;
  }
  private lastResidual = Infinity;
  private layout: number[] = [];

  private clearRows(): void {
    const { rows } = this.memory;
    rows[0].fill(0);
    rows[1].fill(0);
    rows[2].fill(0);
  }

  /** Carries the responses along one surface, and keeps those at its end. */
  private sweep(surface: 0 | 1, from: number, to: number, end: Float64Array): void {
    const { memory, total } = this;
    const { weights, rows } = memory;
    const width = total + EXTRA;
    const first = this.firstTurbulent[surface];
    const growth = memory.growth[surface];
    growth.fill(0);
    weights.fill(0, 3 * from, 3 * Math.min(to, first + 1));
    for (let p = from; p < first; p++) this.weighGrowth(p);
    this.weighPlace(surface, first - 1, GROWTH.ahead);
    if (first < to) this.weighPlace(surface, first, GROWTH.behind);
    this.clearRows();
    memory.respond(surface, -1, from, to, Math.min(to, first + 1));
    growth[total + (surface === 0 ? BY_UPPER : BY_LOWER)] += this.criterionSlope[surface] * (surface === 0 ? -1 : 1);
    if (first < to) {
      // All three abscissae move with the stagnation point.
      const there = this.growthThere[surface];
      growth[total + BY_STAGNATION] -=
        this.lastHalf[surface] * (surface === 0 ? -1 : 1) * (there[GROWTH.x1] + there[GROWTH.x2] + there[GROWTH.xt]);
    }
    end.set(rows[0].subarray(0, width), 0);
    end.set(rows[1].subarray(0, width), width);
    end.set(rows[2].subarray(0, width), 2 * width);
  }

  /** A laminar station's part of dn at the place of transition. */
  private weighGrowth(p: number): void {
    const { record, memory } = this;
    const node = this.stations.order[p];
    const at = node * STATION_RECORD + QUANTITY.growth;
    const weight = this.weight[node];
    const chain = this.chainOf(node);
    memory.weights[3 * p] += record[at + 2] * weight;
    memory.weights[3 * p + 1] += (record[at + 4] + record[at + 3] * chain[2]) * chain[1] * weight;
    memory.weights[3 * p + 2] += record[at + 3] * chain[0] * weight;
  }

  /** What the growth at the place of transition itself has of one of the two stations beside it. @param side where its slopes begin. */
  private weighPlace(surface: 0 | 1, p: number, side: number): void {
    const { weights } = this.memory;
    const there = this.growthThere[surface];
    const half = this.lastHalf[surface];
    const chain = this.chainOf(this.stations.order[p]);
    weights[3 * p] += half * there[side];
    weights[3 * p + 1] += half * (there[side + 2] + there[side + 1] * chain[2]) * chain[1];
    weights[3 * p + 2] += half * there[side + 1] * chain[0];
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
      const t = (s[i + 1] - s[i]) / (s[i + 1] - s[i - 1]);
      matrix.fill(0, at, at + total);
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
    const { total, right, layers, criterion, memory } = this;
    const rows = [0, 1].map((k) => {
      const g = memory.growth[k];
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
      critical: this.critical,
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
    const { layers, step, stations, total, right, memory, nodes } = this;
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
    for (let p = 0; p < upper; p++) this.march(order[p], p > 0 ? order[p - 1] : -1, ds0, moves[0]);
    for (let p = upper; p < lower; p++) this.march(order[p], p > upper ? order[p - 1] : -1, ds0, moves[1]);
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
    for (let w = 1; w < this.wake; w++) this.march(order[lower + w], order[lower + w - 1], ds0, moves[1]);
    return this.take(moves);
  }
  private readonly layerSpeed = new Float64Array(2048);

  /** The step of C, θ and u of a station, along the stream. */
  private march(node: number, previous: number, ds0: number, move: number): void {
    const { step, kept, layerSpeed } = this;
    const dm = step.mass;
    const at = node * KEPT;
    let pc = 0;
    let pt = 0;
    let pu = 0;
    let pm = 0;
    if (previous >= 0) {
      pc = step.c[previous];
      pt = step.theta[previous];
      pu = layerSpeed[previous];
      pm = dm[previous];
    }
    const here = dm[node];
    for (let k = 0; k < 3; k++) {
      const row = at + 3 * k;
      const value =
        kept[row] * pc +
        kept[row + 1] * pt +
        kept[row + 2] * pu +
        kept[at + 9 + k] * pm +
        kept[at + 12 + k] * here +
        kept[at + 15 + k] +
        kept[at + 18 + k] * ds0 +
        kept[at + 21 + k] * move;
      if (k === 0) step.c[node] = value;
      else if (k === 1) step.theta[node] = value;
      else layerSpeed[node] = value;
    }
  }

  /** H of a node on a wall. */
  private shapeAt(i: number, sign: number): number {
    const { mass, velocity, theta } = this.layers;
    return (sign * mass[i]) / this.edgeSpeed(sign * velocity[i]) / theta[i];
  }

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
      const kind = this.kind(i);
      const shape = kind === 'turbulent' ? this.shapeAt(i, sign) : 0;
      layers.velocity[i] += share * step.velocity[i];
      layers.mass[i] += share * sign * step.mass[i];
      if (i < n && layers.side[i] === 0) continue;
      if (kind !== 'laminar') layers.c[i] += share * step.c[i];
      layers.theta[i] += share * step.theta[i];
      if (kind !== 'turbulent' || !(layers.theta[i] > 0)) continue;
      // Close to H = 1 the closure for energy is steep, and the way back takes many steps: a station by itself stops before.
      const least = 1 + LEAST_OF_SHAPE * (shape - 1);
      if (this.shapeAt(i, sign) < least)
        layers.mass[i] = sign * this.edgeSpeed(sign * layers.velocity[i]) * least * layers.theta[i];
    }
    for (const k of [0, 1] as const) layers.transition[k] += share * moves[k];
    this.places.took(share, moves);
    return { share, largest };
  }
}
