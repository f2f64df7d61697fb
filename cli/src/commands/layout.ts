import { Command } from 'commander';
import { writeCandidateFile } from '@veldtwind/core/candidate';
import { LAYOUTS, layoutOf, startingLayout } from '@veldtwind/core/layouts';
import { checkedInputOf } from '@veldtwind/core/analysis';
import { InvalidInput } from '@veldtwind/core/numerics';
import { resolvedSource } from '@veldtwind/core/project';
import { readRange } from '../arguments';
import { printJson, table, writeFile } from '../output';

interface Options {
  layout?: string;
  mass?: string;
  speed?: string;
  altitude: string;
  span?: string;
  power?: string;
  thrust?: string;
  out?: string;
  json?: boolean;
}

export function layoutCommand(): Command {
  return new Command('layout')
    .description('A balanced aircraft of a starting layout, from a few numbers; without --layout the list of them')
    .option('--layout <id>', 'one of the list')
    .option('--mass <kg>', 'mass of the aircraft')
    .option('--speed <m/s>', 'design speed')
    .option('--altitude <m>', 'altitude of the standard atmosphere', '0')
    .option('--span <m>', 'span at most')
    .option('--power <W>', 'greatest power at the shaft')
    .option('--thrust <N>', 'static thrust of a jet')
    .option('--out <file>', 'candidate file to write')
    .option('--json', 'print JSON')
    .action(run);
}

function run(o: Options): void {
  if (o.layout === undefined) {
    if (o.json) return printJson({ layouts: LAYOUTS.map(({ id, name, says, usual }) => ({ id, name, says, usual })) });
    return void process.stdout.write(
      table(LAYOUTS, [
        { title: 'layout', text: (l) => l.id },
        { title: 'mass, kg', text: (l) => String(l.usual.mass) },
        { title: 'speed, m/s', text: (l) => String(l.usual.speed) },
        { title: 'span, m', text: (l) => String(l.usual.span) },
        { title: 'name', text: (l) => l.name },
      ]),
    );
  }
  const plan = layoutOf(o.layout);
  const one = (text: string | undefined, name: string, usual: number) =>
    text === undefined ? usual : readRange(text, name)[0];
  const push = o.thrust ?? o.power;
  if (push !== undefined && plan.pushedBy !== (o.thrust === undefined ? 'power' : 'thrust'))
    throw new InvalidInput(
      'layout',
      `${plan.name} takes ${{ none: 'neither power nor thrust', power: 'a power', thrust: 'a thrust' }[plan.pushedBy]}.`,
      plan.pushedBy === 'none' ? 'Leave power and thrust out.' : `Give --${plan.pushedBy}.`,
      plan.pushedBy === 'thrust' ? 'power' : 'thrust',
    );
  const { usual } = plan;
  const input = checkedInputOf('starting-layout', {
    layout: o.layout,
    numbers: {
      mass: one(o.mass, 'mass', usual.mass),
      speed: one(o.speed, 'speed', usual.speed),
      altitude: one(o.altitude, 'altitude', 0),
      spanLimit: o.span === undefined ? null : readRange(o.span, 'span')[0],
      push: one(push, 'power', usual.push),
    },
  });
  const made = startingLayout(plan, input.numbers);
  const sections = Object.fromEntries(made.sections.map((s) => [s.id, s]));
  if (o.out !== undefined)
    writeFile(
      o.out,
      writeCandidateFile(made.candidate, (key) => resolvedSource(sections, key)),
    );
  if (o.json)
    return printJson({
      layout: plan.id,
      numbers: input.numbers,
      found: made.found,
      assumed: made.assumed,
      out: o.out ?? null,
    });
  const { found } = made;
  process.stdout.write(
    `${plan.name}: span ${found.span.toFixed(2)} m, wing area ${found.area.toFixed(3)} m², static margin ${(100 * found.staticMargin).toFixed(1)} %, payload ${found.payload.toPrecision(3)} kg\n`,
  );
  process.stdout.write(
    table(found.modes, [
      { title: 'mode', text: (m) => m.name },
      { title: 'real part, 1/s', text: (m) => m.re.toFixed(3) },
      {
        title: 'damping ratio',
        text: (m) => (m.name === 'roll' || m.name === 'spiral' ? '' : m.dampingRatio.toFixed(3)),
      },
    ]),
  );
  for (const line of made.assumed) process.stdout.write(`  ${line}\n`);
}
