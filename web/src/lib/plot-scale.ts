import { scaleLinear, scaleLog } from 'd3-scale';
import type { PlotScale } from '@/components/plot/context';

/** A domain that a logarithmic scale can show: above zero, at least a little wide. */
function aboveZero([low, high]: [number, number]): [number, number] {
  const top = high > 0 ? high : 1;
  return [low > 0 ? low : top / 1000, top];
}

/** A scale over a domain. @param pixels of its range. @param flipped runs the other way. */
export function plotScale(
  domain: [number, number],
  pixels: number,
  kind: 'linear' | 'log' = 'linear',
  flipped = false,
): PlotScale {
  const range = flipped ? [pixels, 0] : [0, pixels];
  return kind === 'log' ? scaleLog(aboveZero(domain), range) : scaleLinear(domain, range);
}

/** Widens one of two domains about its middle, so that a unit is as long along both axes. */
export function equalDomains(
  x: [number, number],
  y: [number, number],
  pixels: { w: number; h: number },
): { x: [number, number]; y: [number, number] } {
  const perPixel = Math.max((x[1] - x[0]) / pixels.w, (y[1] - y[0]) / pixels.h);
  const widen = ([low, high]: [number, number], length: number): [number, number] => {
    const [middle, half] = [(low + high) / 2, (perPixel * length) / 2];
    return [middle - half, middle + half];
  };
  return { x: widen(x, pixels.w), y: widen(y, pixels.h) };
}

/** A scale as a plain function of the same values, many times faster where it is linear: a redraw asks for tens of thousands of places. */
export function pixelsOf(scale: PlotScale): (v: number) => number {
  if ('base' in scale) return (v) => scale(v);
  const [from, to] = scale.domain();
  const [start, end] = scale.range();
  if (from === to) return (v) => scale(v);
  const perUnit = (end - start) / (to - from);
  return (v) => start + (v - from) * perUnit;
}
