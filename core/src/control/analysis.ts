import { z } from 'zod';
import { partId } from '../limits';
import { motionCase } from '../motion';
import { analysis } from '../results';
import { autopilotSchema, type Law } from './chains';
import { studyLoop, type StudyInput } from './study';
import { surveyLoops } from './survey';
import { fastestGains, gainsFor, robustness } from './tune';

const studyInput = z.object({
  of: motionCase,
  scale: z.record(z.string(), z.number().min(-100).max(100)),
  settings: autopilotSchema,
  controls: z.record(z.string(), z.string()),
  chain: partId,
  loop: z.int().min(0).max(3),
}) as unknown as z.ZodType<StudyInput>;

/** What one loop does: margins, curves, step, path of the roots. */
export const controlStudy = analysis({ version: 2, input: studyInput, run: studyLoop });

/** All loops in a line each. */
export const controlSurvey = analysis({
  version: 2,
  input: z.object({
    of: motionCase,
    scale: z.record(z.string(), z.number().min(-100).max(100)),
    settings: autopilotSchema,
    controls: z.record(z.string(), z.string()),
  }) as unknown as z.ZodType<Omit<StudyInput, 'chain' | 'loop'>>,
  run: surveyLoops,
});

/** Margins of a loop while derivatives are not what they are thought to be. */
export const controlRobustness = analysis({
  version: 2,
  input: studyInput,
  run: (input: StudyInput) => robustness(input),
});

/** Gains of a loop for a crossing, or, without one, the fastest that do not ring. */
export const controlGains = analysis({
  version: 2,
  input: z.object({
    of: studyInput,
    crossing: z
      .object({ frequency: z.number().positive().max(1e4), phaseMargin: z.number().min(0).max(Math.PI) })
      .nullable(),
  }),
  run: ({ of, crossing }: { of: StudyInput; crossing: { frequency: number; phaseMargin: number } | null }): Law =>
    crossing ? gainsFor(of, crossing) : fastestGains(of),
});
