import { factorise, solveFactorised } from '../../numerics';
import { findCrossing } from '../../section';
import { InviscidSection, type PanelNodes } from '../../section-flow';
import { movements, normalsOf } from './movements';
import { foremost, foremostPoint } from './surface-speeds';
import type { SpeedTarget } from './target';

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

const MOST_ITERATIONS = 14;
const DIFFERENCE = 2e-5;
/** Furthest that a node moves in one iteration, chords. */
const LONGEST_STEP = 0.025;
/** A remainder below this is none, of the stream's speed. */
export const ENOUGH = 2e-6;

/** What a solution is asked for. */
export interface SpeedProblem {
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
export function solveSpeed(start: PanelNodes, p: SpeedProblem): { nodes: PanelNodes; report: SpeedReport } {
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
