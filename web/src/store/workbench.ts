import { defineStore } from 'pinia';
import { computed, reactive, ref, shallowReactive, watch } from 'vue';
import { LIFT_VERSION, liftCase, sectionLookup, type Evaluation } from '@veldtwind/core/candidate';
import { findingsOf, type Finding } from '@veldtwind/core/findings';
import { resolvedSource, type CandidatePart, type ProjectDocument } from '@veldtwind/core/project';
import { canonicalJson, resultKey } from '@veldtwind/core/result-key';
import type { SectionSource } from '@veldtwind/core/shaping';
import { api } from '@/api/client';
import { latestOnly } from '@/lib/latest-only';
import { candidateWorker } from '@/worker/compute';
import { usePreferences } from './preferences';
import { useProject } from './project';

interface Computed {
  /** What the evaluation was made from, as text. */
  input: string;
  evaluation: Evaluation;
  /** How long the worker took, ms. */
  ms: number;
}

/** The sections that a candidate's stations use, by key. */
export function sectionsUsed(document: ProjectDocument, candidate: CandidatePart): Record<string, SectionSource> {
  const used: Record<string, SectionSource> = {};
  for (const s of candidate.surfaces)
    for (const t of s.stations)
      if (document.sections[t.section]) used[t.section] = resolvedSource(document.sections, t.section);
  return used;
}

const inputOf = (document: ProjectDocument, c: CandidatePart) => {
  const { speed, altitude, mass } = document.brief;
  const { surfaces, massItems, reference, sweep } = c;
  return canonicalJson({
    speed,
    altitude,
    mass,
    surfaces,
    massItems: massItems.map((m) => [m.mass, m.position]),
    reference,
    sweep,
    sections: sectionsUsed(document, c),
  });
};

/** Which candidates are looked at, what was computed of them, and where the cursor is on all figures. */
export const useWorkbench = defineStore('workbench', () => {
  const project = useProject();
  const preferences = usePreferences();
  const activeId = ref('a');
  const hidden = computed<string[]>(() => preferences.get(`hidden-${(project.id ?? 'none').slice(0, 8)}`, []));
  const results = shallowReactive(new Map<string, Computed>());
  const asked = new Map<string, string>();
  const queues = new Map<string, (document: ProjectDocument, c: CandidatePart, input: string) => void>();
  /** Shared by all figures of a page: angle of attack in degrees, and share of the half span. */
  const cursor = reactive<{ alphaDeg: number | null; station: number | null }>({ alphaDeg: null, station: null });
  const lastMs = ref(0);

  const active = computed(() => project.document.candidates[activeId.value] ?? project.candidates[0]);
  const visible = computed(() =>
    project.candidates.filter((c) => c.id === active.value?.id || !hidden.value.includes(c.id)),
  );

  watch(
    () => [project.document, visible.value, project.id] as const,
    ([document, list, id]) => {
      if (!id) return;
      for (const c of list) {
        const input = inputOf(document, c);
        if (asked.get(c.id) === input) continue;
        asked.set(c.id, input);
        let queue = queues.get(c.id);
        if (!queue) {
          queue = latestOnly(
            (d: ProjectDocument, cand: CandidatePart, text: string) => {
              void text;
              return candidateWorker.evaluate(structuredPlain(d.brief), structuredPlain(cand), sectionsUsed(d, cand));
            },
            ({ evaluation, ms }, _d, cand, text) => {
              results.set(cand.id, { input: text, evaluation, ms });
              lastMs.value = ms;
            },
            (error, _d, cand) => {
              console.error(error);
              asked.delete(cand.id);
            },
          );
          queues.set(c.id, queue);
        }
        queue(document, c, input);
      }
    },
    { immediate: true },
  );
  watch(
    () => project.id,
    () => {
      results.clear();
      asked.clear();
    },
  );

  const of = (id: string): Evaluation | null => results.get(id)?.evaluation ?? null;
  const current = computed(() => (active.value ? of(active.value.id) : null));
  /** True while what is shown of a candidate was made from other inputs than it has now. */
  const stale = (id: string): boolean => {
    const c = project.document.candidates[id];
    const r = results.get(id);
    return Boolean(c && r && r.input !== inputOf(project.document, c));
  };
  const findings = computed<Finding[]>(() =>
    active.value && current.value ? findingsOf(project.brief, active.value, current.value) : [],
  );

  // Once the engineer stops changing things, the lift result is kept on the server under the key of its inputs.
  const keptKeys = new Set<string>();
  const kept = ref(0);
  let timer: ReturnType<typeof setTimeout> | undefined;
  watch(
    () => [project.version, project.pending.length, results.get(activeId.value)] as const,
    () => {
      clearTimeout(timer);
      timer = setTimeout(() => void keep(), 1200);
    },
  );
  async function keep(): Promise<void> {
    const c = active.value;
    if (!c || !current.value?.lift || stale(c.id)) return;
    const document = project.document;
    const input = liftCase(document.brief, c, sectionLookup(document.sections));
    const key = resultKey('lift', LIFT_VERSION, input);
    if (keptKeys.has(key)) return;
    try {
      await api('POST', '/results/lift', input);
      keptKeys.add(key);
      kept.value = keptKeys.size;
    } catch {
      // Kept next time: the result itself is on the screen already.
    }
  }

  function setActive(id: string): void {
    activeId.value = id;
  }
  function toggle(id: string): void {
    const list = hidden.value.includes(id) ? hidden.value.filter((h) => h !== id) : [...hidden.value, id];
    preferences.set(`hidden-${(project.id ?? 'none').slice(0, 8)}`, list);
  }
  return { activeId, active, visible, hidden, current, of, stale, findings, cursor, lastMs, kept, setActive, toggle };
});

/** A copy without the reactivity around it, as a worker's message must be. */
function structuredPlain<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
