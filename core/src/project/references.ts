import { InvalidInput } from '../numerics';
import { DEEPEST_MIX } from '../shaping';
import { applyChanges, type PartChange } from './changes';
import { partsOfDocument, type ProjectDocument } from './document';
import { keyOf, kindOf, readKey, type PartKindName, type PartReference } from './parts';

/** What the check of references needs to know of a project as it is after a change. */
export interface PartIndex {
  has(key: string): boolean;
  value(key: string): unknown;
  /** Keys of the parts that refer to one. */
  usersOf(key: string): readonly string[];
}

/** What a part refers to, its owner included. */
export function referencesOf(key: string, value: unknown): PartReference[] {
  const { kind, owner } = readKey(key);
  const { place, references } = kindOf(kind);
  const up = place.at === 'list' ? [{ key: keyOf(place.owner as PartKindName, owner), path: '' }] : [];
  return [...up, ...references(value as never)];
}

/** What a part is called in messages. */
export function labelOf(index: Pick<PartIndex, 'value'>, key: string): string {
  const { kind, owner } = readKey(key);
  const { place, label } = kindOf(kind);
  const value = index.value(key);
  if (value === undefined) return key;
  return label(
    value as never,
    place.at === 'list' ? index.value(keyOf(place.owner as PartKindName, owner)) : undefined,
  );
}

/** The index of a whole document. */
export function indexOf(document: ProjectDocument): PartIndex {
  const parts = partsOfDocument(document);
  const users = new Map<string, string[]>();
  for (const [key, value] of parts)
    for (const r of referencesOf(key, value)) users.set(r.key, [...(users.get(r.key) ?? []), key]);
  return {
    has: (key) => parts.has(key),
    value: (key) => parts.get(key),
    usersOf: (key) => users.get(key) ?? [],
  };
}

/** Parts may be made from parts so many times over, and from so many in all, each counted as often as it is used. */
export const DEEPEST_CHAIN = DEEPEST_MIX;
export const WIDEST_CHAIN = 256;

/**
 * Refuses changes that leave the project broken: a part that something else still uses taken away, a reference to nothing, a circle, or a chain of
 * parts made from each other that is too long. Every part is walked once.
 * @param after the project as it would be. @param touched keys of the parts that were changed.
 * @throws InvalidInput `KIND-in-use`, `KIND-missing`, `KIND-circle`, `KIND-depth`, or `no-brief`.
 */
export function checkReferences(after: PartIndex, touched: readonly string[]): void {
  if (!after.has('brief')) throw new InvalidInput('no-brief', 'The project has no brief.');
  const gone = new Map<string, Set<string>>();
  for (const key of touched) {
    if (!after.has(key)) {
      for (const user of after.usersOf(key)) gone.set(key, (gone.get(key) ?? new Set()).add(user));
      continue;
    }
    for (const r of referencesOf(key, after.value(key))) {
      if (after.has(r.key)) continue;
      const { kind, id } = readKeySafely(r.key);
      throw new InvalidInput(
        `${kind}-missing`,
        `${capital(labelOf(after, key))} uses a ${kind} that is not in the project (${id}).`,
        `Choose one that is there.`,
        r.path,
      );
    }
    checkChain(after, key);
  }
  if (gone.size === 0) return;
  const users = new Set([...gone.values()].flatMap((s) => [...s].map((user) => labelOf(after, user))));
  const [first] = gone.keys();
  const { kind } = readKey(first);
  throw new InvalidInput(
    `${kind}-in-use`,
    `${gone.size === 1 ? `This ${kind} is` : 'Some of these parts are'} used by ${[...users].slice(0, 8).join(', ')}.`,
    kindOf(kind).freeing,
    first,
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The kind and id of a key; a key of no part is told as it stands. */
function readKeySafely(key: string): { kind: string; id: string } {
  const at = key.indexOf(':');
  return at < 0 ? { kind: 'part', id: key } : { kind: key.slice(0, at), id: key.slice(at + 1) };
}

/** How deep a part is made from parts of its own kind, and how many there are in all. */
interface Chain {
  depth: number;
  size: number;
}

/** Walks what a part is made from, and what is made from it, each part once. */
function checkChain(after: PartIndex, start: string): void {
  const { kind } = readKey(start);
  const own = (key: string) =>
    referencesOf(key, after.value(key))
      .map((r) => r.key)
      .filter((k) => k.startsWith(`${kind}:`) && after.has(k));
  const known = new Map<string, Chain>();
  const trail: string[] = [];
  const visit = (key: string): Chain => {
    const kept = known.get(key);
    if (kept) return kept;
    if (trail.includes(key)) {
      const way = [...trail.slice(trail.indexOf(key)), key].map((k) => nameOf(after, k)).join(' → ');
      throw new InvalidInput(
        `${kind}-circle`,
        `This mix would come back to itself: ${way}.`,
        `Mix with a ${kind} that is not made from this one.`,
        'source',
      );
    }
    trail.push(key);
    const chain: Chain = { depth: 0, size: 1 };
    for (const next of own(key)) {
      const { depth, size } = visit(next);
      chain.depth = Math.max(chain.depth, depth + 1);
      chain.size += size;
    }
    trail.pop();
    known.set(key, chain);
    if (chain.depth > DEEPEST_CHAIN || chain.size > WIDEST_CHAIN) throw tooDeep(kind, nameOf(after, key));
    return chain;
  };
  visit(start);
  // What is made from this part has become deeper with it.
  const waiting = [start];
  const seen = new Set(waiting);
  for (let key = waiting.pop(); key !== undefined; key = waiting.pop()) {
    visit(key);
    for (const user of after.usersOf(key)) {
      if (!user.startsWith(`${kind}:`) || seen.has(user)) continue;
      seen.add(user);
      waiting.push(user);
    }
  }
}

/** The refusal of a chain that is too long. */
export const tooDeep = (kind: string, name: string) =>
  new InvalidInput(
    `${kind}-depth`,
    `${name} is mixed from mixes more than ${DEEPEST_CHAIN} deep, or from more than ${WIDEST_CHAIN} sections in all.`,
    'Mix from sections that are nearer to their source.',
    'source',
  );

const nameOf = (index: PartIndex, key: string) => (index.value(key) as { name?: string } | undefined)?.name ?? key;

/** Checks changes against a whole document. @returns the document after them. @throws what {@link checkReferences} throws. */
export function checkedChanges(document: ProjectDocument, changes: readonly PartChange[]): ProjectDocument {
  const after = applyChanges(document, changes);
  checkReferences(
    indexOf(after),
    changes.map((c) => c.part),
  );
  return after;
}

/** Surfaces of candidates that use a section. */
export function usesOfSection(
  document: Pick<ProjectDocument, 'candidates'>,
  id: string,
): { candidate: string; letter: string; surface: string }[] {
  return Object.values(document.candidates).flatMap((c) =>
    c.surfaces
      .filter((s) => s.stations.some((t) => t.section === id))
      .map((s) => ({ candidate: c.id, letter: c.letter, surface: s.name })),
  );
}
