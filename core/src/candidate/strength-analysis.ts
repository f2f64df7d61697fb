import { z } from 'zod';
import { within } from '../limits';
import type { SectionPolars } from '../lift';
import { PERFORMANCE_LIMITS, type PerformanceSettings } from '../performance';
import type { ProjectDocument } from '../project';
import { analysis } from '../results';
import { inputsOfMotion, motion, type MotionInput } from './motion';
import { sectionLookup } from './section-lookup';
import { strengthOf, thickEnough, type Strength, type StrengthSettings } from './strength';

/** Loads and safety as a project assumes them, for a cruise speed, m/s. */
export const strengthSettings = (
  cruise: number,
  { greatestLoad, leastLoad, diveRatio, safetyFactor }: PerformanceSettings,
): StrengthInput['settings'] => ({
  cruise,
  diveRatio,
  positive: greatestLoad,
  negative: leastLoad,
  axis: 0.25,
  safetyFactor,
});

/** The input of the strength of a candidate: loads as its project assumes them. @throws InvalidInput `candidate-missing`. */
export function inputsOfStrength(
  document: ProjectDocument,
  candidateId: string,
  polars: SectionPolars[] | null,
): StrengthInput {
  const { speed, assumptions } = document.brief;
  return {
    of: inputsOfMotion(document, candidateId, speed, undefined, polars),
    settings: strengthSettings(speed, assumptions.performance),
  };
}

/** What strength of a candidate depends on. */
export interface StrengthInput {
  of: MotionInput;
  settings: Omit<StrengthSettings, 'polars' | 'altitude'>;
}

const number = (min: number, max: number) => z.number().min(min).max(max);

const structureInput = z.object({
  of: motion.input as z.ZodType<MotionInput>,
  settings: z.object({
    cruise: number(0.1, 400),
    diveRatio: number(1, 5),
    positive: number(1, 50),
    negative: number(-50, 0),
    axis: number(0, 1),
    safetyFactor: within(PERFORMANCE_LIMITS.safetyFactor),
  }),
});

/** Strength, deflection, divergence and frequencies of a candidate's surfaces. */
export const structureStrength = analysis({
  version: 2,
  input: structureInput,
  run: ({ of, settings }: StrengthInput, context): Strength =>
    strengthOf(
      of.candidate,
      sectionLookup(of.sections),
      { ...settings, altitude: of.altitude, polars: of.polars },
      { cancelled: context.cancelled },
    ),
});

/** Thicknesses of a surface with which its members just hold. */
export const structureSizing = analysis({
  version: 2,
  input: structureInput.extend({ surface: z.string().max(64) }),
  run: ({ of, settings, surface }: StrengthInput & { surface: string }): ReturnType<typeof thickEnough> =>
    thickEnough(of.candidate, surface, sectionLookup(of.sections), {
      ...settings,
      altitude: of.altitude,
      polars: of.polars,
    }),
});
