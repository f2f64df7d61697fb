import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import {
  HingeMoments,
  overhangsOf,
  readCandidateFile,
  withPlacedMass,
  withServo,
  type ServoTorque,
} from '@veldtwind/core/candidate';
import { DEG } from '@veldtwind/core/numerics';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';

interface Options {
  airframe: string;
  speed: string;
  altitude: string;
  loading?: string;
  deflection?: string;
  ncrit: string;
  json?: boolean;
}

export function torqueCommand(): Command {
  return new Command('torque')
    .description('Torque of the air about the hinge of each control over its travel, beside what its servo holds')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md; its actuation names servos')
    .requiredOption('--speed <m/s>', 'speed of the level flight')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--deflection <range>', 'deflections in degrees, for instance -20,0,20; else over the travel of each')
    .option('--ncrit <number>', 'critical amplification of the sections', '9')
    .option('--json', 'print JSON')
    .action(run);
}

async function run(o: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const candidate = withPlacedMass(standingIn(read), lookup);
  const [speed] = readRange(o.speed, 'speed');
  const [altitude] = readRange(o.altitude, 'altitude');
  const [ncrit] = readRange(o.ncrit, 'ncrit');
  const deflections = o.deflection === undefined ? undefined : readRange(o.deflection, 'deflection');
  const overhangs = overhangsOf(candidate.actuation);
  const moments = new HingeMoments(candidate, lookup, {
    altitude,
    ncrit,
    ...(overhangs && { overhangs }),
    ...(o.loading === undefined ? {} : { loading: o.loading }),
  });
  const { alpha, controls: air } = await moments.at(speed, deflections);
  const controls = air.map((c) => withServo(c, candidate.actuation?.[c.id]?.servo));
  if (o.json) {
    printJson({
      airframe: candidate.name,
      speed,
      altitude,
      alphaDeg: alpha! * DEG,
      controls: controls.map(told),
    });
    return;
  }
  process.stdout.write(`${candidate.name}, level flight at ${speed} m/s, α ${(alpha! * DEG).toFixed(2)}°\n`);
  const rows = controls.flatMap((c) => c.points.map((p, i) => ({ c, p, worst: i === c.worst })));
  process.stdout.write(
    table(rows, [
      { title: 'control', text: ({ c, worst }) => `${c.name}${worst ? ' (worst)' : ''}` },
      { title: 'deflection, °', text: ({ p }) => p.deflectionDeg.toFixed(1) },
      { title: 'hinge coefficient', text: ({ p }) => p.hingeCoefficient.toFixed(4) },
      { title: 'torque, N m', text: ({ p }) => p.torque.toFixed(4) },
      { title: 'panels', text: ({ c }) => String(c.panels) },
      { title: 'servo, N m', text: ({ p }) => p.servo?.toFixed(4) ?? '' },
      { title: 'reserve, %', text: ({ p }) => (p.reserve === null ? '' : (100 * p.reserve).toFixed(0)) },
      { title: 'status', text: ({ p }) => p.status },
    ]),
  );
  const notes = new Set(
    rows.flatMap(({ c, p }) => [p.reason, p.servoReason].flatMap((r) => (r ? [`${c.name}: ${r}`] : []))),
  );
  for (const note of notes) process.stdout.write(`${note}\n`);
}

/** A control with the place that is worst for it in front, and all places behind. */
function told({ points, worst, size, mirrored: _mirrored, ...control }: ServoTorque) {
  return { ...control, momentArea: size, ...points[worst], points };
}
