import { computed, ref } from 'vue';
import type { Actuation, Servo } from '@veldtwind/core/actuation';
import type { Control, LiftingSurface } from '@veldtwind/core/airframe';
import {
  inputsOfMotion,
  overhangsOf,
  withServo,
  type ControlTorque,
  type ServoTorque,
  type TorqueInput,
} from '@veldtwind/core/candidate';
import { useLive } from '@/lib/live';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** A control with its surface, what moves it, and its torque where it is known. */
export interface TorqueRow {
  id: string;
  control: Control;
  surface: LiftingSurface;
  torque: ServoTorque | null;
}

/** Speeds of the figure over speed, over the one that is looked at. */
const OVER = [0.7, 1.2, 1.4];

/** Torque of the controls of the candidate that is worked on: at a speed, and over speeds. */
export function useTorque() {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const active = computed(() => workbench.active);
  const key = computed(() => `torque-speed-${(project.id ?? '').slice(0, 8)}`);
  const speed = computed({
    get: () => preferences.get<number>(key.value, project.brief.speed),
    set: (v) => preferences.set(key.value, v),
  });
  const controls = computed(() =>
    (active.value?.surfaces ?? []).flatMap((surface) =>
      (surface.controls ?? []).map((control) => ({ surface, control })),
    ),
  );
  const ready = computed(() => Boolean(active.value && active.value.massItems.length && controls.value.length));
  // What is kept, not what is being dragged: it takes seconds.
  const input = (speeds: number[]): TorqueInput | null => {
    const id = active.value?.id;
    if (!id || !ready.value) return null;
    const kept = project.edited;
    const { brief, candidates } = kept;
    const overhangs = overhangsOf(candidates[id]?.actuation);
    return {
      // Polars change nothing of it but the angle, and that little.
      of: inputsOfMotion(kept, id, speed.value, undefined, null),
      ...(overhangs && { overhangs }),
      speeds,
      ncrit: brief.assumptions.criticalAmplification,
    };
  };
  const now = useLive(lanes.flight, 'control-torque', () => input([speed.value]), true);
  /** Whether the figure over speed is looked at: it takes as long for each speed. */
  const over = ref(false);
  const others = useLive(
    lanes.survey,
    'control-torque',
    () => (over.value && now.value.value ? input(OVER.map((k) => Number((k * speed.value).toPrecision(3)))) : null),
    true,
  );
  const actuation = computed<Actuation>(() => active.value?.actuation ?? {});
  const servoed = (c: ControlTorque | undefined) => (c ? withServo(c, actuation.value[c.id]?.servo) : null);
  const rows = computed<TorqueRow[]>(() =>
    controls.value.map(({ surface, control }) => ({
      id: control.id,
      control,
      surface,
      torque: servoed(now.value.value?.[0]?.controls.find((c) => c.id === control.id)),
    })),
  );
  const all = computed(() =>
    [...(now.value.value ?? []), ...(over.value ? (others.value.value ?? []) : [])]
      .map((t) => ({ ...t, controls: t.controls.map((c) => servoed(c)!) }))
      .sort((a, b) => a.speed - b.speed),
  );
  /** Makes an edit of what moves a control; what says nothing any more goes. */
  function change(label: string, id: string, edit: (a: Actuation[string]) => void): void {
    const c = active.value;
    if (!c) return;
    project.edit(`${label} (${c.letter})`, (draft) => {
      const own = draft.candidates[c.id];
      if (!own) return;
      const all = (own.actuation ??= {});
      const one = (all[id] ??= {});
      edit(one);
      if (!one.overhang) delete one.overhang;
      if (Object.keys(one).length === 0) delete all[id];
      if (Object.keys(all).length === 0) delete own.actuation;
    });
  }
  const setServo = (label: string, id: string, more: Partial<Servo>) =>
    change(label, id, (a) => {
      if (a.servo) Object.assign(a.servo, more);
    });
  return { active, speed, ready, rows, now, over, others, all, actuation, change, setServo };
}
