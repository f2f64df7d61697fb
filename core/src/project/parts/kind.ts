import type { z } from 'zod';

/** Where a kind of part stands in the document. */
export type PartPlace =
  /** The only one of its kind: `document[field]`. */
  | { at: 'single'; field: string }
  /** By id: `document[field][id]`. */
  | { at: 'record'; field: string }
  /** In a list of another part: `document[owner's field][owner's id][field]`, in the order that the owner's stored value gives. */
  | { at: 'list'; owner: string; field: string }
  /** Stored beside the document, fetched when it is needed. */
  | { at: 'beside'; field: string };

/** What a part refers to: another part's key, and the field that names it. */
export interface PartReference {
  key: string;
  path: string;
}

/**
 * A kind of part. Document, edits, checks of references, the server's tables and its messages follow from the table of kinds, so that a new kind is
 * an entry and nothing else.
 */
export interface PartKind<V = unknown> {
  /** The schema of a stored value. */
  schema: z.ZodType<V>;
  /** The version at which the schema last changed; stored with every value. */
  version: number;
  /**
   * By version: brings a value from below it up to it. A migration that has been released is never changed.
   * Values come from storage and may be anything that an older schema took.
   */
  migrations: Readonly<Record<number, (value: Record<string, unknown>) => Record<string, unknown>>>;
  place: PartPlace;
  /** What it is called in messages; `owner` is the value of the part it belongs to. */
  label(value: V, owner?: unknown): string;
  /** Parts that must be there as long as this one is. */
  references(value: V): PartReference[];
  /** What must be done before a part can go that others use. */
  freeing?: string;
}

/** Fixes the value's type of a kind from its schema. */
export const partKind = <V>(kind: PartKind<V>): PartKind<V> => kind;
