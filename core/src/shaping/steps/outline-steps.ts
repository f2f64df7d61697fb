import { RAD } from '../../numerics';
import { deflectFlap, type Outline } from '../../section';
import { Shape } from '../shape';

const mapped = (outline: Outline, f: (x: number, y: number) => [number, number]): Outline => {
  const x = new Float64Array(outline.x.length);
  const y = new Float64Array(outline.x.length);
  for (let i = 0; i < x.length; i++) [x[i], y[i]] = f(outline.x[i], outline.y[i]);
  return { x, y };
};

/** A part behind a hinge turned about it; see deflectFlap. */
export function turnHinge(shape: Shape, step: { x: number; height: number; angleDeg: number; joint: number }): Shape {
  if (step.angleDeg === 0) return shape;
  const { outline } = deflectFlap(shape.dense().outline, {
    x: step.x,
    y: step.height,
    angle: step.angleDeg * RAD,
    rounding: step.joint,
  });
  return Shape.ofOutline(outline);
}

/** Brings the nose, the point farthest from the middle of the trailing edge, to (0, 0) and that middle to (1, 0). */
export function squareUp(shape: Shape): Shape {
  const { outline, spline } = shape;
  const n = outline.x.length;
  const [nx, ny] = [spline.x(spline.nose), spline.y(spline.nose)];
  const dx = 0.5 * (outline.x[0] + outline.x[n - 1]) - nx;
  const dy = 0.5 * (outline.y[0] + outline.y[n - 1]) - ny;
  const square = dx * dx + dy * dy;
  return Shape.ofOutline(
    mapped(outline, (x, y) => [((x - nx) * dx + (y - ny) * dy) / square, ((y - ny) * dx - (x - nx) * dy) / square]),
  );
}

/** Turns the whole section about a point, nose up positive. */
export function rotate(shape: Shape, angleDeg: number, px: number, py: number): Shape {
  if (angleDeg === 0) return shape;
  const [cos, sin] = [Math.cos(angleDeg * RAD), Math.sin(angleDeg * RAD)];
  return Shape.ofOutline(
    mapped(shape.outline, (x, y) => [px + (x - px) * cos + (y - py) * sin, py - (x - px) * sin + (y - py) * cos]),
  );
}

/** Makes the whole section larger or smaller about the origin. */
export function scale(shape: Shape, by: number): Shape {
  return Shape.ofOutline(mapped(shape.outline, (x, y) => [x * by, y * by]));
}
