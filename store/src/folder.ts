import { existsSync, mkdirSync, statSync } from 'node:fs';
import { dirname } from 'node:path';

/** Makes a folder with those above it, one by one: the recursive call of Node 20 never returns where a file system takes no folders, as under /proc. */
export function makeFolder(path: string): void {
  if (existsSync(path)) {
    if (!statSync(path).isDirectory()) throw Object.assign(new Error(`${path} is a file.`), { code: 'ENOTDIR' });
    return;
  }
  const above = dirname(path);
  if (above !== path) makeFolder(above);
  try {
    mkdirSync(path);
  } catch (error) {
    // Another process was quicker.
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
}
