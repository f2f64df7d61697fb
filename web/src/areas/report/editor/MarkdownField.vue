<script setup lang="ts">
import { Bold, Heading2, Italic, Link, List, ListOrdered, Sigma, Table } from 'lucide-vue-next';
import { nextTick, onMounted, ref } from 'vue';
import MarkBar from './MarkBar.vue';
import OfferList from './OfferList.vue';
import { useOffers } from './use-offers';

/** A text as its Markdown, with the marks at hand. */
const text = defineModel<string>({ required: true });
defineProps<{ label: string; invalid: boolean }>();
const emit = defineEmits<{ done: [] }>();
const area = ref<HTMLTextAreaElement | null>(null);
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
];

const {
  offers,
  at,
  look: seek,
  choose,
  key: offered,
} = useOffers((id, length) => {
  const end = area.value!.selectionStart;
  const made = `@{${id}}`;
  text.value = text.value.slice(0, end - length) + made + text.value.slice(end);
  void select(end - length + made.length);
});
const look = () => seek(area.value ? text.value.slice(0, area.value.selectionStart) : '');
function key(e: KeyboardEvent): void {
  if (offered(e)) return e.preventDefault();
  if (e.key === 'Escape' || (e.key === 'Enter' && (e.ctrlKey || e.metaKey))) {
    e.preventDefault();
    emit('done');
  }
}
</script>

<template>
  <div class="relative">
    <MarkBar class="px-1.5 py-1" :label="label" :marks="MARKS" />
    <textarea
      ref="area"
      v-model="text"
      class="block w-full resize-y bg-transparent px-3 py-2 font-mono text-[13px] leading-relaxed outline-none"
      rows="9"
      spellcheck="true"
      :aria-label="`${label} as Markdown`"
      :aria-invalid="invalid"
      @input="look"
      @click="look"
      @keydown="key"
    />
    <OfferList :offers="offers" :at="at" @choose="choose" />
  </div>
</template>
