import { CubicSpline, FailedComputation, smoothingChange, thirdDifference } from '../../numerics';
import type { Outline } from '../../section';
import { InviscidSection, panelNodes, type PanelNodes } from '../../section-flow';
import { Shape } from '../shape';
import { stretchOf, type Side } from '../steps/local-steps';
import { carryOver } from './movements';
import { ENOUGH, solveSpeed, type SpeedProblem, type SpeedReport } from './speed-solution';
import { foremost } from './surface-speeds';
import type { SpeedPair, SpeedTarget } from './target';

/** A shape that was found for a speed, and how near it came. */
export interface SpeedDesign {
  outline: Outline;
  report: SpeedReport;
}

function nodesOf(shape: Shape): PanelNodes {
  return panelNodes(shape.outline);
}

/** A stretch of one surface, x in chords, and the angle that it is designed at. */
export interface Stretch {
  surface: Side;
  from: number;
  to: number;
  /** rad */
  alpha: number;
}

function stretchNodes(shape: Shape, nodes: PanelNodes, stretch: Stretch): [number, number] {
  const [a, b] = stretchOf(shape.spline, stretch.surface, stretch.from, stretch.to);
  const first = Math.max(
    0,
    nodes.s.findIndex((s) => s >= a - 1e-9),
  );
  let last = first;
  while (last + 1 < nodes.s.length && nodes.s[last + 1] <= b + 1e-9) last++;
  if (last - first < 8) {
    throw new FailedComputation(
      'speed-stretch',
      `Only ${last - first + 1} panels lie in the stretch; a design to a speed needs 9.`,
      'Take a longer stretch.',
    );
  }
  return [first, last];
}

/** Modes over a stretch: two for three panels, at most 60. */
const modesOver = (panels: number) => Math.max(4, Math.min(60, Math.round(panels / 1.5)));

/**
 * Mixed design: the shape of a stretch of one surface that gives a wanted speed there at an angle of attack, everything else held.
 * The stretch leaves its ends without a step, a kink or a jump of curvature; what a speed asks beyond that stays as a remainder.
 * @throws InvalidInput `step-stretch`, FailedComputation.
 */
export function designStretch(
  shape: Shape,
  stretch: Stretch,
  target: SpeedTarget,
  progress?: SpeedProblem['progress'],
): SpeedDesign {
  const dense = shape.dense();
  const start = nodesOf(dense);
  const [first, last] = stretchNodes(dense, start, stretch);
  const { nodes, report } = solveSpeed(start, {
    alpha: stretch.alpha,
    target,
    first,
    last,
    whole: false,
    modes: modesOver(last - first),
    progress,
  });
  return { outline: carryOver(dense, start, nodes, first, last), report };
}

/** Whole-surface modes. */
const WHOLE_MODES = 90;
const ROUNDS = 2;

/**
 * Whole design: the section whose speed at an angle of attack is the one wanted on both surfaces. The outline stays closed as it is (its gap is
 * kept) and its chord at 1. Not every speed belongs to a closed outline in a uniform stream: what this one cannot have of the target is
 * given as a level, a share fore and aft and one above and below; they vanish for a speed that belongs to a section.
 * @source closure conditions: ARC R&M 2112, 1945.
 */
export function designWhole(
  shape: Shape,
  alpha: number,
  target: SpeedTarget,
  front?: number,
  progress?: SpeedProblem['progress'],
): SpeedDesign {
  const dense = shape.dense();
  let base = dense;
  let report: SpeedReport | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const start = nodesOf(base);
    const last = start.x.length - 1;
    const solved = solveSpeed(start, {
      alpha,
      target,
      first: 0,
      last,
      whole: true,
      front,
      modes: WHOLE_MODES,
      progress,
    });
    // The panels went with the shape; the next round spreads them anew.
    if (report && solved.report.after > 0.98 * report.after) break;
    base = Shape.ofOutline(carryOver(base, start, solved.nodes, 0, last));
    report = {
      ...solved.report,
      before: report?.before ?? solved.report.before,
      iterations: solved.report.iterations + (report?.iterations ?? 0),
    };
    if (report.after < ENOUGH * 10) break;
  }
  const { outline } = base;
  return { outline, report: { ...report!, displacement: furthest(dense.outline, outline) } };
}

function furthest(a: Outline, b: Outline): number {
  return a.x.reduce((m, x, i) => Math.max(m, Math.hypot(x - b.x[i], a.y[i] - b.y[i])), 0);
}

/** Smoothing length of the speed at strength 1, chords. */
const REACH = 0.025;

/** Evens out the wiggles of the speed over a stretch and finds the shape that has the smoother speed, as often as is asked. */
export function smoothSpeed(
  shape: Shape,
  stretch: Stretch,
  strength: number,
  times: number,
  progress?: SpeedProblem['progress'],
): SpeedDesign {
  let base = shape.dense();
  const original = base;
  let report: SpeedReport = { before: 0, after: 0, displacement: 0, iterations: 0 };
  for (let turn = 0; turn < times && strength > 0; turn++) {
    const nodes = nodesOf(base);
    const [first, last] = stretchNodes(base, nodes, stretch);
    const section = new InviscidSection(nodes);
    const front = foremost(nodes.x);
    const speed = section.at(stretch.alpha).speed.map((v, i) => (i <= front ? -v : v));
    const s = nodes.s.slice(first, last + 1);
    const q = speed.slice(first, last + 1);
    const third = new Float64Array(s.length);
    for (let i = 1; i + 2 < s.length; i++) {
      const w = thirdDifference(s, i);
      third[i] = w[0] * q[i - 1] + w[1] * q[i] + w[2] * q[i + 1] + w[3] * q[i + 2];
    }
    const change = smoothingChange(s, third, REACH * strength);
    const pairs = Array.from(s, (_, i): SpeedPair => [nodes.x[first + i], q[i] + change[i]]);
    if (stretch.surface === 'upper') pairs.reverse();
    const spline = new CubicSpline(
      pairs.map((p) => p[0]),
      pairs.map((p) => p[1]),
    );
    const design = designStretch(base, stretch, (x) => spline.at(x), progress);
    report = { ...design.report, before: turn === 0 ? design.report.before : report.before };
    base = Shape.ofOutline(design.outline);
  }
  const { outline } = base;
  report.displacement = furthest(original.outline, outline);
  return { outline, report };
}
