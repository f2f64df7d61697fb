import { dirname, resolve } from 'node:path';
import type { Command } from 'commander';
import { referenceOf, standingIn } from '@veldtwind/core/airframe';
import { GRAVITY } from '@veldtwind/core/atmosphere';
import {
  loadedMass,
  polarSpeeds,
  readCandidateFile,
  usualCruise,
  withPlacedMass,
  type LoadSettings,
} from '@veldtwind/core/candidate';
import { InvalidInput } from '@veldtwind/core/numerics';
import { fileLookup, readRange, readTextFile } from './arguments';
import { computePolars } from './viscous-lift';

/** What says which loads an aircraft is under. */
export interface LoadOptions {
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

/** Adds the options of loads to a command. */
export const withLoadOptions = (command: Command): Command =>
  command
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--speed <m/s>', 'design cruise speed, equivalent; that of a lift coefficient of 0.4 without')
    .option('--dive <ratio>', 'dive speed over cruise speed', '1.4')
    .option('--load <least:greatest>', 'limit load factors', '-1.5:3.8')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--axis <fraction>', 'chord fraction of the axis that bending and torsion are about', '0.25')
    .option('--ncrit <number>', 'critical amplification of the polars', '9')
    .option('--inviscid', 'without section polars: load factors are not limited by the stall')
    .option('--json', 'print JSON');

/** The candidate of a file and the loads that it is looked at under. @throws InvalidInput naming the option. */
export async function readLoads(o: LoadOptions) {
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
  const placed = withPlacedMass(candidate, lookup);
  const { mass } = loadedMass(placed);
  const { area } = candidate.reference ?? referenceOf(candidate.surfaces);
  const cruise = o.speed === undefined ? usualCruise(mass * GRAVITY, area) : readRange(o.speed, 'speed')[0];
  const brief = { speed: cruise, altitude, mass };
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
  const settings: LoadSettings = { cruise, diveRatio, positive, negative, altitude, axis, polars };
  return { candidate, lookup, settings };
}
