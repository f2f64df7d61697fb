import { computed } from 'vue';
import { MODEL_METHODS, type ModelMethod } from '@veldtwind/core/candidate';
import { METHOD_FACTS } from '@veldtwind/core/quantities';
import type { Assumptions, ChosenMethod } from '@veldtwind/core/project';
import { useProject } from './project';

/** The methods that a project may mean, as they are chosen. */
export const METHOD_CHOICES: readonly { id: ChosenMethod; name: string; says: string }[] = [
  { id: 'best', name: 'Best available', says: 'The lattice with section polars as soon as they are computed' },
  { id: 'polars', name: 'Lattice with section polars', says: 'Viscous: profile drag and stall from the sections' },
  { id: 'lattice', name: 'Vortex lattice', says: 'Inviscid: no stall, profile drag from the build-up' },
  {
    id: 'panels',
    name: 'Surface panels',
    says: 'Inviscid, with thickness, for lift and balance; motion stays with the lattice',
  },
];
/** How a number was made, in words. */
export const METHOD_NAMES = Object.fromEntries(MODEL_METHODS.map((m) => [m, METHOD_FACTS[m].name])) as Record<
  ModelMethod,
  string
>;

/** What the project assumes, and how it is changed: an edit with undo, as everything in the document. */
export function useAssumptions() {
  const project = useProject();
  const assumed = computed<Assumptions>(() => project.document.brief.assumptions);
  const assume = (label: string, more: Partial<Assumptions>) =>
    project.edit(label, (draft) => void Object.assign(draft.brief.assumptions, more));
  return { assumed, assume };
}
