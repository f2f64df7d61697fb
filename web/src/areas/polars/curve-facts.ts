import { computed, type ComputedRef } from 'vue';
import { designPoint } from '@veldtwind/core/candidate';
import type { CurveReply } from '@veldtwind/contract';
import { polarAtLift, type AtLift } from '@veldtwind/core/polar';
import type { CurveFacts } from '@veldtwind/core/quantities';
import { sectionFacts } from '@veldtwind/core/section';
import { sourceOutline, type SectionSource } from '@veldtwind/core/shaping';
import { useProject } from '@/store/project';
import { useRuns, type PlacedPoint } from '@/store/runs';
import { useWorkbench } from '@/store/workbench';

/** Thicknesses by the source's text: a source that is read again is another object. */
const thicknesses = new Map<string, number | null>();
const OUTLINE_POINTS = 161;
/** Greatest thickness of a section, chords; null where it cannot be made. */
export function thicknessOf(source: SectionSource): number | null {
  const key = JSON.stringify(source);
  let found = thicknesses.get(key);
  if (found === undefined) {
    try {
      found = sectionFacts(sourceOutline(source, OUTLINE_POINTS)).thickness.max;
    } catch {
      found = null;
    }
    thicknesses.set(key, found);
  }
  return found;
}

/** Values at a lift, as long as the points are the same. */
const atLift = new WeakMap<readonly PlacedPoint[], Map<number, AtLift | null>>();
function at(points: readonly PlacedPoint[], cl: number): AtLift | null {
  const known = atLift.get(points) ?? new Map<number, AtLift | null>();
  atLift.set(points, known);
  if (!known.has(cl))
    known.set(
      cl,
      polarAtLift(
        points.map((p) => p.point),
        cl,
      ),
    );
  return known.get(cl)!;
}

/** The lifts that the aircraft flies at by the brief: at the design point, in the climb, and at the greatest stall speed. */
export function useFlownLifts(): Record<'design' | 'climb' | 'stall', ComputedRef<number | null>> {
  const project = useProject();
  const workbench = useWorkbench();
  const liftAt = (speed: number | null) => {
    if (speed === null || !workbench.active) return null;
    try {
      return designPoint({ ...project.brief, speed }, workbench.active).CL;
    } catch {
      return null;
    }
  };
  return {
    design: computed(() => liftAt(project.brief.speed)),
    climb: computed(() => liftAt(project.brief.climbSpeed)),
    stall: computed(() => liftAt(project.brief.stallSpeed)),
  };
}

/** Facts of every curve, with what it has where the aircraft flies. */
export function useCurveFacts(): (curve: CurveReply) => CurveFacts | null {
  const runs = useRuns();
  const { design, climb } = useFlownLifts();
  return (curve) => {
    const points = runs.points.get(curve.id);
    if (curve.facts === null || curve.input.swept === 're') return null;
    return {
      facts: curve.facts,
      design: points && design.value !== null ? at(points, design.value) : null,
      climb: points && climb.value !== null ? at(points, climb.value) : null,
      // Only asked for where it is shown or limited.
      get thickness() {
        return thicknessOf(curve.input.source);
      },
    };
  };
}
