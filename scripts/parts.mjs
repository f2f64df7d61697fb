// What is made into one file each, and where it is put.
import { join } from 'node:path';
import { made, root } from './made.mjs';

const threads = { name: 'sweep-worker.mjs', entry: 'runs/src/sweep-worker.ts' };

/** The server and its threads. @returns its file. */
export const serverMade = () =>
  made(
    // As deep as the sources, so that what is found from there is found from here.
    join(root, 'server/.made'),
    ['core/src', 'server/src', 'store/src', 'runs/src', 'exchange/src'],
    [
      threads,
      { name: 'worker.mjs', entry: 'server/src/compute/worker.ts' },
      { name: 'export-worker.mjs', entry: 'server/src/compute/export-worker.ts' },
      { name: 'main.mjs', entry: 'server/src/main.ts' },
    ],
  );

// The threads of a run have a file of their own, and so have the writers of airframes: their libraries are large, and seldom wanted.
const apart = {
  name: 'apart',
  setup: (b) =>
    b.onResolve({ filter: /^@veldtwind\/exchange\/export$/ }, () => ({ path: './export.mjs', external: true })),
};

/** The command line. @returns its file. */
export const commandsMade = () =>
  made(
    join(root, 'node_modules/.cache/veldtwind'),
    ['core/src', 'cli/src', 'store/src', 'runs/src', 'exchange/src'],
    [
      threads,
      { name: 'export.mjs', entry: 'exchange/src/export.ts' },
      { name: 'vw.mjs', entry: 'cli/src/main.ts', plugins: [apart] },
    ],
  );
