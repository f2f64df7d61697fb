import type { Patch } from './patch';

export type Place = readonly [number, number, number];

const BISECTIONS = 30;

/** The panelled skin of a body, asked what lies inside of it: its rings are plane, and flat panels stand between two of them. */
export class BodySkin {
  /** x of every ring, m, from nose to tail. */
  readonly x: Float64Array;
  /** Greatest distance of a ring's point from its middle, m. */
  readonly radius: number;
  private readonly around: number;
  /** y and z of every ring's points, all around. */
  private readonly rings: Float64Array[];

  /** @param patch of a body, not of its lids; where it is half of one, the other half is its image. */
  constructor({ ni, nj, nodes, wraps }: Pick<Patch, 'ni' | 'nj' | 'nodes' | 'wraps'>) {
    const row = ni + 1;
    this.x = Float64Array.from({ length: nj + 1 }, (_, j) => nodes[3 * j * row]);
    const picks = Array.from({ length: wraps ? ni : row }, (_, i) => ({ i, sign: 1 }));
    if (!wraps) for (let i = ni - 1; i > 0; i--) picks.push({ i, sign: -1 });
    this.around = picks.length;
    this.rings = Array.from({ length: nj + 1 }, (_, j) =>
      Float64Array.from(
        picks.flatMap(({ i, sign }) => [sign * nodes[3 * (j * row + i) + 1], nodes[3 * (j * row + i) + 2]]),
      ),
    );
    let radius = 0;
    this.rings.forEach((ring, j) => {
      const [my, mz] = this.middle(this.x[j]);
      for (let k = 0; k < ring.length; k += 2) radius = Math.max(radius, Math.hypot(ring[k] - my, ring[k + 1] - mz));
    });
    this.radius = radius;
  }

  private section(x: number): { a: Float64Array; b: Float64Array; t: number } | null {
    const last = this.x.length - 1;
    if (!(x >= this.x[0] && x <= this.x[last])) return null;
    let k = 0;
    while (k < last - 1 && this.x[k + 1] < x) k++;
    const h = this.x[k + 1] - this.x[k];
    return { a: this.rings[k], b: this.rings[k + 1], t: h > 0 ? (x - this.x[k]) / h : 0 };
  }

  /** Middle of the cross-section at x, of the nearest end beyond them: y and z. */
  middle(x: number): [number, number] {
    const at = this.section(Math.min(this.x[this.x.length - 1], Math.max(this.x[0], x)))!;
    let [y, z] = [0, 0];
    for (let k = 0; k < at.a.length; k += 2) {
      y += at.a[k] + at.t * (at.b[k] - at.a[k]);
      z += at.a[k + 1] + at.t * (at.b[k + 1] - at.a[k + 1]);
    }
    return [y / this.around, z / this.around];
  }

  /** Distance from the middle line, in cross-section; beyond the ends also along it. */
  distance([x, y, z]: Place): number {
    const [my, mz] = this.middle(x);
    const beyond = Math.max(0, this.x[0] - x, x - this.x[this.x.length - 1]);
    return Math.hypot(y - my, z - mz, beyond);
  }

  /** Distance of a place outside from the skin in its cross-section; null before and behind the body. */
  gap([x, y, z]: Place): number | null {
    const at = this.section(x);
    if (!at) return null;
    const { a, b, t } = at;
    const corner = (k: number): [number, number] => [a[k] + t * (b[k] - a[k]), a[k + 1] + t * (b[k + 1] - a[k + 1])];
    let least = Infinity;
    let [py, pz] = corner(a.length - 2);
    for (let k = 0; k < a.length; k += 2) {
      const [qy, qz] = corner(k);
      const [ey, ez] = [qy - py, qz - pz];
      const size = ey * ey + ez * ez;
      const s = size > 0 ? Math.min(1, Math.max(0, ((y - py) * ey + (z - pz) * ez) / size)) : 0;
      least = Math.min(least, Math.hypot(y - py - s * ey, z - pz - s * ez));
      [py, pz] = [qy, qz];
    }
    return least;
  }

  inside([x, y, z]: Place): boolean {
    const at = this.section(x);
    if (!at) return false;
    const { a, b, t } = at;
    let odd = false;
    let [py, pz] = [a[a.length - 2], a[a.length - 1]];
    let [qy, qz] = [b[b.length - 2], b[b.length - 1]];
    let [y0, z0] = [py + t * (qy - py), pz + t * (qz - pz)];
    for (let k = 0; k < a.length; k += 2) {
      [py, pz, qy, qz] = [a[k], a[k + 1], b[k], b[k + 1]];
      const y1 = py + t * (qy - py);
      const z1 = pz + t * (qz - pz);
      if (z0 > z !== z1 > z && y < y0 + ((z - z0) / (z1 - z0)) * (y1 - y0)) odd = !odd;
      y0 = y1;
      z0 = z1;
    }
    return odd;
  }

  /**
   * How far the skin is from a point of its outside, along a direction across the body; negative from a point inside, back along it.
   * @param way unit vector across x. @param most farthest that is looked, m. @returns null where there is none within that.
   */
  reach(from: Place, way: Place, most: number): number | null {
    const at = (d: number): Place => [from[0] + d * way[0], from[1] + d * way[1], from[2] + d * way[2]];
    const within = this.inside(from);
    const steps = 96;
    const whole = within ? -2 * this.radius : most;
    for (let k = 1; k <= steps; k++) {
      let far = (whole * k) / steps;
      if (this.inside(at(far)) === within) continue;
      let near = (whole * (k - 1)) / steps;
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
