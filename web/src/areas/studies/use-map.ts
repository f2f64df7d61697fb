import { computed } from 'vue';
import type { OutputOf } from '@veldtwind/core/analysis';
import type { CandidateStudy } from '@veldtwind/core/project';
import type { Variable } from '@veldtwind/core/studies';
import { useLive } from '@/lib/live';
import type { Grid } from '@/lib/grid-contours';
import { usePreferences } from '@/store/preferences';
import { lanes } from '@/worker/lane';
import { answerFor, valueIn, type Asked, type Study } from './use-study';

/** Places along each variable: a coarse map first, then a finer one that takes its place. */
const PLACES = { one: [9, 25], two: [5, 9] } as const;
/** A map reaches so many sensible steps to each side. */
const REACH = 8;

export interface MapAxis {
  variable: Variable;
  from: number;
  to: number;
}
type Kept = NonNullable<CandidateStudy['map']>;

/** A map of all quantities over one variable or two, of the candidate that is worked on. @param open whether anybody looks. */
export function useMap(study: Study, open: () => boolean) {
  const preferences = usePreferences();
  const key = computed(() => `${study.key.value}-map`);
  const kept = computed<Kept>(() => study.kept.value.map ?? preferences.get<Kept>(key.value, {}));
  const change = (more: Kept) => study.keep('map', { map: { ...kept.value, ...more } });

  const axisOf = (path: string | undefined): MapAxis | null => {
    const variable = path ? study.variableOf(path) : undefined;
    if (!variable) return null;
    const { value, step, limit } = variable;
    const least = limit.above?.nearest ?? limit.min;
    const own = kept.value.ranges?.[variable.path];
    return {
      variable,
      from: own?.from ?? Math.max(least, value - REACH * step),
      to: own?.to ?? Math.min(limit.max, value + REACH * step),
    };
  };
  const x = computed(() => axisOf(kept.value.x) ?? axisOf(study.chosen.value[0]?.path));
  const y = computed(() => {
    if (kept.value.y === '') return null;
    const other = study.chosen.value.find((c) => c.path !== x.value?.variable.path)?.path;
    const own = axisOf(kept.value.y) ?? axisOf(other);
    return own && own.variable.path !== x.value?.variable.path ? own : null;
  });
  const setRange = (path: string, range: { from: number; to: number }) =>
    change({ ranges: { ...kept.value.ranges, [path]: range } });
  const quantity = computed<Asked | null>(() => {
    const list = study.everything.value;
    return list.find((a) => a.key === kept.value.quantity) ?? list[0] ?? null;
  });

  const input = (finer: boolean) => {
    if (!open() || !x.value) return null;
    const axes = y.value ? [x.value, y.value] : [x.value];
    const steps = PLACES[y.value ? 'two' : 'one'][finer ? 1 : 0];
    const variables = axes.map(({ variable, from, to }) => ({
      path: variable.path,
      from,
      to,
      steps,
      kind: 'number' as const,
    }));
    return study.inputFor(
      { kind: 'grid', variables, answers: study.everything.value.map(answerFor) },
      finer ? 'method' : 'lattice',
    );
  };
  const coarse = useLive(lanes.study, 'study', () => input(false), true);
  const fine = useLive(lanes.study, 'study', () => (coarse.stale.value ? null : input(true)), true);
  const result = computed<OutputOf<'study'> | null>(() => {
    const own = fine.value.value;
    return own && !fine.stale.value && sameAxes(own) ? own : coarse.value.value;
  });
  function sameAxes(of: OutputOf<'study'>): boolean {
    const axes = [x.value, y.value].filter((a) => a !== null);
    return (
      of.variables.length === axes.length &&
      of.variables.every((v, i) => v.name === axes[i].variable.path && v.from === axes[i].from && v.to === axes[i].to)
    );
  }
  const provisional = computed(() => result.value !== null && result.value !== fine.value.value);
  const busy = computed(() => coarse.waiting.value || fine.waiting.value);
  const failure = computed(() => coarse.failure.value ?? fine.failure.value);

  /** What a quantity is over the grid; the first variable along x. */
  const gridOf = (a: Asked): Grid | null => {
    const made = result.value;
    if (!made || made.variables.length !== 2) return null;
    const places = (i: number) => [...new Set(made.tries.map((t) => t.values[i]))];
    const [xs, ys] = [places(0), places(1)];
    const rows = ys.map((_, k) => xs.map((_, i) => valueIn(made, made.tries[i * ys.length + k]?.answers ?? [], a)));
    return { xs, ys, rows };
  };
  /** What a quantity is over one variable. */
  const curveOf = (a: Asked): { at: number; value: number | null }[] => {
    const made = result.value;
    if (!made || made.variables.length !== 1) return [];
    return made.tries.map((t) => ({ at: t.values[0], value: valueIn(made, t.answers, a) }));
  };
  return { kept, change, x, y, setRange, quantity, result, provisional, busy, failure, gridOf, curveOf };
}
export type StudyMap = ReturnType<typeof useMap>;
