import { blake3 } from '@noble/hashes/blake3.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** A value as JSON with keys in order, so that equal inputs give equal text. @throws RangeError for numbers that are not finite. */
export function canonicalJson(value: unknown): string {
  if (typeof value === 'number') {
    if (!Number.isFinite(value)) throw new RangeError('A result cannot be keyed by a number that is not finite.');
    return JSON.stringify(Object.is(value, -0) ? 0 : value);
  }
  if (Array.isArray(value)) return `[${value.map((v) => canonicalJson(v === undefined ? null : v)).join(',')}]`;
  if (value && typeof value === 'object') {
    const entries = Object.entries(value).filter(([, v]) => v !== undefined);
    entries.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
    return `{${entries.map(([k, v]) => `${JSON.stringify(k)}:${canonicalJson(v)}`).join(',')}}`;
  }
  return JSON.stringify(value) ?? 'null';
}

/** The key of a result, 32 hexadecimal digits: a hash of its kind, the method's version and exactly the inputs that it used. */
export function resultKey(kind: string, version: number, input: unknown): string {
  return bytesToHex(blake3(utf8ToBytes(`${kind}/${version}/${canonicalJson(input)}`), { dkLen: 16 }));
}
