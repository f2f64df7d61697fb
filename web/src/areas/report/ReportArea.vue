<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { Copy, Presentation, Trash2 } from 'lucide-vue-next';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import type { ComposedReport, ReportBlock } from '@veldtwind/core/report';
import EmptyState from '@/components/notice/EmptyState.vue';
import AreaPage from '@/components/shell/AreaPage.vue';
import { useReports } from '@/store/reports';
import AddGroup from './AddGroup.vue';
import { attachAll } from './attach-all';
import ChangesList from './ChangesList.vue';
import FilesGroup from './FilesGroup.vue';
import IssuesGroup from './IssuesGroup.vue';
import OutlineGroup from './OutlineGroup.vue';
import ReportBlockView from './ReportBlockView.vue';
import { pageHtml } from './report-look';
import SlideShow from './SlideShow.vue';

/** The report as a page of blocks, with its outline, files, issues and links. */
const reports = useReports();
onMounted(() => (reports.open = true));
onBeforeUnmount(() => (reports.open = false));
const part = computed(() => reports.part);
const editing = ref<string | null>(null);
const focused = ref<string | undefined>();
const slides = ref(false);
watch(
  () => part.value?.id,
  () => {
    editing.value = null;
    focused.value = undefined;
    issue.value = null;
    compared.value = null;
  },
);
const page = ref<HTMLElement | null>(null);
useEventListener(page, 'focusin', (e) => {
  focused.value = (e.target as HTMLElement).closest<HTMLElement>('[data-block]')?.dataset.block;
});
async function go(id: string): Promise<void> {
  await nextTick();
  const el = page.value?.querySelector<HTMLElement>(`[data-block="${CSS.escape(id)}"]`);
  el?.scrollIntoView({ block: 'start' });
  el?.focus({ preventScroll: true });
}
function added(id: string, edit: boolean): void {
  if (edit) editing.value = id;
  else void go(id);
}
/** Files that are dropped on the page go in behind the block that they were dropped on. */
async function dropped(e: DragEvent): Promise<void> {
  const files = [...(e.dataTransfer?.files ?? [])];
  if (issue.value || files.length === 0) return;
  e.preventDefault();
  const on = (e.target as HTMLElement).closest<HTMLElement>('[data-block]')?.dataset.block;
  await attachAll(files, on, (id) => void go(id));
}
async function left(b: ReportBlock): Promise<void> {
  editing.value = null;
  await nextTick();
  page.value?.querySelector<HTMLElement>(`[data-block="${CSS.escape(b.id)}"]`)?.focus({ preventScroll: true });
}
/** A comment is about the address of the view: that of a block names it. */
const route = useRoute();
const router = useRouter();
async function comment(id: string): Promise<void> {
  await router.replace({ query: { ...route.query, block: id } });
  const menu = document.querySelector<HTMLElement>('[data-test=comments]');
  if (menu?.getAttribute('aria-expanded') !== 'true') menu?.click();
}
watch(
  () => [route.query.block, Boolean(part.value)] as const,
  ([block]) => typeof block === 'string' && void go(block),
  { immediate: true, flush: 'post' },
);
function addAfter(id: string): void {
  editing.value = reports.insert({ kind: 'text', markdown: '' }, id);
}

/** The issue that is looked at in the place of the report, and one that the report is compared with. */
const issue = shallowRef<{ id: string; number: number; report: ComposedReport } | null>(null);
const compared = shallowRef<{ number: number; report: ComposedReport } | null>(null);
const numberOf = (id: string) => reports.issues.find((i) => i.id === id)?.number ?? 0;
async function look(id: string | null): Promise<void> {
  const report = id === null ? null : await reports.readIssue(id);
  issue.value = report && id !== null ? { id, number: numberOf(id), report } : null;
}
async function compare(id: string): Promise<void> {
  const report = await reports.readIssue(id);
  compared.value = report && { number: numberOf(id), report };
}
const current = computed(() => (reports.composed?.of === part.value?.id ? (reports.composed?.report ?? null) : null));
const shownBlocks = computed(
  () => issue.value?.report.blocks ?? (current.value?.blocks ?? []).map((b) => reports.content.get(b.id) ?? b),
);
function keepTemplate(): void {
  if (reports.keepTemplate()) toast.success('Template saved for all projects');
  else
    toast.error('The template was not saved', {
      description: 'Its texts are longer than 20 000 letters. Shorten them.',
    });
}
function rename(e: Event): void {
  const name = (e.target as HTMLInputElement).value.trim();
  if (name) reports.edit('Rename the report', (r) => void (r.name = name));
  else (e.target as HTMLInputElement).value = part.value?.name ?? '';
}
</script>

<template>
  <AreaPage area="report" title="Report" question="What did we find, and why?" no-ledger>
    <template #figure>
      <EmptyState
        v-if="!part"
        title="No report yet"
        text="A design review begins with all that is known: brief, candidates, sections, lift, drag, balance, performance, motion, findings. Text, figures and numbers follow the project until the report is issued."
      >
        <button class="btn btn-main" data-test="new-review" @click="reports.review()">Create design review</button>
        <button class="btn" data-test="new-report" @click="reports.empty()">New report</button>
      </EmptyState>
      <div v-else class="flex h-full min-h-[330px] flex-col">
        <div class="flex flex-wrap items-center gap-3 border-b border-rule-light px-5 py-2 text-[12.5px]">
          <select
            class="max-w-56 rounded border border-rule bg-field px-1.5 py-[3px]"
            aria-label="Report"
            :value="part.id"
            @change="(e) => (reports.chosen = (e.target as HTMLSelectElement).value)"
          >
            <option v-for="r in reports.list" :key="r.id" :value="r.id">{{ r.name }}</option>
          </select>
          <button class="link" data-test="new-review" @click="reports.review()">New design review</button>
          <button class="link" @click="reports.empty()">New report</button>
          <button v-if="reports.template.length" class="link" data-test="from-template" @click="reports.fromKept()">
            New from template
          </button>
          <button class="link" data-test="keep-template" @click="keepTemplate">Save as template</button>
          <button class="icon-btn" :aria-label="`Copy ${part.name}`" title="Copy the report" @click="reports.copy()">
            <Copy :size="13" />
          </button>
          <button
            class="icon-btn"
            :aria-label="`Remove ${part.name}`"
            title="Remove the report"
            @click="reports.remove()"
          >
            <Trash2 :size="13" />
          </button>
          <span class="flex-1" />
          <span
            role="status"
            class="text-soft"
            data-test="report-state"
            :data-state="reports.stale ? 'stale' : 'fresh'"
            >{{ reports.busy ? 'Composing…' : reports.stale ? 'Not up to date' : '' }}</span
          >
          <button
            class="btn flex items-center gap-1"
            data-test="present"
            :disabled="!shownBlocks.length"
            @click="slides = true"
          >
            <Presentation :size="14" />Present
          </button>
        </div>
        <div
          ref="page"
          class="min-h-0 flex-1 overflow-auto px-6 py-5"
          data-test="report-page"
          @dragover="(e) => !issue && e.dataTransfer?.types.includes('Files') && e.preventDefault()"
          @drop="dropped"
        >
          <article class="mx-auto max-w-[46rem]">
            <p v-if="reports.failure" class="mb-3 text-clay" role="alert">
              {{ reports.failure }} <button class="link" @click="reports.compose()">Try again</button>
            </p>
            <ChangesList
              v-if="compared && current"
              :before="compared.report"
              :after="current"
              :from="`issue ${compared.number}`"
              to="current state"
              @close="compared = null"
            />
            <template v-if="issue">
              <p class="mb-3 rounded bg-select px-3 py-1.5 text-[13px]">
                Issue {{ issue.number }} as it was issued.
                <button class="link" @click="look(null)">Back to the current state</button>
              </p>
              <h2 class="serif text-[26px] font-semibold">{{ issue.report.name }}</h2>
              <!-- Markup of the block writer, in which every text is escaped. -->
              <!-- eslint-disable-next-line vue/no-v-html -->
              <div
                v-for="b in issue.report.blocks"
                :key="b.id"
                class="report-content report-block"
                v-html="pageHtml(b)"
              />
            </template>
            <template v-else>
              <input
                class="serif mb-1 w-full bg-transparent text-[26px] font-semibold outline-offset-2"
                aria-label="Name of the report"
                maxlength="120"
                data-test="report-name"
                :value="part.name"
                @change="rename"
              />
              <ReportBlockView
                v-for="(b, i) in part.blocks"
                :key="b.id"
                :block="b"
                :content="reports.content.get(b.id)"
                :index="i"
                :count="part.blocks.length"
                :editing="editing === b.id"
                :locked="false"
                @edit="editing = b.id"
                @leave="left(b)"
                @add="addAfter(b.id)"
                @comment="comment(b.id)"
              />
              <p v-if="!part.blocks.length" class="py-6 text-soft">This report is empty. Add a block at the right.</p>
            </template>
          </article>
        </div>
        <SlideShow
          v-if="slides"
          :blocks="shownBlocks"
          :name="part.name"
          :late="issue ? undefined : reports.late"
          :frozen="issue !== null"
          @close="slides = false"
        />
      </div>
    </template>
    <template #sheet>
      <template v-if="part">
        <AddGroup v-if="!issue" :after="focused" @added="added" />
        <OutlineGroup v-if="!issue" @go="go" />
        <FilesGroup :issue="issue?.id ?? null" />
        <IssuesGroup :shown="issue?.id ?? null" @look="look" @compare="compare" />
      </template>
    </template>
  </AreaPage>
</template>
