import { defineStore } from 'pinia';
import { computed } from 'vue';
import { inputsOfStrength, polarSpeeds } from '@veldtwind/core/candidate';
import { isBuilt } from '@veldtwind/core/members';
import { useLive } from '@/lib/live';
import { lanes } from '@/worker/lane';
import { useNeededPolars } from './needed-polars';
import { useProject } from './project';
import { useWorkbench } from './workbench';

/** Strength of the candidate that is worked on, once for its area and the findings; nothing while no surface of it is built. */
export const useStrength = defineStore('strength', () => {
  const project = useProject();
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  /** What it depends on; what is only being dragged is left out. */
  const input = () => {
    const c = project.edited.candidates[workbench.active?.id ?? ''];
    if (!c?.surfaces.some(isBuilt) || !polars.listed) return null;
    const speeds = polarSpeeds('flight', project.edited.brief, c);
    return inputsOfStrength(project.edited, c.id, polars.forMethod(c, speeds));
  };
  const live = useLive(lanes.structure, 'structure-strength', input, true);
  return {
    input,
    now: computed(() => (live.failure.value ? null : live.value.value)),
    failure: computed(() => live.failure.value),
    waiting: computed(() => live.waiting.value),
  };
});
