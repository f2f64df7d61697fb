/** A place in the document: names of fields, places in lists, or the one of a list that has an id. */
export type DocumentPath = readonly (string | number | { id: string })[];

const step = (value: unknown, key: DocumentPath[number]): unknown => {
  if (value === null || typeof value !== 'object') return undefined;
  if (typeof key !== 'object') return (value as Record<string | number, unknown>)[key];
  return Array.isArray(value) ? (value as { id: string }[]).find((v) => v.id === key.id) : undefined;
};

/** What stands at a place, or undefined where there is nothing by now. */
export const readPath = (value: unknown, path: DocumentPath): unknown => path.reduce(step, value);

/** Sets what stands at a place. @returns whether the place was there. */
export function writePath(value: unknown, path: DocumentPath, next: unknown): boolean {
  const last = path[path.length - 1];
  const holder = readPath(value, path.slice(0, -1));
  if (holder === null || typeof holder !== 'object' || typeof last === 'object') return false;
  (holder as Record<string | number, unknown>)[last] = next;
  return true;
}
