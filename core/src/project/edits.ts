import { z } from 'zod';
import { InvalidInput } from '../numerics';
import {
  briefPart,
  candidatePart,
  partKey,
  SCHEMA_VERSION,
  sectionPart,
  type PartValue,
  type ProjectDocument,
} from './schema';

/** One part set to a value, or removed. */
export const partChange = z.object({ part: partKey, value: z.unknown().nullable() });
export type PartChange = { part: string; value: PartValue | null };

/** An edit as a client sends it: what it was made on, what to call it, and the parts that it changes. */
export const editRequest = z.object({
  baseVersion: z.number().int().min(0),
  label: z.string().min(1).max(120),
  changes: z.array(partChange).min(1).max(500),
});

/** Turns a Zod error into the house's own, with the path of the first field. */
export function invalidFrom(error: z.ZodError, what: string): InvalidInput {
  const issue = error.issues[0];
  const path = issue.path.join('.');
  return new InvalidInput(
    'invalid',
    `${what}${path ? `, ${path}` : ''}: ${issue.message}.`,
    'Correct that field.',
    path,
  );
}

/**
 * Checks the value of one part.
 * @param key the part's key. @param value what it is set to.
 * @throws InvalidInput `invalid` with the path of the field, or `part-id` when the value's own id differs from the key's.
 */
export function parsePart(key: string, value: unknown): PartValue {
  const [kind, id] = key.split(':');
  const schema = kind === 'brief' ? briefPart : kind === 'section' ? sectionPart : candidatePart;
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw invalidFrom(parsed.error, key);
  if (id && (parsed.data as { id: string }).id !== id) {
    throw new InvalidInput(
      'part-id',
      `The part ${key} holds the id ${(parsed.data as { id: string }).id}.`,
      'The two must be the same.',
      'id',
    );
  }
  return parsed.data;
}

/** The document made of stored parts. */
export function documentFromParts(parts: ReadonlyMap<string, PartValue>): ProjectDocument {
  const brief = parts.get('brief');
  if (!brief) throw new InvalidInput('no-brief', 'The project has no brief.');
  const document: ProjectDocument = {
    schemaVersion: SCHEMA_VERSION,
    brief: brief as ProjectDocument['brief'],
    sections: {},
    candidates: {},
  };
  for (const [key, value] of parts) {
    const [kind, id] = key.split(':');
    if (kind === 'section') document.sections[id] = value as ProjectDocument['sections'][string];
    if (kind === 'candidate') document.candidates[id] = value as ProjectDocument['candidates'][string];
  }
  return document;
}

/** The parts of a document by key. */
export function partsOfDocument(document: ProjectDocument): Map<string, PartValue> {
  const parts = new Map<string, PartValue>([['brief', document.brief]]);
  for (const [id, s] of Object.entries(document.sections)) parts.set(`section:${id}`, s);
  for (const [id, c] of Object.entries(document.candidates)) parts.set(`candidate:${id}`, c);
  return parts;
}

/** The document after some changes; the one given stays as it is. */
export function applyChanges(document: ProjectDocument, changes: readonly PartChange[]): ProjectDocument {
  const parts = partsOfDocument(document);
  for (const { part, value } of changes) {
    if (value === null) parts.delete(part);
    else parts.set(part, value);
  }
  return documentFromParts(parts);
}

/** Which candidates and surfaces use a section. */
export function usesOfSection(
  document: ProjectDocument,
  id: string,
): { candidate: string; letter: string; surface: string }[] {
  const uses: { candidate: string; letter: string; surface: string }[] = [];
  for (const c of Object.values(document.candidates)) {
    for (const s of c.surfaces)
      if (s.stations.some((t) => t.section === id)) uses.push({ candidate: c.id, letter: c.letter, surface: s.name });
  }
  return uses;
}

/**
 * Refuses changes that leave the document broken: a section taken away while a surface uses it, the brief removed.
 * @throws InvalidInput `section-in-use`, `section-missing` or `no-brief`.
 */
export function checkReferences(after: ProjectDocument, touched: readonly string[]): void {
  for (const key of touched) {
    const [kind, id] = key.split(':');
    if (kind === 'section' && !after.sections[id]) {
      const uses = usesOfSection(after, id);
      if (uses.length > 0) {
        throw new InvalidInput(
          'section-in-use',
          `This section is used by ${[...new Set(uses.map((u) => `${u.surface} of ${u.letter}`))].join(', ')}.`,
          'Give those stations another section first.',
          key,
        );
      }
    }
    if (kind === 'candidate' && after.candidates[id]) {
      after.candidates[id].surfaces.forEach((s, i) =>
        s.stations.forEach((t, k) => {
          if (!t.section.startsWith('naca:') && !after.sections[t.section]) {
            throw new InvalidInput(
              'section-missing',
              `${s.name} uses a section that is not in the project (${t.section}).`,
              'Choose one of the sections.',
              `surfaces.${i}.stations.${k}.section`,
            );
          }
        }),
      );
    }
  }
}
