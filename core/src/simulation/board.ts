import { z } from 'zod';
import { randomNumbers } from './random';
import { scenarioSchema } from './scenario';
import type { BoardTick } from './flight';

const spread = (most: number) => z.number().min(0).max(most).default(0);

/** A radio link and sensors that are not perfect. */
export const linkSchema = z.strictObject({
  /** Of the board's computing, s. */ step: z.number().min(0.002).max(1).default(0.02),
  /** From sensors to controls, s. */ delay: z.number().min(0).max(5).default(0),
  /** Share of the steps of which nothing arrives. */ lost: z.number().min(0).max(0.95).default(0),
  seed: z
    .int()
    .min(0)
    .max(2 ** 31 - 1)
    .default(1),
  /** Standard deviations of what sensors add: rates rad/s, angles rad, height m, speed m/s. */
  noise: z.strictObject({ rates: spread(10), angles: spread(1), height: spread(100), speed: spread(50) }).prefault({}),
});
export type Link = z.infer<typeof linkSchema>;

/** First message of a client: what is to be flown. */
export const boardStart = z.strictObject({
  type: z.literal('fly'),
  /** A candidate of a project, by their ids. */
  project: z.string().max(80),
  candidate: z.string().max(80),
  /** Id of a scenario of the project, or a scenario. */ scenario: z.union([z.string().max(80), scenarioSchema]),
  link: linkSchema.prefault({}),
});

/** What a client answers to a step: the number of the step, deflections in rad by the control's name, throttle 0 to 1. */
export const boardControls = z.strictObject({
  type: z.literal('controls'),
  n: z.int().min(0),
  deflections: z.record(z.string().max(60), z.number()).optional(),
  throttle: z.number().optional(),
});

const RATES = ['p', 'q', 'r'] as const;
const ANGLES = ['alpha', 'beta', 'phi', 'theta', 'psi', 'climb', 'course'] as const;

/** Sensors and the way to the board: noise of a seed, and steps that are lost. */
export class RadioLink {
  private readonly random;
  constructor(private readonly link: Link) {
    this.random = randomNumbers(link.seed);
  }
  /** What arrives of a step; null where it is lost. */
  carry(tick: BoardTick): BoardTick | null {
    const { noise, lost } = this.link;
    const gone = this.random.uniform() < lost;
    const out = { ...tick };
    const add = (keys: readonly (keyof BoardTick)[], sd: number) => {
      for (const k of keys) out[k] += sd * this.random.normal();
    };
    add(RATES, noise.rates);
    add(ANGLES, noise.angles);
    add(['height'], noise.height);
    add(['V'], noise.speed);
    return gone ? null : out;
  }
}
