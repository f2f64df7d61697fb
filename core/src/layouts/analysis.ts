import { z } from 'zod';
import { finiteNumber, within } from '../limits';
import { BRIEF_LIMITS } from '../project';
import { analysis } from '../results';
import { startingLayout, type StartingLayout } from './balanced';
import { layoutOf } from './plans';
import type { LayoutNumbers } from './sizes';

export const MOST_PUSH = 1e7;

/** A layout by its id, with the numbers that are asked of it. */
export interface StartingLayoutInput {
  layout: string;
  numbers: LayoutNumbers;
}

/** A balanced aircraft of a layout, from a few numbers. */
export const layout = analysis({
  version: 1,
  input: z.object({
    layout: z.string().max(40),
    numbers: z.object({
      mass: within(BRIEF_LIMITS.mass),
      speed: within(BRIEF_LIMITS.speed),
      altitude: within(BRIEF_LIMITS.altitude),
      spanLimit: within(BRIEF_LIMITS.spanLimit).nullable(),
      push: finiteNumber.min(0).max(MOST_PUSH),
    }),
  }),
  run: ({ layout: id, numbers }: StartingLayoutInput): StartingLayout => startingLayout(layoutOf(id), numbers),
});
