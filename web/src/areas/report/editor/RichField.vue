<script setup lang="ts">
import { Editor } from '@tiptap/core';
import {
  BetweenHorizontalStart,
  BetweenVerticalStart,
  Bold,
  Code,
  Heading2,
  Heading3,
  Italic,
  Link,
  List,
  ListOrdered,
  Quote,
  Sigma,
  SquareSigma,
  Table,
  Trash2,
} from 'lucide-vue-next';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, triggerRef } from 'vue';
import { toast } from 'vue-sonner';
import { LONGEST_TEXT } from '@veldtwind/core/report';
import MarkBar from './MarkBar.vue';
import OfferList from './OfferList.vue';
import { richText } from './rich-text';
import { useOffers } from './use-offers';

/** A text as it will be read: headings, lists, tables, formulas, live numbers. What is kept is its Markdown. */
const text = defineModel<string>({ required: true });
const props = defineProps<{ label: string; invalid: boolean }>();
const emit = defineEmits<{ done: [] }>();
const root = ref<HTMLElement | null>(null);
const editor = shallowRef<Editor | null>(null);

const {
  offers,
  at,
  look: seek,
  choose,
  key: offered,
} = useOffers((of, length) => {
  const e = editor.value!;
  const { from } = e.state.selection;
  e.chain()
    .focus()
    .insertContentAt({ from: from - length, to: from }, { type: 'liveNumber', attrs: { of } })
    .run();
});
function look(e: Editor): void {
  const { $from, empty } = e.state.selection;
  seek(empty ? $from.parent.textBetween(0, $from.parentOffset, undefined, '\ufffc') : '');
}

onMounted(() => {
  const made = new Editor({
    element: root.value!,
    extensions: richText(),
    content: text.value,
    contentType: 'markdown',
    editorProps: {
      attributes: { 'aria-label': props.label, role: 'textbox', 'aria-multiline': 'true', class: 'rich-text' },
      handleKeyDown: (_view, e) => {
        if (!offered(e)) {
          if (e.key !== 'Escape' && !(e.key === 'Enter' && (e.ctrlKey || e.metaKey))) return false;
          emit('done');
        }
        e.preventDefault();
        return true;
      },
      handlePaste: (_view, e) => {
        const pasted = e.clipboardData?.getData('text/plain') ?? '';
        if (pasted.length <= LONGEST_TEXT) {
          // Plain text may be Markdown.
          if (e.clipboardData?.types.includes('text/html') || !pasted) return false;
          made.commands.insertContent(pasted, { contentType: 'markdown' });
          return true;
        }
        toast.error(`The pasted text has ${pasted.length} letters`, {
          description: `A block holds ${LONGEST_TEXT}. Split it into several blocks, or add it as a file.`,
        });
        return true;
      },
    },
    onUpdate: ({ editor: e }) => {
      // An empty paragraph stands at the end for the caret.
      text.value = e.getMarkdown().trimEnd();
    },
    onTransaction: ({ editor: e }) => {
      look(e);
      triggerRef(editor);
    },
  });
  editor.value = made;
  made.commands.focus('end');
});
onBeforeUnmount(() => editor.value?.destroy());

const run = (work: (chain: ReturnType<Editor['chain']>) => ReturnType<Editor['chain']>) => () =>
  void (editor.value && work(editor.value.chain().focus()).run());
const inTable = computed(() => editor.value?.isActive('table') ?? false);
/** The address of a link is typed where the selection is. */
const address = ref<string | null>(null);
function askAddress(): void {
  const e = editor.value;
  if (!e) return;
  if (e.isActive('link')) e.chain().focus().unsetLink().run();
  else address.value = 'https://';
}
function setAddress(): void {
  const href = address.value?.trim() ?? '';
  address.value = null;
  const e = editor.value;
  if (!e || !/^(https?:\/\/|mailto:)\S+\.?\S*$/i.test(href)) return;
  if (e.state.selection.empty)
    e.chain()
      .focus()
      .insertContent({ type: 'text', text: href, marks: [{ type: 'link', attrs: { href } }] })
      .run();
  else e.chain().focus().setLink({ href }).run();
}
const marks = computed(() => {
  const e = editor.value;
  const on = (name: string, attributes?: object) => e?.isActive(name, attributes) ?? false;
  const own = [
    {
      name: 'Heading',
      icon: Heading2,
      on: on('heading', { level: 2 }),
      run: run((c) => c.toggleHeading({ level: 2 })),
    },
    {
      name: 'Subheading',
      icon: Heading3,
      on: on('heading', { level: 3 }),
      run: run((c) => c.toggleHeading({ level: 3 })),
    },
    { name: 'Bold', icon: Bold, on: on('bold'), run: run((c) => c.toggleBold()) },
    { name: 'Italic', icon: Italic, on: on('italic'), run: run((c) => c.toggleItalic()) },
    { name: 'Code', icon: Code, on: on('code'), run: run((c) => c.toggleCode()) },
    { name: 'List', icon: List, on: on('bulletList'), run: run((c) => c.toggleBulletList()) },
    { name: 'Numbered list', icon: ListOrdered, on: on('orderedList'), run: run((c) => c.toggleOrderedList()) },
    { name: 'Quotation', icon: Quote, on: on('blockquote'), run: run((c) => c.toggleBlockquote()) },
    { name: 'Link', icon: Link, on: on('link'), run: askAddress },
    { name: 'Formula', icon: Sigma, run: run((c) => c.insertContent({ type: 'formula', attrs: { tex: 'x' } })) },
    {
      name: 'Displayed formula',
      icon: SquareSigma,
      run: run((c) => c.insertContent({ type: 'formulaBlock', attrs: { tex: 'x' } })),
    },
    {
      name: 'Table',
      icon: Table,
      on: inTable.value,
      run: run((c) => c.insertTable({ rows: 3, cols: 3, withHeaderRow: true })),
    },
  ];
  if (!inTable.value) return own;
  return [
    ...own,
    { name: 'Add a row', icon: BetweenVerticalStart, run: run((c) => c.addRowAfter()) },
    { name: 'Add a column', icon: BetweenHorizontalStart, run: run((c) => c.addColumnAfter()) },
    { name: 'Remove the row', icon: Trash2, run: run((c) => c.deleteRow()) },
  ];
});
</script>

<template>
  <div class="relative">
    <MarkBar class="px-1.5 py-1" :label="label" :marks="marks" />
    <form v-if="address !== null" class="flex gap-1.5 px-3 pb-1" @submit.prevent="setAddress">
      <input
        v-model="address"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-px text-[13px]"
        aria-label="Address of the link"
        @keydown.esc.stop="address = null"
        @vue:mounted="({ el }: { el: HTMLInputElement }) => el.focus()"
      />
      <button class="btn">Set link</button>
    </form>
    <div ref="root" class="report-content max-h-[60vh] min-h-32 overflow-y-auto px-3 py-2" data-test="rich-text" />
    <OfferList :offers="offers" :at="at" @choose="choose" />
  </div>
</template>
