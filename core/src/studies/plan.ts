import { z } from 'zod';
import { finiteNumber } from '../limits';
import { InvalidInput } from '../numerics';
import { invalidFrom } from '../project';
import { sectionSource } from '../shaping';
import { answerBand, answerKey, answerSchema, type Answer } from './answer-schema';
import { checkAnswer } from './answers';
import { rangeWrong, valueAt, variablesOf, wordAt, type StudySubject } from './variables';

export const STUDY_KINDS = ['effects', 'grid', 'solve', 'spread', 'search'] as const;
export type StudyKind = (typeof STUDY_KINDS)[number];

/** Tries that a study makes at most. */
export const MOST_TRIES = 200_000;

/** A number that varies; several paths are set to one value together. */
export const variableSchema = z.strictObject({
  path: z.union([z.string().min(1), z.array(z.string().min(1)).min(1).max(50)]),
  /** Both, but for a choice. */ from: finiteNumber.optional(),
  to: finiteNumber.optional(),
  /** Of a choice: words that stand at the path, such as keys of sections; tries tell their places in this list. */
  options: z.array(z.string().min(1).max(120)).min(2).max(500).optional(),
  /** Places of a grid. */ steps: z.number().int().min(2).max(10_000).optional(),
  /** Spread of a normal distribution about the value as it stands; even between `from` and `to` without. */
  sd: finiteNumber.positive().optional(),
  kind: z.enum(['number', 'whole', 'choice']).default('number'),
});
/** With its bounds: those of a choice are the ends of its list. */
export type PlanVariable = z.infer<typeof variableSchema> & { from: number; to: number };

/** What is asked of a subject. */
export const planSchema = z.strictObject({
  /** File of the candidate, beside the plan; and sections that it uses besides its own. */ airframe: z
    .string()
    .max(1000)
    .optional(),
  sections: z.record(z.string(), sectionSource).optional(),
  kind: z.enum(STUDY_KINDS),
  variables: z.array(variableSchema).min(1, 'a study needs a variable').max(60),
  answers: z.array(answerSchema).max(60).default([]),
  bands: z.array(answerBand).max(60).default([]),
  aim: z
    .array(answerSchema.extend({ sense: z.enum(['least', 'greatest']) }))
    .max(4)
    .default([]),
  flight: z.strictObject({ speed: finiteNumber.positive(), altitude: finiteNumber.default(0) }).optional(),
  seed: z
    .number()
    .int()
    .min(0)
    .max(2 ** 31)
    .default(1),
  budget: z.number().int().min(1).max(MOST_TRIES).optional(),
  method: z.enum(['lattice', 'polars']).default('lattice'),
});
export type StudyPlan = Omit<z.infer<typeof planSchema>, 'variables'> & { variables: PlanVariable[] };

/** The paths of a variable. */
export const pathsOf = (v: Pick<PlanVariable, 'path'>): string[] => (typeof v.path === 'string' ? [v.path] : v.path);
/** A variable by one name. */
export const nameOf = (v: Pick<PlanVariable, 'path'>): string => pathsOf(v).join(', ');

/** All that a plan asks for, each once: answers, and those of bands and aims. */
export function askedOf(plan: Pick<StudyPlan, 'answers' | 'bands' | 'aim'>): Answer[] {
  const out = new Map<string, Answer>();
  for (const { id, at } of [...plan.answers, ...plan.bands, ...plan.aim]) {
    const a = { id, ...(at && { at }) };
    out.set(answerKey(a), a);
  }
  return [...out.values()];
}

/** A variable with its bounds. @throws InvalidInput `variable` where they are not given, or a choice has no list. */
function bounded(v: z.infer<typeof variableSchema>, i: number): PlanVariable {
  const wrong = (why: string) =>
    new InvalidInput('variable', `Variable "${nameOf(v)}" ${why}.`, 'See docs/using.md.', `variables.${i}`);
  if (v.kind === 'choice') {
    if (!v.options || new Set(v.options).size < v.options.length) throw wrong('needs options, each once');
    return { ...v, from: 0, to: v.options.length - 1, steps: v.options.length };
  }
  if (v.options) throw wrong('has options, but is no choice');
  if (v.from === undefined || v.to === undefined) throw wrong('needs its bounds, "from" and "to"');
  return { ...v, from: v.from, to: v.to };
}

/**
 * A plan that came from outside, held against its subject.
 * @throws InvalidInput for what is no plan, for a path or a quantity that is not there, for bounds that cross or break a limit, and for a kind that lacks what it needs.
 */
export function checkedPlan(given: unknown, subject: StudySubject): StudyPlan {
  const parsed = planSchema.safeParse(given);
  if (!parsed.success) throw invalidFrom(parsed.error, 'Plan');
  const plan: StudyPlan = { ...parsed.data, variables: parsed.data.variables.map(bounded) };
  const known = new Map(variablesOf(subject).map((v) => [v.path, v]));
  const seen = new Set<string>();
  plan.variables.forEach((v, i) => {
    const at = `variables.${i}`;
    for (const path of pathsOf(v)) {
      if (v.kind === 'choice') wordAt(subject, path);
      else valueAt(subject, path);
      if (seen.has(path))
        throw new InvalidInput('variable', `"${path}" varies twice.`, 'Let each number vary by one variable.', at);
      seen.add(path);
      const wrong = v.kind !== 'choice' && rangeWrong(known.get(path), v.from, v.to);
      if (wrong) throw new InvalidInput('variable', `Variable "${path}": ${wrong}.`, 'Change its range.', at);
    }
  });
  const choice = plan.variables.findIndex((v) => v.kind === 'choice');
  if (choice >= 0 && plan.kind !== 'grid' && plan.kind !== 'search')
    throw new InvalidInput(
      'variable',
      `A study of the kind "${plan.kind}" has no use for a choice.`,
      'Choices are for a grid or a search.',
      `variables.${choice}`,
    );
  askedOf(plan).forEach((a) => checkAnswer(a, subject));
  const lacks = {
    effects: askedOf(plan).length === 0 && 'answers',
    grid: askedOf(plan).length === 0 && 'answers',
    spread: askedOf(plan).length === 0 && 'answers',
    solve: plan.bands.every((b) => b.least === null && b.greatest === null) && 'bands',
    search: plan.aim.length === 0 && 'aim',
  }[plan.kind];
  if (lacks)
    throw new InvalidInput(
      'plan',
      `A study of the kind "${plan.kind}" needs ${lacks}.`,
      'vw study --list-answers tells the quantities.',
      lacks,
    );
  return plan;
}
