// The server and its threads, each made into one file.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { made, root } from './made.mjs';

const file = await made(
  // As deep as the sources, so that what is found from there is found from here.
  join(root, 'server/.made'),
  ['core/src', 'server/src', 'store/src', 'runs/src', 'exchange/src'],
  [
    { name: 'sweep-worker.mjs', entry: 'runs/src/sweep-worker.ts' },
    { name: 'worker.mjs', entry: 'server/src/compute/worker.ts' },
    { name: 'export-worker.mjs', entry: 'server/src/compute/export-worker.ts' },
    { name: 'main.mjs', entry: 'server/src/main.ts' },
  ],
);
await import(pathToFileURL(file).href);
