import { computed, ref, shallowRef, watch, type ComputedRef } from 'vue';
import { flownConditions } from '@veldtwind/core/candidate';
import {
  flownChange,
  MOST_FLOWN,
  nearestToSeparation,
  type FlownCondition,
  type FlownFlow,
  type FlownStep,
} from '@veldtwind/core/polar';
import { resolvedSource, type SectionPart } from '@veldtwind/core/project';
import type { SectionSource } from '@veldtwind/core/shaping';
import { latestOnly } from '@/lib/live';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { GivenUp, lanes } from '@/worker/lane';
import type { RecipeState } from './recipe';

/** A condition with its name. */
export interface NamedCondition {
  name: string;
  cl: number;
  reynolds: number;
  mach: number;
}
/** What the flow now is laid over: the section as it was opened, as it is before one of its steps, or another section. */
export type Baseline = 'opened' | `step:${number}` | `section:${string}`;

const NUMBERS = [
  { id: 'cd', name: 'cd', digits: 5, better: -1 },
  { id: 'clOverCd', name: 'cl / cd', digits: 1, better: 1 },
  { id: 'cm', name: 'cm', digits: 4, better: 0 },
  { id: 'alphaDeg', name: 'α, °', digits: 2, better: 0 },
] as const;

/** A row of the table: before, now, change, %. */
export interface FlownRow {
  id: string;
  name: string;
  digits: number;
  before: number | null;
  now: number | null;
  change: number | null;
  percent: number | null;
  /** 1: more is better, −1: less, 0: neither. */ better: number;
}

/** The viscous flow of the section that is being shaped, at the conditions that it is flown at, beside what it was before. */
export function useFlown(
  section: ComputedRef<SectionPart | undefined>,
  recipe: RecipeState,
  active: ComputedRef<boolean>,
) {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const key = computed(() => `flown-${(project.id ?? '').slice(0, 8)}`);
  const ofBrief = computed<NamedCondition[]>(() =>
    section.value ? flownConditions(project.brief, workbench.active ?? undefined, section.value.id) : [],
  );
  const own = computed(() => preferences.get<NamedCondition[] | null>(key.value, null));
  const named = computed(() => own.value ?? ofBrief.value);
  const setOwn = (list: NamedCondition[] | null) => preferences.set(key.value, list && list.slice(0, MOST_FLOWN));
  const conditions = computed<FlownCondition[]>(() =>
    named.value.map(({ cl, reynolds, mach }) => ({
      cl,
      conditions: {
        reynolds,
        ...(mach > 0 ? { mach } : {}),
        criticalAmplification: project.document.brief.assumptions.criticalAmplification,
      },
    })),
  );
  const chosen = ref(0);
  const place = computed(() => Math.min(chosen.value, Math.max(0, named.value.length - 1)));

  /** The section as it was when it was opened here. */
  const opened = shallowRef<SectionSource | null>(null);
  const baseline = ref<Baseline>('opened');
  const sourceNow = computed<SectionSource | null>(() => {
    try {
      return section.value ? recipe.resolve(recipe.live.value) : null;
    } catch {
      return null;
    }
  });
  watch(
    () => [section.value?.id, active.value] as const,
    ([id, on], old) => {
      if (!on || !id) return;
      if (id !== old?.[0] || opened.value === null) {
        opened.value = sourceNow.value;
        baseline.value = 'opened';
      }
    },
    { immediate: true },
  );
  const sourceBefore = computed<SectionSource | null>(() => {
    const [kind, value] = baseline.value.split(':');
    try {
      if (kind === 'section') return resolvedSource(project.document.sections, value);
      if (kind === 'step' && section.value) {
        const { source, steps } = section.value;
        return recipe.resolve({ source, steps: steps.slice(0, Number(value)) });
      }
    } catch {
      // A section that is gone, or cannot be made, is no state before.
      return null;
    }
    return opened.value;
  });

  const now = shallowRef<(FlownFlow | null)[]>([]);
  const before = shallowRef<(FlownFlow | null)[]>([]);
  /** Why the shape that is shown has no flow: it stays as it was. */
  const failure = ref<string | null>(null);
  const ms = ref(0);
  const follow = (target: typeof now, told: boolean) => {
    let shown: string[] = [];
    /** Takes a flow where its condition is still the one that is asked for. */
    const put = (list: FlownCondition[], index: number, flow: FlownFlow) => {
      if (JSON.stringify(list[index]) === shown[index])
        target.value = target.value.map((f, i) => (i === index ? flow : f));
    };
    const ask = latestOnly(
      async (source: SectionSource, list: FlownCondition[]) => {
        const began = performance.now();
        const flows = await lanes.flown.run('flown-flows', { source, flap: null, conditions: list }, ({ detail }) => {
          // Each condition is shown as soon as it is there.
          const { index, flow } = detail as FlownStep;
          put(list, index, flow);
        });
        return { flows, ms: performance.now() - began };
      },
      ({ flows, ms: took }, _source, list) => {
        flows.forEach((flow, i) => put(list, i, flow));
        if (!told) return;
        failure.value = null;
        ms.value = took;
      },
      (error) => {
        if (told && !(error instanceof GivenUp)) failure.value = (error as Error).message;
      },
    );
    return (source: SectionSource, list: FlownCondition[]) => {
      // A flow of another condition is not shown under the name of this one.
      const texts = list.map((c) => JSON.stringify(c));
      target.value = texts.map((t, i) => (t === shown[i] ? (target.value[i] ?? null) : null));
      shown = texts;
      ask(source, list);
    };
  };
  const askNow = follow(now, true);
  const askBefore = follow(before, false);
  watch(
    [sourceBefore, conditions, active],
    ([source, list, on]) => {
      if (on && source && list.length) askBefore(source, list);
      else before.value = [];
    },
    { immediate: true },
  );
  watch(
    [sourceNow, conditions, active],
    ([source, list, on]) => {
      if (on && source && list.length) askNow(source, list);
    },
    { immediate: true },
  );

  const changes = computed(() =>
    named.value.map((_, i) => {
      const [a, b] = [before.value[i], now.value[i]];
      return a && b ? flownChange(a.point, b.point) : null;
    }),
  );
  const rows = computed<FlownRow[]>(() => {
    const i = place.value;
    const [a, b, c] = [before.value[i], now.value[i], changes.value[i]];
    if (!a || !b || !c) return [];
    const row = (
      id: string,
      name: string,
      digits: number,
      better: number,
      was: number | null | undefined,
      is: number | null | undefined,
    ): FlownRow => {
      const change = was == null || is == null ? null : is - was;
      return {
        id,
        name,
        digits,
        better,
        before: was ?? null,
        now: is ?? null,
        change,
        // A share of an angle says nothing.
        percent: change === null || !was || id === 'alphaDeg' ? null : (100 * change) / Math.abs(was),
      };
    };
    const sides = [
      ['top', 'upper'],
      ['bottom', 'lower'],
    ] as const;
    return [
      ...NUMBERS.map((n) => row(n.id, n.name, n.digits, n.better, c.before[n.id], c.after[n.id])),
      ...sides.map(([end, word]) =>
        row(`transition-${end}`, `transition, ${word}`, 3, 1, c.before.transitions?.[end], c.after.transitions?.[end]),
      ),
      ...sides.flatMap(([end, word]) => {
        const [was, is] = [a.bubbles?.[end], b.bubbles?.[end]];
        if (!was && !is) return [];
        const length = (v: typeof was) => (v ? v.to - v.from : 0);
        return [
          row(`bubble-${end}`, `bubble length, ${word}`, 3, -1, length(was), length(is)),
          row(`bubble-cd-${end}`, `bubble drag cd, ${word}`, 5, -1, was?.cd ?? 0, is?.cd ?? 0),
        ];
      }),
      ...sides.map(([end, word]) =>
        row(
          `separation-${end}`,
          `greatest shape factor, ${word}`,
          2,
          -1,
          nearestToSeparation(a, end)?.shapeFactor,
          nearestToSeparation(b, end)?.shapeFactor,
        ),
      ),
    ];
  });
  return {
    named,
    own,
    setOwn,
    place,
    choose: (i: number) => (chosen.value = i),
    baseline,
    setBaseline: (b: Baseline) => (baseline.value = b),
    opened,
    now,
    before,
    changes,
    rows,
    failure,
    ms,
  };
}
export type FlownState = ReturnType<typeof useFlown>;
