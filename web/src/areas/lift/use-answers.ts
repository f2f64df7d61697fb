import { computed } from 'vue';
import { designPoint, inputsOfEvaluation, polarSpeeds } from '@veldtwind/core/candidate';
import type { SteadySweep } from '@veldtwind/core/flight';
import { RAD } from '@veldtwind/core/numerics';
import { skinState, type Answered, type Method, type Shown } from '@/lib/lift-series';
import { useLiveEach } from '@/lib/live-each';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useShownLift } from '@/store/shown-lift';
import { useVariants } from '@/store/variants';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';
import { deflectionsFor, speedsOf, sweepOf, sweptControl, type SweepForm } from './sweep-kinds';
import { useSteady, useThick } from './use-steady';

/** Angles that closed surfaces are computed at, of the candidate's sweep. */
const SKIN_ANGLES = 4;

/** What Lift answers, in the ways that are looked at, for the candidates that are looked at. */
export function useAnswers() {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const methods = computed<Method[]>(() => preferences.get<Method[]>('lift-methods', ['polars', 'lattice']));
  function toggle(method: Method): void {
    const next = methods.value.includes(method)
      ? methods.value.filter((m) => m !== method)
      : [...methods.value, method];
    // One is always looked at.
    if (next.length > 0) preferences.set('lift-methods', next);
  }
  const first = computed<SweepForm>(() => ({
    kind: 'alpha',
    slowest: Math.round(0.55 * project.brief.speed),
    fastest: Math.round(1.5 * project.brief.speed),
    beta: 10,
    alpha: 4,
    control: '',
    leastLift: 0,
    mostLift: 1.4,
  }));
  const form = computed<SweepForm>(() => ({
    ...first.value,
    ...preferences.get<Partial<SweepForm>>('lift-sweep', {}),
  }));
  const setForm = (more: Partial<SweepForm>) =>
    preferences.set('lift-sweep', { ...preferences.get<Partial<SweepForm>>('lift-sweep', {}), ...more });
  const kind = computed<SteadySweep['kind']>(() => form.value.kind);

  const variants = useVariants();
  const evaluations = useLiveEach(
    () => variants.candidates.map((c) => c.id),
    lanes.aircraft,
    'evaluation',
    (id) => {
      const c = variants.candidates.find((v) => v.id === id);
      return c ? inputsOfEvaluation({ ...project.document, candidates: { [id]: c } }, id) : null;
    },
  );
  const beside = computed(() =>
    variants.candidates.flatMap((candidate): Shown[] => {
      const e = evaluations.of(candidate.id)?.value.value;
      return e?.lift ? [{ candidate, lift: e.lift, dynamicPressure: e.design?.flow.dynamicPressure ?? null }] : [];
    }),
  );
  const trimmedSpeeds = (c: CandidatePart) =>
    workbench.visible.some((v) => v.id === c.id) ? polarSpeeds('flight', project.brief, c) : [];
  const looked = computed(() => [...workbench.visible, ...variants.candidates]);
  const steady = useSteady(
    () => looked.value,
    (c) => (methods.value.includes('polars') ? sweepOf(form.value, c) : null),
    () => speedsOf(form.value, project.brief.speed),
    (c) => deflectionsFor(form.value, c),
    variants.bodiesLift,
    (c) => (form.value.kind === 'alpha' || form.value.kind === 'carrying' ? trimmedSpeeds(c) : []),
  );
  /** Angles of the skins: few, spread over the sweep where the flow is attached. */
  const skinAngles = computed(() => {
    const s = workbench.active?.sweep;
    if (!s) return [0];
    const [from, to] = [Math.max(-4, s.fromDeg), Math.min(10, s.toDeg)];
    return Array.from(
      { length: SKIN_ANGLES },
      (_, i) => Number((from + ((to - from) * i) / (SKIN_ANGLES - 1)).toFixed(3)) * RAD,
    );
  });
  const skins = useThick(
    () => skinAngles.value,
    () => methods.value.includes('skins'),
  );

  const shown = useShownLift();
  const answers = computed<Answered[]>(() => {
    const out: Answered[] = [];
    for (const s of [...shown.value, ...beside.value]) {
      const { candidate, dynamicPressure } = s;
      const answer = methods.value.includes('polars') ? steady.of(candidate.id) : null;
      if (answer && answer.kind === kind.value)
        out.push({
          candidate,
          method: 'polars',
          points: answer.points,
          reference: answer.reference,
          dynamicPressure: null,
        });
      // Without viscosity bodies are no part of the flow.
      if (kind.value !== 'alpha' || !variants.bodiesLift(candidate.id)) continue;
      // Of candidates beside the one that is worked on the fullest answer is enough.
      const enough = candidate.id !== workbench.active?.id && answer !== null;
      if (methods.value.includes('lattice') && !enough)
        out.push({ candidate, method: 'lattice', points: s.lift.points, reference: s.lift.reference, dynamicPressure });
      const thick = skins.value.value;
      if (methods.value.includes('skins') && thick && candidate.id === workbench.active?.id)
        out.push({
          candidate,
          method: 'skins',
          points: thick.points.map(skinState),
          reference: thick.reference,
          dynamicPressure,
        });
    }
    return out;
  });
  const design = computed(() => {
    try {
      return workbench.active ? designPoint(project.brief, workbench.active) : null;
    } catch {
      return null;
    }
  });
  const control = computed(() => (workbench.active ? sweptControl(workbench.active, form.value) : undefined));
  return {
    looked,
    methods,
    toggle,
    form,
    setForm,
    kind,
    steady,
    skins,
    skinAngles,
    answers,
    shown,
    design,
    control,
  };
}
export type Answers = ReturnType<typeof useAnswers>;
