import { computed } from 'vue';
import { beyondLimits, controlNames, inputsOfMotion } from '@veldtwind/core/candidate';
import {
  controlFindings,
  methodFindings,
  motionFindings,
  requirementFindings,
  stallFindings,
  structureFindings,
  worstFirst,
  type Finding,
} from '@veldtwind/core/findings';
import { useLive } from '@/lib/live';
import { MEASURES } from '@veldtwind/core/control';
import { lanes } from '@/worker/lane';
import { useNeededPolars } from './needed-polars';
import { usePerformances } from './performances';
import { useProject } from './project';
import { useStrength } from './strength';
import { useTrimmedStall } from './trimmed-stall';
import { useWorkbench } from './workbench';

/** What is found about the motion and the loops of the candidate that is worked on, at the brief's speed; what is only being dragged is left out. */
export function useMotionFindings() {
  const project = useProject();
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  const candidate = computed(() => project.edited.candidates[workbench.active?.id ?? '']);
  const speed = computed(() => project.edited.brief.speed);
  const input = () => {
    const c = candidate.value;
    if (!c || c.surfaces.length === 0 || c.massItems.length === 0 || !polars.listed) return null;
    return inputsOfMotion(project.edited, c.id, speed.value, undefined, polars.forMethod(c, [speed.value]));
  };
  const motion = useLive(lanes.motion, 'motion', input);
  const methods = useLive(lanes.survey, 'motion-methods', () => {
    const of = input();
    return of?.polars ? { of } : null;
  });
  const flown = useLive(lanes.survey, 'motion-flown', () => {
    const of = input();
    return of ? { of: { ...of, polars: null } } : null;
  });
  const stall = useTrimmedStall(() => project.edited);
  const of = computed(() => (motion.failure.value ? null : motion.value.value));
  const survey = useLive(lanes.survey, 'control-survey', () => {
    const settings = candidate.value?.autopilot;
    if (!of.value || !settings?.chains.length) return null;
    return { of: of.value.case, scale: {}, settings, controls: controlNames(candidate.value) };
  });
  const own = computed<Finding[]>(() => {
    const m = of.value;
    if (!m || !candidate.value?.surfaces.length || !candidate.value.massItems.length) return [];
    const tail = candidate.value.surfaces.find((v) => v.role === 'tailplane');
    const facts = {
      modes: m.modes,
      case: m.case,
      class: project.edited.brief.assumptions.aircraftClass,
      phase: project.edited.brief.assumptions.flightPhase,
      beyond: beyondLimits(candidate.value, m.trim.controls),
      ...(tail && { tail: { surfaceId: tail.id, alpha: m.trim.alpha } }),
    };
    const settings = candidate.value.autopilot;
    const lines = settings?.chains.length ? (survey.value.value ?? []) : [];
    return [
      ...motionFindings(project.edited.brief, facts),
      ...(stall.value ? stallFindings(project.edited.brief, stall.value) : []),
      ...methodFindings([methods, flown].flatMap((k) => (!k.failure.value && k.value.value) || [])),
      ...(settings && lines.length
        ? controlFindings(settings, lines, m.case, (from) => MEASURES[from as keyof typeof MEASURES].name)
        : []),
    ];
  });
  const strength = useStrength();
  const built = computed(() => {
    const { speed: cruise, assumptions } = project.edited.brief;
    return strength.now ? structureFindings(strength.now, cruise * assumptions.performance.diveRatio) : [];
  });
  const performances = usePerformances();
  const asked = computed(() =>
    workbench.active && !performances.ofLoading
      ? requirementFindings(project.edited.brief, performances.madeOf(workbench.active.id))
      : [],
  );
  return computed(() => worstFirst([...workbench.findings, ...asked.value, ...own.value, ...built.value]));
}
