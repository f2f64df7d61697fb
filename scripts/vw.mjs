// The command line, made into one file.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { made, root } from './made.mjs';

// The threads of a run have a file of their own, and so have the writers of airframes: their libraries are large, and seldom wanted.
const apart = {
  name: 'apart',
  setup: (b) =>
    b.onResolve({ filter: /^@veldtwind\/exchange\/export$/ }, () => ({ path: './export.mjs', external: true })),
};
const file = await made(
  join(root, 'node_modules/.cache/veldtwind'),
  ['core/src', 'cli/src', 'store/src', 'runs/src', 'exchange/src'],
  [
    { name: 'sweep-worker.mjs', entry: 'runs/src/sweep-worker.ts' },
    { name: 'export.mjs', entry: 'exchange/src/export.ts' },
    { name: 'vw.mjs', entry: 'cli/src/main.ts', plugins: [apart] },
  ],
);
await import(pathToFileURL(file).href);
