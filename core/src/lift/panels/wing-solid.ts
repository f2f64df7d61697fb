import type { Place } from './body-skin';
import type { Patch } from './patch';

const SLACK = 1e-9;
/** Shares of a panel's sides at which it is looked for another surface. */
const MEETING_LOOKS = [0.02, 0.25, 0.5, 0.75];

/** The inside of a wing between its rings, as its panels bound it. */
export class WingSolid {
  private readonly centres: Place[];
  /** Unit vectors along the span at each ring, across x. */
  private readonly spans: Place[];
  /** Least and greatest of each axis by column. */
  private readonly boxes: { low: Place; high: Place }[] = [];

  constructor(private readonly patch: Pick<Patch, 'ni' | 'nj' | 'nodes'>) {
    const { ni, nj } = patch;
    this.centres = Array.from({ length: nj + 1 }, (_, j) => {
      const sum = [0, 0, 0];
      for (let i = 0; i < ni; i++) this.node(i, j).forEach((v, d) => (sum[d] += v / ni));
      return [sum[0], sum[1], sum[2]];
    });
    this.spans = this.centres.map((_, j): Place => {
      const [a, b] = [this.centres[Math.max(0, j - 1)], this.centres[Math.min(nj, j + 1)]];
      const size = Math.hypot(b[1] - a[1], b[2] - a[2]);
      return [0, (b[1] - a[1]) / size, (b[2] - a[2]) / size];
    });
    for (let j = 0; j < nj; j++) {
      const [low, high] = [
        [Infinity, Infinity, Infinity],
        [-Infinity, -Infinity, -Infinity],
      ];
      for (const jj of [j, j + 1])
        for (let i = 0; i <= ni; i++)
          this.node(i, jj).forEach((v, d) => {
            low[d] = Math.min(low[d], v);
            high[d] = Math.max(high[d], v);
          });
      this.boxes.push({ low: [low[0], low[1], low[2]], high: [high[0], high[1], high[2]] });
    }
  }

  private node(i: number, j: number): Place {
    const k = 3 * (j * (this.patch.ni + 1) + i);
    const { nodes } = this.patch;
    return [nodes[k], nodes[k + 1], nodes[k + 2]];
  }

  /** Whether a place of its skin lies inside another one. */
  meets(other: WingSolid): boolean {
    const { ni, nj } = this.patch;
    for (let j = 0; j < nj; j++)
      for (let i = 0; i < ni; i++) {
        const [a, b, c, d] = [this.node(i, j), this.node(i + 1, j), this.node(i, j + 1), this.node(i + 1, j + 1)];
        for (const u of MEETING_LOOKS)
          for (const v of MEETING_LOOKS) {
            const at = (k: number) => (1 - v) * ((1 - u) * a[k] + u * b[k]) + v * ((1 - u) * c[k] + u * d[k]);
            if (other.inside([at(0), at(1), at(2)])) return true;
          }
      }
    return false;
  }

  inside(p: Place): boolean {
    for (let j = 0; j < this.patch.nj; j++) {
      const { low, high } = this.boxes[j];
      if (p.some((v, d) => v < low[d] - SLACK || v > high[d] + SLACK)) continue;
      const share = this.shareIn(p, j);
      if (share !== null && this.within(p, j, share)) return true;
    }
    return false;
  }

  /** Where a place lies between two rings; null outside of them. */
  private shareIn(p: Place, j: number): number | null {
    const ahead = (k: number) =>
      (p[1] - this.centres[k][1]) * this.spans[k][1] + (p[2] - this.centres[k][2]) * this.spans[k][2];
    const [a, b] = [ahead(j), ahead(j + 1)];
    if (a < -SLACK || b > SLACK || a - b <= 0) return null;
    return Math.min(1, Math.max(0, a / (a - b)));
  }

  /** Whether a place lies within the section at a share between two rings, seen along the span. */
  private within(p: Place, j: number, share: number): boolean {
    const { ni } = this.patch;
    const [, ey, ez] = this.spans[j];
    const h = p[2] * ey - p[1] * ez;
    const at = (i: number): [number, number] => {
      const [a, b] = [this.node(i, j), this.node(i, j + 1)];
      const [x, y, z] = a.map((v, d) => v + share * (b[d] - v));
      return [x, z * ey - y * ez];
    };
    let odd = false;
    let [x0, h0] = at(ni);
    for (let i = 0; i <= ni; i++) {
      const [x1, h1] = at(i);
      if (h0 > h !== h1 > h && p[0] < x0 + ((h - h0) / (h1 - h0)) * (x1 - x0)) odd = !odd;
      [x0, h0] = [x1, h1];
    }
    return odd;
  }
}
