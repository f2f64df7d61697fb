import { defineStore } from 'pinia';
import { shallowRef, watch } from 'vue';
import { toast } from 'vue-sonner';
import { sectionsUsed } from '@veldtwind/core/candidate';
import { fittedName } from '@veldtwind/core/limits';
import { addCandidate, candidatePart, invalidFrom, LONGEST_CANDIDATE_NAME } from '@veldtwind/core/project';
import { withValues, type StudySubject } from '@veldtwind/core/studies';
import { useProject } from './project';
import { useWorkbench } from './workbench';

/** Values of variables by their paths, as a study tried them. */
export interface Trial {
  /** Of whom. */ candidate: string;
  /** What it is called, in undo and as a candidate. */ label: string;
  /** What was changed, in words. */ says: string;
  values: ReadonlyMap<string, number>;
}

/** A try of a study that stands in the figures of every area, and is not yet in the document. */
export const useTrial = defineStore('trial', () => {
  const project = useProject();
  const workbench = useWorkbench();
  const current = shallowRef<Trial | null>(null);
  const failure = shallowRef('');
  // What is dragged, edited or left takes its place.
  watch(
    () => project.previewing,
    (previewing) => !previewing && (current.value = null),
    { flush: 'sync' },
  );

  /** The candidate and the flight with a trial's values; null, with the reason, where they make none. */
  function changed({ candidate, values }: Trial): StudySubject | null {
    const own = project.edited.candidates[candidate];
    if (!own) return null;
    const { speed, altitude } = project.edited.brief;
    const sections = sectionsUsed(project.edited.sections, own);
    const made = withValues({ candidate: own, sections, flight: { speed, altitude } }, values);
    const checked = candidatePart.safeParse(made.candidate);
    failure.value = checked.success ? '' : invalidFrom(checked.error, 'Candidate').message;
    if (failure.value) toast.error(failure.value, { id: 'trial' });
    return checked.success ? made : null;
  }

  function show(trial: Trial): void {
    const made = changed(trial);
    if (!made) return;
    project.show((draft) => {
      draft.candidates[trial.candidate] = made.candidate as never;
      Object.assign(draft.brief, made.flight);
    });
    current.value = project.previewing ? trial : null;
  }
  const drop = () => project.show(() => undefined);
  /** Makes a trial the candidate's own numbers. @returns whether it could be. */
  function apply(trial = current.value): boolean {
    const made = trial && changed(trial);
    if (!made) return false;
    project.edit(trial.label, (draft) => {
      draft.candidates[trial.candidate] = made.candidate as never;
      Object.assign(draft.brief, made.flight);
    });
    return true;
  }
  /** Makes a trial a candidate of its own, beside the one that it came from. */
  function adopt(trial = current.value): void {
    const made = trial && changed(trial);
    if (!made) return;
    const from = project.edited.candidates[trial.candidate];
    let id = '';
    project.edit(`Candidate from ${trial.label}`, (draft) => {
      id = addCandidate(draft, made.candidate);
      draft.candidates[id].name = fittedName(from.name, LONGEST_CANDIDATE_NAME, ' try');
      draft.candidates[id].note = `From ${from.letter} ${from.name}, ${trial.label}: ${trial.says}.`.slice(0, 2000);
    });
    if (id) workbench.setActive(id);
  }
  return { current, failure, show, drop, apply, adopt };
});
