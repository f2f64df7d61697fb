import { createPinia, setActivePinia } from 'pinia';
import { computed, nextTick } from 'vue';
import { designationSection, freshProject, type ProjectDocument } from '@veldtwind/core/project';
import type { SavedStep } from '@veldtwind/core/shaping';
import { withStep } from '@veldtwind/core/shaping';

/** A worker that answers when it is told to. */
const held: (() => void)[] = [];
let asked = 0;
jest.mock('@/worker/lane', () => {
  const run = async (kind: string, input: { source: { steps?: { to?: number }[] } }) => {
    if (kind !== 'section-shape') return { facts: {} };
    asked++;
    await new Promise<void>((go) => held.push(go));
    if (input.source.steps?.some((s) => s.to === 99))
      throw Object.assign(new Error('Too thick.'), { path: 'steps.0.to' });
    return { view: {}, found: [] };
  };
  return { lanes: { shape: { run, restart: () => undefined } }, GivenUp: class extends Error {} };
});
let mockDocument: ProjectDocument = freshProject();
jest.mock('@/store/project', () => ({
  useProject: () => ({
    get document() {
      return mockDocument;
    },
    get edited() {
      return mockDocument;
    },
    edit: (_label: string, change: (d: ProjectDocument) => void) => {
      const next = structuredClone(mockDocument);
      change(next);
      mockDocument = next;
    },
  }),
}));
import { useRecipe } from './recipe';

const thickness = (id: string, to: number): SavedStep => ({ kind: 'set-thickness', id, to });
const turn = async () => {
  for (let k = 0; k < 20; k++) await Promise.resolve();
  await nextTick();
};
/** Lets the worker answer all that it is asked, one after the other. */
async function release(): Promise<void> {
  await turn();
  while (held.length > 0) {
    held.shift()!();
    await turn();
  }
}
function start() {
  setActivePinia(createPinia());
  mockDocument = freshProject();
  mockDocument.sections.s = { ...designationSection('s', 'S', '0012'), steps: [thickness('one', 0.1)] };
  held.length = 0;
  asked = 0;
  return useRecipe(
    computed(() => mockDocument.sections.s),
    { alphaDeg: computed(() => 0), mach: computed(() => 0) },
    computed(() => false),
  );
}
const steps = () => mockDocument.sections.s.steps.map((s) => [s.id, (s as { to: number }).to]);

describe('changes of a recipe while the worker is held', () => {
  it('both stay: a step added, then a number typed', async () => {
    const recipe = start();
    const first = recipe.changeSteps('Add', (list) => [...list, thickness('two', 0.2)]);
    const second = recipe.changeSteps('Type', (list) =>
      withStep(list, { id: 'one', index: 0 }, (s) => ({ ...s, to: 0.15 }) as SavedStep),
    );
    await turn();
    // Neither is computed from what the other one will replace.
    expect(asked).toBe(1);
    expect(recipe.waiting.value).toBe(2);
    await release();
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect(steps()).toEqual([
      ['one', 0.15],
      ['two', 0.2],
    ]);
  });
  it('both stay: a number typed, then a step added', async () => {
    const recipe = start();
    void recipe.changeSteps('Type', (list) =>
      withStep(list, { id: 'one', index: 0 }, (s) => ({ ...s, to: 0.15 }) as SavedStep),
    );
    void recipe.changeSteps('Add', (list) => [...list, thickness('two', 0.2)]);
    await release();
    expect(steps()).toEqual([
      ['one', 0.15],
      ['two', 0.2],
    ]);
  });
  it('are made again on what somebody else made of the section meanwhile', async () => {
    const recipe = start();
    const change = recipe.changeSteps('Add', (list) => [...list, thickness('two', 0.2)]);
    await turn();
    mockDocument = structuredClone(mockDocument);
    mockDocument.sections.s.steps.push(thickness('theirs', 0.3));
    mockDocument.sections.s.note = 'theirs too';
    await release();
    expect(await change).toBe(true);
    expect(steps().map(([id]) => id)).toEqual(['one', 'theirs', 'two']);
    expect(mockDocument.sections.s.note).toBe('theirs too');
  });
  it('are refused by themselves: the next one goes on', async () => {
    const recipe = start();
    const bad = recipe.changeSteps('Type', (list) =>
      withStep(list, { id: 'one', index: 0 }, (s) => ({ ...s, to: 99 }) as SavedStep),
    );
    const good = recipe.changeSteps('Add', (list) => [...list, thickness('two', 0.2)]);
    await release();
    expect(await Promise.all([bad, good])).toEqual([false, true]);
    expect(steps()).toEqual([
      ['one', 0.1],
      ['two', 0.2],
    ]);
  });
});
