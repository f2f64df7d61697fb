import { defineStore } from 'pinia';
import { computed, markRaw, ref, shallowReactive, shallowRef } from 'vue';
import { toast } from 'vue-sonner';
import type { Applied, ChangedEvent, Comment, RunsEvent, StudiesEvent, Someone } from '@veldtwind/contract';
import {
  applyChanges,
  byName,
  editDocument,
  freshProject,
  type Edit,
  type PartChange,
  type ProjectDocument,
} from '@veldtwind/core/project';
import { ApiError, call, TAB, Unreachable } from '@/api/client';
import { newId } from '@/lib/ids';
import { unpackPoints } from '@/lib/unpack';
import { asCopies } from './copies';
import { alone, isThere } from './pages';
import { partsIn } from './parts-in';
import { listen } from './project-events';
import { tellDragging } from '@/lib/dragging';
import { setHome } from '@/worker/lane';
import { dependsOn, rebase, WaitingEdits, type WaitingEdit } from './waiting-edits';

/** How the project stands with the server. */
export type Connection = 'saved' | 'saving' | 'away';

/** What the server tells of a project, with its document where that came along. */
interface Told {
  name: string;
  version: number;
  undo: string | null;
  redo: string | null;
}

/** An edit that met another's of the same fields. */
export interface Conflict {
  edit: WaitingEdit;
  parts: { part: string; fields: string[] }[];
}

/** Pause before the server is tried again, ms. */
const RETRY = 1500;

/** The open project: what the server has, what waits to be sent, and what is being dragged right now. */
export const useProject = defineStore('project', () => {
  const id = ref<string | null>(null);
  const name = ref('');
  const version = ref(0);
  /** What the server has, as far as it is known here. */
  const saved = shallowRef<ProjectDocument>(freshProject());
  const waiting = shallowRef<WaitingEdit[]>([]);
  /** Whether this browser's own store was looked into: until then nobody knows whether all is saved. */
  const looked = ref(false);
  /** What is being dragged, as changes: an edit is run once, so that nothing it reads is watched. */
  const preview = shallowRef<PartChange[]>([]);
  const undoLabel = ref<string | null>(null);
  const redoLabel = ref<string | null>(null);
  const connection = ref<Connection>('saved');
  /** Why the server does not save, where it said so. */
  const trouble = ref<string | null>(null);
  /** What was heard last of the project's runs, and how often the stream was opened: whoever shows runs catches up then. */
  const ran = shallowRef<RunsEvent | null>(null);
  /** And of its studies. */ const studied = shallowRef<StudiesEvent | null>(null);
  const opened = ref(0);
  /** Who is in the project, what was said of it, and how often roles changed; whoever shows them takes them up. */
  const there = shallowRef<Someone[]>([]);
  const comments = shallowRef<Comment[] | null>(null);
  const rolesChanged = ref(0);
  /** Who this is, where the server knows people by name; and why nothing may be edited, where that is so. */
  const self = ref<string | null>(null);
  const noEdits = ref<string | null>(null);
  const failure = ref<{ message: string; hint?: string; signIn?: boolean } | null>(null);
  const conflict = shallowRef<Conflict | null>(null);
  /** Edits that this browser could not keep: they are lost where the page is closed before the server has them. */
  const unkept = shallowRef<ReadonlySet<string>>(new Set());
  const unread = shallowRef<{ key: string; why: string; message: string }[]>([]);
  let store: WaitingEdits | undefined;
  let stopListening: (() => void) | undefined;
  let flushing = false;
  /** What changes the project on the server goes one after the other, so that none of it meets another as stale. */
  let last: Promise<unknown> = Promise.resolve();
  let queued: Promise<void> | undefined;
  /** Of every step back that is asked for and not done: the edits that waited then, and come before it. */
  const moves = shallowReactive<ReadonlySet<string>[]>([]);
  const goingBack = computed(() => moves.length > 0);
  let behind = false;
  let retry: ReturnType<typeof setTimeout> | undefined;

  /** The document with every edit made here, sent or not. */
  tellDragging(() => preview.value.length > 0);
  const edited = computed(() => {
    let made = saved.value;
    for (const e of waiting.value) made = applyChanges(made, e.changes);
    // Plain as it is: it changes as a whole, and large libraries are not to be watched number by number.
    return markRaw(made);
  });
  const document = computed(() =>
    preview.value.length > 0 ? markRaw(applyChanges(edited.value, preview.value)) : edited.value,
  );
  const brief = computed(() => markRaw(document.value.brief));
  const candidates = computed(() =>
    markRaw(
      Object.values(document.value.candidates).sort(
        (a, b) => a.letter.length - b.letter.length || a.letter.localeCompare(b.letter),
      ),
    ),
  );
  // A library of thousands is put in order again only when it changed.
  const library = computed(() => document.value.sections);
  const sections = computed(() => markRaw(Object.values(library.value).sort((a, b) => byName(a.name, b.name))));
  const refused = computed(() => waiting.value.filter((e) => e.refused));
  /** Whether closing the page now would lose an edit. */
  const atRisk = computed(() => waiting.value.some((e) => unkept.value.has(e.editId)));

  // What is kept in this browser survives a reload; what is not would be lost.
  globalThis.addEventListener?.('beforeunload', (e) => {
    if (atRisk.value) e.preventDefault();
  });

  function tell(told: Told): void {
    name.value = told.name;
    version.value = told.version;
    undoLabel.value = told.undo;
    redoLabel.value = told.redo;
  }

  async function open(project: string): Promise<void> {
    close();
    failure.value = null;
    try {
      const state = await call('openProject', { params: { id: project }, query: { points: 'packed' } });
      // Before anything is asked of them.
      setHome(state.id);
      id.value = state.id;
      saved.value = unpackPoints(state.document as ProjectDocument);
      unread.value = state.unread;
      tell(state);
    } catch (error) {
      failure.value = {
        message:
          error instanceof ApiError && error.status === 404
            ? 'This project is not here any more.'
            : (error as Error).message,
        hint:
          error instanceof Unreachable ? 'Start the server again; nothing is lost.' : (error as { hint?: string }).hint,
        signIn: error instanceof ApiError && error.status === 401,
      };
      return;
    }
    store = new WaitingEdits(project);
    await adopt();
    if (id.value !== project) return;
    looked.value = true;
    stopListening = listen(project, {
      changed: heard,
      renamed: (next) => (name.value = next),
      removed: () => (failure.value = { message: 'This project was removed in another tab.' }),
      runs: (event) => (ran.value = event),
      studies: (event) => (studied.value = event),
      people: (people) => (there.value = people),
      comments: (list) => (comments.value = list),
      roles: () => rolesChanged.value++,
      opened: () => {
        opened.value++;
        void catchUp().then(flush);
      },
      lost: () => (connection.value = 'away'),
    });
    void flush();
  }

  /** Takes over the edits of pages that are gone: of this one before a reload, or of one that crashed. */
  async function adopt(): Promise<void> {
    const kept = store;
    if (!kept) return;
    await alone('veldtwind-adopt', async () => {
      const known = new Set(waiting.value.map((e) => e.editId));
      const mine: WaitingEdit[] = [];
      for (const e of await kept.all()) {
        if (known.has(e.editId) || (await isThere(e.tab))) continue;
        const own = { ...e, tab: TAB };
        await keepHere(own);
        mine.push(own);
      }
      if (mine.length > 0) waiting.value = [...mine, ...waiting.value].sort((a, b) => a.at - b.at);
    });
  }

  function close(): void {
    stopListening?.();
    stopListening = undefined;
    clearTimeout(retry);
    setHome(null);
    id.value = null;
    looked.value = false;
    store = undefined;
    waiting.value = [];
    unkept.value = new Set();
    preview.value = [];
    conflict.value = null;
    unread.value = [];
    trouble.value = null;
    there.value = [];
    comments.value = null;
    connection.value = 'saved';
    saved.value = freshProject();
  }

  /** Takes up what others did since the version that is known here. */
  async function catchUp(): Promise<void> {
    const project = id.value;
    if (!project) return;
    try {
      const told = await call('changesSince', {
        params: { id: project },
        query: { version: version.value },
      });
      if (id.value !== project) return;
      take(told as Parameters<typeof take>[0]);
      behind = false;
    } catch (error) {
      if (error instanceof ApiError && error.status === 404)
        failure.value = { message: 'This project is not here any more.' };
      else connection.value = 'away';
    }
  }

  /** Takes up what the server tells: changed parts from the version that is known here, or the document. */
  function take(told: Told & { since: number; changes?: Applied['changes']; document?: ProjectDocument }): void {
    if (told.version < version.value) return;
    if (told.document) saved.value = unpackPoints(told.document);
    else if (told.changes && told.since === version.value) saved.value = applyChanges(saved.value, told.changes);
    else if (told.since !== version.value) return;
    tell(told);
  }

  /** What somebody did, as the server tells it. */
  function heard(event: ChangedEvent): void {
    if (event.version <= version.value) return;
    if (event.base === version.value && event.changes) {
      // The reply to an edit of this page may come later than this: it leads on from here, or is answered as stale.
      if (event.from === TAB && flushing) return;
      settle(event, event.by !== undefined && event.by !== null && event.by.id !== self.value);
    } else {
      behind = true;
      if (!flushing) void catchUp();
    }
  }

  /** @param others whether somebody else did it: undo and redo stay with one's own steps then. */
  function settle(applied: Applied, others = false): void {
    if (applied.changes) saved.value = applyChanges(saved.value, applied.changes);
    version.value = applied.version;
    if (others) {
      undoLabel.value ??= applied.undo;
      return;
    }
    undoLabel.value = applied.undo;
    redoLabel.value = applied.redo;
  }

  /** Shows a change without saving it, while a value is dragged. */
  function show(edit: Edit): void {
    preview.value = editDocument(edited.value, edit).changes;
  }

  /** Makes an edit on the newest state: shown at once, kept in this browser until the server has it. */
  function edit(label: string, change: Edit): void {
    preview.value = [];
    if (!id.value || !store) return;
    if (noEdits.value) return void toast.error(noEdits.value, { id: 'no-edits' });
    const base = edited.value;
    const { changes } = editDocument(base, change);
    if (changes.length === 0) return;
    const parts = partsIn(
      base,
      changes.map((c) => c.part),
    );
    const made: WaitingEdit = {
      editId: newId(),
      tab: TAB,
      at: Date.now() + performance.now() / 1e7,
      label: label.slice(0, 120),
      base: version.value,
      changes,
      before: Object.fromEntries(changes.map((c) => [c.part, parts.get(c.part) ?? null])),
    };
    waiting.value = [...waiting.value, made];
    if (connection.value === 'saved') connection.value = 'saving';
    // It is sent whatever becomes of keeping it.
    void keepHere(made);
    void flush();
  }

  /** Of each edit the keeping that is under way: nothing is forgotten before it was kept. */
  const keeping = new Map<string, Promise<unknown>>();
  /** Keeps an edit in this browser until the server has it, and remembers where that cannot be. */
  function keepHere(edit: WaitingEdit): Promise<void> {
    const kept = store;
    const mine = (keeping.get(edit.editId) ?? Promise.resolve()).then(async () => {
      const held = (await kept?.keep(edit).catch(() => false)) ?? false;
      if (held === unkept.value.has(edit.editId)) {
        const next = new Set(unkept.value);
        if (held) next.delete(edit.editId);
        else next.add(edit.editId);
        unkept.value = next;
      }
    });
    keeping.set(edit.editId, mine);
    return mine;
  }
  function drop(editId: string): void {
    const gone = waiting.value.find((e) => e.editId === editId);
    waiting.value = waiting.value.filter((e) => e.editId !== editId);
    if (!gone) return;
    const kept = store;
    void (keeping.get(editId) ?? Promise.resolve())
      .then(() => kept?.forget(gone))
      .catch(() => undefined)
      .finally(() => {
        keeping.delete(editId);
        unkept.value = new Set([...unkept.value].filter((e) => e !== editId));
        // Room may have come free for what could not be kept.
        for (const e of waiting.value) if (unkept.value.has(e.editId)) void keepHere(e);
      });
  }
  function replace(next: WaitingEdit): void {
    waiting.value = waiting.value.map((e) => (e.editId === next.editId ? next : e));
    void keepHere(next);
  }

  /** The next edit to be sent: made before the next step back, not refused, and waiting for none that is. */
  function nextEdit(): WaitingEdit | undefined {
    const among = moves[0];
    return waiting.value.find(
      (e, i) =>
        (!among || among.has(e.editId)) &&
        !e.refused &&
        !waiting.value.slice(0, i).some((o) => o.refused && dependsOn(e, o)),
    );
  }

  function inTurn<T>(job: () => Promise<T>): Promise<T> {
    const mine = last.then(job);
    last = mine.catch(() => undefined);
    return mine;
  }

  /** Sends what waits. @returns when it was sent, or cannot be: also what waited when this was asked while others were under way. */
  function flush(): Promise<void> {
    return (queued ??= inTurn(() => ((queued = undefined), send())));
  }

  async function send(): Promise<void> {
    if (conflict.value) return;
    flushing = true;
    clearTimeout(retry);
    // There may be room by now for what this browser could not keep.
    for (const e of waiting.value) if (unkept.value.has(e.editId)) void keepHere(e);
    try {
      for (let next = nextEdit(); id.value && next; next = nextEdit()) {
        const project = id.value;
        connection.value = connection.value === 'away' ? 'away' : 'saving';
        const now = partsIn(
          saved.value,
          next.changes.map((c) => c.part),
        );
        const { changes, collisions } = rebase(next, now);
        if (collisions.length > 0) {
          conflict.value = { edit: next, parts: collisions };
          return;
        }
        if (changes.length === 0) {
          drop(next.editId);
          continue;
        }
        const base = version.value;
        try {
          const applied = (await call('edit', {
            params: { id: project },
            body: { baseVersion: base, editId: next.editId, label: next.label, changes },
          })) as Applied;
          if (id.value !== project) return;
          connection.value = 'saving';
          trouble.value = null;
          if (applied.changes === null) behind = true;
          else if (applied.base === version.value) settle(applied);
          else if (applied.version > version.value) behind = true;
          // Both at once, so that nothing flickers back for a moment.
          drop(next.editId);
        } catch (error) {
          if (id.value !== project) return;
          if (!(await failed(next, base, error))) return;
        }
        if (behind) await catchUp();
      }
      // What was edited after a step back is sent when that is done.
      const later = moves.length > 0 && waiting.value.some((e) => !moves[0].has(e.editId));
      if (!later && (connection.value !== 'away' || waiting.value.length === 0)) connection.value = 'saved';
    } finally {
      flushing = false;
      if (behind && id.value) void catchUp();
    }
  }

  /**
   * What to do when an edit was not taken.
   * @param base the version that it was sent on.
   * @returns whether the next can be tried at once.
   */
  async function failed(edit: WaitingEdit, base: number, error: unknown): Promise<boolean> {
    if (error instanceof ApiError && error.code === 'stale-version') {
      const { current } = error.body as { current: Parameters<typeof take>[0] };
      take(current);
      // An event may have told of it while the answer was under way.
      if (version.value === base) await catchUp();
      return version.value > base;
    }
    if (error instanceof ApiError && error.status < 500 && error.status !== 401 && error.status !== 429) {
      replace({ ...edit, refused: { code: error.code, message: error.message, hint: error.hint } });
      toast.error(`Not saved: ${error.message}`, { description: error.hint });
      return true;
    }
    // The server is away, or cannot save just now: everything waits, and is tried again.
    trouble.value = error instanceof ApiError ? error.message : null;
    connection.value = 'away';
    retry = setTimeout(() => void flush(), RETRY);
    return false;
  }

  /** Answers a collision with another's edit: put this one over theirs, or let theirs stand. */
  async function resolveConflict(choice: 'mine' | 'theirs'): Promise<void> {
    const met = conflict.value;
    if (!met) return;
    if (choice === 'theirs') drop(met.edit.editId);
    else {
      // Made on what stands now, so that it does not collide with it again.
      const now = partsIn(
        saved.value,
        met.edit.changes.map((c) => c.part),
      );
      const { changes } = rebase(met.edit, now);
      const before = Object.fromEntries(met.edit.changes.map((c) => [c.part, now.get(c.part) ?? null]));
      replace({ ...met.edit, base: version.value, changes, before });
    }
    conflict.value = null;
    void flush();
  }

  /** Tries a refused edit again. */
  async function tryAgain(editId: string): Promise<void> {
    const found = waiting.value.find((e) => e.editId === editId);
    if (!found) return;
    replace({ ...found, refused: undefined });
    void flush();
  }
  /** Gives up a refused edit, knowingly. */
  async function discard(editId: string): Promise<void> {
    drop(editId);
    void flush();
  }
  /** Keeps what a refused edit made under names of its own, and gives the edit up. */
  async function keepAsCopy(editId: string): Promise<void> {
    const found = waiting.value.find((e) => e.editId === editId);
    if (!found) return;
    const copies = asCopies(edited.value, found);
    drop(editId);
    if (copies) edit(copies.label, copies.edit);
  }

  /** Undoes the last edit, or does it again; what waits is sent first. */
  const step = (way: 'undo' | 'redo', anothers = false): Promise<void> =>
    move(
      'They come first; undo reaches back behind them.',
      (project, baseVersion) =>
        call(way, { params: { id: project }, body: { baseVersion, ...(anothers && { anothers }) } }),
      (applied) => toast(`${way === 'undo' ? 'Undone' : 'Redone'}: ${applied.label}`, { duration: 2500 }),
    ).catch((error: unknown) => {
      if (error instanceof ApiError && error.code === 'anothers-step')
        toast(error.message, {
          action: { label: way === 'undo' ? 'Take it back' : 'Do it again', onClick: () => void step(way, true) },
        });
      else if (error instanceof ApiError) toast(error.message, { description: error.hint });
      else toast.error('The server does not answer.');
    });

  /** Goes back to a kept version; what waits is sent first. @throws ApiError, Unreachable. */
  const restore = (kept: string, label: string): Promise<void> =>
    move(
      'They come first; then go back.',
      (project, baseVersion) => call('restoreVersion', { params: { id: project, kept }, body: { baseVersion } }),
      () => toast(`Back to “${label}”`, { description: 'Undo brings back what was.', duration: 4000 }),
    );

  type Asking = (project: string, baseVersion: number) => Promise<unknown>;
  /** Has the server make a change of what it has, after what waits at this moment and before what is edited later. */
  function move(first: string, ask: Asking, say: (applied: Applied) => void): Promise<void> {
    const project = id.value;
    const before = new Set(waiting.value.map((e) => e.editId));
    moves.push(before);
    return inTurn(async () => {
      try {
        if (!project || id.value !== project) return;
        await send();
        if (waiting.value.some((e) => before.has(e.editId)))
          toast.error('Some edits are not saved yet.', { description: first });
        else await moveNow(project, ask, say);
      } finally {
        moves.shift();
        if (waiting.value.length > 0 && connection.value !== 'away') void flush();
      }
    });
  }
  async function moveNow(project: string, ask: Asking, say: (applied: Applied) => void): Promise<void> {
    for (;;) {
      const base = version.value;
      try {
        const applied = (await ask(project, base)) as Applied;
        if (id.value !== project) return;
        if (applied.base === version.value) settle(applied);
        else if (applied.version > version.value) await catchUp();
        say(applied);
        return;
      } catch (error) {
        if (id.value !== project) return;
        if (!(error instanceof ApiError) || error.code !== 'stale-version') throw error;
        take((error.body as { current: Parameters<typeof take>[0] }).current);
        // Another came in between: it is tried on what they made.
        if (version.value <= base) throw error;
      }
    }
  }

  async function rename(next: string): Promise<void> {
    if (!id.value || !next.trim()) return;
    name.value = (await call('renameProject', { params: { id: id.value }, body: { name: next } })).name;
  }

  return {
    ran,
    studied,
    opened,
    there,
    comments,
    rolesChanged,
    self,
    noEdits,
    id,
    name,
    version,
    document,
    /** Whether something is only being dragged. */
    previewing: computed(() => preview.value.length > 0),
    /** The document without what is only being dragged. */
    edited,
    looked,
    brief,
    candidates,
    sections,
    waiting,
    atRisk,
    refused,
    undoLabel,
    redoLabel,
    connection,
    trouble,
    failure,
    conflict,
    unread,
    open,
    close,
    show,
    edit,
    /** Waits until what was edited here is saved, where the server answers. */
    flushed: flush,
    step,
    goingBack,
    rename,
    restore,
    resolveConflict,
    tryAgain,
    discard,
    keepAsCopy,
  };
});
