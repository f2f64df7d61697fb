import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue';
import { designPoint } from '@veldtwind/core/candidate';
import { DEFAULT_SPREAD, type PanelSpread } from '@veldtwind/core/section-flow';
import type { SectionSource } from '@veldtwind/core/shaping';
import { latestOnly } from '@/lib/latest-only';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { sectionWorker } from '@/worker/compute';
import type { FlapSetting, SectionFlow, ViscousFlow } from '@/worker/compute.worker';

/** Conditions at which the open section is solved; the engineer's own, kept between visits. */
export interface FlowConditions {
  viscous: boolean;
  /** Which of the two is held; the other follows. */
  hold: 'alpha' | 'cl';
  alphaDeg: number;
  cl: number;
  reynolds: number;
  criticalAmplification: number;
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
  tripTop: null,
  tripBottom: null,
  flap: null,
};

const RAD = Math.PI / 180;
const plain = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;

/** The live flow about a section, solved in its worker as conditions move: `preview` while one moves, `commit` when it rests. */
export function useSectionFlow(source: ComputedRef<SectionSource | null>) {
  const project = useProject();
  const preferences = usePreferences();
  const kept = computed<FlowConditions>(() => ({ ...DEFAULTS, ...preferences.get('section-conditions', {}) }));
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
  const inviscid = shallowRef<SectionFlow | null>(null);
  const viscous = shallowRef<ViscousFlow | null>(null);
  const solving = ref(false);
  const failure = ref<{ message: string; hint?: string } | null>(null);

  const askInviscid = latestOnly(
    (s: SectionSource, c: FlowConditions, alphaDeg: number, m: number) =>
      sectionWorker.flow(plain(s), plain(c.flap), alphaDeg * RAD, m, plain(spread.value)),
    (f) => ((inviscid.value = f), (failure.value = null)),
    (e) => ((inviscid.value = null), (failure.value = e as Error)),
  );
  const askViscous = latestOnly(
    (s: SectionSource, c: FlowConditions, m: number) => {
      solving.value = true;
      return sectionWorker.viscous(plain(s), {
        spread: plain(spread.value),
        alphaDeg: c.hold === 'alpha' ? c.alphaDeg : null,
        cl: c.hold === 'cl' ? c.cl : null,
        reynolds: c.reynolds,
        mach: m,
        criticalAmplification: c.criticalAmplification,
        tripTop: c.tripTop,
        tripBottom: c.tripBottom,
        flap: plain(c.flap),
      });
    },
    (f, s, c, m) => {
      solving.value = false;
      viscous.value = f;
      failure.value = null;
      // With the lift held, the figure without viscosity stands at the angle that was found.
      if (c.hold === 'cl' && Number.isFinite(f.point.alpha)) askInviscid(s, c, f.point.alpha / RAD, m);
    },
    (e) => {
      solving.value = false;
      viscous.value = null;
      failure.value = e as Error;
    },
  );
  watch(
    [source, live, mach, spread],
    () => {
      const s = source.value;
      if (!s) return;
      if (live.value.hold === 'alpha' || !live.value.viscous)
        askInviscid(s, live.value, live.value.alphaDeg, mach.value);
      if (live.value.viscous) askViscous(s, live.value, mach.value);
      else viscous.value = null;
    },
    { immediate: true },
  );

  const preview = (change: Partial<FlowConditions>) => (moving.value = { ...moving.value, ...change });
  const commit = (change: Partial<FlowConditions>) => {
    moving.value = {};
    preferences.set('section-conditions', { ...kept.value, ...change });
  };
  /** The angle shown: as held, or as it followed from the lift. */
  const alphaDeg = computed(() => {
    const alpha = viscous.value?.point.alpha;
    return live.value.hold === 'cl' && live.value.viscous && alpha !== undefined && Number.isFinite(alpha)
      ? alpha / RAD
      : live.value.alphaDeg;
  });
  return { spread, kept, live, mach, inviscid, viscous, solving, failure, preview, commit, alphaDeg };
}

export type SectionFlowState = ReturnType<typeof useSectionFlow>;
