import { z } from 'zod';
import { finiteNumber } from '../limits';
import { fromTransfer, gain, series, type StateSpace } from './state-space';

export const positive = (what: string) => finiteNumber.refine((v) => v > 0, `must be greater than 0, ${what}`);
const gainNumber = finiteNumber.min(-1e12).max(1e12);

/** What a law is made of: u = sign ((kp e + ki ∫e dt + kd de/dt) through lead and notch + forward · reference), e = reference − measured. */
export const lawFields = {
  kp: gainNumber.default(0),
  ki: gainNumber.default(0),
  kd: gainNumber.default(0),
  /** Of the derivative, rad/s. */ filter: positive('rad/s').optional(),
  sign: z.union([z.literal(1), z.literal(-1)]).default(1),
  /** (s/zero + 1)/(s/pole + 1), rad/s: it leads where the zero is the lower, and lags where the pole is. */
  lead: z.strictObject({ zero: positive('rad/s'), pole: positive('rad/s') }).optional(),
  /** (s² + 2 depth·width ω s + ω²)/(s² + 2 width ω s + ω²): at ω a share `depth` comes through. */
  notch: z
    .strictObject({
      frequency: positive('rad/s'),
      width: positive('a damping ratio').max(5).default(0.5),
      depth: finiteNumber.min(0).max(1).default(0.1),
    })
    .optional(),
  /** s/(s + washout), rad/s: what stays does not come through, such as the yaw rate of a steady turn. */
  washout: positive('rad/s').optional(),
  /** Of the reference, beside the law: output per unit of it. */ forward: gainNumber.optional(),
};
export interface LawTerms {
  kp: number;
  ki: number;
  kd: number;
  filter?: number;
  sign: 1 | -1;
  lead?: { zero: number; pole: number };
  notch?: { frequency: number; width: number; depth: number };
  washout?: number;
  forward?: number;
}

/** Whether anything is fed back. */
export const hasGain = (l: Pick<LawTerms, 'kp' | 'ki' | 'kd'>): boolean => l.kp !== 0 || l.ki !== 0 || l.kd !== 0;

/** Needed beside each other; for a `refine` of either schema. */
export const filterIsThere = (l: { kd: number; filter?: number }) => l.kd === 0 || l.filter !== undefined;

/** The filters behind the three terms of a law, one behind the other. */
export function filtersOf({ lead, notch, washout }: Pick<LawTerms, 'lead' | 'notch' | 'washout'>): StateSpace[] {
  const out: StateSpace[] = [];
  if (lead) out.push(fromTransfer([1 / lead.zero, 1], [1 / lead.pole, 1]));
  if (notch) {
    const { frequency: w, width, depth } = notch;
    out.push(fromTransfer([1, 2 * depth * width * w, w * w], [1, 2 * width * w, w * w]));
  }
  if (washout) out.push(fromTransfer([1, 0], [1, washout]));
  return out;
}

/** A law as a system of two inputs, the error and the reference; where nothing is fed forward, of the error alone. */
export function lawSystem(law: LawTerms): StateSpace {
  const { kp, ki, kd, filter, sign, forward } = law;
  // kp + ki / s + kd s N / (s + N) over one denominator.
  let made: StateSpace;
  if (kd !== 0) {
    const N = filter!;
    made =
      ki === 0
        ? fromTransfer([kp + kd * N, kp * N], [1, N])
        : fromTransfer([kp + kd * N, kp * N + ki, ki * N], [1, N, 0]);
  } else made = ki === 0 ? gain(kp) : fromTransfer([kp, ki], [1, 0]);
  for (const f of filtersOf(law)) made = series(made, f);
  if (forward) made = { ...made, B: made.B.map(([b]) => [b, 0]), D: [[made.D[0][0], forward]] };
  return series(made, gain(sign));
}
