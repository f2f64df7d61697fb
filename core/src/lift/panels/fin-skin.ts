import type { BodySkin, Place } from './body-skin';
import type { WingSolid } from './wing-solid';

/** What the edge of a wake that lies on another skin asks of it. */
export type LineSkin = Pick<BodySkin, 'x' | 'radius' | 'inside' | 'middle' | 'distance' | 'reach'>;

const PIECES = 16;
const STEPS = 48;
const BISECTIONS = 30;

/** The skin of a surface that another's trailing edge ends on, behind that edge. */
export class FinSkin implements LineSkin {
  readonly x: Float64Array;
  readonly radius = 0;

  /** @param middleAt y and z where the edge would meet its middle. @param behind x of its own trailing edge there. */
  constructor(
    private readonly solid: WingSolid,
    private readonly middleAt: readonly [number, number],
    from: number,
    behind: number,
  ) {
    this.x = Float64Array.from({ length: PIECES + 1 }, (_, k) => from + ((behind - from) * k) / PIECES);
  }

  solidIs(other: WingSolid): boolean {
    return this.solid === other;
  }

  middle(): [number, number] {
    return [this.middleAt[0], this.middleAt[1]];
  }

  inside(p: Place): boolean {
    return this.solid.inside(p);
  }

  distance([, y, z]: Place): number {
    return Math.hypot(y - this.middleAt[0], z - this.middleAt[1]);
  }

  /** As of a body: from outside to its skin, or from inside back to it. */
  reach(from: Place, way: Place, most: number): number | null {
    const at = (d: number): Place => [from[0] + d * way[0], from[1] + d * way[1], from[2] + d * way[2]];
    const within = this.inside(from);
    const whole = within ? -0.5 * (this.x[PIECES] - this.x[0]) - 0.1 * most : most;
    for (let k = 1; k <= STEPS; k++) {
      let far = (whole * k) / STEPS;
      if (this.inside(at(far)) === within) continue;
      let near = (whole * (k - 1)) / STEPS;
      for (let n = 0; n < BISECTIONS; n++) {
        const middle = 0.5 * (near + far);
        if (this.inside(at(middle)) === within) near = middle;
        else far = middle;
      }
      return 0.5 * (near + far);
    }
    return null;
  }
}
