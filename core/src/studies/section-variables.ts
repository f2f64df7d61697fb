import { stepOf, type FieldLimit } from '../limits';
import { FAMILY_NUMBERS, limitOfNumber, memberSource, recipeNumbers, type FamilyNumber } from '../polar';
import { designationKey, kept, limitsOf, sourceFacts, type SectionSource } from '../shaping';
import type { SectionFacts } from '../section';

/** Numbers of a section that may vary: of its shape, of its recipe, its coefficients, the share of a mix. */
export interface SectionNumber {
  /** Behind `sections.ID.`. */ path: string;
  label: string;
  limit: FieldLimit;
  value: number;
  step: number;
}

const OF_SHAPE: Record<FamilyNumber, (f: SectionFacts) => number> = {
  'camber-crest': (f) => f.camber.at,
  'thickness-crest': (f) => f.thickness.at,
  camber: (f) => f.camber.max,
  thickness: (f) => f.thickness.max,
  'nose-radius': (f) => f.noseRadius,
};
const NUMBERS = Object.keys(FAMILY_NUMBERS) as FamilyNumber[];
const COEFFICIENT: FieldLimit = { label: 'Coefficient', dimension: 'plain', min: -5, max: 5, step: 0.005 };
/** Below this a section has no camber whose crest could be moved, chords. */
const NO_CAMBER = 1e-4;

const factsOf = kept(300, (source) => sourceFacts(source));

/** Section and number that a path such as `sections.s.shape.thickness` sets. */
export function shapeNumberOf(path: string): { section: string; number: FamilyNumber } | null {
  const [, section, number] = /^sections\.([^.]+)\.shape\.([a-z-]+)$/.exec(path) ?? [];
  return section && Object.hasOwn(FAMILY_NUMBERS, number) ? { section, number: number as FamilyNumber } : null;
}

/** A section of a subject: its own, or one that its key names by digits. */
export const sectionOf = (sections: Readonly<Record<string, SectionSource>>, key: string): SectionSource | undefined =>
  Object.hasOwn(sections, key) ? sections[key] : designationKey(key);

/** A number of a section's shape as it stands. */
export const shapeNumber = (source: SectionSource, number: FamilyNumber): number => OF_SHAPE[number](factsOf(source));

/** A section with numbers of its shape set, in the order in which families set them. */
export const withShape = (source: SectionSource, set: ReadonlyMap<FamilyNumber, number>): SectionSource =>
  memberSource(
    source,
    [...set.keys()].map((id) => ({ id })),
    [...set.values()],
  );

/** Every number of a section that may vary. @throws as its outline, for one that cannot be made. */
export function sectionNumbers(source: SectionSource): SectionNumber[] {
  const out: SectionNumber[] = [];
  const add = (path: string, label: string, limit: FieldLimit, value: number) =>
    out.push({ path, label, limit, value, step: stepOf(limit) ?? 0.01 });
  const flat = Math.abs(factsOf(source).camber.max) < NO_CAMBER;
  for (const number of NUMBERS)
    if (number !== 'camber-crest' || !flat)
      add(`shape.${number}`, FAMILY_NUMBERS[number].name, limitOfNumber(source, number)!, shapeNumber(source, number));
  for (const { id, step, field, value } of recipeNumbers(source)) {
    const limit = limitsOf(step)[field] as FieldLimit | undefined;
    if (limit) add(id, `step ${Number(id.split('.')[1]) + 1}, ${limit.label.toLowerCase()}`, limit, value);
  }
  if (source.kind === 'class-shape')
    for (const side of ['upper', 'lower'] as const)
      source[side].forEach((value, i) => add(`${side}.${i}`, `${side} coefficient ${i + 1}`, COEFFICIENT, value));
  if (source.kind === 'mix') add('fraction', 'mix', limitsOf('mix').fraction, source.fraction);
  return out;
}
