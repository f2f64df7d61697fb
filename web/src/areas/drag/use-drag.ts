import { refDebounced } from '@vueuse/core';
import { computed } from 'vue';
import { standingIn } from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import { inputsOfSteady, sectionLookup } from '@veldtwind/core/candidate';
import { profilesAt, type SteadyPoint } from '@veldtwind/core/flight';
import { dragBuildUp, dragShape, type DragBuildUp, type DragShape } from '@veldtwind/core/drag';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { useLiveEach } from '@/lib/live-each';
import { useNeededPolars } from '@/store/needed-polars';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** The drag of one candidate, or why it cannot be told. */
export interface CandidateDrag {
  candidate: CandidatePart;
  shape: DragShape | null;
  built: DragBuildUp | null;
  why: string;
  /** Whether its surfaces are to be by their polars and are not yet, and why not. */ waits: string;
}

/** Drag of the candidates that are looked at, at the speed and altitude of the brief or at others. */
export function useDrag(speed: () => number, altitude: () => number, speeds: () => readonly number[]) {
  const project = useProject();
  const workbench = useWorkbench();
  // Wetted areas are measured when a value has come to rest; laws and allowances answer at once.
  const rested = refDebounced(
    computed(() => workbench.visible),
    100,
  );
  /** Measured shapes by their surfaces, as long as all that they are made of is the same: parts are never changed in place. */
  const shapes = new WeakMap<object, { made: DragShape; of: readonly unknown[] }>();
  const shapeOf = (c: CandidatePart): DragShape => {
    const { sections } = project.document;
    const of = [c.bodies, c.reference, sections];
    const known = shapes.get(c.surfaces);
    if (known?.of.every((v, i) => v === of[i])) return known.made;
    const made = dragShape(standingIn(c), sectionLookup(sections));
    shapes.set(c.surfaces, { made, of });
    return made;
  };
  // Level flight at all speeds that are drawn, for candidates whose surfaces are by the polars of their sections.
  const polars = useNeededPolars();
  const byPolars = (c: CandidatePart) => c.drag?.surfaces === 'polars';
  const range = () => [...new Set([...speeds(), speed()])].sort((a, b) => a - b);
  const here = (c: CandidatePart) => ({
    ...project.document,
    brief: { ...project.document.brief, altitude: altitude() },
    candidates: { [c.id]: c },
  });
  const needed = (c: CandidatePart) => polars.needed(c, [speed()]);
  const level = useLiveEach(
    () => workbench.visible.filter(byPolars).map((c) => c.id),
    lanes.aircraft,
    'steady',
    (id) => {
      const c = workbench.visible.find((v) => v.id === id);
      if (!c) return null;
      const needs = needed(c);
      if (needs.length === 0 || !needs.every(polars.isThere)) return null;
      return inputsOfSteady(here(c), id, { kind: 'level', speeds: range() }, polars.ready(needs));
    },
  );
  const pointsOf = (c: CandidatePart): readonly SteadyPoint[] =>
    byPolars(c) ? (level.of(c.id)?.value.value?.points ?? []) : [];
  function waitsFor(c: CandidatePart): string {
    if (!byPolars(c)) return '';
    const missing = needed(c).filter((n) => !polars.isThere(n)).length;
    if (missing > 0)
      return `${missing === 1 ? '1 polar is' : `${missing} polars are`} missing: until all are there the surfaces are by the build-up.`;
    const answer = level.of(c.id);
    if (answer?.failure.value) return answer.failure.value.message;
    if (!answer?.value.value) return 'Level flight is being computed.';
    const now = pointsOf(c).find((p) => Math.abs(p.speed / speed() - 1) < 1e-6);
    if (now?.status === 'doubtful') return `Doubtful: ${now.reason}`;
    return profilesAt(pointsOf(c), speed())
      ? ''
      : 'There is no level flight at this speed: the surfaces are by the build-up here.';
  }
  const at = (c: CandidatePart, shape: DragShape, v: number, h = altitude()): DragBuildUp =>
    dragBuildUp(c, flowState(v, h), sectionLookup(project.document.sections), shape, profilesAt(pointsOf(c), v));
  const all = computed<CandidateDrag[]>(() =>
    rested.value.map((old) => {
      const candidate = workbench.visible.find((c) => c.id === old.id) ?? old;
      let shape: DragShape | null = null;
      try {
        shape = shapeOf(old);
        return { candidate, shape, built: at(candidate, shape, speed()), why: '', waits: waitsFor(candidate) };
      } catch (error) {
        if (!(error instanceof VeldtwindError)) throw error;
        return { candidate, shape, built: null, why: error.message, waits: '' };
      }
    }),
  );
  /**
   * The same at another speed or altitude, and whether its polars say that it is doubtful; null where no law holds, and where surfaces are by their polars
   * and no level flight is found, or is computed for this altitude: one curve is never made in two ways.
   */
  const over = (d: CandidateDrag, v: number, h = altitude()): (DragBuildUp & { doubtful: boolean }) | null => {
    const points = pointsOf(d.candidate);
    if (points.length > 0 && (h !== altitude() || !profilesAt(points, v))) return null;
    const doubtful = points.some((p) => Math.abs(p.speed / v - 1) < 1e-6 && p.status === 'doubtful');
    try {
      return d.shape ? { ...at(d.candidate, d.shape, v, h), doubtful } : null;
    } catch {
      return null;
    }
  };
  return { all, over, polars, needed };
}
