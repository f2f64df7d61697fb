import { VeldtwindError } from '../../numerics';
import type { Outline } from '../../section';
import { openEdge } from './edge';
import { checkAngle, InviscidSection } from '../inviscid';
import { DEFAULT_SPREAD, type PanelSpread } from '../panelling';
import { checkConditions } from './conditions';
import { DEFAULT_EFFORT, Effort } from './effort';
import { SectionCoupling } from './coupling';
import { copyLayers, deadAir, emptyLayers, stagnationPanel, type Layers, type ViscousConditions } from './layers';
import { moveStagnation, moveTransition, predictLayers } from './predict';
import { unsolvedPoint, type Approach, type SolvedPoint, type ViscousPoint } from './point';
import { readDistributions, readPoint, type Distributions, type SolvedFlow } from './results';
import { freshLayers } from './start';
import { CoupledSystem } from './system';

/** A solved flow kept to start a neighbouring one from: plain data that can be stored and sent between threads. */
export interface SolvedState {
  alpha: number;
  reynolds: number;
  layers: Layers;
  /** One farther on the same side, from which it is seen where things go. */
  behind?: SolvedState;
}

/** What a point may cost, and what is wanted of it beside its forces. */
export interface SolveOptions {
  /** Iterations that one point may take over all its attempts. */
  effort?: number;
  /** Asked now and then; true ends the analysis with `Cancelled`. */
  cancelled?: () => boolean;
  /** Hinge of a flap, in chords, whose loads are wanted. */
  hinge?: { x: number; y: number };
}

export const TOLERANCE = 1e-7;
const MOST_ITERATIONS = 80;
/** An attempt that has not come below this by then is given up. */
const PATIENCE = 32;
const HOPELESS = 0.3;

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
    const effort = this.begin(options);
    const done = (approach: Approach) => this.read(approach, options);
    if (from && this.proceed(from, alpha, conditions, effort)) return done('continued');
    if (from && this.approach(from, alpha, conditions, effort)) return done('halved');
    if (this.attempt(alpha, conditions, null, effort)) return done(from ? 'fresh' : 'start');
    // From an angle nearer to the middle, which nearly always can be solved, in steps.
    for (const share of [0.5, 0]) {
      if (effort.exhausted) break;
      const easier = alpha * share;
      if (!this.attempt(easier, conditions, null, effort)) continue;
      if (this.approach(this.state(), alpha, conditions, effort)) return done('halved');
    }
    const other = this.other(alpha, conditions, effort);
    if (other) return this.readFrom(other, 'other-panels', options);
    this.flow = undefined;
    return unsolvedPoint(alpha, conditions.reynolds, this.failure(effort), effort.spent);
  }

  /** The state last solved. */
  state(): SolvedState {
    const flow = this.flow!;
    return { alpha: flow.alpha, reynolds: flow.conditions.reynolds, layers: this.copyOf(flow.layers) };
  }

  /** Whether `state` and `distributions` have something to give. */
  get solved(): boolean {
    return this.flow !== undefined;
  }

  /** Everything along both surfaces and the wake, of the point solved last. */
  distributions(): Distributions | undefined {
    return this.flow && readDistributions(this.flow);
  }

  /** The flow solved last, for checks on it. */
  solvedFlow(): SolvedFlow | undefined {
    return this.flow;
  }

  /** Starts a new point: what it may cost is counted from here. */
  begin(options: SolveOptions = {}): Effort {
    this.effort = new Effort(options.effort ?? DEFAULT_EFFORT, options.cancelled);
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
    return `The coupled equations did not converge by any way (largest residual left: ${this.system.residual.toExponential(1)}).`;
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
      if (effort.exhausted || Math.abs(step) < 1e-4) return false;
      const next = Math.abs(alpha - at) <= Math.abs(step) * 1.001 ? alpha : at + step;
      if (this.proceed(state, next, conditions, effort)) {
        if (next === alpha) return true;
        at = next;
        state = this.state();
      } else step *= 0.5;
    }
    return false;
  }

  /** One run of Newton's method. @param start layers to start from; fresh ones without. */
  attempt(alpha: number, conditions: ViscousConditions, start: Layers | null, effort: Effort): boolean {
    this.flow = undefined;
    const { system } = this;
    try {
      const coupling = this.coupling.at(alpha);
      const dead = deadAir(this.gap, coupling);
      system.load(coupling, conditions, dead, start ?? freshLayers(this.solver.nodes, coupling, conditions, dead));
      const most = start ? PATIENCE : MOST_ITERATIONS;
      let best = Infinity;
      for (let k = 0; k <= most; k++) {
        const residual = system.evaluate();
        if (!Number.isFinite(residual)) return false;
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
