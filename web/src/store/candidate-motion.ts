import { computed } from 'vue';
import { inputsOfMotion, polarSpeeds, type PolarUse } from '@veldtwind/core/candidate';
import { useLive } from '@/lib/live';
import { lanes } from '@/worker/lane';
import { useNeededPolars } from './needed-polars';
import { useProject } from './project';
import { useWorkbench } from './workbench';

/** Motion of the candidate that is worked on at a speed: with the polars of its sections where they are there. @param use what is made of them. */
export function useCandidateMotion(
  speed: () => number,
  loading: () => string | undefined = () => undefined,
  use: PolarUse = 'level',
) {
  const project = useProject();
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  const speeds = computed(() =>
    workbench.active ? polarSpeeds(use, { ...project.document.brief, speed: speed() }, workbench.active) : [],
  );
  const needs = computed(() => (workbench.active ? polars.needed(workbench.active, speeds.value) : []));
  const missing = computed(() => needs.value.filter((n) => !polars.isThere(n)));
  const own = computed(() => (workbench.active ? polars.forMethod(workbench.active, speeds.value) : null));
  const withPolars = computed(() => own.value !== null);
  const input = () => {
    const c = workbench.active;
    if (!c || c.surfaces.length === 0 || c.massItems.length === 0 || !polars.listed) return null;
    const kept = c.loadings && loading() !== undefined && Object.hasOwn(c.loadings, loading()!) ? loading() : undefined;
    return inputsOfMotion(project.document, c.id, speed(), kept, own.value);
  };
  const live = useLive(lanes.motion, 'motion', input);
  return { motion: live, input, needs, missing, withPolars, polars };
}
