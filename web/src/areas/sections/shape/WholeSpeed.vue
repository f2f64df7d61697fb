<script setup lang="ts">
import { computed, ref } from 'vue';
import { toast } from 'vue-sonner';
import { RAD } from '@veldtwind/core/numerics';
import { resolvedSource } from '@veldtwind/core/project';
import type { SavedStep, SpeedReport } from '@veldtwind/core/shaping';
import { formatNumber } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import { useProject } from '@/store/project';
import { lanes } from '@/worker/lane';
import type { RecipeState } from './recipe';

type WholeStep = Extract<SavedStep, { kind: 'whole-speed' }>;
/** A whole speed to shape to: taken from another section, or given as text; and how the outline closes. */
const props = defineProps<{ step: WholeStep; own: string; recipe: RecipeState; report?: SpeedReport }>();
const emit = defineEmits<{ commit: [step: SavedStep] }>();
const project = useProject();
const others = computed(() => project.sections.filter((s) => s.id !== props.own));
const from = ref('');
const text = ref('');
async function take(): Promise<void> {
  const id = from.value || others.value[0]?.id;
  if (!id) return;
  try {
    const source = resolvedSource(project.document.sections, id);
    const alpha = props.step.angleDeg * RAD;
    const speeds = await lanes.shape.run('section-speeds', { source, alpha });
    const { facts } = await lanes.shape.run('section-view', { source });
    emit('commit', { ...props.step, ...speeds, gap: Number(facts.trailingEdge.gap.toFixed(6)) });
  } catch (error) {
    toast.error((error as Error).message);
  }
}
/** Lines of surface, x and speed. */
function takeText(): void {
  const upper: [number, number][] = [];
  const lower: [number, number][] = [];
  for (const line of text.value.split(/\r?\n/)) {
    const match = /^\s*(upper|lower)[\s,;]+([-+\d.eE]+)[\s,;]+([-+\d.eE]+)/i.exec(line);
    if (match) (match[1].toLowerCase() === 'upper' ? upper : lower).push([Number(match[2]), Number(match[3])]);
  }
  if (upper.length < 5 || lower.length < 5) {
    toast.error('Give five or more lines for each surface: upper, x, speed.');
    return;
  }
  emit('commit', { ...props.step, upper, lower });
}
const asText = () => {
  text.value = [
    ...props.step.upper.map(([x, v]) => `upper, ${x}, ${v}`),
    ...props.step.lower.map(([x, v]) => `lower, ${x}, ${v}`),
  ].join('\n');
};
</script>

<template>
  <div class="mt-1 text-[12.5px]">
    <div class="flex items-center gap-2">
      <span class="text-soft">Speed of</span>
      <select
        v-model="from"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-1.5 py-[3px]"
        aria-label="Section whose speed is taken"
      >
        <option v-for="(s, i) in others" :key="s.id" :value="i === 0 ? '' : s.id">{{ s.name }}</option>
      </select>
      <button class="btn" data-test="take-speed" @click="take">Take it</button>
    </div>
    <details class="mt-1" @toggle="asText">
      <summary class="cursor-pointer text-soft hover:text-ink">
        as text ({{ step.upper.length }} and {{ step.lower.length }} places)
      </summary>
      <textarea
        v-model="text"
        rows="6"
        class="w-full rounded border border-rule bg-field px-2 py-1 font-mono text-[11.5px]"
        aria-label="Speeds as text"
      />
      <button class="btn" @click="takeText">Apply</button>
    </details>
    <div v-if="report?.closure" class="mt-1" data-test="closure">
      <p class="font-semibold">Closure of the section</p>
      <DerivedRow
        label="Residual"
        :value="report.after"
        dimension="ratio"
        :digits="2"
        note="root mean square, of the stream’s speed"
      />
      <DerivedRow label="mean speed" :value="report.closure.level" dimension="ratio" :digits="3" />
      <DerivedRow label="fore and aft" :value="report.closure.foreAft" dimension="ratio" :digits="3" />
      <DerivedRow label="upper less lower" :value="report.closure.aboveBelow" dimension="ratio" :digits="3" />
      <DerivedRow label="Edge gap" :value="report.closure.gap" dimension="ratio" :digits="3" />
      <p class="text-[12px] text-soft">
        Not every speed belongs to a closed section; what this one cannot have stays as a residual. The outline moved by
        up to
        {{ formatNumber(100 * report.displacement, 2) }} % c.
      </p>
    </div>
  </div>
</template>
