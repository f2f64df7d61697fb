import { InvalidInput } from '../numerics';
import {
  candidatePart,
  invalidFrom,
  keyOf,
  KIND_NAMES,
  kindOf,
  kindsIn,
  readKey,
  readStored,
  SCHEMA_VERSION,
  type AttachmentPart,
  type BriefPart,
  type CandidatePart,
  type FlightRecordPart,
  type MeasurementPart,
  type NotePart,
  type OriginalPart,
  type PartKindName,
  type PartValue,
  type PicturePart,
  type ReportPart,
  type ScenarioPart,
  type SectionPart,
  type StudyPart,
} from './parts';

/** A whole project: its parts by kind and id. Kinds and places are those of the table of parts. */
export interface ProjectDocument {
  schemaVersion: number;
  brief: BriefPart;
  sections: Record<string, SectionPart>;
  candidates: Record<string, CandidatePart>;
  /** Notes on figures. */
  notes: Record<string, NotePart>;
  /** Measured polars. */
  measurements: Record<string, MeasurementPart>;
  /** Pictures under the drawing. */
  pictures: Record<string, PicturePart>;
  /** Flights to be flown. */
  scenarios: Record<string, ScenarioPart>;
  /** What was recorded in flights. */
  flightRecords: Record<string, FlightRecordPart>;
  /** Family studies. */
  studies: Record<string, StudyPart>;
  /** Reports, block by block. */
  reports: Record<string, ReportPart>;
  /** Files that go with the project: pictures of reports among them. */
  attachments: Record<string, AttachmentPart>;
  /** Texts of the sections that were read from files; left out where a document is only shown. */
  originals?: Record<string, OriginalPart>;
}

type Whole = Record<string, unknown> & { id: string };
type Fields = Record<string, unknown>;

/** The schema of a value with all that belongs to it, by kind. */
const WHOLE = { candidate: candidatePart } as const;

/** Kinds that own lists. */
const owners = KIND_NAMES.filter((name) => kindsIn(name).length > 0);
const listsOf = new Map(owners.map((name) => [name, kindsIn(name)]));

/** True where a value was given with the lists that belong to it. */
export const isWhole = (kind: PartKindName, value: unknown): boolean =>
  Boolean(listsOf.get(kind)?.some(([, k]) => value !== null && typeof value === 'object' && k.place.field in value));

/** A value without the lists that belong to it, with their order. */
function headOf(kind: PartKindName, whole: Fields): Fields {
  const lists = listsOf.get(kind);
  if (!lists) return whole;
  const head: Fields = {};
  const order: Record<string, string[]> = {};
  for (const [key, value] of Object.entries(whole)) {
    const list = lists.find(([, k]) => k.place.field === key);
    if (list) order[key] = (value as Whole[]).map((v) => v.id);
    else head[key] = value;
  }
  return { ...head, order };
}

/**
 * Takes a value apart into its parts.
 * @param whole the value with its lists. @returns keys and values, the owner first.
 */
export function partsOfWhole(kind: PartKindName, id: string, whole: unknown): [string, PartValue][] {
  const fields = whole as Fields;
  const parts: [string, PartValue][] = [[keyOf(kind, id), headOf(kind, fields) as PartValue]];
  for (const [name, { place }] of listsOf.get(kind) ?? [])
    for (const value of (fields[place.field] ?? []) as Whole[])
      parts.push([keyOf(name, value.id, id), value as PartValue]);
  return parts;
}

/** Checks a value that was given with its lists. @throws InvalidInput with the path of the field. */
export function parseWhole(kind: PartKindName, key: string, value: unknown): unknown {
  const schema = WHOLE[kind as keyof typeof WHOLE];
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw invalidFrom(parsed.error, key);
  return parsed.data;
}

let names: Intl.Collator | undefined;
/** The order of names, with numbers in them by their value. The comparison is made when it is first wanted: that takes as long as all else of this file. */
export const byName = (a: string, b: string): number =>
  (names ??= new Intl.Collator('en', { numeric: true })).compare(a, b);

/** Values in the order that their owner's stored value gives; what it does not name follows by id. */
function ordered(values: Whole[], order: readonly string[] = []): Whole[] {
  const at = new Map(order.map((id, i) => [id, i]));
  const rank = (v: Whole) => at.get(v.id) ?? order.length;
  return values.sort((a, b) => rank(a) - rank(b) || byName(a.id, b.id));
}

/** An empty record without the names that every object has. */
const emptyRecord = () => Object.create(null) as Record<string, never>;

/**
 * The document made of parts.
 * @throws InvalidInput `no-brief` where it has none.
 */
export function documentFromParts(parts: Iterable<readonly [string, PartValue]>): ProjectDocument {
  const document: Fields = { schemaVersion: SCHEMA_VERSION };
  for (const name of KIND_NAMES) {
    const { place } = kindOf(name);
    if (place.at === 'record') document[place.field] = emptyRecord();
  }
  const lists = new Map<string, Map<string, Whole[]>>();
  for (const [key, value] of parts) {
    const { kind, id, owner } = readKey(key);
    const { place } = kindOf(kind);
    if (place.at === 'single') document[place.field] = value;
    else if (place.at === 'record') (document[place.field] as Fields)[id!] = value;
    else if (place.at === 'beside') ((document[place.field] ??= emptyRecord()) as Fields)[id!] = value;
    else {
      const own = lists.get(keyOf(place.owner as PartKindName, owner)) ?? new Map<string, Whole[]>();
      lists.set(keyOf(place.owner as PartKindName, owner), own);
      own.set(place.field, [...(own.get(place.field) ?? []), value as unknown as Whole]);
    }
  }
  for (const name of owners) {
    const record = document[(kindOf(name).place as { field: string }).field] as Record<string, Fields>;
    for (const [id, stored] of Object.entries(record)) {
      const { order, ...head } = stored as { order?: Record<string, string[]> };
      const own = lists.get(keyOf(name, id));
      for (const [, { place }] of listsOf.get(name)!)
        (head as Fields)[place.field] = ordered(own?.get(place.field) ?? [], order?.[place.field]);
      record[id] = head;
    }
  }
  if (!document.brief) throw new InvalidInput('no-brief', 'The project has no brief.');
  return document as unknown as ProjectDocument;
}

/** The parts of a document by key. */
export function partsOfDocument(document: ProjectDocument): Map<string, PartValue> {
  const parts = new Map<string, PartValue>();
  for (const name of KIND_NAMES) {
    const { place } = kindOf(name);
    const value = (document as unknown as Fields)[place.field];
    if (place.at === 'single') parts.set(name, value as PartValue);
    else if (place.at === 'record' || place.at === 'beside')
      for (const [id, v] of Object.entries(value ?? {}))
        for (const [key, part] of partsOfWhole(name, id, v)) parts.set(key, part);
  }
  return parts;
}

/**
 * Reads a whole document of this version or an older one.
 * @param raw parsed JSON. @throws InvalidInput `document`, `document-newer`, or `invalid` with the path of the field.
 */
export function readDocument(raw: unknown): ProjectDocument {
  const refuse = (message: string, code = 'document'): never => {
    throw new InvalidInput(code, message, 'Give a document as the export of a project makes it.', 'document');
  };
  if (raw === null || typeof raw !== 'object' || Array.isArray(raw)) return refuse('The document is no object.');
  const fields = raw as Fields;
  const version = fields.schemaVersion;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return refuse('The document does not say its schemaVersion.');
  if (version > SCHEMA_VERSION)
    return refuse(
      `The document was written by a newer Veldtwind (version ${version}, this one knows ${SCHEMA_VERSION}).`,
      'document-newer',
    );
  const parts = new Map<string, PartValue>();
  const take = (key: string, value: unknown) => {
    const { kind } = readKey(key);
    const read = readStored(key, Math.min(version, kindOf(kind).version), value);
    if (!read.ok) return refuse(read.message, 'invalid');
    parts.set(key, read.value);
  };
  for (const name of KIND_NAMES) {
    const { place } = kindOf(name);
    if (place.at === 'list') continue;
    const value = fields[place.field];
    if (place.at === 'single') {
      take(name, value);
      continue;
    }
    if (value === undefined) continue;
    if (value === null || typeof value !== 'object') return refuse(`${place.field} is no object.`);
    for (const [id, v] of Object.entries(value)) {
      const key = keyOf(name, id);
      readKey(key);
      const whole = listsOf.has(name) ? parseWhole(name, key, v) : v;
      for (const [k, part] of partsOfWhole(name, id, whole)) take(k, part);
    }
  }
  return documentFromParts(parts);
}

export { headOf, listsOf };
