import { defineStore } from 'pinia';
import { computed, reactive, ref } from 'vue';
import { inputsOfEvaluation, type Evaluation } from '@veldtwind/core/candidate';
import { findingsOf, type Finding } from '@veldtwind/core/findings';
import { methodMeant } from '@veldtwind/core/project';
import type { AreaMark } from '@/lib/area';
import { useLiveEach } from '@/lib/live-each';
import { lanes } from '@/worker/lane';
import { useNeededPolars } from './needed-polars';
import { usePreferences } from './preferences';
import { useProject } from './project';

/** Which candidates are looked at, what was computed of them, and where the cursor is on all figures. */
export const useWorkbench = defineStore('workbench', () => {
  const project = useProject();
  const preferences = usePreferences();
  const activeId = ref('a');
  const short = computed(() => (project.id ?? 'none').slice(0, 8));
  const hidden = computed<string[]>(() => preferences.get(`hidden-${short.value}`, []));
  /** Shared by all figures of a page: angle of attack in degrees, and share of the half span. */
  const cursor = reactive<{ alphaDeg: number | null; station: number | null }>({ alphaDeg: null, station: null });

  const active = computed(() => project.document.candidates[activeId.value] ?? project.candidates[0]);
  const visible = computed(() =>
    project.candidates.filter((c) => c.id === active.value?.id || !hidden.value.includes(c.id)),
  );

  // Every candidate that is looked at is evaluated as its inputs change, and no other.
  // Of another project nothing is kept, though its candidates have the same ids.
  const key = (id: string) => `${project.id}/${id}`;
  const idOf = (k: string) => k.slice(k.indexOf('/') + 1);
  const answers = useLiveEach(
    () => (project.id ? visible.value.map((c) => key(c.id)) : []),
    lanes.candidate,
    'evaluation',
    (k) => {
      const id = idOf(k);
      return project.document.candidates[id] ? inputsOfEvaluation(project.document, id) : null;
    },
  );
  const answerOf = (id: string | undefined) => (id === undefined ? undefined : answers.of(key(id)));

  // The lattice answers while a value is dragged; with polars or panels the same follows, and takes the place of what it makes better.
  const polars = useNeededPolars();
  const meant = computed(() => methodMeant(project.document.brief.assumptions.method));
  const polarsOf = computed(
    () => new Map(visible.value.map((c) => [c.id, polars.forMethod(c, [project.document.brief.speed])])),
  );
  /** What a candidate's better evaluation is made by: null while its polars are missing, and where the lattice alone is meant. */
  const betterBy = (id: string) => (meant.value === 'panels' ? ('panels' as const) : (polarsOf.value.get(id) ?? null));
  const better = useLiveEach(
    () => (project.id ? visible.value.filter((c) => betterBy(c.id)).map((c) => key(c.id)) : []),
    lanes.polars,
    'evaluation',
    (k) => {
      const by = betterBy(idOf(k));
      return by && project.document.candidates[idOf(k)] ? inputsOfEvaluation(project.document, idOf(k), by) : null;
    },
  );
  const betterOf = (id: string) => better.of(key(id));

  /** A candidate by the method of the project, or by the one below it while that is not there. */
  const of = (id: string): Evaluation | null => {
    const alone = answerOf(id)?.value.value ?? null;
    const answer = betterOf(id);
    const fuller = answer?.value.value;
    if (!alone?.balance || !fuller) return alone;
    if (fuller.method !== 'lattice') {
      // One that was meant before the choice changed is no answer to it.
      if (fuller.method !== meant.value) return alone;
      const { method, curve, balance, problems } = fuller;
      return { ...alone, method, curve, balance, problems };
    }
    // The better method does not answer, and it says why.
    return answer.stale.value ? alone : { ...alone, problems: fuller.problems };
  };
  /** True while a candidate stands on a simpler method than the project means. */
  const provisional = (id: string): boolean => {
    const e = of(id);
    return Boolean(e?.balance) && e!.method !== meant.value;
  };
  const current = computed(() => (active.value ? of(active.value.id) : null));
  /** True while what is shown of a candidate was made from other inputs than it has now. */
  const stale = (id: string): boolean => {
    const answer = answerOf(id);
    return Boolean(answer?.value.value && answer.stale.value) || Boolean(betterOf(id)?.stale.value);
  };
  /** Why a candidate could not be evaluated at all. */
  const failure = computed(() => answerOf(active.value?.id)?.failure.value ?? null);
  /** How an area that shows results stands: empty, up to date, or being computed again. */
  const markOf = (there: (e: Evaluation) => boolean): AreaMark =>
    current.value && there(current.value) ? (active.value && stale(active.value.id) ? 'stale' : 'current') : 'empty';
  const lastMs = computed(() => answerOf(active.value?.id)?.ms.value ?? 0);
  const findings = computed<Finding[]>(() =>
    active.value && current.value ? findingsOf(project.brief, active.value, current.value) : [],
  );

  function setActive(id: string): void {
    activeId.value = id;
  }
  function toggle(id: string): void {
    const list = hidden.value.includes(id) ? hidden.value.filter((h) => h !== id) : [...hidden.value, id];
    preferences.set(`hidden-${short.value}`, list);
  }
  return {
    activeId,
    active,
    visible,
    hidden,
    current,
    of,
    stale,
    failure,
    findings,
    cursor,
    markOf,
    provisional,
    polarsOf: (id: string) => polarsOf.value.get(id) ?? null,
    lastMs,
    setActive,
    toggle,
  };
});
