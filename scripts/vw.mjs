// The command line, made into one file when its sources changed: modules read one by one would take seconds at every start.
import { existsSync, mkdirSync, readdirSync, renameSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const bundle = join(root, 'node_modules/.cache/veldtwind/vw.mjs');

/** When the newest file of a folder was written. */
function newest(folder) {
  let time = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    time = Math.max(time, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }
  return time;
}

const sources = Math.max(
  ...['core/src', 'cli/src', 'store/src', 'runs/src', 'exchange/src', 'scripts'].map((f) => newest(join(root, f))),
  statSync(join(root, 'package-lock.json')).mtimeMs,
);
if (!existsSync(bundle) || statSync(bundle).mtimeMs < sources) {
  const { build } = await import('esbuild');
  mkdirSync(dirname(bundle), { recursive: true });
  // The threads of a run have a file of their own, and so have the writers of airframes: their libraries are large, and seldom wanted.
  const apart = {
    name: 'apart',
    setup: (b) =>
      b.onResolve({ filter: /^@veldtwind\/exchange\/export$/ }, () => ({ path: './export.mjs', external: true })),
  };
  const parts = [
    [join(dirname(bundle), 'sweep-worker.mjs'), 'runs/src/sweep-worker.ts'],
    [join(dirname(bundle), 'export.mjs'), 'exchange/src/export.ts'],
    [bundle, 'cli/src/main.ts'],
  ];
  for (const [file, entry] of parts) {
    const own = `${file}.${process.pid}.mjs`;
    await build({
      entryPoints: [join(root, entry)],
      outfile: own,
      bundle: true,
      plugins: file === bundle ? [apart] : [],
      platform: 'node',
      format: 'esm',
      target: 'node20',
      logLevel: 'error',
      external: ['better-sqlite3', 'piscina', 'bullmq', 'ioredis'],
      // Packages of the older form ask for `require`.
      banner: {
        js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
      },
    });
    // Whole or not at all, also when several start at once.
    renameSync(own, file);
  }
}
await import(pathToFileURL(bundle).href);
