import { createPinia, setActivePinia } from 'pinia';
import { computed, effectScope, nextTick, reactive, ref, type EffectScope } from 'vue';

interface Run {
  id: string;
  state: string;
  priority: number;
  points: number;
  known: number;
  solved: number;
  doubtful: number;
  unsolved: number;
}
/** Keys of the polars that the candidate needs and that are not there. */
let mockNeeds = ref<string[]>([]);
let mockBegun: { keys: string[]; priority?: number }[] = [];
const mockRuns = reactive({
  runs: [] as Run[],
  loaded: true,
  automatic: true,
  change: (id: string, state: string) => {
    mockRuns.runs = mockRuns.runs.map((r) => (r.id === id ? { ...r, state } : r));
    return Promise.resolve(true);
  },
});
const mockProject = reactive({
  id: 'p' as string | null,
  connection: 'saved',
  edited: {
    brief: { speed: 20, altitude: 0, mass: 10 },
    candidates: {
      a: { id: 'a', letter: 'A', surfaces: [{}], massItems: [{}], reference: { area: 1, span: 1, chord: 1 } },
    },
  },
});
const mockAssumed = ref({ computePolars: true, method: 'best' });
const mockMay = ref(true);
jest.mock('./runs', () => ({ useRuns: () => mockRuns }));
jest.mock('./project', () => ({ useProject: () => mockProject }));
jest.mock('./people', () => ({ usePeople: () => ({ may: () => mockMay.value }) }));
jest.mock('./assumptions', () => ({ useAssumptions: () => ({ assumed: computed(() => mockAssumed.value) }) }));
jest.mock('./workbench', () => ({ useWorkbench: () => ({ active: { id: 'a' }, visible: [{ id: 'a' }] }) }));
jest.mock('./needed-polars', () => ({
  useNeededPolars: () => ({
    // All are of the design speed: those of the stall are none.
    needed: (_: unknown, speeds: number[]) =>
      speeds.length === 1 ? mockNeeds.value.map((key) => ({ sweep: { key } })) : [],
    isThere: () => false,
    compute: (list: { sweep: { key: string } }[], _title: string, priority?: number) => {
      mockBegun.push({ keys: list.map((n) => n.sweep.key), priority });
      const id = `run-${mockBegun.length}`;
      mockRuns.runs = [...mockRuns.runs, run(id, priority ?? 0)];
      return Promise.resolve();
    },
  }),
}));
import { AUTOMATIC_PRIORITY, useAutomaticPolars } from './automatic-polars';

const run = (id: string, priority: number): Run => ({
  id,
  priority,
  state: 'running',
  points: 40,
  known: 0,
  solved: 10,
  doubtful: 0,
  unsolved: 0,
});
/** Lets what was changed come to rest. */
async function rest(): Promise<void> {
  await nextTick();
  await jest.advanceTimersByTimeAsync(3000);
}
let scope: EffectScope | undefined;
const begin = () => {
  setActivePinia(createPinia());
  scope = effectScope(true);
  return scope.run(() => useAutomaticPolars())!;
};
beforeEach(() => {
  jest.useFakeTimers();
  mockNeeds = ref([]);
  mockBegun = [];
  mockRuns.runs = [];
  mockRuns.automatic = true;
  mockAssumed.value = { computePolars: true, method: 'best' };
  mockMay.value = true;
});
afterEach(() => {
  scope?.stop();
  jest.useRealTimers();
});

describe('polars that come by themselves', () => {
  it('begin behind all other runs when an edit has come to rest, and tell how far they are', async () => {
    const store = begin();
    mockNeeds.value = ['x', 'y'];
    await nextTick();
    await jest.advanceTimersByTimeAsync(1000);
    expect(mockBegun).toEqual([]);
    await rest();
    expect(mockBegun).toEqual([{ keys: ['x', 'y'], priority: AUTOMATIC_PRIORITY }]);
    expect(AUTOMATIC_PRIORITY).toBeLessThan(0);
    expect(store.progress).toEqual({ done: 10, of: 40 });
  });
  it('end what is not needed any more, and are not begun again for ever', async () => {
    begin();
    mockNeeds.value = ['x'];
    await rest();
    mockNeeds.value = ['z'];
    await rest();
    expect(mockRuns.runs.map((r) => r.state)).toEqual(['cancelled', 'running']);
    // It ended with too few points.
    mockRuns.runs = mockRuns.runs.map((r) => ({ ...r, state: 'finished' }));
    await rest();
    expect(mockBegun).toHaveLength(2);
  });
  it('begin again for a shape that comes back before its polars were done, and end when they are switched off', async () => {
    begin();
    for (const need of ['x', 'z', 'x']) {
      mockNeeds.value = [need];
      await rest();
    }
    expect(mockBegun.map((b) => b.keys)).toEqual([['x'], ['z'], ['x']]);
    mockAssumed.value = { computePolars: false, method: 'best' };
    await rest();
    expect(mockRuns.runs.every((r) => r.state === 'cancelled')).toBe(true);
    mockAssumed.value = { computePolars: true, method: 'best' };
    await rest();
    expect(mockBegun).toHaveLength(4);
  });
  it('wait for what another page began', async () => {
    mockRuns.runs = [run('theirs', AUTOMATIC_PRIORITY)];
    begin();
    mockNeeds.value = ['x'];
    await rest();
    expect(mockBegun).toEqual([]);
    expect(mockRuns.runs[0].state).toBe('running');
    mockRuns.runs = [{ ...mockRuns.runs[0], state: 'finished' }];
    await rest();
    expect(mockBegun).toHaveLength(1);
  });
  it('stay paused until somebody resumes them', async () => {
    const store = begin();
    mockNeeds.value = ['x'];
    await rest();
    await store.pause();
    mockNeeds.value = ['y'];
    await rest();
    expect(mockBegun).toHaveLength(1);
    await store.resume();
    await rest();
    expect(mockBegun).toHaveLength(2);
  });
  it.each([
    ['the project says no', () => void (mockAssumed.value = { computePolars: false, method: 'best' })],
    ['the lattice alone is meant', () => void (mockAssumed.value = { computePolars: true, method: 'lattice' })],
    ['the server does not', () => void (mockRuns.automatic = false)],
    ['this person may not edit', () => void (mockMay.value = false)],
  ])('do not begin where %s', async (_, set) => {
    set();
    begin();
    mockNeeds.value = ['x'];
    await rest();
    expect(mockBegun).toEqual([]);
  });
});
