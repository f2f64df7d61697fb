#!/usr/bin/env node
import { Command } from 'commander';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { airframeCommand } from './commands/airframe';
import { dragCommand } from './commands/drag';
import { exportCommand } from './commands/export';
import { liftCommand } from './commands/lift';
import { balanceCommand } from './commands/balance';
import { controlCommand } from './commands/control';
import { flyCommand } from './commands/fly';
import { motionCommand } from './commands/motion';
import { polarCommand } from './commands/polar';
import { polarsCommand } from './commands/polars';
import { sectionCommand } from './commands/section';
import { workerCommand } from './commands/worker';
import { backupCommand, projectCommand, restoreCommand } from './commands/store';

const program = new Command('vw')
  .description('Veldtwind on the command line: the same computations, for scripts and batches.')
  .version('0.1.0')
  .showHelpAfterError('Use --help to see what can be given.')
  .exitOverride();

const commands = [
  sectionCommand,
  polarCommand,
  polarsCommand,
  workerCommand,
  liftCommand,
  airframeCommand,
  dragCommand,
  balanceCommand,
  motionCommand,
  controlCommand,
  flyCommand,
  exportCommand,
  backupCommand,
  restoreCommand,
  projectCommand,
];
for (const make of commands) program.addCommand(make().exitOverride());

// Whoever reads the output may have read enough.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  process.stderr.write(`vw: the output cannot be written (${error.code}).\n`);
  process.exit(1);
});

try {
  if (process.argv.length <= 2) program.outputHelp();
  else await program.parseAsync();
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
