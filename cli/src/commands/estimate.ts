import { Command, Option } from 'commander';
import {
  comparedResponses,
  estimateDerivatives,
  motionsOf,
  readResponseRecord,
  type ResponseMotion,
} from '@veldtwind/core/estimation';
import { InvalidInput, RAD } from '@veldtwind/core/numerics';
import { readRange, readTextFile } from '../arguments';
import { motionOfAirframe, readMotionCase, type FlownOptions } from '../motion-case';
import { printJson, table } from '../output';

/** Coherence from which a response counts as told. */
const SOUND = 0.6;

interface Options extends FlownOptions {
  record: string;
  derivatives?: string;
  motion?: ResponseMotion;
  alpha: string;
  estimate?: string;
  json?: boolean;
}

export function estimateCommand(): Command {
  return new Command('estimate')
    .description('Estimates stability and control derivatives from the record of a response, by output error')
    .requiredOption(
      '--record <file>',
      'record as CSV: time, responses and deflections, with their units in the headings',
    )
    .option('--airframe <file>', 'candidate file whose derivatives it begins with, see docs/candidate-file.md')
    .option('--derivatives <file>', 'or a set of derivatives as JSON, see docs/motion.md')
    .option('--speed <m/s>', 'speed of the level flight, with --airframe')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--setting <name>', 'a kept setting of the controls')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'without section polars')
    .option('--climb <degrees>', 'of the path; level without', '0')
    .option(
      '--alpha <degrees>',
      'with --derivatives: angle of attack of the axis along which rates and bank were measured',
      '0',
    )
    .addOption(new Option('--motion <motion>', 'else all that the record holds').choices(['longitudinal', 'lateral']))
    .option('--estimate <list>', 'names of derivatives, as Cm_alpha,Cm_q,controls.Elevator.Cm; else the usual ones')
    .option('--json', 'print JSON')
    .action(run);
}

async function run(o: Options): Promise<void> {
  if ((o.derivatives === undefined) === (o.airframe === undefined))
    throw new InvalidInput(
      'estimate',
      'vw estimate needs --airframe or --derivatives, one of the two.',
      'For instance --airframe my.json --speed 26.',
    );
  const text = readTextFile(o.record);
  const flown = o.derivatives === undefined ? (await motionOfAirframe(o)).motion : null;
  const flight = flown?.case ?? readMotionCase(o.derivatives!);
  const alpha = flown?.trim.alpha ?? readRange(o.alpha, 'alpha')[0] * RAD;
  const record = readResponseRecord(
    text,
    Object.keys(flight.derivatives.controls).map((id) => ({ id, name: id })),
  );
  const motions = o.motion ? [o.motion] : motionsOf(flight, record);
  if (motions.length === 0)
    throw new InvalidInput(
      'estimate',
      'The record holds no response to a control that moves and acts on it.',
      'Record a doublet: longitudinal motion needs alpha, q, theta or speed, lateral motion beta, p, r or phi.',
      'record',
    );
  const names = o.estimate?.split(',').map((n) => n.trim());
  const found = motions.map((motion) => {
    const estimation = estimateDerivatives(flight, record, motion, names, alpha);
    return { ...estimation, frequency: comparedResponses(record, motion, alpha, flight, estimation) };
  });
  if (o.json) {
    const decided = found.flatMap((f) => f.derivatives.filter((d) => d.decided).map((d) => [d.name, d.value] as const));
    printJson({ derivatives: Object.fromEntries(decided), motions: found, notes: record.notes });
    return;
  }
  for (const f of found) {
    process.stdout.write(
      table(f.derivatives, [
        { title: f.motion, text: (d) => d.name },
        { title: 'predicted', text: (d) => d.predicted.toPrecision(4) },
        { title: 'estimated', text: (d) => d.value.toPrecision(4) },
        { title: '95 % bounds', text: (d) => `${d.low.toPrecision(4)} to ${d.high.toPrecision(4)}` },
        { title: '', text: (d) => (d.decided ? '' : 'not decided') },
      ]),
    );
    for (const out of f.outputs)
      process.stdout.write(`${out.name}: ${(100 * out.explained).toFixed(1)} % of the variance explained\n`);
    for (const r of f.frequency) {
      const sound = r.points.filter((p) => p.coherence >= SOUND);
      process.stdout.write(
        `${r.output} per ${r.control}: coherence of ${SOUND} and more at ${sound.length} of ${r.points.length} frequencies${
          sound.length > 0 ? `, ${sound[0].omega.toFixed(1)} to ${sound[sound.length - 1].omega.toFixed(1)} rad/s` : ''
        }\n`,
      );
    }
    for (const [a, b, r] of f.alike)
      process.stdout.write(`${a} and ${b} are hardly told apart: correlation ${r.toFixed(3)}\n`);
    for (const d of f.doubts) process.stderr.write(`vw: doubtful: ${d}\n`);
  }
  for (const n of record.notes) process.stderr.write(`vw: ${n}\n`);
}
