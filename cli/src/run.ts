import { Command } from 'commander';
import { VeldtwindError } from '@veldtwind/core/numerics';

/** Each is read when it is called for: a start takes half the time that all of them would. */
const COMMANDS: Readonly<Record<string, () => Promise<() => Command>>> = {
  section: async () => (await import('./commands/section')).sectionCommand,
  polar: async () => (await import('./commands/polar')).polarCommand,
  polars: async () => (await import('./commands/polars')).polarsCommand,
  worker: async () => (await import('./commands/worker')).workerCommand,
  layout: async () => (await import('./commands/layout')).layoutCommand,
  lift: async () => (await import('./commands/lift')).liftCommand,
  airframe: async () => (await import('./commands/airframe')).airframeCommand,
  drag: async () => (await import('./commands/drag')).dragCommand,
  balance: async () => (await import('./commands/balance')).balanceCommand,
  model: async () => (await import('./commands/model')).modelCommand,
  performance: async () => (await import('./commands/performance')).performanceCommand,
  motion: async () => (await import('./commands/motion')).motionCommand,
  control: async () => (await import('./commands/control')).controlCommand,
  fly: async () => (await import('./commands/fly')).flyCommand,
  fit: async () => (await import('./commands/fit')).fitCommand,
  estimate: async () => (await import('./commands/estimate')).estimateCommand,
  export: async () => (await import('./commands/export')).exportCommand,
  backup: async () => (await import('./commands/store')).backupCommand,
  restore: async () => (await import('./commands/store')).restoreCommand,
  loads: async () => (await import('./commands/loads')).loadsCommand,
  structure: async () => (await import('./commands/structure')).structureCommand,
  torque: async () => (await import('./commands/torque')).torqueCommand,
  asymmetry: async () => (await import('./commands/asymmetry')).asymmetryCommand,
  parts: async () => (await import('./commands/parts')).partsCommand,
  study: async () => (await import('./commands/study')).studyCommand,
  project: async () => (await import('./commands/store')).projectCommand,
  report: async () => (await import('./commands/report')).reportCommand,
};

/** Does what a command line asks: output and errors to the process, its state to the exit code. @param args words after the program's name. */
export async function run(args: readonly string[]): Promise<void> {
  const program = new Command('vw')
    .description('Veldtwind on the command line: the same computations, for scripts and batches.')
    .version('0.1.0')
    .showHelpAfterError('Use --help to see what can be given.')
    .exitOverride();
  const called = args[0] ?? '';
  for (const name of Object.hasOwn(COMMANDS, called) ? [called] : Object.keys(COMMANDS))
    program.addCommand((await COMMANDS[name]())().exitOverride());
  try {
    if (args.length === 0) program.outputHelp();
    else await program.parseAsync(args, { from: 'user' });
  } catch (error) {
    const code = (error as { code?: string }).code ?? '';
    if (code.startsWith('commander.')) {
      const help = code === 'commander.helpDisplayed' || code === 'commander.help' || code === 'commander.version';
      process.exitCode = help ? 0 : 1;
    } else if (error instanceof VeldtwindError) {
      process.stderr.write(
        `vw: ${error.message}\n${error.path ? `  at ${error.path}\n` : ''}${error.hint ? `  ${error.hint}\n` : ''}`,
      );
      process.exitCode = 1;
    } else {
      process.stderr.write(`vw: unforeseen error: ${(error as Error).stack ?? String(error)}\n`);
      process.exitCode = 1;
    }
  }
}
