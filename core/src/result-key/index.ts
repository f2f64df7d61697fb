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

/**
 * The key of a result: a 128-bit hash of its kind, the method's version and exactly the inputs that it used.
 * @source FNV-1a, IETF draft-eastlake-fnv, as two 64-bit lanes with different offsets; not for secrecy.
 */
export function resultKey(kind: string, methodVersion: number, input: unknown): string {
  const text = `${kind}/${methodVersion}/${canonicalJson(input)}`;
  const prime = 0x100000001b3n;
  const mask = 0xffffffffffffffffn;
  let a = 0xcbf29ce484222325n;
  let b = 0x84222325cbf29ce4n;
  for (let i = 0; i < text.length; i++) {
    const code = BigInt(text.charCodeAt(i));
    a = ((a ^ code) * prime) & mask;
    b = ((b ^ (code + 0x9en)) * prime) & mask;
  }
  return a.toString(16).padStart(16, '0') + b.toString(16).padStart(16, '0');
}
