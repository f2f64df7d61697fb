import { z } from 'zod';
import { polarsSchema, sectionLookup } from '../candidate';
import { within } from '../limits';
import { performanceSchema, type PerformanceSettings } from '../performance';
import { BRIEF_LIMITS, candidatePart } from '../project';
import { analysis, Cancelled } from '../results';
import { sectionSource } from '../shaping';
import type { SectionPolars } from '../lift';
import { checkedPlan, planSchema, type StudyPlan } from './plan';
import { runStudy, type StudyResult } from './run';
import { StudyStopped } from './tries';
import type { StudySubject } from './variables';

/** What a study depends on. */
export interface StudyInput {
  plan: StudyPlan;
  subject: StudySubject;
  /** Null for the lattice alone. */ polars: SectionPolars[] | null;
  settings: PerformanceSettings;
}

/** A study of a candidate. */
export const study = analysis({
  version: 3,
  input: z.object({
    plan: planSchema,
    subject: z.object({
      candidate: candidatePart,
      sections: z.record(z.string(), sectionSource),
      flight: z.object({ speed: within(BRIEF_LIMITS.speed), altitude: within(BRIEF_LIMITS.altitude) }),
    }),
    polars: polarsSchema.nullable(),
    settings: performanceSchema,
  }) as unknown as z.ZodType<StudyInput>,
  run: async (
    { plan, subject, polars, settings }: StudyInput,
    { report, cancelled, breathe },
  ): Promise<StudyResult> => {
    try {
      return await runStudy(
        checkedPlan(plan, subject),
        subject,
        { polars, settings, lookupOf: sectionLookup },
        {
          ...(report && { report: ({ done, of, best }) => report({ done, of, ...(best && { detail: best }) }) }),
          ...(cancelled && { cancelled }),
          ...(breathe && { breathe }),
        },
      );
    } catch (error) {
      if (error instanceof StudyStopped) throw new Cancelled();
      throw error;
    }
  },
});
