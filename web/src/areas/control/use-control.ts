import { computed, ref, shallowRef, watch } from 'vue';
import { toast } from 'vue-sonner';
import { controlNames } from '@veldtwind/core/candidate';
import {
  autopilotSchema,
  THRUST,
  modelPrint,
  type AutopilotSettings,
  type Law,
  type LoopStudy,
} from '@veldtwind/core/control';
import type { CandidatePart } from '@veldtwind/core/project';
import { newId } from '@/lib/ids';
import { failureOf, latestOnly, useLive } from '@/lib/live';
import { useCandidateMotion } from '@/store/candidate-motion';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { AnalysisError, lanes } from '@/worker/lane';

export type ChainKind = 'pitch' | 'roll' | 'yaw' | 'speed';
const ROUND = (v: number) => Number(v.toPrecision(4));
const rounded = (l: Law): Law => ({ ...l, kp: ROUND(l.kp), ki: ROUND(l.ki), kd: ROUND(l.kd) });

/** Loops of the candidate that is worked on: what is chosen, what it does now and did before, and the edits of it. */
export function useControl() {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const speed = computed(() => project.brief.speed);
  const { motion, input: motionInput, needs, missing, withPolars, polars } = useCandidateMotion(() => speed.value);
  const active = computed(() => workbench.active);
  const settings = computed<AutopilotSettings>(() => active.value?.autopilot ?? autopilotSchema.parse({}));
  const chosenChain = ref<string | null>(null);
  const chosenLoop = ref(0);
  const chain = computed(
    () => settings.value.chains.find((c) => c.id === chosenChain.value) ?? settings.value.chains[0] ?? null,
  );
  const loop = computed(() => Math.min(chosenLoop.value, (chain.value?.laws.length ?? 1) - 1));
  const law = computed(() => chain.value?.laws[loop.value] ?? null);
  const scaleKey = computed(
    () => `control-scale-${(project.id ?? '').slice(0, 8)}-${(active.value?.id ?? '').slice(0, 12)}`,
  );
  const scale = computed<Record<string, number>>(() => preferences.get(scaleKey.value, {}));
  function setScale(name: string, by: number): void {
    const { [name]: _, ...rest } = scale.value;
    preferences.set(scaleKey.value, by === 1 ? rest : { ...rest, [name]: by });
  }
  /** A model that was read from a file: its poles lie beside those of the aircraft. */
  type Beside = { name: string; poles: [number, number][] };
  const besideKey = computed(() => `model-beside-${(project.id ?? '').slice(0, 8)}`);
  const beside = computed(() => preferences.get<Beside | null>(besideKey.value, null));
  const setBeside = (m: Beside | null) => preferences.set(besideKey.value, m);
  /** Names of the controls by id, as motion has them. */
  const controls = computed<Record<string, string>>(() => (active.value ? controlNames(active.value) : {}));
  const of = computed(() => motion.value.value?.case ?? null);
  const print = computed(() => (of.value && chain.value ? modelPrint(of.value, chain.value) : ''));
  const input = (more: { settings?: AutopilotSettings; scale?: Record<string, number> } = {}) =>
    of.value && chain.value
      ? {
          of: of.value,
          scale: more.scale ?? scale.value,
          settings: more.settings ?? settings.value,
          controls: controls.value,
          chain: chain.value.id,
          loop: loop.value,
        }
      : null;
  const study = useLive(lanes.control, 'control-study', () => input());
  /** Loops as they are kept: what looks at all of them, or at every speed, follows when a gain that is dragged is let go. */
  const kept = computed(() => project.edited.candidates[active.value?.id ?? '']?.autopilot ?? settings.value);
  const keptInput = () => {
    const c = kept.value.chains.find((v) => v.id === chain.value?.id);
    return c && loop.value < c.laws.length ? input({ settings: kept.value }) : null;
  };
  const survey = useLive(lanes.survey, 'control-survey', () =>
    of.value && kept.value.chains.length
      ? { of: of.value, scale: scale.value, settings: kept.value, controls: controls.value }
      : null,
  );
  const robust = useLive(lanes.survey, 'control-robustness', keptInput);
  /** Whether margins over speeds and loadings are looked at: they take a while. */
  const reaching = ref(false);
  const REACH = [0.7, 0.8, 0.9, 1, 1.15, 1.3, 1.5];
  const reach = useLive(lanes.flight, 'control-reach', () => {
    const [asked, base] = [keptInput(), reaching.value ? motionInput() : null];
    if (!asked || !base) return null;
    const { of: _, ...rest } = asked;
    return {
      ...rest,
      of: base,
      speeds: REACH.map((k) => Number((k * speed.value).toPrecision(4))),
      loadings: Object.keys(active.value?.loadings ?? {}).length ? Object.keys(active.value!.loadings!) : [null],
      share: 0.2,
    };
  });
  /** With all derivatives as they are, where some are switched off. */
  const plain = useLive(lanes.survey, 'control-study', () =>
    Object.keys(scale.value).length ? input({ scale: {} }) : null,
  );
  /** What it did before the last change: drawn dashed. */
  const before = shallowRef<LoopStudy | null>(null);
  let settled: { key: string; study: LoopStudy } | null = null;
  const key = computed(() => `${active.value?.id}|${chain.value?.id}|${loop.value}`);
  watch(key, () => {
    before.value = null;
    settled = null;
  });
  const studied = ref('');
  watch(
    [study.value, study.stale],
    ([now, stale]) => {
      if (now && !stale) studied.value = key.value;
    },
    { immediate: true },
  );
  /** The study, where it is of the loop that is chosen: until its own comes, that of the loop before is only drawn, and nothing is moved by it. */
  const own = computed(() => (studied.value === key.value ? study.value.value : null));
  watch([study.value, () => project.previewing], ([now, previewing]) => {
    if (!now || previewing || study.stale.value) return;
    if (settled?.key === key.value && settled.study !== now) before.value = settled.study;
    settled = { key: key.value, study: now };
  });
  const dashed = computed(() =>
    plain.value.value && Object.keys(scale.value).length ? plain.value.value : before.value,
  );

  const on = (edit: (a: AutopilotSettings) => void) => (draft: { candidates: Record<string, unknown> }) => {
    const c = draft.candidates[active.value?.id ?? ''] as CandidatePart | undefined;
    if (!c) return;
    const next = JSON.parse(JSON.stringify(c.autopilot ?? autopilotSchema.parse({}))) as AutopilotSettings;
    edit(next);
    c.autopilot = next;
  };
  const change = (label: string, edit: (a: AutopilotSettings) => void) => project.edit(label, on(edit) as never);
  const preview = (edit: (a: AutopilotSettings) => void) => project.show(on(edit) as never);
  const inLaw =
    (edit: (l: Law) => void, tuned = true) =>
    (a: AutopilotSettings) => {
      const c = a.chains.find((v) => v.id === chain.value?.id);
      if (!c) return;
      edit(c.laws[loop.value]);
      if (tuned) c.tunedFor = print.value;
    };
  const changeLaw = (label: string, edit: (l: Law) => void) => change(label, inLaw(edit));
  const previewLaw = (edit: (l: Law) => void) => preview(inLaw(edit));
  const changeChain = (label: string, edit: (c: AutopilotSettings['chains'][number]) => void) =>
    change(label, (a) => {
      const c = a.chains.find((v) => v.id === chain.value?.id);
      if (c) edit(c);
    });

  /** Gains for a crossing, or the fastest that do not ring. */
  async function solve(crossing: { frequency: number; phaseMargin: number } | null): Promise<void> {
    const asked = input();
    if (!asked) return;
    try {
      const found = rounded(await lanes.control.run('control-gains', { of: asked, crossing }));
      changeLaw(crossing ? 'Gains for a crossing' : 'Gains as fast as it can be', (l) => Object.assign(l, found));
    } catch (error) {
      const { message, hint } = failureOf(error);
      toast.error(message, { description: hint, duration: 8000 });
    }
  }

  /** Gains for a crossing that is being dragged: shown, and kept with the last of them. */
  const unreachable = ref('');
  const follow = latestOnly(
    async (crossing: { frequency: number; phaseMargin: number }, _last: boolean) => {
      const asked = input();
      return asked && rounded(await lanes.control.run('control-gains', { of: asked, crossing }));
    },
    (found, _crossing, last) => {
      unreachable.value = '';
      if (!found) return;
      if (last) changeLaw('Gains for a crossing', (l) => Object.assign(l, found));
      else previewLaw((l) => Object.assign(l, found));
    },
    (error, _crossing, last) => {
      unreachable.value = failureOf(error).message;
      if (!last) return;
      project.show(() => undefined);
      toast.error(unreachable.value, { description: failureOf(error).hint, duration: 8000 });
      unreachable.value = '';
    },
  );

  const PRESETS: Record<ChainKind, { name: string; moment: 'Cm' | 'Cl' | 'Cn' | null; laws: Law['from'][] }> = {
    pitch: { name: 'Pitch', moment: 'Cm', laws: ['q', 'theta'] },
    roll: { name: 'Roll', moment: 'Cl', laws: ['p', 'phi'] },
    yaw: { name: 'Yaw damper', moment: 'Cn', laws: ['r'] },
    speed: { name: 'Speed', moment: null, laws: ['V'] },
  };
  /** The control that turns most about an axis, and which way. */
  function controlFor(kind: ChainKind): { id: string; sign: 1 | -1 } | null {
    const { moment } = PRESETS[kind];
    if (moment === null) return settings.value.chains.some((c) => c.to === THRUST) ? null : { id: THRUST, sign: 1 };
    let best: { id: string; sign: 1 | -1; size: number } | null = null;
    for (const [id, name] of Object.entries(controls.value)) {
      if (settings.value.chains.some((c) => c.to === id)) continue;
      const d = of.value?.derivatives.controls[name];
      if (!d) continue;
      // What moves it without much else beside it.
      const size = Math.abs(d[moment]) / (1 + (moment === 'Cm' ? Math.abs(d.CL / (d.Cm || 1e-9)) : 0));
      if (size > 1e-4 && size > (best?.size ?? 0)) best = { id, sign: d[moment] > 0 ? 1 : -1, size };
    }
    return best;
  }
  /** A new chain whose gains are found from the inner loop outward. */
  async function addChain(kind: ChainKind): Promise<void> {
    const m = of.value;
    const moved = controlFor(kind);
    const preset = PRESETS[kind];
    if (!m || !moved) {
      toast.error(
        kind === 'speed' ? 'A chain moves the thrust already.' : `No control is free for ${preset.name.toLowerCase()}.`,
        {
          description: 'Give a surface a control in Airframe, or remove the chain that moves it.',
        },
      );
      return;
    }
    const id = newId();
    const made: AutopilotSettings['chains'][number] = {
      id,
      name: preset.name,
      to: moved.id,
      mover: kind === 'speed' ? { timeConstant: 0.3 } : { timeConstant: 0.05, rateDeg: 300 },
      laws: preset.laws.map((from, i) => ({ from, kp: 0.1, ki: 0, kd: 0, sign: i === 0 ? moved.sign : 1 })),
      tunedFor: '',
    };
    const next: AutopilotSettings = { ...settings.value, chains: [...settings.value.chains, made] };
    for (let i = 0; i < made.laws.length; i++) {
      try {
        const found = await lanes.control.run('control-gains', {
          of: { of: m, scale: {}, settings: next, controls: controls.value, chain: id, loop: i },
          crossing: null,
        });
        made.laws[i] = rounded(found);
      } catch (error) {
        if (!(error instanceof AnalysisError)) throw error;
        // It stays with its first gain: the engineer sees that it does not keep its aims.
      }
    }
    change(`New chain: ${preset.name}`, (a) => a.chains.push(made));
    chosenChain.value = id;
    chosenLoop.value = made.laws.length - 1;
    changeChain('Tuned for this model', (c) => (c.tunedFor = print.value));
  }
  const stale = computed(() => Boolean(chain.value?.tunedFor && print.value && chain.value.tunedFor !== print.value));

  return {
    active,
    motion,
    of,
    needs,
    missing,
    withPolars,
    polars,
    settings,
    chain,
    chosenChain,
    chosenLoop,
    loop,
    law,
    controls,
    scale,
    setScale,
    beside,
    setBeside,
    study,
    own,
    survey,
    robust,
    reaching,
    reach,
    dashed,
    stale,
    print,
    change,
    preview,
    changeLaw,
    previewLaw,
    changeChain,
    solve,
    follow,
    unreachable,
    addChain,
    speed,
  };
}
