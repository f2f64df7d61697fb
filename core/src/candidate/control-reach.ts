import { z } from 'zod';
import { autopilotSchema, robustness, type AutopilotSettings } from '../control';
import { keptMeanLine } from '../lift';
import { BRIEF_LIMITS } from '../project';
import { within } from '../limits';
import { VeldtwindError } from '../numerics';
import { analysis, Cancelled } from '../results';
import { airframeMotion, motion, type MotionInput } from './motion';
import { sectionLookup } from './section-lookup';

/** Margins of a loop in one flight: with derivatives as they are, and with the one that costs most. */
export interface MarginsThere {
  gainMarginDb: number | null;
  phaseMarginDeg: number | null;
  stable: boolean;
}
export interface ReachPoint {
  speed: number;
  /** By name; null: all items. */ loading: string | null;
  /** Null where the aircraft does not fly so, with the reason. */
  as: MarginsThere | null;
  /** The derivative that costs most, and by how much it was off. */
  worst: (MarginsThere & { name: string; by: number }) | null;
  failure?: string;
}

/** What a loop's reach depends on. */
export interface ReachInput {
  of: MotionInput;
  speeds: number[];
  loadings: (string | null)[];
  settings: AutopilotSettings;
  scale: Record<string, number>;
  controls: Record<string, string>;
  chain: string;
  loop: number;
  /** What each derivative may be off. */ share: number;
}

/** The margins of a loop over speeds and loadings, every derivative a share more or less in each. */
export const controlReach = analysis({
  version: 7,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    speeds: z.array(within(BRIEF_LIMITS.speed)).min(1).max(40),
    loadings: z.array(z.string().nullable()).min(1).max(20),
    settings: autopilotSchema,
    scale: z.record(z.string(), z.number().min(-100).max(100)),
    controls: z.record(z.string(), z.string()),
    chain: z.string(),
    loop: z.int().min(0).max(3),
    share: z.number().min(0).max(0.9),
  }) as unknown as z.ZodType<ReachInput>,
  run: async (input: ReachInput, context): Promise<ReachPoint[]> => {
    const { of, speeds, loadings, share, ...loop } = input;
    const lookup = sectionLookup(of.sections);
    const out: ReachPoint[] = [];
    for (const loading of loadings)
      for (const speed of speeds) {
        if (context.cancelled?.()) throw new Cancelled();
        try {
          const there = airframeMotion(of.candidate, lookup, (key) => keptMeanLine(lookup(key)), {
            speed,
            altitude: of.altitude,
            polars: of.polars,
            ...(loading === null ? {} : { loading }),
          });
          const list = robustness({ ...loop, of: there.case }, share);
          const as = list.find((l) => l.name === '')!;
          out.push({ speed, loading, as, worst: list[0] });
        } catch (error) {
          if (!(error instanceof VeldtwindError)) throw error;
          out.push({ speed, loading, as: null, worst: null, failure: error.message });
        }
        context.report?.({ done: out.length, of: speeds.length * loadings.length });
        await context.breathe?.();
      }
    return out;
  },
});
