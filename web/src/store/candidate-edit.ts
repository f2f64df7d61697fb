import { toast } from 'vue-sonner';
import type { LiftingSurface } from '@veldtwind/core/airframe';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

/** Edits of the candidate that is worked on, made on its newest state; what cannot be is said. */
export function useCandidateEdit() {
  const project = useProject();
  const workbench = useWorkbench();
  const on =
    (id: string, edit: (c: CandidatePart) => void) =>
    (draft: { candidates: Record<string, unknown> }): void => {
      const c = draft.candidates[id] as CandidatePart | undefined;
      if (c) edit(c);
    };
  /** @returns why it could not be made; nothing where it was. */
  function attempt(work: () => void): string {
    try {
      work();
      return '';
    } catch (error) {
      if (error instanceof VeldtwindError) return error.message;
      throw error;
    }
  }
  /** Makes an edit. @returns why it could not be made. */
  function tryChange(label: string, edit: (c: CandidatePart) => void): string {
    const c = workbench.active;
    return c ? attempt(() => project.edit(`${label} (${c.letter})`, on(c.id, edit) as never)) : '';
  }
  function change(label: string, edit: (c: CandidatePart) => void): void {
    const why = tryChange(label, edit);
    if (why) toast.error(`${label}: this cannot be`, { description: why, duration: 8000 });
  }
  const inSurface = (id: string, edit: (s: LiftingSurface) => void) => (c: CandidatePart) => {
    const found = c.surfaces.find((s) => s.id === id);
    if (found) edit(found);
  };
  return {
    change,
    tryChange,
    changeSurface: (label: string, id: string, edit: (s: LiftingSurface) => void) => change(label, inSurface(id, edit)),
    tryChangeSurface: (label: string, id: string, edit: (s: LiftingSurface) => void) =>
      tryChange(label, inSurface(id, edit)),
    /** Shows an edit of a surface without making it. @returns why it cannot be. */
    previewSurface: (id: string, edit: (s: LiftingSurface) => void): string => {
      const c = workbench.active;
      return c ? attempt(() => project.show(on(c.id, inSurface(id, edit)) as never)) : '';
    },
  };
}
