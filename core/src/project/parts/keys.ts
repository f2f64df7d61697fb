import { z } from 'zod';
import { InvalidInput } from '../../numerics';
import { KIND_NAMES, kindOf, type PartKindName } from './table';

/** A part's key taken apart. */
export interface PartKey {
  kind: PartKindName;
  /** Id of the part it belongs to, where it belongs to one. */
  owner?: string;
  /** Its own id; absent where there is one of its kind only. */
  id?: string;
}

const ID = '[a-z0-9][a-z0-9-]{0,63}';
const alternatives = (at: (name: PartKindName) => boolean) => KIND_NAMES.filter(at).join('|');
const at = (name: PartKindName) => kindOf(name).place.at;
const pattern = new RegExp(
  `^(?:(${alternatives((n) => at(n) === 'single')})` +
    `|(${alternatives((n) => at(n) === 'record' || at(n) === 'beside')}):(${ID})` +
    `|(${alternatives((n) => at(n) === 'list')}):(${ID})\\.(${ID}))$`,
);

/** A part's key: `brief`, `section:ID`, or `surface:CANDIDATE.ID` for what stands in a list of another part. */
export const partKey = z
  .string()
  .regex(pattern, 'is not the key of a part')
  .refine((key) => !/[:.]constructor(\.|$)/.test(key), 'has an id that is taken');

/** Takes a key apart. @throws InvalidInput `part-kind` for a key of no kind. */
export function readKey(key: string): PartKey {
  const match = pattern.exec(key);
  if (!match) throw new InvalidInput('part-kind', `There is no part with a key like “${key.slice(0, 80)}”.`);
  if (match[1]) return { kind: match[1] as PartKindName };
  if (match[2]) return { kind: match[2] as PartKindName, id: match[3] };
  return { kind: match[4] as PartKindName, owner: match[5], id: match[6] };
}

/** Puts a key together. */
export const keyOf = (kind: PartKindName, id?: string, owner?: string): string =>
  id === undefined ? kind : owner === undefined ? `${kind}:${id}` : `${kind}:${owner}.${id}`;
