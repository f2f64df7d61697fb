import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { referenceOf, standingIn } from '@veldtwind/core/airframe';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import { loadedMass, polarSpeeds, readCandidateFile, surfaceLoads, withPlacedMass } from '@veldtwind/core/candidate';
import { InvalidInput } from '@veldtwind/core/numerics';
import { computePolars } from '../viscous-lift';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';

interface Options {
  airframe: string;
  speed?: string;
  dive: string;
  load: string;
  altitude: string;
  axis: string;
  ncrit: string;
  inviscid?: boolean;
  json?: boolean;
}

export function loadsCommand(): Command {
  return new Command('loads')
    .description('Limit shear, bending and torsion along every surface over the manoeuvre and gust envelope')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--speed <m/s>', 'design cruise speed, equivalent; that of a lift coefficient of 0.4 without')
    .option('--dive <ratio>', 'dive speed over cruise speed', '1.4')
    .option('--load <least:greatest>', 'limit load factors', '-1.5:3.8')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--axis <fraction>', 'chord fraction of the axis that bending and torsion are about', '0.25')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'without section polars: load factors are not limited by the stall')
    .option('--json', 'print JSON')
    .action(run);
}

/** Lift coefficient of a cruise that nobody tells. */
const CRUISE = 0.4;

async function run(o: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(o.airframe));
  const lookup = fileLookup(sections, (name) => resolve(dirname(o.airframe), name));
  const candidate = standingIn(read);
  const [negative, positive] = o.load.split(':').map((v) => readRange(v, 'load')[0]);
  if (!(positive >= 1 && negative <= 0))
    throw new InvalidInput('load', `--load ${o.load} is no pair of load factors.`, 'Write it as -1.5:3.8.', 'load');
  const [diveRatio] = readRange(o.dive, 'dive');
  if (!(diveRatio >= 1))
    throw new InvalidInput(
      'dive',
      `A dive is as fast as the cruise or faster; ${o.dive} is not.`,
      'For instance 1.4.',
      'dive',
    );
  const [axis] = readRange(o.axis, 'axis');
  if (!(axis >= 0 && axis <= 1))
    throw new InvalidInput('axis', `The axis lies from 0 to 1 of the chord; ${o.axis} does not.`, undefined, 'axis');
  const [altitude] = readRange(o.altitude, 'altitude');
  const cruise = o.speed === undefined ? cruiseOf(withPlacedMass(candidate, lookup)) : readRange(o.speed, 'speed')[0];
  const placed = withPlacedMass(candidate, lookup);
  const brief = { speed: cruise, altitude, mass: loadedMass(placed).mass };
  const polars = o.inviscid
    ? null
    : (
        await computePolars(
          placed,
          lookup,
          polarSpeeds('flight', brief, placed),
          altitude,
          readRange(o.ncrit, 'ncrit')[0],
        )
      ).polars;
  const settings = { cruise, diveRatio, positive, negative, altitude, axis };
  const { envelope, cases, worst } = surfaceLoads(candidate, lookup, { ...settings, polars });
  if (o.json) {
    printJson({
      airframe: candidate.name,
      loads: 'limit',
      ...settings,
      greatest: envelope.greatest,
      least: envelope.least,
      surfaces: worst,
      cases,
    });
    return;
  }
  process.stdout.write(
    `${candidate.name}: limit loads, cruise ${cruise.toFixed(1)} m/s, load factors ${envelope.least.toFixed(2)} to ${envelope.greatest.toFixed(2)}\n`,
  );
  for (const [id, rows] of Object.entries(worst)) {
    process.stdout.write(`${candidate.surfaces.find((s) => s.id === id)?.name ?? id}\n`);
    process.stdout.write(
      table(rows, [
        { title: 'y, m', text: (r) => r.y.toFixed(3) },
        { title: 'shear, N', text: (r) => r.shear.toFixed(1) },
        { title: 'bending, N m', text: (r) => r.bending.toFixed(2) },
        { title: 'torsion, N m', text: (r) => r.torsion.toFixed(2) },
        { title: 'case', text: (r) => `${r.case}${r.doubtful ? ' (doubtful)' : ''}` },
      ]),
    );
  }
  for (const c of cases)
    if (c.asked !== undefined)
      process.stdout.write(`${c.name}: the stall limits ${c.asked.toFixed(2)} to ${c.loadFactor.toFixed(2)}\n`);
  for (const c of cases)
    if (c.doubt) process.stdout.write(`${c.name}${c.loading === null ? '' : `, ${c.loading}`}: ${c.doubt}\n`);
  for (const c of cases) if (c.failure) process.stdout.write(`${c.name}: ${c.failure}\n`);
}

function cruiseOf(candidate: Parameters<typeof surfaceLoads>[0]): number {
  const { area } = candidate.reference ?? referenceOf(candidate.surfaces);
  const { dynamicPressure } = flowState(1, 0);
  return Math.sqrt((loadedMass(candidate).mass * GRAVITY) / (dynamicPressure * area * CRUISE));
}
