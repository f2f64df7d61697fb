import {
  CubicSpline,
  factorise,
  FailedComputation,
  smoothingChange,
  solveFactorised,
  thirdDifference,
} from '../../numerics';
import { findCrossing, type Outline } from '../../section';
import { InviscidSection, panelNodes, type PanelNodes } from '../../section-flow';
import { Shape } from '../shape';
import { stretchOf, type Surface } from '../steps/local-steps';
import type { SpeedPair, SpeedTarget } from './target';

/** What an inverse step did. */
export interface SpeedReport {
  /** Root mean square of what is left between wanted and reached speed, over that of the stream; before and after. */
  before: number;
  after: number;
  /** Largest displacement of the outline, chords. */
  displacement: number;
  iterations: number;
  /** Of a whole design: what a closed outline in a uniform stream cannot give of the target, over the speed of the stream. */
  closure?: { level: number; foreAft: number; aboveBelow: number; gap: number };
}

export interface SpeedDesign {
  outline: Outline;
  report: SpeedReport;
}

const MOST_ITERATIONS = 14;
const DIFFERENCE = 2e-5;
/** Furthest that a node moves in one iteration, chords. */
const LONGEST_STEP = 0.025;
const ENOUGH = 2e-6;

/** Speeds toward the trailing edge, both surfaces from the foremost point back. */
export function surfaceSpeeds(outline: Outline, alpha: number): { upper: SpeedPair[]; lower: SpeedPair[] } {
  const section = new InviscidSection(outline);
  const { x, s } = section.nodes;
  const { speed } = section.at(alpha);
  const front = foremostPoint(section.nodes);
  const round = (v: number) => Number(v.toPrecision(9));
  const q = new CubicSpline(s, speed).at(front.s);
  const upper: SpeedPair[] = [[round(front.x), round(-q)]];
  const lower: SpeedPair[] = [[round(front.x), round(q)]];
  for (let i = x.length - 1; i >= 0; i--) if (s[i] < front.s) upper.push([round(x[i]), round(-speed[i])]);
  for (let i = 0; i < x.length; i++) if (s[i] > front.s) lower.push([round(x[i]), round(speed[i])]);
  return { upper, lower };
}

function foremost(x: Float64Array): number {
  let at = 0;
  for (let i = 1; i < x.length; i++) if (x[i] < x[at]) at = i;
  return at;
}

/** The foremost point of the outline through the nodes, between them. */
function foremostPoint(nodes: PanelNodes): { s: number; x: number } {
  const spline = new CubicSpline(nodes.s, nodes.x);
  const i = foremost(nodes.x);
  let [low, high] = [nodes.s[Math.max(0, i - 1)], nodes.s[Math.min(nodes.s.length - 1, i + 1)]];
  for (let k = 0; k < 48; k++) {
    const middle = 0.5 * (low + high);
    if (spline.derivative(middle) < 0) low = middle;
    else high = middle;
  }
  return { s: low, x: spline.at(low) };
}

/** A cubic B-spline of unit height about 0, zero beyond ±2. */
function hat(u: number): number {
  const a = Math.abs(u);
  if (a >= 2) return 0;
  return a < 1 ? 1 - 1.5 * a * a + 0.75 * a ** 3 : 0.25 * (2 - a) ** 3;
}

/** Ways in which the nodes first…last may move, each a value per node; free to turn at an end where `open`, else flat there. */
function movements(count: number, first: number, last: number, modes: number, open: boolean): Float64Array[] {
  const list: Float64Array[] = [];
  const spacing = (last - first) / (open ? modes + 1 : modes + 3);
  for (let k = 0; k < modes; k++) {
    const centre = first + spacing * (k + (open ? 1 : 2));
    const mode = new Float64Array(count);
    for (let i = first + 1; i < last; i++) {
      // Where the end may turn, the part that hangs over it is folded back with its sign changed: no height, but a slope.
      const fold = open ? hat((2 * first - i - centre) / spacing) + hat((2 * last - i - centre) / spacing) : 0;
      mode[i] = hat((i - centre) / spacing) - fold;
    }
    list.push(mode);
  }
  return list;
}

interface Problem {
  alpha: number;
  target: SpeedTarget;
  /** Nodes that move, and those whose speed counts. */
  first: number;
  last: number;
  whole: boolean;
  modes: number;
  /** x of the foremost point that is wanted; that of the start without. */
  front?: number;
  /** Called after every iteration; throwing stops. */
  progress?: (iteration: number, left: number) => void;
}

/** Gauss–Newton with differences: nodes move along their normals in smooth modes until the speeds are those wanted. */
function solve(start: PanelNodes, p: Problem): { nodes: PanelNodes; report: SpeedReport } {
  const n = start.x.length;
  const modes = movements(n, p.first, p.last, p.modes, p.whole);
  const width = modes.length;
  let nodes = start;
  const rows = p.whole ? n + 1 : p.last - p.first + 1;
  const frontNow = foremostPoint(start).x;
  // A target that begins far behind the nose says nothing of where that lies.
  const frontWanted = p.front !== undefined && Math.abs(p.front - frontNow) < 0.01 ? p.front : frontNow;

  const residual = (at: PanelNodes): Float64Array => {
    const section = new InviscidSection(at);
    const speed = section.at(p.alpha).speed;
    const front = foremostPoint(at);
    const r = new Float64Array(rows);
    for (let k = 0; k < rows - (p.whole ? 1 : 0); k++) {
      const i = p.first + k;
      const upper = at.s[i] < front.s;
      const x = at.x[i];
      const wanted = p.target(x, upper, front.x);
      r[k] = (upper ? -speed[i] : speed[i]) - wanted;
    }
    if (p.whole) r[rows - 1] = 10 * (front.x - frontWanted);
    return r;
  };
  const rms = (r: Float64Array) => Math.sqrt(r.reduce((sum, v) => sum + v * v, 0) / r.length);
  const moved = (from: PanelNodes, normals: [Float64Array, Float64Array], d: Float64Array): PanelNodes => ({
    ...from,
    x: from.x.map((x, i) => x + d[i] * normals[0][i]),
    y: from.y.map((y, i) => y + d[i] * normals[1][i]),
  });
  const displacement = (c: Float64Array) => {
    const d = new Float64Array(n);
    modes.forEach((m, k) => {
      for (let i = 0; i < n; i++) d[i] += c[k] * m[i];
    });
    return d;
  };

  let r = residual(nodes);
  const before = rms(r);
  let left = before;
  let jacobian: Float64Array | undefined;
  let fresh = false;
  let damping = 1e-8;
  let iteration = 0;
  for (; iteration < MOST_ITERATIONS && left > ENOUGH; iteration++) {
    const normals = normalsOf(nodes);
    if (!jacobian) {
      jacobian = new Float64Array(rows * width);
      fresh = true;
      for (let k = 0; k < modes.length; k++) {
        const shifted = residual(
          moved(
            nodes,
            normals,
            modes[k].map((v) => v * DIFFERENCE),
          ),
        );
        for (let i = 0; i < rows; i++) jacobian[i * width + k] = (shifted[i] - r[i]) / DIFFERENCE;
      }
    }
    const normal = new Float64Array(width * width);
    const right = new Float64Array(width);
    let trace = 0;
    for (let a = 0; a < width; a++) {
      for (let b = 0; b <= a; b++) {
        let sum = 0;
        for (let i = 0; i < rows; i++) sum += jacobian[i * width + a] * jacobian[i * width + b];
        normal[a * width + b] = normal[b * width + a] = sum;
      }
      for (let i = 0; i < rows; i++) right[a] -= jacobian[i * width + a] * r[i];
      trace += normal[a * width + a];
    }
    for (let a = 0; a < width; a++) normal[a * width + a] += (damping * trace) / width;
    const change = solveFactorised(factorise(normal, width), right);
    const d = displacement(change);
    const most = d.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
    const share = Math.min(1, LONGEST_STEP / most);
    const next = moved(
      nodes,
      normals,
      d.map((v) => share * v),
    );
    const nextR = findCrossing(next) ? undefined : residual(next);
    const nextLeft = nextR ? rms(nextR) : Infinity;
    p.progress?.(iteration + 1, Math.min(left, nextLeft));
    if (nextR && nextLeft < left) {
      const gain = nextLeft / left;
      nodes = next;
      r = nextR;
      left = nextLeft;
      damping = Math.max(1e-10, damping / 10);
      if (fresh && gain > 0.98 && share === 1) break;
      // A step that did little asks for the slopes of this place.
      if (gain > 0.5) jacobian = undefined;
      else fresh = false;
    } else if (!fresh) jacobian = undefined;
    else {
      damping *= 100;
      if (damping > 1) break;
    }
  }
  return {
    nodes,
    report: {
      before,
      after: left,
      displacement: start.x.reduce((m, x, i) => Math.max(m, Math.hypot(nodes.x[i] - x, nodes.y[i] - start.y[i])), 0),
      iterations: iteration,
      ...(p.whole && { closure: closureOf(nodes, r) }),
    },
  };
}

/**
 * What is left of a target's speed once the outline is closed, as a level, a share fore and aft and a share above and below: least squares
 * of the remainder by 1, cos θ and sin θ with x = (1 + cos θ) / 2.
 */
function closureOf(nodes: PanelNodes, r: Float64Array): NonNullable<SpeedReport['closure']> {
  const n = nodes.x.length;
  const front = foremost(nodes.x);
  const normal = new Float64Array(9);
  const right = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    const cos = Math.max(-1, Math.min(1, 2 * nodes.x[i] - 1));
    const f = [1, cos, Math.sqrt(1 - cos * cos) * (i <= front ? 1 : -1)];
    for (let a = 0; a < 3; a++) {
      right[a] += f[a] * r[i];
      for (let b = 0; b < 3; b++) normal[a * 3 + b] += f[a] * f[b];
    }
  }
  const [level, foreAft, aboveBelow] = solveFactorised(factorise(normal, 3), right);
  const gap = Math.hypot(nodes.x[0] - nodes.x[n - 1], nodes.y[0] - nodes.y[n - 1]);
  return { level, foreAft, aboveBelow, gap };
}

/** Outward normals at the nodes. */
function normalsOf(nodes: PanelNodes): [Float64Array, Float64Array] {
  const xs = new CubicSpline(nodes.s, nodes.x);
  const ys = new CubicSpline(nodes.s, nodes.y);
  const nx = new Float64Array(nodes.s.length);
  const ny = new Float64Array(nodes.s.length);
  nodes.s.forEach((s, i) => {
    const [tx, ty] = [xs.derivative(s), ys.derivative(s)];
    const norm = Math.hypot(tx, ty);
    nx[i] = ty / norm;
    ny[i] = -tx / norm;
  });
  return [nx, ny];
}

/** Carries the displacement of the nodes over to the points of the outline; points outside the nodes that moved stay as they are. */
function carryOver(shape: Shape, before: PanelNodes, after: PanelNodes, first: number, last: number): Outline {
  const s = before.s.slice(first, last + 1);
  const move = (a: Float64Array, b: Float64Array) =>
    new CubicSpline(
      s,
      s.map((_, i) => b[first + i] - a[first + i]),
    );
  const [dx, dy] = [move(before.x, after.x), move(before.y, after.y)];
  const { outline, spline } = shape;
  const inside = (t: number) => t > s[0] && t < s[s.length - 1];
  return {
    x: outline.x.map((x, i) => (inside(spline.knots[i]) ? x + dx.at(spline.knots[i]) : x)),
    y: outline.y.map((y, i) => (inside(spline.knots[i]) ? y + dy.at(spline.knots[i]) : y)),
  };
}

function nodesOf(shape: Shape): PanelNodes {
  return panelNodes(shape.outline);
}

export interface Stretch {
  surface: Surface;
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
  progress?: Problem['progress'],
): SpeedDesign {
  const dense = shape.dense();
  const start = nodesOf(dense);
  const [first, last] = stretchNodes(dense, start, stretch);
  const { nodes, report } = solve(start, {
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
  progress?: Problem['progress'],
): SpeedDesign {
  const dense = shape.dense();
  let base = dense;
  let report: SpeedReport | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const start = nodesOf(base);
    const last = start.x.length - 1;
    const solved = solve(start, { alpha, target, first: 0, last, whole: true, front, modes: WHOLE_MODES, progress });
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
  progress?: Problem['progress'],
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
