import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { LONGEST_PREFERENCE, type ReplyOf } from '@veldtwind/contract';
import {
  designReview,
  fromTemplate,
  MOST_ROWS,
  templateOf,
  type ReportTemplate,
  type ComposedBlock,
  type ComposedReport,
  type ReportBlock,
  type ReportPart,
} from '@veldtwind/core/report';
import { ApiError, call } from '@/api/client';
import { newId } from '@/lib/ids';
import { readAttachment } from '@/lib/read-attachment';
import type { ProjectDocument } from '@veldtwind/core/project';
import { usePreferences } from './preferences';
import { useProject } from './project';
import { useRuns } from './runs';

export type Issue = ReplyOf<'listIssues'>['issues'][number];
export type ReportLink = ReplyOf<'listReportLinks'>['links'][number];

/** A block without its id. */
export type NewBlock = ReportBlock extends infer B ? (B extends ReportBlock ? Omit<B, 'id'> : never) : never;

/** Text of a cell that is kept. */
const LONGEST_CELL = 400;

/** Takes blocks out of a report, and with them the files that nothing shows any more. */
function withoutBlocks(draft: ProjectDocument, report: string, gone: (b: ReportBlock) => boolean): void {
  const { blocks } = draft.reports[report];
  const files = blocks.filter(gone).flatMap((b) => ('attachment' in b ? [b.attachment] : []));
  draft.reports[report].blocks = blocks.filter((b) => !gone(b));
  const used = new Set(
    Object.values(draft.reports).flatMap((r) => r.blocks.flatMap((b) => ('attachment' in b ? [b.attachment] : []))),
  );
  for (const id of files) if (!used.has(id)) delete draft.attachments[id];
}

/** Until edits have come to rest, ms: then the server composes the report anew. */
const REST = 150;
const shortId = () => newId().slice(0, 12);

/** The project's reports: the one that is looked at with its content as the server composes it, its issues and links. */
export const useReports = defineStore('reports', () => {
  const project = useProject();
  const preferences = usePreferences();
  const runs = useRuns();
  const list = computed(() => Object.values(project.document.reports).sort((a, b) => a.name.localeCompare(b.name)));
  const chosen = ref('');
  const part = computed<ReportPart | null>(() => project.document.reports[chosen.value] ?? list.value[0] ?? null);
  /** Whether the area is open: nobody else needs what is composed. */
  const open = ref(false);
  const composed = shallowRef<{ of: string; version: number; units: string; report: ComposedReport } | null>(null);
  const busy = ref(false);
  const failure = ref('');
  const issues = shallowRef<Issue[]>([]);
  const links = shallowRef<ReportLink[]>([]);

  const said = (error: unknown): string =>
    error instanceof ApiError ? [error.message, error.hint].filter(Boolean).join(' ') : (error as Error).message;
  async function tried<T>(work: () => Promise<T>): Promise<T | null> {
    try {
      const made = await work();
      failure.value = '';
      return made;
    } catch (error) {
      failure.value = said(error);
      return null;
    }
  }

  /** Counts what was asked: an answer to an earlier question is not shown. */
  let asked = 0;
  /** Whether one is on its way, of each of the two stages, and whether another is to follow. */
  const going = { yes: false, no: false };
  const again = { yes: false, no: false };
  /** What is there soon comes first, and never waits for the rest of an earlier state. */
  async function compose(soon: 'yes' | 'no' = 'yes'): Promise<void> {
    const [of, report, units] = [project.id, part.value?.id, preferences.units];
    if (!of || !report || !open.value) return;
    busy.value = true;
    if (going[soon]) {
      again[soon] = true;
      return;
    }
    going[soon] = true;
    // Edits that are on their way are part of what is composed.
    await project.flushed();
    const turn = soon === 'yes' ? ++asked : asked;
    const told = await tried(() => call('composeReport', { params: { id: of, report }, query: { units, soon } }));
    going[soon] = false;
    const latest = turn === asked && project.id === of && part.value?.id === report;
    if (told && latest) composed.value = { of: report, version: told.version, units, report: told.report };
    const pending = told?.report.blocks.some((b) => b.kind === 'missing' && b.pending) ?? false;
    if (again[soon]) {
      again[soon] = false;
      await compose(soon);
    } else if (pending) await compose('no');
    busy.value = going.yes || going.no;
  }
  const soon = useDebounceFn(() => compose(), REST);
  watch(
    () => [open.value, project.id, part.value?.id, preferences.units, project.version, runs.going] as const,
    ([shown], before) => {
      if (!shown) return;
      void (before?.[0] ? soon() : compose());
    },
  );

  /** Content by block, of the report that is looked at. */
  const content = computed<ReadonlyMap<string, ComposedBlock>>((before) => {
    if (composed.value?.of !== part.value?.id) return new Map();
    return new Map(
      composed.value!.report.blocks.flatMap((b) => {
        // What is being computed stays as it was, or is not there yet.
        if (b.kind !== 'missing' || !b.pending) return [[b.id, b] as const];
        const earlier = before?.get(b.id);
        return earlier ? [[b.id, earlier] as const] : [];
      }),
    );
  });
  /** Blocks that are of an earlier state until their numbers are there. */
  const late = computed(
    () =>
      new Set(composed.value?.report.blocks.flatMap((b) => (b.kind === 'missing' && b.pending ? [b.id] : [])) ?? []),
  );
  /** Whether what is shown is of an earlier state. */
  const stale = computed(() => busy.value || (composed.value !== null && composed.value.version !== project.version));

  function edit(label: string, change: (report: ReportPart) => void): void {
    const id = part.value?.id;
    if (id) project.edit(label, (draft) => change(draft.reports[id]));
  }
  function add(report: ReportPart): void {
    project.edit(`Report ${report.name}`, (draft) => void (draft.reports[report.id] = report));
    chosen.value = report.id;
  }
  const freeName = (name: string): string => {
    const names = new Set(list.value.map((r) => r.name));
    let k = 1;
    while (names.has(k === 1 ? name : `${name} ${k}`)) k++;
    return k === 1 ? name : `${name} ${k}`;
  };
  async function review(): Promise<void> {
    const id = project.id;
    const studies = id ? await tried(() => call('listStudies', { params: { id } })) : null;
    if (project.id === id)
      add(designReview(project.document, shortId, freeName('Design review'), Boolean(studies?.studies.length)));
  }
  const empty = () =>
    add({
      id: shortId(),
      name: freeName('Report'),
      blocks: [{ id: shortId(), kind: 'heading', level: 1, text: 'Heading' }],
    });
  /** A template that is kept for every project; empty where there is none. */
  const template = computed(() => preferences.get<ReportTemplate>('report-template', []));
  function keepTemplate(): boolean {
    const made = part.value ? templateOf(part.value) : [];
    if (JSON.stringify(made).length > LONGEST_PREFERENCE) return false;
    preferences.set('report-template', made);
    return true;
  }
  function fromKept(): void {
    const made = fromTemplate(template.value, project.document, shortId, freeName('Report'));
    if (made) add(made);
  }
  function copy(): void {
    if (part.value) add({ ...part.value, id: shortId(), name: freeName(part.value.name) });
  }
  function remove(): void {
    const own = part.value;
    if (!own) return;
    project.edit(`Remove the report ${own.name}`, (draft) => {
      withoutBlocks(draft, own.id, () => true);
      delete draft.reports[own.id];
    });
  }

  /** Puts a block behind another one, or at the end. @returns its id. */
  function insert(block: NewBlock, after?: string): string {
    const id = shortId();
    edit('Add a block', (r) => {
      const at = r.blocks.findIndex((b) => b.id === after);
      r.blocks.splice(at < 0 ? r.blocks.length : at + 1, 0, { id, ...block });
    });
    return id;
  }
  /** Puts a file of the reader's machine in: a picture as such, anything else as a file that goes along. @returns the block's id. @throws Error in words. */
  async function attach(file: File, after?: string): Promise<string> {
    const { name, data, picture } = await readAttachment(file);
    const [id, attachment] = [shortId(), shortId()];
    const block: ReportBlock = picture
      ? { id, kind: 'picture', attachment, title: name.replace(/\.\w+$/, ''), caption: '' }
      : { id, kind: 'file', attachment, caption: '' };
    if (!part.value) empty();
    const report = part.value!.id;
    project.edit(`Add ${name}`, (draft) => {
      draft.attachments[attachment] = { id: attachment, name, data };
      const { blocks } = draft.reports[report];
      const at = blocks.findIndex((b) => b.id === after);
      blocks.splice(at < 0 ? blocks.length : at + 1, 0, block);
    });
    return id;
  }
  /** Puts a block at the end of the report; one is begun where there is none. */
  function put(block: NewBlock): void {
    if (!part.value) empty();
    insert(block);
  }
  /** A table as it is now. @returns why it cannot be put in; nothing where it is. */
  function putTable(
    title: string,
    from: string,
    columns: { name: string; numbers?: boolean }[],
    rows: string[][],
  ): string | undefined {
    if (rows.length > MOST_ROWS)
      return `It has ${rows.length} rows; a table of a report has at most ${MOST_ROWS}. Filter it.`;
    const cells = rows.map((r) => r.map((c) => c.slice(0, LONGEST_CELL)));
    put({
      kind: 'kept-table',
      table: { columns, rows: cells },
      from,
      at: new Date().toISOString(),
      title,
      caption: '',
    });
    return undefined;
  }
  function moveTo(id: string, to: number): void {
    edit('Move a block', (r) => {
      const from = r.blocks.findIndex((b) => b.id === id);
      if (from < 0 || to < 0 || to >= r.blocks.length) return;
      const [block] = r.blocks.splice(from, 1);
      r.blocks.splice(to, 0, block);
    });
  }
  const removeBlock = (id: string) => {
    const report = part.value?.id;
    if (report) project.edit('Remove a block', (draft) => void withoutBlocks(draft, report, (b) => b.id === id));
  };

  async function refreshIssues(): Promise<void> {
    const id = project.id;
    if (!id) return;
    const told = await tried(() => call('listIssues', { params: { id } }));
    if (told && project.id === id) issues.value = told.issues;
    const also = await tried(() => call('listReportLinks', { params: { id } }));
    if (also && project.id === id) links.value = also.links;
  }
  async function issue(note: string): Promise<void> {
    const [id, report] = [project.id, part.value?.id];
    if (!id || !report) return;
    await project.flushed();
    const made = await tried(() =>
      call('issueReport', { params: { id, report }, body: { note, units: preferences.units } }),
    );
    if (made) issues.value = [made, ...issues.value];
  }
  async function link(issueId: string | null): Promise<void> {
    const [id, report] = [project.id, part.value?.id];
    if (!id || !report) return;
    await project.flushed();
    const made = await tried(() => call('addReportLink', { params: { id }, body: { report, issue: issueId } }));
    if (made) links.value = [made, ...links.value];
  }
  async function withdraw(token: string): Promise<void> {
    const id = project.id;
    if (!id) return;
    await tried(() => call('removeReportLink', { params: { id, token } }));
    links.value = links.value.filter((l) => l.token !== token);
  }
  /** The content of an issue. */
  const readIssue = (issueId: string): Promise<ComposedReport | null> =>
    tried(async () => (await call('readIssue', { params: { id: project.id!, issue: issueId } })).report);

  return {
    list,
    chosen,
    part,
    open,
    composed,
    content,
    late,
    busy,
    stale,
    failure,
    issues,
    links,
    compose,
    edit,
    review,
    empty,
    template,
    keepTemplate,
    fromKept,
    copy,
    remove,
    insert,
    attach,
    put,
    putTable,
    moveTo,
    removeBlock,
    refreshIssues,
    issue,
    link,
    withdraw,
    readIssue,
  };
});
