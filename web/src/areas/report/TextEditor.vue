<script setup lang="ts">
import { Bold, Heading2, Italic, Link, List, ListOrdered, Sigma, Table } from 'lucide-vue-next';
import { computed, nextTick, onMounted, ref } from 'vue';
import { LONGEST_TEXT } from '@veldtwind/core/report';
import { RESPONSES } from '@veldtwind/core/quantities';
import { useProject } from '@/store/project';

/** Text of a report as Markdown, with the marks at hand and live numbers behind "@". */
const props = defineProps<{ modelValue: string; label: string }>();
const emit = defineEmits<{ commit: [text: string]; leave: [] }>();
const project = useProject();
const area = ref<HTMLTextAreaElement | null>(null);
const text = ref(props.modelValue);
const tooLong = computed(() => text.value.length - LONGEST_TEXT);
onMounted(() => area.value?.focus());

/** Puts marks about what is selected. */
function wrap(before: string, after: string, empty: string): void {
  const el = area.value!;
  const [from, to] = [el.selectionStart, el.selectionEnd];
  const inside = text.value.slice(from, to) || empty;
  text.value = text.value.slice(0, from) + before + inside + after + text.value.slice(to);
  void select(from + before.length, from + before.length + inside.length);
}
/** Puts a mark before every line that is selected. */
function lines(mark: (i: number) => string): void {
  const el = area.value!;
  const from = text.value.lastIndexOf('\n', el.selectionStart - 1) + 1;
  const next = text.value.indexOf('\n', el.selectionEnd);
  const to = next < 0 ? text.value.length : next;
  const made = text.value
    .slice(from, to)
    .split('\n')
    .map((line, i) => mark(i) + line)
    .join('\n');
  text.value = text.value.slice(0, from) + made + text.value.slice(to);
  void select(from, from + made.length);
}
async function select(from: number, to = from): Promise<void> {
  await nextTick();
  area.value?.focus();
  area.value?.setSelectionRange(from, to);
  look();
}
const MARKS = [
  { name: 'Heading', icon: Heading2, run: () => lines(() => '## ') },
  { name: 'Bold', icon: Bold, run: () => wrap('**', '**', 'bold') },
  { name: 'Italic', icon: Italic, run: () => wrap('*', '*', 'italic') },
  { name: 'List', icon: List, run: () => lines(() => '- ') },
  { name: 'Numbered list', icon: ListOrdered, run: () => lines((i) => `${i + 1}. `) },
  { name: 'Table', icon: Table, run: () => wrap('\n\n| ', ' | |\n| --- | --- |\n| | |\n\n', 'Quantity') },
  { name: 'Formula', icon: Sigma, run: () => wrap('$', '$', 'C_L = \\frac{2 W}{\\rho V^2 S}') },
  { name: 'Link', icon: Link, run: () => wrap('[', '](https://)', 'text') },
] as const;

/** What stands behind the last "@" before the caret; null where none is being typed. */
const asked = ref<{ from: number; text: string } | null>(null);
const at = ref(0);
function look(): void {
  const el = area.value;
  const before = el ? text.value.slice(0, el.selectionStart) : '';
  const found = /@([\w .-]{0,40})$/.exec(before);
  asked.value = found ? { from: before.length - found[0].length, text: found[1].toLowerCase() } : null;
  at.value = 0;
}
const letters = computed(() => project.candidates.map((c) => c.letter));
const offers = computed(() => {
  if (!asked.value) return [];
  const words = asked.value.text.split(/\s+/).filter(Boolean);
  return letters.value
    .flatMap((letter) => RESPONSES.map((q) => ({ id: `${letter} ${q.id}`, name: `${letter}: ${q.name}` })))
    .filter((o) => words.every((w) => `${o.name} ${o.id}`.toLowerCase().includes(w)))
    .slice(0, 8);
});
function take(id: string): void {
  const { from } = asked.value!;
  const el = area.value!;
  const made = `@{${id}}`;
  text.value = text.value.slice(0, from) + made + text.value.slice(el.selectionStart);
  asked.value = null;
  void select(from + made.length);
}
function key(e: KeyboardEvent): void {
  if (asked.value && offers.value.length > 0) {
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      at.value = (at.value + (e.key === 'ArrowDown' ? 1 : offers.value.length - 1)) % offers.value.length;
      return e.preventDefault();
    }
    if (e.key === 'Enter' || e.key === 'Tab') {
      take(offers.value[at.value].id);
      return e.preventDefault();
    }
    if (e.key === 'Escape') {
      asked.value = null;
      return e.preventDefault();
    }
  }
  if (e.key === 'Escape' || (e.key === 'Enter' && (e.ctrlKey || e.metaKey))) {
    e.preventDefault();
    done();
  }
}
function done(): void {
  if (tooLong.value > 0) return;
  if (text.value !== props.modelValue) emit('commit', text.value);
  emit('leave');
}
</script>

<template>
  <div class="relative rounded border border-rule bg-field" data-test="report-editor">
    <div
      class="flex items-center gap-0.5 border-b border-rule-light px-1.5 py-1"
      role="toolbar"
      :aria-label="`Marks of ${label}`"
    >
      <button
        v-for="m in MARKS"
        :key="m.name"
        type="button"
        class="icon-btn"
        :aria-label="m.name"
        :title="m.name"
        @mousedown.prevent
        @click="m.run"
      >
        <component :is="m.icon" :size="14" />
      </button>
      <span class="ml-2 text-[12px] text-soft">Markdown; @ for a live number</span>
      <span class="flex-1" />
      <button type="button" class="btn btn-main" data-test="report-editor-done" :disabled="tooLong > 0" @click="done">
        Done
      </button>
    </div>
    <textarea
      ref="area"
      v-model="text"
      class="block w-full resize-y bg-transparent px-3 py-2 text-[13.5px] leading-relaxed outline-none"
      rows="7"
      spellcheck="true"
      :aria-label="label"
      :aria-invalid="tooLong > 0"
      @input="look"
      @click="look"
      @keydown="key"
    />
    <p v-if="tooLong > 0" class="border-t border-rule-light px-3 py-1 text-[12.5px] text-clay" role="alert">
      The text is {{ tooLong }} letters longer than a block holds ({{ LONGEST_TEXT }}). Split it into several blocks;
      nothing is lost.
    </p>
    <ul
      v-if="asked && offers.length"
      class="absolute right-2 left-2 z-20 mt-1 max-w-96 rounded border border-rule bg-leaf py-1 shadow-lg"
      role="listbox"
      aria-label="Quantities"
    >
      <li
        v-for="(o, i) in offers"
        :key="o.id"
        role="option"
        :aria-selected="i === at"
        class="cursor-pointer px-3 py-1 text-[13px]"
        :class="i === at ? 'bg-select' : ''"
        @mousedown.prevent="take(o.id)"
      >
        {{ o.name }}
      </li>
    </ul>
  </div>
</template>
