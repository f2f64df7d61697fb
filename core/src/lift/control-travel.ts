import { RAD } from '../numerics';
import { monotoneSlopes } from './viscous/polar-curve';

/** Shares of the chord behind the hinge, and deflections in degrees, that {@link KEPT} is given at. */
const FLAPS = [0.1, 0.2, 0.3, 0.4, 0.5];
const ANGLES = [0, 5, 10, 15, 20, 25, 30, 40];
/**
 * Lift that a plain flap adds at a deflection, over that of its first degrees times the deflection: section flow of a 10 % thick section at its zero angle, Re 10⁶,
 * turbulent from 5 % of the chord. Re 0.3 to 3·10⁶ changes it by 0.03 at most; the last value of the widest flap goes on from the ones before.
 */
const KEPT = [
  [1, 0.99, 0.97, 0.93, 0.83, 0.75, 0.68, 0.6],
  [1, 0.99, 0.95, 0.84, 0.73, 0.66, 0.62, 0.57],
  [1, 0.99, 0.94, 0.79, 0.68, 0.63, 0.6, 0.54],
  [1, 0.99, 0.94, 0.77, 0.66, 0.6, 0.57, 0.49],
  [1, 0.99, 0.96, 0.77, 0.64, 0.58, 0.53, 0.45],
];

/** What a deflection does at least, over what its first degrees do: a flap in separated flow still turns some of it. */
const LEAST_SLOPE = 0.05;

/** Deflections of a control and what they come to: the deflection with which attached flow would do as much. rad. */
export interface TravelCurve {
  /** Rising, through 0. */ deflections: number[];
  /** Rising, 0 at 0. */ effective: number[];
  /** `polars`: of its sections with the flap turned; `plain-flap`: of plain flaps in general. */ method:
    'polars' | 'plain-flap';
}

/**
 * The travel of a plain flap of any section, ±40°.
 * @param hinge chord fraction of the hinge line, 0 to 1.
 */
export function plainFlapTravel(hinge: number): TravelCurve {
  const share = Math.max(FLAPS[0], Math.min(FLAPS[FLAPS.length - 1], 1 - hinge));
  let k = 0;
  while (k < FLAPS.length - 2 && share > FLAPS[k + 1]) k++;
  const t = (share - FLAPS[k]) / (FLAPS[k + 1] - FLAPS[k]);
  const kept = ANGLES.map((_, i) => (1 - t) * KEPT[k][i] + t * KEPT[k + 1][i]);
  const one = ANGLES.map((a, i) => [a * RAD, a * RAD * kept[i]]);
  const both = [
    ...one
      .slice(1)
      .reverse()
      .map(([d, e]) => [-d, -e]),
    ...one,
  ];
  return { deflections: both.map(([d]) => d), effective: both.map(([, e]) => e), method: 'plain-flap' };
}

/** A control's travel; what it does is told against where it stands. */
export class ControlTravel {
  private readonly slopes: Float64Array;
  private readonly atRest: number;

  /** @param curve of at least two places. @param standing where the control stands, rad. */
  constructor(
    readonly curve: TravelCurve,
    readonly standing = 0,
  ) {
    this.slopes = monotoneSlopes(curve.deflections, curve.effective);
    this.atRest = this.total(standing);
  }

  /** What a whole deflection comes to, rad. Beyond the curve it goes on with its last slope. */
  private total(d: number): number {
    const { deflections: x, effective: y } = this.curve;
    const last = x.length - 1;
    if (d <= x[0]) return y[0] + this.outside(0) * (d - x[0]);
    if (d >= x[last]) return y[last] + this.outside(last) * (d - x[last]);
    const i = this.bay(d);
    const h = x[i + 1] - x[i];
    const t = (d - x[i]) / h;
    const [t2, t3] = [t * t, t * t * t];
    return (
      (2 * t3 - 3 * t2 + 1) * y[i] +
      (t3 - 2 * t2 + t) * h * this.slopes[i] +
      (3 * t2 - 2 * t3) * y[i + 1] +
      (t3 - t2) * h * this.slopes[i + 1]
    );
  }

  private bay(d: number): number {
    const { deflections: x } = this.curve;
    let i = 0;
    while (i < x.length - 2 && d > x[i + 1]) i++;
    return i;
  }

  private outside = (end: number): number => Math.max(LEAST_SLOPE, this.slopes[end]);

  /** What moving the control from where it stands to a deflection comes to, rad. */
  effective(deflection: number): number {
    return this.total(deflection) - this.atRest;
  }

  /** Change of {@link effective} with the deflection. */
  slope(deflection: number): number {
    const h = 1e-4;
    return Math.max(LEAST_SLOPE, (this.total(deflection + h) - this.total(deflection - h)) / (2 * h));
  }

  /** The deflection whose {@link effective} is so much, rad. */
  deflectionFor(effective: number): number {
    const wanted = effective + this.atRest;
    const { deflections: x, effective: y } = this.curve;
    const last = x.length - 1;
    if (wanted <= y[0]) return x[0] + (wanted - y[0]) / this.outside(0);
    if (wanted >= y[last]) return x[last] + (wanted - y[last]) / this.outside(last);
    let [low, high] = [x[0], x[last]];
    for (let k = 0; k < 60 && high - low > 1e-13; k++) {
      const middle = 0.5 * (low + high);
      if (this.total(middle) < wanted) low = middle;
      else high = middle;
    }
    return 0.5 * (low + high);
  }

  /** Share of a deflection from zero that works, 1 where all of it does. */
  share(deflection: number): number {
    return Math.abs(deflection) < 1e-6 ? this.slope(0) : this.total(deflection) / deflection;
  }
}
