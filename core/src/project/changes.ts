import { Immer, type Draft } from 'immer';
import { InvalidInput } from '../numerics';
import { headOf, isWhole, listsOf, parseWhole, partsOfWhole, type ProjectDocument } from './document';
import {
  keyOf,
  KIND_NAMES,
  kindOf,
  parsePart,
  readKey,
  type CandidatePart,
  type PartKindName,
  type PartValue,
} from './parts';

/** One part set to a value, or removed. A candidate may be given with all that belongs to it. */
export interface PartChange {
  part: string;
  value: PartValue | CandidatePart | null;
}

type Fields = Record<string, unknown>;

/**
 * The changes that an edit asks for, checked: a value given with its lists is taken apart, and what belongs to a part goes with it.
 * @param existing keys of the parts of a kind that belong to an owner, as they are stored now.
 * @throws InvalidInput `part-twice`, or what the checks of the values say.
 */
export function parseChanges(
  changes: readonly { part: string; value?: unknown }[],
  existing: (kind: PartKindName, owner: string) => readonly string[],
): PartChange[] {
  const out = new Map<string, PartValue | null>();
  const given = new Set<string>();
  for (const { part, value } of changes) {
    if (given.has(part))
      throw new InvalidInput('part-twice', `The edit changes ${part} twice.`, 'Give every part once.', part);
    given.add(part);
    const { kind, id } = readKey(part);
    const lists = listsOf.get(kind);
    if (value == null) {
      out.set(part, null);
      for (const [name] of lists ?? []) for (const own of existing(name, id!)) if (!given.has(own)) out.set(own, null);
    } else if (lists && isWhole(kind, value)) {
      for (const [name] of lists) for (const own of existing(name, id!)) if (!given.has(own)) out.set(own, null);
      for (const [key, v] of partsOfWhole(kind, id!, parseWhole(kind, part, value))) out.set(key, parsePart(key, v));
    } else out.set(part, parsePart(part, value));
  }
  return [...out].map(([part, value]) => ({ part, value }));
}

/** The document after some changes; the one given stays as it is, and what did not change is shared. Parts beside the document are left out. */
export function applyChanges(document: ProjectDocument, changes: readonly PartChange[]): ProjectDocument {
  const next = { ...document } as unknown as Fields;
  const fresh = new Set<string>();
  const record = (field: string): Record<string, Fields> => {
    if (!fresh.has(field)) {
      next[field] = Object.assign(Object.create(null), next[field]);
      fresh.add(field);
    }
    return next[field] as Record<string, Fields>;
  };
  /** Owners whose lists changed, put in order at the end. */
  const touched = new Map<string, { field: string; id: string; order?: Record<string, string[]> }>();
  for (const { part, value } of changes) {
    const { kind, id, owner } = readKey(part);
    const { place } = kindOf(kind);
    if (place.at === 'beside') continue;
    if (place.at === 'single') {
      if (value === null) throw new InvalidInput('no-brief', 'The project has no brief.');
      next[place.field] = value;
    } else if (place.at === 'record') {
      const all = record(place.field);
      if (value === null) delete all[id!];
      else if (!listsOf.has(kind)) all[id!] = value as unknown as Fields;
      else if (isWhole(kind, value)) {
        const { order: _order, ...whole } = value as unknown as Fields;
        all[id!] = whole;
      } else {
        const { order, ...head } = value as unknown as Fields;
        const before = all[id!];
        const lists = Object.fromEntries(
          listsOf.get(kind)!.map(([, k]) => [k.place.field, (before?.[k.place.field] as unknown[]) ?? []]),
        );
        all[id!] = { ...head, ...lists };
        touched.set(part, { field: place.field, id: id!, order: order as Record<string, string[]> });
      }
    } else {
      const ownerKind = place.owner as PartKindName;
      const field = (kindOf(ownerKind).place as { field: string }).field;
      const all = record(field);
      const whole = all[owner!];
      if (!whole) {
        // What belongs to something that the same edit brings later is taken up there.
        if (value !== null && changes.some((c) => c.part === keyOf(ownerKind, owner)))
          all[owner!] = { [place.field]: [value] };
        continue;
      }
      const list = ((whole[place.field] as { id: string }[]) ?? []).slice();
      const at = list.findIndex((v) => v.id === id);
      if (value === null) {
        if (at >= 0) list.splice(at, 1);
      } else if (at >= 0) list[at] = value as never;
      else list.push(value as never);
      all[owner!] = { ...whole, [place.field]: list };
    }
  }
  for (const { field, id, order } of touched.values()) {
    const all = record(field);
    if (!all[id] || !order) continue;
    const whole = { ...all[id] };
    for (const [name, ids] of Object.entries(order)) {
      const at = new Map(ids.map((v, i) => [v, i]));
      const list = (whole[name] as { id: string }[]) ?? [];
      whole[name] = list
        .map((v, i) => ({ v, rank: at.get(v.id) ?? ids.length + i }))
        .sort((a, b) => a.rank - b.rank)
        .map(({ v }) => v);
    }
    all[id] = whole;
  }
  return next as unknown as ProjectDocument;
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The changes of parts that lead from one document to another. What both share is not looked into. */
export function changesBetween(before: ProjectDocument, after: ProjectDocument): PartChange[] {
  const changes: PartChange[] = [];
  const put = (part: string, value: unknown) => changes.push({ part, value: value as PartValue | null });
  for (const name of KIND_NAMES) {
    const { place } = kindOf(name);
    if (place.at === 'list') continue;
    const [a, b] = [before, after].map((d) => (d as unknown as Fields)[place.field]);
    if (a === b) continue;
    if (place.at === 'single') {
      if (!same(a, b)) put(name, b);
      continue;
    }
    const [was, is] = [(a ?? {}) as Record<string, Fields>, (b ?? {}) as Record<string, Fields>];
    for (const id of Object.keys(was)) {
      if (Object.hasOwn(is, id)) continue;
      for (const [key] of partsOfWhole(name, id, was[id])) put(key, null);
    }
    for (const [id, value] of Object.entries(is)) {
      const old = Object.hasOwn(was, id) ? was[id] : undefined;
      if (old === value) continue;
      const lists = listsOf.get(name);
      if (!lists || !old) {
        if (lists || !same(old, value)) for (const [key, part] of partsOfWhole(name, id, value)) put(key, part);
        continue;
      }
      if (!same(headOf(name, old), headOf(name, value))) put(keyOf(name, id), headOf(name, value));
      for (const [child, { place: at }] of lists) {
        const [from, to] = [old, value].map((v) => v[at.field] as { id: string }[]);
        if (from === to) continue;
        const known = new Map(from.map((v) => [v.id, v]));
        for (const v of to) if (!same(known.get(v.id), v)) put(keyOf(child, v.id, id), v);
        const left = new Set(to.map((v) => v.id));
        for (const v of from) if (!left.has(v.id)) put(keyOf(child, v.id, id), null);
      }
    }
  }
  return changes;
}

// Large libraries are shared between versions of a document: they are not walked to be frozen.
const immer = new Immer({ autoFreeze: false });

/** A change of the document, written as if it were changed in place. */
export type Edit = (draft: Draft<ProjectDocument>) => void;

/**
 * Makes an edit on a document.
 * @returns the document after it, and the changes of parts that it comes to.
 */
export function editDocument(
  document: ProjectDocument,
  edit: Edit,
): { document: ProjectDocument; changes: PartChange[] } {
  const after = immer.produce(document, (draft) => void edit(draft as Draft<ProjectDocument>)) as ProjectDocument;
  const changes = changesBetween(document, after).map(({ part, value }) => ({
    part,
    // Plain values only: they are stored and sent to workers.
    value: value === null ? null : (JSON.parse(JSON.stringify(value)) as PartValue),
  }));
  return { document: applyChanges(document, changes), changes };
}
