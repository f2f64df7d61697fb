import { loadPerAlpha } from '@veldtwind/core/findings';
import { Command, Option } from 'commander';
import type { AirframeMotion } from '@veldtwind/core/candidate';
import {
  AIRCRAFT_CLASSES,
  FLIGHT_PHASES,
  handlingLevels,
  motionOf,
  type AircraftClass,
  type FlightPhase,
  type Mode,
} from '@veldtwind/core/motion';
import { InvalidInput, RAD } from '@veldtwind/core/numerics';
import { motionOfAirframe, readMotionCase, type FlownOptions } from '../motion-case';
import { printJson, table } from '../output';

interface Options extends FlownOptions {
  derivatives?: string;
  class: AircraftClass;
  phase: FlightPhase;
  json?: boolean;
}

export function motionCommand(): Command {
  return new Command('motion')
    .description('Trim, derivatives, matrices and modes of small motions: of an airframe, or from a set of derivatives')
    .option('--derivatives <file>', 'mass, inertia, size, steady flight and derivatives as JSON, see docs/motion.md')
    .option('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--speed <m/s>', 'speed of the level flight')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--setting <name>', 'a kept setting of the controls')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'without section polars: the lattice alone, with the drag build-up')
    .option('--climb <degrees>', 'of the path; level without', '0')
    .addOption(
      new Option('--class <class>', 'of the requirements that modes are held against')
        .choices(AIRCRAFT_CLASSES)
        .default('I'),
    )
    .addOption(
      new Option('--phase <phase>', 'of flight: precise, gradual, near the ground').choices(FLIGHT_PHASES).default('B'),
    )
    .option('--json', 'print JSON')
    .action(run);
}

async function run(options: Options): Promise<void> {
  const { derivatives, airframe } = options;
  if ((derivatives === undefined) === (airframe === undefined))
    throw new InvalidInput(
      'motion',
      'vw motion needs --airframe or --derivatives, one of the two.',
      'For instance --airframe my.json --speed 26.',
    );
  return derivatives === undefined ? ofAirframe(options) : ofSet(derivatives, Boolean(options.json));
}

async function ofAirframe(o: Options): Promise<void> {
  const { candidate, motion } = await motionOfAirframe(o);
  if (o.json) return printJson(asJson(motion, o.class, o.phase));
  const { trim, mass } = motion;
  const deflections = Object.entries(trim.controls).map(([id, d]) => `${id} ${(d / RAD).toFixed(2)}°`);
  process.stdout.write(
    `${candidate.name}: ${mass.mass.toFixed(3)} kg, centre x ${mass.centre.x.toFixed(4)} m, static margin ${(100 * motion.staticMargin).toFixed(1)} %\n` +
      `level at ${motion.trim.speed} m/s: α ${(trim.alpha / RAD).toFixed(2)}°, CL ${trim.CL.toFixed(4)}, CD ${trim.CD.toFixed(5)}${deflections.length ? `, ${deflections.join(', ')}` : `, Cm ${trim.Cm.toFixed(4)} is left: no control trims`}\n`,
  );
  if (motion.stickFree)
    process.stdout.write(
      `stick free (${motion.stickFree.name}, thin-section hinge moments): static margin ${(100 * motion.stickFree.staticMargin).toFixed(1)} %\n`,
    );
  const lost = Object.entries(motion.works).filter(([id, w]) => id in trim.controls && w.now < 0.98);
  for (const [id, w] of lost)
    process.stdout.write(
      `${id} is ${(100 * w.now).toFixed(0)} % effective there (${w.method === 'polars' ? 'section polars' : 'plain flap'})\n`,
    );
  printModes(motion.modes);
  for (const d of motion.doubts) process.stderr.write(`vw: doubtful: ${d}\n`);
}

function asJson(m: AirframeMotion, aircraftClass: AircraftClass, phase: FlightPhase): object {
  const { Ixx, Iyy, Izz, Ixz } = m.case;
  return {
    mass: {
      mass: m.mass.mass,
      centre: m.mass.centre,
      inertia: { Ixx, Iyy, Izz, Ixz },
      axes: 'stability axes about the centre of gravity; Ixz = ∫xz dm, x forward, z down',
    },
    reference: m.reference,
    trim: {
      alphaDeg: m.trim.alpha / RAD,
      speed: m.trim.speed,
      CL: m.trim.CL,
      CD: m.trim.CD,
      Cm: m.trim.Cm,
      controls: Object.fromEntries(Object.entries(m.trim.controls).map(([id, d]) => [id, d / RAD])),
    },
    manoeuvre: m.manoeuvre,
    ...(m.stickFree && { stickFree: m.stickFree }),
    effectiveness: m.works,
    neutralPoint: m.neutralPoint,
    staticMargin: m.staticMargin,
    derivatives: m.derivatives,
    matrices: m.matrices,
    modes: m.modes,
    levels: handlingLevels(m.modes, aircraftClass, phase, loadPerAlpha(m.case)),
    doubts: m.doubts,
  };
}

function ofSet(derivatives: string, json: boolean): void {
  const { matrices, modes, doubts } = motionOf(readMotionCase(derivatives));
  if (json) return printJson({ matrices, modes, doubts });
  printModes(modes);
  for (const d of doubts) process.stderr.write(`vw: doubtful: ${d}\n`);
}

function printModes(modes: Mode[]): void {
  const number = (v: number | undefined, digits: number) => (v === undefined ? '' : v.toFixed(digits));
  process.stdout.write(
    table<Mode>(modes, [
      { title: 'mode', text: (m) => m.name },
      { title: 're, 1/s', text: (m) => m.re.toFixed(4) },
      { title: 'im, rad/s', text: (m) => m.im.toFixed(4) },
      { title: 'Hz', text: (m) => m.frequencyHz.toFixed(4) },
      { title: 'damping', text: (m) => m.dampingRatio.toFixed(3) },
      { title: 'half, s', text: (m) => number(m.timeToHalf, 2) },
      { title: 'double, s', text: (m) => number(m.timeToDouble, 2) },
      { title: 'period, s', text: (m) => number(m.period, 2) },
    ]),
  );
}
