import { del, get, keys, set } from 'idb-keyval';
import { mergeValues, parsePart, readStored, type PartChange, type PartValue } from '@veldtwind/core/project';
import { newId } from '@/lib/ids';
import { smallStorage } from '@/lib/browser-storage';

/** Why an edit was not taken. */
export interface Refusal {
  code: string;
  message: string;
  hint?: string;
}

/** An edit that was made here and that the server has not got yet. */
export interface WaitingEdit {
  editId: string;
  /** The page that it was made on, and when, so that edits stay in their order. */
  tab: string;
  at: number;
  label: string;
  /** The version of the project that it was made on. */
  base: number;
  changes: PartChange[];
  /** The parts as they were when it was made: what others did to them meanwhile is seen from it. */
  before: Record<string, PartValue | null>;
  /** Set when the server refused it: it stays until the engineer decides. */
  refused?: Refusal;
}

/** Where edits wait that are too large for the small storage. */
export interface LargeStorage {
  get(key: string): Promise<unknown>;
  set(key: string, value: unknown): Promise<void>;
  remove(key: string): Promise<void>;
  keys(): Promise<string[]>;
}
const inBrowser: LargeStorage = {
  // Asked for in turn: where it is blocked, asking itself throws.
  get: async (key) => get(key),
  set: async (key, value) => set(key, value),
  remove: async (key) => del(key),
  keys: async () => (await keys()).filter((k): k is string => typeof k === 'string'),
};
/** Stands in the small storage for an edit that waits in the large one. */
const ELSEWHERE = '"elsewhere"';

const prefix = (project: string) => `veldtwind-edit-${project}-`;
/** Where the first landed versions kept all of a project's edits together. */
const togetherAt = (project: string) => `veldtwind-pending-${project}`;

const isEdit = (e: unknown): e is WaitingEdit => {
  const edit = e as Partial<WaitingEdit> | null;
  return (
    typeof edit === 'object' &&
    edit !== null &&
    typeof edit.editId === 'string' &&
    Array.isArray(edit.changes) &&
    typeof edit.before === 'object' &&
    edit.before !== null
  );
};

/** Edits that wait in the browser's storage, each in a place of its own, so that tabs do not overwrite each other's and a crash loses none. */
export class WaitingEdits {
  constructor(
    private readonly project: string,
    private readonly storage: Storage | null = smallStorage(),
    private readonly large: LargeStorage = inBrowser,
  ) {}

  private place(edit: Pick<WaitingEdit, 'editId'>): string {
    return prefix(this.project) + edit.editId;
  }

  /** Keeps an edit, or its new state. @returns false where this browser keeps nothing: its storages are full, or blocked. */
  async keep(edit: WaitingEdit): Promise<boolean> {
    const key = this.place(edit);
    if (this.write(key, JSON.stringify(edit))) return true;
    try {
      // It does not fit: the large storage takes it; the small one remembers where it is, where it can.
      await this.large.set(key, JSON.parse(JSON.stringify(edit)));
    } catch {
      return false;
    }
    this.write(key, ELSEWHERE);
    return true;
  }

  private write(key: string, text: string): boolean {
    if (!this.storage) return false;
    try {
      this.storage.setItem(key, text);
      return true;
    } catch {
      // An older state of it must not come back as the newest.
      try {
        this.storage.removeItem(key);
      } catch {
        // Blocked altogether.
      }
      return false;
    }
  }

  async forget(edit: Pick<WaitingEdit, 'editId'>): Promise<void> {
    const key = this.place(edit);
    let was: string | null = null;
    try {
      was = this.storage?.getItem(key) ?? null;
      this.storage?.removeItem(key);
    } catch {
      // Blocked: nothing was kept there.
    }
    if (was === ELSEWHERE || was === null) await this.large.remove(key).catch(() => undefined);
  }

  /** All that wait for this project, in the order in which they were made; what cannot be read is left alone. */
  async all(): Promise<WaitingEdit[]> {
    const own = new Set<string>();
    const mine = (key: string | null | undefined) => key?.startsWith(prefix(this.project)) && own.add(key);
    try {
      for (let i = 0; i < (this.storage?.length ?? 0); i++) mine(this.storage?.key(i));
    } catch {
      // Blocked: the large storage may have some all the same.
    }
    for (const key of await this.large.keys().catch(() => [])) mine(key);
    const found: WaitingEdit[] = [];
    for (const key of own) {
      try {
        const text = this.storage?.getItem(key) ?? ELSEWHERE;
        const edit: unknown = text === ELSEWHERE ? await this.large.get(key) : JSON.parse(text);
        if (isEdit(edit)) found.push(asOfNow(edit));
      } catch {
        // Not an edit of ours.
      }
    }
    found.push(...(await this.together()));
    return found.sort((a, b) => a.at - b.at);
  }

  /** Edits as the first landed versions kept them: in one list, without the state that they were made on. They are kept one by one from now on. */
  private async together(): Promise<WaitingEdit[]> {
    const key = togetherAt(this.project);
    try {
      const text = this.storage?.getItem(key) ?? null;
      if (text === null) return [];
      const list: unknown = text === ELSEWHERE ? await this.large.get(key) : JSON.parse(text);
      const edits = (Array.isArray(list) ? list : []).flatMap((e: Partial<WaitingEdit> | null, i) => {
        if (typeof e?.editId !== 'string' || !Array.isArray(e.changes)) return [];
        const { editId, changes, label = 'Edit' } = e;
        return [asOfNow({ editId, changes, label, tab: newId(), at: i, base: 0, before: {} })];
      });
      const kept = await Promise.all(edits.map((e) => this.keep(e)));
      if (kept.every(Boolean)) {
        this.storage?.removeItem(key);
        if (text === ELSEWHERE) await this.large.remove(key).catch(() => undefined);
      }
      return edits;
    } catch {
      // Not a list of ours.
      return [];
    }
  }
}

/** An edit with its values as this version has them: an older program may have kept it. What cannot be brought up the server will refuse, and say why. */
function asOfNow(edit: WaitingEdit): WaitingEdit {
  const brought = (part: string, value: PartChange['value']): PartChange['value'] => {
    // What belongs to another part may be given with it: the server takes such a whole apart.
    if (value === null || part.startsWith('candidate:')) return value;
    try {
      parsePart(part, value);
      return value;
    } catch {
      const read = readStored(part, 1, value);
      return read.ok ? read.value : value;
    }
  };
  return { ...edit, changes: edit.changes.map(({ part, value }) => ({ part, value: brought(part, value) })) };
}

/** What became of an edit on the parts as they are now. */
export interface Rebased {
  changes: PartChange[];
  /** Parts that somebody else changed in the same fields: the engineer decides. */
  collisions: { part: string; fields: string[] }[];
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * An edit as it is to be sent now: changes of different fields of a part are put together, those of the same are told.
 * @param now the parts as the server has them.
 */
export function rebase(edit: Pick<WaitingEdit, 'changes' | 'before'>, now: ReadonlyMap<string, unknown>): Rebased {
  const out: Rebased = { changes: [], collisions: [] };
  for (const { part, value } of edit.changes) {
    const before = edit.before[part] ?? null;
    const theirs = now.get(part) ?? null;
    if (part.startsWith('original:') || same(before, theirs)) out.changes.push({ part, value });
    else if (same(theirs, value)) continue;
    else if (before !== null && theirs !== null && value !== null) {
      const merged = mergeValues<unknown>(before, value, theirs);
      // Who comes in which order is settled by whoever comes last.
      const both = merged.both.filter((path) => !path.startsWith('order.'));
      if (both.length > 0) out.collisions.push({ part, fields: both });
      out.changes.push({ part, value: merged.value as PartValue });
    } else {
      out.collisions.push({ part, fields: [] });
      out.changes.push({ part, value });
    }
  }
  return out;
}

/** True where an edit touches what another one touches, or what belongs to it: it must wait for the other. */
export function dependsOn(edit: Pick<WaitingEdit, 'changes'>, other: Pick<WaitingEdit, 'changes'>): boolean {
  const ownerOf = (key: string) => {
    const [kind, rest] = key.split(':');
    const dot = rest?.indexOf('.') ?? -1;
    return dot < 0 ? key : `${kind === 'surface' || kind === 'mass-item' ? 'candidate' : kind}:${rest.slice(0, dot)}`;
  };
  const theirs = new Set(other.changes.flatMap((c) => [c.part, ownerOf(c.part)]));
  const made = other.changes.filter((c) => c.value !== null).map((c) => c.part.split(':')[1]);
  return edit.changes.some(
    (c) =>
      theirs.has(c.part) ||
      theirs.has(ownerOf(c.part)) ||
      // It may name what the other one brings.
      (c.value !== null && made.some((id) => id !== undefined && JSON.stringify(c.value).includes(`"${id}"`))),
  );
}
