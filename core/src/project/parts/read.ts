import type { z } from 'zod';
import { refusalOf } from '../../limits';
import { InvalidInput } from '../../numerics';
import { readKey } from './keys';
import { kindOf, type PartValue } from './table';

/** Turns a Zod error into the house's own, with the path of the first field. */
export function invalidFrom(error: z.ZodError, what: string): InvalidInput {
  return refusalOf(error, what);
}

/**
 * Checks the value of one part.
 * @param key the part's key. @param value what it is set to.
 * @throws InvalidInput `invalid` with the path of the field, or `part-id` when the value's own id differs from the key's.
 */
export function parsePart(key: string, value: unknown): PartValue {
  const { kind, id } = readKey(key);
  const parsed = kindOf(kind).schema.safeParse(value);
  if (!parsed.success) throw invalidFrom(parsed.error, key);
  const own = (parsed.data as { id?: string }).id;
  if (id !== undefined && own !== id) {
    throw new InvalidInput('part-id', `The part ${key} holds the id ${own}.`, 'The two must be the same.', 'id');
  }
  return parsed.data as PartValue;
}

/** A stored part as it is read: its value, or why there is none. What cannot be read is kept in storage as it is. */
export type StoredPart =
  { ok: true; value: PartValue; migrated: boolean } | { ok: false; why: 'newer' | 'damaged'; message: string };

/**
 * Reads a stored part: brings it up from its version, and checks it.
 * @param version as stored with it. @param raw the parsed JSON.
 */
export function readStored(key: string, version: number, raw: unknown): StoredPart {
  const kind = kindOf(readKey(key).kind);
  if (version > kind.version) {
    return {
      ok: false,
      why: 'newer',
      message: `${key} was written by a newer Veldtwind (version ${version}, this one knows ${kind.version}).`,
    };
  }
  let value = raw;
  try {
    for (let v = version + 1; v <= kind.version; v++)
      if (kind.migrations[v]) value = kind.migrations[v](value as Record<string, unknown>);
    return { ok: true, value: parsePart(key, value), migrated: version < kind.version };
  } catch (error) {
    return { ok: false, why: 'damaged', message: (error as Error).message };
  }
}
