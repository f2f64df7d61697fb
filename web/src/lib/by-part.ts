/**
 * What is made from a part of the document, kept as long as that part is the same: parts are never changed in place, so that only what was edited is
 * made again. @param under what else it depends on, by identity; another one forgets all. @param kind tells several things made from one part apart.
 */
export function keptByPart<P extends object, T>() {
  let base: unknown;
  let known = new WeakMap<P, Map<string, T>>();
  return (under: unknown, part: P, kind: string, make: () => T): T => {
    if (under !== base) {
      base = under;
      known = new WeakMap();
    }
    let own = known.get(part);
    if (!own) known.set(part, (own = new Map()));
    if (!own.has(kind)) own.set(kind, make());
    return own.get(kind)!;
  };
}
