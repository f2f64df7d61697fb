import { putTogether, resample, SurfaceSpline, takeApart, type MeanFrame, type Outline } from '../section';

const DENSE = 121;
const RESAMPLED = 241;

/** A section between two steps: its outline, or its mean frame, or both; each is made from the other when it is asked for. */
export class Shape {
  private constructor(
    private ownOutline: Outline | undefined,
    private ownFrame: MeanFrame | undefined,
  ) {}
  private ownSpline?: SurfaceSpline;

  static ofOutline(outline: Outline): Shape {
    return new Shape(outline, undefined);
  }
  static ofFrame(frame: MeanFrame): Shape {
    return new Shape(undefined, frame);
  }
  get outline(): Outline {
    return (this.ownOutline ??= putTogether(this.ownFrame!));
  }
  get frame(): MeanFrame {
    return (this.ownFrame ??= takeApart(this.outline, this.spline));
  }
  get spline(): SurfaceSpline {
    return (this.ownSpline ??= new SurfaceSpline(this.outline));
  }
  /** This shape with enough points for local changes. */
  dense(): Shape {
    return this.outline.x.length >= DENSE ? this : Shape.ofOutline(resample(this.outline, RESAMPLED, this.spline));
  }
}

/** Smooth from 1 at 0 to 0 at 1, with no slope and no bend at either end. */
export function fade(s: number): number {
  if (s <= 0) return 1;
  if (s >= 1) return 0;
  return (1 - s) ** 3 * (1 + s * (3 + 6 * s));
}
