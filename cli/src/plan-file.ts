import { dirname, isAbsolute, join } from 'node:path';
import { existsSync } from 'node:fs';
import { z } from 'zod';
import { InvalidInput } from '@veldtwind/core/numerics';
import { checkedPlan, flappedOutline, type RunPlan } from '@veldtwind/core/polar';
import { checkedInput } from '@veldtwind/core/results';
import { amplificationOfTurbulence, DEFAULT_SPREAD } from '@veldtwind/core/section-flow';
import { readRange, readSection, readTextFile } from './arguments';

const range = z.union([z.string(), z.number(), z.array(z.number())]);
const maybe = <T extends z.ZodType>(type: T) => type.nullish();
const flap = z.union([z.string(), z.strictObject({ x: z.number(), y: z.number(), deg: z.number() })]);

/** A plan as it is written by hand. */
const planFile = z.strictObject({
  sections: z.array(z.string().min(1)).min(1, 'is empty: name at least one section'),
  reynolds: range,
  mach: maybe(range),
  alpha: maybe(range),
  cl: maybe(range),
  sweep: maybe(z.enum(['fixed-re', 'fixed-lift', 'over-re'])),
  ncrit: maybe(z.number()),
  ncritTop: maybe(z.number()),
  ncritBottom: maybe(z.number()),
  turbulence: maybe(z.number()),
  grain: maybe(z.number()),
  tripTop: maybe(z.number()),
  tripBottom: maybe(z.number()),
  flap: maybe(flap),
  panels: maybe(z.number().int()),
});

const numbers = (value: z.infer<typeof range>, what: string): number[] =>
  typeof value === 'string' ? readRange(value, what) : Array.isArray(value) ? value : [value];

function flapOf(given: z.infer<typeof flap> | null | undefined) {
  if (given === null || given === undefined) return null;
  if (typeof given !== 'string') return { x: given.x, y: given.y, angleDeg: given.deg };
  const [x, y, angleDeg, ...more] = readRange(given, 'flap');
  if (angleDeg === undefined || more.length > 0)
    throw new InvalidInput('range', `flap: "${given}" is not x,y,deg.`, 'For instance 0.75,0.5,10.', 'flap');
  return { x, y, angleDeg };
}

/**
 * Reads a plan: sections by designation or by the path of a coordinate file, from here or from the plan's own folder.
 * @throws InvalidInput with the path of the field.
 */
export function readPlan(path: string): RunPlan {
  let given: unknown;
  try {
    given = JSON.parse(readTextFile(path));
  } catch (error) {
    if (error instanceof InvalidInput) throw error;
    throw new InvalidInput('plan', `${path} is not JSON (${(error as Error).message}).`, 'See vw polars --help.');
  }
  const plan = checkedInput(planFile, given);
  if (plan.turbulence != null && plan.ncrit != null)
    throw new InvalidInput('plan', 'Give either ncrit or turbulence.', undefined, 'turbulence');
  const placed = (name: string) =>
    /^naca:/i.test(name) || isAbsolute(name) || existsSync(name) ? name : join(dirname(path), name);
  const flapped = flapOf(plan.flap);
  return checkedPlan({
    sections: plan.sections.map((name) => {
      const { source } = readSection(placed(name));
      // What cannot be built is said before anything is begun.
      flappedOutline(source, flapped);
      return { name, source, flap: flapped };
    }),
    reynolds: numbers(plan.reynolds, 'reynolds'),
    mach: plan.mach == null ? [0] : numbers(plan.mach, 'mach'),
    sweep: plan.sweep ?? 'fixed-re',
    ...(plan.alpha == null ? {} : { alphas: numbers(plan.alpha, 'alpha') }),
    ...(plan.cl == null ? {} : { lifts: numbers(plan.cl, 'cl') }),
    conditions: {
      criticalAmplification: plan.turbulence != null ? amplificationOfTurbulence(plan.turbulence) : (plan.ncrit ?? 9),
      criticalTop: plan.ncritTop ?? undefined,
      criticalBottom: plan.ncritBottom ?? undefined,
      turbulence: plan.turbulence ?? undefined,
      grain: plan.grain ?? undefined,
      tripTop: plan.tripTop ?? undefined,
      tripBottom: plan.tripBottom ?? undefined,
    },
    spread: { ...DEFAULT_SPREAD, ...(plan.panels == null ? {} : { panels: plan.panels }) },
  });
}
