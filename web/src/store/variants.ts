import { defineStore } from 'pinia';
import { computed } from 'vue';
import { variantKey, variantSchema, withVariant, type CandidatePart, type Variant } from '@veldtwind/core/project';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import { COLOURS } from '@/lib/series-style';
import { usePreferences } from './preferences';
import { useProject } from './project';
import { useWorkbench } from './workbench';

export const MOST_VARIANTS = 6;

/** What is laid beside the candidate that is worked on in Lift and Performance: itself with one thing another way, kept with the project. */
export const useVariants = defineStore('variants', () => {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const key = computed(() => `lift-beside-${(project.id ?? '').slice(0, 8)}`);
  const list = computed<Variant[]>(() =>
    preferences.get<unknown[]>(key.value, []).flatMap((v) => {
      const read = variantSchema.safeParse(v);
      return read.success ? [read.data] : [];
    }),
  );
  const put = (next: readonly Variant[]) => preferences.set(key.value, next.slice(0, MOST_VARIANTS));
  const words = (c: CandidatePart, v: Variant): string => {
    switch (v.kind) {
      case 'setting':
        return c.settings?.find((s) => s.id === v.id)?.name ?? v.id;
      case 'loading':
        return v.name;
      case 'bodies':
        return 'bodies without lift';
      case 'turn':
        return `${c.surfaces.find((s) => s.id === v.surface)?.name ?? v.surface} ${v.byDeg < 0 ? '' : '+'}${formatNumber(v.byDeg, 1)}°`;
      case 'centre':
        return `${v.by < 0 ? 'fore' : 'aft'} ${formatQuantity(Math.abs(v.by), 'length', preferences.units, 2)} ${displayUnit('length', preferences.units).symbol}`;
    }
  };
  /** Each as a candidate of its own, or why it cannot be one. */
  const made = computed(() => {
    // What is only being dragged is followed when it is let go: the candidate itself comes first.
    const c = project.edited.candidates[workbench.active?.id ?? ''];
    if (!c) return [];
    return list.value.map((variant, i): { variant: Variant; candidate: CandidatePart | null; why: string } => {
      try {
        const candidate = {
          ...withVariant(c, variant),
          id: `${c.id}~${variantKey(variant)}`,
          letter: `${c.letter} ${words(c, variant)}`,
          name: '',
          // The colour stays its own; dash and marker tell it apart.
          style: c.style + COLOURS.length * (i + 1),
        };
        return { variant, candidate, why: '' };
      } catch (error) {
        return { variant, candidate: null, why: (error as Error).message };
      }
    });
  });
  const kindOf = (id: string) => made.value.find((m) => m.candidate?.id === id)?.variant.kind;
  const bodiesLift = (id: string) => kindOf(id) !== 'bodies';
  const candidates = computed(() => made.value.flatMap((m) => m.candidate ?? []));
  const add = (v: Variant) =>
    list.value.some((k) => variantKey(k) === variantKey(v)) ? undefined : put([...list.value, v]);
  const change = (index: number, v: Variant) => put(list.value.map((k, i) => (i === index ? v : k)));
  const remove = (index: number) => put(list.value.filter((_, i) => i !== index));
  return { list, made, kindOf, bodiesLift, candidates, words, add, change, remove };
});
