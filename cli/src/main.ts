#!/usr/bin/env node
import { run } from './run';

// Whoever reads the output may have read enough.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  process.stderr.write(`vw: the output cannot be written (${error.code}).\n`);
  process.exit(1);
});
await run(process.argv.slice(2));
