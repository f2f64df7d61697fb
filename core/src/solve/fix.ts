import type { Fix } from '../findings';
import type { Edit } from '../project';
import type { IncidenceSolution } from './tail-incidence';

/** A finding mended: an edit that anyone can apply, and what it leads to. */
export interface SolvedFix {
  /** The name of the step of undo. */
  label: string;
  edit: Edit;
  solution: IncidenceSolution;
}

const shown = (v: number, digits: number) => v.toFixed(digits).replace('-', '−');
/** Digits that an angle is set with: finer ones say nothing. */
const SET_DIGITS = 3;

/** The edit that a solution comes to. */
export function fixFrom(candidateId: string, fix: Fix, solution: IncidenceSolution): SolvedFix {
  const to = Number(solution.toDeg.toFixed(SET_DIGITS));
  return {
    label: `Tail incidence ${shown(to, 2)}° for trim at ${shown(fix.targetDeg, 1)}°`,
    solution,
    edit: (draft) => {
      const surface = draft.candidates[candidateId]?.surfaces.find((s) => s.id === fix.surfaceId);
      if (surface) surface.incidenceDeg = to;
    },
  };
}
