<script setup lang="ts">
import { Download } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import { SECTION_FORMATS, type SectionFormat } from '@veldtwind/core/formats';
import { resolvedSource, type SectionPart } from '@veldtwind/core/project';
import { parseQuantity } from '@veldtwind/core/units';
import { freeId } from '@/lib/ids';
import { saveBlob } from '@/lib/save';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';

/** Writes sections as files: one by itself, several as a zip. */
const props = defineProps<{ choices: { id: string; label: string; sections: SectionPart[] }[] }>();
const project = useProject();
const which = ref('');
const format = ref<SectionFormat>('single-loop');
const chord = ref('1');
const points = ref('161');
const refusal = ref('');
const NAMES: Record<SectionFormat, string> = {
  'single-loop': 'one loop',
  'two-surface': 'two surfaces',
  csv: 'CSV',
  svg: 'SVG drawing',
  dxf: 'DXF drawing',
};
const ENDING: Record<SectionFormat, string> = {
  'single-loop': 'txt',
  'two-surface': 'txt',
  csv: 'csv',
  svg: 'svg',
  dxf: 'dxf',
};
const choice = computed(() => props.choices.find((c) => c.id === which.value) ?? props.choices[0]);

/** Chord in the unit it was given in; a bare number has none. */
function chordOf(): { chord: number; unit: 'mm' | 'm' | 'in' } {
  const [, unit = ''] = /([a-z]+)\s*$/i.exec(chord.value) ?? [];
  const metres = parseQuantity(unit ? chord.value : `${chord.value} m`, 'length', 'metric');
  if (!(metres > 0)) throw new Error('The chord must be greater than 0.');
  if (unit === 'in') return { chord: metres / 0.0254, unit: 'in' };
  return !unit || unit === 'm' ? { chord: metres, unit: unit ? 'm' : 'mm' } : { chord: metres * 1000, unit: 'mm' };
}
async function write(): Promise<void> {
  refusal.value = '';
  try {
    const count = Number(points.value);
    if (!Number.isInteger(count) || count < 11 || count > 2001)
      throw new Error('Points: a whole number from 11 to 2001.');
    const size = chordOf();
    const used = new Set<string>();
    const list = choice.value.sections.map((s) => {
      const file = freeId(s.name, (i) => used.has(i));
      used.add(file);
      return {
        name: s.name,
        file: `${file}.${ENDING[format.value]}`,
        source: resolvedSource(project.document.sections, s.id),
      };
    });
    const { bytes, failed } = await lanes.library.run('write-files', {
      sections: list,
      format: format.value,
      options: { ...size, points: count },
    });
    const several = list.length > 1;
    saveBlob(new Blob([bytes as Uint8Array<ArrayBuffer>]), several ? `sections-${format.value}.zip` : list[0].file);
    if (failed.length) toast.error(`${failed.length} not written`, { description: failed.slice(0, 5).join(' ') });
  } catch (error) {
    refusal.value = (error as Error).message;
  }
}
</script>

<template>
  <form class="grid grid-cols-[1fr_150px] items-center gap-y-1.5" @submit.prevent="write">
    <label for="write-which" class="text-soft">Write</label>
    <select id="write-which" v-model="which" class="rounded border border-rule bg-field px-1.5 py-[3px]">
      <option v-for="(c, i) in choices" :key="c.id" :value="i === 0 ? '' : c.id">{{ c.label }}</option>
    </select>
    <label for="write-as" class="text-soft">as</label>
    <select id="write-as" v-model="format" class="rounded border border-rule bg-field px-1.5 py-[3px]">
      <option v-for="f in SECTION_FORMATS" :key="f" :value="f">{{ NAMES[f] }}</option>
    </select>
    <label for="write-chord" class="text-soft">chord</label>
    <input
      id="write-chord"
      v-model="chord"
      class="rounded border border-rule bg-field px-2 py-[3px] text-right"
      title="240 mm, 0.24 m, 9.5 in; a bare number has no unit"
    />
    <label for="write-points" class="text-soft">points</label>
    <input
      id="write-points"
      v-model="points"
      class="rounded border border-rule bg-field px-2 py-[3px] text-right"
      inputmode="numeric"
    />
    <p v-if="refusal" class="col-span-2 text-[12px] text-clay" role="alert">{{ refusal }}</p>
    <span />
    <button class="btn inline-flex items-center justify-center gap-1.5" data-test="write-sections">
      <Download :size="13" />{{
        (choice?.sections.length ?? 0) > 1 ? `Write ${choice.sections.length} as zip` : 'Write the file'
      }}
    </button>
  </form>
</template>
