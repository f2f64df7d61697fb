import { PolarReader, type SectionPolars } from './polar-curve';

/** Room for what is read of a section at one angle: cl, slope of cl per rad, cd, cm. */
export const READ = 4;

/** The polars of one section, read between their Reynolds numbers. */
export class SectionPolar {
  readonly readers: PolarReader[];
  private readonly logs: number[];
  private readonly a = new Float64Array(READ);
  private readonly b = new Float64Array(READ);

  constructor({ curves }: Pick<SectionPolars, 'curves'>) {
    this.readers = curves.map((c) => new PolarReader(c)).sort((p, q) => p.reynolds - q.reynolds);
    this.logs = this.readers.map((r) => Math.log(r.reynolds));
  }

  get empty(): boolean {
    return this.readers.length === 0;
  }

  /** The two curves about a Reynolds number, and the share of the second one; the nearest alone outside. */
  place(reynolds: number): { low: PolarReader; high: PolarReader; share: number; outside: 'below' | 'above' | null } {
    const { readers, logs } = this;
    const at = Math.log(reynolds);
    const last = readers.length - 1;
    // Within 1 % it is the same flow.
    if (at <= logs[0]) {
      const low = readers[0];
      return { low, high: low, share: 0, outside: at < logs[0] - 0.01 ? 'below' : null };
    }
    if (at >= logs[last]) {
      const high = readers[last];
      return { low: high, high, share: 0, outside: at > logs[last] + 0.01 ? 'above' : null };
    }
    let i = 0;
    while (logs[i + 1] < at) i++;
    return {
      low: readers[i],
      high: readers[i + 1],
      share: (at - logs[i]) / (logs[i + 1] - logs[i]),
      outside: null,
    };
  }

  /** Values at an angle and a Reynolds number, added to `out` with a weight. */
  add(alpha: number, place: ReturnType<SectionPolar['place']>, weight: number, out: Float64Array): void {
    place.low.read(alpha, this.a);
    if (place.share === 0) {
      for (let k = 0; k < READ; k++) out[k] += weight * this.a[k];
      return;
    }
    place.high.read(alpha, this.b);
    for (let k = 0; k < READ; k++) out[k] += weight * ((1 - place.share) * this.a[k] + place.share * this.b[k]);
  }
}
