import { computed } from 'vue';
import { inputsOfMotion, polarSpeeds } from '@veldtwind/core/candidate';
import type { ProjectDocument } from '@veldtwind/core/project';
import { useLive } from '@/lib/live';
import { lanes } from '@/worker/lane';
import { useNeededPolars } from './needed-polars';
import { useWorkbench } from './workbench';

/** The slowest level flight in trim of the candidate that is worked on, as soon as the polars about the stall are there. */
export function useTrimmedStall(document: () => ProjectDocument) {
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  const live = useLive(lanes.survey, 'trimmed-stall', () => {
    const c = document().candidates[workbench.active?.id ?? ''];
    if (!c || c.surfaces.length === 0 || c.massItems.length === 0) return null;
    const { brief } = document();
    const own = polars.forMethod(c, polarSpeeds('stall', brief, c));
    return own && inputsOfMotion(document(), c.id, brief.speed, undefined, own);
  });
  return computed(() => (live.failure.value ? null : live.value.value));
}
