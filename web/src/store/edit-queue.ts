import { del, get, set } from 'idb-keyval';
import type { PartChange } from '@veldtwind/core/project';

/** An edit that was made here and that the server has not answered yet. */
export interface PendingEdit {
  editId: string;
  label: string;
  changes: PartChange[];
}

const place = (project: string) => `veldtwind-pending-${project}`;

/** Where edits wait that are too large for the small storage. */
export interface LargeStorage {
  get(key: string): Promise<unknown>;
  set(key: string, value: unknown): Promise<void>;
  remove(key: string): Promise<void>;
}
const inBrowser: LargeStorage = {
  get: (key) => get(key),
  set: (key, value) => set(key, value),
  remove: (key) => del(key),
};
/** Stands in the small storage for edits that wait in the large one. */
const ELSEWHERE = '"elsewhere"';

const sound = (list: unknown): PendingEdit[] =>
  Array.isArray(list)
    ? (list as PendingEdit[]).filter((e) => e && typeof e.editId === 'string' && Array.isArray(e.changes))
    : [];

/** Edits wait in the browser's storage, so that a reload or a crash of the server loses none. */
export async function loadPending(
  project: string,
  storage: Storage = localStorage,
  large: LargeStorage = inBrowser,
): Promise<PendingEdit[]> {
  try {
    const text = storage.getItem(place(project)) ?? '[]';
    return sound(text === ELSEWHERE ? await large.get(place(project)) : JSON.parse(text));
  } catch {
    return [];
  }
}

/** Keeps the edits that wait; those of a thousand files go to the large storage, because the small one cannot take them. */
export function savePending(
  project: string,
  edits: readonly PendingEdit[],
  storage: Storage = localStorage,
  large: LargeStorage = inBrowser,
): Promise<void> {
  const key = place(project);
  if (edits.length === 0) {
    const was = storage.getItem(key) === ELSEWHERE;
    storage.removeItem(key);
    return was ? large.remove(key).catch(() => undefined) : Promise.resolve();
  }
  try {
    storage.setItem(key, JSON.stringify(edits));
    return Promise.resolve();
  } catch {
    storage.setItem(key, ELSEWHERE);
    return large.set(key, JSON.parse(JSON.stringify(edits))).catch(() => undefined);
  }
}

/** Parts of an edit that somebody else changed in the meantime: those that differ between what it was made on and what is there now. */
export function collisions(
  edit: PendingEdit,
  before: ReadonlyMap<string, unknown>,
  now: ReadonlyMap<string, unknown>,
): string[] {
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
  return edit.changes
    .filter((c) => !same(before.get(c.part), now.get(c.part)) && !same(now.get(c.part), c.value ?? undefined))
    .map((c) => c.part);
}
