import { freshBrief, type PartValue } from '@veldtwind/core/project';
import { collisions, loadPending, savePending, type PendingEdit } from './edit-queue';

const storage = (): Storage => {
  const map = new Map<string, string>();
  return {
    getItem: (k: string) => map.get(k) ?? null,
    setItem: (k: string, v: string) => void map.set(k, v),
    removeItem: (k: string) => void map.delete(k),
    clear: () => map.clear(),
    key: () => null,
    get length() {
      return map.size;
    },
  };
};
const brief = (speed: number): PartValue => ({ ...freshBrief(), speed });
const edit = (speed: number): PendingEdit => ({
  editId: 'e1',
  label: 'Speed',
  changes: [{ part: 'brief', value: brief(speed) }],
});

describe('edits that wait for the server', () => {
  it('come back after a reload, one list a project', async () => {
    const s = storage();
    await savePending('p', [edit(30)], s);
    expect(await loadPending('p', s)).toEqual([edit(30)]);
    expect(await loadPending('q', s)).toEqual([]);
    await savePending('p', [], s);
    expect(s.length).toBe(0);
  });
  it.each(['', '{', 'null', '5', '[1, null, {"editId": 3}]'])('survive a broken store: %p', async (text) => {
    const s = storage();
    s.setItem('veldtwind-pending-p', text);
    expect(await loadPending('p', s)).toEqual([]);
  });
  it('go to the large store when the small one cannot take them, and come back from it', async () => {
    const s = storage();
    const kept = new Map<string, unknown>();
    const large = {
      get: (k: string) => Promise.resolve(kept.get(k)),
      set: (k: string, v: unknown) => Promise.resolve(void kept.set(k, v)),
      remove: (k: string) => Promise.resolve(void kept.delete(k)),
    };
    const small = s.setItem;
    s.setItem = (k, v) => {
      if (v.length > 50) throw new Error('QuotaExceededError');
      small(k, v);
    };
    await savePending('p', [edit(30)], s, large);
    expect(kept.size).toBe(1);
    expect(await loadPending('p', s, large)).toEqual([edit(30)]);
    await savePending('p', [], s, large);
    expect(kept.size + s.length).toBe(0);
  });
});

describe('collisions with another tab', () => {
  const parts = (speed: number) =>
    new Map<string, unknown>([
      ['brief', brief(speed)],
      ['section:a', { id: 'a' }],
    ]);
  it('are parts that both changed', () => {
    expect(collisions(edit(30), parts(20), parts(25))).toEqual(['brief']);
  });
  it('are none when the other tab changed something else, or came to the same value', () => {
    expect(collisions(edit(30), parts(20), parts(20))).toEqual([]);
    expect(collisions(edit(30), parts(20), parts(30))).toEqual([]);
  });
  it('are found for a part that the other tab removed', () => {
    const now = parts(20);
    now.delete('section:a');
    const mine: PendingEdit = {
      editId: 'e',
      label: 'x',
      changes: [{ part: 'section:a', value: { id: 'a', name: 'n' } as unknown as PartValue }],
    };
    expect(collisions(mine, parts(20), now)).toEqual(['section:a']);
    expect(collisions({ ...mine, changes: [{ part: 'section:a', value: null }] }, parts(20), now)).toEqual([]);
  });
});
