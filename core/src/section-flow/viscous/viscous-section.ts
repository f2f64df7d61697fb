import { InvalidInput, VeldtwindError } from '../../numerics';
import type { Outline } from '../../section';
import { openEdge } from './edge';
import { checkAngle, InviscidSection } from '../inviscid';
import { DEFAULT_SPREAD, type PanelSpread } from '../panelling';
import { checkConditions } from './conditions';
import { DEFAULT_EFFORT, Effort } from './effort';
import { SectionCoupling } from './coupling';
import {
  copyLayers,
  deadAir,
  emptyLayers,
  stagnationPanel,
  stationsBySide,
  type Layers,
  type ViscousConditions,
} from './layers';
import { keepShapes, moveStagnation, moveTransition, predictLayers } from './predict';
import { unsolvedPoint, type Approach, type SolvedPoint, type ViscousPoint } from './point';
import { dragAlong, type DragAlong } from './drag-along';
import { readDistributions, readPoint, type Distributions } from './results';
import type { SolvedFlow } from './solved-flow';
import { freshLayers } from './start';
import { roundLayers } from './state-bytes';
import { CoupledSystem } from './system';

/** A solved flow kept to start a neighbouring one from: plain data that can be stored and sent between threads. */
export interface SolvedState {
  alpha: number;
  reynolds: number;
  layers: Layers;
  /** One farther on the same side, from which it is seen where things go. */
  behind?: SolvedState;
}

/** Ways to a point that neither a neighbour nor a fresh start leads to. */
export type Way = 'easier-angle' | 'higher-reynolds' | 'lower-reynolds' | 'other-panels';
/**
 * For a point alone, and in a sweep, which came from the easier angles already. In a count over three sections and three Reynolds numbers easier angles
 * and higher Reynolds numbers led to points; lower ones and other panels did not there, but lower ones find burst bubbles past a thick section's stall.
 */
const ALONE: readonly Way[] = ['easier-angle', 'higher-reynolds', 'lower-reynolds', 'other-panels'];
export const IN_SWEEP: readonly Way[] = ['higher-reynolds', 'lower-reynolds', 'other-panels'];
/** Iterations that each may take. */
const MOST_OF_WAY: Readonly<Record<Way, number>> = {
  'easier-angle': 250,
  'higher-reynolds': 650,
  'lower-reynolds': 650,
  'other-panels': 100,
};

/** One iteration, for whoever looks for what stops it. */
export interface TraceStep {
  /** rad */ alpha: number;
  reynolds: number;
  /** Attempts count from 1 within a point. */
  attempt: number;
  iteration: number;
  residual: number;
  /** Equation and node with the largest residual: first (lag or growth), momentum, energy, speed, transition. */
  worst: string;
  /** x of that node, chords; in the wake beyond 1. */
  worstAt: number;
  /** Largest residual of the flow alone, and n less the critical one at both places of transition. */
  flowResidual: number;
  criterion: [number, number];
  /** Arc lengths of stagnation point and of both places of transition, chords. */
  stagnation: number;
  transition: [number, number];
  /** Largest residual at every node: section loop from the trailing edge over the upper surface, then wake. */
  byNode: number[];
}

/** What a point may cost, and what is wanted of it beside its forces. */
export interface SolveOptions {
  /** Iterations that one point may take over all its attempts. */
  effort?: number;
  /** The ways that are tried, in their order. */
  ways?: readonly Way[];
  /** Asked now and then; true ends the analysis with `Cancelled`. */
  cancelled?: () => boolean;
  /** Told every iteration of every attempt. */
  trace?: (step: TraceStep) => void;
  /** Hinge of a flap, in chords, whose loads are wanted. */
  hinge?: { x: number; y: number };
}

export const TOLERANCE = 1e-7;
const MOST_ITERATIONS = 80;
/** An attempt that has not come below this by then is given up. */
const PATIENCE = 32;
const HOPELESS = 0.3;
/** In every so many iterations the residual has to halve. */
const EARLY = 12;
/** From this iteration on, nodes at the stagnation point keep being with or without a layer over a wider range. */
const SETTLED = 8;
/** Smallest step between two angles, rad. */
const LEAST_STEP = 4e-4;
/** Reynolds numbers over the wanted one from which a way down is tried, and below it, up. */
const HIGHER = [4, 16, 64];
const LOWER = [0.5, 0.2, 0.08];
const HIGHEST_REYNOLDS = 1e9;
const LOWEST_START = 1000;
/** Smallest step between two Reynolds numbers, of the logarithm. */
const LEAST_RATIO = 0.012;

/**
 * The viscous flow about a section: boundary layers and wake coupled with the panel method in one Newton system.
 * One object holds all memory that its solutions need; nothing is allocated in the iteration.
 * @source AIAA J. 25(10), 1987, 1347–1355; Lecture Notes in Engineering 54, 1989.
 */
export class ViscousSection {
  readonly solver: InviscidSection;
  private readonly outline: Outline;
  private readonly coupling: SectionCoupling;
  private readonly system: CoupledSystem;
  private readonly gap: number;
  private alternative?: ViscousSection;
  private flow?: SolvedFlow;
  private effort = new Effort(DEFAULT_EFFORT);
  private trace?: (step: TraceStep) => void;
  private attempts = 0;
  /** Least residual that any attempt at the point itself came to. */
  private least = Infinity;
  private wanted?: { alpha: number; reynolds: number };

  /** @param outline a checked outline in chords. @throws InvalidInput, FailedComputation where the panels cannot be solved. */
  constructor(
    outline: Outline,
    private readonly spread: PanelSpread = DEFAULT_SPREAD,
  ) {
    this.outline = openEdge(outline);
    this.solver = new InviscidSection(this.outline, spread);
    this.coupling = new SectionCoupling(this.solver);
    const { x, y } = this.solver.nodes;
    const n = x.length;
    this.gap = this.solver.blunt ? Math.hypot(x[0] - x[n - 1], y[0] - y[n - 1]) : 0;
    this.system = new CoupledSystem(this.solver.nodes, this.coupling.count);
  }

  /**
   * Solves one angle by itself, or from a neighbour's state.
   * @param alpha rad, within ±45°.
   * @returns the point; one that will not converge is `unsolved` with the reason and has no numbers.
   * @throws InvalidInput for conditions outside the method's range.
   */
  at(alpha: number, conditions: ViscousConditions, from?: SolvedState, options: SolveOptions = {}): ViscousPoint {
    checkAngle(alpha);
    checkConditions(conditions);
    const effort = this.begin(options, { alpha, reynolds: conditions.reynolds });
    const done = (approach: Approach) => this.read(approach, options);
    if (from && this.proceed(from, alpha, conditions, effort)) return done('continued');
    if (from && this.approach(from, alpha, conditions, effort)) return done('halved');
    if (this.attempt(alpha, conditions, null, effort)) return done(from ? 'fresh' : 'start');
    for (const way of options.ways ?? ALONE) {
      if (effort.exhausted) break;
      if (effort.within(MOST_OF_WAY[way], () => this.by(way, alpha, conditions, effort))) {
        if (way === 'other-panels') return this.readFrom(this.alternative!, way, options);
        return done(way === 'easier-angle' ? 'halved' : 'over-reynolds');
      }
    }
    this.flow = undefined;
    return unsolvedPoint(alpha, conditions.reynolds, this.failure(effort), effort.spent);
  }

  /** The state last solved. */
  state(): SolvedState {
    const flow = this.flow!;
    return { alpha: flow.alpha, reynolds: flow.conditions.reynolds, layers: roundLayers(this.copyOf(flow.layers)) };
  }

  /** Takes up a state solved before, so that its point and distributions can be read again without solving. @throws InvalidInput for other panels. */
  restore(state: SolvedState, conditions: ViscousConditions): SolvedPoint {
    const { layers, stations } = this.system;
    if (state.layers.c.length !== layers.c.length)
      throw new InvalidInput('state-panels', 'The stored point was solved with other panels.', 'Solve it again.');
    const coupling = this.coupling.at(state.alpha);
    copyLayers(state.layers, layers);
    stationsBySide(layers.side, coupling.nodes, stations);
    this.flow = {
      alpha: state.alpha,
      solver: this.solver,
      coupling,
      conditions: { ...conditions, reynolds: state.reynolds },
      layers,
      stations,
      dead: deadAir(this.gap, coupling),
      iterations: 0,
      residual: 0,
    };
    return readPoint(this.flow);
  }

  /** Whether `state` and `distributions` have something to give. */
  get solved(): boolean {
    return this.flow !== undefined;
  }

  /** Everything along both surfaces and the wake, of the point solved last. */
  distributions(): Distributions | undefined {
    return this.flow && readDistributions(this.flow);
  }

  /** Where the drag of the point solved last arises. */
  dragAlong(): DragAlong | undefined {
    if (!this.flow) return undefined;
    const { cd, cdWave = 0 } = readPoint(this.flow);
    return dragAlong(this.flow, cd - cdWave);
  }

  /** The flow solved last, for checks on it. */
  solvedFlow(): SolvedFlow | undefined {
    return this.flow;
  }

  /** Starts a new point: what it may cost is counted from here. */
  begin(options: SolveOptions = {}, wanted?: { alpha: number; reynolds: number }): Effort {
    this.wanted = wanted;
    this.effort = new Effort(options.effort ?? DEFAULT_EFFORT, options.cancelled);
    this.trace = options.trace;
    this.attempts = 0;
    this.least = Infinity;
    return this.effort;
  }

  read(approach: Approach, options: SolveOptions = {}): SolvedPoint {
    return { ...readPoint(this.flow!, options.hinge), iterations: this.effort.spent, approach };
  }

  private readFrom(other: ViscousSection, approach: Approach, options: SolveOptions): SolvedPoint {
    this.flow = undefined;
    return { ...readPoint(other.flow!, options.hinge), iterations: this.effort.spent, approach };
  }

  /** With other panels: finer ones, then coarser and smoother ones. */
  other(alpha: number, conditions: ViscousConditions, effort: Effort): ViscousSection | undefined {
    if (effort.exhausted) return undefined;
    try {
      this.alternative ??= new ViscousSection(this.outline, {
        ...this.spread,
        panels: Math.min(1000, Math.round(this.spread.panels * 1.2)),
        nose: this.spread.nose * 0.85,
      });
      if (this.alternative.attempt(alpha, conditions, null, effort)) return this.alternative;
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
    }
    return undefined;
  }

  failure(effort: Effort): string {
    if (effort.exhausted) return `The coupled equations did not converge within ${effort.spent} iterations.`;
    return `The coupled equations did not converge by any way (least residual reached: ${this.least.toExponential(1)}).`;
  }

  /** From a neighbour's state: by prediction where there is one, else, or where that fails, from the state as it is. */
  proceed(from: SolvedState, alpha: number, conditions: ViscousConditions, effort: Effort): boolean {
    const guess = from.behind ? predictLayers(from.behind, from, alpha) : this.copyOf(from.layers);
    this.shift(guess, from, alpha);
    if (this.attempt(alpha, conditions, guess, effort)) return true;
    return this.attempt(alpha, conditions, from.layers, effort);
  }

  private copyOf(layers: Layers): Layers {
    const copy = emptyLayers(layers.c.length);
    copyLayers(layers, copy);
    return copy;
  }

  /** Moves the layers around the nose as far as the stagnation point moves without viscosity. */
  private shift(guess: Layers, from: SolvedState, alpha: number): void {
    const { s } = this.solver.nodes;
    const shift = this.stagnationAt(alpha) - this.stagnationAt(from.alpha);
    if (Number.isFinite(shift) && Math.abs(shift) < 0.2) moveStagnation(guess, from.layers, s, shift);
    for (const surface of [0, 1] as const) moveTransition(guess, from.layers, s, surface);
    keepShapes(guess, from.layers, s.length);
  }

  /** Arc length of the stagnation point without viscosity. */
  private stagnationAt(alpha: number): number {
    const { nodes, alongX, alongY } = this.solver;
    const [cos, sin] = [Math.cos(alpha), Math.sin(alpha)];
    const velocity = alongX.map((g, i) => -(cos * g + sin * alongY[i]));
    const k = stagnationPanel(nodes.s, velocity, nodes.nose);
    if (k < 0) return NaN;
    return nodes.s[k] + ((nodes.s[k + 1] - nodes.s[k]) * -velocity[k]) / (velocity[k + 1] - velocity[k]);
  }

  /** Walks from a solved state to an angle in steps that are halved where one fails. Ten steps at most. */
  approach(from: SolvedState, alpha: number, conditions: ViscousConditions, effort: Effort): boolean {
    let at = from.alpha;
    let state = from;
    let step = 0.5 * (alpha - at);
    for (let k = 0; k < 10; k++) {
      if (effort.exhausted || Math.abs(step) < LEAST_STEP) return false;
      const next = Math.abs(alpha - at) <= Math.abs(step) * 1.001 ? alpha : at + step;
      if (this.proceed(state, next, conditions, effort)) {
        if (next === alpha) return true;
        at = next;
        state = this.state();
      } else step *= 0.5;
    }
    return false;
  }

  private by(way: Way, alpha: number, conditions: ViscousConditions, effort: Effort): boolean {
    if (way === 'easier-angle') return this.fromEasierAngle(alpha, conditions, effort);
    if (way === 'higher-reynolds') return this.fromHigherReynolds(alpha, conditions, effort);
    if (way === 'lower-reynolds') return this.fromLowerReynolds(alpha, conditions, effort);
    return this.other(alpha, conditions, effort) !== undefined;
  }

  /** From an angle nearer to the middle, which nearly always can be solved, in steps. */
  private fromEasierAngle(alpha: number, conditions: ViscousConditions, effort: Effort): boolean {
    for (const share of [0.5, 0]) {
      if (effort.exhausted) return false;
      if (!this.attempt(alpha * share, conditions, null, effort)) continue;
      if (this.approach(this.state(), alpha, conditions, effort)) return true;
    }
    return false;
  }

  /** From the same angle at a higher Reynolds number, whose thin layers are easier, down. */
  private fromHigherReynolds(
    alpha: number,
    conditions: ViscousConditions,
    effort: Effort,
    factors: readonly number[] = HIGHER,
  ): boolean {
    for (const factor of factors) {
      if (effort.exhausted) return false;
      const reynolds = Math.min(HIGHEST_REYNOLDS, conditions.reynolds * factor);
      // A walk that fails does so at a fold, which one from further away would meet again.
      if (this.attempt(alpha, { ...conditions, reynolds }, null, effort))
        return this.walkReynolds(alpha, conditions, effort);
    }
    return false;
  }

  /** From the same angle at a lower Reynolds number, where a layer that bursts has burst already, up. */
  private fromLowerReynolds(alpha: number, conditions: ViscousConditions, effort: Effort): boolean {
    for (const factor of LOWER) {
      const reynolds = conditions.reynolds * factor;
      if (reynolds < LOWEST_START || effort.exhausted) return false;
      const there = { ...conditions, reynolds };
      const reached =
        this.attempt(alpha, there, null, effort) ||
        this.fromEasierAngle(alpha, there, effort) ||
        this.fromHigherReynolds(alpha, there, effort, HIGHER.slice(0, 2));
      if (!reached) continue;
      if (this.walkReynolds(alpha, conditions, effort)) return true;
    }
    return false;
  }

  /** From the state just solved to the wanted Reynolds number, in steps of its logarithm that are fitted to how they go. */
  private walkReynolds(alpha: number, conditions: ViscousConditions, effort: Effort): boolean {
    const wanted = Math.log(conditions.reynolds);
    let near = this.state();
    let far: SolvedState | undefined;
    let at = Math.log(near.reynolds);
    let before = at;
    let step = 0.4 * Math.sign(wanted - at);
    while (Math.abs(step) > LEAST_RATIO && !effort.exhausted) {
      const last = Math.abs(wanted - at) <= Math.abs(step);
      const next = last ? wanted : at + step;
      const there = { ...conditions, reynolds: last ? conditions.reynolds : Math.exp(next) };
      const guess = far
        ? predictLayers({ ...far, alpha: before }, { ...near, alpha: at }, next)
        : this.copyOf(near.layers);
      if (this.attempt(alpha, there, guess, effort) || (far && this.attempt(alpha, there, near.layers, effort))) {
        if (last) return true;
        far = near;
        before = at;
        near = this.state();
        at = next;
        step = Math.sign(step) * Math.min(1, 1.5 * Math.abs(step));
      } else step *= 0.4;
    }
    return false;
  }

  private report(iteration: number, alpha: number, reynolds: number): void {
    if (!this.trace) return;
    const { system, solver } = this;
    const { layers } = system;
    const node = Number(/\d+$/.exec(system.worst)?.[0] ?? 0);
    const { x } = solver.nodes;
    this.trace({
      alpha,
      reynolds,
      attempt: this.attempts,
      iteration,
      residual: system.residual,
      worst: system.worst,
      worstAt: node < x.length ? x[node] : 1 + this.coupling.at(alpha).wakeS[node - x.length],
      flowResidual: system.flowResidual,
      criterion: [...system.criteria] as [number, number],
      stagnation: layers.stagnation,
      transition: [...layers.transition],
      byNode: Array.from(system.byNode),
    });
  }

  /** One run of Newton's method. @param start layers to start from; fresh ones without. */
  attempt(alpha: number, conditions: ViscousConditions, start: Layers | null, effort: Effort): boolean {
    this.flow = undefined;
    const { system } = this;
    this.attempts++;
    system.tracing = this.trace !== undefined;
    try {
      const coupling = this.coupling.at(alpha);
      const dead = deadAir(this.gap, coupling);
      system.load(coupling, conditions, dead, start ?? freshLayers(this.solver.nodes, coupling, conditions, dead));
      let most = start ? PATIENCE : MOST_ITERATIONS;
      let best = Infinity;
      let bestBefore = Infinity;
      for (let k = 0; k <= most; k++) {
        system.keepsSides = k >= SETTLED;
        const residual = system.evaluate();
        this.report(k, alpha, conditions.reynolds);
        if (!Number.isFinite(residual)) return false;
        if (alpha === this.wanted?.alpha && conditions.reynolds === this.wanted.reynolds)
          this.least = Math.min(this.least, residual);
        if (residual < TOLERANCE) {
          this.flow = {
            alpha,
            solver: this.solver,
            coupling,
            conditions,
            layers: system.layers,
            stations: system.stations,
            dead,
            iterations: k,
            residual,
          };
          return plausible(this.flow);
        }
        best = Math.min(best, residual);
        if (k % EARLY === EARLY - 1) {
          if (k > EARLY && !system.driven && best > 0.5 * bestBefore) return false;
          bestBefore = best;
        }
        if (system.driven) most = MOST_ITERATIONS;
        if (k === PATIENCE && best > HOPELESS) return false;
        if (k === most || effort.exhausted) return false;
        system.mostShare = k < 20 ? 1 : k < 40 ? 0.6 : 0.35;
        effort.take();
        if (system.advance().share === 0) return false;
      }
    } catch (error) {
      // A singular system or a layer that cannot be marched ends this attempt, not the point.
      if (!(error instanceof VeldtwindError)) throw error;
    }
    return false;
  }
}

/** A root of the equations that is no flow: layers thicker than the section, or drag below zero. */
function plausible(flow: SolvedFlow): boolean {
  const { layers, coupling } = flow;
  const end = coupling.nodes + coupling.wake - 1;
  if (!(layers.theta[end] > 0 && layers.theta[end] < 0.5)) return false;
  return layers.velocity.every(Number.isFinite) && layers.theta.every(Number.isFinite);
}
