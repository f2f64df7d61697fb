import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { RAD, VeldtwindError } from '../numerics';
import { analysis, Cancelled } from '../results';
import {
  atLift,
  bubbleOf,
  isSolved,
  unsolvedPoint,
  ViscousSection,
  type Bubble,
  type Distributions,
  type DragAlong,
  type SolvedPoint,
  type SolvedState,
  type ViscousPoint,
} from '../section-flow';
import { sectionSource, type SectionSource } from '../shaping';
import { within } from '../limits';
import { CONDITION_LIMITS, flapSetting, viscousConditions, type FlapSetting } from './conditions';
import { flappedOutline } from './section-flow';

/** Most conditions that a section is watched at. */
export const MOST_FLOWN = 6;

/** A condition that a section is flown at: a lift coefficient, or an angle, and a Reynolds number. */
export const flownCondition = z
  .object({
    cl: within(CONDITION_LIMITS.cl).optional(),
    alphaDeg: within(CONDITION_LIMITS.alphaDeg).optional(),
    conditions: viscousConditions,
  })
  .refine((c) => (c.cl === undefined) !== (c.alphaDeg === undefined), {
    message: 'holds either a lift coefficient or an angle',
  });
export type FlownCondition = z.infer<typeof flownCondition>;

/** What the flow of a section is at one condition. */
export interface FlownFlow {
  point: ViscousPoint;
  distributions?: Distributions;
  /** Where the drag arises; not of a flow that other panels had to solve. */
  drag?: DragAlong;
  bubbles?: { top: Bubble | null; bottom: Bubble | null };
}

/** Iterations that a point may take while a shape moves. */
const LIVE_EFFORT = 600;

function flowAt(
  section: ViscousSection,
  hinge: { x: number; y: number } | undefined,
  { cl, alphaDeg, conditions }: FlownCondition,
  from: SolvedState | undefined,
  effort: number | undefined,
  cancelled?: () => boolean,
): FlownFlow {
  const options = { hinge, cancelled, ...(effort === undefined ? {} : { effort }) };
  const point =
    cl === undefined
      ? section.at(alphaDeg! * RAD, conditions, from, options)
      : atLift(section, cl, { kind: 'fixed-re', conditions }, from, options);
  if (!isSolved(point) || !section.solved) return { point };
  const drag = section.dragAlong()!;
  return {
    point,
    distributions: section.distributions(),
    drag,
    bubbles: { top: bubbleOf(point, drag, 'top'), bottom: bubbleOf(point, drag, 'bottom') },
  };
}

/**
 * The viscous flow of a section at each of some conditions, each solved by itself, so that the same question has the same answer.
 * @returns one a condition; one without a solution has an unsolved point with the reason. @throws InvalidInput for a section or a flap that cannot be made.
 */
export function flownFlows(
  source: SectionSource,
  flap: FlapSetting | null,
  conditions: readonly FlownCondition[],
): FlownFlow[] {
  const { outline, hinge } = flappedOutline(source, flap);
  const section = new ViscousSection(outline);
  return conditions.map((c) => flowAt(section, hinge, c, undefined, undefined));
}

/** States solved last, by condition: of whatever shape, since a touch changes it a little. */
const states = new LRUCache<string, SolvedState>({ max: 24 });
/** Solvers of the last shapes. */
const sections = new LRUCache<string, { section: ViscousSection; hinge?: { x: number; y: number } }>({ max: 4 });

/** Of one condition of several, told as soon as it is there. */
export interface FlownStep {
  index: number;
  flow: FlownFlow;
}

/**
 * The viscous flow of a shape that is being touched, at some conditions: each goes on from the state that the shape before had there. It is shown and not
 * stored: another start may lead to another root where there are two.
 */
export const liveFlown = analysis({
  version: 1,
  input: z.object({
    source: sectionSource,
    flap: flapSetting.nullable().default(null),
    conditions: z.array(flownCondition).min(1).max(MOST_FLOWN),
  }),
  run: async ({ source, flap, conditions }, { report, cancelled, breathe }): Promise<FlownFlow[]> => {
    const key = JSON.stringify([source, flap]);
    let ready = sections.get(key);
    if (!ready) {
      const { outline, hinge } = flappedOutline(source, flap);
      ready = { section: new ViscousSection(outline), hinge };
      sections.set(key, ready);
    }
    const { section, hinge } = ready;
    const flows: FlownFlow[] = [];
    for (const [index, condition] of conditions.entries()) {
      if (index > 0) await breathe?.();
      if (cancelled?.()) throw new Cancelled();
      const held = JSON.stringify(condition);
      let flow: FlownFlow;
      try {
        flow = flowAt(section, hinge, condition, states.get(held), LIVE_EFFORT, cancelled);
      } catch (error) {
        if (!(error instanceof VeldtwindError)) throw error;
        // What cannot be solved at one condition says nothing about the others.
        flow = { point: unsolvedPoint(null, condition.conditions.reynolds, error.message, 0) };
      }
      if (isSolved(flow.point) && section.solved) states.set(held, section.state());
      flows.push(flow);
      report?.({ done: index + 1, of: conditions.length, detail: { index, flow } satisfies FlownStep });
    }
    return flows;
  },
});

/** The numbers of a flow that shapes are compared by; null where it is unsolved. */
export interface FlownNumbers {
  alphaDeg: number | null;
  cl: number | null;
  cd: number | null;
  cm: number | null;
  clOverCd: number | null;
  transitions: { top: number; bottom: number } | null;
  status: ViscousPoint['status'];
  reason?: string;
}

/** A flow in the numbers that shapes are compared by. */
export function flownNumbers(point: ViscousPoint): FlownNumbers {
  if (!isSolved(point))
    return {
      alphaDeg: point.alpha === null ? null : point.alpha / RAD,
      cl: null,
      cd: null,
      cm: null,
      clOverCd: null,
      transitions: null,
      status: point.status,
      reason: point.reason,
    };
  const { alpha, cl, cd, cm, status, reason, transitionTop, transitionBottom } = point;
  return {
    alphaDeg: alpha / RAD,
    cl,
    cd,
    cm,
    clOverCd: cl / cd,
    transitions: { top: transitionTop, bottom: transitionBottom },
    status,
    ...(reason === undefined ? {} : { reason }),
  };
}

/** Numbers that are compared, by difference and by share. */
const COMPARED = ['alphaDeg', 'cl', 'cd', 'cm', 'clOverCd'] as const;
type Compared = Record<(typeof COMPARED)[number], number | null>;

/** One condition: before, after, what changed, and the change in % of the size before. */
export interface FlownChange {
  before: FlownNumbers;
  after: FlownNumbers;
  change: Compared & { transitions: { top: number; bottom: number } | null };
  /** Null where there was nothing before. */
  percent: Pick<Compared, 'cd' | 'cm' | 'clOverCd'>;
}

/** Compares two flows at one condition; a number that one of them has not is null. */
export function flownChange(before: ViscousPoint, after: ViscousPoint): FlownChange {
  const [a, b] = [flownNumbers(before), flownNumbers(after)];
  const change = Object.fromEntries(
    COMPARED.map((k) => [k, a[k] === null || b[k] === null ? null : b[k] - a[k]]),
  ) as Compared;
  const share = (k: 'cd' | 'cm' | 'clOverCd') =>
    change[k] === null || a[k] === null || a[k] === 0 ? null : (100 * change[k]) / Math.abs(a[k]);
  return {
    before: a,
    after: b,
    change: {
      ...change,
      transitions:
        a.transitions && b.transitions
          ? { top: b.transitions.top - a.transitions.top, bottom: b.transitions.bottom - a.transitions.bottom }
          : null,
    },
    percent: { cd: share('cd'), cm: share('cm'), clOverCd: share('clOverCd') },
  };
}

/** Where a turbulent layer is nearest to separation: its shape factor there, and the place, chords. */
export interface SeparationMargin {
  shapeFactor: number;
  x: number;
}

/** The station of a surface whose turbulent layer is nearest to separation; null where no layer is turbulent. */
export function nearestToSeparation(
  { distributions, point }: FlownFlow,
  surface: 'top' | 'bottom',
): SeparationMargin | null {
  if (!distributions || !isSolved(point)) return null;
  const { x, shapeFactor, shearStress } = distributions[surface];
  const closed = point[surface === 'top' ? 'reattachmentTop' : 'reattachmentBottom'] ?? -1;
  let worst: SeparationMargin | null = null;
  for (let i = 0; i < x.length; i++) {
    // Within a bubble the layer is separated already, and behind transition the shape factor falls from the laminar one's.
    if (Number.isNaN(shearStress[i]) || x[i] <= Math.max(closed, transitionOf(point, surface) + 0.05)) continue;
    if (!worst || shapeFactor[i] > worst.shapeFactor) worst = { shapeFactor: shapeFactor[i], x: x[i] };
  }
  return worst;
}

const transitionOf = (p: SolvedPoint, surface: 'top' | 'bottom') =>
  surface === 'top' ? p.transitionTop : p.transitionBottom;
