import type { PartChange } from '@veldtwind/core/project';

/** An edit that was made here and that the server has not answered yet. */
export interface PendingEdit {
  editId: string;
  label: string;
  changes: PartChange[];
}

const place = (project: string) => `veldtwind-pending-${project}`;

/** Edits wait in the browser's storage, so that a reload or a crash of the server loses none. */
export function loadPending(project: string, storage: Storage = localStorage): PendingEdit[] {
  try {
    const list: unknown = JSON.parse(storage.getItem(place(project)) ?? '[]');
    return Array.isArray(list)
      ? (list as PendingEdit[]).filter((e) => e && typeof e.editId === 'string' && Array.isArray(e.changes))
      : [];
  } catch {
    return [];
  }
}

export function savePending(project: string, edits: readonly PendingEdit[], storage: Storage = localStorage): void {
  if (edits.length === 0) storage.removeItem(place(project));
  else storage.setItem(place(project), JSON.stringify(edits));
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
