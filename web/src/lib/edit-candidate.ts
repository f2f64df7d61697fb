import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { CandidatePart, Surface } from './types';

/** Edits of the active candidate: `show` while a value moves, `save` once it rests. A changed copy is made each time. */
export function useCandidateEdit() {
  const project = useProject();
  const workbench = useWorkbench();
  const changed = (change: (c: CandidatePart) => void): CandidatePart | null => {
    const c = workbench.active;
    if (!c) return null;
    const copy = JSON.parse(JSON.stringify(c)) as CandidatePart;
    change(copy);
    return copy;
  };
  const show = (change: (c: CandidatePart) => void): void => {
    const c = changed(change);
    if (c) project.show([project.putCandidate(c)]);
  };
  const save = (label: string, change: (c: CandidatePart) => void): void => {
    const c = changed(change);
    if (c) project.edit(`${label} (${c.letter})`, [project.putCandidate(c)]);
  };
  const surfaceIn = (c: CandidatePart, id: string): Surface => c.surfaces.find((s) => s.id === id)!;
  return { show, save, surfaceIn };
}
