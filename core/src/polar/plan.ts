import { z } from 'zod';
import { InvalidInput } from '../numerics';
import { DEFAULT_SPREAD } from '../section-flow';
import { panelSpread, sectionSource } from '../shaping';
import { checkedInput } from '../results';
import { flapSetting, viscousConditions } from './conditions';
import { curveKey, placeOf, type CurveInput } from './curve';

/** More points than this are asked about first. */
export const MANY_POINTS = 100_000;
/** No plan has more. */
export const MOST_POINTS = 2_000_000;
/** Seconds that a point takes on one core, for a first word on how long a plan takes. */
export const SECONDS_A_POINT = 0.015;
/** Curves of one plan. */
export const MOST_CURVES = 10_000;
/** Points of one sweep. */
export const MOST_ON_CURVE = 2000;

const list = (what: z.ZodNumber, most: number) => z.array(what).min(1, 'is empty').max(most);

/** What is to be computed: every section at every Reynolds and Mach number, over a list of angles or lifts. */
export const runPlan = z
  .object({
    sections: z
      .array(
        z.object({
          name: z.string().min(1).max(120),
          /** The project's section that it is, where it is one. */
          id: z.string().max(64).optional(),
          source: sectionSource,
          flap: flapSetting.nullable().default(null),
        }),
      )
      .min(1, 'is empty: choose at least one section')
      .max(2000),
    reynolds: list(z.number().min(1000).max(1e9), 500),
    mach: list(z.number().min(0).max(0.69), 20).default([0]),
    conditions: viscousConditions.omit({ reynolds: true, mach: true }).default({}),
    sweep: z.enum(['fixed-re', 'fixed-lift', 'over-re']).default('fixed-re'),
    /** Degrees. */
    alphas: list(z.number().min(-45).max(45), MOST_ON_CURVE).optional(),
    lifts: list(z.number().min(-5).max(5), MOST_ON_CURVE).optional(),
    spread: panelSpread.default(DEFAULT_SPREAD),
  })
  .refine(
    (p) => (p.alphas === undefined) !== (p.lifts === undefined),
    'needs angles or lift coefficients, one of the two',
  );
export type RunPlan = z.infer<typeof runPlan>;

/** One task of a run: the places of one curve that are wanted. */
export interface Sweep {
  key: string;
  /** Name of the section. */
  name: string;
  section?: string;
  input: CurveInput;
  values: number[];
}

const unique = (values: readonly number[]) => [...new Set(values)].sort((a, b) => a - b);

/** Points that a plan asks for, before anything is made of it. */
export function countOf(plan: RunPlan): number {
  const on = unique(plan.alphas ?? plan.lifts ?? []).length;
  return plan.sections.length * unique(plan.reynolds).length * unique(plan.mach).length * on;
}

/** Curves that a plan asks for, before anything is made of it. */
export function curvesOf(plan: RunPlan): number {
  const on = plan.sweep === 'over-re' ? unique(plan.alphas ?? plan.lifts ?? []) : unique(plan.reynolds);
  return plan.sections.length * on.length * unique(plan.mach).length;
}

/** The sweeps of a plan, all at once. @throws as {@link sweepsIn}. */
export const sweepsOf = (plan: RunPlan): Sweep[] => [...sweepsIn(plan)];

/**
 * The sweeps of a plan one by one, one for each curve; what is asked for twice is there once.
 * @throws InvalidInput `plan-size` for more points or curves than any machine solves in a week.
 */
export function* sweepsIn(plan: RunPlan): Generator<Sweep> {
  const count = countOf(plan);
  if (curvesOf(plan) > MOST_CURVES)
    throw new InvalidInput(
      'plan-size',
      `The plan asks for ${curvesOf(plan)} curves; at most ${MOST_CURVES} are run at once.`,
      'Use fewer sections, Reynolds or Mach numbers, or several runs.',
      'plan',
    );
  if (count > MOST_POINTS)
    throw new InvalidInput(
      'plan-size',
      `The plan asks for ${count} points; at most ${MOST_POINTS} are run at once.`,
      'Use fewer sections, Reynolds numbers or angles.',
      'plan',
    );
  const swept = plan.alphas ? 'alpha' : 'cl';
  const on = unique(plan.alphas ?? plan.lifts!);
  const reynolds = unique(plan.reynolds);
  const seen = new Set<string>();
  function* made(name: string, section: string | undefined, input: CurveInput, values: number[]): Generator<Sweep> {
    const key = curveKey(input);
    if (seen.has(key)) return;
    seen.add(key);
    yield { key, name, ...(section ? { section } : {}), input, values };
  }
  for (const { name, id, source, flap } of plan.sections)
    for (const mach of unique(plan.mach)) {
      const common = { source, flap, spread: plan.spread };
      // What is left out and what is given as it is anyway are the same curve.
      const at = (re: number) => ({ criticalAmplification: 9, ...plan.conditions, reynolds: re, mach });
      if (plan.sweep === 'over-re')
        for (const value of on)
          yield* made(
            name,
            id,
            {
              ...common,
              kind: 'over-re',
              swept: 're',
              // The Reynolds number runs along the curve, so that the one in the conditions says nothing.
              conditions: at(1e6),
              at: swept === 'alpha' ? { alphaDeg: value } : { cl: value },
            },
            reynolds,
          );
      else
        for (const re of reynolds)
          yield* made(name, id, { ...common, kind: plan.sweep, swept, conditions: at(re) }, on);
    }
}

/** The places of a sweep. */
export const placesOf = (sweep: Pick<Sweep, 'input' | 'values'>): number[] =>
  sweep.values.map((v) => placeOf(sweep.input, v));

/** A plan that came from outside, checked. @throws InvalidInput with the path of the field. */
export const checkedPlan = (given: unknown): RunPlan => checkedInput(runPlan, given);
