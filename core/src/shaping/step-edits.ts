import type { SavedStep } from './schema';

/** Names a step of a list: by its id where it has one, else by its place. */
export interface StepName {
  id?: string;
  index: number;
}

/** Place of a step in a list, or −1 where it is not there any more. */
export function placeOfStep(steps: readonly SavedStep[], name: StepName): number {
  if (name.id !== undefined) return steps.findIndex((s) => s.id === name.id);
  return name.index < steps.length ? name.index : -1;
}

/** The list with one step changed; the list itself where the step is gone. */
export function withStep(
  steps: readonly SavedStep[],
  name: StepName,
  change: (step: SavedStep) => SavedStep,
): SavedStep[] {
  const at = placeOfStep(steps, name);
  return steps.map((s, i) => (i === at ? change(s) : s));
}

/** The list without a step. */
export function withoutStep(steps: readonly SavedStep[], name: StepName): SavedStep[] {
  const at = placeOfStep(steps, name);
  return steps.filter((_, i) => i !== at);
}

/** The list with a step moved by some places, as far as the ends let it. */
export function withMovedStep(steps: readonly SavedStep[], name: StepName, by: number): SavedStep[] {
  const at = placeOfStep(steps, name);
  const list = steps.slice();
  if (at < 0) return list;
  const [step] = list.splice(at, 1);
  list.splice(Math.max(0, Math.min(list.length, at + by)), 0, step);
  return list;
}
