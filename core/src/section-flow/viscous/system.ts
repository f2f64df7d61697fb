import { CoupledMemory, EXTRA_COLUMNS as EXTRA } from '../../kernels';
import {
  evaluateStation,
  INTERVAL_RECORD,
  intervalResiduals,
  QUANTITY,
  RESIDUAL,
  similarityResiduals,
  STATION_RECORD,
  transitionResiduals,
  type LayerFlow,
  type LayerKind,
} from '../boundary-layer';
import type { PanelNodes } from '../panelling';
import type { Coupling } from './coupling';
import {
  copyLayers,
  emptyLayers,
  orderStations,
  stagnationPanel,
  tripArc,
  type Layers,
  type Stations,
  type ViscousConditions,
} from './layers';

/** Numbers kept per station: T (9), columns of m before, m here, residual, stagnation and transition (3 each). */
const KEPT = 24;
/** Columns of a response behind those of the mass defects. */
const CONSTANT = 0;
const BY_STAGNATION = 1;
const BY_UPPER = 2;
const BY_LOWER = 3;
/** How far transition may move in one iteration, chords. */
const MOST_TRANSITION = 0.05;
/** A place that has turned back may still move this far, chords; less with every iteration. */
const FREE_MOVE = 0.01;
const LEAST_SPEED = 1e-5;
/** Residual of the flow above which the places of transition are held back in proportion. */
const CALM = 0.03;

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
export class CoupledSystem {
  readonly layers: Layers;
  readonly stations: Stations;
  private readonly total: number;
  private readonly residuals = new Float64Array(INTERVAL_RECORD);
  private readonly record: Float64Array;
  private readonly kept: Float64Array;
  private readonly upperEnd: Float64Array;
  private readonly lowerEnd: Float64Array;
  private readonly growthRow: Float64Array[];
  private readonly memory: CoupledMemory;
  private readonly stagnationRow: Float64Array;
  private readonly right: Float64Array[];
  private readonly before: Layers;
  private readonly step: Layers;
  private readonly speedResidual: Float64Array;
  /** Index in `order` of the first turbulent station of each surface. */
  private readonly firstTurbulent: [number, number] = [0, 0];
  private readonly criterion: [number, number] = [0, 0];
  private readonly moveLimit: [number, number] = [MOST_TRANSITION, MOST_TRANSITION];
  private readonly lastMove: [number, number] = [0, 0];
  private panel = -1;
  private coupling!: Coupling;
  private conditions!: Required<Pick<ViscousConditions, 'reynolds' | 'mach' | 'criticalAmplification'>> &
    ViscousConditions;
  private flow!: LayerFlow;
  private gap = 0;
  private dead: Float64Array;
  /** Largest residual of the layers' equations, of the speeds and of transition. */
  residual = Infinity;
  /** Bound on the share of a large step; lowered where an iteration goes in circles. */
  mostShare = 1;
  private steps = 0;
  who = '';
  private flowResidual = 0;
  /** For reports: which equation and node has the largest residual. */
  worst = '';

  /** @param compiled false runs the TypeScript reference of the inner loops. */
  constructor(
    private readonly nodes: PanelNodes,
    private readonly wake: number,
    compiled = true,
  ) {
    const total = nodes.x.length + wake;
    this.total = total;
    const width = total + EXTRA;
    this.layers = emptyLayers(total);
    this.before = emptyLayers(total);
    this.step = emptyLayers(total);
    this.stations = { order: new Int32Array(total), upper: 0, lower: 0 };
    this.record = new Float64Array(total * STATION_RECORD);
    this.kept = new Float64Array(total * KEPT);
    this.upperEnd = new Float64Array(3 * width);
    this.lowerEnd = new Float64Array(3 * width);
    this.growthRow = [0, 1].map(() => new Float64Array(width));
    this.memory = new CoupledMemory(total, compiled);
    this.right = this.memory.right;
    this.stagnationRow = this.memory.stagnation;
    this.speedResidual = new Float64Array(total);
    this.dead = new Float64Array(wake);
  }

  /** Takes up a problem: the coupling at an angle, the conditions, and where to start from. */
  load(coupling: Coupling, conditions: ViscousConditions, dead: Float64Array, start: Layers): void {
    this.coupling = coupling;
    this.conditions = {
      ...conditions,
      mach: conditions.mach ?? 0,
      criticalAmplification: conditions.criticalAmplification ?? 9,
    };
    const m = conditions.mach ?? 0;
    this.compression = (m / (1 + Math.sqrt(1 - m * m))) ** 2;
    this.flow = { reynolds: conditions.reynolds, mach: conditions.mach ?? 0 };
    this.dead = dead;
    this.gap = dead[0];
    copyLayers(start, this.layers);
    this.memory.mass.set(coupling.mass);
    this.moveLimit[0] = this.moveLimit[1] = MOST_TRANSITION;
    this.lastMove[0] = this.lastMove[1] = 0;
    this.residual = Infinity;
    this.steps = 0;
  }

  /** Edge velocity from the speed of the incompressible plane, and its slope. @source NACA TN-1006, 1946 (Kármán–Tsien). */
  private edgeSpeed(u: number): number {
    const l = this.compression;
    return l === 0 ? u : (u * (1 - l)) / (1 - l * u * u);
  }
  private edgeSlope(u: number): number {
    const l = this.compression;
    const d = 1 - l * u * u;
    return l === 0 ? 1 : ((1 - l) * (1 + l * u * u)) / (d * d);
  }
  private compression = 0;

  private deadAt(node: number): number {
    const w = node - this.nodes.x.length;
    return w >= 0 ? this.dead[w] : 0;
  }

  kind(node: number): LayerKind {
    if (node >= this.nodes.x.length) return 'wake';
    return this.layers.turbulent[node] ? 'turbulent' : 'laminar';
  }

  /** Distance of a node from the stagnation point; in the wake one chord more than from the edge, since only differences count there. */
  private distance(node: number): number {
    const n = this.nodes.x.length;
    if (node >= n) return 1 + this.coupling.wakeS[node - n];
    return Math.abs(this.nodes.s[node] - this.layers.stagnation);
  }

  /** Keeps every station's unknowns where the closures are defined, and gives nodes that changed their side or kind values of their neighbours. */
  private settle(): void {
    const { layers, stations, nodes } = this;
    const { s } = nodes;
    const n = s.length;
    const found = stagnationPanel(s, layers.velocity, layers.stagnation);
    if (found >= 0) {
      this.panel = found;
      const [a, b] = [layers.velocity[found], layers.velocity[found + 1]];
      layers.stagnation = s[found] + ((s[found + 1] - s[found]) * -a) / (b - a);
    } else this.panel = -1;
    this.before.side.set(layers.side);
    orderStations(s, this.wake, layers.stagnation, layers.side, stations);
    for (const surface of [0, 1] as const) {
      const from = surface === 0 ? 0 : stations.upper;
      const to = surface === 0 ? stations.upper : stations.lower;
      const sign = surface === 0 ? -1 : 1;
      const { order } = stations;
      // From the edge forward: nodes that lie newly on this side take their layer from behind.
      for (let p = to - 1; p >= from; p--) {
        const node = order[p];
        let u = sign * layers.velocity[node];
        const fresh = this.before.side[node] !== layers.side[node];
        if (!(u > LEAST_SPEED)) {
          u = LEAST_SPEED;
          layers.velocity[node] = sign * u;
        }
        const ue = this.edgeSpeed(u);
        if (fresh && p + 1 < to) {
          const behind = order[p + 1];
          const uBehind = this.edgeSpeed(sign * layers.velocity[behind]);
          layers.theta[node] = layers.theta[behind];
          layers.mass[node] = sign * ue * ((sign * layers.mass[behind]) / uBehind);
          layers.c[node] = layers.turbulent[behind] ? layers.c[behind] : 0;
          layers.turbulent[node] = layers.turbulent[behind];
        }
      }
      this.settleTransition(surface, from, to);
    }
    for (let p = 0; p < stations.order.length; p++) {
      const node = stations.order[p];
      if (p >= stations.lower + this.wake) break;
      const sign = layers.side[node] < 0 ? -1 : 1;
      if (!(sign * layers.velocity[node] > LEAST_SPEED)) layers.velocity[node] = sign * LEAST_SPEED;
      if (!(layers.theta[node] > 1e-9)) layers.theta[node] = 1e-9;
      const ue = this.edgeSpeed(sign * layers.velocity[node]);
      const thin = layers.theta[node] * this.leastShape(node >= n ? 1.000002 : 1.05, ue) + this.deadAt(node);
      if (!((sign * layers.mass[node]) / ue > thin)) layers.mass[node] = sign * ue * thin;
      if (this.kind(node) !== 'laminar') layers.c[node] = Math.min(0.4, Math.max(1e-4, layers.c[node]));
    }
  }

  /** H at which the kinematic shape factor has a given least value, at an edge velocity. */
  private leastShape(kinematic: number, edge: number): number {
    const m2 = this.flow.mach * this.flow.mach;
    if (m2 === 0) return kinematic;
    const local = (m2 * edge * edge) / Math.max(0.05, 1 + 0.2 * m2 * (1 - edge * edge));
    return kinematic * (1 + 0.113 * local) + 0.29 * local;
  }

  /** Bounds the place of transition and finds the interval it lies in. */
  private settleTransition(surface: 0 | 1, from: number, to: number): void {
    const { layers, stations, nodes, conditions } = this;
    const { s } = nodes;
    const sign = surface === 0 ? -1 : 1;
    const { order } = stations;
    const trip = tripArc(
      nodes.x,
      s,
      layers.stagnation,
      surface === 0,
      surface === 0 ? conditions.tripTop : conditions.tripBottom,
    );
    const [x0, x1] = [Math.abs(s[order[from]] - layers.stagnation), Math.abs(s[order[from + 1]] - layers.stagnation)];
    const bound = Math.max(x0 + 0.01 * (x1 - x0), sign * (trip - layers.stagnation));
    let place = sign * (layers.transition[surface] - layers.stagnation);
    place = Math.max(place, x0 + 0.01 * (x1 - x0));
    if (layers.held[surface] || place >= bound) {
      place = bound;
      layers.held[surface] = true;
    }
    layers.transition[surface] = layers.stagnation + sign * place;
    let first = to - 1;
    for (let p = from + 1; p < to; p++) {
      if (Math.abs(s[order[p]] - layers.stagnation) >= place) {
        first = p;
        break;
      }
    }
    this.firstTurbulent[surface] = first;
    // Stations that change their kind take the shape of a neighbour that is of that kind already; the one that transition has just passed keeps
    // its own, with which the equations are continuous.
    let changed = 0;
    for (let p = from; p < first; p++) changed += layers.turbulent[order[p]];
    const shaped = (node: number, like: number) => {
      const u = this.edgeSpeed(sign * layers.velocity[node]);
      const uLike = this.edgeSpeed(sign * layers.velocity[like]);
      const shape = (sign * layers.mass[like]) / uLike / layers.theta[like];
      layers.mass[node] = sign * u * shape * layers.theta[node];
    };
    for (let p = from; p < first; p++) {
      const node = order[p];
      if (!layers.turbulent[node]) continue;
      layers.turbulent[node] = 0;
      if (p === from || changed < 2) continue;
      layers.theta[node] = Math.min(layers.theta[node], layers.theta[order[p - 1]]);
      shaped(node, order[p - 1]);
    }
    for (let p = to - 1; p >= first; p--) {
      const node = order[p];
      if (layers.turbulent[node]) continue;
      layers.turbulent[node] = 1;
      const behind = p + 1 < to && layers.turbulent[order[p + 1]] ? order[p + 1] : -1;
      layers.c[node] = behind >= 0 ? layers.c[behind] : 0.05;
      if (behind >= 0 && p > first) shaped(node, behind);
    }
  }

  /** Evaluates all equations with their derivatives at the present unknowns. @returns the largest residual. */
  evaluate(): number {
    this.settle();
    const { layers, stations, coupling, nodes, total } = this;
    const { order, upper, lower } = stations;
    this.residual = 0;
    this.flowResidual = 0;
    for (let p = 0; p < lower + this.wake; p++) this.recordStation(order[p]);
    for (const surface of [0, 1] as const) {
      const from = surface === 0 ? 0 : upper;
      const to = surface === 0 ? upper : lower;
      this.firstStation(order[from]);
      for (let p = from + 1; p < to; p++)
        this.interval(order[p - 1], order[p], surface, p === this.firstTurbulent[surface]);
      this.evaluateCriterion(surface);
    }
    for (let w = 1; w < this.wake; w++) this.interval(order[lower + w - 1], order[lower + w], 1, false);
    this.wakeStart();
    // Speeds: what the panels make of the mass defects, against what the layers hold.
    const n = nodes.x.length;
    const { memory } = this;
    memory.vector.set(layers.mass);
    memory.multiply();
    for (let i = 0; i < total; i++) {
      const r = coupling.inviscid[i] - layers.velocity[i] + memory.product[i];
      this.speedResidual[i] = r;
      if (i < n && layers.side[i] === 0) continue;
      this.note(r, 'speed', i);
    }
    return this.residual;
  }

  private note(r: number, what: string, node: number): void {
    const size = Math.abs(r);
    if (what !== 'transition' && size > this.flowResidual) this.flowResidual = size;
    if (size > this.residual || Number.isNaN(size)) {
      this.residual = Number.isNaN(size) ? Infinity : size;
      this.worst = `${what} ${node}`;
    }
  }

  private recordStation(node: number): void {
    const { layers } = this;
    const sign = layers.side[node] < 0 ? -1 : 1;
    const speed = this.edgeSpeed(sign * layers.velocity[node]);
    evaluateStation(
      this.record,
      node * STATION_RECORD,
      this.kind(node),
      layers.c[node],
      layers.theta[node],
      (sign * layers.mass[node]) / speed,
      speed,
      this.flow,
      this.deadAt(node),
    );
  }

  private firstStation(node: number): void {
    similarityResiduals(this.residuals, this.record, node * STATION_RECORD, this.distance(node), 1);
    this.keep(-1, node);
  }

  private interval(a: number, b: number, surface: 0 | 1, transition: boolean): void {
    const { layers, record } = this;
    const x1 = this.distance(a);
    const x2 = this.distance(b);
    const [from, to] = [a * STATION_RECORD, b * STATION_RECORD];
    if (transition) {
      const sign = surface === 0 ? -1 : 1;
      const xt = sign * (layers.transition[surface] - layers.stagnation);
      transitionResiduals(this.residuals, record, from, record, to, x1, x2, xt, this.flow);
    } else intervalResiduals(this.residuals, record, from, record, to, x1, x2, this.kind(b) === 'laminar');
    this.keep(a, b);
  }

  /**
   * Solves the 3 × 3 block of a station for its own (C, θ, u) and keeps the response to everything else.
   * @param before the station before, or −1.
   */
  private keep(before: number, node: number): void {
    const { residuals, record, kept, inverse, layers } = this;
    const laminar = this.kind(node) === 'laminar';
    const scale = laminar ? 1 : 0.5 / record[node * STATION_RECORD + QUANTITY.thickness];
    this.note(laminar ? 0 : residuals[0] * scale, 'first', node);
    this.note(residuals[RESIDUAL], 'momentum', node);
    this.note(residuals[2 * RESIDUAL], 'energy', node);
    // A laminar layer has no equation for C: n follows from the rest.
    if (laminar) residuals[5] = 1;
    // From (δ*, U) to (m, u): δ* = m∕U, U = U(u).
    const chained = this.chainOf(before >= 0 ? before : node);
    const massBack = chained[0];
    const speedBack = chained[1];
    const deltaBack = chained[2];
    this.chainOf(node);
    const massHere = chained[0];
    const speedHere = chained[1];
    const deltaHere = chained[2];
    const sign = layers.side[node] < 0 ? -1 : 1;
    const inWake = node >= this.nodes.x.length;
    const J = this.jacobian;
    for (let r = 0; r < 3; r++) {
      const at = r * RESIDUAL;
      const byC1 = residuals[at + 1];
      J[r] = byC1;
      J[3 + r] = residuals[at + 2];
      J[6 + r] = (residuals[at + 4] + residuals[at + 3] * deltaBack) * speedBack;
      J[9 + r] = residuals[at + 3] * massBack;
      J[12 + r] = residuals[at + 7] * massHere;
      J[15 + r] = residuals[at];
      // x = ±(s − s₀): all three abscissae move with the stagnation point.
      J[18 + r] = inWake ? 0 : -sign * (residuals[at + 9] + residuals[at + 10] + residuals[at + 11]);
      J[21 + r] = inWake ? 0 : sign * residuals[at + 11];
      inverse[9 + r] = residuals[at + 5];
      inverse[12 + r] = residuals[at + 6];
      inverse[15 + r] = (residuals[at + 8] + residuals[at + 7] * deltaHere) * speedHere;
    }
    if (before >= 0 && this.kind(before) === 'laminar') J[0] = J[1] = J[2] = 0;
    if (!invert3(inverse)) inverse.fill(0, 0, 9);
    const at = node * KEPT;
    // T is stored by rows, the other columns one after the other.
    for (let column = 0; column < 8; column++) {
      const [p, q, s] = [J[3 * column], J[3 * column + 1], J[3 * column + 2]];
      for (let k = 0; k < 3; k++) {
        const value = -(inverse[3 * k] * p + inverse[3 * k + 1] * q + inverse[3 * k + 2] * s);
        kept[column < 3 ? at + 3 * k + column : at + 3 * column + k] = value;
      }
    }
  }
  /** The inverse (rows), then the block itself (columns). */
  private readonly inverse = new Float64Array(18);
  /** Columns: C, θ, u, m of the station before, m here, residual, stagnation point, place of transition. */
  private readonly jacobian = new Float64Array(24);

  /** [∂δ*∕∂m, ∂U∕∂u, ∂δ*∕∂U] at a node. */
  private chainOf(node: number): Float64Array {
    const { layers, record, chained } = this;
    const sign = layers.side[node] < 0 ? -1 : 1;
    const at = node * STATION_RECORD;
    const u = record[at + 2];
    chained[0] = 1 / u;
    chained[1] = this.edgeSlope(sign * layers.velocity[node]);
    chained[2] = -record[at + 3] / u;
    return chained;
  }
  private readonly chained = new Float64Array(3);

  /** The wake begins with the sum of both layers and the gap. */
  private wakeStart(): void {
    const { layers, stations, nodes } = this;
    const n = nodes.x.length;
    const [a, b] = [stations.order[stations.upper - 1], stations.order[stations.lower - 1]];
    const theta = layers.theta[a] + layers.theta[b];
    const shear = (layers.c[a] * layers.theta[a] + layers.c[b] * layers.theta[b]) / theta;
    const ua = this.edgeSpeed(-layers.velocity[a]);
    const ub = this.edgeSpeed(layers.velocity[b]);
    const uw = this.edgeSpeed(layers.velocity[n]);
    const displacement = -layers.mass[a] / ua + layers.mass[b] / ub + this.gap;
    this.note(layers.c[n] - shear, 'first', n);
    this.note((layers.theta[n] - theta) / theta, 'momentum', n);
    this.note((layers.mass[n] / uw - displacement) / displacement, 'energy', n);
  }

  /**
   * n at the stations of a surface and at the place of transition, less the critical one. The growth between two stations is extrapolated from the
   * stations before (second order), so n at any place depends on the laminar stations ahead of it alone and is continuous as the place passes one.
   */
  private evaluateCriterion(surface: 0 | 1): void {
    const { layers, stations, conditions, record, weight } = this;
    const { s } = this.nodes;
    const { order } = stations;
    const from = surface === 0 ? 0 : stations.upper;
    const last = this.firstTurbulent[surface] - 1;
    const rate = (p: number) => record[order[p] * STATION_RECORD + QUANTITY.growth];
    let n = 0;
    weight[order[from]] = 0;
    for (let p = from; p <= last; p++) {
      layers.c[order[p]] = n;
      const here = s[order[p]];
      const length = Math.abs((p === last ? layers.transition[surface] : s[order[p + 1]]) - here);
      const before = p > from ? Math.abs(here - s[order[p - 1]]) : 0;
      const lean = p > from ? (0.5 * length * length) / before : 0;
      weight[order[p]] += length + lean;
      if (p < last) weight[order[p + 1]] = 0;
      n += (length + lean) * rate(p);
      if (p > from) {
        weight[order[p - 1]] -= lean;
        n -= lean * rate(p - 1);
      }
      if (p === last)
        this.criterionSlope[surface] = rate(p) + (p > from ? (length / before) * (rate(p) - rate(p - 1)) : 0);
    }
    this.criterion[surface] = n - conditions.criticalAmplification;
    if (layers.held[surface] && this.criterion[surface] > 1e-9) {
      // Grown enough before the bound: transition comes naturally.
      layers.held[surface] = false;
    }
    if (!layers.held[surface])
      this.note(this.criterion[surface] / conditions.criticalAmplification, 'transition', order[last]);
  }
  private readonly weight = new Float64Array(2048);
  private readonly criterionSlope: [number, number] = [0, 0];

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
        if (p < this.firstTurbulent[surface]) this.criterionRow(surface, node, low, high + 1);
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

  /** How far the places of transition move: Newton's wish, bounded, and never against the sense of their equation. */
  private transitionMoves(): [number, number] {
    this.steps++;
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
    const moves: [number, number] = [0, 0];
    const limit = (k: 0 | 1, wish: number): number => {
      const down = k === 0 ? -1 : 1;
      // Too little growth calls for a place further down.
      const sense = -Math.sign(criterion[k]) * down;
      const converging = Math.abs(criterion[k]) < 0.02 * this.conditions.criticalAmplification;
      let move = wish;
      const size = this.moveLimit[k] * Math.min(1, CALM / this.flowResidual);
      if (!Number.isFinite(move) || (!converging && move * sense < 0)) move = sense * 0.5 * size;
      return Math.max(-size, Math.min(size, move));
    };
    const free = [!layers.held[0], !layers.held[1]];
    if (free[0] && free[1]) {
      const [[p, a, b], [q, c, d]] = rows;
      const det = a * d - b * c;
      const wish: [number, number] = [(-p * d + b * q) / det, (-a * q + c * p) / det];
      moves[0] = limit(0, wish[0]);
      moves[1] = limit(1, wish[1]);
      // One that was bounded changes what the other should do.
      if (moves[0] !== wish[0] && moves[1] === wish[1]) moves[1] = limit(1, -(q + c * moves[0]) / d);
      else if (moves[1] !== wish[1] && moves[0] === wish[0]) moves[0] = limit(0, -(p + b * moves[1]) / a);
    } else if (free[0]) moves[0] = limit(0, -rows[0][0] / rows[0][1]);
    else if (free[1]) moves[1] = limit(1, -rows[1][0] / rows[1][2]);
    for (const k of [0, 1] as const) {
      // A place that turns back goes at most part of the way; one that keeps its way may go faster again.
      if (moves[k] * this.lastMove[k] < 0) {
        this.moveLimit[k] = Math.max(FREE_MOVE * 0.8 ** this.steps, 0.6 * Math.abs(this.lastMove[k]));
        moves[k] = Math.max(-this.moveLimit[k], Math.min(this.moveLimit[k], moves[k]));
      } else this.moveLimit[k] = Math.min(MOST_TRANSITION, 2 * this.moveLimit[k]);
    }
    return moves;
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
    let who = '';
    const bound = (change: number, up: number, down: number, what = '') => {
      if (Math.abs(change) > largest) who = what;
      largest = Math.max(largest, Math.abs(change));
      if (change > up) share = Math.min(share, up / change);
      else if (change < -down) share = Math.min(share, down / -change);
    };
    for (let p = 0; p < stations.lower + this.wake; p++) {
      const node = stations.order[p];
      const sign = layers.side[node] < 0 ? -1 : 1;
      const u = sign * layers.velocity[node];
      const du = sign * step.velocity[node];
      bound(step.theta[node] / layers.theta[node], 1, 0.5, 'theta ' + node);
      bound(step.mass[node] / (sign * layers.mass[node]) - du / u, 1, 0.5, 'delta ' + node);
      if (this.kind(node) !== 'laminar') bound(step.c[node] / layers.c[node], 1.5, 0.6, 'c ' + node);
      bound(du / Math.max(u, 0.3), 0.5, 0.4, 'u ' + node);
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
    for (const k of [0, 1] as const) {
      layers.transition[k] += share * moves[k];
      this.lastMove[k] = share * moves[k];
    }
    this.who = who;
    return { share, largest };
  }
}

/** Inverse of the 3 × 3 matrix whose columns stand in m[9…17], by rows into m[0…8]. @returns false where it is singular. */
function invert3(m: Float64Array): boolean {
  const [a, d, g, b, e, h, c, f, i] = [m[9], m[10], m[11], m[12], m[13], m[14], m[15], m[16], m[17]];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (!Number.isFinite(det) || Math.abs(det) < 1e-300) return false;
  const k = 1 / det;
  m[0] = (e * i - f * h) * k;
  m[1] = (c * h - b * i) * k;
  m[2] = (b * f - c * e) * k;
  m[3] = (f * g - d * i) * k;
  m[4] = (a * i - c * g) * k;
  m[5] = (c * d - a * f) * k;
  m[6] = (d * h - e * g) * k;
  m[7] = (b * g - a * h) * k;
  m[8] = (a * e - b * d) * k;
  return true;
}
