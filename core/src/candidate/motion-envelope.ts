import { z } from 'zod';
import { keptMeanLine } from '../lift';
import type { Mode } from '../motion';
import { VeldtwindError } from '../numerics';
import { BRIEF_LIMITS } from '../project';
import { within } from '../limits';
import { analysis, Cancelled } from '../results';
import { airframeMotion, motion, type MotionInput } from './motion';
import { sectionLookup } from './section-lookup';

/** Motion of one variant (an altitude, a loading, a setting) at one speed. */
export interface EnvelopePoint {
  label: string;
  speed: number;
  /** rad */ alpha: number | null;
  staticMargin: number | null;
  /** Deflections that trim, rad by id of the control. */ controls: Record<string, number>;
  modes: Mode[];
  /** Why it does not fly so. */ failure?: string;
}

/** What the envelope depends on. */
export interface EnvelopeInput {
  variants: { label: string; of: MotionInput }[];
  speeds: number[];
}

/** Trim and modes over speed, of several variants: altitudes, loadings, settings of the controls. */
export const motionEnvelope = analysis({
  version: 7,
  input: z.object({
    variants: z
      .array(z.object({ label: z.string().max(120), of: motion.input as z.ZodType<MotionInput> }))
      .min(1)
      .max(20),
    speeds: z.array(within(BRIEF_LIMITS.speed)).min(1).max(60),
  }) as unknown as z.ZodType<EnvelopeInput>,
  run: async ({ variants, speeds }: EnvelopeInput, context): Promise<EnvelopePoint[]> => {
    const out: EnvelopePoint[] = [];
    for (const { label, of } of variants) {
      const { candidate, sections, ...rest } = of;
      const lookup = sectionLookup(sections);
      for (const speed of speeds) {
        if (context.cancelled?.()) throw new Cancelled();
        try {
          const m = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), { ...rest, speed });
          const { alpha, controls } = m.trim;
          out.push({ label, speed, alpha, staticMargin: m.staticMargin, controls, modes: m.modes });
        } catch (error) {
          if (!(error instanceof VeldtwindError)) throw error;
          out.push({
            label,
            speed,
            alpha: null,
            staticMargin: null,
            controls: {},
            modes: [],
            failure: error.message,
          });
        }
        context.report?.({ done: out.length, of: variants.length * speeds.length });
        await context.breathe?.();
      }
    }
    return out;
  },
});
