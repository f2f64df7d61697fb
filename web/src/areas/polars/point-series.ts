import type { Distributions } from '@veldtwind/core/section-flow';
import type { ChartPoint, ChartSeries } from '@/lib/chart-model';
import type { SeriesStyle } from '@/lib/series-style';

/** Chords up to which the wake is drawn, so that the section keeps its size. */
const WAKE_SHOWN = 1.12;

/** Points of a line moved along its normals. @param x, y the line. @param by how far at each point, to the left of the way along it. */
export function offset(x: ArrayLike<number>, y: ArrayLike<number>, by: ArrayLike<number>): ChartPoint[] {
  const n = x.length;
  return Array.from({ length: n }, (_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
    const [tx, ty] = [x[b] - x[a], y[b] - y[a]];
    const length = Math.hypot(tx, ty) || 1;
    return { x: x[i] - (ty / length) * by[i], y: y[i] + (tx / length) * by[i], tag: x[i] };
  });
}

/**
 * A section and the body that the outer flow sees: both surfaces and the wake with the displacement thickness.
 * The wake's thickness lies above and below its line in the shares that the surfaces leave at the edge.
 */
export function bodyOf(d: Distributions, id: string, style: SeriesStyle): ChartSeries[] {
  const line = (side: Distributions['top']): ChartPoint[] =>
    Array.from(side.x, (x, i) => ({ x, y: side.y[i], tag: x }));
  const { top, bottom, wake } = d;
  const of = (side: Distributions['top'], sign: number) =>
    offset(
      side.x,
      side.y,
      Array.from(side.displacementThickness, (t) => (Number.isFinite(t) ? sign * t : 0)),
    );
  // Both surfaces run from the stagnation point back: the upper one has the outside to its left.
  const short = Array.from(wake.x).filter((x) => x < WAKE_SHOWN).length;
  const last = (side: Distributions['top']) => side.displacementThickness[side.displacementThickness.length - 1] || 0;
  const share = last(top) + last(bottom) > 0 ? last(top) / (last(top) + last(bottom)) : 0.5;
  const aside = (part: number) => Array.from(wake.displacementThickness, (t) => (Number.isFinite(t) ? part * t : 0));
  const plain = { ...style, dash: '' };
  return [
    { id: `section-${id}`, label: '', style: plain, markers: false, points: [...line(top).reverse(), ...line(bottom)] },
    {
      id: `above-${id}`,
      label: '',
      style: plain,
      reference: true,
      points: [...of(top, 1), ...offset(wake.x, wake.y, aside(share)).slice(0, short)],
    },
    {
      id: `below-${id}`,
      label: '',
      style: plain,
      reference: true,
      points: [...of(bottom, -1), ...offset(wake.x, wake.y, aside(share - 1)).slice(0, short)],
    },
  ];
}
