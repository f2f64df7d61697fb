import { InvalidInput } from '../numerics';
import type { SectionSource } from '../section';
import type { SectionLookup } from '../airframe';

/**
 * Looks sections up by id, and by designation where the key starts with `naca:` (`naca:0012:sharp` closes the trailing edge).
 * @throws InvalidInput `section-missing` from the lookup for a key that is neither.
 */
export function sectionLookup(
  sections: Readonly<Record<string, { source: SectionSource } | SectionSource>>,
): SectionLookup {
  return (key) => {
    const known = sections[key];
    if (known) return 'source' in known ? known.source : known;
    const match = /^naca:(\d+)(?::(sharp|published))?$/i.exec(key);
    if (match) {
      return {
        kind: 'designation',
        designation: match[1],
        trailingEdge: match[2]?.toLowerCase() === 'sharp' ? 'sharp' : 'published',
      };
    }
    throw new InvalidInput(
      'section-missing',
      `There is no section "${key}".`,
      'Name one of the project’s sections, or a designation such as naca:4415.',
      'section',
    );
  };
}
