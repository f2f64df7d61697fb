import { RAD } from '../numerics';
import type { AirframeSource, StateCoefficients } from '../motion';

/** Angles that are tabulated, rad: a step, and how many of it up and down. */
const STEP = 1 * RAD;
const [LEAST, MOST] = [-10, 22];
const ANGLES = MOST - LEAST + 1;
/** Speeds that are tabulated lie in equal steps of their logarithm. */
const PER_SPEED = Math.log(1.25);

/** What is read of a symmetric state. */
const KEYS = ['CL', 'CD', 'Cm'] as const;

/** Weights of four neighbours for a place between the second and the third, and of what lies beyond an end none: a cubic through their values and central slopes. */
function cubic(t: number): [number, number, number, number] {
  const [t2, t3] = [t * t, t * t * t];
  return [-0.5 * t + t2 - 0.5 * t3, 1 - 2.5 * t2 + 1.5 * t3, 0.5 * t + 2 * t2 - 1.5 * t3, -0.5 * t2 + 0.5 * t3];
}

/** The states of one speed: each is made when it is first read. */
interface Column {
  speed: number;
  known: Uint8Array;
  values: Float64Array[];
}

/**
 * Coefficients of symmetric states read from a table of a source over angle and speed: for searches that ask for thousands of states. States of the table are
 * made when they are first read: a sweep of level flights reads few angles at each speed. What a pitch rate does is the lattice's. Angles outside of the table
 * are taken from the source itself.
 */
export function tabulated(source: AirframeSource): AirframeSource {
  const columns = new Map<number, Column>();
  /** The column of a speed, with four neighbouring angles made. */
  const column = (index: number, from: number): Float64Array[] => {
    let made = columns.get(index);
    if (!made) {
      const values = KEYS.map(() => new Float64Array(ANGLES));
      made = { speed: Math.exp(index * PER_SPEED), known: new Uint8Array(ANGLES), values };
      columns.set(index, made);
    }
    const { speed, known, values } = made;
    for (let i = from; i < from + 4; i++) {
      if (known[i]) continue;
      const c = source.at({ alpha: (LEAST + i) * STEP }, speed);
      KEYS.forEach((key, q) => (values[q][i] = c[key]));
      known[i] = 1;
    }
    return values;
  };
  return {
    ...source,
    all: undefined,
    at(state, speed): StateCoefficients {
      const { alpha, pitchRate = 0 } = state;
      const place = alpha / STEP - LEAST;
      const i = Math.floor(place);
      if (!(i >= 1 && i < ANGLES - 2)) return source.at(state, speed);
      const along = Math.log(speed) / PER_SPEED;
      const j = Math.floor(along);
      const [wa, wv] = [cubic(place - i), cubic(along - j)];
      const out: StateCoefficients = { CL: 0, CD: 0, CY: 0, Cl: 0, Cm: 0, Cn: 0 };
      for (let b = 0; b < 4; b++) {
        const values = column(j - 1 + b, i - 1);
        KEYS.forEach((key, q) => {
          const row = values[q];
          for (let a = 0; a < 4; a++) out[key] += wv[b] * wa[a] * row[i - 1 + a];
        });
      }
      if (pitchRate !== 0) {
        const turning = source.lattice.coefficients({ alpha, pitchRate });
        const straight = source.lattice.coefficients({ alpha });
        out.CL += turning.CL - straight.CL;
        out.CD += turning.CDi - straight.CDi;
        out.Cm += turning.Cm - straight.Cm;
      }
      return out;
    },
  };
}
