import { LEAST_SHAPE, type LayerFlow, type LayerKind } from '../boundary-layer';
import type { PanelNodes } from '../panelling';
import type { Coupling } from './coupling';
import {
  copyLayers,
  criticalOf,
  emptyLayers,
  orderStations,
  stagnationPanel,
  streamOf,
  tripArc,
  type Layers,
  type Stations,
  type ViscousConditions,
} from './layers';

const LEAST_SPEED = 1e-5;
/** Least kinematic shape factors, at a wall and in the wake: those below which the closures are not defined. */
const LEAST_WALL_SHAPE = LEAST_SHAPE;
const LEAST_SHAPE_BEHIND = 1.000002;

/** The layers of one problem at their stations: what lies where, of what kind it is, and that every value stays where the closures are defined. */
export class LayerField {
  readonly layers: Layers;
  readonly stations: Stations;
  protected readonly total: number;
  protected readonly before: Layers;
  /** Index in `order` of the first turbulent station of each surface. */
  protected readonly firstTurbulent: [number, number] = [0, 0];
  /** Panel of the stagnation point, or −1. */
  protected panel = -1;
  protected coupling!: Coupling;
  protected conditions!: ViscousConditions;
  /** Critical amplification exponents of both surfaces. */
  protected critical: [number, number] = [9, 9];
  protected flow!: LayerFlow;
  protected gap = 0;
  /** Nodes beside the stagnation point keep their side over a wider range: set once an iteration has gone on for some steps. */
  keepsSides = false;
  protected dead: Float64Array;

  constructor(
    protected readonly nodes: PanelNodes,
    protected readonly wake: number,
  ) {
    const total = nodes.x.length + wake;
    this.total = total;
    this.layers = emptyLayers(total);
    this.before = emptyLayers(total);
    this.stations = { order: new Int32Array(total), upper: 0, lower: 0 };
    this.dead = new Float64Array(wake);
  }

  /** Takes up a problem: the coupling at an angle, the conditions, and where to start from. */
  load(coupling: Coupling, conditions: ViscousConditions, dead: Float64Array, start: Layers): void {
    this.coupling = coupling;
    const mach = conditions.mach ?? 0;
    this.conditions = conditions;
    this.critical = criticalOf(conditions);
    this.compression = (mach / (1 + Math.sqrt(1 - mach * mach))) ** 2;
    this.flow = streamOf(conditions);
    this.dead = dead;
    this.gap = dead[0];
    copyLayers(start, this.layers);
  }

  /** Edge velocity from the speed of the incompressible plane, and its slope. @source NACA TN-1006, 1946 (Kármán–Tsien). */
  protected edgeSpeed(u: number): number {
    const l = this.compression;
    return l === 0 ? u : (u * (1 - l)) / (1 - l * u * u);
  }
  protected edgeSlope(u: number): number {
    const l = this.compression;
    const d = 1 - l * u * u;
    return l === 0 ? 1 : ((1 - l) * (1 + l * u * u)) / (d * d);
  }
  protected compression = 0;

  protected deadAt(node: number): number {
    const w = node - this.nodes.x.length;
    return w >= 0 ? this.dead[w] : 0;
  }

  kind(node: number): LayerKind {
    if (node >= this.nodes.x.length) return 'wake';
    return this.layers.turbulent[node] ? 'turbulent' : 'laminar';
  }

  /** Distance of a node from the stagnation point; in the wake one chord more than from the edge, since only differences count there. */
  protected distance(node: number): number {
    const n = this.nodes.x.length;
    if (node >= n) return 1 + this.coupling.wakeS[node - n];
    return Math.abs(this.nodes.s[node] - this.layers.stagnation);
  }

  /** Keeps every station's unknowns where the closures are defined, and gives nodes that changed their side or kind values of their neighbours. */
  protected settle(): void {
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
    orderStations(s, this.wake, layers.stagnation, layers.side, stations, this.keepsSides);
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
      const thin =
        layers.theta[node] * this.leastShape(node >= n ? LEAST_SHAPE_BEHIND : LEAST_WALL_SHAPE, ue) + this.deadAt(node);
      if (!((sign * layers.mass[node]) / ue > thin)) layers.mass[node] = sign * ue * thin;
      if (this.kind(node) !== 'laminar') layers.c[node] = Math.min(0.4, Math.max(1e-4, layers.c[node]));
    }
  }

  /** H at which the kinematic shape factor has a given least value, at an edge velocity. */
  protected leastShape(kinematic: number, edge: number): number {
    const m2 = this.flow.mach * this.flow.mach;
    if (m2 === 0) return kinematic;
    const local = (m2 * edge * edge) / Math.max(0.05, 1 + 0.2 * m2 * (1 - edge * edge));
    return kinematic * (1 + 0.113 * local) + 0.29 * local;
  }

  /** Bounds the place of transition and finds the interval it lies in. */
  protected settleTransition(surface: 0 | 1, from: number, to: number): void {
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
      if (p === from) continue;
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
}
