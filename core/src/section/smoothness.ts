import type { Outline } from './outline';
import { SurfaceSpline } from './surface-spline';

/** Curvature along an outline, and where it is lumpy. */
export interface Smoothness {
  /** Arc length of the samples, chords; their places and curvature, 1/chord. */
  s: Float64Array;
  x: Float64Array;
  y: Float64Array;
  curvature: Float64Array;
  nose: number;
  verdict: 'smooth' | 'uneven' | 'lumpy';
  /** Stretches where the curvature swings: surface, from and to in x of the chord, and how much it swings against its mean. */
  lumps: { surface: 'upper' | 'lower'; from: number; to: number; swing: number }[];
}

const SAMPLES = 400;
/** Length over which curvature may change steadily, chords. */
const WINDOW = 0.08;
const UNEVEN = 0.35;
const LUMPY = 1;
/** Swings of curvature below this, 1/chord, are the thickness of a drawn line. */
const FAINT = 0.12;

/**
 * Curvature of an outline from its spline, with a verdict: away from nose and edge, the curvature is held against a parabola through its
 * neighbourhood; where the rest swings by more than a third of the mean, the surface is uneven, where by more than the mean, lumpy.
 * @param outline a checked outline, in chords.
 */
export function smoothnessOf(outline: Outline, spline = new SurfaceSpline(outline)): Smoothness {
  const n = SAMPLES + 1;
  const s = new Float64Array(n);
  const half = SAMPLES / 2;
  for (let i = 0; i <= half; i++) {
    const share = 0.5 * (1 - Math.cos((Math.PI * i) / half));
    s[i] = spline.nose * share;
    s[half + i] = spline.nose + (spline.length - spline.nose) * share;
  }
  const x = s.map((v) => spline.x(v));
  const y = s.map((v) => spline.y(v));
  const curvature = s.map((v) => spline.curvature(v));
  const lumps: Smoothness['lumps'] = [];
  for (const surface of ['upper', 'lower'] as const) {
    const [from, to] =
      surface === 'upper'
        ? [0.03 * spline.nose, 0.9 * spline.nose]
        : [spline.nose + 0.1 * (spline.length - spline.nose), spline.length - 0.03 * (spline.length - spline.nose)];
    let open: Smoothness['lumps'][number] | undefined;
    const count = 120;
    for (let k = 0; k <= count; k++) {
      const at = from + ((to - from) * k) / count;
      const swing = swingAt(spline, at, from, to);
      if (swing > UNEVEN) {
        const px = spline.x(at);
        if (!open) lumps.push((open = { surface, from: px, to: px, swing }));
        open.from = Math.min(open.from, px);
        open.to = Math.max(open.to, px);
        open.swing = Math.max(open.swing, swing);
      } else open = undefined;
    }
  }
  const worst = lumps.reduce((m, l) => Math.max(m, l.swing), 0);
  return {
    s,
    x,
    y,
    curvature,
    nose: half,
    verdict: worst > LUMPY ? 'lumpy' : worst > UNEVEN ? 'uneven' : 'smooth',
    lumps,
  };
}

/** How much the curvature near a place swings about the straight run of its neighbourhood, over its mean size there. */
function swingAt(spline: SurfaceSpline, at: number, from: number, to: number): number {
  const points = 17;
  const a = Math.max(from, at - 0.5 * WINDOW);
  const b = Math.min(to, at + 0.5 * WINDOW);
  // Least squares by 1, u, 2u² − 1 at Chebyshev places, where they are orthogonal.
  const c = [0, 0, 0];
  const values: number[] = [];
  let mean = 0;
  for (let k = 0; k < points; k++) {
    const u = Math.cos((Math.PI * (k + 0.5)) / points);
    const v = spline.curvature(0.5 * (a + b) + 0.5 * (b - a) * u);
    values.push(v);
    mean += Math.abs(v) / points;
    c[0] += v / points;
    c[1] += (2 * v * u) / points;
    c[2] += (2 * v * (2 * u * u - 1)) / points;
  }
  let most = 0;
  values.forEach((v, k) => {
    const u = Math.cos((Math.PI * (k + 0.5)) / points);
    most = Math.max(most, Math.abs(v - c[0] - c[1] * u - c[2] * (2 * u * u - 1)));
  });
  return most < FAINT ? 0 : most / Math.max(mean, 0.15);
}
