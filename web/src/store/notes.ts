import { computed, type ComputedRef } from 'vue';
import { newId } from '@/lib/ids';
import type { ChartNote } from '@/lib/chart-model';
import { usePreferences } from './preferences';
import { useProject } from './project';

/** A note as it was kept before notes belonged to projects. */
interface OldNote {
  x: number;
  y: number;
  text: string;
}

/** The notes of the open project on a figure, over the two quantities on its axes. */
export function useNotes(
  figure: () => string,
  axes: () => { x: string; y: string },
): {
  notes: ComputedRef<ChartNote[]>;
  add: (at: { x: number; y: number }, text: string) => void;
  remove: (id: string) => void;
} {
  const project = useProject();
  const preferences = usePreferences();
  const notes = computed(() =>
    Object.values(project.document.notes).filter((n) => {
      const { x, y } = axes();
      return n.figure === figure() && n.xQuantity === x && n.yQuantity === y;
    }),
  );
  function add(at: { x: number; y: number }, text: string): void {
    const { x, y } = axes();
    const id = newId().slice(0, 8);
    const note = { id, figure: figure(), xQuantity: x, yQuantity: y, ...at, text: text.slice(0, 80) };
    project.edit('Place a note', (draft) => void (draft.notes[id] = note));
  }
  const remove = (id: string) => project.edit('Remove a note', (draft) => delete draft.notes[id]);

  // Notes of before: they were kept with the interface, and go to the project in which they are first seen again.
  const oldKey = `notes-${figure()}`;
  const old = preferences.get<OldNote[]>(oldKey, []);
  if (project.id && Array.isArray(old) && old.length > 0) {
    preferences.set(oldKey, []);
    for (const n of old) add({ x: n.x, y: n.y }, n.text);
  }
  return { notes, add, remove };
}
