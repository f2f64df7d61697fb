<script setup lang="ts">
import { Pin } from 'lucide-vue-next';
import { computed, ref, useId, watch } from 'vue';
import { displayUnit, formatNumber, hasTwoReadings, parseQuantity, type Dimension } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';

/**
 * A number with its unit. Takes units and arithmetic, is dragged by its name or nudged with the arrow keys, and shows its limits.
 * Emits `preview` while it moves and `commit` once when it comes to rest; what is refused is said and leaves the value as it was.
 */
const props = defineProps<{
  label: string;
  /** Stored value: SI, degrees, fractions. */
  modelValue: number | null;
  dimension: Dimension;
  /** Limits and step, in stored units. */
  min?: number;
  max?: number;
  step?: number;
  digits?: number;
  /** An empty field means null. */
  nullable?: boolean;
  placeholder?: string;
  hint?: string;
  /** Shows the pin of a held value. */
  held?: boolean;
}>();
const emit = defineEmits<{ preview: [value: number]; commit: [value: number | null] }>();
const preferences = usePreferences();
const id = useId();
const unit = computed(() => displayUnit(props.dimension, preferences.units));
const digits = computed(() => props.digits ?? unit.value.digits);
const shown = computed(() =>
  props.modelValue === null
    ? ''
    : trim(formatNumber(props.modelValue * unit.value.scale, digits.value + 2), digits.value),
);
const text = ref(shown.value);
const editing = ref(false);
const refusal = ref<{ text: string; nearest?: number } | null>(null);
/** How a number with two readings was read. */
const understood = ref<string | null>(null);
watch(shown, (s) => !editing.value && (text.value = s), { flush: 'sync' });

/** Keeps the usual digits, and further ones only where they say something. */
function trim(long: string, keep: number): string {
  const cut = long.length - 2;
  const at = long.search(/[.,]/);
  const short = keep === 0 ? long.slice(0, at < 0 ? undefined : at) : long.slice(0, cut);
  return /[1-9]/.test(keep === 0 ? (at < 0 ? '' : long.slice(at + 1)) : long.slice(cut))
    ? long.replace(/0+$/, '')
    : short;
}
const show = (v: number) =>
  `${formatNumber(v * unit.value.scale, digits.value)}${unit.value.symbol ? ` ${unit.value.symbol}` : ''}`;
const limits = computed(() => {
  if (props.min !== undefined && props.max !== undefined) return `from ${show(props.min)} to ${show(props.max)}`;
  if (props.min !== undefined) return `${show(props.min)} or more`;
  return props.max !== undefined ? `${show(props.max)} or less` : '';
});

function outside(value: number): { text: string; nearest?: number } | null {
  if (props.min !== undefined && value < props.min)
    return { text: `must be ${show(props.min)} or more`, nearest: props.min };
  if (props.max !== undefined && value > props.max)
    return { text: `must be ${show(props.max)} or less`, nearest: props.max };
  return null;
}

function commitText(): void {
  editing.value = false;
  if (text.value === shown.value) {
    refusal.value = null;
    return;
  }
  if (props.nullable && text.value.trim() === '') {
    refusal.value = null;
    return emit('commit', null);
  }
  try {
    const value = parseQuantity(text.value, props.dimension, preferences.units, {
      decimalMark: preferences.decimalMark,
      accepts: (v) => outside(v) === null,
    });
    refusal.value = outside(value);
    if (refusal.value) return;
    understood.value = hasTwoReadings(text.value) ? `${text.value.trim()} was read as ${show(value)}` : null;
    emit('commit', value);
    text.value = shown.value;
  } catch (error) {
    refusal.value = { text: (error as Error).message };
  }
}
function giveUp(): void {
  text.value = shown.value;
  refusal.value = null;
  editing.value = false;
}
const useNearest = () => {
  const nearest = refusal.value?.nearest;
  refusal.value = null;
  if (nearest !== undefined) emit('commit', nearest);
};

const stepSize = computed(() => props.step ?? 10 ** -Math.max(0, digits.value - 1) / unit.value.scale);
const bounded = (v: number) => Math.min(props.max ?? Infinity, Math.max(props.min ?? -Infinity, v));
const clean = (v: number) => Number(v.toPrecision(12));
let nudged: number | null = null;
let settle: ReturnType<typeof setTimeout> | undefined;
function nudge(e: KeyboardEvent): void {
  const way = e.key === 'ArrowUp' ? 1 : -1;
  const step = stepSize.value * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
  e.preventDefault();
  if (props.modelValue === null && nudged === null) return;
  nudged = clean(bounded((nudged ?? props.modelValue!) + way * step));
  editing.value = false;
  refusal.value = null;
  emit('preview', nudged);
  text.value = trim(formatNumber(nudged * unit.value.scale, digits.value + 2), digits.value);
  clearTimeout(settle);
  settle = setTimeout(finishNudge, 600);
}
function finishNudge(): void {
  clearTimeout(settle);
  if (nudged !== null) emit('commit', nudged);
  nudged = null;
}

let drag: { x: number; from: number; value: number; moved: boolean } | null = null;
function dragStart(e: PointerEvent): void {
  if (props.modelValue === null || e.button !== 0) return;
  drag = { x: e.clientX, from: props.modelValue, value: props.modelValue, moved: false };
  (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
}
function dragMove(e: PointerEvent): void {
  if (!drag) return;
  const pixels = e.clientX - drag.x;
  if (Math.abs(pixels) < 3 && !drag.moved) return;
  drag.moved = true;
  const value = clean(
    bounded(drag.from + Math.round(pixels / 3) * stepSize.value * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1)),
  );
  if (value !== drag.value) {
    drag.value = value;
    emit('preview', value);
  }
}
function dragEnd(): void {
  if (drag?.moved) emit('commit', drag.value);
  drag = null;
}
</script>

<template>
  <div class="py-[3px]">
    <div class="grid grid-cols-[1fr_88px_32px] items-center gap-x-2">
      <label
        :for="id"
        class="cursor-ew-resize touch-none truncate text-soft select-none hover:text-ink"
        :title="[hint, limits, 'Drag to change'].filter(Boolean).join('. ')"
        @pointerdown="dragStart"
        @pointermove="dragMove"
        @pointerup="dragEnd"
        @pointercancel="dragEnd"
        >{{ label }}<Pin v-if="held" :size="10" class="ml-1 inline text-ochre" aria-label="held"
      /></label>
      <input
        :id="id"
        v-model="text"
        class="w-full rounded border bg-field px-2 py-[3px] text-right font-medium outline-offset-0"
        :class="refusal ? 'border-clay' : 'border-rule'"
        :placeholder="placeholder"
        :aria-invalid="Boolean(refusal)"
        :aria-describedby="refusal ? `${id}-why` : undefined"
        autocomplete="off"
        spellcheck="false"
        @focus="((understood = null), ($event.target as HTMLInputElement).select(), (editing = true))"
        @input="editing = true"
        @blur="nudged !== null ? finishNudge() : commitText()"
        @keydown.enter="(finishNudge(), commitText())"
        @keydown.esc.stop="giveUp"
        @keydown.up="nudge"
        @keydown.down="nudge"
      />
      <span class="text-[12px] text-soft">{{ unit.symbol }}</span>
    </div>
    <p v-if="understood && !refusal" class="mt-0.5 text-[12px] text-soft" role="status">{{ understood }}</p>
    <p v-if="refusal" :id="`${id}-why`" class="mt-0.5 text-[12px] text-clay" role="alert">
      {{ refusal.text }}
      <button v-if="refusal.nearest !== undefined" class="link ml-1" @mousedown.prevent="useNearest">
        use {{ show(refusal.nearest) }}
      </button>
    </p>
  </div>
</template>
