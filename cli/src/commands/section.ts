import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Command } from 'commander';
import { SECTION_FORMATS, writeSection, type SectionFormat } from '@veldtwind/core/formats';
import { DEG, InvalidInput, VeldtwindError } from '@veldtwind/core/numerics';
import { flownChange, flownFlows, type FlownChange } from '@veldtwind/core/polar';
import { sectionMoments, pairsFromOutline } from '@veldtwind/core/section';
import { sourceFacts, sourceOutline, type SectionSource } from '@veldtwind/core/shaping';
import { readRecipeFile } from '@veldtwind/core/project';
import { parseQuantity } from '@veldtwind/core/units';
import { readRange, readSection, readTextFile } from '../arguments';
import { readConditions } from '../flown-conditions';
import { printJson, table, writeFile } from '../output';

interface Options {
  section?: string;
  list?: string;
  points: string;
  write?: string;
  chord?: string;
  out?: string;
  recipe?: string;
  mirror?: boolean;
  compare?: string[];
  at?: string;
  ncrit: string;
  json?: boolean;
}

export function sectionCommand(): Command {
  return new Command('section')
    .description('Facts and coordinates of a section, files of it, or a table of a folder of files')
    .option('--section <section>', 'naca:4415 (add :sharp to close the trailing edge) or the path of a coordinate file')
    .option('--list <folder>', 'facts of all files of a folder, bad ones with their reason')
    .option(
      '--compare <sections...>',
      'two sections, before and after, each as --section: their flow at the conditions of --at',
    )
    .option(
      '--at <conditions>',
      'for instance "cl=0.4,re=7e5;cl=1.0,re=4e5"; alpha= in degrees instead of cl=, also mach=, ncrit=',
    )
    .option('--ncrit <number>', 'critical amplification of the conditions that give none', '9')
    .option('--recipe <file>', 'shaping steps to apply; see docs/recipe-file.md')
    .option('--mirror', 'a file of one surface is half of a symmetric section')
    .option('--points <count>', 'points of a section made by formula, or of a written file', '161')
    .option('--write <format>', SECTION_FORMATS.join(', '))
    .option('--chord <length>', 'chord of a written file with its unit, for instance 240mm; 1 without')
    .option('--out <file>', 'where to write')
    .option('--json', 'print JSON')
    .action((options: Options) => {
      const count = Number(options.points);
      if (!Number.isInteger(count) || count < 17 || count > 2001)
        throw new InvalidInput('points', `--points must be a whole number from 17 to 2001; ${options.points} is not.`);
      if (options.compare !== undefined || options.at !== undefined) return compare(options);
      if (options.list !== undefined) return list(options.list, options.json);
      if (options.section === undefined)
        throw new InvalidInput(
          'section',
          'Which section?',
          'Give --section naca:4415, a file, or --list with a folder.',
        );
      const given = readSection(options.section, options.mirror);
      if (options.recipe !== undefined) given.source = shapedBy(given.source, options.recipe);
      const outline = sourceOutline(given.source, count);
      if (options.write !== undefined) return write(given.name, sourceOutline(given.source, 241), count, options);
      const facts =
        given.source.kind === 'coordinates' ? sourceFacts(given.source, outline) : sourceFacts(given.source);
      const mass = sectionMoments(sourceOutline(given.source, 241));
      if (options.json) {
        printJson({
          name: given.name,
          thickness: facts.thickness,
          camber: facts.camber,
          noseRadius: facts.noseRadius,
          trailingEdge: { angleDeg: facts.trailingEdge.angle * DEG, gap: facts.trailingEdge.gap },
          area: facts.area,
          perimeter: mass.perimeter,
          centroid: mass.centroid,
          secondMoments: { solid: degrees(mass.solid), shell: degrees(mass.shell) },
          coordinates: pairsFromOutline(outline),
          diagnosis: given.diagnosis,
          repaired: given.repaired,
        });
        return;
      }
      process.stdout.write(`${given.name}\n`);
      const percent = (v: number) => `${(100 * v).toFixed(3)} %`;
      const rows = [
        ['thickness', percent(facts.thickness.max), `at ${percent(facts.thickness.at)}`],
        ['camber', percent(facts.camber.max), `at ${percent(facts.camber.at)}`],
        ['nose radius', percent(facts.noseRadius), 'of chord'],
        ['trailing-edge angle', `${(facts.trailingEdge.angle * DEG).toFixed(3)}°`, ''],
        ['trailing-edge gap', percent(facts.trailingEdge.gap), 'of chord'],
        ['area', facts.area.toFixed(6), 'chord²'],
        ['perimeter', mass.perimeter.toFixed(6), 'chord'],
        ['centroid', percent(mass.centroid.x), `height ${percent(mass.centroid.y)}`],
        ['least second moment', mass.solid.least.toExponential(4), 'chord⁴'],
      ];
      process.stdout.write(
        table(
          rows,
          [0, 1, 2].map((i) => ({ title: ['fact', 'value', ''][i], text: (r: string[]) => r[i] })),
        ),
      );
      for (const d of given.diagnosis)
        process.stdout.write(`${d.message}${d.lines ? ` (line ${d.lines.join(', ')})` : ''}\n`);
    });
}

const degrees = <T extends { axis: number }>({ axis, ...rest }: T) => ({ ...rest, axisDeg: axis * DEG });

/** Writes a section to a file, or to standard output without one. */
function write(name: string, outline: Parameters<typeof writeSection>[1], points: number, options: Options): void {
  const format = options.write as SectionFormat;
  if (!SECTION_FORMATS.includes(format))
    throw new InvalidInput('format', `"${options.write}" is none of ${SECTION_FORMATS.join(', ')}.`);
  const [, unit = ''] = /([a-z]+)\s*$/i.exec(options.chord ?? '') ?? [];
  const shown = unit === 'm' || unit === 'in' ? unit : 'mm';
  let chord = 1;
  if (options.chord !== undefined) {
    const metres = parseQuantity(unit ? options.chord : `${options.chord} m`, 'length', 'metric');
    chord = !unit || shown === 'm' ? metres : shown === 'in' ? metres / 0.0254 : metres * 1000;
  }
  const text = writeSection(name, outline, format, { points, chord, unit: unit ? shown : 'mm' });
  if (options.out === undefined) {
    process.stdout.write(text);
    return;
  }
  writeFile(options.out, text);
}

/** The two sections that are compared: those given, or one without and with its recipe. */
function pairOf({ compare: given = [], section, recipe, mirror }: Options): { name: string; source: SectionSource }[] {
  if (section !== undefined && recipe !== undefined && given.length === 0) {
    const before = readSection(section, mirror);
    return [before, { name: `${before.name}, shaped`, source: shapedBy(before.source, recipe) }];
  }
  if (given.length !== 2)
    throw new InvalidInput(
      'compare',
      `Two sections are compared; ${given.length === 1 ? 'one is' : `${given.length} are`} given.`,
      'For instance --compare naca:4415 naca:4412 --at "cl=0.4,re=7e5"; or --section with --recipe.',
      'compare',
    );
  return given.map((g) => readSection(g, mirror));
}

const shapedBy = (source: SectionSource, recipe: string): SectionSource => ({
  kind: 'recipe',
  source,
  steps: readRecipeFile(readTextFile(recipe), (key) => readSection(key).source),
});

/** The flow of two sections at conditions that are flown, beside each other. */
function compare(options: Options): void {
  const { at, ncrit, json } = options;
  const [before, after] = pairOf(options);
  const conditions = readConditions(at, readRange(ncrit, 'ncrit')[0]);
  const [from, to] = [before, after].map(({ source }) => flownFlows(source, null, conditions));
  const changes = from.map((flow, i) => flownChange(flow.point, to[i].point));
  if (json) {
    printJson({
      before: before.name,
      after: after.name,
      conditions: changes.map((change, i) => ({ at: conditions[i], ...change })),
    });
    return;
  }
  const fixed = (v: number | null, digits: number) => v?.toFixed(digits) ?? '';
  changes.forEach((change, i) => {
    const { cl, alphaDeg, conditions: c } = conditions[i];
    process.stdout.write(
      `${cl === undefined ? `α ${alphaDeg}°` : `cl ${cl}`}, Re ${c.reynolds}, n ${c.criticalAmplification}\n`,
    );
    process.stdout.write(
      table(rowsOf(change), [
        { title: '', text: (r) => r.name },
        { title: before.name, text: (r) => fixed(r.before, r.digits) },
        { title: after.name, text: (r) => fixed(r.after, r.digits) },
        { title: 'change', text: (r) => fixed(r.change, r.digits) },
        { title: '%', text: (r) => fixed(r.percent, 1) },
      ]),
    );
    for (const [name, { reason }] of [
      [before.name, change.before],
      [after.name, change.after],
    ] as const)
      if (reason) process.stdout.write(`${name}: ${reason}\n`);
  });
}

/** A flow in rows of numbers. */
function rowsOf({ before, after, change, percent }: FlownChange) {
  const row = (key: 'cd' | 'cm' | 'clOverCd' | 'alphaDeg', name: string, digits: number) => ({
    name,
    before: before[key],
    after: after[key],
    change: change[key],
    percent: key === 'alphaDeg' ? null : percent[key],
    digits,
  });
  const place = (end: 'top' | 'bottom', name: string) => ({
    name,
    before: before.transitions?.[end] ?? null,
    after: after.transitions?.[end] ?? null,
    change: change.transitions?.[end] ?? null,
    percent: null,
    digits: 4,
  });
  return [
    row('alphaDeg', 'α, °', 3),
    row('cd', 'cd', 5),
    row('cm', 'cm', 4),
    row('clOverCd', 'cl / cd', 2),
    place('top', 'transition, upper'),
    place('bottom', 'transition, lower'),
  ];
}

/** A table of all files of a folder. */
function list(folder: string, json?: boolean): void {
  let names: string[];
  try {
    names = readdirSync(folder, { withFileTypes: true })
      .filter((e) => e.isFile())
      .map((e) => e.name)
      .sort();
  } catch (error) {
    throw new InvalidInput('folder', `${folder} cannot be read (${(error as NodeJS.ErrnoException).code}).`);
  }
  const rows = names.map((file) => {
    try {
      const given = readSection(join(folder, file));
      const facts = sourceFacts(given.source);
      return { file, name: given.name, facts, repaired: given.repaired };
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      return { file, reason: error.message };
    }
  });
  if (json) {
    printJson({
      folder,
      sections: rows.map(({ facts, ...r }) => ({
        ...r,
        ...(facts && {
          thickness: facts.thickness,
          camber: facts.camber,
          noseRadius: facts.noseRadius,
          trailingEdge: { angleDeg: facts.trailingEdge.angle * DEG, gap: facts.trailingEdge.gap },
          area: facts.area,
        }),
      })),
    });
    return;
  }
  const percent = (v: number | undefined) => (v === undefined ? '' : (100 * v).toFixed(2));
  process.stdout.write(
    table(rows, [
      { title: 'file', text: (r) => r.file },
      { title: 'name', text: (r) => r.name ?? '' },
      { title: 'thickness, %', text: (r) => percent(r.facts?.thickness.max) },
      { title: 'at', text: (r) => percent(r.facts?.thickness.at) },
      { title: 'camber, %', text: (r) => percent(r.facts?.camber.max) },
      { title: 'at ', text: (r) => percent(r.facts?.camber.at) },
      { title: 'gap, %', text: (r) => percent(r.facts?.trailingEdge.gap) },
      { title: 'repaired', text: (r) => (r.repaired ? 'yes' : r.reason ? '' : 'no') },
      { title: 'refused because', text: (r) => r.reason ?? '' },
    ]),
  );
}
