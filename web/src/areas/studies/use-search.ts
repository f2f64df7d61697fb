import { computed } from 'vue';
import { responseOf } from '@veldtwind/core/quantities';
import type { StudyInput } from '@veldtwind/core/studies';
import { usePreferences } from '@/store/preferences';
import { bandsAndAnswers } from './use-runs';
import type { Study } from './use-study';

/** What a search makes least or greatest. */
export interface Aim {
  id: string;
  sense: 'least' | 'greatest';
}
export const SENSES = { least: 'minimise', greatest: 'maximise' } as const;
const FIRST: Aim = { id: 'level-CD', sense: 'least' };
const SECOND: Aim = { id: 'static-margin', sense: 'greatest' };
/** Tries of a search, for one variable and at least. */
export const BUDGET = { each: 40, least: 120 } as const;
export const BUDGET_LIMIT = {
  label: 'Maximum number',
  dimension: 'count' as const,
  min: 10,
  max: 20_000,
  step: 20,
};

/** What a search of the candidate asks for, and its begin. */
export function useSearch(study: Study) {
  const preferences = usePreferences();
  const key = computed(() => `${study.key.value}-search`);
  const earlier = computed(() => preferences.get<{ aims?: Aim[]; budget?: number }>(key.value, {}));
  const aims = computed<Aim[]>(() => {
    const there = (study.kept.value.aims ?? earlier.value.aims ?? []).filter((a) =>
      study.responses.value.some((r) => r.id === a.id),
    );
    return there.length > 0 ? there : [FIRST];
  });
  const budget = computed(
    () =>
      study.kept.value.budget ??
      earlier.value.budget ??
      Math.max(BUDGET.least, BUDGET.each * study.chosen.value.length),
  );
  const change = (more: { aims?: Aim[]; budget?: number }) => study.keep('search', more);
  const setAim = (i: number, more: Partial<Aim>) =>
    change({ aims: aims.value.map((a, k) => (k === i ? { ...a, ...more } : a)).filter((a) => a.id !== '') });
  const addAim = () => change({ aims: [...aims.value, SECOND] });
  const name = computed(() =>
    aims.value
      .map((a) => `${SENSES[a.sense]} ${responseOf(a.id)?.name ?? a.id}`)
      .join(', ')
      .replace(/^[a-z]/, (c) => c.toUpperCase()),
  );
  async function start(begin: (name: string, candidate: string, input: StudyInput) => Promise<void>): Promise<void> {
    const asked = bandsAndAnswers(study, study.everything.value);
    const input = study.inputFor({
      kind: 'search',
      variables: study.varied(),
      ...asked,
      aim: aims.value,
      budget: budget.value,
    });
    const id = study.candidate.value?.id;
    if (input && id !== undefined) await begin(name.value, id, input);
  }
  return { aims, budget, change, setAim, addAim, start };
}
