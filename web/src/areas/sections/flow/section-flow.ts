import { computed, ref, type ComputedRef } from 'vue';
import { designPoint } from '@veldtwind/core/candidate';
import { RAD } from '@veldtwind/core/numerics';
import type { FlapSetting } from '@veldtwind/core/polar';
import { DEFAULT_SPREAD, type PanelSpread } from '@veldtwind/core/section-flow';
import type { SectionSource } from '@veldtwind/core/shaping';
import { useLive } from '@/lib/live';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';

/** Conditions at which the open section is solved; the engineer's own, kept between visits. */
export interface FlowConditions {
  viscous: boolean;
  /** Which of the two is held; the other follows. */
  hold: 'alpha' | 'cl';
  alphaDeg: number;
  cl: number;
  reynolds: number;
  criticalAmplification: number;
  /** Of one surface, where it differs. */
  criticalTop: number | null;
  criticalBottom: number | null;
  /** Height of grains all over the surface, chords. */
  grain: number | null;
  tripTop: number | null;
  tripBottom: number | null;
  flap: FlapSetting | null;
}

const DEFAULTS: FlowConditions = {
  viscous: true,
  hold: 'alpha',
  alphaDeg: 4,
  cl: 0.5,
  reynolds: 700_000,
  criticalAmplification: 9,
  criticalTop: null,
  criticalBottom: null,
  grain: null,
  tripTop: null,
  tripBottom: null,
  flap: null,
};

/**
 * The live flow about a section, solved in its worker as conditions move: `preview` while one moves, `commit` when it rests.
 * @param active whether anybody looks; nothing is solved else.
 */
export function useSectionFlow(source: ComputedRef<SectionSource | null>, active: ComputedRef<boolean>) {
  const project = useProject();
  const preferences = usePreferences();
  const chosen = computed(() => preferences.get<Partial<FlowConditions>>('section-conditions', {}));
  // What nobody has chosen here is as the project assumes it.
  const kept = computed<FlowConditions>(() => ({
    ...DEFAULTS,
    criticalAmplification: project.brief.assumptions.criticalAmplification,
    ...chosen.value,
  }));
  const moving = ref<Partial<FlowConditions>>({});
  const live = computed<FlowConditions>(() => ({ ...kept.value, ...moving.value }));
  const mach = computed(() => {
    try {
      return Math.min(0.69, designPoint(project.brief).flow.mach);
    } catch {
      return 0;
    }
  });
  const spread = computed<PanelSpread>(() => preferences.get('section-panels', DEFAULT_SPREAD));

  const viscousAnswer = useLive(lanes.section, 'viscous-point', () => {
    const c = live.value;
    if (!source.value || !active.value || !c.viscous) return null;
    return {
      source: source.value,
      flap: c.flap,
      spread: spread.value,
      alphaDeg: c.hold === 'alpha' ? c.alphaDeg : null,
      cl: c.hold === 'cl' ? c.cl : null,
      conditions: {
        reynolds: c.reynolds,
        mach: mach.value,
        criticalAmplification: c.criticalAmplification,
        criticalTop: c.criticalTop ?? undefined,
        criticalBottom: c.criticalBottom ?? undefined,
        grain: c.grain ?? undefined,
        tripTop: c.tripTop ?? undefined,
        tripBottom: c.tripBottom ?? undefined,
      },
    };
  });
  const viscous = computed(() => (live.value.viscous ? viscousAnswer.value.value : null));
  /** The angle shown: as held, or as it followed from the lift. */
  const alphaDeg = computed(() => {
    const alpha = viscous.value?.point.alpha;
    return live.value.hold === 'cl' && live.value.viscous && alpha != null ? alpha / RAD : live.value.alphaDeg;
  });
  // With the lift held, the figure without viscosity stands at the angle that was found.
  const inviscidAnswer = useLive(lanes.section, 'inviscid-flow', () =>
    source.value && active.value
      ? {
          source: source.value,
          flap: live.value.flap,
          spread: spread.value,
          alpha: alphaDeg.value * RAD,
          mach: mach.value,
        }
      : null,
  );
  const solving = computed(() => live.value.viscous && viscousAnswer.waiting.value);
  const failure = computed(
    () => inviscidAnswer.failure.value ?? (live.value.viscous ? viscousAnswer.failure.value : null),
  );

  const preview = (change: Partial<FlowConditions>) => (moving.value = { ...moving.value, ...change });
  const commit = (change: Partial<FlowConditions>) => {
    moving.value = {};
    preferences.set('section-conditions', { ...chosen.value, ...change });
  };
  return {
    spread,
    kept,
    live,
    mach,
    inviscid: inviscidAnswer.value,
    viscous,
    /** How long the last viscous point took, ms. */
    ms: viscousAnswer.ms,
    solving,
    failure,
    preview,
    commit,
    alphaDeg,
  };
}

export type SectionFlowState = ReturnType<typeof useSectionFlow>;
