import { computed, type ComputedRef } from 'vue';
import { designPoint } from '@veldtwind/core/candidate';
import type { CurveReply } from '@veldtwind/contract';
import { sectionLifts } from '@veldtwind/core/lift';
import { polarAtLift, type AtLift } from '@veldtwind/core/polar';
import type { CurveFacts } from '@veldtwind/core/quantities';
import { sectionFacts } from '@veldtwind/core/section';
import { sourceOutline, type SectionSource } from '@veldtwind/core/shaping';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
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

/** A condition of the brief with the lift coefficient that the aircraft flies at. */
export interface FlownLift {
  name: string;
  cl: number;
}
/** The lifts that the aircraft flies at by the brief: at the design point, in the climb, at the greatest stall speed, and at speeds that requirements name. */
export function useFlownLifts(): Record<'design' | 'climb' | 'stall', ComputedRef<number | null>> & {
  all: ComputedRef<FlownLift[]>;
  /** Of one of them, the lifts of the wing's sections at the root, the mean chord and the tip. */ apart: (
    name: string,
  ) => FlownLift[];
} {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const liftAt = (speed: number | null) => {
    if (speed === null || !workbench.active) return null;
    try {
      return designPoint({ ...project.brief, speed }, workbench.active).CL;
    } catch {
      return null;
    }
  };
  const design = computed(() => liftAt(project.brief.speed));
  const climb = computed(() => liftAt(project.brief.climbSpeed));
  const stall = computed(() => liftAt(project.brief.stallSpeed));
  const all = computed(() => {
    const { brief } = project;
    const told = new Set([brief.speed, brief.climbSpeed, brief.stallSpeed]);
    const more = [...new Set(brief.requirements.flatMap((r) => r.speed ?? []))].filter((v) => !told.has(v));
    const unit = displayUnit('speed', preferences.units);
    return [
      { name: 'design', cl: design.value },
      { name: 'climb', cl: climb.value },
      { name: 'stall', cl: stall.value },
      ...more.map((v) => ({
        name: `${formatQuantity(v, 'speed', preferences.units)} ${unit.symbol}`,
        cl: liftAt(v),
      })),
    ].flatMap(({ name, cl }) => (cl === null ? [] : [{ name, cl }]));
  });
  const apart = (name: string): FlownLift[] => {
    const points = workbench.active ? (workbench.of(workbench.active.id)?.lift?.points ?? []) : [];
    const own = sectionLifts(points, all.value.find((l) => l.name === name)?.cl ?? NaN);
    return own ? (['root', 'mean', 'tip'] as const).map((at) => ({ name: at, cl: own[at] })) : [];
  };
  return { design, climb, stall, all, apart };
}

/** Facts of every curve, with what it has where the aircraft flies. */
export function useCurveFacts(): (curve: CurveReply) => CurveFacts | null {
  const runs = useRuns();
  const { design, climb, stall } = useFlownLifts();
  return (curve) => {
    const points = runs.points.get(curve.id);
    if (curve.facts === null || curve.input.swept === 're') return null;
    return {
      facts: curve.facts,
      design: points && design.value !== null ? at(points, design.value) : null,
      climb: points && climb.value !== null ? at(points, climb.value) : null,
      stall: points && stall.value !== null ? at(points, stall.value) : null,
      // Only asked for where it is shown or limited.
      get thickness() {
        return thicknessOf(curve.input.source);
      },
    };
  };
}
