// Programs made into few files when their sources changed: modules read one by one would take seconds at every start, and again in every thread.
import { existsSync, mkdirSync, readdirSync, renameSync, statSync } from 'node:fs';
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

/**
 * Makes files anew where their sources are newer.
 * @param folder where they are put. @param sources folders that are looked at. @param parts name of a file → where its code begins, and plugins of it;
 * the last is the one whose age counts.
 */
export async function made(folder, sources, parts) {
  const last = join(folder, parts.at(-1).name);
  const age = Math.max(
    ...[...sources, 'scripts'].map((f) => newest(join(root, f))),
    statSync(join(root, 'package-lock.json')).mtimeMs,
  );
  if (existsSync(last) && statSync(last).mtimeMs >= age) return last;
  const { build } = await import('esbuild');
  mkdirSync(folder, { recursive: true });
  for (const { name, entry, plugins = [] } of parts) {
    const own = join(folder, `${name}.${process.pid}.mjs`);
    await build({
      entryPoints: [join(root, entry)],
      outfile: own,
      bundle: true,
      plugins,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      logLevel: 'error',
      external: ['better-sqlite3', 'piscina', 'bullmq', 'ioredis', 'pino'],
      // Packages of the older form ask for `require`.
      banner: {
        js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
      },
    });
    // Whole or not at all, also when several start at once.
    renameSync(own, join(folder, name));
  }
  return last;
}
