import { CoupledMemory, KEPT } from '../../kernels';
import {
  BYPASS_TURBULENCE,
  evaluateStation,
  GROWTH,
  GROWTH_RECORD,
  INTERVAL_RECORD,
  intervalResiduals,
  QUANTITY,
  RESIDUAL,
  similarityResiduals,
  STATION_RECORD,
  transitionResiduals,
} from '../boundary-layer';
import type { PanelNodes } from '../panelling';
import { LayerField } from './layer-field';

/** All residuals of a problem, and per station the response of its own unknowns to everything else, from exact derivatives. */
export class CoupledEquations extends LayerField {
  protected readonly memory: CoupledMemory;
  protected readonly residuals = new Float64Array(INTERVAL_RECORD);
  protected readonly record: Float64Array;
  protected readonly kept: Float64Array;
  protected readonly speedResidual: Float64Array;
  /** n at the place of transition less the critical one. */
  protected readonly criterion: [number, number] = [0, 0];
  /** Largest residual of the layers' equations, of the speeds and of transition. */
  residual = Infinity;
  flowResidual = 0;
  private worstOf = '';
  private worstNode = 0;

  /** @param compiled false runs the TypeScript reference of the inner loops. */
  constructor(nodes: PanelNodes, wake: number, compiled = true) {
    super(nodes, wake);
    const { total } = this;
    this.memory = new CoupledMemory(total, compiled);
    this.byNode = new Float64Array(total);
    this.record = this.memory.record;
    this.kept = this.memory.kept;
    this.speedResidual = new Float64Array(total);
  }

  /** For reports: which equation and node has the largest residual. */
  get worst(): string {
    return `${this.worstOf} ${this.worstNode}`;
  }

  /** Evaluates all equations with their derivatives at the present unknowns. @returns the largest residual. */
  evaluate(): number {
    this.settle();
    const { layers, stations, coupling, nodes, total } = this;
    const { order, lower } = stations;
    this.residual = 0;
    this.flowResidual = 0;
    if (this.tracing) this.byNode.fill(0);
    if (this.compiledStream) this.evaluateCompiled();
    else {
      for (let p = 0; p < lower + this.wake; p++) this.recordStation(order[p]);
      for (const surface of [0, 1] as const) {
        const [from, to] = this.stretch(surface);
        for (let p = from + 1; p < to; p++)
          if (p !== this.firstTurbulent[surface]) this.interval(order[p - 1], order[p], surface, false);
      }
      for (let w = 1; w < this.wake; w++) this.interval(order[lower + w - 1], order[lower + w], 1, false);
    }
    for (const surface of [0, 1] as const) {
      const [from, to] = this.stretch(surface);
      this.firstStation(order[from]);
      const first = this.firstTurbulent[surface];
      if (first > from && first < to) this.interval(order[first - 1], order[first], surface, true);
      this.evaluateCriterion(surface);
    }
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

  /** Where the stations of a surface begin and end in their order. */
  private stretch(surface: 0 | 1): [number, number] {
    const { upper, lower } = this.stations;
    return surface === 0 ? [0, upper] : [upper, lower];
  }

  /** Whether the compiled closures hold: those of grains and of bypass stand in TypeScript alone. */
  private get compiledStream(): boolean {
    const { turbulence, grain } = this.flow;
    return this.memory.evaluates && !grain && !(turbulence !== undefined && turbulence > BYPASS_TURBULENCE);
  }

  /** All stations, and all intervals but those with a place of transition. */
  private evaluateCompiled(): void {
    const { memory, layers, stations, nodes, total, flow } = this;
    const { order, upper, lower } = stations;
    const n = nodes.x.length;
    memory.order.set(order);
    memory.c.set(layers.c);
    memory.theta.set(layers.theta);
    memory.defect.set(layers.mass);
    memory.velocity.set(layers.velocity);
    memory.dead.set(this.dead, n);
    for (let i = 0; i < total; i++) {
      memory.signs[i] = layers.side[i] < 0 ? -1 : 1;
      memory.kind[i] = i >= n ? 2 : layers.turbulent[i] ? 1 : 0;
      memory.x[i] = this.distance(i);
    }
    memory.stream[0] = flow.reynolds;
    memory.stream[1] = flow.mach;
    memory.stream[2] = this.compression;
    memory.recordStations(lower + this.wake);
    memory.intervals(0, upper, this.firstTurbulent[0]);
    memory.intervals(upper, lower, this.firstTurbulent[1]);
    memory.intervals(lower, lower + this.wake, -1);
    const { residual } = memory;
    for (let p = 1; p < lower + this.wake; p++) {
      if (p === upper || p === lower || p === this.firstTurbulent[0] || p === this.firstTurbulent[1]) continue;
      const node = order[p];
      this.note(residual[3 * node], 'first', node);
      this.note(residual[3 * node + 1], 'momentum', node);
      this.note(residual[3 * node + 2], 'energy', node);
    }
  }

  /** Largest residual at each node, kept where a trace is wanted. */
  readonly byNode: Float64Array;
  tracing = false;

  protected note(r: number, what: string, node: number): void {
    const size = Math.abs(r);
    if (this.tracing && size > this.byNode[node]) this.byNode[node] = size;
    if (what !== 'transition' && size > this.flowResidual) this.flowResidual = size;
    if (size > this.residual || Number.isNaN(size)) {
      this.residual = Number.isNaN(size) ? Infinity : size;
      this.worstOf = what;
      this.worstNode = node;
    }
  }

  protected recordStation(node: number): void {
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

  protected firstStation(node: number): void {
    similarityResiduals(this.residuals, this.record, node * STATION_RECORD, this.distance(node), 1);
    this.keep(-1, node);
  }

  protected interval(a: number, b: number, surface: 0 | 1, transition: boolean): void {
    const { layers, record } = this;
    const x1 = this.distance(a);
    const x2 = this.distance(b);
    const [from, to] = [a * STATION_RECORD, b * STATION_RECORD];
    if (transition) {
      const sign = surface === 0 ? -1 : 1;
      const xt = sign * (layers.transition[surface] - layers.stagnation);
      transitionResiduals(this.residuals, this.growthThere[surface], record, from, record, to, x1, x2, xt, this.flow);
    } else intervalResiduals(this.residuals, record, from, record, to, x1, x2, this.kind(b) === 'laminar');
    this.keep(a, b);
  }

  /**
   * Solves the 3 × 3 block of a station for its own (C, θ, u) and keeps the response to everything else.
   * @param before the station before, or −1.
   */
  protected keep(before: number, node: number): void {
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
  protected readonly inverse = new Float64Array(18);
  /** Columns: C, θ, u, m of the station before, m here, residual, stagnation point, place of transition. */
  protected readonly jacobian = new Float64Array(24);

  /** [∂δ*∕∂m, ∂U∕∂u, ∂δ*∕∂U] at a node. */
  protected chainOf(node: number): Float64Array {
    const { layers, record, chained } = this;
    const sign = layers.side[node] < 0 ? -1 : 1;
    const at = node * STATION_RECORD;
    const u = record[at + 2];
    chained[0] = 1 / u;
    chained[1] = this.edgeSlope(sign * layers.velocity[node]);
    chained[2] = -record[at + 3] / u;
    return chained;
  }
  protected readonly chained = new Float64Array(3);

  /** The wake begins with the sum of both layers and the gap. */
  protected wakeStart(): void {
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
   * n at the stations of a surface and at the place of transition, less the critical one: by trapezoids from station to station, and from the last
   * laminar one to the place with the growth of the laminar state solved there. So n depends on everything that transition's interval does, and is
   * continuous with its slope as the place passes a station.
   */
  protected evaluateCriterion(surface: 0 | 1): void {
    const { layers, stations, critical, record, weight } = this;
    const { s } = this.nodes;
    const { order } = stations;
    const from = surface === 0 ? 0 : stations.upper;
    const last = this.firstTurbulent[surface] - 1;
    const rate = (p: number) => record[order[p] * STATION_RECORD + QUANTITY.growth];
    const there = this.growthThere[surface];
    let n = 0;
    weight[order[from]] = 0;
    for (let p = from; p < last; p++) {
      layers.c[order[p]] = n;
      const half = 0.5 * Math.abs(s[order[p + 1]] - s[order[p]]);
      weight[order[p]] += half;
      weight[order[p + 1]] = half;
      n += half * (rate(p) + rate(p + 1));
    }
    layers.c[order[last]] = n;
    const half = 0.5 * Math.abs(layers.transition[surface] - s[order[last]]);
    weight[order[last]] += half;
    n += half * (rate(last) + there[0]);
    this.lastHalf[surface] = half;
    this.criterionSlope[surface] = 0.5 * (rate(last) + there[0]) + half * there[GROWTH.xt];
    this.criterion[surface] = n - critical[surface];
    if (layers.held[surface] && this.criterion[surface] > 1e-9) {
      // Grown enough before the bound: transition comes naturally.
      layers.held[surface] = false;
    }
    if (!layers.held[surface]) this.note(this.criterion[surface] / critical[surface], 'transition', order[last]);
  }
  /** Growth of disturbances at each place of transition with its slopes, and half the length of the laminar piece that ends there. */
  protected readonly growthThere = [new Float64Array(GROWTH_RECORD), new Float64Array(GROWTH_RECORD)] as const;
  protected readonly lastHalf: [number, number] = [0, 0];
  protected readonly weight = new Float64Array(2048);
  protected readonly criterionSlope: [number, number] = [0, 0];
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
