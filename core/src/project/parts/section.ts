import { z } from 'zod';
import { partId, words } from '../../limits';
import { MOST_STEPS, savedSource, savedStep } from '../../shaping';
import { partKind, type PartReference } from './kind';

export const LONGEST_SECTION_NAME = 80;

/** A section of the library: its source and its recipe. */
export const sectionPart = z.object({
  id: partId,
  name: words(LONGEST_SECTION_NAME).min(1, 'needs a name'),
  source: savedSource,
  /** The recipe: shaping steps applied to the source, in order. */
  steps: z.array(savedStep).max(MOST_STEPS).default([]),
  tags: z.array(words(30).min(1)).max(20).default([]),
  note: words(4000),
  /** The file that was read, when the points come from one; its text is a part of its own. */
  fileName: words(255).optional(),
});

export type SectionPart = z.infer<typeof sectionPart>;

/** A section's key, or undefined for a designation, which needs no part. */
const sectionKey = (id: string) => (id.startsWith('naca:') ? undefined : `section:${id}`);

/** A reference to a section, where it is one of the project's. */
export const sectionReference = (id: string, path: string): PartReference[] => {
  const key = sectionKey(id);
  return key ? [{ key, path }] : [];
};

export const sectionKind = partKind<SectionPart>({
  schema: sectionPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'sections' },
  label: (s) => (s.source.kind === 'mix' || s.steps.some((t) => t.kind === 'mix') ? `the mix ${s.name}` : s.name),
  references: (s) => [
    ...(s.source.kind === 'mix'
      ? [...sectionReference(s.source.a, 'source'), ...sectionReference(s.source.b, 'source')]
      : []),
    ...s.steps.flatMap((t, i) => (t.kind === 'mix' ? sectionReference(t.with, `steps.${i}.with`) : [])),
  ],
  freeing: 'Give those another section first.',
});

/** The text that a section was read from, kept as it was. */
export const originalPart = z.object({ id: partId, fileName: words(255), text: words(2_000_000) });
export type OriginalPart = z.infer<typeof originalPart>;

export const originalKind = partKind<OriginalPart>({
  schema: originalPart,
  version: 1,
  migrations: {},
  place: { at: 'beside', field: 'originals' },
  label: (o) => `the text of ${o.fileName}`,
  references: () => [],
});
