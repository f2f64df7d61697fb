import { Command } from 'commander';
import { InvalidInput } from '@veldtwind/core/numerics';
import { sourceOutline } from '@veldtwind/core/section';
import { DEFAULT_SPREAD, InviscidSection, ViscousSection, type ViscousPoint } from '@veldtwind/core/section-flow';
import { readRange, readSection } from '../arguments';
import { printJson, table } from '../output';

const RAD = Math.PI / 180;

export function polarCommand(): Command {
  return new Command('polar')
    .description('Lift, drag and moment of a section over angle of attack')
    .requiredOption('--section <section>', 'naca:4415 or the path of a coordinate file')
    .requiredOption('--alpha <range>', 'angles in degrees: from:to:step, one, or several with commas')
    .option('--inviscid', 'without viscosity: no drag, no stall')
    .option('--re <number>', 'Reynolds number of the chord; needed unless --inviscid is given')
    .option('--ncrit <number>', 'critical amplification exponent', '9')
    .option('--trip-top <x>', 'trip on the upper surface, chords')
    .option('--trip-bottom <x>', 'trip on the lower surface, chords')
    .option('--mach <number>', 'Mach number, below 0.7', '0')
    .option('--panels <count>', 'panels, 20 to 1000', String(DEFAULT_SPREAD.panels))
    .option('--json', 'print JSON')
    .action(
      (options: {
        section: string;
        alpha: string;
        inviscid?: boolean;
        re?: string;
        ncrit: string;
        tripTop?: string;
        tripBottom?: string;
        mach: string;
        panels: string;
        json?: boolean;
      }) => {
        const given = readSection(options.section);
        const [mach] = readRange(options.mach, 'mach');
        const [panels] = readRange(options.panels, 'panels');
        const alphas = readRange(options.alpha, 'alpha');
        if (!options.inviscid) {
          if (options.re === undefined) {
            throw new InvalidInput(
              'reynolds-missing',
              'A polar needs a Reynolds number.',
              'Give --re, for instance --re 3e6, or --inviscid.',
            );
          }
          const one = (text: string | undefined, what: string) =>
            text === undefined ? undefined : readRange(text, what)[0];
          const conditions = {
            reynolds: one(options.re, 're')!,
            mach,
            criticalAmplification: one(options.ncrit, 'ncrit')!,
            tripTop: one(options.tripTop, 'trip-top'),
            tripBottom: one(options.tripBottom, 'trip-bottom'),
          };
          const solver = new ViscousSection(sourceOutline(given.source), { ...DEFAULT_SPREAD, panels });
          const solved = alphas.map((alphaDeg) => ({
            alphaDeg,
            ...withoutAlpha(solver.at(alphaDeg * RAD, conditions)),
          }));
          if (options.json)
            printJson({ section: given.name, conditions: { model: 'viscous', ...conditions, panels }, points: solved });
          else printViscous(given.name, conditions.reynolds, solved);
          return;
        }
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

const withoutAlpha = ({ alpha: _alpha, residual: _residual, ...rest }: ViscousPoint) => rest;

function printViscous(
  name: string,
  reynolds: number,
  points: ({ alphaDeg: number } & ReturnType<typeof withoutAlpha>)[],
): void {
  const number = (v: number, digits: number) => (Number.isFinite(v) ? v.toFixed(digits) : '');
  process.stdout.write(`${name}, Reynolds number ${reynolds}\n`);
  process.stdout.write(
    table(points, [
      { title: 'alpha, deg', text: (p) => String(p.alphaDeg) },
      { title: 'cl', text: (p) => number(p.cl, 4) },
      { title: 'cd', text: (p) => number(p.cd, 5) },
      { title: 'cm', text: (p) => number(p.cm, 4) },
      { title: 'transition top', text: (p) => number(p.transitionTop, 3) },
      { title: 'bottom', text: (p) => number(p.transitionBottom, 3) },
      { title: 'status', text: (p) => p.status },
    ]),
  );
  for (const p of points) if (p.reason) process.stdout.write(`${p.alphaDeg}: ${p.reason}\n`);
}
