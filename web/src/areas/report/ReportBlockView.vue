<script setup lang="ts">
import { ArrowDown, ArrowUp, MessageSquare, Pencil, Plus, Trash2 } from 'lucide-vue-next';
import { computed, defineAsyncComponent, nextTick, ref } from 'vue';
import type { ComposedBlock, ReportBlock } from '@veldtwind/core/report';
import NumberField from '@/components/field/NumberField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import TextRow from '@/components/field/TextRow.vue';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';
import { blockName, pageHtml } from './report-look';

/** Read when a text is edited first. */
const TextEditor = defineAsyncComponent(() => import('./editor/TextEditor.vue'));

/** One block on the page: as it is shown, or being edited; its tools stand beside it while it is pointed at or has the focus. */
const props = defineProps<{
  block: ReportBlock;
  content: ComposedBlock | undefined;
  index: number;
  count: number;
  editing: boolean;
  locked: boolean;
}>();
const emit = defineEmits<{ edit: []; leave: []; add: []; comment: [] }>();
const project = useProject();
const reports = useReports();
const root = ref<HTMLElement | null>(null);
const name = computed(() => blockName(props.block, (id) => project.document.candidates[id]?.name));
/** A heading and what is only typed need no composing. */
const shown = computed<ComposedBlock | null>(() => {
  const b = props.block;
  if (b.kind === 'heading') return { kind: 'heading', id: b.id, level: b.level, text: b.text };
  return props.content ?? (b.kind === 'text' ? { kind: 'text', id: b.id, markdown: b.markdown, unknown: [] } : null);
});
const html = computed(() => (shown.value ? pageHtml(shown.value) : ''));
/** Of an earlier state, until its numbers are there. */
const late = computed(() => reports.late.has(props.block.id));
const unknown = computed(() => (props.content?.kind === 'text' ? props.content.unknown : []));
const LEVELS = [
  { id: '1', name: 'Chapter' },
  { id: '2', name: 'Section' },
  { id: '3', name: 'Subsection' },
] as const;
const candidates = computed(() => [
  { id: '', name: props.block.kind === 'decision' ? 'None yet' : 'All candidates' },
  ...project.candidates.map((c) => ({ id: c.id, name: `${c.letter} ${c.name}` })),
]);

function change(values: Record<string, unknown>): void {
  const { id } = props.block;
  reports.edit(`Edit ${name.value}`, (r) => {
    const own = r.blocks.find((b) => b.id === id);
    if (own) Object.assign(own, values);
  });
}
async function move(by: number): Promise<void> {
  reports.moveTo(props.block.id, props.index + by);
  await nextTick();
  root.value?.focus();
  root.value?.scrollIntoView({ block: 'nearest' });
}
function key(e: KeyboardEvent): void {
  if (props.locked || e.target !== root.value) return;
  if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
    e.preventDefault();
    e.stopPropagation();
    void move(e.key === 'ArrowUp' ? -1 : 1);
  } else if (e.key === 'Enter') {
    e.preventDefault();
    emit('edit');
  } else if (e.key === 'Delete') reports.removeBlock(props.block.id);
}
</script>

<template>
  <div
    ref="root"
    class="report-block group relative -mx-3 rounded px-3"
    :class="editing ? 'bg-leaf ring-1 ring-rule' : 'focus-visible:ring-1 focus-visible:ring-ochre'"
    :data-block="block.id"
    :data-kind="block.kind"
    :data-editing="editing || undefined"
    data-test="report-block"
    tabindex="0"
    role="group"
    :aria-label="name"
    @keydown="key"
    @dblclick="!locked && !editing && emit('edit')"
  >
    <div
      v-if="!locked && !editing"
      class="absolute top-0 right-1 z-10 flex rounded border border-rule bg-leaf opacity-0 shadow-sm group-focus-within:opacity-100 group-hover:opacity-100"
      role="toolbar"
      :aria-label="`Tools of ${name}`"
    >
      <button
        class="icon-btn"
        :aria-label="`Edit ${name}`"
        title="Edit (Enter)"
        data-test="block-edit"
        @click="emit('edit')"
      >
        <Pencil :size="13" />
      </button>
      <button
        class="icon-btn"
        :aria-label="`Move ${name} up`"
        title="Move up (Alt ↑)"
        :disabled="index === 0"
        data-test="block-up"
        @click="move(-1)"
      >
        <ArrowUp :size="13" />
      </button>
      <button
        class="icon-btn"
        :aria-label="`Move ${name} down`"
        title="Move down (Alt ↓)"
        :disabled="index === count - 1"
        data-test="block-down"
        @click="move(1)"
      >
        <ArrowDown :size="13" />
      </button>
      <button
        class="icon-btn"
        :aria-label="`Comment on ${name}`"
        title="Comment"
        data-test="block-comment"
        @click="emit('comment')"
      >
        <MessageSquare :size="13" />
      </button>
      <button class="icon-btn" :aria-label="`Add text below ${name}`" title="Add text below" @click="emit('add')">
        <Plus :size="13" />
      </button>
      <button
        class="icon-btn"
        :aria-label="`Remove ${name}`"
        title="Remove (Delete)"
        data-test="block-remove"
        @click="reports.removeBlock(block.id)"
      >
        <Trash2 :size="13" />
      </button>
    </div>
    <div v-if="editing" class="py-2">
      <TextEditor
        v-if="block.kind === 'text'"
        :model-value="block.markdown"
        label="Text"
        @commit="(markdown) => change({ markdown })"
        @leave="emit('leave')"
      />
      <div v-else class="max-w-[34rem]">
        <template v-if="block.kind === 'heading'">
          <TextRow
            label="Heading"
            :most="300"
            :model-value="block.text"
            @update:model-value="(text) => change({ text })"
          />
          <SelectRow
            label="Heading level"
            :model-value="String(block.level)"
            :options="LEVELS"
            @update:model-value="(v) => change({ level: Number(v) })"
          />
        </template>
        <template v-else-if="block.kind === 'decision'">
          <SelectRow
            label="Chosen candidate"
            :model-value="block.chosen"
            :options="candidates"
            test="decision-chosen"
            @update:model-value="(chosen) => change({ chosen })"
          />
          <label class="mt-1 block text-[12.5px] text-soft"
            >Why
            <textarea
              class="mt-0.5 block w-full rounded border border-rule bg-field px-2 py-1 text-[13.5px] text-ink"
              rows="3"
              :value="block.why"
              data-test="decision-why"
              @change="(e) => change({ why: (e.target as HTMLTextAreaElement).value })"
            />
          </label>
          <label class="mt-1 block text-[12.5px] text-soft"
            >Trade-offs
            <textarea
              class="mt-0.5 block w-full rounded border border-rule bg-field px-2 py-1 text-[13.5px] text-ink"
              rows="2"
              :value="block.givenUp"
              @change="(e) => change({ givenUp: (e.target as HTMLTextAreaElement).value })"
            />
          </label>
        </template>
        <template v-else>
          <TextRow
            v-if="'title' in block"
            label="Title"
            :most="400"
            :model-value="block.title"
            @update:model-value="(title) => change({ title })"
          />
          <TextRow
            label="Caption"
            :most="400"
            :model-value="block.caption"
            @update:model-value="(caption) => change({ caption })"
          />
          <SelectRow
            v-if="block.kind === 'figure' || block.kind === 'table'"
            label="Candidates"
            :model-value="block.subject ?? ''"
            :options="candidates"
            @update:model-value="(v) => change({ subject: v || undefined })"
          />
          <SelectRow
            v-else-if="block.kind === 'three-view' || block.kind === 'space-view'"
            label="Candidate"
            :model-value="block.subject"
            :options="candidates.filter((c) => c.id)"
            @update:model-value="(subject) => change({ subject })"
          />
          <template v-if="block.kind === 'space-view'">
            <NumberField
              label="Azimuth"
              dimension="angle"
              :model-value="block.azimuthDeg"
              :min="-360"
              :max="360"
              :step="5"
              @commit="(azimuthDeg) => azimuthDeg !== null && change({ azimuthDeg })"
            />
            <NumberField
              label="Elevation"
              dimension="angle"
              :model-value="block.elevationDeg"
              :min="-90"
              :max="90"
              :step="5"
              @commit="(elevationDeg) => elevationDeg !== null && change({ elevationDeg })"
            />
          </template>
          <p v-if="'of' in block" class="text-[12px] text-soft">
            Empty: the title and caption are made from the content.
          </p>
        </template>
        <button class="btn btn-main mt-2" data-test="block-done" @click="emit('leave')">Done</button>
      </div>
    </div>
    <!-- Markup of the block writer, in which every text is escaped. -->
    <!-- eslint-disable-next-line vue/no-v-html -->
    <div v-else-if="html" class="report-content" :class="late ? 'opacity-50' : ''" :aria-busy="late" v-html="html" />
    <p v-else class="py-3 text-soft" role="status">{{ name }}: composing…</p>
    <p v-if="!editing && unknown.length" class="text-[12.5px] text-clay" role="alert">
      There is no value for {{ unknown.join(', ') }}. Edit the text and choose a quantity with @.
    </p>
  </div>
</template>
