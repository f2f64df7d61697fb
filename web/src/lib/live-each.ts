import { effectScope, onScopeDispose, shallowReactive, watch, type EffectScope } from 'vue';
import type { AnalysisKind, InputOf } from '@veldtwind/core/analysis';
import type { Lane } from '@/worker/lane';
import { useLive, type LiveAnswer } from './live';

/**
 * One live answer for each of some keys, for as long as its key is asked for.
 * @param keys of what is looked at. @param input of the one with a key; null while there is nothing to ask.
 */
export function useLiveEach<K extends AnalysisKind>(
  keys: () => readonly string[],
  lane: Lane,
  kind: K,
  input: (key: string) => InputOf<K> | null,
) {
  const watched = shallowReactive(new Map<string, { scope: EffectScope; answer: LiveAnswer<K> }>());
  watch(
    () => [...keys()],
    (wanted) => {
      for (const [key, w] of [...watched]) {
        if (wanted.includes(key)) continue;
        w.scope.stop();
        watched.delete(key);
      }
      for (const key of wanted) {
        if (watched.has(key)) continue;
        const scope = effectScope(true);
        watched.set(key, { scope, answer: scope.run(() => useLive(lane, kind, () => input(key)))! });
      }
    },
    { immediate: true },
  );
  onScopeDispose(() => watched.forEach((w) => w.scope.stop()));
  return {
    of: (key: string): LiveAnswer<K> | undefined => watched.get(key)?.answer,
    all: (): LiveAnswer<K>[] => [...watched.values()].map((w) => w.answer),
  };
}
