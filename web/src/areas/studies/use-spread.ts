import { computed } from 'vue';
import type { StudyInput } from '@veldtwind/core/studies';
import { usePreferences } from '@/store/preferences';
import { bandsAndAnswers } from './use-runs';
import type { Study } from './use-study';

export const SAMPLES_LIMIT = {
  label: 'Maximum number',
  dimension: 'count' as const,
  min: 20,
  max: 20_000,
  step: 100,
};
const SAMPLES = 400;
/** Of a factor, as things are built. */
const SCALE_DEVIATION = 0.005;

/** How uncertain the variables of a candidate are, and the begin of a sampling. */
export function useSpread(study: Study) {
  const preferences = usePreferences();
  const key = computed(() => `${study.key.value}-spread`);
  const earlier = computed(() =>
    preferences.get<{ deviations?: Record<string, number>; samples?: number }>(key.value, {}),
  );
  const deviations = computed(() => study.kept.value.deviations ?? earlier.value.deviations ?? {});
  const samples = computed(() => study.kept.value.samples ?? earlier.value.samples ?? SAMPLES);
  /** A step of the variable, where nothing else was said. */
  const deviationOf = (path: string): number =>
    deviations.value[path] ?? (path.includes('.scale.') ? SCALE_DEVIATION : (study.variableOf(path)?.step ?? 0.01));
  const setDeviation = (path: string, sd: number) =>
    study.keep('deviations', { deviations: { ...deviations.value, [path]: sd } });
  const setSamples = (n: number) => study.keep('samples', { samples: n });
  async function start(begin: (name: string, candidate: string, input: StudyInput) => Promise<void>): Promise<void> {
    const variables = study.varied().map((v) => ({ ...v, sd: deviationOf(v.path) }));
    const asked = bandsAndAnswers(study, study.everything.value);
    const input = study.inputFor({ kind: 'spread', variables, ...asked, budget: samples.value });
    const id = study.candidate.value?.id;
    if (input && id !== undefined) await begin(`Uncertainty of ${variables.length} variables`, id, input);
  }
  return { samples, deviationOf, setDeviation, setSamples, start };
}
export type Spread = ReturnType<typeof useSpread>;
