<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { ListChecks } from 'lucide-vue-next';

/** Points of one curve, chosen by a list: those that are ticked are drawn together. */
const props = defineProps<{
  name: string;
  choices: readonly { place: number; text: string }[];
  chosen: readonly number[];
  /** How many may be drawn at the same time. */
  most: number;
}>();
const emit = defineEmits<{ choose: [places: number[]] }>();
function toggle(place: number): void {
  const next = props.chosen.includes(place) ? props.chosen.filter((p) => p !== place) : [...props.chosen, place];
  if (next.length > 0) emit('choose', next);
}
/** Every nth, so that the whole curve is seen at once. */
const EVEN = 6;
function spread(): void {
  const n = Math.min(EVEN, props.choices.length, props.most);
  const last = props.choices.length - 1;
  const at = n === 1 ? [last] : Array.from({ length: n }, (_, i) => Math.round((i * last) / (n - 1)));
  emit(
    'choose',
    [...new Set(at)].map((i) => props.choices[i].place),
  );
}
</script>

<template>
  <Popover class="relative">
    <PopoverButton
      class="icon-btn"
      :aria-label="`Points of ${name}`"
      title="Choose points from a list"
      data-test="choose-points"
    >
      <ListChecks :size="15" />
    </PopoverButton>
    <PopoverPanel
      class="absolute right-0 bottom-full z-20 mb-1 w-44 rounded-md border border-rule bg-leaf p-2 text-[13px] shadow-sm"
    >
      <ul class="max-h-52 overflow-y-auto" :aria-label="`Points of ${name}`" tabindex="0">
        <li v-for="c in choices" :key="c.place">
          <label class="flex min-h-6 items-center gap-2 px-1 hover:bg-select">
            <input
              type="checkbox"
              :checked="chosen.includes(c.place)"
              :disabled="chosen.includes(c.place) ? chosen.length === 1 : chosen.length >= most"
              @change="toggle(c.place)"
            />
            {{ c.text }}
          </label>
        </li>
      </ul>
      <button class="link mt-1 text-[12.5px]" data-test="points-even" @click="spread">Six evenly spaced</button>
    </PopoverPanel>
  </Popover>
</template>
