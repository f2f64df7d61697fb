import { zipSync } from 'fflate';
import { Command } from 'commander';
import { flightTables } from '@veldtwind/core/candidate';
import {
  closeLoops,
  controlModel,
  flightModel,
  inBodyAxes,
  modelArrays,
  modelCsv,
  modelJson,
  modelText,
  readModel,
  withOutputs,
  type ClosedLoop,
  type FlightModel,
} from '@veldtwind/core/control';
import { keptMeanLine } from '@veldtwind/core/lift';
import { parseJson, refusalOf } from '@veldtwind/core/limits';
import { motionCase, motionOf } from '@veldtwind/core/motion';
import { InvalidInput } from '@veldtwind/core/numerics';
import { writeStandardTables } from '@veldtwind/core/simulation';
import { readBytes, readTextFile } from '../arguments';
import { motionOfAirframe } from '../motion-case';
import { printJson, table, writeFile } from '../output';

interface Options {
  model?: string;
  loops?: string;
  airframe?: string;
  speed?: string;
  altitude: string;
  loading?: string;
  setting?: string;
  inviscid?: boolean;
  without: string[];
  export?: string;
  axes: string;
  outputs?: string;
  json?: boolean;
}

export function controlCommand(): Command {
  return new Command('control')
    .description('Closes loops about a linear model: margins, step and poles of each, from the inner to the outer')
    .option(
      '--model <file>',
      'model and loops as JSON, see docs/control.md, or a model as .csv, .txt, .m or .npz; with --airframe only its loops are taken',
    )
    .option('--loops <file>', 'loops as JSON, about a model that is no JSON or has none')
    .option('--airframe <file>', 'candidate file: the model is that of its motion')
    .option('--speed <m/s>', 'speed of the level flight, with --airframe')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--loading <name>', 'a loading that the candidate keeps')
    .option('--setting <name>', 'a kept setting of the controls')
    .option('--inviscid', 'without section polars')
    .option(
      '--without <derivative>',
      'switches a derivative off, such as Cm_q; may be repeated',
      (value: string, list: string[]) => [...list, value],
      [] as string[],
    )
    .option(
      '--export <file>',
      'write the model of an airframe: .json, .csv, .m or .txt, .npz; .xml for tables of its aerodynamics by S-119',
    )
    .option('--axes <which>', 'of the model that is written: stream, or body', 'stream')
    .option('--outputs <names>', 'of the model that is written, such as q,theta; all without')
    .option('--json', 'print JSON')
    .action(run);
}

const loopsIn = (raw: unknown): { from?: string; to?: string }[] => {
  const loops = (raw as { loops?: unknown } | null)?.loops;
  return Array.isArray(loops) ? (loops as { from?: string; to?: string }[]) : [];
};

/** What --model and --loops give. */
function modelIn(o: Options): unknown {
  const loops =
    o.loops === undefined ? undefined : parseJson(readTextFile(o.loops), 'The loops', 'See docs/control.md.');
  const list = Array.isArray(loops) ? { loops: loops as unknown[] } : (loops as object | undefined);
  if (o.model === undefined) return list ?? {};
  const model = /\.json$/i.test(o.model)
    ? parseJson(readTextFile(o.model), 'The model', 'See docs/control.md.')
    : /\.(csv|txt|m|npz)$/i.test(o.model)
      ? readModel(readBytes(o.model), o.model)
      : parseJson(readTextFile(o.model), 'The model', 'See docs/control.md.');
  return list && 'loops' in list ? { ...(model as object), loops: list.loops } : model;
}

async function run(o: Options): Promise<void> {
  if (o.model === undefined && o.airframe === undefined)
    throw new InvalidInput('control', 'vw control needs --model, or --airframe.', 'See docs/control.md.');
  if (o.without.length > 0 && o.airframe === undefined)
    throw new InvalidInput(
      'without',
      '--without switches derivatives of an airframe off; a model of matrices has none.',
      'Give --airframe.',
    );
  const raw: unknown = modelIn(o);
  const given = o.airframe === undefined ? raw : { ...(await systemOf(o, loopsIn(raw))), loops: loopsIn(raw) };
  const parsed = controlModel.safeParse(given);
  if (!parsed.success) throw refusalOf(parsed.error, 'The model');
  const result = closeLoops(parsed.data);
  if (o.json)
    return printJson({
      ...(o.airframe === undefined ? {} : { model: { ...parsed.data, loops: undefined }, without: o.without }),
      openPoles: result.openPoles,
      loops: result.loops,
    });
  const number = (v: number | null, digits: number) => (v === null ? '—' : v.toFixed(digits));
  process.stdout.write(
    table<ClosedLoop>(result.loops, [
      { title: 'loop', text: (l) => l.name },
      { title: 'gain margin, dB', text: (l) => number(l.gainMarginDb, 2) },
      {
        title: 'phase margin, °',
        text: (l) => `${number(l.phaseMarginDeg, 2)}${l.phaseWay === 'lead' && l.stable ? ' of lead' : ''}`,
      },
      { title: 'gain 1 at, rad/s', text: (l) => number(l.gainCrossover, 3) },
      { title: '−180° at, rad/s', text: (l) => number(l.phaseCrossover, 3) },
      { title: 'rise, s', text: (l) => number(l.riseTime, 3) },
      { title: 'overshoot, %', text: (l) => number(l.overshoot === null ? null : 100 * l.overshoot, 1) },
      { title: 'settles in, s', text: (l) => number(l.settlingTime, 3) },
      { title: 'stable', text: (l) => (l.stable ? 'yes' : 'no') },
    ]),
  );
  for (const l of result.loops)
    for (const reason of Object.values(l.reasons)) process.stdout.write(`${l.name}: ${reason}\n`);
  if (result.loops.length === 0)
    process.stdout.write(
      `${result.openPoles.map(([re, im]) => `${re.toFixed(4)} ${im < 0 ? '−' : '+'} ${Math.abs(im).toFixed(4)} i`).join('\n')}\n`,
    );
}

/** The system of an airframe's motion that a loop's input or output belongs to; the longitudinal one without loops. */
async function systemOf(o: Options, loops: { from?: string; to?: string }[]) {
  const { candidate, lookup, speed, altitude, polars, motion } = await motionOfAirframe({
    ...o,
    ncrit: '9',
    climb: '0',
  });
  const derivatives: Record<string, unknown> = { ...motion.derivatives };
  for (const name of o.without) {
    if (name === 'controls' || !(name in derivatives))
      throw new InvalidInput(
        'without',
        `There is no derivative "${name}".`,
        `There are ${Object.keys(derivatives)
          .filter((k) => k !== 'controls')
          .join(', ')}.`,
        'without',
      );
    derivatives[name] = 0;
  }
  const { longitudinal, lateral } = motionOf(motionCase.parse({ ...motion.case, derivatives })).matrices;
  const side = loops.length > 0 && LATERAL.has(String(loops[0].from)) ? 'lateral' : 'longitudinal';
  const model = flightModel(motionCase.parse({ ...motion.case, derivatives }), side);
  if (o.export !== undefined && /\.(xml|dml)$/i.test(o.export)) {
    const tables = flightTables(candidate, lookup, (key) => keptMeanLine(lookup(key)), {
      speed,
      altitude,
      polars,
      ...(o.loading === undefined ? {} : { loading: o.loading }),
    });
    writeFile(o.export, writeStandardTables(tables, candidate.name, new Date().toISOString().slice(0, 10)));
  } else if (o.export !== undefined) {
    if (o.axes !== 'stream' && o.axes !== 'body')
      throw new InvalidInput('axes', `There are no axes "${o.axes}".`, 'Write stream or body.', 'axes');
    const turned = o.axes === 'body' ? inBodyAxes(model, motion.trim.alpha) : model;
    writeModel(
      o.export,
      o.outputs === undefined
        ? turned
        : withOutputs(
            turned,
            o.outputs.split(',').map((v) => v.trim()),
          ),
    );
  }
  const { states } = side === 'lateral' ? lateral : longitudinal;
  // Height and heading are states of their own, where a loop measures them; else they would only drift.
  const drifting = loops.some((l) => ['height', 'psi', 'course'].includes(String(l.from)));
  const kept = drifting ? model.states : states;
  const cut = (m: number[][]) => m.map((row) => row.slice(0, kept.length));
  const measured = model.outputs
    .map((name, i) => ({ name: name as string, row: model.C[i] }))
    .filter(({ name, row }) => !states.includes(name) && (drifting || row[states.length] === 0));
  // The states themselves are put out as well.
  const own = kept.map((name, i) => ({ name, row: kept.map((_, j) => (i === j ? 1 : 0)) }));
  const outputs = [...own, ...measured.filter(({ name }) => !kept.includes(name))];
  return {
    A: cut(model.A.slice(0, kept.length)),
    B: model.B.slice(0, kept.length),
    C: cut(outputs.map(({ row }) => row)),
    D: outputs.map(() => model.inputs.map(() => 0)),
    states: kept,
    inputs: model.inputs,
    outputs: outputs.map(({ name }) => name),
  };
}

const LATERAL = new Set(['v', 'p', 'r', 'phi', 'psi', 'beta', 'course']);

/** Writes a model by the end of its file's name. */
function writeModel(file: string, model: FlightModel): void {
  const as = /\.(json|csv|m|txt|npz)$/i.exec(file)?.[1].toLowerCase();
  if (as === undefined)
    throw new InvalidInput(
      'export',
      `It is not known how to write ${file}.`,
      'End its name with .json, .csv, .m, .txt, .npz, or .xml for S-119 tables.',
    );
  if (as === 'npz') writeFile(file, zipSync(modelArrays(model), { level: 0 }));
  else writeFile(file, as === 'json' ? modelJson(model) : as === 'csv' ? modelCsv(model) : modelText(model));
}
