import { InvalidInput } from '../numerics';
import type { SavedSource, SavedStep, SectionSource, ShapingStep } from '../shaping';
import type { SectionPart } from './schema';

/** What a section is made of, as it is saved. */
export type SavedShape = Pick<SectionPart, 'source' | 'steps'>;

/** Ids of the sections that a section is mixed from. */
export function mixesOf(section: SavedShape): string[] {
  const ids = section.source.kind === 'mix' ? [section.source.a, section.source.b] : [];
  for (const step of section.steps ?? []) if (step.kind === 'mix') ids.push(step.with);
  return ids;
}

/** A designation given as `naca:4415` or `naca:4415:sharp`, or undefined when it is none. */
export function designationKey(key: string): SectionSource | undefined {
  const match = /^naca:([-\d]+)(?::(sharp|published))?$/i.exec(key);
  return match
    ? {
        kind: 'designation',
        designation: match[1],
        trailingEdge: match[2]?.toLowerCase() === 'sharp' ? 'sharp' : 'published',
      }
    : undefined;
}

/** The source of a section with the sections it is mixed from inside it, so that it can be computed anywhere. */
export type Resolver = (id: string) => SectionSource;

/**
 * A source as it is computed: other sections inside it, its steps around it.
 * @param lookup gives the complete source of another section. @throws InvalidInput from the lookup.
 */
export function resolveShape(section: SavedShape, lookup: Resolver): SectionSource {
  const { source } = section;
  const own: SectionSource =
    source.kind === 'mix'
      ? { kind: 'mix', a: lookup(source.a), b: lookup(source.b), fraction: source.fraction }
      : (source satisfies Exclude<SavedSource, { kind: 'mix' }>);
  if (!section.steps?.length) return own;
  return { kind: 'recipe', source: own, steps: section.steps.map((s) => resolveStep(s, lookup)) };
}

function resolveStep(step: SavedStep, lookup: Resolver): ShapingStep {
  if (step.kind !== 'mix') return step;
  const { with: other, ...rest } = step;
  return { ...rest, other: lookup(other) };
}

const known = new WeakMap<object, { parts: Map<string, SectionPart>; source: SectionSource }>();

/**
 * The complete source of a section of a project.
 * @throws InvalidInput `section-missing` or `section-circle`.
 */
export function resolvedSource(
  sections: Readonly<Record<string, SectionPart>>,
  id: string,
  trail: readonly string[] = [],
): SectionSource {
  const section = sections[id];
  if (!section) {
    const formula = designationKey(id);
    if (formula) return formula;
    throw new InvalidInput(
      'section-missing',
      `There is no section "${id}".`,
      'Name one of the project’s sections, or a designation such as naca:4415.',
      'section',
    );
  }
  if (trail.includes(id)) throw circle(section.name);
  const kept = known.get(section);
  if (kept && [...kept.parts].every(([other, part]) => sections[other] === part)) {
    // What was made before is no proof that it may be used here.
    if (trail.some((t) => kept.parts.has(t))) throw circle(section.name);
    return kept.source;
  }
  const parts = new Map<string, SectionPart>();
  const source = resolveShape(section, (other) => {
    collect(sections, other, parts);
    return resolvedSource(sections, other, [...trail, id]);
  });
  known.set(section, { parts, source });
  return source;
}

const circle = (name: string) =>
  new InvalidInput('section-circle', `${name} is mixed from itself.`, 'Choose another section.');

/** Gathers a section and all that it is mixed from. */
function collect(sections: Readonly<Record<string, SectionPart>>, id: string, into: Map<string, SectionPart>): void {
  if (!sections[id] || into.has(id)) return;
  into.set(id, sections[id]);
  for (const other of mixesOf(sections[id])) collect(sections, other, into);
}
