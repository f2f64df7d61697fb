import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { Command } from 'commander';
import { loadedMass, polarSpeeds, readCandidateFile, withPlacedMass, type PolarShelf } from '@veldtwind/core/candidate';
import { limitBroken, parseJson } from '@veldtwind/core/limits';
import { InvalidInput } from '@veldtwind/core/numerics';
import { performanceSchema } from '@veldtwind/core/performance';
import { BRIEF_LIMITS, freshCandidate } from '@veldtwind/core/project';
import {
  answerKey,
  answersThere,
  askedOf,
  checkedPlan,
  gridSize,
  MOST_TRIES,
  nameOf,
  planSchema,
  runStudy,
  StudyStopped,
  variablesOf,
  type StudyPlan,
  type StudyResult,
  type StudySubject,
  type Try,
} from '@veldtwind/core/studies';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table, writeFile } from '../output';
import { computePolars } from '../viscous-lift';

interface Options {
  plan?: string;
  airframe?: string;
  out?: string;
  resume?: boolean;
  listVariables?: boolean;
  listAnswers?: boolean;
  speed?: string;
  altitude?: string;
  ncrit: string;
  json?: boolean;
}

export function studyCommand(): Command {
  return new Command('study')
    .description('What a change brings, what would meet bands, what is best, and how sure it is: from a plan')
    .option('--plan <file>', 'what varies, what answers, and what is asked; see docs/using.md')
    .option('--airframe <file>', 'candidate file; that of the plan without')
    .option('--out <folder>', 'tries are kept there as they are made')
    .option('--resume', 'go on with what the folder holds')
    .option('--speed <m/s>', 'of level flight; that of the plan without')
    .option('--altitude <m>', 'of the standard atmosphere; that of the plan, or 0')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--list-variables', 'tell what may vary')
    .option('--list-answers', 'tell what may answer')
    .option('--json', 'print JSON')
    .action(run);
}

async function run(o: Options): Promise<void> {
  if (o.listAnswers) return listAnswers(o);
  if (o.listVariables) return listVariables(o);
  if (o.plan === undefined)
    throw new InvalidInput('plan', 'vw study needs a plan.', 'Give --plan FILE, --list-variables or --list-answers.');
  const raw = parseJson(readTextFile(o.plan), 'The plan', 'See docs/using.md for its form.');
  const file = o.airframe ?? airframeOf(raw, o.plan);
  const { candidate, sections } =
    file === null
      ? { candidate: freshCandidate('a', 'A', 'Sections', 0), sections: {} }
      : readCandidateFile(readTextFile(file));
  const more = (raw as { sections?: StudySubject['sections'] } | null)?.sections ?? {};
  const flight = flightOf(raw, o, file !== null);
  const subject: StudySubject = { candidate, sections: { ...sections, ...more }, flight };
  const plan = checkedPlan(raw, subject);
  if (plan.kind === 'grid' && gridSize(plan.variables) > MOST_TRIES)
    throw new InvalidInput(
      'grid',
      `The grid has ${gridSize(plan.variables)} tries; ${MOST_TRIES} are the most.`,
      'Give fewer steps, or fewer variables.',
      'variables',
    );
  const lookupOf = (of: StudySubject['sections']) => fileLookup(of, (name) => resolve(dirname(file ?? o.plan!), name));
  const [ncrit] = readRange(o.ncrit, 'ncrit');
  let shelf: PolarShelf | null = null;
  const polarsOf = async (of: StudySubject) => {
    const look = lookupOf(of.sections);
    const { mass } = loadedMass(withPlacedMass(of.candidate, look));
    const speeds = polarSpeeds('flight', { ...of.flight, mass }, of.candidate);
    const made = await computePolars(of.candidate, look, speeds, of.flight.altitude, ncrit, { known: shelf });
    shelf = made.shelf;
    return made.polars;
  };
  const polars = plan.method === 'polars' && file !== null ? await polarsOf(subject) : null;
  const names = {
    variables: plan.variables.map(nameOf),
    options: plan.variables.map((v) => v.options),
    answers: askedOf(plan).map(answerKey),
  };
  const kept = o.out === undefined ? null : keptTries(o.out, raw, Boolean(o.resume), names);
  const begun = performance.now();
  let stopped = false;
  const stop = () => (stopped = true);
  process.once('SIGINT', stop).once('SIGTERM', stop);
  let told = 0;
  try {
    const result = await runStudy(
      plan,
      subject,
      { polars, settings: performanceSchema.parse({}), lookupOf, polarsOf },
      {
        known: kept?.known ?? [],
        onTry: (made) => kept?.add(made),
        cancelled: () => stopped,
        report: ({ done, of }) => {
          if (!process.stderr.isTTY || performance.now() - told < 200) return;
          told = performance.now();
          process.stderr.write(`\r${done} of ${of} `);
        },
      },
    );
    tell(o, plan, { ...result, seconds: (performance.now() - begun) / 1000 });
  } catch (error) {
    if (!(error instanceof StudyStopped)) throw error;
    process.stderr.write(`Stopped before the end${kept ? '; --resume goes on from here' : ''}.\n`);
    process.exitCode = 130;
  } finally {
    process.off('SIGINT', stop).off('SIGTERM', stop);
  }
}

/** The file of the airframe; null where nothing but sections is asked for. */
function airframeOf(raw: unknown, plan: string): string | null {
  const given = raw as { airframe?: unknown } | null;
  if (typeof given?.airframe === 'string') return resolve(dirname(plan), given.airframe);
  const parsed = planSchema.safeParse(raw);
  // What is wrong with the plan itself is said by its check.
  if (!parsed.success || askedOf(parsed.data).every(({ id }) => id.startsWith('sections.'))) return null;
  throw new InvalidInput(
    'airframe',
    'The study needs an airframe.',
    'Give --airframe FILE, or "airframe" in the plan.',
  );
}

/** The flight of a plan: its own, what the command says, or that of its first answer. */
function flightOf(raw: unknown, o: Options, flies: boolean): { speed: number; altitude: number } {
  const parsed = planSchema.safeParse(raw);
  const plan: Partial<Omit<StudyPlan, 'variables'>> = parsed.success ? parsed.data : {};
  const at = [...(plan.answers ?? []), ...(plan.bands ?? []), ...(plan.aim ?? [])].find((a) => a.at?.speed)?.at;
  const speed = o.speed === undefined ? (plan.flight?.speed ?? at?.speed) : readRange(o.speed, 'speed')[0];
  const altitude =
    o.altitude === undefined ? (plan.flight?.altitude ?? at?.altitude ?? 0) : readRange(o.altitude, 'altitude')[0];
  // What is wrong with a plan is said by its check; without a plan there is nothing to fly.
  if (speed === undefined && parsed.success && flies)
    throw new InvalidInput(
      'speed',
      'The study needs the speed of its level flight.',
      'Give "flight": { "speed": 26, "altitude": 600 } in the plan, or --speed.',
      'flight.speed',
    );
  const wrong = limitBroken(BRIEF_LIMITS.speed, speed ?? 1) ?? limitBroken(BRIEF_LIMITS.altitude, altitude);
  if (wrong) throw new InvalidInput('flight', `${wrong.message}.`, 'Give a flight in the atmosphere.', 'flight');
  return { speed: speed ?? 1, altitude };
}

interface Names {
  variables: string[];
  /** Of a choice: its words, by place. */ options: (readonly string[] | undefined)[];
  answers: string[];
}
/** A try as it is written: values and answers by their names. */
type Row = Omit<Try, 'values' | 'answers'> & {
  values: Record<string, number | string>;
  answers: Record<string, number | null>;
};
const rowOf = ({ values, answers, ...rest }: Try, names: Names): Row => ({
  ...rest,
  values: Object.fromEntries(names.variables.map((n, i) => [n, names.options[i]?.[values[i]] ?? values[i]])),
  answers: Object.fromEntries(names.answers.map((n, i) => [n, answers[i]])),
});

/** Tries that a folder holds, and how one more is kept: a line each, so that a stop anywhere costs at most the last. */
function keptTries(folder: string, raw: unknown, resume: boolean, names: Names) {
  const [planFile, file] = [join(folder, 'plan.json'), join(folder, 'tries.jsonl')];
  const text = `${JSON.stringify(raw, null, 2)}\n`;
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new InvalidInput(
      'out',
      `${folder} cannot be made (${(error as NodeJS.ErrnoException).code}).`,
      'Give another folder.',
      'out',
    );
  }
  const known: Try[] = [];
  if (existsSync(file)) {
    if (!resume)
      throw new InvalidInput(
        'out',
        `${folder} holds a study.`,
        'Give --resume to go on with it, or another folder.',
        'out',
      );
    if (existsSync(planFile) && readTextFile(planFile) !== text)
      throw new InvalidInput('out', `${folder} holds a study with another plan.`, 'Give another folder.', 'out');
    const whole = readFileSync(file, 'utf8');
    for (const line of whole.split('\n')) {
      try {
        const read = JSON.parse(line) as Row;
        const values = names.variables.map((n, i) =>
          names.options[i] ? names.options[i].indexOf(String(read.values[n])) : Number(read.values[n]),
        );
        const answers = names.answers.map((n) => read.answers[n] ?? null);
        if (values.every((v, i) => Number.isFinite(v) && !(names.options[i] && v < 0)))
          known.push({ ...read, values, answers });
      } catch {
        // A line that was cut off by a stop is made again.
      }
    }
    if (!whole.endsWith('\n')) appendFileSync(file, '\n');
  }
  writeFile(planFile, text);
  const add = (made: Try): void => {
    try {
      appendFileSync(file, `${JSON.stringify(rowOf(made, names))}\n`);
    } catch (error) {
      throw new InvalidInput(
        'out',
        `${file} cannot be written (${(error as NodeJS.ErrnoException).code}).`,
        'Make room; --resume goes on with what is there.',
        'out',
      );
    }
  };
  return { known, add };
}

function tell(o: Options, plan: StudyPlan, result: StudyResult & { seconds: number }): void {
  const names = result.variables.map((v) => v.name);
  const by = { variables: names, options: result.variables.map((v) => v.options), answers: result.answers };
  const { tries, best, front, solution, ...rest } = result;
  const told = {
    ...rest,
    ...(best && { best: rowOf(best, by) }),
    ...(front && { front: front.map((t) => rowOf(t, by)) }),
    ...(solution && {
      solution: { ...rowOf(solution, by), change: Object.fromEntries(names.map((n, i) => [n, solution.change[i]])) },
    }),
    tries: tries.map((t) => rowOf(t, by)),
  };
  if (o.out !== undefined) writeFile(join(o.out, 'result.json'), `${JSON.stringify(told, null, 2)}\n`);
  if (o.json) return printJson(told);
  const number = (v: number | null | undefined) =>
    v === null || v === undefined ? '—' : String(Number(v.toPrecision(6)));
  const rows = (list: readonly Try[]) =>
    table(list, [
      ...names.map((title, i) => ({ title, text: (t: Try) => by.options[i]?.[t.values[i]] ?? number(t.values[i]) })),
      ...result.answers.map((title, i) => ({ title, text: (t: Try) => number(t.answers[i]) })),
    ]);
  const out: string[] = [];
  const effectOf = (variable: string, answer: string) =>
    result.effects?.find((e) => e.variable === variable && e.answer === answer);
  if (result.effects)
    for (const id of result.answers)
      out.push(
        `${id}, change for a step\n${table(names, [
          { title: 'variable', text: (v) => v },
          { title: 'step', text: (v) => number(result.variables.find((w) => w.name === v)!.step) },
          { title: 'change', text: (v) => number(effectOf(v, id)?.perStep) },
          { title: '', text: (v) => (effectOf(v, id)?.reliable ? '' : 'not to be relied on') },
        ])}`,
      );
  if (plan.kind === 'grid') out.push(rows(result.tries));
  if (result.solution)
    out.push(`${result.solution.met ? 'All bands are held' : 'Not all bands can be held'}\n${rows([result.solution])}`);
  if (result.best) out.push(rows([result.best]));
  if (result.front) out.push(rows(result.front));
  for (const b of result.contradictions ?? [])
    out.push(
      b.value === null
        ? `${b.id} is not there: ${b.reason}\n`
        : `${b.id} is ${number(b.value)}: it misses its band by ${number(b.missedBy)}\n`,
    );
  for (const v of result.oneMore ?? [])
    out.push(
      `${v.path} at ${number(v.to)} would leave ${Math.round(100 * v.left)} % of what is missed, by straight lines\n`,
    );
  if (result.spread)
    out.push(
      table(result.spread, [
        { title: 'answer', text: (a) => a.answer },
        ...(['mean', 'sd', 'p5', 'p50', 'p95'] as const).map((key) => ({
          title: key,
          text: (a: NonNullable<StudyResult['spread']>[number]) => number(a[key]),
        })),
        ...names.map((v, i) => ({
          title: `total: ${v}`,
          text: (a: NonNullable<StudyResult['spread']>[number]) => number(a.causes[i].total.value),
        })),
      ]),
    );
  for (const [id, chance] of Object.entries(result.chances ?? {}))
    out.push(`${id} holds its band in ${(100 * chance).toFixed(1)} of 100\n`);
  out.push(`${result.tries.length} tries, ${result.resumed} of them taken over, ${result.seconds.toFixed(1)} s\n`);
  process.stdout.write(out.join('\n'));
}

function listAnswers(o: Options): void {
  const all = answersThere();
  if (o.json) return printJson({ answers: all });
  process.stdout.write(
    table(all, [
      { title: 'answer', text: (a) => a.id },
      { title: 'unit', text: (a) => a.unit },
      { title: 'is', text: (a) => a.name },
      { title: 'at', text: (a) => a.needs ?? '' },
    ]),
  );
}

function listVariables(o: Options): void {
  if (o.airframe === undefined)
    throw new InvalidInput('airframe', '--list-variables needs an airframe.', 'Give --airframe FILE.', 'airframe');
  const { candidate, sections } = readCandidateFile(readTextFile(o.airframe));
  const speed = o.speed === undefined ? 20 : readRange(o.speed, 'speed')[0];
  const altitude = o.altitude === undefined ? 0 : readRange(o.altitude, 'altitude')[0];
  const all = variablesOf({ candidate, sections, flight: { speed, altitude } }).map(
    ({ path, label, limit, value, step }) => ({
      path,
      label,
      value,
      step,
      least: limit.min,
      greatest: limit.max,
      dimension: limit.dimension,
    }),
  );
  if (o.json) return printJson({ variables: all });
  process.stdout.write(
    table(all, [
      { title: 'path', text: (v) => v.path },
      { title: 'value', text: (v) => String(v.value) },
      { title: 'step', text: (v) => String(v.step) },
      { title: 'is', text: (v) => v.label },
    ]),
  );
}
