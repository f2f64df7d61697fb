import { Command } from 'commander';
import { pairsFromOutline, sourceFacts, sourceOutline } from '@veldtwind/core/section';
import { InvalidInput } from '@veldtwind/core/numerics';
import { readSection } from '../arguments';
import { printJson, table } from '../output';

const DEG = 180 / Math.PI;

export function sectionCommand(): Command {
  return new Command('section')
    .description('Facts and coordinates of a section')
    .requiredOption(
      '--section <section>',
      'naca:4415 (add :sharp to close the trailing edge) or the path of a coordinate file',
    )
    .option('--points <count>', 'points of a section made by formula', '161')
    .option('--json', 'print JSON')
    .action((options: { section: string; points: string; json?: boolean }) => {
      const count = Number(options.points);
      if (!Number.isInteger(count) || count < 17 || count > 2001)
        throw new InvalidInput('points', `--points must be a whole number from 17 to 2001; ${options.points} is not.`);
      const given = readSection(options.section);
      const outline = sourceOutline(given.source, count);
      const facts =
        given.source.kind === 'designation' ? sourceFacts(given.source) : sourceFacts(given.source, outline);
      if (options.json) {
        printJson({
          name: given.name,
          thickness: facts.thickness,
          camber: facts.camber,
          noseRadius: facts.noseRadius,
          trailingEdge: { angleDeg: facts.trailingEdge.angle * DEG, gap: facts.trailingEdge.gap },
          area: facts.area,
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
