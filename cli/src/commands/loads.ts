import { Command } from 'commander';
import { surfaceLoads } from '@veldtwind/core/candidate';
import { readLoads, withLoadOptions, type LoadOptions } from '../load-options';
import { printJson, table } from '../output';

export function loadsCommand(): Command {
  return withLoadOptions(new Command('loads'))
    .description('Limit shear, bending and torsion along every surface over the manoeuvre and gust envelope')
    .action(run);
}

async function run(o: LoadOptions): Promise<void> {
  const { candidate, lookup, settings } = await readLoads(o);
  const { envelope, cases, worst } = surfaceLoads(candidate, lookup, settings);
  const { polars: _, ...told } = settings;
  if (o.json) {
    printJson({
      airframe: candidate.name,
      loads: 'limit',
      ...told,
      greatest: envelope.greatest,
      least: envelope.least,
      surfaces: worst,
      cases,
    });
    return;
  }
  process.stdout.write(
    `${candidate.name}: limit loads, cruise ${settings.cruise.toFixed(1)} m/s, load factors ${envelope.least.toFixed(2)} to ${envelope.greatest.toFixed(2)}\n`,
  );
  for (const [id, rows] of Object.entries(worst)) {
    process.stdout.write(`${candidate.surfaces.find((s) => s.id === id)?.name ?? id}\n`);
    process.stdout.write(
      table(rows, [
        { title: 'y, m', text: (r) => r.y.toFixed(3) },
        { title: 'shear, N', text: (r) => r.shear.toFixed(1) },
        { title: 'bending, N m', text: (r) => r.bending.toFixed(2) },
        { title: 'torsion, N m', text: (r) => r.torsion.toFixed(2) },
        { title: 'case', text: (r) => `${r.case}${r.doubtful ? ' (doubtful)' : ''}` },
      ]),
    );
  }
  for (const c of cases)
    if (c.asked !== undefined)
      process.stdout.write(`${c.name}: the stall limits ${c.asked.toFixed(2)} to ${c.loadFactor.toFixed(2)}\n`);
  for (const c of cases)
    if (c.doubt) process.stdout.write(`${c.name}${c.loading === null ? '' : `, ${c.loading}`}: ${c.doubt}\n`);
  for (const c of cases) if (c.failure) process.stdout.write(`${c.name}: ${c.failure}\n`);
}
