import { computed, ref, watch } from 'vue';
import { inBand } from '@veldtwind/core/findings';
import { responseOf, type Response } from '@veldtwind/core/quantities';
import { answerKey, type StudyKind, type Try, type Variable } from '@veldtwind/core/studies';
import { usePreferences } from '@/store/preferences';
import { useStudies } from '@/store/studies';
import { useTrial } from '@/store/trial';
import { answerFor, type Asked, type Study } from './use-study';
import { triedText } from './tried-text';

/** An answer of a study that was made: what it is, and its band. */
export interface ShownAnswer {
  key: string;
  response: Response;
  band: { min: number | null; max: number | null } | null;
}

/** The studies of one kind of the candidate that is worked on, and the one that is looked at, with a try of it. */
export function useRuns(study: Study, kind: StudyKind) {
  const studies = useStudies();
  const trial = useTrial();
  const preferences = usePreferences();
  const list = computed(() => studies.list.filter((s) => s.kind === kind && s.candidate === study.candidate.value?.id));
  const shown = computed(() =>
    studies.shown && list.value.some((s) => s.id === studies.shown!.study.id) ? studies.shown : null,
  );
  /** The newest is looked at where none is. */
  function lookAtNewest(): void {
    if (!shown.value && list.value.length > 0) void studies.look(list.value[0].id);
  }

  /** Variables that vary, in the study's order; one that the candidate has no more is left out. */
  const variables = computed(() =>
    (shown.value?.plan?.variables ?? []).flatMap((v, index) => {
      const path = typeof v.path === 'string' ? v.path : v.path[0];
      const variable = study.variableOf(path);
      return variable ? [{ variable, index }] : [];
    }),
  );
  const answers = computed<ShownAnswer[]>(() => {
    const plan = shown.value?.plan;
    if (!plan) return [];
    const keys = new Map<string, string>();
    for (const a of [...plan.answers, ...plan.bands, ...plan.aim]) keys.set(answerKey({ id: a.id, at: a.at }), a.id);
    return [...keys].flatMap(([key, id]) => {
      const response = responseOf(id);
      const band = plan.bands.find((b) => answerKey({ id: b.id, at: b.at }) === key);
      return response ? [{ key, response, band: band ? { min: band.least, max: band.greatest } : null }] : [];
    });
  });
  /** Place of an answer in a try: in the order in which the plan asks. */
  const places = computed(() => new Map(answers.value.map((a, i) => [a.key, i])));
  const valueOf = (t: Try, key: string): number | null => t.answers[places.value.get(key) ?? -1] ?? null;
  const asked = computed(() => new Set((shown.value?.plan?.aim ?? []).map((a) => answerKey({ id: a.id, at: a.at }))));
  /** Whether a try has what the study aims at, and meets all requirements. */
  const holds = (t: Try): boolean =>
    answers.value.every((a) => {
      const v = valueOf(t, a.key);
      return a.band ? v !== null && inBand(v, a.band) : v !== null || !asked.value.has(a.key);
    });

  const picked = ref<number | null>(null);
  const pick = (index: number) => (picked.value = index);
  watch(
    () => shown.value?.study.id,
    () => (picked.value = null),
  );
  /** The try that is looked at: the one that was picked, or the best. */
  const chosen = computed<Try | null>(() => {
    const own = shown.value;
    if (!own) return null;
    const best = own.result?.best ?? own.study.best;
    return own.tries.find((t) => t.index === picked.value) ?? best ?? own.tries[0] ?? null;
  });
  const changes = (t: Try): [Variable, number][] =>
    variables.value.map(({ variable, index }) => [variable, t.values[index]]);
  /** A try as it is shown in every area, applied, or made a candidate. */
  const trialOf = (t: Try) => ({
    candidate: study.candidate.value!.id,
    label: `${shown.value!.study.name}, trial ${t.index + 1}`,
    says: triedText(changes(t), preferences.units),
    values: new Map(changes(t).map(([v, value]) => [v.path, value])),
  });
  return {
    studies,
    trial,
    list,
    shown,
    lookAtNewest,
    variables,
    answers,
    valueOf,
    holds,
    pick,
    chosen,
    changes,
    trialOf,
  };
}
export type StudyRuns = ReturnType<typeof useRuns>;

/** All bands, and what is asked beside them. */
export const bandsAndAnswers = (study: Study, list: readonly Asked[]) => ({
  bands: study.bandsOf(list),
  answers: list.map(answerFor),
});
