import { z } from 'zod';
import { InvalidInput } from '../numerics';
import {
  briefPart,
  candidatePart,
  originalPart,
  partKey,
  SCHEMA_VERSION,
  sectionPart,
  type CandidatePart,
  type PartValue,
  type ProjectDocument,
  type SectionPart,
} from './schema';
import { mixesOf } from './resolve';

/** Parts that one edit may touch: a thousand sections with their texts, and room. */
export const MOST_CHANGES = 12_000;

/** One part set to a value, or removed. */
export const partChange = z.object({ part: partKey, value: z.unknown().nullable() });
export type PartChange = { part: string; value: PartValue | null };

/** An edit as a client sends it: what it was made on, what to call it, and the parts that it changes. */
export const editRequest = z.object({
  baseVersion: z.number().int().min(0),
  label: z.string().min(1).max(120),
  changes: z.array(partChange).min(1).max(MOST_CHANGES),
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
  const schema = { brief: briefPart, section: sectionPart, original: originalPart, candidate: candidatePart }[kind];
  if (!schema) throw new InvalidInput('part-kind', `There is no kind of part called ${kind}.`);
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
  for (const [id, o] of Object.entries(document.originals ?? {})) parts.set(`original:${id}`, o);
  return parts;
}

/** The document after some changes; the one given stays as it is, and what did not change is shared. Texts of files are left out. */
export function applyChanges(document: ProjectDocument, changes: readonly PartChange[]): ProjectDocument {
  const next: ProjectDocument = { ...document };
  let [sections, candidates] = [false, false];
  for (const { part, value } of changes) {
    const [kind, id] = part.split(':');
    if (kind === 'brief') {
      if (value === null) throw new InvalidInput('no-brief', 'The project has no brief.');
      next.brief = value as ProjectDocument['brief'];
    } else if (kind === 'section') {
      if (!sections) next.sections = { ...document.sections };
      sections = true;
      if (value === null) delete next.sections[id];
      else next.sections[id] = value as SectionPart;
    } else if (kind === 'candidate') {
      if (!candidates) next.candidates = { ...document.candidates };
      candidates = true;
      if (value === null) delete next.candidates[id];
      else next.candidates[id] = value as CandidatePart;
    }
  }
  return next;
}

/** Which candidates and surfaces use a section. */
export function usesOfSection(
  document: Pick<ProjectDocument, 'candidates'>,
  id: string,
): { candidate: string; letter: string; surface: string }[] {
  const uses: { candidate: string; letter: string; surface: string }[] = [];
  for (const c of Object.values(document.candidates)) {
    for (const s of c.surfaces)
      if (s.stations.some((t) => t.section === id)) uses.push({ candidate: c.id, letter: c.letter, surface: s.name });
  }
  return uses;
}

/** What the check of references needs to know of a document after a change. */
export interface DocumentIndex {
  candidates: Readonly<Record<string, CandidatePart>>;
  hasSection(id: string): boolean;
  /** The sections that are made from others; all others may be left out. */
  mixed: Readonly<Record<string, Pick<SectionPart, 'id' | 'name' | 'source' | 'steps'>>>;
}

/** The index of a whole document. */
export function indexOf(document: ProjectDocument): DocumentIndex {
  return {
    candidates: document.candidates,
    hasSection: (id) => Boolean(document.sections[id]),
    mixed: document.sections,
  };
}

/**
 * Refuses changes that leave the document broken: a section taken away while a surface or a mix uses it, a mix that comes back to itself.
 * @throws InvalidInput `section-in-use`, `section-missing`, `section-circle` or `no-brief`.
 */
export function checkReferences(after: DocumentIndex, touched: readonly string[]): void {
  const gone = new Set<string>();
  for (const key of touched) {
    const [kind, id] = key.split(':');
    if (kind === 'section') {
      if (!after.hasSection(id)) gone.add(id);
      else if (after.mixed[id]) checkMix(after, id);
    }
    if (kind === 'candidate' && after.candidates[id]) checkStations(after, after.candidates[id]);
  }
  if (gone.size === 0) return;
  const users = new Set<string>();
  for (const c of Object.values(after.candidates))
    for (const s of c.surfaces)
      for (const t of s.stations) if (gone.has(t.section)) users.add(`${s.name} of ${c.letter}`);
  for (const s of Object.values(after.mixed)) if (mixesOf(s).some((id) => gone.has(id))) users.add(`the mix ${s.name}`);
  if (users.size > 0) {
    throw new InvalidInput(
      'section-in-use',
      `${gone.size === 1 ? 'This section is' : 'Some of these sections are'} used by ${[...users].slice(0, 8).join(', ')}.`,
      'Give those another section first.',
      `section:${[...gone][0]}`,
    );
  }
}

function checkStations(after: DocumentIndex, candidate: CandidatePart): void {
  candidate.surfaces.forEach((s, i) =>
    s.stations.forEach((t, k) => {
      if (!t.section.startsWith('naca:') && !after.hasSection(t.section)) {
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

function checkMix(after: DocumentIndex, start: string): void {
  const visit = (id: string, trail: string[]): void => {
    for (const other of mixesOf(after.mixed[id] ?? { source: { kind: 'coordinates', points: [] }, steps: [] })) {
      if (other.startsWith('naca:')) continue;
      if (!after.hasSection(other)) {
        throw new InvalidInput(
          'section-missing',
          `A mix names a section that is not in the project (${other}).`,
          'Choose one of the sections.',
          'source',
        );
      }
      if (other === start) {
        const way = [...trail, id].map((v) => after.mixed[v]?.name ?? v).join(' → ');
        throw new InvalidInput(
          'section-circle',
          `This mix would come back to itself: ${way} → ${after.mixed[start]?.name ?? start}.`,
          'Mix with a section that is not made from this one.',
          'source',
        );
      }
      if (!trail.includes(other)) visit(other, [...trail, id]);
    }
  };
  visit(start, []);
}
