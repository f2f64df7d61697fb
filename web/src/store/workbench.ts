import { defineStore } from 'pinia';
import { computed, effectScope, reactive, ref, shallowReactive, watch, type EffectScope } from 'vue';
import { inputsOfEvaluation, type Evaluation } from '@veldtwind/core/candidate';
import { findingsOf, type Finding } from '@veldtwind/core/findings';
import type { AreaMark } from '@/lib/area';
import { useLive, type LiveAnswer } from '@/lib/live';
import { lanes } from '@/worker/lane';
import { usePreferences } from './preferences';
import { useProject } from './project';

interface Watched {
  scope: EffectScope;
  answer: LiveAnswer<'evaluation'>;
}

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
  const watched = shallowReactive(new Map<string, Watched>());
  watch(
    () => [project.id, ...visible.value.map((c) => c.id)],
    ([, ...ids]) => {
      const wanted = new Set(ids);
      for (const [id, w] of [...watched]) {
        if (wanted.has(id) && project.id) continue;
        w.scope.stop();
        watched.delete(id);
      }
      for (const id of ids) {
        if (id === null || watched.has(id)) continue;
        const scope = effectScope(true);
        const answer = scope.run(() =>
          useLive(lanes.candidate, 'evaluation', () =>
            project.document.candidates[id] ? inputsOfEvaluation(project.document, id) : null,
          ),
        )!;
        watched.set(id, { scope, answer });
      }
    },
    { immediate: true },
  );
  watch(
    () => project.id,
    () => {
      for (const w of watched.values()) w.scope.stop();
      watched.clear();
    },
  );

  const of = (id: string): Evaluation | null => watched.get(id)?.answer.value.value ?? null;
  const current = computed(() => (active.value ? of(active.value.id) : null));
  /** True while what is shown of a candidate was made from other inputs than it has now. */
  const stale = (id: string): boolean => {
    const answer = watched.get(id)?.answer;
    return Boolean(answer?.value.value && answer.stale.value);
  };
  /** Why a candidate could not be evaluated at all. */
  const failure = computed(() => (active.value ? (watched.get(active.value.id)?.answer.failure.value ?? null) : null));
  /** How an area that shows results stands: empty, up to date, or being computed again. */
  const markOf = (there: (e: Evaluation) => boolean): AreaMark =>
    current.value && there(current.value) ? (active.value && stale(active.value.id) ? 'stale' : 'current') : 'empty';
  const lastMs = computed(() => (active.value ? (watched.get(active.value.id)?.answer.ms.value ?? 0) : 0));
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
    lastMs,
    setActive,
    toggle,
  };
});
