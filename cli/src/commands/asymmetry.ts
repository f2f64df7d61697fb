import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import { runAnalysis } from '@veldtwind/core/analysis';
import {
  explainedBy,
  readCandidateFile,
  type AsymmetryAtSpeed,
  type AsymmetryCause,
  type MotionInput,
} from '@veldtwind/core/candidate';
import { DEG, RAD } from '@veldtwind/core/numerics';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';

interface Options {
  airframe: string;
  speed: string;
  altitude: string;
  loading?: string;
  speeds?: string;
  rollRate?: string;
  json?: boolean;
}

export function asymmetryCommand(): Command {
  return new Command('asymmetry')
    .description('What unequal halves do: moments, roll, and the controls that hold straight flight')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md; its surfaces say how they differ')
    .requiredOption('--speed <m/s>', 'speed of the level flight')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--loading <name>', 'a loading that the candidate keeps; else all items are there')
    .option('--speeds <range>', 'more speeds, for instance 10:20:2')
    .option('--roll-rate <deg/s>', 'a roll that was seen with the controls fixed: what would explain it')
    .option('--json', 'print JSON')
    .action(run);
}

const angular = new Set(['incidence', 'twist', 'dihedral', 'rigging']);
const shown = (c: AsymmetryCause, amount: number) => (angular.has(c.kind) ? amount * DEG : amount);
const unit = (c: AsymmetryCause) => (angular.has(c.kind) ? '°' : c.kind === 'mass' ? ' kg' : '');
const named = (c: AsymmetryCause) => `${c.name}${c.control ? `, ${c.control.name}` : ''}: ${c.kind}`;

async function run(o: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const candidate = standingIn(read);
  const [speed] = readRange(o.speed, 'speed');
  const [altitude] = readRange(o.altitude, 'altitude');
  const speeds = o.speeds === undefined ? [] : readRange(o.speeds, 'speeds');
  const rollRate = o.rollRate === undefined ? null : readRange(o.rollRate, 'roll-rate')[0];
  const keys = [...new Set(candidate.surfaces.flatMap((s) => s.stations.map((t) => t.section)))];
  const of = {
    candidate,
    sections: Object.fromEntries(keys.map((key) => [key, lookup(key)])),
    speed,
    altitude,
    ...(o.loading === undefined ? {} : { loading: o.loading }),
    polars: null,
  } as unknown as MotionInput;
  const { causes, now, speeds: all, left, limit } = await runAnalysis('asymmetry', { of, speeds });
  const degrees = (v: number | null) => (v === null ? null : v * DEG);
  const stateOf = ({ held, rollRate: p, ...rest }: AsymmetryAtSpeed) => ({
    ...rest,
    rollRateDeg: degrees(p),
    held: held && {
      bankDeg: held.bank * DEG,
      sideslipDeg: held.sideslip * DEG,
      controls: held.controls.map((c) => ({
        name: c.name,
        deflectionDeg: c.deflection * DEG,
        limitDeg: degrees(c.limit),
        left: c.left,
      })),
    },
  });
  const mass = candidate.massItems.reduce((sum, m) => sum + m.mass, 0);
  const explained =
    rollRate === null
      ? undefined
      : explainedBy(causes, rollRate * RAD, mass).map(({ cause, amount }) => ({
          of: cause,
          amount: shown(cause, amount),
        }));
  if (o.json) {
    printJson({
      airframe: candidate.name,
      method: 'vortex lattice',
      causes: causes.map(({ amount, rollRate: p, ...c }) => ({
        ...c,
        amount: shown({ ...c, amount, rollRate: p }, amount),
        rollRateDeg: degrees(p),
      })),
      now: stateOf(now),
      speeds: all.map(stateOf),
      left,
      limit,
      ...(explained && {
        explained: explained.map(({ of: c, amount }) => ({
          surface: c.surface,
          kind: c.kind,
          control: c.control?.id,
          amount,
        })),
      }),
    });
    return;
  }
  const rows = causes.filter((c) => c.given);
  if (rows.length === 0)
    console.log('The halves of all surfaces are alike; what a small difference of each kind does:');
  console.log(
    table(rows.length ? rows : causes, [
      { title: 'right − left', text: named },
      { title: 'amount', text: (c) => `${Number(shown(c, c.amount).toPrecision(4))}${unit(c)}` },
      { title: 'roll, N m', text: (c) => c.rollMoment.toPrecision(3) },
      { title: 'yaw, N m', text: (c) => c.yawMoment.toPrecision(3) },
      { title: 'roll rate, °/s', text: (c) => degrees(c.rollRate)?.toFixed(1) ?? '—' },
    ]),
  );
  if (rows.length)
    for (const s of [now, ...all]) {
      const held = s.held?.controls
        .map(
          (c) =>
            `${c.name} ${(c.deflection * DEG).toFixed(1)}°${c.left !== null && c.left < 0 ? ' (beyond its limit)' : ''}`,
        )
        .join(', ');
      console.log(
        `${s.speed} m/s: ${held ? `held by ${held}, bank ${(s.held!.bank * DEG).toFixed(1)}°, sideslip ${(s.held!.sideslip * DEG).toFixed(1)}°` : 'no control holds it'}`,
      );
    }
  for (const { speed: v, reason } of left) console.log(`${v} m/s: ${reason}`);
  if (limit)
    console.log(`${limit.control} is at its limit at ${limit.speed.toFixed(1)} m/s, and beyond it ${limit.side}.`);
  if (explained)
    console.log(
      table(explained, [
        { title: `a roll of ${rollRate} °/s`, text: ({ of: c }) => named(c) },
        { title: 'right − left', text: ({ of: c, amount }) => `${Number(amount.toPrecision(3))}${unit(c)}` },
      ]),
    );
}
