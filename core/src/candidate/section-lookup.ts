import type { SectionLookup } from '../airframe';
import { resolvedSource, type CandidatePart, type ProjectDocument, type SectionPart } from '../project';
import type { SectionSource } from '../shaping';

/**
 * Looks sections up by id, and by designation where the key starts with `naca:` (`naca:0012:sharp` closes the trailing edge).
 * @param sections of a project, or sources that are complete in themselves.
 * @throws InvalidInput `section-missing` from the lookup for a key that is neither.
 */
export function sectionLookup(sections: Readonly<Record<string, SectionPart | SectionSource>>): SectionLookup {
  return (key) => {
    const known = sections[key];
    if (known && !('id' in known)) return known;
    return resolvedSource(sections as Readonly<Record<string, SectionPart>>, key);
  };
}

/** The sections that a candidate's stations use, by key; those that cannot be made are left out, and the evaluation says so. */
export function sectionsUsed(
  sections: ProjectDocument['sections'],
  candidate: Pick<CandidatePart, 'surfaces'>,
): Record<string, SectionSource> {
  const used: Record<string, SectionSource> = {};
  for (const s of candidate.surfaces)
    for (const { section } of s.stations) {
      if (Object.hasOwn(used, section) || !Object.hasOwn(sections, section)) continue;
      used[section] = resolvedSource(sections, section);
    }
  return used;
}
