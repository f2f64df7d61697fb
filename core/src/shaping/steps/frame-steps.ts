import { InvalidInput } from '../../numerics';
import { camberCrest, surfaceHeight, thicknessCrest, lineOf, type MeanFrame } from '../../section';
import { fade, Shape } from '../shape';

/** Thickness multiplied, mean line as it was. */
export function scaleThickness(shape: Shape, by: number): Shape {
  const frame = shape.frame;
  return Shape.ofFrame({ ...frame, eta: frame.eta.map((e) => e * by) });
}

/** Greatest thickness set, in chords. */
export function setThickness(shape: Shape, to: number): Shape {
  return scaleThickness(shape, to / thicknessCrest(shape.frame).max);
}

/** Chord line of a frame. */
function chordLine(frame: MeanFrame): (x: number) => number {
  const last = frame.x.length - 1;
  const tilt = (frame.y[last] - frame.y[0]) / (frame.x[last] - frame.x[0]);
  return (x) => frame.y[0] + tilt * (x - frame.x[0]);
}

/** Camber over the chord line multiplied, thickness as it was. */
export function scaleCamber(shape: Shape, by: number): Shape {
  const frame = shape.frame;
  const chord = chordLine(frame);
  return Shape.ofFrame({ ...frame, y: frame.y.map((y, i) => chord(frame.x[i]) + by * (y - chord(frame.x[i]))) });
}

/** A section without camber is given the mean line of two parabolas with its crest here. */
const FRESH_CREST = 0.4;

/** Camber of the greatest size set, in chords; a section that has none gets a mean line of its own. */
export function setCamber(shape: Shape, to: number): Shape {
  const frame = shape.frame;
  const now = camberCrest(frame).max;
  if (Math.abs(now) > 1e-5) return scaleCamber(shape, to / now);
  const chord = chordLine(frame);
  const [a, b] = [frame.x[0], frame.x[frame.x.length - 1]];
  return Shape.ofFrame({
    ...frame,
    y: frame.x.map((x) => {
      const u = (x - a) / (b - a);
      const v = moved(u, FRESH_CREST, 0.5);
      return chord(x) + to * (b - a) * 4 * v * (1 - v);
    }),
  });
}

/**
 * The map of 0…1 onto itself that takes one place to another: a Möbius map, so that moving there and back is no move at all.
 * @param u the place to be moved. @param from, to within 0…1.
 */
function moved(u: number, from: number, to: number): number {
  const m = (to - from) / (from * (1 - to));
  return ((1 + m) * u) / (1 + m * u);
}
/** How much a crest's move may squeeze or stretch the nose. */
const MOST_STRETCH = 8;

function checkMove(from: number, to: number, what: string): void {
  const stretch = (to * (1 - from)) / (from * (1 - to));
  if (stretch <= MOST_STRETCH && stretch >= 1 / MOST_STRETCH) return;
  const limit = stretch > 1 ? MOST_STRETCH : 1 / MOST_STRETCH;
  const nearest = (limit * from) / (1 - from + limit * from);
  throw new InvalidInput(
    'step-limit',
    `The crest of ${what} cannot move from ${from.toFixed(3)} to ${to.toFixed(3)}: the nose would be ${stretch > 1 ? 'stretched' : 'squeezed'} more than ${MOST_STRETCH} times.`,
    `Nearest that works: ${nearest.toFixed(3)}.`,
    'to',
  );
}

/** The place of the greatest thickness moved; the thickness itself and the mean line stay. */
export function moveThicknessCrest(shape: Shape, to: number): Shape {
  const frame = shape.frame;
  const from = thicknessCrest(frame).at;
  checkMove(from, to, 'the thickness');
  const [a, b] = [frame.x[0], frame.x[frame.x.length - 1]];
  return Shape.ofFrame({
    ...frame,
    xi: frame.xi.map((xi) => a + (b - a) * moved((xi - a) / (b - a), from, to)),
  });
}

/** The place of the greatest camber moved; its size and the thickness stay. @throws InvalidInput where there is no camber. */
export function moveCamberCrest(shape: Shape, to: number): Shape {
  const frame = shape.frame;
  const now = camberCrest(frame);
  if (Math.abs(now.max) < 1e-5) {
    throw new InvalidInput(
      'step-no-camber',
      'This section has no camber whose crest could move.',
      'Set the camber first.',
      'to',
    );
  }
  checkMove(now.at, to, 'the camber');
  const chord = chordLine(frame);
  const [a, b] = [frame.x[0], frame.x[frame.x.length - 1]];
  const over = frame.y.map((y, i) => y - chord(frame.x[i]));
  const x = frame.x.map((v) => a + (b - a) * moved((v - a) / (b - a), now.at, to));
  return Shape.ofFrame({ ...frame, x, y: over.map((h, i) => h + chord(x[i])) });
}

/** Nose radius of a shape, from the greatest curvature about its nose. */
export function noseRadius(shape: Shape): number {
  const { spline } = shape;
  let most = 0;
  for (let k = -20; k <= 20; k++)
    most = Math.max(most, spline.curvature(spline.nose + (0.012 * spline.length * k) / 20));
  return most > 0 ? 1 / most : 0;
}

/** Nose radius set, in chords: thickness changes by a factor that fades out over a share of the chord. */
export function setNoseRadius(shape: Shape, to: number, blend: number): Shape {
  const frame = shape.frame;
  const [a, b] = [frame.x[0], frame.x[frame.x.length - 1]];
  // η ≈ √(2 r ξ) at the nose, so the radius goes with the square of the factor.
  const now = noseRadius(shape) / (b - a);
  const factor = Math.sqrt(to / now) - 1;
  return Shape.ofFrame({
    ...frame,
    eta: frame.eta.map((e, i) => e * (1 + factor * fade((frame.xi[i] - a) / (b - a) / blend))),
  });
}

/**
 * Trailing-edge gap set, in chords, by a wedge that grows with the cube over a share of the chord.
 * @param upper share of the change that the upper surface takes, 0–1; the lower one takes the rest.
 */
export function setEdgeGap(shape: Shape, to: number, blend: number, upper = 0.5): Shape {
  const frame = shape.frame;
  const [a, b] = [frame.x[0], frame.x[frame.x.length - 1]];
  const last = frame.xi.length - 1;
  const now = (frame.eta[0] - frame.eta[last]) / (b - a);
  const change = (to - now) * (b - a);
  const share = (xi: number) => Math.min(1, Math.max(0, ((xi - a) / (b - a) - (1 - blend)) / blend)) ** 3;
  const middle = 0.5 * (frame.xi[0] + frame.xi[last]);
  const xi = frame.xi.slice();
  const eta = frame.eta.map((e, i) => e + change * (i <= frame.nose ? upper : upper - 1) * share(frame.xi[i]));
  if (to === 0) {
    // A closed edge is one point, wherever along the line its two ends were.
    const ends = 0.5 * (eta[0] + eta[last]);
    eta[0] = eta[last] = ends;
    xi[0] = xi[last] = middle;
  }
  return Shape.ofFrame({ ...frame, xi, eta });
}

/**
 * A section between two others: mean lines and the heights of both surfaces over them, each mixed.
 * @param fraction share of the other, 0–1.
 */
export function mixShapes(shape: Shape, other: Shape, fraction: number): Shape {
  const one = shape.frame;
  const two = other.frame;
  const ends = (f: MeanFrame) => [f.x[0], f.x[f.x.length - 1]] as const;
  const [a, b] = ends(one);
  const [c, d] = ends(two);
  const line = lineOf(two);
  const upper = surfaceHeight(two, 'upper');
  const lower = surfaceHeight(two, 'lower');
  const scale = (b - a) / (d - c);
  const there = (x: number) => c + (x - a) / scale;
  const shift = fraction * (c - a);
  const mix = (p: number, q: number) => p + fraction * (q - p);
  const grow = mix(1, 1 / scale);
  // Chords of different length or place are mixed as well: the mean frame is carried over from one to the other.
  const place = (x: number) => a + shift + (x - a) * grow;
  return Shape.ofFrame({
    x: one.x.map(place),
    y: one.y.map((y, i) => mix(y, line.at(there(one.x[i])))),
    xi: one.xi.map(place),
    eta: one.eta.map((e, i) => mix(e, (i <= one.nose ? upper : lower)(there(one.xi[i])))),
    nose: one.nose,
  });
}
