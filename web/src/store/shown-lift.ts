import { computed, type ComputedRef } from 'vue';
import type { Shown } from '@/lib/lift-series';
import { useWorkbench } from './workbench';

/** The candidates that are looked at and have a lift result. */
export function useShownLift(): ComputedRef<Shown[]> {
  const workbench = useWorkbench();
  return computed(() =>
    workbench.visible.flatMap((candidate): Shown[] => {
      const e = workbench.of(candidate.id);
      return e?.lift ? [{ candidate, lift: e.lift, dynamicPressure: e.design?.flow.dynamicPressure ?? null }] : [];
    }),
  );
}
