import { freshBrief, type PartValue } from '@veldtwind/core/project';
import { dependsOn, rebase, WaitingEdits, type WaitingEdit } from './waiting-edits';

const storage = (): Storage => {
  const map = new Map<string, string>();
  return {
    getItem: (k: string) => map.get(k) ?? null,
    setItem: (k: string, v: string) => void map.set(k, v),
    removeItem: (k: string) => void map.delete(k),
    clear: () => map.clear(),
    key: (i: number) => [...map.keys()][i] ?? null,
    get length() {
      return map.size;
    },
  };
};
const brief = (speed: number, mass = 10): PartValue => ({ ...freshBrief(), speed, mass });
const edit = (speed: number, at = 1, editId = `e${at}`): WaitingEdit => ({
  editId,
  tab: 't',
  at,
  label: 'Speed',
  base: 0,
  changes: [{ part: 'brief', value: brief(speed) }],
  before: { brief: brief(20) },
});

describe('edits that wait for the server', () => {
  it('come back after a reload in their order, each project its own, with the state they were made on', async () => {
    const s = storage();
    const p = new WaitingEdits('p', s);
    await p.keep(edit(31, 2));
    await p.keep(edit(30, 1));
    expect(await p.all()).toEqual([edit(30, 1), edit(31, 2)]);
    expect(await new WaitingEdits('q', s).all()).toEqual([]);
    await p.forget({ editId: 'e1' });
    expect((await p.all()).map((e) => e.editId)).toEqual(['e2']);
  });
  it('of the first landed versions, all in one list and without what they were made on, come back and are kept one by one', async () => {
    const s = storage();
    const old = [
      { editId: 'a', label: 'Speed', changes: [{ part: 'brief', value: brief(31) }] },
      { editId: 'b', label: 'Mass', changes: [{ part: 'brief', value: brief(31, 12) }] },
    ];
    s.setItem('veldtwind-pending-p', JSON.stringify(old));
    const p = new WaitingEdits('p', s);
    const read = await p.all();
    expect(read.map((e) => [e.editId, e.label, e.changes])).toEqual(old.map((e) => [e.editId, e.label, e.changes]));
    expect(s.getItem('veldtwind-pending-p')).toBeNull();
    expect((await new WaitingEdits('p', s).all()).map((e) => e.editId)).toEqual(['a', 'b']);
    // What was there when it was made is not known: somebody is asked, and nothing is overwritten.
    expect(rebase(read[0], new Map([['brief', brief(20)]])).collisions).toEqual([{ part: 'brief', fields: [] }]);
    for (const damaged of ['{', '7', '[{"editId":1}]', '[null]']) {
      s.setItem('veldtwind-pending-q', damaged);
      expect(await new WaitingEdits('q', s).all()).toEqual([]);
    }
  });
  it('of two tabs do not overwrite each other', async () => {
    const s = storage();
    await new WaitingEdits('p', s).keep({ ...edit(30, 1, 'a'), tab: 'one' });
    await new WaitingEdits('p', s).keep({ ...edit(31, 2, 'b'), tab: 'two' });
    expect(await new WaitingEdits('p', s).all()).toHaveLength(2);
  });
  it.each(['', '{', 'null', '5', '[1]', '{"editId": 3}'])('survive a broken store: %p', async (text) => {
    const s = storage();
    s.setItem('veldtwind-edit-p-x', text);
    const p = new WaitingEdits('p', s);
    expect(await p.all()).toEqual([]);
    await p.keep(edit(30));
    expect(await p.all()).toHaveLength(1);
  });
  it('go to the large store when the small one cannot take them, and come back from it', async () => {
    const s = storage();
    const kept = new Map<string, unknown>();
    const large = {
      get: (k: string) => Promise.resolve(kept.get(k)),
      set: (k: string, v: unknown) => Promise.resolve(void kept.set(k, v)),
      remove: (k: string) => Promise.resolve(void kept.delete(k)),
      keys: () => Promise.resolve([...kept.keys()]),
    };
    const small = s.setItem;
    s.setItem = (k, v) => {
      if (v.length > 50) throw new Error('QuotaExceededError');
      small(k, v);
    };
    const p = new WaitingEdits('p', s, large);
    await p.keep(edit(30));
    expect(kept.size).toBe(1);
    expect(await p.all()).toEqual([edit(30)]);
    await p.forget(edit(30));
    expect(kept.size + s.length).toBe(0);
  });
});

describe('edits where the browser keeps nothing', () => {
  const refuse = (name: string) => () => {
    throw Object.assign(new Error(name), { name });
  };
  const gone = {
    get: () => Promise.reject(new Error('blocked')),
    set: () => Promise.reject(new Error('blocked')),
    remove: () => Promise.reject(new Error('blocked')),
    keys: () => Promise.reject(new Error('blocked')),
  };
  const memory = () => {
    const kept = new Map<string, unknown>();
    return {
      kept,
      get: (k: string) => Promise.resolve(kept.get(k)),
      set: (k: string, v: unknown) => Promise.resolve(void kept.set(k, v)),
      remove: (k: string) => Promise.resolve(void kept.delete(k)),
      keys: () => Promise.resolve([...kept.keys()]),
    };
  };
  it('say so, and throw nowhere: small storage full to the last byte, large one blocked', async () => {
    const s = { ...storage(), setItem: refuse('QuotaExceededError') } as unknown as Storage;
    const p = new WaitingEdits('p', s, gone);
    expect(await p.keep(edit(30))).toBe(false);
    expect(await p.all()).toEqual([]);
    await p.forget(edit(30));
  });
  it('say so where the small storage is blocked altogether', async () => {
    const blocked = new Proxy({}, { get: refuse('SecurityError') }) as Storage;
    for (const s of [blocked, null]) {
      const p = new WaitingEdits('p', s, gone);
      expect(await p.keep(edit(30))).toBe(false);
      expect(await p.all()).toEqual([]);
      await p.forget(edit(30));
    }
  });
  it('use the large storage alone where the small one takes not even the place', async () => {
    const s = { ...storage(), setItem: refuse('QuotaExceededError') } as unknown as Storage;
    const large = memory();
    const p = new WaitingEdits('p', s, large);
    expect(await p.keep(edit(30, 2))).toBe(true);
    expect(await p.keep(edit(31, 1))).toBe(true);
    expect((await p.all()).map((e) => e.at)).toEqual([1, 2]);
    await p.forget(edit(30, 2));
    expect([...large.kept.keys()]).toEqual(['veldtwind-edit-p-e1']);
  });
  it('do not bring an older state back where the newest does not fit any more', async () => {
    const s = storage();
    const p = new WaitingEdits('p', s, gone);
    await p.keep(edit(30));
    s.setItem = refuse('QuotaExceededError');
    expect(await p.keep({ ...edit(31), label: 'Newer' })).toBe(false);
    expect(await p.all()).toEqual([]);
  });
});

describe('edits on what others changed meanwhile', () => {
  const now = (value: unknown) => new Map<string, unknown>(value === undefined ? [] : [['brief', value]]);
  it('go as they are where nobody did', () => {
    expect(rebase(edit(30), now(brief(20)))).toEqual({ changes: edit(30).changes, collisions: [] });
  });
  it('are put together where the fields differ', () => {
    const { changes, collisions } = rebase(edit(30), now(brief(20, 44)));
    expect(collisions).toEqual([]);
    expect(changes[0].value).toMatchObject({ speed: 30, mass: 44 });
  });
  it('ask where both changed the same field, and are nothing where both came to the same', () => {
    expect(rebase(edit(30), now(brief(25))).collisions).toEqual([{ part: 'brief', fields: ['speed'] }]);
    expect(rebase(edit(30), now(brief(30)))).toEqual({ changes: [], collisions: [] });
  });
  it('ask where the part is gone by now', () => {
    expect(rebase(edit(30), now(undefined)).collisions).toEqual([{ part: 'brief', fields: [] }]);
  });
  it('settle the order of lists without asking', () => {
    const head = (surfaces: string[]) => ({ id: 'a', name: 'A', order: { surfaces, massItems: [] } });
    const made = {
      changes: [{ part: 'candidate:a', value: head(['wing', 'fin']) as never }],
      before: { 'candidate:a': head(['wing']) as never },
    };
    const { changes, collisions } = rebase(made, new Map([['candidate:a', head(['wing', 'tail'])]]));
    expect(collisions).toEqual([]);
    expect(changes).toHaveLength(1);
  });
});

it('knows which edits wait for which', () => {
  const of = (part: string, value: unknown = {}) => ({ changes: [{ part, value: value as PartValue }] });
  expect(dependsOn(of('brief'), of('section:s'))).toBe(false);
  expect(dependsOn(of('surface:a.wing'), of('surface:a.wing'))).toBe(true);
  expect(dependsOn(of('surface:b.wing'), of('candidate:b'))).toBe(true);
  expect(dependsOn(of('surface:a.wing', { section: 'new-one' }), of('section:new-one'))).toBe(true);
  expect(dependsOn(of('surface:a.wing'), of('mass-item:b.m'))).toBe(false);
});
