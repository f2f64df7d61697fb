<script setup lang="ts">
import { zipSync } from 'fflate';
import { Upload, X } from 'lucide-vue-next';
import { computed } from 'vue';
import { toast } from 'vue-sonner';
import {
  flightModel,
  inBodyAxes,
  isLongitudinal,
  modelArrays,
  modelCsv,
  modelJson,
  modelText,
  polesOf,
  readModel,
  withOutputs,
  type ModelFormat,
} from '@veldtwind/core/control';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { saveBlob, saveText } from '@/lib/save';
import { usePreferences } from '@/store/preferences';
import type { useControl } from './use-control';
import { MEASURES } from '@veldtwind/core/control';

/** The linear model that the loops are closed about: out in four ways, and one from a file beside it. */
const props = defineProps<{ control: ReturnType<typeof useControl> }>();
const c = props.control;
const side = computed(() => (c.chain.value && isLongitudinal(c.chain.value.laws[0].from) ? 'longitudinal' : 'lateral'));
const stream = computed(() => (c.of.value ? flightModel(c.of.value, side.value, c.scale.value) : null));
const AXES = [
  { id: 'stream', name: 'along the stream' },
  { id: 'body', name: 'along the body' },
] as const;
const preferences = usePreferences();
const axes = computed(() => preferences.get<'stream' | 'body'>('model-axes', 'stream'));
/** Outputs that are left out of what is written. */
const left = computed(() => preferences.get<string[]>('model-without', []));
const outputs = computed(() => stream.value?.outputs ?? []);
const toggle = (name: string) =>
  preferences.set(
    'model-without',
    left.value.includes(name) ? left.value.filter((n) => n !== name) : [...left.value, name],
  );
const model = computed(() => {
  const m = stream.value;
  if (!m) return null;
  const turned = axes.value === 'body' ? inBodyAxes(m, c.motion.value.value?.trim.alpha ?? 0) : m;
  const kept = m.outputs.filter((n) => !left.value.includes(n));
  return withOutputs(turned, kept.length ? kept : m.outputs);
});
const WAYS: { id: ModelFormat; name: string }[] = [
  { id: 'json', name: 'JSON' },
  { id: 'csv', name: 'table' },
  { id: 'text', name: 'text' },
  { id: 'npz', name: 'arrays' },
];
function write(as: ModelFormat): void {
  const m = model.value;
  if (!m) return;
  const name = `${c.active.value?.letter ?? 'model'}-${side.value}`.toLowerCase();
  if (as === 'json') saveText(modelJson(m), `${name}.json`, 'application/json');
  else if (as === 'csv') saveText(modelCsv(m), `${name}.csv`, 'text/csv');
  else if (as === 'text') saveText(modelText(m), `${name}.txt`, 'text/plain');
  else
    saveBlob(new Blob([zipSync(modelArrays(m), { level: 0 }) as BlobPart], { type: 'application/zip' }), `${name}.npz`);
}
async function load(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file) return;
  try {
    const read = readModel(new Uint8Array(await file.arrayBuffer()), file.name);
    c.setBeside({ name: file.name.slice(0, 80), poles: polesOf(read.A) });
  } catch (error) {
    toast.error('The model was not read', {
      description: error instanceof VeldtwindError ? `${error.message} ${error.hint ?? ''}` : (error as Error).message,
      duration: 8000,
    });
  }
}
const upper = (list: readonly (readonly [number, number])[]) => list.filter(([, im]) => im >= -1e-9);
/** How far two poles lie from each other, in proportion: a fast one may be farther off. */
const apart = (a: readonly [number, number], b: readonly [number, number]) =>
  Math.hypot(a[0] - b[0], a[1] - b[1]) / (0.05 + Math.hypot(...a) + Math.hypot(...b));
/** Each pole of the file beside the nearest of the aircraft. */
const pairs = computed(() => {
  const own = upper(model.value ? polesOf(model.value.A) : []);
  return upper(c.beside.value?.poles ?? []).map(([re, im]) => {
    const near = own.reduce<readonly [number, number] | null>(
      (best, p) => (best === null || apart(p, [re, im]) < apart(best, [re, im]) ? p : best),
      null,
    );
    return { there: [re, im] as const, here: near };
  });
});
const told = (p: readonly [number, number] | null) =>
  p === null ? '—' : `${formatNumber(p[0], 3)}${p[1] > 1e-9 ? ` ± ${formatNumber(p[1], 3)} i` : ''}`;
</script>

<template>
  <SheetGroup title="The linear model">
    <template #aside>
      <label class="icon-btn cursor-pointer" title="Read a model from a file, and lay its poles beside">
        <Upload :size="13" />
        <input
          class="sr-only"
          type="file"
          accept=".json,.csv,.txt,.m,.npz"
          aria-label="Read a model from a file"
          data-test="read-model"
          @change="load"
        />
      </label>
    </template>
    <ChipRow
      label="Axes"
      :options="AXES"
      :on="[axes]"
      test="model-axes"
      @pick="(id) => preferences.set('model-axes', id)"
    />
    <ChipRow
      class="pt-1"
      label="Outputs"
      :options="outputs.map((id) => ({ id, name: MEASURES[id].symbol }))"
      :on="outputs.filter((o) => !left.includes(o))"
      test="model-output"
      @pick="toggle"
    />
    <p class="flex gap-3 pt-1 text-[13px]">
      <span class="text-soft">write as</span>
      <button
        v-for="w in WAYS"
        :key="w.id"
        class="link"
        :disabled="!model"
        :data-test="`write-model-${w.id}`"
        @click="write(w.id)"
      >
        {{ w.name }}
      </button>
    </p>
    <p class="pt-1 text-[12px] text-soft">Tables of its aerodynamics by S-119 are written in Flights.</p>
    <template v-if="c.beside.value">
      <p class="flex items-center justify-between pt-2 text-[12.5px]" data-test="model-beside">
        <span
          >Poles of <b>{{ c.beside.value.name }}</b>, squares in the figure</span
        >
        <button class="icon-btn" title="Remove" aria-label="Remove the model" @click="c.setBeside(null)">
          <X :size="13" />
        </button>
      </p>
      <table class="w-full text-[12.5px] tabular-nums">
        <thead>
          <tr class="text-left text-soft">
            <th class="font-normal">there</th>
            <th class="font-normal">here, nearest</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in pairs" :key="i">
            <td>{{ told(p.there) }}</td>
            <td>{{ told(p.here) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </SheetGroup>
</template>
