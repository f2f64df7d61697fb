/**
 * Whether two inputs of an analysis are the same, value by value. Parts of a document are never changed in place, so that what is shared between both is not
 * looked into: next to nothing of two inputs that differ by one number. Fields that are undefined count as not there.
 */
export function sameInput(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b)) {
    if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!sameInput(a[i], b[i])) return false;
    return true;
  }
  // Bytes and the like are told apart by what they are.
  const [p, q] = [Object.getPrototypeOf(a), Object.getPrototypeOf(b)] as unknown[];
  if ((p !== Object.prototype && p !== null) || (q !== Object.prototype && q !== null)) return false;
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  for (const key in x) if (x[key] !== undefined && !sameInput(x[key], own(y, key))) return false;
  for (const key in y) if (y[key] !== undefined && own(x, key) === undefined) return false;
  return true;
}

/** A name such as "toString" is not a field because every object inherits it. */
const own = (of: Record<string, unknown>, key: string): unknown => (Object.hasOwn(of, key) ? of[key] : undefined);
