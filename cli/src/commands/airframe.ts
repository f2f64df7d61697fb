import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import {
  bodyFacts,
  crossings,
  bodyPoints,
  sizeOf,
  skinPoints,
  standingIn,
  surfaceFacts,
  tailFacts,
} from '@veldtwind/core/airframe';
import { readCandidateFile } from '@veldtwind/core/candidate';
import { fileLookup, readTextFile } from '../arguments';
import { printJson } from '../output';

export function airframeCommand(): Command {
  return new Command('airframe')
    .description('Areas, spans, mean chords, wetted areas, volumes, tail levers and size of an airframe')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .option('--json', 'print JSON')
    .action(run);
}

function run({ airframe, json }: { airframe: string; json?: boolean }): void {
  const { candidate: read, sections } = readCandidateFile(readTextFile(airframe));
  const candidate = standingIn(read);
  const lookup = fileLookup(sections, (name) => resolve(dirname(airframe), name));
  const { surfaces, bodies } = candidate;
  const facts = {
    surfaces: surfaces.map((s) => surfaceFacts(s, lookup)),
    bodies: bodies.map(bodyFacts),
    tails: tailFacts(surfaces),
    crossings: crossings(surfaces),
    size: sizeOf(
      (function* () {
        for (const s of surfaces) yield* skinPoints(s, lookup);
        for (const b of bodies) yield* bodyPoints(b);
      })(),
    ),
  };
  if (json) return printJson(facts);
  const m = (v: number, unit = 'm') => `${Number(v.toPrecision(6))} ${unit}`;
  const lines = [
    ...facts.surfaces.map(
      (s) =>
        `${s.id}: ${m(s.areaProjected, 'm²')} projected, ${m(s.areaTrue, 'm²')} true, ${m(s.areaWetted, 'm²')} wetted; span ${m(s.spanProjected)} projected, ${m(s.spanTrue)} true; aspect ratio ${Number(s.aspectRatio.toPrecision(5))}, taper ${Number(s.taper.toPrecision(4))}; mean chord ${m(s.meanChord)}, aerodynamic ${m(s.mac.chord)} with its leading edge at ${m(s.mac.x)}, ${m(s.mac.y)}, ${m(s.mac.z)}`,
    ),
    ...facts.bodies.map(
      (b) =>
        `${b.id}: length ${m(b.length)}, ${m(b.areaWetted, 'm²')} wetted, volume ${m(b.volume, 'm³')}, frontal area ${m(b.frontalArea, 'm²')}`,
    ),
    ...facts.tails.map(
      (t) =>
        `${t.id}: arm ${m(t.arm)}, volume coefficient ${[
          ['horizontal', t.horizontalVolume] as const,
          ['vertical', t.verticalVolume] as const,
        ]
          .filter(([, v]) => Math.abs(v) > 1e-6)
          .map(([name, v]) => `${name} ${Number(v.toPrecision(4))}`)
          .join(', ')}`,
    ),
    ...facts.crossings.map(
      (c) => `${c.a} crosses ${c.b} at ${m(c.at.x)}, ${m(c.at.y)}, ${m(c.at.z)}: Lift is not to be trusted there`,
    ),
    `size: ${m(facts.size.length)} long, ${m(facts.size.width)} wide, ${m(facts.size.height)} high`,
  ];
  process.stdout.write(`${lines.join('\n')}\n`);
}
