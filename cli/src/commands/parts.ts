import { mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { Command } from 'commander';
import { readCandidateFile } from '@veldtwind/core/candidate';
import { InvalidInput } from '@veldtwind/core/numerics';
import { readPrinter, readSheet } from '@veldtwind/exchange/options';
import { asOwn } from '../as-own';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, table, writeFile } from '../output';

interface Options {
  airframe: string;
  out: string;
  sheet: string;
  printer?: string;
  kerf: string;
  clearance: string;
  wall: string;
  infill: string;
  json?: boolean;
}

export function partsCommand(): Command {
  return new Command('parts')
    .description(
      'Parts of every built surface: ribs, webs and skins on sheets, wire paths, solids to print, and their list',
    )
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--out <folder>', 'where to; files of the same names are replaced')
    .option('--sheet <WxH>', 'size of a sheet in mm', '600x300')
    .option('--printer <WxDxH>', 'also solids that fit into a printer of this size, mm')
    .option('--kerf <mm>', 'width that the cut takes away', '0.1')
    .option('--clearance <mm>', 'room about what goes through a slot', '0.1')
    .option('--wall <mm>', 'walls of what is printed, for its mass', '0.8')
    .option('--infill <share>', 'filled share of what is printed, for its mass', '0.08')
    .option('--json', 'print JSON')
    .action(run);
}

async function run(o: Options): Promise<void> {
  const { candidate, sections } = readCandidateFile(readTextFile(o.airframe));
  // Its libraries are only loaded where something is written.
  const { makeParts } = await import('@veldtwind/exchange/parts/index');
  const { files, parts, notes } = await asOwn(async () =>
    makeParts({
      name: candidate.name,
      surfaces: candidate.surfaces,
      bodies: candidate.bodies,
      lookup: fileLookup(sections, (name) => resolve(dirname(o.airframe), name)),
      sheet: readSheet(o.sheet),
      cut: { kerf: readRange(o.kerf, 'kerf')[0], clearance: readRange(o.clearance, 'clearance')[0] },
      ...(o.printer === undefined
        ? {}
        : {
            printer: readPrinter(o.printer),
            printing: { wall: readRange(o.wall, 'wall')[0], infill: readRange(o.infill, 'infill')[0] },
          }),
    }),
  );
  try {
    mkdirSync(o.out, { recursive: true });
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    throw new InvalidInput('file', `${o.out} cannot be made (${code}).`, 'Give another folder.', 'out');
  }
  for (const [name, content] of files) writeFile(join(o.out, name), content);
  const names = [...files.keys()].sort();
  if (o.json) return printJson({ airframe: candidate.name, out: o.out, files: names, parts, notes });
  const made = parts.filter((p) => p.count > 0);
  process.stdout.write(
    table(made, [
      { title: 'part', text: (p) => p.label },
      { title: 'kind', text: (p) => p.kind },
      { title: 'count', text: (p) => String(p.count) },
      { title: 'length, mm', text: (p) => p.length.toFixed(1) },
      { title: 'mass, g', text: (p) => (1000 * p.mass).toFixed(2) },
    ]),
  );
  const total = made.reduce((sum, p) => sum + p.mass * p.count, 0);
  process.stdout.write(`${made.length} parts, ${total.toFixed(3)} kg; ${names.join(', ')}\n`);
  for (const n of notes) process.stdout.write(`  ${n}\n`);
}
