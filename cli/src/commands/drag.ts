import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import type { SectionLookup } from '@veldtwind/core/airframe';
import { massProperties } from '@veldtwind/core/balance';
import { readCandidateFile, withPlacedMass } from '@veldtwind/core/candidate';
import { profilesAt, steadySweep } from '@veldtwind/core/flight';
import { keptMeanLine } from '@veldtwind/core/lift';
import { FailedComputation, InvalidInput } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { dragBuildUp } from '@veldtwind/core/drag';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';
import { computePolars } from '../viscous-lift';

interface Options {
  airframe: string;
  speed: string;
  altitude: string;
  ncrit: string;
  json?: boolean;
}

export function dragCommand(): Command {
  return new Command('drag')
    .description('Drag of the shape without lift, part by part, with the allowances of the candidate')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--speed <m/s>', 'speed')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option(
      '--ncrit <number>',
      'critical amplification of the polars, where the candidate’s surfaces are by polars',
      '9',
    )
    .option('--json', 'print JSON')
    .action(run);
}

/** Drag of the surfaces by the polars of their sections in level flight. @throws FailedComputation `no-level-flight`. */
async function levelProfiles(
  candidate: CandidatePart,
  lookup: SectionLookup,
  speed: number,
  altitude: number,
  ncrit: number,
): Promise<Record<string, number>> {
  const about = massProperties(withPlacedMass(candidate, lookup).massItems);
  if (!about)
    throw new InvalidInput(
      'no-mass',
      'The surfaces are by their polars in level flight, and the candidate has no mass.',
      'Give it mass items, or let drag.surfaces be "build-up".',
      'massItems',
    );
  const { polars } = await computePolars(candidate, lookup, [speed], altitude, ncrit);
  const { surfaces, bodies, reference, drag } = candidate;
  const aircraft = { surfaces, bodies, reference, drag, mass: about.mass, about: about.centre, altitude, polars };
  const { points } = steadySweep(aircraft, speed, { kind: 'level', speeds: [speed] }, lookup, (key) =>
    keptMeanLine(lookup(key)),
  );
  const profiles = profilesAt(points, speed);
  if (!profiles)
    throw new FailedComputation(
      'no-level-flight',
      `There is no level flight at ${speed} m/s: ${points[0]?.reason ?? 'no angle carries the weight.'}`,
      'Fly faster, or let drag.surfaces be "build-up".',
    );
  return profiles;
}

async function run({ airframe, speed, altitude, ncrit, json }: Options): Promise<void> {
  const { candidate: read, sections } = readCandidateFile(readTextFile(airframe));
  const candidate = standingIn(read);
  const lookup = fileLookup(sections, (name) => resolve(dirname(airframe), name));
  const flow = flowState(readRange(speed, 'speed')[0], readRange(altitude, 'altitude')[0]);
  const profiles =
    candidate.drag?.surfaces === 'polars'
      ? await levelProfiles(
          candidate,
          lookup,
          flow.speed,
          readRange(altitude, 'altitude')[0],
          readRange(ncrit, 'ncrit')[0],
        )
      : null;
  const built = dragBuildUp(candidate, flow, lookup, undefined, profiles);
  if (json) return printJson(built);
  const counts = (CD: number) => (1e4 * CD).toFixed(1);
  interface Row {
    name: string;
    CD: number;
    dragArea: number;
    how: string;
  }
  const rows: Row[] = [
    ...built.parts.map((p) => ({
      ...p,
      how: p.byPolars
        ? `by its polars in level flight: ${p.cf.toFixed(5)} on ${p.wettedArea.toFixed(4)} m²`
        : `cf ${p.cf.toFixed(5)} × form ${p.formFactor.toFixed(3)} × joint ${p.interference.toFixed(2)} on ${p.wettedArea.toFixed(4)} m²`,
    })),
    ...built.allowances.map((a) => ({ ...a, how: `${a.kind} ${a.amount}` })),
    { name: 'total', CD: built.CD, dragArea: built.dragArea, how: `${built.drag.toFixed(2)} N` },
  ];
  process.stdout.write(
    table(rows, [
      { title: 'part', text: (r) => r.name },
      { title: 'counts', text: (r) => counts(r.CD) },
      { title: 'drag area, m²', text: (r) => r.dragArea.toFixed(5) },
      { title: 'how', text: (r) => r.how },
    ]),
  );
}
