import type { SectionSource } from './schema';

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
