import { dirname, resolve } from 'node:path';
import { Command } from 'commander';
import { readCandidateFile } from '@veldtwind/core/candidate';
import { EXPORT_FORMAT_IDS, subjectWords, type ExportFormat } from '@veldtwind/core/formats';
import { readHole, readSheet, RIB_DEFAULTS } from '@veldtwind/exchange/options';
import { asOwn } from '../as-own';
import { fileLookup, readRange, readTextFile } from '../arguments';
import { printJson, writeFile } from '../output';

interface Options {
  airframe: string;
  as: string;
  out: string;
  what?: string;
  unit?: string;
  skin?: string;
  spacing?: string;
  spar?: string[];
  rod?: string[];
  ring?: string;
  sheet?: string;
  json?: boolean;
}

const number = (text: string, what: string) => readRange(text, what)[0];

const many = (value: string, before: string[] = []) => [...before, value];

export function exportCommand(): Command {
  return new Command('export')
    .description('Writes an airframe as a file for other programs, a drawing, or a table')
    .requiredOption('--airframe <file>', 'candidate file, see docs/candidate-file.md')
    .requiredOption('--as <format>', EXPORT_FORMAT_IDS.join(', '))
    .requiredOption('--out <file>', 'where to; an existing file is replaced')
    .option('--what <subject>', subjectWords())
    .option('--unit <unit>', 'of stl and obj: m, mm or in')
    .option('--skin <mm>', 'ribs: thickness of the skin over them', String(RIB_DEFAULTS.skin))
    .option('--spacing <mm>', 'ribs: greatest distance between them', String(RIB_DEFAULTS.spacing))
    .option('--spar <fraction:WxH>', 'ribs: a spar’s hole, as 0.28:8x20; may be given again', many)
    .option('--rod <fraction:D>', 'ribs: a rod’s hole, as 0.6:6; may be given again', many)
    .option('--ring <mm>', 'frames: width of their material, 0 for full ones', String(RIB_DEFAULTS.ring))
    .option('--sheet <WxH>', 'ribs: size of a sheet in mm', `${RIB_DEFAULTS.sheet.width}x${RIB_DEFAULTS.sheet.height}`)
    .option('--json', 'print JSON')
    .action(run);
}

async function run(o: Options): Promise<void> {
  const { candidate, sections } = readCandidateFile(readTextFile(o.airframe));
  // Its libraries are only loaded where something is written.
  const { exportAirframe } = await import('@veldtwind/exchange/export');
  const made = await asOwn(() =>
    exportAirframe({
      name: candidate.name,
      surfaces: candidate.surfaces,
      bodies: candidate.bodies,
      lookup: fileLookup(sections, (name) => resolve(dirname(o.airframe), name)),
      format: o.as.toLowerCase() as ExportFormat,
      what: o.what,
      unit: o.unit,
      ribs: {
        skin: number(o.skin!, 'skin'),
        spacing: number(o.spacing!, 'spacing'),
        ring: number(o.ring!, 'ring'),
        sheet: readSheet(o.sheet!),
        holes: [...(o.spar ?? []).map((t) => readHole(t, 'spar')), ...(o.rod ?? []).map((t) => readHole(t, 'rod'))],
      },
    }),
  );
  writeFile(o.out, made.content);
  const bytes = typeof made.content === 'string' ? Buffer.byteLength(made.content) : made.content.byteLength;
  if (o.json) return printJson({ file: o.out, format: made.extension, bytes, notes: made.notes });
  process.stdout.write(`${o.out}: ${made.extension}, ${bytes} bytes\n${made.notes.map((n) => `  ${n}\n`).join('')}`);
}
