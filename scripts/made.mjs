// Programs made into few files when their sources changed: modules read one by one would take seconds at every start, and again in every thread.
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** When the newest file of a folder was written. */
function newest(folder) {
  let time = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    time = Math.max(time, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }
  return time;
}

/** Pieces of earlier makings may still be read by programs that run; after this time they are taken away. */
const KEPT_MS = 3_600_000;

/**
 * Makes programs anew where their sources are newer. What they share, and what they read only when it is wanted, lies in pieces of its own.
 * @param folder where they are put. @param sources folders that are looked at. @param parts name of a program → where its code begins; the last is
 * the one whose age counts. @returns the last one's file.
 */
export async function made(folder, sources, parts) {
  const names = Object.keys(parts);
  const last = join(folder, `${names.at(-1)}.mjs`);
  const age = Math.max(
    ...[...sources, 'scripts'].map((f) => newest(join(root, f))),
    statSync(join(root, 'package-lock.json')).mtimeMs,
  );
  if (existsSync(last) && statSync(last).mtimeMs >= age) return last;
  const { build } = await import('esbuild');
  mkdirSync(folder, { recursive: true });
  const { outputFiles } = await build({
    entryPoints: names.map((name) => ({ in: join(root, parts[name]), out: name })),
    outdir: folder,
    outExtension: { '.js': '.mjs' },
    write: false,
    bundle: true,
    // Less to read at a start; names stay, for what an error tells.
    minifyWhitespace: true,
    minifySyntax: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'error',
    // What brings files of its own is read from its package.
    external: ['pdfmake', 'fontkit', '@resvg/resvg-wasm', 'better-sqlite3', 'piscina', 'bullmq', 'ioredis', 'pino'],
    // Packages of the older form ask for `require`.
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
  });
  // Pieces first, the program that is asked for last; each whole or not at all, also when several start at once.
  const isProgram = (path) => names.findIndex((name) => path === join(folder, `${name}.mjs`));
  outputFiles.sort((a, b) => isProgram(a.path) - isProgram(b.path));
  for (const { path, contents } of outputFiles) {
    const own = `${path}.${process.pid}`;
    writeFileSync(own, contents);
    renameSync(own, path);
  }
  const kept = new Set(outputFiles.map(({ path }) => path));
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (!kept.has(path) && statSync(path).mtimeMs < Date.now() - KEPT_MS) rmSync(path, { force: true });
  }
  return last;
}
