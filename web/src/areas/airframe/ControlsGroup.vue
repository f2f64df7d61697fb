<script setup lang="ts">
import { Plus, Trash2 } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { MOST_CONTROLS, SURFACE_LIMITS, type Control, type LiftingSurface } from '@veldtwind/core/airframe';
import { ControlTravel, plainFlapTravel } from '@veldtwind/core/lift';
import { freeId } from '@veldtwind/core/limits';
import { RAD } from '@veldtwind/core/numerics';
import { keepSetting, settingNow, useSetting as takeSetting, type CandidatePart } from '@veldtwind/core/project';
import BoundField from '@/components/field/BoundField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import TextRow from '@/components/field/TextRow.vue';
import { travelWords } from '@/lib/travel-words';
import type { DocumentPath } from '@/lib/document-path';
import { useCandidateEdit } from '@/store/candidate-edit';

/** Flaps and control surfaces of a surface, and the settings of all controls that are kept by name. */
const props = defineProps<{
  candidate: CandidatePart;
  surface: LiftingSurface;
  at: (...rest: (string | number)[]) => DocumentPath;
}>();
const { change, changeSurface } = useCandidateEdit();
const set = (label: string, edit: (s: LiftingSurface) => void) =>
  changeSurface(`${props.surface.name}: ${label}`, props.surface.id, edit);
const controls = computed(() => props.surface.controls ?? []);
const KINDS = computed(() =>
  props.surface.mirrored
    ? ([
        { id: 'symmetric', name: 'both alike' },
        { id: 'opposed', name: 'opposed' },
      ] as const)
    : ([{ id: 'symmetric', name: 'alone' }] as const),
);
function add(): void {
  const taken = props.candidate.surfaces.flatMap((s) => (s.controls ?? []).map((c) => c.id));
  const { role, plane } = props.surface;
  const first =
    role === 'tailplane'
      ? 'Elevator'
      : plane === 'vertical'
        ? 'Rudder'
        : controls.value.length === 0
          ? 'Aileron'
          : 'Flap';
  const opposed = first === 'Aileron' && props.surface.mirrored;
  set(`new ${first.toLowerCase()}`, (s) => {
    const made: Control = {
      id: freeId(first, (id) => taken.includes(id)),
      name: first,
      from: first === 'Aileron' ? 0.6 : first === 'Flap' ? 0.1 : 0,
      to: first === 'Aileron' ? 0.95 : first === 'Flap' ? 0.55 : 1,
      hinge: first === 'Aileron' || first === 'Flap' ? 0.75 : 0.65,
      kind: opposed ? 'opposed' : 'symmetric',
      deflectionDeg: 0,
      limitsDeg: first === 'Flap' ? [-5, 40] : [-25, 25],
    };
    s.controls = [...(s.controls ?? []), made];
  });
}
/** What is left of the deflection, at each limit. */
function worksAt(c: Control): string {
  const travel = new ControlTravel(plainFlapTravel(c.hinge));
  return c.limitsDeg
    .filter((deg) => deg !== 0)
    .map((deg) => travelWords(travel.share(deg * RAD), deg, 'plain-flap'))
    .join(', ');
}
const now = computed(() => settingNow(props.candidate));
const anywhere = computed(() => props.candidate.surfaces.some((s) => (s.controls ?? []).length > 0));
const kept = ref('');
function keep(): void {
  const name = kept.value.trim();
  if (!name) return;
  change(`Keep the setting ${name}`, (c) => keepSetting(c, name));
  kept.value = '';
}
const { control: L } = SURFACE_LIMITS;
</script>

<template>
  <SheetGroup title="Controls">
    <template #aside>
      <button
        class="link flex items-center gap-0.5 text-[13px]"
        data-test="add-control"
        :disabled="controls.length >= MOST_CONTROLS"
        @click="add"
      >
        <Plus :size="12" />control
      </button>
    </template>
    <p v-if="controls.length === 0" class="text-[12.5px] text-soft">
      Flaps, ailerons, elevators, rudders: a stretch of span behind a hinge line.
    </p>
    <div v-for="(c, i) in controls" :key="c.id" class="mb-2 border-l-2 border-rule pl-2.5" data-test="control">
      <div class="flex items-center justify-between">
        <span class="text-[12.5px] font-semibold">{{ c.name }}</span>
        <button
          class="icon-btn"
          :aria-label="`Remove ${c.name}`"
          title="Remove"
          @click="set(`remove ${c.name}`, (s) => s.controls!.splice(i, 1))"
        >
          <Trash2 :size="12" />
        </button>
      </div>
      <TextRow
        label="Name"
        :model-value="c.name"
        :most="60"
        needed
        @update:model-value="(v) => set('name of a control', (s) => (s.controls![i].name = v))"
      />
      <BoundField
        :path="at('controls', i, 'deflectionDeg')"
        :limit="L.deflectionDeg"
        :min="c.limitsDeg[0]"
        :max="c.limitsDeg[1]"
        :step="`${c.name}: deflection`"
        :hint="
          surface.plane === 'vertical'
            ? 'Trailing edge to the left'
            : c.kind === 'opposed'
              ? 'Right side down'
              : 'Trailing edge down'
        "
      />
      <BoundField :path="at('controls', i, 'from')" :limit="L.from" :max="c.to - 0.01" :step="`${c.name}: span`" />
      <BoundField :path="at('controls', i, 'to')" :limit="L.to" :min="c.from + 0.01" :step="`${c.name}: span`" />
      <BoundField :path="at('controls', i, 'hinge')" :limit="L.hinge" :step="`${c.name}: hinge`" />
      <SelectRow
        label="Left and right"
        :model-value="c.kind"
        :options="KINDS"
        @update:model-value="(v) => set('sides of a control', (s) => (s.controls![i].kind = v))"
      />
      <BoundField
        :path="at('controls', i, 'limitsDeg', 0)"
        :limit="L.limitDeg"
        label="Least"
        :max="Math.min(c.limitsDeg[1], c.deflectionDeg)"
        :step="`${c.name}: limits`"
      />
      <BoundField
        :path="at('controls', i, 'limitsDeg', 1)"
        :limit="L.limitDeg"
        label="Greatest"
        :min="Math.max(c.limitsDeg[0], c.deflectionDeg)"
        :step="`${c.name}: limits`"
      />
      <p class="text-[12px] text-soft" data-test="travel">{{ worksAt(c) }}</p>
    </div>
    <template v-if="anywhere">
      <div class="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label="Settings of the controls">
        <span class="text-[12.5px] text-soft">Settings</span>
        <span v-for="s in candidate.settings ?? []" :key="s.id" class="flex">
          <button
            class="chip"
            :class="{ on: s.id === now?.id }"
            :aria-pressed="s.id === now?.id"
            :data-test="`setting-${s.id}`"
            @click="change(`Controls to ${s.name}`, (c) => takeSetting(c, s.id))"
          >
            {{ s.name }}
          </button>
          <button
            class="icon-btn"
            :aria-label="`Forget the setting ${s.name}`"
            title="Forget"
            @click="
              change(`Forget the setting ${s.name}`, (c) => (c.settings = c.settings?.filter((k) => k.id !== s.id)))
            "
          >
            <Trash2 :size="11" />
          </button>
        </span>
      </div>
      <form class="mt-1 flex gap-1" @submit.prevent="keep">
        <input
          v-model="kept"
          class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-px text-[12.5px]"
          maxlength="60"
          placeholder="keep as: take-off"
          aria-label="Name of the setting to keep"
          data-test="setting-name"
        />
        <button class="link text-[12.5px]" :disabled="!kept.trim()" data-test="keep-setting">Keep</button>
      </form>
    </template>
  </SheetGroup>
</template>
