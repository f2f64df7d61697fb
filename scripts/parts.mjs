// What is made of the sources, and where it is put.
import { join } from 'node:path';
import { made, root } from './made.mjs';

const threads = { 'sweep-worker': 'runs/src/sweep-worker.ts' };

/** The server and its threads. @returns its file. */
export const serverMade = () =>
  // As deep as the sources, so that what is found from there is found from here.
  made(
    join(root, 'server/.made'),
    ['core/src', 'contract/src', 'server/src', 'store/src', 'runs/src', 'exchange/src'],
    {
      ...threads,
      worker: 'server/src/compute/worker.ts',
      'export-worker': 'server/src/compute/export-worker.ts',
      'study-worker': 'server/src/compute/study-worker.ts',
      'report-worker': 'server/src/compute/report-worker.ts',
      main: 'server/src/main.ts',
    },
  );

/** The command line. @returns its file. */
export const commandsMade = () =>
  made(join(root, 'node_modules/.cache/veldtwind'), ['core/src', 'cli/src', 'store/src', 'runs/src', 'exchange/src'], {
    ...threads,
    run: 'cli/src/run.ts',
    vw: 'cli/src/main.ts',
  });
