import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { toast } from 'vue-sonner';
import {
  applyChanges,
  freshProject,
  partsOfDocument,
  type BriefPart,
  type CandidatePart,
  type PartChange,
  type ProjectDocument,
  type SectionPart,
} from '@veldtwind/core/project';
import { api, ApiError, TAB, Unreachable } from '@/api/client';
import { unpackPoints } from '@/lib/unpack';
import { collisions, loadPending, savePending, type PendingEdit } from './edit-queue';

interface Applied {
  version: number;
  changes: PartChange[];
  label: string;
  undo: string | null;
  redo: string | null;
  from?: string | null;
}
interface State {
  id: string;
  name: string;
  version: number;
  document: ProjectDocument;
  undo: string | null;
  redo: string | null;
}

const byName = new Intl.Collator('en', { numeric: true });

/** Edits of more parts than this come from a worker or a list of ours, and are plain already. */
const MANY = 100;

/** The open project: what the server has, what waits to be sent, and what is being dragged right now. */
export const useProject = defineStore('project', () => {
  const id = ref<string | null>(null);
  const name = ref('');
  const version = ref(0);
  const saved = shallowRef<ProjectDocument>(freshProject());
  const pending = shallowRef<PendingEdit[]>([]);
  const preview = shallowRef<PartChange[]>([]);
  const undoLabel = ref<string | null>(null);
  const redoLabel = ref<string | null>(null);
  const connection = ref<'saved' | 'saving' | 'away'>('saved');
  const failure = ref<{ message: string; hint?: string } | null>(null);
  const conflict = shallowRef<{ edit: PendingEdit; parts: string[]; current: State } | null>(null);
  let events: EventSource | undefined;
  let flushing = false;
  let retry: ReturnType<typeof setTimeout> | undefined;

  const document = computed(() => {
    let made = saved.value;
    for (const e of pending.value) made = applyChanges(made, e.changes);
    return preview.value.length > 0 ? applyChanges(made, preview.value) : made;
  });
  const brief = computed(() => document.value.brief);
  const candidates = computed(() =>
    Object.values(document.value.candidates).sort(
      (a, b) => a.letter.length - b.letter.length || a.letter.localeCompare(b.letter),
    ),
  );
  const sections = computed(() =>
    Object.values(document.value.sections).sort((a, b) => byName.compare(a.name, b.name)),
  );

  function take(state: State): void {
    id.value = state.id;
    name.value = state.name;
    version.value = state.version;
    saved.value = unpackPoints(state.document);
    undoLabel.value = state.undo;
    redoLabel.value = state.redo;
  }

  async function open(project: string): Promise<void> {
    close();
    failure.value = null;
    try {
      take(await api<State>('GET', `/projects/${project}?points=packed`));
    } catch (error) {
      failure.value = {
        message:
          error instanceof ApiError && error.status === 404
            ? 'This project is not here any more.'
            : (error as Error).message,
        hint: error instanceof Unreachable ? 'Start the server again; nothing is lost.' : undefined,
      };
      return;
    }
    pending.value = await loadPending(project);
    events = new EventSource(`/api/v1/projects/${project}/events`);
    events.addEventListener('changed', (e) => heard(JSON.parse((e as MessageEvent<string>).data) as Applied));
    events.addEventListener(
      'renamed',
      (e) => (name.value = (JSON.parse((e as MessageEvent<string>).data) as { name: string }).name),
    );
    events.addEventListener('removed', () => (failure.value = { message: 'This project was removed in another tab.' }));
    events.addEventListener('open', () => {
      if (connection.value === 'away') void refresh();
      void flush();
    });
    void flush();
  }

  function close(): void {
    events?.close();
    clearTimeout(retry);
    id.value = null;
    pending.value = [];
    preview.value = [];
    conflict.value = null;
    saved.value = freshProject();
  }

  async function refresh(): Promise<void> {
    if (!id.value) return;
    try {
      const state = await api<State>('GET', `/projects/${id.value}?points=packed`);
      if (state.version >= version.value) take(state);
      connection.value = pending.value.length ? 'saving' : 'saved';
    } catch {
      connection.value = 'away';
    }
  }

  /** What another tab (or this one) did, as the server tells it. */
  function heard(applied: Applied): void {
    if (applied.from === TAB || applied.version <= version.value) return;
    if (applied.version === version.value + 1 && !flushing) settle(applied);
    else if (!flushing) void refresh();
  }

  function settle(applied: Applied): void {
    saved.value = applyChanges(saved.value, applied.changes);
    version.value = applied.version;
    undoLabel.value = applied.undo;
    redoLabel.value = applied.redo;
  }

  /** Shows a change without saving it, while a value is dragged. */
  function show(changes: PartChange[]): void {
    preview.value = changes;
  }

  /** Makes an edit: shown at once, kept in this browser until the server has it. */
  function edit(label: string, changes: PartChange[]): void {
    preview.value = [];
    if (!id.value) return;
    // Plain objects only: what is shown may be wrapped, and workers cannot take that.
    const plain = changes.length > MANY ? changes : (JSON.parse(JSON.stringify(changes)) as PartChange[]);
    pending.value = [...pending.value, { editId: crypto.randomUUID(), label, changes: plain }];
    savePending(id.value, pending.value);
    void flush();
  }

  function dropFirst(): void {
    pending.value = pending.value.slice(1);
    if (id.value) savePending(id.value, pending.value);
  }

  async function flush(): Promise<void> {
    if (flushing || conflict.value) return;
    flushing = true;
    clearTimeout(retry);
    try {
      while (id.value && pending.value.length > 0) {
        const project = id.value;
        const next = pending.value[0];
        connection.value = 'saving';
        try {
          const applied = await api<Applied>('POST', `/projects/${project}/edits`, {
            baseVersion: version.value,
            ...next,
          });
          if (id.value !== project) return;
          // Both at once, so that nothing flickers back for a moment.
          settle(applied);
          dropFirst();
        } catch (error) {
          if (error instanceof ApiError && error.code === 'stale-version') {
            const { current } = error.body as { current: State };
            const parts = collisions(next, partsOfDocument(saved.value), partsOfDocument(current.document));
            take(current);
            if (parts.length > 0) {
              conflict.value = { edit: next, parts, current };
              return;
            }
          } else if (error instanceof ApiError) {
            toast.error(`Not saved: ${error.message}`, { description: error.hint });
            dropFirst();
          } else {
            connection.value = 'away';
            retry = setTimeout(() => void flush(), 1500);
            return;
          }
        }
      }
      connection.value = 'saved';
    } finally {
      flushing = false;
    }
  }

  /** Answers a collision with another tab: put this edit over theirs, or let theirs stand. */
  function resolveConflict(choice: 'mine' | 'theirs'): void {
    if (choice === 'theirs') dropFirst();
    conflict.value = null;
    void flush();
  }

  async function step(way: 'undo' | 'redo'): Promise<void> {
    if (!id.value || pending.value.length > 0) await flush();
    try {
      const applied = await api<Applied>('POST', `/projects/${id.value}/${way}`, { baseVersion: version.value });
      settle(applied);
      toast(`${way === 'undo' ? 'Undone' : 'Done again'}: ${applied.label}`, { duration: 2500 });
    } catch (error) {
      if (error instanceof ApiError && error.code === 'stale-version') {
        take((error.body as { current: State }).current);
        await step(way);
      } else if (error instanceof ApiError) toast(error.message);
      else toast.error('The server does not answer.');
    }
  }

  async function rename(next: string): Promise<void> {
    if (!id.value || !next.trim()) return;
    name.value = (await api<{ name: string }>('PATCH', `/projects/${id.value}`, { name: next })).name;
  }

  const putCandidate = (c: CandidatePart): PartChange => ({ part: `candidate:${c.id}`, value: c });
  const putSection = (s: SectionPart): PartChange => ({ part: `section:${s.id}`, value: s });
  const putBrief = (b: BriefPart): PartChange => ({ part: 'brief', value: b });

  return {
    id,
    name,
    version,
    document,
    brief,
    candidates,
    sections,
    pending,
    undoLabel,
    redoLabel,
    connection,
    failure,
    conflict,
    open,
    close,
    show,
    edit,
    step,
    rename,
    resolveConflict,
    putCandidate,
    putSection,
    putBrief,
  };
});
