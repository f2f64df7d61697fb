import { interpolate } from '@veldtwind/core/numerics';
import { isSolved, type LayerDistribution } from '@veldtwind/core/section-flow';
import type { ViscousFlow } from '@veldtwind/core/polar';
import type { LayerKey } from '@veldtwind/core/quantities';
import type { ChartMark } from '@/lib/chart-model';
import { LOWER, UPPER } from '@/lib/series-style';

/** Value of a distribution at a place along the chord, behind the nose. */
export function valueAt(d: LayerDistribution, key: LayerKey | 'cp' | 'y', x: number): number {
  return interpolate(d.x, d[key], x);
}

export interface LayerMark {
  surface: 'top' | 'bottom';
  x: number;
  kind: 'transition' | 'laminar separation' | 'reattachment' | 'separation';
}

/** Where the layers change, behind the first hundredth and ahead of the last half per cent of the chord. */
export function layerMarks({ point }: ViscousFlow): LayerMark[] {
  const marks: LayerMark[] = [];
  if (!isSolved(point)) return marks;
  for (const surface of ['top', 'bottom'] as const) {
    const end = surface === 'top' ? 'Top' : 'Bottom';
    const add = (x: number | undefined, kind: LayerMark['kind']) => {
      if (x !== undefined && (x < 0.975 || (kind === 'separation' && x < 0.995))) marks.push({ surface, x, kind });
    };
    add(point[`transition${end}`], 'transition');
    add(point[`laminarSeparation${end}`], 'laminar separation');
    add(point[`reattachment${end}`], 'reattachment');
    add(point[`separation${end}`], 'separation');
  }
  return marks;
}

/** The same as marks on a chart of a quantity; one word where several lie close together. */
export function marksOfLayers(flow: ViscousFlow, key: LayerKey | 'cp'): ChartMark[] {
  const out: ChartMark[] = [];
  const all = layerMarks(flow);
  for (const m of all) {
    const y = valueAt(flow.distributions![m.surface], key, m.x);
    if (!Number.isFinite(y)) continue;
    const bubble =
      m.kind !== 'separation' && all.some((o) => o.surface === m.surface && o.kind === 'laminar separation');
    // A bubble's three marks lie together: transition carries its name.
    const text = m.kind === 'transition' ? (bubble ? 'bubble, transition' : 'transition') : bubble ? '' : m.kind;
    out.push({ x: m.x, y, text, colour: m.surface === 'top' ? UPPER.colour : LOWER.colour });
  }
  return out;
}
