import { defineStore } from 'pinia';
import { computed, onMounted, getCurrentInstance } from 'vue';
import {
  AircraftPolars,
  plansOf,
  polarIsThere,
  secondsOfPolars,
  type NeededPolar,
  type PolarSubject,
} from '@veldtwind/core/candidate';
import type { SectionPolars } from '@veldtwind/core/lift';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { methodMeant } from '@veldtwind/core/project';
import type { ViscousPoint } from '@veldtwind/core/section-flow';
import { useProject } from './project';
import { useRuns } from './runs';
import type { CandidatePart } from '@/lib/types';

export type { NeededPolar };

/** The polars that candidates need, from the project's runs; what is missing is started with one click. */
export function useNeededPolars() {
  const polars = usePolarStore();
  const runs = useRuns();
  if (getCurrentInstance()) onMounted(() => void runs.refresh());
  return polars;
}

const usePolarStore = defineStore('needed-polars', () => {
  const project = useProject();
  const runs = useRuns();
  const ncrit = computed(() => project.document.brief.assumptions.criticalAmplification);
  // Points without their places: one list for as long as the points are the same.
  const bare = new WeakMap<object, readonly ViscousPoint[]>();
  const aircraft = new AircraftPolars({
    curves: () => runs.curves,
    points(id) {
      const placed = runs.points.get(id);
      if (!placed) return undefined;
      let own = bare.get(placed);
      if (!own) bare.set(placed, (own = placed.map((p) => p.point)));
      return own;
    },
  });
  const subjectOf = (candidate: CandidatePart): PolarSubject => aircraft.subjectOf(project.document, candidate);
  /** What a shape that is none would need: nothing, as where it is drawn it is told what is wrong. */
  function unlessWrong<T>(make: () => T, otherwise: T): T {
    try {
      return make();
    } catch (error) {
      if (error instanceof VeldtwindError) return otherwise;
      throw error;
    }
  }
  /** What a candidate needs between some speeds. */
  const needed = (
    candidate: CandidatePart,
    speeds: readonly number[],
    also: readonly Record<string, number>[] = [],
  ): NeededPolar[] => unlessWrong(() => aircraft.needed(subjectOf(candidate), speeds, also), []);
  /** Begins runs for what is missing. */
  async function compute(list: readonly NeededPolar[], title: string, priority?: number): Promise<void> {
    const plans = plansOf(list, ncrit.value, (key) => (project.document.sections[key] ? key : undefined));
    let k = 0;
    for (const plan of plans) {
      k++;
      await runs.start(plans.length > 1 ? `${title} (${k} of ${plans.length})` : title, plan, false, priority);
    }
  }
  /** Whether it is known which polars there are: what is computed before would be made anew a moment later. */
  const listed = computed(() => runs.loaded || runs.failure !== null);
  /** Polars of a candidate at speeds for the method that the project means; null where it reads none, or while some are missing. */
  const forMethod = (candidate: CandidatePart, speeds: readonly number[]): SectionPolars[] | null =>
    methodMeant(project.document.brief.assumptions.method) !== 'polars'
      ? null
      : unlessWrong(() => aircraft.complete(subjectOf(candidate), speeds), null);
  return {
    needed,
    isThere: polarIsThere,
    ready: (list: readonly NeededPolar[]) => aircraft.ready(list),
    forMethod,
    listed,
    compute,
    secondsFor: (list: readonly NeededPolar[]) => secondsOfPolars(list, navigator.hardwareConcurrency ?? 2),
    ncrit,
  };
});
