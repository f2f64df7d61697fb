import { nextTick, reactive, ref } from 'vue';
import type { CurveReply, RunReply } from '@veldtwind/contract';

const asked: { name: string; query?: Record<string, string> }[] = [];
let curves: CurveReply[] = [];
let runs: RunReply[] = [];
let broken = false;
jest.mock('@/api/client', () => ({
  ApiError: class extends Error {},
  call: (name: string, options: { query?: Record<string, string> } = {}) => {
    asked.push({ name, ...(options.query ? { query: options.query } : {}) });
    if (broken) return Promise.reject(new Error('away'));
    const only = options.query?.curves?.split(',').map(Number);
    if (name === 'listRuns') return Promise.resolve({ runs, notice: null });
    if (name === 'listCurves') return Promise.resolve({ curves: curves.filter((c) => !only || only.includes(c.id)) });
    return Promise.resolve({
      curves: only!.map((id) => ({
        id,
        points: Array.from({ length: curves.find((c) => c.id === id)!.points }, (_, place) => ({ place, point: {} })),
      })),
    });
  },
}));
const project = reactive({ id: 'p' as string | null, ran: null as unknown, opened: 0 });
jest.mock('./project', () => ({ useProject: () => project }));
import { useRuns } from './runs';

const curve = (id: number, points: number) => ({ id, points }) as unknown as CurveReply;
const run = (id: string) => ({ id, state: 'running' }) as unknown as RunReply;
const settle = async (ms = 0) => {
  await new Promise((r) => setTimeout(r, ms));
  await nextTick();
};
const tell = (id: string, changed: number[]) =>
  (project.ran = ref({ project: 'p', run: run(id), curves: changed }).value);

describe('runs of the open project', () => {
  const store = useRuns();
  it('are listed whole at first, with the points of all curves', async () => {
    curves = [curve(1, 3), curve(2, 4)];
    runs = [run('a')];
    await store.refresh();
    expect(store.points.get(2)).toHaveLength(4);
    expect(asked.filter((a) => a.name === 'curvePoints')).toEqual([{ name: 'curvePoints', query: { curves: '1,2' } }]);
  });
  it('are asked for by themselves when points come in', async () => {
    asked.length = 0;
    curves = [curve(1, 3), curve(2, 5)];
    tell('a', [2]);
    await settle(500);
    expect(asked.filter((a) => a.name !== 'listRuns')).toEqual([
      { name: 'listCurves', query: { curves: '2' } },
      { name: 'curvePoints', query: { curves: '2' } },
    ]);
    expect(store.points.get(2)).toHaveLength(5);
    expect(store.curves.map((c) => c.points)).toEqual([3, 5]);
  });
  it('lose nothing that is told while the server is asked, or while it is away', async () => {
    curves = [curve(1, 4), curve(2, 6)];
    tell('a', [1]);
    broken = true;
    await settle(500);
    expect(store.failure).toBe('away');
    broken = false;
    tell('a', [2]);
    await settle(500);
    expect(store.failure).toBeNull();
    expect([store.points.get(1)?.length, store.points.get(2)?.length]).toEqual([4, 6]);
  });
  it('are listed whole when a run or a curve is new', async () => {
    asked.length = 0;
    curves = [curve(1, 4), curve(2, 6), curve(3, 1)];
    runs = [run('b'), run('a')];
    tell('b', [3]);
    await settle(500);
    expect(asked.find((a) => a.name === 'listCurves')?.query).toEqual({});
    expect(store.points.get(3)).toHaveLength(1);
  });
});
