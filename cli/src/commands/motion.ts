import { Command } from 'commander';
import { parseJson } from '@veldtwind/core/limits';
import { motionCase, motionOf, type Mode } from '@veldtwind/core/motion';
import { InvalidInput } from '@veldtwind/core/numerics';
import { readTextFile } from '../arguments';
import { printJson, table } from '../output';

export function motionCommand(): Command {
  return new Command('motion')
    .description('Matrices and modes of small motions from a set of derivatives')
    .requiredOption(
      '--derivatives <file>',
      'mass, inertia, size, steady flight and derivatives as JSON, see docs/motion.md',
    )
    .option('--json', 'print JSON')
    .action(run);
}

function run({ derivatives, json }: { derivatives: string; json?: boolean }): void {
  const parsed = motionCase.safeParse(
    parseJson(readTextFile(derivatives), 'The file', 'See docs/motion.md for the format.'),
  );
  if (!parsed.success) {
    const { path, message } = parsed.error.issues[0];
    throw new InvalidInput(
      'invalid',
      `The set, ${path.join('.') || 'file'}: ${message}.`,
      'Correct that field.',
      path.join('.'),
    );
  }
  const { matrices, modes, doubts } = motionOf(parsed.data);
  if (json) return printJson({ matrices, modes, doubts });
  const number = (v: number | undefined, digits: number) => (v === undefined ? '' : v.toFixed(digits));
  process.stdout.write(
    table<Mode>(modes, [
      { title: 'mode', text: (m) => m.name },
      { title: 're, 1/s', text: (m) => m.re.toFixed(4) },
      { title: 'im, rad/s', text: (m) => m.im.toFixed(4) },
      { title: 'Hz', text: (m) => m.frequencyHz.toFixed(4) },
      { title: 'damping', text: (m) => m.dampingRatio.toFixed(3) },
      { title: 'half, s', text: (m) => number(m.timeToHalf, 2) },
      { title: 'double, s', text: (m) => number(m.timeToDouble, 2) },
      { title: 'period, s', text: (m) => number(m.period, 2) },
    ]),
  );
  for (const d of doubts) process.stderr.write(`vw: doubtful: ${d}\n`);
}
