import { z } from 'zod';
import { InvalidInput } from '../numerics';
import type { FieldLimit } from '../limits';
import { limitsOf, type PlainStep, type SectionSource, type ShapingStep } from '../shaping';

/** Numbers of any section that a family varies, in the order in which they are set: each is one shaping step behind the section's own. */
export const FAMILY_NUMBERS = {
  'camber-crest': { name: 'crest of camber', short: 'xf', step: 'camber-crest', per: 100 },
  'thickness-crest': { name: 'crest of thickness', short: 'xt', step: 'thickness-crest', per: 100 },
  camber: { name: 'camber', short: 'f', step: 'set-camber', per: 100 },
  thickness: { name: 'thickness', short: 't', step: 'set-thickness', per: 100 },
  'nose-radius': { name: 'nose radius', short: 'r', step: 'nose-radius', per: 100 },
} as const satisfies Record<string, { name: string; short: string; step: PlainStep['kind']; per: number }>;
export type FamilyNumber = keyof typeof FAMILY_NUMBERS;
const ORDER = Object.keys(FAMILY_NUMBERS) as FamilyNumber[];

/** A number of a recipe: `steps.2.to`, the field of a step. */
const OF_RECIPE = /^steps\.(\d{1,2})\.([a-zA-Z]{1,20})$/;

/** Values that a number takes. */
export const MOST_VALUES = 25;
export const MOST_MEMBERS = 2000;

/** A number that is varied: which, and the values of the grid. */
export const variedNumber = z.object({
  id: z.string().refine((id) => ORDER.includes(id as FamilyNumber) || OF_RECIPE.test(id), 'is no number of a section'),
  values: z.array(z.number().min(-1000).max(1000)).min(1, 'is empty').max(MOST_VALUES),
});
export type VariedNumber = z.infer<typeof variedNumber>;

/** Values of the numbers of one member, in the numbers' order. */
export type Member = number[];

/** Every combination of the grid's values, the last number fastest. @throws InvalidInput `family-size` for more than can be handled. */
export function gridOf(numbers: readonly VariedNumber[]): Member[] {
  const count = numbers.reduce((n, v) => n * new Set(v.values).size, 1);
  if (count > MOST_MEMBERS)
    throw new InvalidInput(
      'family-size',
      `The grid has ${count} sections; a family has at most ${MOST_MEMBERS}.`,
      'Give fewer values.',
      'numbers',
    );
  return numbers.reduce<Member[]>(
    (list, { values }) => list.flatMap((m) => [...new Set(values)].map((v) => [...m, v])),
    [[]],
  );
}

/** Members that are the same to a millionth have the same key. */
export const memberKey = (member: Member): string => member.map((v) => Math.round(v * 1e6)).join();

/** Members in their order, each once. */
export function uniqueMembers(members: readonly Member[]): Member[] {
  return [...new Map(members.map((m) => [memberKey(m), m])).values()];
}

/** The step of a recipe that a number stands in. */
function inRecipe(source: SectionSource, id: string): { step: ShapingStep; index: number; field: string } | undefined {
  const match = OF_RECIPE.exec(id);
  if (!match || source.kind !== 'recipe') return undefined;
  const step = source.steps[Number(match[1])];
  const field = match[2];
  return step && typeof (step as unknown as Record<string, unknown>)[field] === 'number'
    ? { step, index: Number(match[1]), field }
    : undefined;
}

/** Numbers of a section's own recipe that can be varied: ids with the step's kind, the field, and its value now. */
export function recipeNumbers(
  source: SectionSource,
): { id: string; step: ShapingStep['kind']; field: string; value: number }[] {
  if (source.kind !== 'recipe') return [];
  return source.steps.flatMap((step, i) =>
    step.off
      ? []
      : Object.entries(step).flatMap(([field, value]) =>
          typeof value === 'number' ? [{ id: `steps.${i}.${field}`, step: step.kind, field, value }] : [],
        ),
  );
}

/** The limit of a varied number. @param source the base's. */
export function limitOfNumber(source: SectionSource, id: string): FieldLimit | undefined {
  if (id in FAMILY_NUMBERS) return limitsOf(FAMILY_NUMBERS[id as FamilyNumber].step).to;
  const at = inRecipe(source, id);
  return at && limitsOf(at.step.kind)[at.field];
}

/** A varied number as it is written in names: thickness and camber in % of the chord. */
export const shortName = (id: string): string =>
  id in FAMILY_NUMBERS
    ? FAMILY_NUMBERS[id as FamilyNumber].short
    : id.replace(OF_RECIPE, (_, k, f) => `s${Number(k) + 1}${f === 'to' ? '' : ` ${f}`}`);
const written = (id: string, v: number) => String(Number(((id in FAMILY_NUMBERS ? 100 : 1) * v).toFixed(3)));

/** The systematic name of a member: the base's name and the numbers, such as `Karoo 14, t 12, f 3.5`. */
export const memberName = (base: string, numbers: readonly Pick<VariedNumber, 'id'>[], member: Member): string =>
  [base, ...numbers.map(({ id }, i) => `${shortName(id)} ${written(id, member[i])}`)].join(', ').slice(0, 120);

/**
 * The shape of a member: the base with its numbers set. Numbers of its own recipe are set where they stand; the others are steps behind it, in a
 * fixed order, so that the same numbers make the same shape.
 * @throws InvalidInput `family-number` where the base's recipe has no such number any more.
 */
export function memberSource(
  base: SectionSource,
  numbers: readonly Pick<VariedNumber, 'id'>[],
  member: Member,
): SectionSource {
  let source = base;
  const added: ShapingStep[] = [];
  for (const id of ORDER) {
    const at = numbers.findIndex((n) => n.id === id);
    if (at < 0) continue;
    const kind = FAMILY_NUMBERS[id].step;
    const to = member[at];
    added.push(kind === 'nose-radius' ? { kind, to, blend: 0.25 } : { kind, to });
  }
  numbers.forEach(({ id }, i) => {
    if (!OF_RECIPE.test(id)) return;
    const at = inRecipe(source, id);
    if (!at || source.kind !== 'recipe')
      throw new InvalidInput('family-number', `The recipe has no number ${id} any more.`, 'Take it out of the family.');
    const steps = source.steps.slice();
    steps[at.index] = { ...at.step, [at.field]: member[i] } as ShapingStep;
    source = { ...source, steps };
  });
  if (added.length === 0) return source;
  return source.kind === 'recipe'
    ? { ...source, steps: [...source.steps, ...added] }
    : { kind: 'recipe', source, steps: added };
}

/** The steps that make a member of its base's own, for keeping it in a library: what `memberSource` adds. */
export function memberSteps(numbers: readonly Pick<VariedNumber, 'id'>[], member: Member): PlainStep[] {
  const made = memberSource(
    { kind: 'recipe', source: NOTHING, steps: [] },
    numbers.filter((n) => n.id in FAMILY_NUMBERS),
    member.filter((_, i) => numbers[i].id in FAMILY_NUMBERS),
  );
  return made.kind === 'recipe' ? (made.steps as PlainStep[]) : [];
}
const NOTHING: SectionSource = { kind: 'designation', designation: '0009', trailingEdge: 'published' };

/** Half way between two members. */
export const halfway = (a: Member, b: Member): Member => a.map((v, i) => Number(((v + b[i]) / 2).toPrecision(8)));
