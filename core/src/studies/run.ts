import type { SectionLookup } from '../airframe';
import { InvalidInput } from '../numerics';
import { candidatePart, invalidFrom } from '../project';
import { answerKey, type AnswerBand } from './answer-schema';
import { answersFor, type StudyMethod } from './answers';
import { covarianceSearch } from './covariance-search';
import { effectsOf, type Effect } from './effects';
import { oneMoreOf, type OneMore } from './one-more';
import { frontSearch } from './front-search';
import { askedOf, nameOf, pathsOf, type PlanVariable, type StudyPlan } from './plan';
import { better, type Worth } from './ranked';
import { missOf, scaleOf, solveFor } from './solve-for';
import { spreadOf, type AnswerSpread, type Estimate } from './spread';
import { StudyStopped, Tries, type Evaluate, type StudyContext, type Try } from './tries';
import { valueAt, variablesOf, withValues, wordAt, type StudySubject } from './variables';

/** How sections of a subject are read, and how it is computed. */
export interface StudyMeans extends StudyMethod {
  lookupOf: (sections: StudySubject['sections']) => SectionLookup;
}

/** A band, and what an answer is in it. */
export interface HeldBand {
  id: string;
  least: number | null;
  greatest: number | null;
  weight: AnswerBand['weight'];
  value: number | null;
  /** How far it is missed; 0 inside, Infinity where there is no value. */ missedBy: number;
  /** Why there is no value. */ reason?: string;
}

/** What a study found. Tries are rows of values and answers in the order of `variables` and `answers`. */
export interface StudyResult {
  kind: StudyPlan['kind'];
  variables: {
    name: string;
    paths: string[];
    from: number;
    to: number;
    value: number;
    step: number;
    /** Of a choice: its values are places in this list. */ options?: string[];
  }[];
  answers: string[];
  tries: Try[];
  /** Tries that an earlier run had made. */ resumed: number;
  effects?: (Effect & { variable: string; answer: string })[];
  /** The try that is best, and how it holds the bands. */ best?: Try;
  front?: Try[];
  solution?: Try & { met: boolean; change: number[]; atBound: string[] };
  /** How the best or the solution holds every band. */ bands?: HeldBand[];
  /** Musts that are missed: within the bounds they contradict each other. */ contradictions?: HeldBand[];
  /** What one more variable would bring to them. */ oneMore?: OneMore[];
  /** Of every answer that any try told: its spread, and how much of it each variable causes. */
  spread?: (Omit<AnswerSpread, 'first' | 'total'> & {
    answer: string;
    causes: { variable: string; first: Estimate; total: Estimate }[];
  })[];
  /** Chance that a band holds, by its answer. */ chances?: Record<string, number>;
}

const DEFAULT_STEPS = 5;
/** Variables that are looked through for what one more would bring: sizes, angles and places of surfaces, and masses. */
const USEFUL =
  /^surfaces\..*(incidenceDeg|scale\.(span|area)|position\.[xz]|twistDeg|sweepDeg|dihedralDeg)$|^massItems\.[^.]+\.(mass|position\.x)$/;
/** How much more a must weighs than a wish in a search. */
const MUST = 1e6;

/**
 * Runs a study.
 * @param plan checked; bounds and values as stored (SI, degrees where a name says so). @returns tries in the order in which they were made. @throws StudyStopped when it was told to end; the tries that were made have been told.
 */
export async function runStudy(
  plan: StudyPlan,
  subject: StudySubject,
  means: StudyMeans,
  context: StudyContext = {},
): Promise<StudyResult> {
  const asked = askedOf(plan);
  const keys = asked.map(answerKey);
  const known = new Map(variablesOf(subject).map((v) => [v.path, v]));
  const axes = plan.variables.map((v) => {
    const [path] = pathsOf(v);
    // A choice begins with the word that stands there, where that is among its options.
    const value = v.options ? Math.max(0, v.options.indexOf(wordAt(subject, path))) : valueAt(subject, path);
    const step = known.get(path)?.step ?? 0.01 * (v.to - v.from);
    return { from: v.from, to: v.to, value, step, whole: v.kind !== 'number', ...(v.sd !== undefined && { sd: v.sd }) };
  });
  // Polars are of sections as they stand: where a section varies, every try has its own.
  const reshapes =
    means.polars !== null && plan.variables.some((v) => pathsOf(v).some((p) => p.startsWith('sections.') || v.options));
  if (reshapes && !means.polarsOf)
    throw new InvalidInput(
      'method',
      'A study that varies sections has no polars here.',
      'Use the vortex lattice, or vw study.',
      'method',
    );
  const setOf = (values: readonly number[]) =>
    new Map(
      plan.variables.flatMap((v, i) =>
        pathsOf(v).map((path) => [path, v.options ? v.options[values[i]] : values[i]] as const),
      ),
    );
  const evaluate = async (set: ReadonlyMap<string, number | string>): ReturnType<Evaluate> => {
    const changed = withValues(subject, set);
    const checked = candidatePart.safeParse(changed.candidate);
    if (!checked.success) {
      const { message } = invalidFrom(checked.error, 'Candidate');
      return { values: asked.map(() => null), reasons: Object.fromEntries(keys.map((k) => [k, message])) };
    }
    return answersFor(changed, means.lookupOf(changed.sections), asked, {
      ...means,
      polars: reshapes && means.polarsOf ? await means.polarsOf(changed) : means.polars,
    });
  };
  const tries = new Tries(
    (values) => evaluate(setOf(values)),
    context,
    (values) => values.map((v, i) => (axes[i].whole ? Math.round(v) : v)),
  );
  const result: StudyResult = {
    kind: plan.kind,
    variables: plan.variables.map((v, i) => ({
      name: nameOf(v),
      paths: pathsOf(v),
      from: v.from,
      to: v.to,
      value: axes[i].value,
      step: axes[i].step,
      ...(v.options && { options: v.options }),
    })),
    answers: keys,
    tries: [],
    resumed: 0,
  };
  const heldIn = ({ answers, reasons }: Pick<Try, 'answers' | 'reasons'>): HeldBand[] =>
    plan.bands.map((b) => {
      const value = answers[keys.indexOf(answerKey(b))];
      return {
        id: answerKey(b),
        least: b.least,
        greatest: b.greatest,
        weight: b.weight,
        value,
        missedBy: missOf(value, b),
        ...(value === null && { reason: reasons?.[answerKey(b)] ?? '' }),
      };
    });
  if (plan.kind === 'effects') {
    const rows = await effectsOf(tries, axes, keys.length);
    result.effects = rows.flatMap((row, i) =>
      row.map((e, k) => ({ variable: nameOf(plan.variables[i]), answer: keys[k], ...e })),
    );
  } else if (plan.kind === 'grid') {
    await grid(tries, plan.variables);
  } else if (plan.kind === 'solve') {
    const bands = plan.bands.map((b) => ({
      answer: keys.indexOf(answerKey(b)),
      least: b.least,
      greatest: b.greatest,
      must: b.weight === 'must',
    }));
    const solved = await solveFor(tries, axes, bands);
    const made = await tries.at(solved.values);
    result.solution = {
      ...made,
      met: solved.met,
      change: made.values.map((v, i) => v - axes[i].value),
      atBound: solved.atBound.map((i) => nameOf(plan.variables[i])),
    };
    result.bands = heldIn(made);
    const missed = result.bands.filter((b, i) => b.weight === 'must' && solved.missed.some((m) => m.band === i));
    if (missed.length > 0) {
      result.contradictions = missed;
      const varied = new Set(plan.variables.flatMap(pathsOf));
      result.oneMore = await oneMoreOf(
        [...known.values()].filter((v) => !varied.has(v.path) && USEFUL.test(v.path)),
        made.answers,
        keys,
        plan.bands.filter((b) => b.weight === 'must'),
        async (path, value) => {
          await context.breathe?.();
          if (context.cancelled?.()) throw new StudyStopped('The study was stopped.');
          return evaluate(new Map([...setOf(made.values), [path, value]]));
        },
      );
    }
  } else if (plan.kind === 'spread') {
    const { answers, samples } = await spreadOf(tries, axes, keys.length, {
      seed: plan.seed,
      ...(plan.budget !== undefined && { budget: plan.budget }),
    });
    result.spread = answers.flatMap((a, k) => {
      if (!a) return [];
      const { first, total, ...told } = a;
      const causes = plan.variables.map((v, i) => ({ variable: nameOf(v), first: first[i], total: total[i] }));
      return [{ answer: keys[k], ...told, causes }];
    });
    if (plan.bands.length > 0)
      result.chances = Object.fromEntries(
        plan.bands.map((b) => {
          const own = samples[keys.indexOf(answerKey(b))];
          return [answerKey(b), own.filter((v) => Number.isFinite(v) && missOf(v, b) === 0).length / own.length];
        }),
      );
  } else await search(plan, tries, axes, keys, result, heldIn);
  result.tries = tries.all;
  result.resumed = tries.resumed;
  return result;
}

/** Every place of a grid, the last variable running fastest. */
async function grid(tries: Tries, variables: readonly PlanVariable[]): Promise<void> {
  const places = variables.map(({ from, to, steps = DEFAULT_STEPS }) =>
    Array.from({ length: steps }, (_, i) => from + ((to - from) * i) / (steps - 1)),
  );
  const all = places.reduce((product, list) => product * list.length, 1);
  const at = new Array<number>(places.length).fill(0);
  for (let k = 0; k < all; k++) {
    await tries.at(places.map((list, i) => list[at[i]]));
    tries.tell(k + 1, all);
    for (let i = at.length - 1; i >= 0; i--) {
      if (++at[i] < places[i].length) break;
      at[i] = 0;
    }
  }
}

/** Tries that a grid makes. */
export const gridSize = (variables: readonly Pick<PlanVariable, 'steps' | 'options'>[]): number =>
  variables.reduce((product, v) => product * (v.options?.length ?? v.steps ?? DEFAULT_STEPS), 1);

async function search(
  plan: StudyPlan,
  tries: Tries,
  axes: readonly { from: number; to: number; value: number }[],
  keys: readonly string[],
  result: StudyResult,
  heldIn: (of: Try) => HeldBand[],
): Promise<void> {
  const budget = plan.budget ?? 200 + 100 * axes.length;
  const aims = plan.aim.map((a) => ({ at: keys.indexOf(answerKey(a)), sign: a.sense === 'least' ? 1 : -1 }));
  const valuesAt = (place: readonly number[]) => axes.map((a, i) => a.from + place[i] * (a.to - a.from));
  const start = axes.map((a) => Math.min(1, Math.max(0, (a.value - a.from) / (a.to - a.from))));
  const worthOf = (t: Try): Worth => {
    const wanted = aims.map(({ at, sign }) => (t.answers[at] === null ? Infinity : sign * t.answers[at]));
    // Musts before wishes, and both before the aims.
    const missed = heldIn(t).reduce((s, b) => s + ((b.weight === 'must' ? MUST : 1) * b.missedBy) / scaleOf(b), 0);
    const miss = wanted.some((v) => v === Infinity) ? Infinity : missed;
    return { miss, aims: wanted };
  };
  let ahead: { made: Try; worth: Worth } | undefined;
  const ask = async (places: number[][]): Promise<Worth[]> => {
    const out: Worth[] = [];
    for (const p of places) {
      const made = await tries.at(valuesAt(p));
      const worth = worthOf(made);
      if (aims.length === 1 && (!ahead || better(worth, ahead.worth))) ahead = { made, worth };
      out.push(worth);
    }
    return out;
  };
  const options = {
    budget,
    seed: plan.seed,
    start,
    tell: (done: number) => tries.tell(Math.min(done, budget), budget, ahead?.made),
  };
  if (aims.length === 1) {
    const { place } = await covarianceSearch(ask, options);
    const best = await tries.at(valuesAt(place));
    result.best = best;
    result.bands = heldIn(best);
    const missed = result.bands.filter((b) => b.weight === 'must' && b.missedBy > 0);
    if (missed.length > 0) result.contradictions = missed;
    return;
  }
  const front = await frontSearch(ask, options);
  result.front = [];
  for (const { place } of front) result.front.push(await tries.at(valuesAt(place)));
}
