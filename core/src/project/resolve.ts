import { InvalidInput } from '../numerics';
import { designationKey, type SavedSource, type SavedStep, type SectionSource, type ShapingStep } from '../shaping';
import type { SectionPart } from './parts';
import { DEEPEST_CHAIN, tooDeep, WIDEST_CHAIN } from './references';

/** What a section is made of, as it is saved. */
export type SavedShape = Pick<SectionPart, 'source' | 'steps'>;

/** Ids of the sections that a section is mixed from. */
export function mixesOf(section: SavedShape): string[] {
  const ids = section.source.kind === 'mix' ? [section.source.a, section.source.b] : [];
  for (const step of section.steps ?? []) if (step.kind === 'mix') ids.push(step.with);
  return ids;
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

/** What was made of a section, with the parts that it was made from. */
interface Resolved {
  parts: ReadonlyMap<string, SectionPart>;
  source: SectionSource;
  depth: number;
  size: number;
}
const known = new WeakMap<object, Resolved>();

/**
 * The complete source of a section of a project: the sections it is mixed from inside it. Every section is walked once, and what was made is kept
 * as long as nothing it was made from changes.
 * @param trail ids of the sections that this one is wanted for.
 * @throws InvalidInput `section-missing`, `section-circle` or `section-depth`.
 */
export function resolvedSource(
  sections: Readonly<Record<string, SectionPart>>,
  id: string,
  trail: readonly string[] = [],
): SectionSource {
  const checked = new Map<string, Resolved>();
  const visit = (key: string, above: readonly string[]): Resolved => {
    const section = Object.hasOwn(sections, key) ? sections[key] : undefined;
    if (!section) {
      const formula = designationKey(key);
      if (formula) return { parts: new Map(), source: formula, depth: 0, size: 1 };
      throw new InvalidInput(
        'section-missing',
        `There is no section "${key}".`,
        'Name one of the project’s sections, or a designation such as naca:4415.',
        'section',
      );
    }
    if (above.includes(key)) throw circle(section.name);
    const here = checked.get(key);
    if (here) return here;
    const kept = known.get(section);
    if (kept && [...kept.parts].every(([other, part]) => sections[other] === part)) {
      // What was made before is no proof that it may be used here.
      if (above.some((t) => kept.parts.has(t))) throw circle(section.name);
      checked.set(key, kept);
      return kept;
    }
    const parts = new Map<string, SectionPart>();
    let depth = 0;
    let size = 1;
    const source = resolveShape(section, (other) => {
      const made = visit(other, [...above, key]);
      if (sections[other]) parts.set(other, sections[other]);
      for (const [k, v] of made.parts) parts.set(k, v);
      depth = Math.max(depth, made.depth + 1);
      size += made.size;
      return made.source;
    });
    if (depth > DEEPEST_CHAIN || size > WIDEST_CHAIN) throw tooDeep('section', section.name);
    const made = { parts, source, depth, size };
    known.set(section, made);
    checked.set(key, made);
    return made;
  };
  return visit(id, trail).source;
}

const circle = (name: string) =>
  new InvalidInput('section-circle', `${name} is mixed from itself.`, 'Choose another section.');
