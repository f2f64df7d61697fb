import { computed } from 'vue';
import { standingIn } from '@veldtwind/core/airframe';
import { sectionsUsed, type StripCritical } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { LiftPoint } from '@veldtwind/core/quantities';
import { useLive } from '@/lib/live';
import type { CandidatePart } from '@/lib/types';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';

/** Critical Mach numbers of the strips of a candidate in one state, right sides and surfaces that stand once. */
export function useCriticalMach(candidate: () => CandidatePart, point: () => LiftPoint['point'] | null) {
  const project = useProject();
  const live = useLive(lanes.skins, 'critical-mach', () => {
    const [c, p] = [candidate(), point()];
    if (!p || c.surfaces.length === 0) return null;
    try {
      const { surfaces } = standingIn(c);
      const strips = p.strips
        .filter((s) => s.station >= 0 && Math.abs(s.cl) < 20)
        .map((s) => ({ surface: s.id, station: s.station, cl: s.cl }));
      return { surfaces, sections: sectionsUsed(project.document.sections, c), strips };
    } catch (error) {
      // A shape that is none is told where it is drawn.
      if (error instanceof VeldtwindError) return null;
      throw error;
    }
  });
  const strips = computed<StripCritical[]>(() => (live.failure.value ? [] : (live.value.value ?? [])));
  /** The strip that is the first to reach the speed of sound. */
  const first = computed(() =>
    strips.value.reduce<StripCritical | null>((best, s) => (!best || s.mach < best.mach ? s : best), null),
  );
  return { strips, first, failure: live.failure };
}
