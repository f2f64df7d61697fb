import type { FigureAxis, FigureSpec } from '@veldtwind/core/figures';
import type { AxisSpec, ChartBand, ChartMark, ChartSeries } from './chart-model';
import { seriesStyle } from './series-style';

/** Places in the order of styles that are looked through. */
const PLACES = 60;
const axisOf = (a: AxisSpec): FigureAxis => ({
  name: a.name,
  unit: a.unit ?? '',
  ...(a.zero && { zero: true }),
  ...(a.scale === 'log' && { log: true }),
  ...(a.invert && { inverted: true }),
});

/** The place of a colour and a dash in the order of styles; that of the colour alone, or the curve's own, where they are of another order. */
function placeOf(style: { colour: string; dash?: string }, own: number): number {
  const places = Array.from({ length: PLACES }, (_, k) => k);
  return (
    places.find((k) => seriesStyle(k).colour === style.colour && seriesStyle(k).dash === style.dash) ??
    places.find((k) => seriesStyle(k).colour === style.colour) ??
    own
  );
}

/** A figure of the page as data: what is unsolved interrupts its curve. */
export function figureOf(chart: {
  series: readonly ChartSeries[];
  x: AxisSpec;
  y: AxisSpec;
  bands?: readonly ChartBand[];
  marks?: readonly ChartMark[];
  equal?: boolean;
}): FigureSpec {
  return {
    x: axisOf(chart.x),
    y: axisOf(chart.y),
    series: chart.series.map((s, i) => ({
      name: s.label,
      style: placeOf(s.style, i),
      ...(s.dots && { scattered: true }),
      ...(s.reference && { faint: true }),
      points: s.points.map((p): [number, number] | null =>
        p.status === 'unsolved' || !Number.isFinite(p.x) || !Number.isFinite(p.y) ? null : [p.x, p.y],
      ),
    })),
    bands: (chart.bands ?? []).map(({ axis, from, to, label }) => ({ axis, from, to, name: label })),
    marks: (chart.marks ?? [])
      .filter((m) => Number.isFinite(m.x) && Number.isFinite(m.y))
      .map((m, i) => ({ x: m.x, y: m.y, name: m.text, style: placeOf({ colour: m.colour }, i) })),
    ...(chart.equal && { equal: true }),
  };
}
