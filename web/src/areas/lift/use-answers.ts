import { computed } from 'vue';
import { designPoint, speedsOfPolars } from '@veldtwind/core/candidate';
import type { SteadySweep } from '@veldtwind/core/flight';
import type { CandidatePart } from '@/lib/types';
import { skinState, type Answered, type Method } from '@/lib/lift-series';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useShownLift } from '@/store/shown-lift';
import { useWorkbench } from '@/store/workbench';
import { deflectionsFor, speedsOf, sweepOf, sweptControl, type SweepForm } from './sweep-kinds';
import { useSteady, useThick } from './use-steady';
import { useVariants } from './use-variants';

const RAD = Math.PI / 180;
/** Angles that thick skins are computed at, of the candidate's sweep. */
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
  /** Speeds about the stall of a sweep over angles, whose polars it is found with. */
  const stallSpeeds = (c: CandidatePart): number[] =>
    form.value.kind === 'alpha' || form.value.kind === 'carrying' ? speedsOfPolars(project.brief, c).stall : [];
  const looked = computed(() => [...workbench.visible, ...variants.candidates.value]);
  const steady = useSteady(
    () => looked.value,
    (c) => (methods.value.includes('polars') ? sweepOf(form.value, c) : null),
    () => speedsOf(form.value, project.brief.speed),
    (c) => deflectionsFor(form.value, c),
    variants.bodiesLift,
    stallSpeeds,
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
    for (const s of [...shown.value, ...variants.shown.value]) {
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
      const beside = candidate.id !== workbench.active?.id && answer !== null;
      if (methods.value.includes('lattice') && !beside)
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
    variants,
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
