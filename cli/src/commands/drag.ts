import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { standingIn } from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import { readCandidateFile } from '@veldtwind/core/candidate';
import { dragBuildUp } from '@veldtwind/core/drag';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table } from '../output';

interface Options {
  airframe: string;
  speed: string;
  altitude: string;
  json?: boolean;
}

export function dragCommand(): Command {
  return new Command('drag')
    .description('Drag of the shape without lift, part by part, with the allowances of the candidate')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--speed <m/s>', 'speed')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--json', 'print JSON')
    .action(run);
}

function run({ airframe, speed, altitude, json }: Options): void {
  const { candidate: read, sections } = readCandidateFile(readTextFile(airframe));
  const candidate = standingIn(read);
  const lookup = fileLookup(sections, (name) => resolve(dirname(airframe), name));
  const flow = flowState(readRange(speed, 'speed')[0], readRange(altitude, 'altitude')[0]);
  const built = dragBuildUp(candidate, flow, lookup);
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
      how: `cf ${p.cf.toFixed(5)} × form ${p.formFactor.toFixed(3)} × joint ${p.interference.toFixed(2)} on ${p.wettedArea.toFixed(4)} m²`,
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
