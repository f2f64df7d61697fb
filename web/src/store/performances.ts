import { watchDebounced } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import {
  controlNames,
  inputsOfMotion,
  inputsOfPerformance,
  inputsOfStrength,
  inputsOfZeroLiftDrag,
  isAsymmetric,
  polarSpeeds,
  SYMMETRIC,
  type PerformanceInput,
} from '@veldtwind/core/candidate';
import { isBuilt } from '@veldtwind/core/members';
import { responseOf, type Made, type MadeBy } from '@veldtwind/core/quantities';
import type { CandidatePart, ProjectDocument } from '@veldtwind/core/project';
import { useLive } from '@/lib/live';
import { useLiveEach } from '@/lib/live-each';
import { lanes } from '@/worker/lane';
import { useNeededPolars } from './needed-polars';
import { useProject } from './project';
import { useStrength } from './strength';
import { useVariants } from './variants';
import { useWorkbench } from './workbench';

/** Until values have come to rest, ms: where somebody looks at what is made, and where not. */
const REST = { looking: 800, otherwise: 4000 };
/** Points of a curve over speed, and of a map. */
const SPEEDS = 33;
const MAP = 20;
const FIRST_MAP = 10;
/** What the table of all candidates tells, whether the brief has a band on it or not. */
export const COMPARED = [
  'trim-angle',
  'static-margin',
  'lift.spanEfficiency',
  'performance.bestGlide',
  'performance.stallSpeed',
  'performance.mass',
  'performance.heaviestMass',
  'performance.massReserve',
  'motion.shortPeriod.damping',
  'motion.phugoid.damping',
  'motion.dutchRoll.damping',
  'performance.greatestLoad',
] as const;
const steps = (from: number, to: number, count: number) =>
  Array.from({ length: count }, (_, i) => Number((from + ((to - from) * i) / (count - 1)).toPrecision(4)));

/**
 * Performance in trim of the candidates that are looked at, and all else that the brief asks of them: made while somebody looks, or while the brief has a band
 * on it. One answer for the area, the comparison in the brief, and the findings.
 */
export const usePerformances = defineStore('performances', () => {
  const project = useProject();
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  /** Whether the area is open; the loading that is looked at there; and whether its map is. */
  const open = ref(false);
  const loading = ref('');
  const mapOpen = ref(false);
  /** Whether the table of all candidates in the brief is looked at; and whether stall and glide are, in another area. */
  const tableOpen = ref(false);
  const readInLift = ref(false);
  /** All candidates where somebody looks at them beside each other; else the one that is worked on, for its findings. */
  const looked = computed(() =>
    open.value || tableOpen.value || readInLift.value ? workbench.visible : workbench.active ? [workbench.active] : [],
  );
  const looking = computed(() => open.value || tableOpen.value);
  const variants = useVariants();
  /** What is laid beside the candidate: where bodies do not lift it flies no other way. */
  const beside = computed(() =>
    open.value ? variants.candidates.filter((c) => variants.kindOf(c.id) !== 'bodies') : [],
  );
  // What nobody looks at follows edits that have long come to rest; limits take seconds, and always wait until values have come to rest.
  const current = computed(() => (looking.value ? project.document : project.edited));
  const rested = shallowRef<ProjectDocument | null>(null);
  watchDebounced([current, looking], () => (rested.value = current.value), {
    debounce: () => (looking.value || readInLift.value ? REST.looking : REST.otherwise),
    immediate: true,
  });
  const document = computed(() => (looking.value ? current.value : rested.value));

  const asked = computed(() => {
    const { requirements, stallSpeed } = project.document.brief;
    const by = new Set(requirements.map((r) => responseOf(r.quantity)?.by as MadeBy));
    if (stallSpeed !== null || readInLift.value) by.add('performance');
    if (tableOpen.value) for (const id of COMPARED) by.add(responseOf(id)!.by);
    // Loops close about the motion.
    if (by.has('loops')) by.add('motion');
    return by;
  });
  const loadingOf = (c: CandidatePart) =>
    open.value && loading.value && Object.hasOwn(c.loadings ?? {}, loading.value) ? loading.value : undefined;
  const speedsFor = (c: CandidatePart) => polarSpeeds('flight', project.document.brief, c);
  const candidateOf = (id: string, of: ProjectDocument | null) => {
    const c = of?.candidates[id] ?? (of && beside.value.find((v) => v.id === id));
    return c && c.surfaces.length > 0 && c.massItems.length > 0 && polars.listed ? c : null;
  };
  const input = (id: string, from: ProjectDocument | null): PerformanceInput | null => {
    const c = candidateOf(id, from);
    if (!c || !from) return null;
    const { brief } = from;
    const own = polars.forMethod(c, polarSpeeds('flight', brief, c));
    const document = { ...from, candidates: { [id]: c } };
    return inputsOfPerformance(document, id, inputsOfMotion(document, id, brief.speed, loadingOf(c), own));
  };
  const range = computed(() => {
    const { speed } = project.document.brief;
    return { from: 0.4 * speed, to: Math.min(400, 1.8 * speed) };
  });
  // Of another project nothing is kept, though its candidates have the same ids.
  const key = (id: string) => `${project.id}/${id}`;
  const idOf = (k: string) => k.slice(k.indexOf('/') + 1);
  /** Speeds that requirements name. */
  const conditions = computed(() => {
    const speeds = project.document.brief.requirements.flatMap((r) => r.speed ?? []);
    return speeds.length ? { conditions: [...new Set(speeds)].sort((a, b) => a - b) } : {};
  });
  const keysOf = (by: MadeBy, alsoOpen: boolean) =>
    project.id && (asked.value.has(by) || (alsoOpen && open.value)) ? looked.value.map((c) => key(c.id)) : [];
  const answers = useLiveEach(
    () => [...keysOf('performance', true), ...(project.id ? beside.value.map((c) => key(c.id)) : [])],
    lanes.performance,
    'performance',
    (k) => {
      const own = input(idOf(k), document.value);
      return own && { ...own, speeds: steps(range.value.from, range.value.to, SPEEDS), ...conditions.value };
    },
  );
  const limits = useLiveEach(
    () =>
      project.id && open.value && workbench.active && !asked.value.has('limits')
        ? [key(workbench.active.id)]
        : keysOf('limits', true),
    lanes.limits,
    'performance-limits',
    (k) => input(idOf(k), rested.value),
  );
  const motions = useLiveEach(
    () => keysOf('motion', false),
    lanes.motion,
    'motion',
    (k) => {
      const from = document.value;
      const c = candidateOf(idOf(k), from);
      if (!c || !from) return null;
      const { speed } = from.brief;
      return inputsOfMotion(from, c.id, speed, undefined, polars.forMethod(c, [speed]));
    },
  );
  const drags = useLiveEach(
    () => keysOf('drag', false),
    lanes.aircraft,
    'zero-lift-drag',
    (k) => {
      const from = document.value;
      const c = candidateOf(idOf(k), from);
      return c && from && inputsOfZeroLiftDrag(from, c.id, polars.forMethod(c, [from.brief.speed]));
    },
  );
  const halves = useLiveEach(
    () => keysOf('asymmetry', false),
    lanes.motion,
    'asymmetry',
    (k) => {
      const from = document.value;
      const c = candidateOf(idOf(k), from);
      if (!c || !from || !isAsymmetric(c.surfaces)) return null;
      const { speed } = from.brief;
      return { of: inputsOfMotion(from, c.id, speed, undefined, polars.forMethod(c, [speed])), speeds: [] };
    },
  );
  const loops = useLiveEach(
    () => keysOf('loops', false),
    lanes.survey,
    'control-survey',
    (k) => {
      const c = candidateOf(idOf(k), document.value);
      const moving = motions.of(k)?.value.value;
      if (!c?.autopilot?.chains.length || !moving) return null;
      return { of: moving.case, scale: {}, settings: c.autopilot, controls: controlNames(c) };
    },
  );
  // The one that is worked on is told once, for its area too.
  const strength = useStrength();
  const strengths = useLiveEach(
    () => keysOf('strength', false).filter((k) => idOf(k) !== workbench.active?.id),
    lanes.structure,
    'structure-strength',
    (k) => {
      const from = rested.value;
      const c = candidateOf(idOf(k), from);
      if (!c?.surfaces.some(isBuilt) || !from) return null;
      return inputsOfStrength(from, c.id, polars.forMethod(c, speedsFor(c)));
    },
  );
  const mapInput = (places: number) => {
    const own = open.value && mapOpen.value && workbench.active ? input(workbench.active.id, document.value) : null;
    if (!own) return null;
    const { altitude } = project.document.brief;
    return {
      ...own,
      speeds: steps(range.value.from, range.value.to, places),
      altitudes: steps(0, Math.max(4000, 2 * altitude), places),
    };
  };
  // A coarse map of the lattice is there in a moment: it is looked at until that with polars is.
  const firstMap = useLive(lanes.performance, 'performance-map', () => {
    const input = mapInput(FIRST_MAP);
    return input?.of.polars ? { ...input, of: { ...input.of, polars: null } } : null;
  });
  const map = useLive(lanes.map, 'performance-map', () => mapInput(MAP));
  const mapIsFirst = computed(
    () => (map.stale.value || !map.value.value) && firstMap.value.value !== null && !firstMap.stale.value,
  );
  const needs = computed(() => {
    const shown = workbench.active ? [workbench.active, ...beside.value] : [];
    const all = shown.flatMap((c) => polars.needed(c, speedsFor(c)));
    return all.filter((n, i) => all.findIndex((o) => o.sweep.key === n.sweep.key) === i);
  });
  const missing = computed(() => needs.value.filter((n) => !polars.isThere(n)));
  const busy = computed(
    () => [answers, limits].some((list) => list.all().some((a) => a.waiting.value)) || map.waiting.value,
  );
  /** Whether a loading is looked at: what is made is then of that, and no answer to the brief. */
  const ofLoading = computed(() => open.value && loading.value !== '');
  const strengthOf = (id: string): Made['strength'] => {
    if (!project.edited.candidates[id]?.surfaces.some(isBuilt)) return { surfaces: [] };
    return (id === workbench.active?.id ? strength.now : strengths.of(key(id))?.value.value) ?? null;
  };
  const asymmetryOf = (id: string): Made['asymmetry'] =>
    isAsymmetric(project.edited.candidates[id]?.surfaces ?? [])
      ? (halves.of(key(id))?.value.value?.now ?? null)
      : SYMMETRIC;
  /** All that is known of a candidate. */
  const madeOf = (id: string): Made => ({
    evaluation: workbench.of(id),
    motion: motions.of(key(id))?.value.value ?? null,
    performance: answers.of(key(id))?.value.value ?? null,
    limits: limits.of(key(id))?.value.value ?? null,
    drag: drags.of(key(id))?.value.value ?? null,
    loops: project.edited.candidates[id]?.autopilot?.chains.length ? (loops.of(key(id))?.value.value ?? null) : [],
    strength: strengthOf(id),
    asymmetry: asymmetryOf(id),
  });
  return {
    open,
    loading,
    mapOpen,
    tableOpen,
    readInLift,
    beside,
    madeOf,
    failureOf: (id: string) => answers.of(key(id))?.failure.value ?? null,
    map: computed(() => (mapIsFirst.value ? firstMap.value.value : map.value.value)),
    mapIsFirst,
    busy,
    ofLoading,
    needs,
    missing,
  };
});
