<script setup lang="ts" generic="T extends { id: string }">
import {
  FlexRender,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  useVueTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/vue-table';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { ArrowDown, ArrowUp, BookPlus, ClipboardCopy, Download } from 'lucide-vue-next';
import { tableText } from '@veldtwind/core/spreadsheet';
import { computed, nextTick, ref, watch } from 'vue';
import { toast } from 'vue-sonner';
import { useAreaName } from '@/lib/area-name';
import { saveText } from '@/lib/save';
import { useReports } from '@/store/reports';

/** A column: how a row's cell is sorted and exported (`value`) and shown (`text`). */
export interface LedgerColumn<R> {
  id: string;
  title: string;
  /** In full, where the title is a symbol or cut short. */
  name?: string;
  /** What it is, where its name does not say it. */
  says?: string;
  unit?: string;
  value: (row: R) => number | string | null;
  text?: (row: R) => string;
  /** Words instead of numbers: left-aligned. */
  words?: boolean;
}
const props = defineProps<{
  rows: T[];
  columns: LedgerColumn<T>[];
  label: string;
  selected?: string | null;
  fileName: string;
  /** How its numbers were made: a column of what is copied or written. */
  made?: string;
  /** The rows come filtered; the words in the field are only handed on. */
  filteredOutside?: boolean;
}>();
const emit = defineEmits<{ select: [id: string]; hover: [id: string | null] }>();

const sorting = ref<SortingState>([]);
const filter = defineModel<string>('filter', { default: '' });
const defs = computed<ColumnDef<T>[]>(() =>
  props.columns.map((c) => ({
    id: c.id,
    header: c.unit ? `${c.title}, ${c.unit}` : c.title,
    accessorFn: (row: T) => c.value(row) ?? undefined,
    sortUndefined: 'last',
  })),
);
const inFull = (c: LedgerColumn<T>) => (c.name && c.name !== c.title ? c.name : undefined);
/** The heading in full, as a tooltip. */
const tooltip = (c: LedgerColumn<T>) =>
  [inFull(c)?.replace(/^[a-z](?![A-Z])/, (first) => first.toUpperCase()), c.says].filter(Boolean).join(': ') ||
  undefined;
/** For who hears it: what is seen comes first. */
const heard = (c: LedgerColumn<T>) => inFull(c) && `${c.unit ? `${c.title}, ${c.unit}` : c.title}: ${inFull(c)}`;
const table = useVueTable({
  get data() {
    return props.rows;
  },
  get columns() {
    return defs.value;
  },
  state: {
    get sorting() {
      return sorting.value;
    },
    get globalFilter() {
      return props.filteredOutside ? '' : filter.value;
    },
  },
  getRowId: (row) => row.id,
  globalFilterFn: (row, _id, words: string) =>
    props.columns.some((c) =>
      (c.text ? c.text(row.original) : String(c.value(row.original) ?? '')).toLowerCase().includes(words.toLowerCase()),
    ),
  onSortingChange: (u) => (sorting.value = typeof u === 'function' ? u(sorting.value) : u),
  getCoreRowModel: getCoreRowModel(),
  getSortedRowModel: getSortedRowModel(),
  getFilteredRowModel: getFilteredRowModel(),
});
const shownRows = computed(() => table.getRowModel().rows);
const scroller = ref<HTMLElement | null>(null);
const virtual = useVirtualizer(
  computed(() => ({
    count: shownRows.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => 25,
    overscan: 12,
  })),
);
const before = computed(() => virtual.value.getVirtualItems()[0]?.start ?? 0);
const after = computed(() => virtual.value.getTotalSize() - (virtual.value.getVirtualItems().at(-1)?.end ?? 0));
watch(
  [() => props.selected, () => shownRows.value.length, scroller],
  ([id, , element], before) => {
    // While the engineer points into the table itself, it stays where it is.
    if (!element || (before && element.matches(':hover'))) return;
    const at = shownRows.value.findIndex((r) => r.id === id);
    if (at >= 0) void nextTick(() => virtual.value.scrollToIndex(at, { align: 'center' }));
  },
  { immediate: true },
);

const plain = () => {
  const also = (text: string) => (props.made ? [text] : []);
  return [
    [...props.columns.map((c) => (c.unit ? `${c.title} [${c.unit}]` : c.title)), ...also('method')],
    ...shownRows.value.map((r) => [...props.columns.map((c) => c.value(r.original) ?? ''), ...also(props.made ?? '')]),
  ];
};
const areaName = useAreaName();
/** The table as it stands: its numbers stay when the project goes on. */
function putIntoReport(): void {
  const heads = props.columns.map((c) => ({
    name: c.unit ? `${c.title}, ${c.unit}` : c.title,
    ...(!c.words && { numbers: true }),
  }));
  const cells = shownRows.value.map(({ original: r }) =>
    props.columns.map((c) => (c.text ? c.text(r) : String(c.value(r) ?? '—'))),
  );
  const title = props.label.charAt(0).toUpperCase() + props.label.slice(1);
  const why = useReports().putTable(title, areaName(), heads, cells);
  if (why) toast.error('The table is not in the report', { description: why });
  else toast.success('The table is in the report');
}
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(tableText(plain(), '\t'));
    toast(`${shownRows.value.length} rows copied`);
  } catch {
    toast.error('The clipboard is not to be had here. Export as CSV instead.');
  }
}
</script>

<template>
  <div class="flex h-full min-h-0 flex-col px-5 pt-2">
    <div class="flex items-center gap-2 pb-1 text-[12.5px]">
      <span class="font-semibold">{{ label }}</span>
      <span class="text-soft">{{ shownRows.length }} {{ shownRows.length === 1 ? 'row' : 'rows' }}</span>
      <slot name="tools" />
      <span class="flex-1" />
      <input
        v-model="filter"
        class="w-36 rounded border border-rule bg-field px-2 py-px"
        placeholder="Filter"
        :aria-label="`Filter ${label}`"
      />
      <button class="icon-btn" aria-label="Copy the table" title="Copy the table" @click="copy">
        <ClipboardCopy :size="14" />
      </button>
      <button
        class="icon-btn"
        aria-label="Put the table into the report"
        title="Put into the report"
        data-test="table-report"
        @click="putIntoReport"
      >
        <BookPlus :size="14" />
      </button>
      <button
        class="icon-btn"
        aria-label="Export as CSV"
        title="Export as CSV"
        @click="saveText(tableText(plain()), `${fileName}.csv`, 'text/csv')"
      >
        <Download :size="14" />
      </button>
    </div>
    <div ref="scroller" class="min-h-0 flex-1 overflow-auto" tabindex="0" role="region" :aria-label="label">
      <table class="w-full border-collapse">
        <thead class="sticky top-0 bg-paper">
          <tr>
            <th v-if="$slots.lead" class="w-8 border-b border-rule"><slot name="lead-title" /></th>
            <th
              v-for="h in table.getHeaderGroups()[0].headers"
              :key="h.id"
              class="border-b border-rule px-2.5 py-1 font-normal text-soft"
              :class="columns[h.index].words ? 'text-left' : 'text-right'"
              :aria-sort="
                h.column.getIsSorted() === 'asc'
                  ? 'ascending'
                  : h.column.getIsSorted() === 'desc'
                    ? 'descending'
                    : 'none'
              "
            >
              <button
                class="whitespace-nowrap hover:text-ink"
                :title="tooltip(columns[h.index])"
                :aria-label="heard(columns[h.index])"
                @click="h.column.toggleSorting()"
              >
                <FlexRender :render="h.column.columnDef.header" :props="h.getContext()" />
                <ArrowUp v-if="h.column.getIsSorted() === 'asc'" :size="11" class="inline" /><ArrowDown
                  v-else-if="h.column.getIsSorted() === 'desc'"
                  :size="11"
                  class="inline"
                />
              </button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="before > 0" aria-hidden="true" :style="{ height: `${before}px` }" />
          <tr
            v-for="item in virtual.getVirtualItems()"
            :key="shownRows[item.index].id"
            class="cursor-pointer border-b border-rule-light hover:bg-select/60"
            :class="shownRows[item.index].id === selected ? 'bg-select' : ''"
            :aria-selected="shownRows[item.index].id === selected"
            @click="emit('select', shownRows[item.index].id)"
            @mouseenter="emit('hover', shownRows[item.index].id)"
            @mouseleave="emit('hover', null)"
          >
            <td v-if="$slots.lead" class="h-[25px] px-1" @click.stop>
              <slot name="lead" :row="shownRows[item.index].original" />
            </td>
            <td
              v-for="c in columns"
              :key="c.id"
              class="h-[25px] px-2.5 whitespace-nowrap"
              :class="c.words ? 'text-left' : 'text-right'"
            >
              {{ c.text ? c.text(shownRows[item.index].original) : (c.value(shownRows[item.index].original) ?? '—') }}
            </td>
          </tr>
          <tr v-if="after > 0" aria-hidden="true" :style="{ height: `${after}px` }" />
        </tbody>
      </table>
    </div>
  </div>
</template>
