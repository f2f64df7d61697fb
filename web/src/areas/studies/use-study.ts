import { computed, ref, shallowRef, watch } from 'vue';
import type { OutputOf } from '@veldtwind/core/analysis';
import { sectionsUsed } from '@veldtwind/core/candidate';
import {
  MOST_STUDY_VARIABLES,
  requirementKey,
  standingRequirements,
  type CandidateStudy,
  type Requirement,
} from '@veldtwind/core/project';
import { isQuick, responseOf, RESPONSES, type Response } from '@veldtwind/core/quantities';
import {
  answerKey,
  variablesOf,
  type Answer,
  type StudyInput,
  type StudyPlan,
  type StudySubject,
  type Variable,
} from '@veldtwind/core/studies';
import { useCandidateEdit } from '@/store/candidate-edit';
import { useLive } from '@/lib/live';
import { sameInput } from '@/lib/same-input';
import { useNeededPolars } from '@/store/needed-polars';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useTrial } from '@/store/trial';
import { useWorkbench } from '@/store/workbench';
import { GivenUp, lanes } from '@/worker/lane';

/** What a study asks of a requirement. */
export const answerFor = (a: Pick<Requirement, 'quantity' | 'speed'>): Answer =>
  a.speed === undefined ? { id: a.quantity } : { id: a.quantity, at: { speed: a.speed } };
/** What a try of a study answered; null where there is none. */
export const valueIn = (
  result: Pick<OutputOf<'study'>, 'answers'>,
  answers: readonly (number | null)[],
  a: Pick<Requirement, 'quantity' | 'speed'>,
): number | null => answers[result.answers.indexOf(answerKey(answerFor(a)))] ?? null;

/** A number that is varied, with its bounds. */
export interface Chosen {
  path: string;
  from: number;
  to: number;
}
/** An answer, with the band of the brief where there is one. */
export interface Asked extends Requirement {
  key: string;
  response: Response;
}

export { MOST_STUDY_VARIABLES as MOST_VARIABLES } from '@veldtwind/core/project';
/** Bounds about the value as it stands, in sensible steps. */
const REACH = 25;
/** And about the factor 1. */
const SCALE_REACH = 8;
/** What is compared beside the brief's bands. */
const BESIDE = ['lift.spanEfficiency', 'level-CD', 'motion.dutchRoll.damping', 'motion.shortPeriod.damping'];

/** Variables that say most about most aircraft: places, angles and sizes of surfaces, and where the masses are. */
const FIRST = [
  /\.incidenceDeg$/,
  /\.scale\.(area|span)$/,
  /^surfaces\..*\.position\.x$/,
  /\.stations\.[1-9]\d*\.twistDeg$/,
  /^massItems\.[^.]+\.position\.x$/,
];

/** What is studied of the candidate that is worked on: variables, answers, effects that follow, and a solution on request. */
export function useStudy(sensitive: () => boolean = () => true) {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const polars = useNeededPolars();
  const edits = useCandidateEdit();
  const candidate = computed(() => {
    const c = project.edited.candidates[workbench.active?.id ?? ''];
    return c && c.surfaces.length > 0 && c.massItems.length > 0 ? c : null;
  });
  const subject = computed<StudySubject | null>((before) => {
    if (!candidate.value) return null;
    // How it is studied, and what it weighs once it is built, change nothing that is computed.
    const { study: _study, weighing: _weighing, ...c } = candidate.value;
    const { speed, altitude } = project.edited.brief;
    const next = { candidate: c, sections: sectionsUsed(project.edited.sections, c), flight: { speed, altitude } };
    return before && sameInput(before, next) ? before : next;
  });
  const there = computed<Variable[]>(() =>
    subject.value ? variablesOf(subject.value).filter((v) => !v.path.startsWith('sections.')) : [],
  );
  const key = computed(() => `study-${(project.id ?? '').slice(0, 8)}-${workbench.active?.id ?? ''}`);
  /** How the candidate is studied, by what the project says. */
  const kept = computed<CandidateStudy>(() => candidate.value?.study ?? {});
  const keep = (label: string, more: Partial<CandidateStudy>) =>
    edits.change(`Study: ${label}`, (c) => (c.study = { ...c.study, ...more }));
  /** The quantity that somebody came for. */
  const focus = computed(() => preferences.get<string | null>(`${key.value}-of`, null));
  const setFocus = (id: string) => responseOf(id) && preferences.set(`${key.value}-of`, id);
  const boundsOf = (v: Variable): Chosen => {
    const reach = (v.path.includes('.scale.') ? SCALE_REACH : REACH) * v.step;
    return {
      path: v.path,
      from: Math.max(v.limit.above?.nearest ?? v.limit.min, v.value - reach),
      to: Math.min(v.limit.max, v.value + reach),
    };
  };
  const first = computed(() => {
    const wing = candidate.value?.surfaces.find((s) => s.role === 'wing')?.id;
    const useful = there.value.filter((v) => FIRST.some((r) => r.test(v.path)));
    // The wing is where all else is measured from: its place says nothing.
    return useful
      .filter((v) => v.path !== `surfaces.${wing}.position.x`)
      .slice(0, 12)
      .map(boundsOf);
  });
  /** Those that were chosen and are still there, with bounds about where they stand. */
  const chosen = computed<Chosen[]>(() => {
    // Earlier versions kept them with the browser.
    const list = kept.value.variables ?? preferences.get<Chosen[] | null>(key.value, null) ?? first.value;
    return list.filter((c) => there.value.some((v) => v.path === c.path));
  });
  const put = (list: readonly Chosen[]) => keep('variables', { variables: list.slice(0, MOST_STUDY_VARIABLES) });
  const add = (path: string) => {
    const found = there.value.find((v) => v.path === path);
    if (found && !chosen.value.some((c) => c.path === path)) put([...chosen.value, boundsOf(found)]);
  };
  const change = (path: string, more: Partial<Chosen>) =>
    put(chosen.value.map((c) => (c.path === path ? { ...c, ...more } : c)));
  const remove = (path: string) => put(chosen.value.filter((c) => c.path !== path));
  const variableOf = (path: string) => there.value.find((v) => v.path === path);

  /** Whether quantities of performance are asked for too: a try takes seconds then. */
  const performance = computed<boolean>(
    () => kept.value.performance ?? preferences.get(`${key.value}-performance`, false),
  );
  const setPerformance = (on: boolean) => keep('performance', { performance: on });
  /** What a search may aim at, and a map may show. */
  const responses = computed(() => RESPONSES.filter((r) => performance.value || isQuick(r)));
  /** The brief's bands, and a few answers beside. */
  const everything = computed<Asked[]>(() => {
    const standing = [...standingRequirements(project.edited.brief), ...project.edited.brief.requirements];
    const beside = focus.value === null ? BESIDE : [focus.value, ...BESIDE.filter((id) => id !== focus.value)];
    const of = (quantity: string): Requirement => ({ quantity, min: null, max: null, weight: 'must' });
    const all: Requirement[] = [
      ...standing,
      ...beside.filter((id) => !standing.some((r) => r.quantity === id)).map(of),
    ];
    return all.flatMap((r) => {
      const response = responseOf(r.quantity);
      return response && (performance.value || isQuick(response)) ? [{ ...r, key: requirementKey(r), response }] : [];
    });
  });
  /** Those that are quickly told, for what follows every edit. */
  const asked = computed(() => everything.value.filter((a) => isQuick(a.response)));
  const polarsNow = computed(() =>
    subject.value ? polars.forMethod(subject.value.candidate, [subject.value.flight.speed]) : null,
  );
  const bandsOf = (list: readonly Asked[]): StudyPlan['bands'] =>
    list
      .filter((a) => a.min !== null || a.max !== null)
      .map((a) => ({ ...answerFor(a), least: a.min, greatest: a.max, weight: a.weight }));
  /** What a study of the candidate depends on; null while there is nothing to study. */
  const inputFor = (
    plan: Pick<StudyPlan, 'kind' | 'variables'> & Partial<StudyPlan>,
    by: 'method' | 'lattice' = 'method',
  ): StudyInput | null => {
    const own = subject.value;
    if (!own || plan.variables.length === 0 || !polars.listed) return null;
    return {
      plan: { answers: [], bands: [], aim: [], seed: 1, method: 'lattice', ...plan },
      subject: own,
      polars: by === 'method' ? polarsNow.value : null,
      settings: project.edited.brief.assumptions.performance,
    };
  };
  const varied = () => chosen.value.map((c) => ({ ...c, kind: 'number' as const }));
  const inputOf = (kind: 'effects' | 'solve', by: 'method' | 'lattice' = 'method'): StudyInput | null => {
    const bands = kind === 'solve' ? bandsOf(asked.value) : [];
    if (kind === 'solve' && bands.length === 0) return null;
    return inputFor({ kind, variables: varied(), answers: asked.value.map(answerFor), bands }, by);
  };
  // The lattice answers first; with polars the same follows, and takes its place.
  const quick = useLive(lanes.study, 'study', () => (sensitive() ? inputOf('effects', 'lattice') : null), true);
  const better = useLive(
    lanes.study,
    'study',
    () => (sensitive() && polarsNow.value && !quick.stale.value ? inputOf('effects') : null),
    true,
  );
  const effects = computed(() => {
    const fuller = polarsNow.value && better.value.value && !better.stale.value && !quick.stale.value;
    const shown = fuller ? better : quick;
    return {
      result: shown.value.value,
      method: fuller ? ('polars' as const) : ('lattice' as const),
      provisional: !fuller && polarsNow.value !== null,
      stale: quick.stale.value,
      progress: quick.progress.value ?? better.progress.value,
      failure: quick.failure.value ?? better.failure.value,
    };
  });
  /** What a study is made by. */
  const method = computed(() => (subject.value && polarsNow.value ? 'polars' : 'lattice'));

  const solution = shallowRef<OutputOf<'study'> | null>(null);
  const solving = ref<number | null>(null);
  const failure = ref('');
  let running: { cancel: () => void } | null = null;
  // A solution is of the candidate as it was: an edit takes it away.
  watch(subject, () => (solution.value = null));
  async function solve(): Promise<void> {
    const input = inputOf('solve');
    if (!input) return;
    failure.value = '';
    solving.value = 0;
    try {
      const run = lanes.study.run('study', input, ({ done, of }) => (solving.value = done / of));
      running = run;
      solution.value = await run;
    } catch (error) {
      if (!(error instanceof GivenUp)) failure.value = (error as Error).message;
    }
    running = null;
    solving.value = null;
  }
  const stop = () => running?.cancel();

  const trial = useTrial();
  /** Puts values of variables into the document, as one edit. */
  function apply(label: string, values: ReadonlyMap<string, number>): void {
    const id = subject.value?.candidate.id;
    if (id !== undefined) trial.apply({ candidate: id, label, says: label, values });
    failure.value = trial.failure;
  }
  return {
    candidate,
    focus,
    setFocus,
    key,
    kept,
    keep,
    there,
    responses,
    performance,
    setPerformance,
    everything,
    bandsOf,
    inputFor,
    varied,
    chosen,
    variableOf,
    add,
    change,
    remove,
    asked,
    effects,
    method,
    solution,
    solving,
    failure,
    solve,
    stop,
    apply,
  };
}
export type Study = ReturnType<typeof useStudy>;
