import { dirname, resolve } from 'node:path';
import { Command, Option } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import { loadedMass, performanceOf, polarSpeeds, readCandidateFile, withPlacedMass } from '@veldtwind/core/candidate';
import { DEG, InvalidInput } from '@veldtwind/core/numerics';
import {
  performanceSchema,
  TRIMMED_BY,
  type Energy,
  type LevelPoint,
  type TrimmedBy,
} from '@veldtwind/core/performance';
import { whyMissing } from '@veldtwind/core/quantities';
import { withSetting, type CandidatePart } from '@veldtwind/core/project';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';
import { computePolars } from '../viscous-lift';

interface Options {
  airframe: string;
  speeds: string;
  speed?: string;
  altitude: string;
  power?: string;
  battery?: string;
  efficiency: string;
  fuel?: string;
  sfc?: string;
  loading?: string;
  setting?: string;
  trim: TrimmedBy;
  ncrit: string;
  inviscid?: boolean;
  json?: boolean;
}

export function performanceCommand(): Command {
  return new Command('performance')
    .description('Level flight in trim over speeds: drag, power, sink, climb; stall, glide, range, endurance, ceiling')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--speeds <m/s>', 'one, from:to:step, or numbers with commas')
    .option(
      '--speed <m/s>',
      'of the design point: controls and polars are taken about it; the middle of the speeds without',
    )
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option(
      '--power <W>',
      'power that reaches the flight at every speed, along the path; the engine of the candidate without',
    )
    .option('--battery <Wh>', 'energy of a battery; what the candidate flies on without')
    .option('--efficiency <share>', 'of that energy what reaches the engine', '1')
    .option('--fuel <kg>', 'fuel that is burnt, part of the mass')
    .option('--sfc <kg/kWh>', 'fuel for a kilowatt and hour of the shaft')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--setting <name>', 'a kept setting of the controls')
    .addOption(
      new Option('--trim <by>', 'what takes the pitching moment away').choices([...TRIMMED_BY]).default('control'),
    )
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'the lattice alone, with the drag build-up: quick, and without a stall')
    .option('--json', 'print JSON')
    .action(run);
}

const positive = (text: string, name: string): number => {
  const [value] = readRange(text, name);
  if (value > 0) return value;
  throw new InvalidInput(name, `--${name} must be greater than zero; ${value} is not.`, 'Leave it out for none.', name);
};

function energyOf(o: Options, candidate: CandidatePart): Energy | null {
  if (o.battery !== undefined && o.fuel !== undefined)
    throw new InvalidInput('energy', 'It flies on a battery or on fuel, not on both.', 'Give one of them.', 'battery');
  if ((o.fuel === undefined) !== (o.sfc === undefined))
    throw new InvalidInput('fuel', '--fuel and --sfc go together.', 'For instance --fuel 2 --sfc 0.4.', 'fuel');
  if (o.battery !== undefined) {
    const efficiency = positive(o.efficiency, 'efficiency');
    if (efficiency > 1)
      throw new InvalidInput(
        'efficiency',
        `An efficiency of ${efficiency} is more than 1.`,
        'Give a share.',
        'efficiency',
      );
    return { kind: 'battery', capacity: positive(o.battery, 'battery'), usable: 1, efficiency };
  }
  if (o.fuel !== undefined)
    return { kind: 'fuel', mass: positive(o.fuel, 'fuel'), consumption: positive(o.sfc!, 'sfc'), per: 'power' };
  return candidate.energy ?? null;
}

async function run(o: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const standing = standingIn(o.setting === undefined ? read : withSetting(read, o.setting));
  const speeds = readRange(o.speeds, 'speeds');
  const [altitude] = readRange(o.altitude, 'altitude');
  const speed =
    o.speed === undefined ? 0.5 * (Math.min(...speeds) + Math.max(...speeds)) : readRange(o.speed, 'speed')[0];
  if (!speeds.every((v) => v > 0) || !(speed > 0))
    throw new InvalidInput('speeds', 'Speeds must be greater than zero.', 'For instance --speeds 15:40:1.', 'speeds');
  const [ncrit] = readRange(o.ncrit, 'ncrit');
  const mass = loadedMass(withPlacedMass(standing, lookup), o.loading);
  const energy = energyOf(o, standing);
  const candidate: CandidatePart =
    o.power === undefined
      ? standing
      : {
          ...standing,
          engine: {
            kind: 'power',
            power: positive(o.power, 'power'),
            efficiency: 1,
            position: { ...mass.centre },
            pitchDeg: 0,
            yawDeg: 0,
          },
        };
  const brief = { speed, altitude, mass: mass.mass };
  const polars = o.inviscid
    ? null
    : (await computePolars(candidate, lookup, polarSpeeds('flight', brief, candidate), altitude, ncrit)).polars;
  const told = await performanceOf(
    {
      of: {
        candidate,
        sections: {},
        speed,
        altitude,
        polars,
        ...(o.loading === undefined ? {} : { loading: o.loading }),
      },
      energy,
      settings: performanceSchema.parse({ trimmedBy: o.trim }),
      speeds,
    },
    lookup,
    o.power !== undefined,
  );
  const { performance, limits } = told;
  const { points, glide, climb, stall } = performance;
  const range = 'missing' in limits.range ? { bestRange: null, bestEndurance: null } : limits.range;
  const answer = {
    method: performance.method,
    weight: performance.weight,
    altitude,
    trimmedBy: o.trim,
    points: points.map(asJson),
    stallSpeed: 'missing' in stall ? null : stall.speed,
    bestGlide: glide.bestGlide && {
      speed: glide.bestGlide.speed,
      ratio: glide.bestGlide.ratio,
      angleDeg: glide.bestGlide.angle * DEG,
      sink: glide.bestGlide.sink,
    },
    leastSink: glide.leastSink && { speed: glide.leastSink.speed, sink: glide.leastSink.sink },
    bestClimb: climb.best && { speed: climb.best.speed, climb: climb.best.rate },
    fastest: climb.fastest,
    bestRange: range.bestRange,
    bestEndurance: range.bestEndurance,
    ceiling: limits.ceiling,
  };
  const reasons = Object.fromEntries(
    Object.entries(TOLD).flatMap(([key, id]) =>
      answer[key as keyof typeof TOLD] === null ? [[key, whyMissing(`performance.${id}`, told)]] : [],
    ),
  );
  if (o.json) return printJson({ ...answer, reasons });
  const shown = (value: number | null, digits: number) => (value === null ? '—' : value.toFixed(digits));
  process.stdout.write(
    `${candidate.name}: ${mass.mass.toFixed(3)} kg at ${altitude} m, in trim by ${{ control: 'its control', incidence: 'the tail incidence', none: 'nothing' }[o.trim]}, ${polars ? 'section polars' : 'the lattice and the drag build-up'}\n` +
      table<LevelPoint>(points, [
        { title: 'speed', text: (p) => p.speed.toFixed(2) },
        { title: 'α, °', text: (p) => shown(p.trim && p.trim.alpha * DEG, 2) },
        { title: 'control, °', text: (p) => shown(p.trim?.control ? p.trim.control.deflection * DEG : null, 2) },
        { title: 'CL', text: (p) => shown(p.trim && p.trim.CL, 4) },
        { title: 'CD', text: (p) => shown(p.trim && p.trim.CD, 5) },
        { title: 'drag, N', text: (p) => shown(p.drag, 3) },
        { title: 'power, W', text: (p) => shown(p.power, 2) },
        { title: 'sink, m/s', text: (p) => shown(p.sink, 3) },
        { title: 'climb, m/s', text: (p) => shown(p.climb, 3) },
        { title: 'status', text: (p) => p.status },
      ]),
  );
  const lines: [string, string | null][] = [
    ['stall in trim', answer.stallSpeed === null ? null : `${answer.stallSpeed.toFixed(2)} m/s`],
    [
      'best glide',
      answer.bestGlide && `${answer.bestGlide.ratio.toFixed(2)} at ${answer.bestGlide.speed.toFixed(1)} m/s`,
    ],
    [
      'least sink',
      answer.leastSink && `${answer.leastSink.sink.toFixed(3)} m/s at ${answer.leastSink.speed.toFixed(1)} m/s`,
    ],
    [
      'best climb',
      answer.bestClimb && `${answer.bestClimb.climb.toFixed(2)} m/s at ${answer.bestClimb.speed.toFixed(1)} m/s`,
    ],
    [
      'best range',
      answer.bestRange &&
        `${(answer.bestRange.range / 1000).toFixed(1)} km at ${answer.bestRange.speed.toFixed(1)} m/s`,
    ],
    [
      'best endurance',
      answer.bestEndurance &&
        `${(answer.bestEndurance.time / 60).toFixed(0)} min at ${answer.bestEndurance.speed.toFixed(1)} m/s`,
    ],
    ['ceiling', answer.ceiling && `${answer.ceiling.altitude.toFixed(0)} m`],
  ];
  for (const [name, text] of lines) if (text) process.stdout.write(`${name}: ${text}\n`);
  for (const reason of new Set(Object.values(reasons))) process.stderr.write(`vw: ${reason}\n`);
  for (const p of points) if (p.reason) process.stderr.write(`vw: ${p.speed} m/s: ${p.reason}\n`);
}

/** The optima that are told, by the quantity that each of them is. */
const TOLD = {
  stallSpeed: 'stallSpeed',
  bestGlide: 'bestGlide',
  leastSink: 'leastSink',
  bestClimb: 'climbRate',
  fastest: 'fastest',
  bestRange: 'range',
  bestEndurance: 'endurance',
  ceiling: 'ceiling',
} as const;

/** A point as programs read it: degrees, SI; null where there is none. */
const asJson = (p: LevelPoint) => ({
  speed: p.speed,
  alphaDeg: p.trim && p.trim.alpha * DEG,
  control: p.trim?.control ? { name: p.trim.control.name, angleDeg: p.trim.control.deflection * DEG } : null,
  CL: p.trim && p.trim.CL,
  CD: p.trim && p.trim.CD,
  CDtrim: p.trim && p.trim.CDtrim,
  Cm: p.trim && p.trim.Cm,
  drag: p.drag,
  power: p.power,
  sink: p.sink,
  thrustAvailable: p.thrustAvailable,
  powerAvailable: p.powerAvailable,
  throttle: p.throttle,
  climb: p.climb,
  climbAngleDeg: p.climbAngle === null ? null : p.climbAngle * DEG,
  climbPower: p.climbPower,
  climbAvailable: p.climbAvailable,
  status: p.status,
  ...(p.reason === undefined ? {} : { reason: p.reason }),
});
