/** What two people made of the same value: put together, or where both changed the same. */
export interface Merged<T> {
  value: T;
  /** Dotted paths that both changed, to different values; the value has the first one's there. */
  both: string[];
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
const isRecord = (v: unknown): v is Record<string, unknown> => v !== null && typeof v === 'object' && !Array.isArray(v);

/**
 * Merges two changes of a value field by field. Lists of the same length are merged place by place; one that grew or shrank is one field.
 * @param before what both started from. @param mine what this one made of it. @param theirs what the other made of it.
 */
export function mergeValues<T>(before: T, mine: T, theirs: T): Merged<T> {
  const both: string[] = [];
  const merge = (b: unknown, m: unknown, t: unknown, path: string): unknown => {
    if (same(m, t) || same(b, t)) return m;
    if (same(b, m)) return t;
    if (isRecord(b) && isRecord(m) && isRecord(t)) {
      const out: Record<string, unknown> = {};
      for (const key of new Set([...Object.keys(m), ...Object.keys(t)])) {
        const value = merge(b[key], m[key], t[key], path ? `${path}.${key}` : key);
        if (value !== undefined) out[key] = value;
      }
      return out;
    }
    if (Array.isArray(b) && Array.isArray(m) && Array.isArray(t) && b.length === m.length && b.length === t.length)
      return m.map((v, i) => merge(b[i], v, t[i], path ? `${path}.${i}` : String(i)));
    both.push(path);
    return m;
  };
  const value = merge(before, mine, theirs, '') as T;
  return { value, both };
}
