import { factoriseDense } from '../../kernels';
import { DualSpace, InvalidInput, solveFactorised, VeldtwindError } from '../../numerics';
import type { Outline } from '../../section';
import {
  amplificationRate,
  intervalResiduals,
  marchLayer,
  similarityResiduals,
  stationState,
  type LayerFlow,
  type LayerKind,
  type StationSlots,
} from '../boundary-layer';
import { checkAngle, checkMach, InviscidSection } from '../inviscid';
import { DEFAULT_SPREAD, type PanelSpread } from '../panelling';
import { SectionCoupling, type Coupling } from './coupling';

/** Conditions of a viscous solution. */
export interface ViscousConditions {
  reynolds: number;
  mach?: number;
  /** Critical amplification exponent. */
  criticalAmplification?: number;
  /** Place of a trip, x in chords, on each surface. */
  tripTop?: number;
  tripBottom?: number;
}

/** One solved angle. */
export interface ViscousPoint {
  alpha: number;
  cl: number;
  cd: number;
  cdFriction: number;
  cdPressure: number;
  cm: number;
  cpMin: number;
  transitionTop: number;
  transitionBottom: number;
  separationTop?: number;
  separationBottom?: number;
  status: 'solved' | 'doubtful' | 'unsolved';
  reason?: string;
  iterations: number;
  residual: number;
}

/** The layer's variables at all stations: by node. */
interface Layers {
  c: Float64Array;
  theta: Float64Array;
  displacement: Float64Array;
  /** Speeds, positive downstream, by node. */
  speed: Float64Array;
  kind: LayerKind[];
  stagnation: number;
}

interface Station {
  node: number;
  /** +1 where the loop runs downstream (lower surface, wake), −1 on the upper surface. */
  sign: number;
  x: number;
  kind: LayerKind;
  /** True where transition lies in the interval before the station. */
  transition: boolean;
}

const WAKE_POINTS = 22;
const MOST_ITERATIONS = 60;
const TOLERANCE = 1e-6;
const MOST_MOVED = 2;

/**
 * The viscous flow about a section: boundary layers and wake coupled with the panel method in one Newton system.
 *
 * Each station has three equations for C, θ and δ* given its speed and the station before; eliminating them along the stream leaves
 * dδ* = a + B·dV with triangular B. The speeds obey V = V_inviscid + D·(V δ*), so one dense system for dV remains:
 *   (I − D·(diag δ* + diag V · B)) dV = −residual + D·(V a)
 * @source AIAA J. 25(10), 1987, 1347–1355.
 */
export class ViscousSection {
  readonly solver: InviscidSection;
  private readonly coupling: SectionCoupling;
  private readonly space = new DualSpace(8, 2400);

  constructor(outline: Outline, spread: PanelSpread = DEFAULT_SPREAD) {
    this.solver = new InviscidSection(outline, spread);
    this.coupling = new SectionCoupling(this.solver);
  }

  /**
   * Solves one angle. @param alpha rad.
   * @throws InvalidInput for conditions outside the range; a flow that will not converge is returned as `unsolved` with the reason.
   */
  at(alpha: number, conditions: ViscousConditions): ViscousPoint {
    checkAngle(alpha);
    checkMach(conditions.mach ?? 0);
    const { reynolds } = conditions;
    if (!(reynolds >= 1000 && reynolds <= 1e9)) {
      throw new InvalidInput(
        'reynolds-range',
        `The Reynolds number must be from 1 000 to 10⁹; ${reynolds} is not.`,
        undefined,
        'reynolds',
      );
    }
    const critical = conditions.criticalAmplification ?? 9;
    if (!(critical >= 0.1 && critical <= 30)) {
      throw new InvalidInput(
        'amplification-range',
        `The critical amplification exponent lies from 0.1 to 30; ${critical} does not.`,
        undefined,
        'ncrit',
      );
    }
    for (const trip of [conditions.tripTop, conditions.tripBottom]) {
      if (trip !== undefined && !(trip >= 0 && trip <= 1))
        throw new InvalidInput('trip-range', `A trip lies from 0 to 1 of the chord; ${trip} does not.`);
    }
    let failure: string;
    try {
      const coupling = this.coupling.at(alpha, WAKE_POINTS);
      const run = this.newton(coupling, conditions);
      if (run.converged) return this.pointOf(alpha, coupling, conditions, run);
      failure = `The coupled equations did not converge in ${run.iterations} iterations (largest change ${run.residual.toExponential(1)}).`;
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      failure = error.message;
    }
    return {
      alpha,
      cl: NaN,
      cd: NaN,
      cdFriction: NaN,
      cdPressure: NaN,
      cm: NaN,
      cpMin: NaN,
      transitionTop: NaN,
      transitionBottom: NaN,
      status: 'unsolved',
      reason: failure,
      iterations: MOST_ITERATIONS,
      residual: NaN,
    };
  }

  /** Stations of both sides and the wake for a stagnation point at arc length `s0`. */
  private stations(coupling: Coupling, s0: number): { list: Station[]; upper: number; lower: number } {
    const { s } = this.solver.nodes;
    const n = coupling.nodes;
    const list: Station[] = [];
    let k = 0;
    while (k + 1 < n && s[k + 1] < s0) k++;
    // A node on the stagnation point itself carries no layer of its own.
    const near = 0.15 * (s[k + 1] - s[k]);
    for (let i = k; i >= 0; i--)
      if (s0 - s[i] >= near)
        list.push({ node: i, sign: -1, x: Math.max(1e-7, s0 - s[i]), kind: 'laminar', transition: false });
    const upper = list.length;
    for (let i = k + 1; i < n; i++)
      if (s[i] - s0 >= near)
        list.push({ node: i, sign: 1, x: Math.max(1e-7, s[i] - s0), kind: 'laminar', transition: false });
    const lower = list.length;
    const start = Math.max(list[upper - 1].x, list[lower - 1].x);
    for (let w = 0; w < coupling.wake; w++)
      list.push({ node: n + w, sign: 1, x: start + coupling.wakeS[w], kind: 'wake', transition: false });
    return { list, upper, lower };
  }

  /** Stagnation point: where the signed speed along the loop changes from upstream to downstream. */
  private stagnation(coupling: Coupling, signed: Float64Array): number {
    const { s, nose } = this.solver.nodes;
    let best = nose;
    let distance = Infinity;
    for (let i = 0; i + 1 < coupling.nodes; i++) {
      if (signed[i] < 0 && signed[i + 1] >= 0) {
        const at = s[i] + ((s[i + 1] - s[i]) * -signed[i]) / (signed[i + 1] - signed[i]);
        if (Math.abs(at - nose) < distance) {
          distance = Math.abs(at - nose);
          best = at;
        }
      }
    }
    return best;
  }

  /** Arc length from the stagnation point at which a trip at x lies on a side; the trailing edge at the latest. */
  private tripAt(list: Station[], from: number, to: number, trip: number | undefined): number {
    const end = list[to - 1].x;
    const last = list[to - 2].x + 0.98 * (end - list[to - 2].x);
    if (trip === undefined) return last;
    const { x } = this.solver.nodes;
    for (let i = from + 1; i < to; i++) {
      const [a, b] = [x[list[i - 1].node], x[list[i].node]];
      if ((a - trip) * (b - trip) <= 0 && b > a)
        return Math.min(last, list[i - 1].x + ((trip - a) / (b - a)) * (list[i].x - list[i - 1].x));
    }
    return Math.min(last, list[from + 1].x);
  }

  /** First guess: both sides marched with the inviscid speed, the wake from their sum. */
  private start(coupling: Coupling, conditions: ViscousConditions): Layers {
    const total = coupling.nodes + coupling.wake;
    const s0 = this.stagnation(coupling, coupling.inviscid);
    const { list, upper, lower } = this.stations(coupling, s0);
    const layers: Layers = {
      c: new Float64Array(total),
      theta: new Float64Array(total),
      displacement: new Float64Array(total),
      speed: new Float64Array(total),
      kind: new Array<LayerKind>(total).fill('wake'),
      stagnation: s0,
    };
    layers.kind.fill('laminar', 0, coupling.nodes);
    const flow: LayerFlow = { reynolds: conditions.reynolds, mach: conditions.mach ?? 0 };
    for (const [from, to, trip] of [
      [0, upper, conditions.tripTop],
      [upper, lower, conditions.tripBottom],
    ] as const) {
      const side = list.slice(from, to);
      const speed = side.map((t) => Math.max(1e-4, t.sign * coupling.inviscid[t.node]));
      const layer = marchLayer(
        side.map((t) => t.x),
        speed,
        {
          flow,
          criticalAmplification: conditions.criticalAmplification ?? 9,
          similarity: 1,
          trip: this.tripAt(list, from, to, trip),
        },
      );
      side.forEach((t, i) => {
        layers.c[t.node] = layer.c[i];
        layers.kind[t.node] = layer.kind[i];
        layers.theta[t.node] = layer.theta[i];
        layers.displacement[t.node] = layer.displacement[i];
        layers.speed[t.node] = layer.speed[i];
      });
    }
    const [a, b] = [list[upper - 1].node, list[lower - 1].node];
    const theta = layers.theta[a] + layers.theta[b];
    const shape = (layers.displacement[a] + layers.displacement[b]) / theta;
    for (let w = 0; w < coupling.wake; w++) {
      const node = coupling.nodes + w;
      const h = 1.05 + (Math.max(1.1, shape) - 1.05) * Math.exp(-coupling.wakeS[w] / 0.15);
      const u = Math.max(0.3, coupling.inviscid[node]);
      const ue = w === 0 ? 0.5 * (layers.speed[a] + layers.speed[b]) : u;
      layers.speed[node] = ue;
      layers.theta[node] = theta * ((0.5 * (layers.speed[a] + layers.speed[b])) / ue) ** (2 + h);
      layers.displacement[node] = h * layers.theta[node];
      layers.c[node] = Math.max(
        0.02,
        w === 0 ? 0.5 * (Math.min(0.2, layers.c[a]) + Math.min(0.2, layers.c[b])) : layers.c[node - 1] * 0.95,
      );
    }
    return layers;
  }

  /** Marks the kind of every station from the amplification so far, resetting C where a station changes its kind. */
  private markKinds(
    list: Station[],
    upper: number,
    lower: number,
    layers: Layers,
    conditions: ViscousConditions,
    known: LayerKind[],
  ): number[] {
    const critical = conditions.criticalAmplification ?? 9;
    const s = this.space;
    const flow: LayerFlow = { reynolds: conditions.reynolds, mach: conditions.mach ?? 0 };
    const places: number[] = [];
    for (const [from, to, trip] of [
      [0, upper, conditions.tripTop],
      [upper, lower, conditions.tripBottom],
    ] as const) {
      const tripX = this.tripAt(list, from, to, trip);
      let turbulent = false;
      let moved = 0;
      for (let i = from + 1; i < to; i++) {
        const t = list[i];
        const was = known[t.node];
        if (turbulent) {
          t.kind = 'turbulent';
          if (was === 'laminar') layers.c[t.node] = 0.05;
          known[t.node] = 'turbulent';
          continue;
        }
        const before = list[i - 1];
        s.reset();
        const state = stationState(s, this.slots(layers, before.node, 0, true), 'laminar', flow);
        const rate = s.value(amplificationRate(s, state.kinematic, state.reTheta, state.theta));
        const natural = rate > 0 ? before.x + (critical - layers.c[before.node]) / rate : Infinity;
        let place = Math.min(natural, tripX);
        // A place within a tenth of an interval of a station stays on the side where it was, so that it cannot flip for ever.
        const slack = 0.1 * (t.x - before.x);
        if (was === 'turbulent' && place > t.x && place < t.x + slack) place = t.x;
        else if (was === 'laminar' && place <= t.x && place > t.x - slack && i + 1 < to) place = t.x + slack;
        // Stations that were turbulent hold turbulent shapes, in which nothing grows: the place moves aft by a few of them at a time only.
        if (moved >= MOST_MOVED && was === 'turbulent' && place > t.x) place = before.x + 0.5 * (t.x - before.x);
        if (place <= t.x) {
          turbulent = true;
          t.transition = true;
          t.kind = 'turbulent';
          if (was === 'laminar') layers.c[t.node] = 0.05;
          known[t.node] = 'turbulent';
          places.push(Math.max(before.x, place));
        } else if (was === 'turbulent') {
          moved++;
          layers.c[t.node] = Math.min(critical - 0.01, layers.c[before.node] + rate * (t.x - before.x));
          if (
            layers.displacement[t.node] / layers.theta[t.node] <
            0.7 * (layers.displacement[before.node] / layers.theta[before.node])
          ) {
            layers.theta[t.node] = layers.theta[before.node];
            layers.displacement[t.node] = layers.displacement[before.node];
          }
          known[t.node] = 'laminar';
        }
      }
      if (!turbulent) places.push(list[to - 1].x);
    }
    return places;
  }

  private slots(layers: Layers, node: number, base: number, fixed = false): StationSlots {
    const s = this.space;
    if (fixed)
      return {
        c: s.constant(layers.c[node]),
        theta: s.constant(layers.theta[node]),
        displacement: s.constant(layers.displacement[node]),
        speed: s.constant(layers.speed[node]),
      };
    return {
      c: s.variable(layers.c[node], base),
      theta: s.variable(layers.theta[node], base + 1),
      displacement: s.variable(layers.displacement[node], base + 2),
      speed: s.variable(layers.speed[node], base + 3),
    };
  }

  private newton(coupling: Coupling, conditions: ViscousConditions) {
    const total = coupling.nodes + coupling.wake;
    const flow: LayerFlow = { reynolds: conditions.reynolds, mach: conditions.mach ?? 0 };
    const critical = conditions.criticalAmplification ?? 9;
    const layers = this.start(coupling, conditions);
    const known = layers.kind.slice();
    let iterations = 0;
    let residual = Infinity;
    let damp = 1;
    const s = this.space;
    // Per station: response of (C, θ, δ*) to the speeds of all stations, and its constant part.
    const respond = [new Float64Array(total * total), new Float64Array(total * total), new Float64Array(total * total)];
    const constant = [new Float64Array(total), new Float64Array(total), new Float64Array(total)];
    const matrix = new Float64Array(total * total);
    const right = new Float64Array(total);
    let places: number[] = [];
    let stations: Station[] = [];
    let bounds = { upper: 0, lower: 0 };
    while (iterations < MOST_ITERATIONS) {
      iterations++;
      const signed = new Float64Array(total);
      const sign = new Float64Array(total).fill(1);
      const { list, upper, lower } = this.stations(coupling, layers.stagnation);
      stations = list;
      bounds = { upper, lower };
      for (const t of list) {
        sign[t.node] = t.sign;
        signed[t.node] = t.sign * layers.speed[t.node];
      }
      places = this.markKinds(list, upper, lower, layers, conditions, known);
      for (const r of respond) r.fill(0);
      for (const c of constant) c.fill(0);
      const used = new Uint8Array(total);
      for (const t of list) used[t.node] = 1;
      for (let i = 0; i < total; i++) if (!used[i]) layers.displacement[i] = 0;
      const [na, nb] = [list[0].node, list[upper].node];
      const [ua, ub] = [layers.speed[na], layers.speed[nb]];
      const between = list[0].x + list[upper].x;
      const gradient = (ua + ub) / between;
      list.forEach((t, i) => {
        s.reset();
        const first = i === 0 || i === upper;
        if (i === lower) return this.joinWake(list, i, upper, lower, layers, respond, constant, total);
        let j1: number[][] | null = null;
        let r: { first: number; momentum: number; energy: number };
        if (first) {
          // Around the stagnation point u = K·x: with K from both sides, the first layer does not depend on where exactly the point lies.
          const v = this.slots(layers, t.node, 4);
          const fixed = { ...v, speed: s.constant(layers.speed[t.node]) };
          r = similarityResiduals(s, stationState(s, fixed, 'laminar', flow), layers.speed[t.node] / gradient, 1);
        } else {
          const p = list[i - 1];
          const a = this.slots(layers, p.node, 0);
          const b = this.slots(layers, t.node, 4);
          if (t.transition)
            r = this.transitionResiduals(a, b, p.x, t.x, Math.min(places[i < upper ? 0 : 1], t.x), critical, flow);
          else {
            const laminar = t.kind === 'laminar';
            const kind = t.kind;
            const before = stationState(s, a, kind, flow);
            r = intervalResiduals(s, before, stationState(s, b, kind, flow), p.x, t.x, laminar);
            if (laminar) {
              // The growth is taken from the station before, as in the interval with transition: so nothing jumps when transition passes a station.
              const rate = amplificationRate(s, before.kinematic, before.reTheta, before.theta);
              r.first = s.sub(s.sub(b.c, a.c), s.scale(rate, t.x - p.x));
            }
          }
          j1 = [r.first, r.momentum, r.energy].map((slot) => [0, 1, 2, 3].map((k) => s.partial(slot, k)));
        }
        const rows = [r.first, r.momentum, r.energy];
        // How the residuals change when the stagnation point moves along the loop, by a difference; it matters near that point only.
        const moves = [0, 0, 0];
        const local = i < upper ? i : i - upper;
        if (!first && i < lower && local <= 10 && t.kind === 'laminar') {
          const p = list[i - 1];
          const value = rows.map((slot) => s.value(slot));
          const h = 1e-4 * p.x;
          const way = i < upper ? h : -h;
          const shifted = intervalResiduals(
            s,
            stationState(s, this.slots(layers, p.node, 0, true), 'laminar', flow),
            stationState(s, this.slots(layers, t.node, 0, true), 'laminar', flow),
            p.x + way,
            t.x + way,
            true,
          );
          moves[1] = (s.value(shifted.momentum) - value[1]) / h;
          moves[2] = (s.value(shifted.energy) - value[2]) / h;
        }
        const inverse = invert3(rows.map((slot) => [4, 5, 6].map((k) => s.partial(slot, k))));
        if (!inverse) return;
        const du2 = rows.map((slot) => (first ? 0 : s.partial(slot, 7)));
        const value = rows.map((slot) => s.value(slot));
        const before = i > 0 ? list[i - 1].node : -1;
        // dX₂ = −J₂⁻¹ (R + J₁ dX₁ + j₁ dV₁ + j₂ dV₂)
        const apply = (v: number[], out: (q: number, w: number) => void) => {
          for (let q = 0; q < 3; q++) out(q, -(inverse[q][0] * v[0] + inverse[q][1] * v[1] + inverse[q][2] * v[2]));
        };
        const full = value.slice();
        if (j1)
          for (let q = 0; q < 3; q++)
            full[q] += j1[q][0] * constant[0][before] + j1[q][1] * constant[1][before] + j1[q][2] * constant[2][before];
        apply(full, (q, w) => (constant[q][t.node] = w));
        const own = t.node * total;
        if (j1) {
          const from = before * total;
          const v = [0, 0, 0];
          for (let k = 0; k < total; k++) {
            const [c, th, d] = [respond[0][from + k], respond[1][from + k], respond[2][from + k]];
            if (c === 0 && th === 0 && d === 0) continue;
            for (let q = 0; q < 3; q++) v[q] = j1[q][0] * c + j1[q][1] * th + j1[q][2] * d;
            apply(v, (q, w) => (respond[q][own + k] += w));
          }
          apply([j1[0][3], j1[1][3], j1[2][3]], (q, w) => (respond[q][own + before] += w));
        }
        apply(du2, (q, w) => (respond[q][own + t.node] += w));
        if (moves[1] !== 0) {
          const [da, db] = [(between * ub) / (ua + ub) ** 2, (-between * ua) / (ua + ub) ** 2];
          apply(
            moves.map((m) => m * da),
            (q, w) => (respond[q][own + na] += w),
          );
          apply(
            moves.map((m) => m * db),
            (q, w) => (respond[q][own + nb] += w),
          );
        }
      });
      // Speeds: u = sign·(V + D·M), M = signed u·δ*.
      for (let i = 0; i < total; i++) {
        let v = coupling.inviscid[i];
        const row = i * total;
        for (let j = 0; j < total; j++) v += coupling.mass[row + j] * signed[j] * layers.displacement[j];
        right[i] = -(layers.speed[i] - sign[i] * v);
      }
      matrix.fill(0);
      // A station responds to the speeds upstream on its own side only; the wake to all.
      const [top, bottom] = [list[0].node, list[upper].node];
      const reach = new Int32Array(2 * total);
      for (let j = 0; j < total; j++) {
        reach[2 * j] = j < coupling.nodes ? (j <= top ? j : top) : 0;
        reach[2 * j + 1] = j < coupling.nodes ? (j <= top ? bottom : j) : j;
      }
      for (let i = 0; i < total; i++) {
        const row = i * total;
        matrix[row + i] += 1;
        for (let j = 0; j < total; j++) {
          const d = sign[i] * coupling.mass[row + j] * sign[j];
          if (d === 0) continue;
          matrix[row + j] -= d * layers.displacement[j];
          const g = d * layers.speed[j];
          right[i] += g * constant[2][j];
          const b = j * total;
          const response = respond[2];
          const to = reach[2 * j + 1];
          for (let k = reach[2 * j]; k <= to; k++) matrix[row + k] -= g * response[b + k];
        }
      }
      const du = solveFactorised(factoriseDense(matrix, total), right);
      const change = [new Float64Array(total), new Float64Array(total), new Float64Array(total)];
      let relax = 1;
      let largest = 0;
      const limit = (relative: number, most: number) => {
        const size = Math.abs(relative);
        if (size * relax > most) relax = most / size;
        largest = Math.max(largest, size);
      };
      for (const t of list) {
        const i = t.node;
        for (let q = 0; q < 3; q++) {
          let sum = constant[q][i];
          const b = i * total;
          for (let k = 0; k < total; k++) sum += respond[q][b + k] * du[k];
          change[q][i] = sum;
        }
        limit(t.kind === 'laminar' ? change[0][i] / 10 : change[0][i] / Math.max(0.02, layers.c[i]), 0.5);
        limit(change[1][i] / layers.theta[i], 0.4);
        limit(change[2][i] / layers.displacement[i], 0.4);
        limit(du[i] / Math.max(0.3, layers.speed[i]), 0.3);
      }
      if (!Number.isFinite(largest)) break;
      // Steps that do not shrink run around the solution: shorter ones fall into it.
      damp = largest > 0.6 * residual && largest > 0.02 ? Math.max(0.25, damp * 0.75) : Math.min(1, damp * 1.5);
      relax = Math.min(relax, damp);
      for (const t of list) {
        const i = t.node;
        layers.c[i] += relax * change[0][i];
        if (t.kind !== 'laminar') layers.c[i] = Math.min(0.3, Math.max(1e-4, layers.c[i]));
        else layers.c[i] = Math.max(0, layers.c[i]);
        layers.theta[i] += relax * change[1][i];
        const least = t.kind === 'wake' ? 1.0005 : 1.03;
        layers.displacement[i] = Math.max(least * layers.theta[i], layers.displacement[i] + relax * change[2][i]);
        layers.speed[i] += relax * du[i];
      }
      residual = largest;
      // The stagnation point follows the speeds; stations that change sides keep a thin fresh layer.
      for (const t of list) signed[t.node] = t.sign * layers.speed[t.node];
      const moved = this.stagnation(coupling, signed);
      this.followStagnation(layers, list, upper, moved, signed);
      layers.kind = known;
      if (largest < TOLERANCE) return { converged: true, iterations, residual, layers, places, stations, bounds };
    }
    return { converged: false, iterations, residual, layers, places, stations, bounds };
  }

  private followStagnation(layers: Layers, list: Station[], upper: number, moved: number, signed: Float64Array): void {
    const { s } = this.solver.nodes;
    layers.stagnation = moved;
    const [a, b] = [list[0].node, list[upper].node];
    for (let i = Math.max(0, a - 8); i <= b + 8; i++) {
      const onUpper = s[i] < moved;
      const was = signed[i] < 0;
      if (onUpper !== was || layers.speed[i] <= 0 || layers.displacement[i] === 0) {
        const source = onUpper ? list[Math.min(2, upper - 1)].node : list[upper + 1].node;
        layers.speed[i] = Math.max(1e-3, Math.abs(signed[i]));
        layers.theta[i] = layers.theta[source];
        layers.displacement[i] = layers.displacement[source];
        layers.c[i] = 0;
      }
    }
  }

  /** The wake's first station is the sum of both layers at the trailing edge. */
  private joinWake(
    list: Station[],
    i: number,
    upper: number,
    lower: number,
    layers: Layers,
    respond: Float64Array[],
    constant: Float64Array[],
    total: number,
  ): void {
    const w = list[i].node;
    const a = list[upper - 1].node;
    const b = list[lower - 1].node;
    const [ta, tb] = [layers.theta[a], layers.theta[b]];
    const [ca, cb] = [
      list[upper - 1].kind === 'laminar' ? 0.05 : layers.c[a],
      list[lower - 1].kind === 'laminar' ? 0.05 : layers.c[b],
    ];
    constant[1][w] = ta + tb - layers.theta[w] + constant[1][a] + constant[1][b];
    constant[2][w] =
      layers.displacement[a] + layers.displacement[b] - layers.displacement[w] + constant[2][a] + constant[2][b];
    const weight = ta + tb;
    const mean = (ta * ca + tb * cb) / weight;
    const slope = [ta / weight, tb / weight, (ca - mean) / weight, (cb - mean) / weight];
    constant[0][w] =
      mean -
      layers.c[w] +
      slope[0] * constant[0][a] +
      slope[1] * constant[0][b] +
      slope[2] * constant[1][a] +
      slope[3] * constant[1][b];
    for (let k = 0; k < total; k++) {
      respond[1][w * total + k] = respond[1][a * total + k] + respond[1][b * total + k];
      respond[2][w * total + k] = respond[2][a * total + k] + respond[2][b * total + k];
      respond[0][w * total + k] =
        slope[0] * respond[0][a * total + k] +
        slope[1] * respond[0][b * total + k] +
        slope[2] * respond[1][a * total + k] +
        slope[3] * respond[1][b * total + k];
    }
  }

  /** The interval with transition in it: laminar up to the place, turbulent behind; the place moves with the upstream state. */
  private transitionResiduals(
    a: StationSlots,
    b: StationSlots,
    x1: number,
    x2: number,
    place: number,
    critical: number,
    flow: LayerFlow,
  ) {
    const s = this.space;
    const dx = x2 - x1;
    const value = Math.min(0.999, Math.max(0.001, (place - x1) / dx));
    const before = stationState(s, a, 'laminar', flow);
    const rate = amplificationRate(s, before.kinematic, before.reTheta, before.theta);
    const natural = s.value(rate) > 0 ? (critical - s.value(a.c)) / (s.value(rate) * dx) : Infinity;
    const free = Math.abs(natural - value) < 1e-9 && value > 0.001 && value < 0.999;
    const f = free ? s.div(s.affine(a.c, critical, -1), s.scale(rate, dx)) : s.constant(value);
    const mid = (p: number, q: number) => s.add(s.mul(p, s.affine(f, 1, -1)), s.mul(q, f));
    const at = {
      c: a.c,
      theta: mid(a.theta, b.theta),
      displacement: mid(a.displacement, b.displacement),
      speed: mid(a.speed, b.speed),
    };
    const xt = x1 + s.value(f) * dx;
    const laminar = intervalResiduals(s, before, stationState(s, at, 'laminar', flow), x1, xt, true);
    const probe = stationState(s, { ...at, c: s.constant(0.05) }, 'turbulent', flow);
    const start = stationState(s, { ...at, c: s.scale(probe.equilibrium, Math.sqrt(0.7)) }, 'turbulent', flow);
    const behind = intervalResiduals(s, start, stationState(s, b, 'turbulent', flow), xt, x2, false);
    const whole = {
      first: behind.first,
      momentum: s.add(laminar.momentum, behind.momentum),
      energy: s.add(laminar.energy, behind.energy),
    };
    if (!free) return whole;
    // The place stands in the equations as an abscissa too: that derivative by a difference at fixed states, carried by f.
    const fix = (v: StationSlots): StationSlots => ({
      c: s.constant(s.value(v.c)),
      theta: s.constant(s.value(v.theta)),
      displacement: s.constant(s.value(v.displacement)),
      speed: s.constant(s.value(v.speed)),
    });
    const [fa, fb, ft] = [fix(a), fix(b), fix(at)];
    const h = 1e-5 * dx;
    const moved = intervalResiduals(
      s,
      stationState(s, fa, 'laminar', flow),
      stationState(s, ft, 'laminar', flow),
      x1,
      xt + h,
      true,
    );
    const fresh = stationState(s, { ...ft, c: s.constant(s.value(start.c)) }, 'turbulent', flow);
    const rest = intervalResiduals(s, fresh, stationState(s, fb, 'turbulent', flow), xt + h, x2, false);
    const carry = (slot: number, shifted: number): number => {
      const k = ((shifted - s.value(slot)) / h) * dx;
      return s.add(slot, s.affine(f, -k * s.value(f), k));
    };
    return {
      first: carry(whole.first, s.value(rest.first)),
      momentum: carry(whole.momentum, s.value(moved.momentum) + s.value(rest.momentum)),
      energy: carry(whole.energy, s.value(moved.energy) + s.value(rest.energy)),
    };
  }

  private pointOf(
    alpha: number,
    coupling: Coupling,
    conditions: ViscousConditions,
    run: ReturnType<ViscousSection['newton']>,
  ): ViscousPoint {
    const { layers, stations, bounds } = run;
    const { x, y } = this.solver.nodes;
    const n = coupling.nodes;
    const mach = conditions.mach ?? 0;
    const beta = Math.sqrt(1 - mach * mach);
    const tsien = (mach * mach) / (1 + beta) / 2;
    const signed = new Float64Array(n);
    for (const t of stations) if (t.node < n) signed[t.node] = t.sign * layers.speed[t.node];
    const pressure = (q: number) => {
      const c = 1 - q * q;
      return c / (beta + tsien * c);
    };
    let fx = 0;
    let fy = 0;
    let cm = 0;
    let cpMin = Infinity;
    for (let i = 0; i < n; i++) {
      const j = i + 1 === n ? 0 : i + 1;
      const [pa, pb] = [pressure(signed[i]), pressure(signed[j])];
      cpMin = Math.min(cpMin, pa);
      const dx = x[j] - x[i];
      const dy = y[j] - y[i];
      const mean = j === 0 ? 0.5 * (pa + pb) : (pa + 4 * pressure(0.5 * (signed[i] + signed[j])) + pb) / 6;
      fx -= mean * dy;
      fy += mean * dx;
      cm -=
        mean * ((0.5 * (x[i] + x[j]) - 0.25) * dx + 0.5 * (y[i] + y[j]) * dy) + ((pb - pa) / 12) * (dx * dx + dy * dy);
    }
    const flow: LayerFlow = { reynolds: conditions.reynolds, mach };
    const s = this.space;
    let cdFriction = 0;
    const separation: (number | undefined)[] = [undefined, undefined];
    for (const [side, from, to] of [
      [0, 0, bounds.upper],
      [1, bounds.upper, bounds.lower],
    ] as const) {
      let before = 0;
      for (let i = from; i < to; i++) {
        s.reset();
        const t = stations[i];
        const state = stationState(s, this.slots(layers, t.node, 0), t.kind, flow);
        const wall = s.value(state.friction) * layers.speed[t.node] ** 2;
        if (i > from) {
          const p = stations[i - 1];
          const along = (x[t.node] - x[p.node]) * Math.cos(alpha) + (y[t.node] - y[p.node]) * Math.sin(alpha);
          cdFriction += 0.5 * (wall + before) * along;
        }
        if (wall < 0 && separation[side] === undefined) separation[side] = x[t.node];
        before = wall;
      }
    }
    const end = n + coupling.wake - 1;
    const shape = layers.displacement[end] / layers.theta[end];
    const cd = 2 * layers.theta[end] * layers.speed[end] ** (0.5 * (shape + 5));
    const place = (side: 0 | 1) => {
      const [from, to] = side === 0 ? [0, bounds.upper] : [bounds.upper, bounds.lower];
      const at = run.places[side];
      for (let i = from + 1; i < to; i++) {
        if (stations[i].x >= at) {
          const u = Math.max(0, Math.min(1, (at - stations[i - 1].x) / (stations[i].x - stations[i - 1].x)));
          return x[stations[i - 1].node] + u * (x[stations[i].node] - x[stations[i - 1].node]);
        }
      }
      return 1;
    };
    return {
      alpha,
      cl: fy * Math.cos(alpha) - fx * Math.sin(alpha),
      cd,
      cdFriction,
      cdPressure: cd - cdFriction,
      cm,
      cpMin,
      transitionTop: place(0),
      transitionBottom: place(1),
      ...(separation[0] !== undefined ? { separationTop: separation[0] } : {}),
      ...(separation[1] !== undefined ? { separationBottom: separation[1] } : {}),
      status: 'solved',
      iterations: run.iterations,
      residual: run.residual,
    };
  }
}

function invert3(m: number[][]): number[][] | null {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (!Number.isFinite(det) || Math.abs(det) < 1e-300) return null;
  const k = 1 / det;
  return [
    [(e * i - f * h) * k, (c * h - b * i) * k, (b * f - c * e) * k],
    [(f * g - d * i) * k, (a * i - c * g) * k, (c * d - a * f) * k],
    [(d * h - e * g) * k, (b * g - a * h) * k, (a * e - b * d) * k],
  ];
}
