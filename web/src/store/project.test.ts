import { createPinia, setActivePinia } from 'pinia';
import { watch } from 'vue';
import {
  applyChanges,
  checkedChanges,
  designationSection,
  freshProject,
  type PartChange,
  type ProjectDocument,
} from '@veldtwind/core/project';

/** A server of our own: it keeps a document, refuses stale versions, and can be told to fail. */
const server = {
  version: 0,
  document: freshProject() as ProjectDocument,
  /** Changes by version. */
  log: [] as PartChange[][],
  seen: new Map<string, number>(),
  fail: null as null | (() => Error),
  /** Does something to the project between a request's arrival and its reply. */
  meanwhile: null as null | (() => void),
  /** The brief of each version. */
  briefs: [] as ProjectDocument['brief'][],
  /** Edits taken back in a row, and requests that came on an old version. */
  undone: 0,
  stale: 0,
  apply(changes: PartChange[]) {
    this.briefs[this.version] = this.document.brief;
    this.document = checkedChanges(this.document, changes);
    this.log.push(changes);
    this.version++;
  },
  since(version: number) {
    const keys = new Map<string, PartChange>();
    for (const c of this.log.slice(version).flat()) keys.set(c.part, c);
    return { ...this.head(), since: version, changes: [...keys.values()] };
  },
  head() {
    return { id: 'p', name: 'P', version: this.version, createdAt: '', updatedAt: '', undo: null, redo: null };
  },
};

jest.mock('./project-events', () => ({
  listen: (_: string, heard: unknown) => ((mockHeard = heard), () => undefined),
}));
let mockHeard: unknown;
/** Every load of the page has a name of its own. */
let mockPage = 0;
let before: { close: () => void } | undefined;
jest.mock('@/api/client', () => {
  class ApiError extends Error {
    constructor(
      readonly status: number,
      readonly code: string,
      message: string,
      readonly hint?: string,
      readonly body?: unknown,
    ) {
      super(message);
    }
  }
  class Unreachable extends Error {}
  return {
    ApiError,
    Unreachable,
    get TAB() {
      return `page ${mockPage}`;
    },
    call: (...args: [string, never]) => mockCall(...args),
  };
});
import { ApiError, Unreachable } from '@/api/client';
import type { Heard } from './project-events';
import { useProject } from './project';

async function mockCall(name: string, { query, body }: { query?: never; body?: never } = {}): Promise<unknown> {
  await Promise.resolve();
  if (server.fail && name !== 'openProject') throw server.fail();
  if (name === 'openProject') return { ...server.head(), unread: [], document: structuredClone(server.document) };
  if (name === 'changesSince') return server.since(Number((query as unknown as { version: number }).version));
  server.meanwhile?.();
  if (name === 'undo' || name === 'restoreVersion') return back(name, body as never);
  if (name !== 'edit') throw new Error(`no route ${name}`);
  const edit = body as unknown as { baseVersion: number; editId: string; label: string; changes: PartChange[] };
  if (server.seen.has(edit.editId)) {
    const { changes } = server.since(edit.baseVersion);
    return { ...server.head(), base: edit.baseVersion, label: edit.label, changes, repeated: true };
  }
  if (edit.baseVersion !== server.version)
    throw new ApiError(409, 'stale-version', 'stale', undefined, { current: server.since(edit.baseVersion) });
  try {
    server.apply(edit.changes);
  } catch (error) {
    throw new ApiError(400, (error as { code: string }).code, (error as Error).message);
  }
  server.seen.set(edit.editId, server.version);
  return { ...server.head(), base: server.version - 1, label: edit.label, changes: edit.changes };
}

/** Undoes the last edit that was not, or goes back to the first state. */
function back(name: string, { baseVersion }: { baseVersion: number }): unknown {
  if (baseVersion !== server.version) {
    server.stale++;
    throw new ApiError(409, 'stale-version', 'stale', undefined, { current: server.since(baseVersion) });
  }
  if (name === 'undo') server.undone++;
  const to = name === 'undo' ? server.version - 2 * server.undone + 1 : 0;
  const brief = server.briefs[to];
  const changes: PartChange[] = [{ part: 'brief', value: brief }];
  server.apply(changes);
  return { ...server.head(), base: server.version - 1, label: name, changes };
}

const store = new Map<string, string>();
Object.assign(globalThis, {
  navigator: {},
  localStorage: {
    getItem: (k: string) => store.get(k) ?? null,
    setItem: (k: string, v: string) => void store.set(k, v),
    removeItem: (k: string) => void store.delete(k),
    key: (i: number) => [...store.keys()][i] ?? null,
    get length() {
      return store.size;
    },
  },
});

const settled = async () => {
  for (let k = 0; k < 60; k++) await Promise.resolve();
  await new Promise((r) => setTimeout(r, 5));
};
async function opened() {
  before?.close();
  mockPage++;
  setActivePinia(createPinia());
  const project = useProject();
  before = project;
  await project.open('p');
  await settled();
  return project;
}
beforeEach(() => {
  Object.assign(server, { version: 0, document: freshProject(), log: [], fail: null, meanwhile: null });
  Object.assign(server, { briefs: [], undone: 0, stale: 0 });
  server.seen.clear();
  store.clear();
});

it('does not say that all is saved before it looked for what a page before left', async () => {
  const first = await opened();
  server.fail = () => new Unreachable('away');
  first.edit('Speed', (d) => void (d.brief.speed = 31));
  await settled();
  mockPage++;
  first.close();
  setActivePinia(createPinia());
  const project = useProject();
  before = project;
  const told: [boolean, number][] = [];
  const stop = watch(
    () => [project.id !== null && project.looked, project.waiting.length] as [boolean, number],
    (v) => told.push(v),
    { flush: 'sync' },
  );
  const opening = project.open('p');
  while (project.id === null) await Promise.resolve();
  expect(project.looked).toBe(false);
  await opening;
  stop();
  expect(project.looked).toBe(true);
  // What was left waits before it is looked.
  expect(told.findIndex(([, n]) => n === 1)).toBeLessThan(told.findIndex(([looked]) => looked));
  expect(project.waiting).toHaveLength(1);
  server.fail = null;
  await project.flushed();
  expect(server.document.brief.speed).toBe(31);
});

describe('a browser that keeps nothing', () => {
  const storage = globalThis.localStorage;
  afterEach(() =>
    Object.defineProperty(globalThis, 'localStorage', { value: storage, configurable: true, writable: true }),
  );
  let room = false;
  const full = () => {
    room = false;
    const setItem = (k: string, v: string) => {
      if (!room) throw new Error('QuotaExceededError');
      store.set(k, v);
    };
    Object.defineProperty(globalThis, 'localStorage', {
      configurable: true,
      get: () => ({ getItem: () => null, removeItem: () => undefined, key: () => null, length: 0, setItem }),
    });
  };
  const blocked = () =>
    Object.defineProperty(globalThis, 'localStorage', {
      configurable: true,
      get: () => {
        throw Object.assign(new Error('blocked'), { name: 'SecurityError' });
      },
    });
  it.each([
    ['full', full],
    ['blocked', blocked],
  ])('storage %s: every edit is sent, and nothing snaps back', async (_, make) => {
    make();
    const project = await opened();
    project.edit('Speed', (d) => void (d.brief.speed = 31));
    expect(project.document.brief.speed).toBe(31);
    project.edit('Mass', (d) => void (d.brief.mass = 12));
    await settled();
    expect(server.document.brief).toMatchObject({ speed: 31, mass: 12 });
    expect([project.connection, project.waiting.length, project.atRisk]).toEqual(['saved', 0, false]);
  });
  it.each([
    ['full', full],
    ['blocked', blocked],
  ])(
    'storage %s and the server away: it is told that closing would lose it, until the server has it',
    async (_, make) => {
      make();
      const project = await opened();
      server.fail = () => new Unreachable('away');
      project.edit('Speed', (d) => void (d.brief.speed = 32));
      await settled();
      expect([project.connection, project.atRisk]).toEqual(['away', true]);
      expect(project.document.brief.speed).toBe(32);
      server.fail = null;
      await project.flushed();
      await settled();
      expect([server.document.brief.speed, project.connection, project.atRisk]).toEqual([32, 'saved', false]);
    },
  );
  it('keeps what waits as soon as there is room again', async () => {
    full();
    const project = await opened();
    server.fail = () => new Unreachable('away');
    project.edit('Speed', (d) => void (d.brief.speed = 33));
    await settled();
    expect(project.atRisk).toBe(true);
    room = true;
    await project.flushed();
    await settled();
    expect([project.connection, project.atRisk]).toEqual(['away', false]);
    expect([...store.keys()].some((k) => k.startsWith('veldtwind-edit-p-'))).toBe(true);
  });
});

describe('an edit', () => {
  it('is a change of the newest state: two made at once both stay', async () => {
    const project = await opened();
    project.edit('Speed', (d) => void (d.brief.speed += 1));
    project.edit('Speed', (d) => void (d.brief.speed += 1));
    expect(project.document.brief.speed).toBe(22);
    await settled();
    expect(server.document.brief.speed).toBe(22);
    expect(project.waiting).toEqual([]);
    expect(project.connection).toBe('saved');
  });
  it('that was answered but whose reply was lost is not done twice', async () => {
    const project = await opened();
    let lose = true;
    const original = server.apply.bind(server);
    server.meanwhile = null;
    server.apply = (changes) => {
      original(changes);
      if (lose) {
        lose = false;
        server.seen.set(project.waiting[0].editId, server.version);
        throw Object.assign(new Unreachable('gone'), { code: undefined });
      }
    };
    project.edit('Speed', (d) => void (d.brief.speed = 33));
    await settled();
    server.apply = original;
    project.edit('Mass', (d) => void (d.brief.mass = 12));
    await project.tryAgain(project.waiting[0]?.editId ?? '');
    await settled();
    expect(server.document.brief).toMatchObject({ speed: 33, mass: 12 });
    expect(server.version).toBe(2);
  });
});

it('that is only shown is not run again when what it read changes, and goes when the edit is made', async () => {
  const project = await opened();
  const runs = jest.fn();
  project.show((d) => (runs(), (d.brief.speed = 77)));
  expect(project.document.brief.speed).toBe(77);
  expect(project.edited.brief.speed).toBe(20);
  project.edit('Mass', (d) => void (d.brief.mass = 12));
  expect(project.document.brief).toMatchObject({ speed: 20, mass: 12 });
  expect(runs).toHaveBeenCalledTimes(1);
});

describe('while the server is away or cannot save', () => {
  it.each([
    ['away', () => new Unreachable('The server does not answer.')],
    ['full', () => new ApiError(500, 'internal', 'The disk is full.')],
  ])('edits wait, visibly, and are saved afterwards (%s)', async (_, fail) => {
    const project = await opened();
    server.fail = fail;
    project.edit('Speed', (d) => void (d.brief.speed = 30));
    await settled();
    project.edit('Mass', (d) => void (d.brief.mass = 11));
    await settled();
    expect(project.connection).toBe('away');
    expect(project.waiting).toHaveLength(2);
    expect(project.document.brief).toMatchObject({ speed: 30, mass: 11 });
    // Over a reload too, with what others did meanwhile in other fields.
    server.fail = null;
    server.apply([{ part: 'brief', value: { ...server.document.brief, altitude: 900 } }]);
    const again = await opened();
    await settled();
    expect(again.waiting).toEqual([]);
    expect(server.document.brief).toMatchObject({ speed: 30, mass: 11, altitude: 900 });
  });
});

describe('an edit that the server refuses', () => {
  const refusal = async () => {
    const project = await opened();
    project.edit('New section', (d) => void (d.sections.s = designationSection('s', 'S', '0012')));
    await settled();
    // The server does not take it: the mix names a section that somebody took away meanwhile.
    server.apply([{ part: 'section:s', value: null }]);
    project.edit('Mix', (d) => {
      d.sections.m = {
        ...designationSection('m', 'M', '0012'),
        source: { kind: 'mix', a: 's', b: 's', fraction: 0.5 },
      };
    });
    await settled();
    return project;
  };
  it('stays with its reason, and later ones that do not need it go on', async () => {
    const project = await refusal();
    expect(project.refused).toHaveLength(1);
    expect(project.refused[0].refused!.code).toBe('section-missing');
    project.edit('Speed', (d) => void (d.brief.speed = 44));
    project.edit('Rename the mix', (d) => void (d.sections.m.name = 'N'));
    await settled();
    expect(server.document.brief.speed).toBe(44);
    expect(project.waiting.map((e) => e.label)).toEqual(['Mix', 'Rename the mix']);
    expect(project.document.sections.m.name).toBe('N');
    // A reload keeps it.
    const again = await opened();
    expect(again.waiting.map((e) => e.label)).toEqual(['Mix', 'Rename the mix']);
  });
  it('can be tried again, once what was missing is there', async () => {
    const project = await refusal();
    server.apply([{ part: 'section:s', value: designationSection('s', 'S', '0009') }]);
    await project.tryAgain(project.refused[0].editId);
    await settled();
    expect(project.waiting).toEqual([]);
    expect(server.document.sections.m).toBeDefined();
  });
  it('can be discarded, knowingly', async () => {
    const project = await refusal();
    await project.discard(project.refused[0].editId);
    await settled();
    expect(project.document.sections.m).toBeUndefined();
    expect(store.size).toBe(0);
  });
});

describe('what others do', () => {
  const theirs = (change: Partial<ProjectDocument['brief']>) =>
    server.apply([{ part: 'brief', value: { ...server.document.brief, ...change } }]);
  it('is put together with an edit that was on its way: other fields', async () => {
    const project = await opened();
    server.meanwhile = () => ((server.meanwhile = null), theirs({ mass: 55 }));
    project.edit('Speed', (d) => void (d.brief.speed = 30));
    await settled();
    expect(server.document.brief).toMatchObject({ speed: 30, mass: 55 });
    expect(project.document.brief).toMatchObject({ speed: 30, mass: 55 });
    expect(project.conflict).toBeNull();
  });
  it.each(['mine', 'theirs'] as const)('asks where it is the same field: %s', async (choice) => {
    const project = await opened();
    server.meanwhile = () => ((server.meanwhile = null), theirs({ speed: 40 }));
    project.edit('Speed', (d) => void (d.brief.speed = 30));
    await settled();
    expect(project.conflict?.parts).toEqual([{ part: 'brief', fields: ['speed'] }]);
    expect(server.document.brief.speed).toBe(40);
    await project.resolveConflict(choice);
    await settled();
    expect(server.document.brief.speed).toBe(choice === 'mine' ? 30 : 40);
    expect(project.document.brief.speed).toBe(choice === 'mine' ? 30 : 40);
    expect(project.waiting).toEqual([]);
  });
  it('does not hold an edit up that is answered as stale after the event that told of it', async () => {
    const project = await opened();
    const heard = mockHeard as Heard;
    server.meanwhile = () => {
      server.meanwhile = null;
      theirs({ mass: 55 });
      heard.changed({ ...server.head(), base: 0, label: 'm', changes: server.log[0], from: 'other' } as never);
    };
    project.edit('Speed', (d) => void (d.brief.speed = 30));
    await settled();
    expect(project.waiting).toEqual([]);
    expect(server.document.brief).toMatchObject({ speed: 30, mass: 55 });
  });
  it('is heard, and caught up where something was missed', async () => {
    const project = await opened();
    const heard = mockHeard as Heard;
    theirs({ mass: 20 });
    heard.changed({ ...server.head(), base: 0, label: 'm', changes: server.log[0], from: 'other' } as never);
    expect(project.document.brief.mass).toBe(20);
    theirs({ mass: 21 });
    theirs({ altitude: 500 });
    heard.changed({ ...server.head(), base: 2, label: 'a', changes: server.log[2], from: 'other' } as never);
    await settled();
    expect(project.document.brief).toMatchObject({ mass: 21, altitude: 500 });
    expect(project.version).toBe(3);
  });
});

describe('going back', () => {
  const speeds = async (...all: number[]) => {
    const project = await opened();
    for (const v of all) project.edit('Speed', (d) => void (d.brief.speed = v));
    return project;
  };
  it('by undo pressed three times at once goes back three edits, none on an old version', async () => {
    const project = await speeds(31, 32, 33);
    await settled();
    for (let k = 0; k < 3; k++) void project.step('undo');
    await settled();
    expect([server.document.brief.speed, server.stale, server.version]).toEqual([server.briefs[0].speed, 0, 6]);
    expect(project.document.brief).toEqual(server.document.brief);
  });
  it('to a version waits for the edit that is on its way, and leaves one that is made after it', async () => {
    const project = await speeds(31);
    const asked = project.restore('k', 'K');
    project.edit('Mass', (d) => void (d.brief.mass = 77));
    await asked;
    await settled();
    expect(server.document.brief).toMatchObject({ speed: server.briefs[0].speed, mass: 77 });
    expect(server.log.map((c) => (c[0].value as { speed: number }).speed)).toEqual(
      [31, 0, 0].map((v) => v || server.briefs[0].speed),
    );
    expect(project.waiting).toEqual([]);
    expect(project.document.brief).toEqual(server.document.brief);
  });
  it('is done on what another made meanwhile', async () => {
    const project = await speeds(31);
    await settled();
    server.meanwhile = () => (
      (server.meanwhile = null),
      server.apply([{ part: 'brief', value: { ...server.document.brief, mass: 5 } }])
    );
    await project.restore('k', 'K');
    expect(server.stale).toBe(1);
    expect(project.document.brief).toEqual(server.briefs[0]);
  });
  it('is not done, and says so, while the server saves nothing', async () => {
    const project = await speeds(31);
    server.fail = () => new Unreachable('away');
    project.edit('Speed', (d) => void (d.brief.speed = 32));
    await project.step('undo');
    expect(project.document.brief.speed).toBe(32);
    expect(project.waiting.length).toBeGreaterThan(0);
    server.fail = null;
    await project.flushed();
    expect(server.document.brief.speed).toBe(32);
  });
});

it('leaves what was made of two hundred random edits by two pages the same on both and on the server', async () => {
  let seed = 7;
  const random = (n: number) => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed % n);
  const project = await opened();
  for (let k = 0; k < 200; k++) {
    if (random(3) === 0) {
      const field = (['altitude', 'mass'] as const)[random(2)];
      server.apply([{ part: 'brief', value: { ...server.document.brief, [field]: 1 + random(90) } }]);
    } else project.edit('e', (d) => void (d.brief.speed = 1 + random(90)));
    if (random(4) === 0) await settled();
  }
  await settled();
  const heard = mockHeard as Heard;
  heard.opened();
  await settled();
  expect(project.waiting).toEqual([]);
  expect(project.document).toEqual(applyChanges(server.document, []));
});
