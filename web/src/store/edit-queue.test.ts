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
  it('come back after a reload, one list a project', () => {
    const s = storage();
    savePending('p', [edit(30)], s);
    expect(loadPending('p', s)).toEqual([edit(30)]);
    expect(loadPending('q', s)).toEqual([]);
    savePending('p', [], s);
    expect(s.length).toBe(0);
  });
  it.each(['', '{', 'null', '5', '[1, null, {"editId": 3}]'])('survive a broken store: %p', (text) => {
    const s = storage();
    s.setItem('veldtwind-pending-p', text);
    expect(loadPending('p', s)).toEqual([]);
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
