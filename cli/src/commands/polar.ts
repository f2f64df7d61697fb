import { Command } from 'commander';
import { InvalidInput } from '@veldtwind/core/numerics';
import { sourceOutline } from '@veldtwind/core/section';
import { DEFAULT_SPREAD, InviscidSection } from '@veldtwind/core/section-flow';
import { readRange, readSection } from '../arguments';
import { printJson, table } from '../output';

const RAD = Math.PI / 180;

export function polarCommand(): Command {
  return new Command('polar')
    .description('Lift and moment of a section over angle of attack')
    .requiredOption('--section <section>', 'naca:4415 or the path of a coordinate file')
    .requiredOption('--alpha <range>', 'angles in degrees: from:to:step, one, or several with commas')
    .option('--inviscid', 'without viscosity (the only kind so far; must be given)')
    .option('--mach <number>', 'Mach number, below 0.7', '0')
    .option('--panels <count>', 'panels, 20 to 1000', String(DEFAULT_SPREAD.panels))
    .option('--json', 'print JSON')
    .action(
      (options: {
        section: string;
        alpha: string;
        inviscid?: boolean;
        mach: string;
        panels: string;
        json?: boolean;
      }) => {
        if (!options.inviscid) {
          throw new InvalidInput(
            'viscous',
            'Polars with viscosity are not computed yet.',
            'Add --inviscid for the flow without it.',
          );
        }
        const given = readSection(options.section);
        const [mach] = readRange(options.mach, 'mach');
        const [panels] = readRange(options.panels, 'panels');
        const alphas = readRange(options.alpha, 'alpha');
        const flow = new InviscidSection(sourceOutline(given.source), { ...DEFAULT_SPREAD, panels });
        const points = alphas.map((alphaDeg) => {
          const p = flow.at(alphaDeg * RAD, mach);
          return {
            alphaDeg,
            cl: p.cl,
            cd: p.cd,
            cm: p.cm,
            cpMin: p.cpMin,
            status: p.status,
            ...(p.reason ? { reason: p.reason } : {}),
          };
        });
        if (options.json) {
          printJson({ section: given.name, conditions: { model: 'inviscid', mach, panels }, points });
          return;
        }
        process.stdout.write(`${given.name}, inviscid, Mach ${mach}: no drag and no stall in this model\n`);
        process.stdout.write(
          table(points, [
            { title: 'alpha, deg', text: (p) => String(p.alphaDeg) },
            { title: 'cl', text: (p) => p.cl.toFixed(4) },
            { title: 'cd', text: (p) => p.cd.toFixed(5) },
            { title: 'cm', text: (p) => p.cm.toFixed(4) },
            { title: 'cp min', text: (p) => p.cpMin.toFixed(3) },
            { title: 'status', text: (p) => p.status },
          ]),
        );
      },
    );
}
