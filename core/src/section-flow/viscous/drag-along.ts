import { QUANTITY, STATION_RECORD } from '../boundary-layer';
import type { SolvedPoint } from './point';
import { stationOf, type SolvedFlow } from './solved-flow';

/** Drag of one surface from its stagnation point on: places in chords, and the drag coefficient of everything up to there. */
export interface DragOfSurface {
  x: Float32Array;
  cd: Float32Array;
}

/** Where a section's drag arises. */
export interface DragAlong {
  top: DragOfSurface;
  bottom: DragOfSurface;
  /** Of the wake: what is left of the whole. */ wake: number;
}

/**
 * Where the drag arises: the kinetic energy that the layers have taken out of the flow up to each station, over q c V. Far downstream it is the drag.
 * @param cd drag of the same flow without that of shocks. @source energy integral equation, AIAA J. 25(10), 1987, 1347–1355.
 */
export function dragAlong(flow: SolvedFlow, cd: number): DragAlong {
  const { solver, stations } = flow;
  const record = new Float64Array(STATION_RECORD);
  const surface = (from: number, to: number): DragOfSurface => {
    const [x, lost] = [new Float32Array(to - from), new Float32Array(to - from)];
    for (let p = from; p < to; p++) {
      const node = stations.order[p];
      const { edge, theta } = stationOf(flow, node, record);
      x[p - from] = solver.nodes.x[node];
      lost[p - from] = edge ** 3 * record[QUANTITY.energy] * theta;
    }
    return { x, cd: lost };
  };
  const top = surface(0, stations.upper);
  const bottom = surface(stations.upper, stations.lower);
  const last = ({ cd: lost }: DragOfSurface) => lost[lost.length - 1] ?? 0;
  return { top, bottom, wake: cd - last(top) - last(bottom) };
}

/** Drag coefficient of each stretch of a surface. @param edges places along the chord, rising; n + 1 of n stretches. */
export function dragOfStretches({ x, cd }: DragOfSurface, edges: readonly number[]): number[] {
  const out = new Array<number>(edges.length - 1).fill(0);
  for (let i = 0; i < x.length; i++) {
    const [from, before] = i === 0 ? [x[0], 0] : [x[i - 1], cd[i - 1]];
    const [low, high] = [Math.min(from, x[i]), Math.max(from, x[i])];
    for (let k = 0; k < out.length; k++) {
      const [a, b] = [k === 0 ? -Infinity : edges[k], k === out.length - 1 ? Infinity : edges[k + 1]];
      const share =
        high > low ? Math.max(0, Math.min(high, b) - Math.max(low, a)) / (high - low) : +(low >= a && low < b);
      out[k] += share * (cd[i] - before);
    }
  }
  return out;
}

/** A laminar bubble: where it lies, chords, and the drag coefficient that arises within it. */
export interface Bubble {
  from: number;
  to: number;
  cd: number;
}

/** The laminar bubble of a surface; null where there is none, or it does not close. */
export function bubbleOf(point: SolvedPoint, drag: DragAlong, surface: 'top' | 'bottom'): Bubble | null {
  const end = surface === 'top' ? 'Top' : 'Bottom';
  const [from, to] = [point[`laminarSeparation${end}`], point[`reattachment${end}`]];
  if (from === undefined || to === undefined || !(to > from)) return null;
  const [, cd] = dragOfStretches(drag[surface], [-1, from, to, 2]);
  return { from, to, cd };
}
