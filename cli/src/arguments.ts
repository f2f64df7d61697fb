import { readFileSync, statSync } from 'node:fs';
import { basename, extname } from 'node:path';
import { InvalidInput } from '@veldtwind/core/numerics';
import { decodeText, readCoordinates, type Diagnosis } from '@veldtwind/core/formats';
import { sectionLookup } from '@veldtwind/core/candidate';
import { numberList } from '@veldtwind/core/limits';
import type { SectionSource } from '@veldtwind/core/shaping';

/** Reads numbers and ranges with commas. @param what its name in messages. @throws InvalidInput `range`. */
export const readRange = numberList;

/** Largest file that is read as text, bytes. */
const LARGEST_TEXT = 64_000_000;

/**
 * Refuses what is no ordinary file before it is opened: to open a pipe or a device may wait for ever.
 * @throws InvalidInput `file` with the reason.
 */
export function checkFile(path: string, largest: number): void {
  const refuse = (why: string, hint: string): never => {
    throw new InvalidInput('file', `${path} ${why}.`, hint);
  };
  const hint = 'Give the path of a file.';
  let found;
  try {
    found = statSync(path);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    return refuse(
      code === 'ENOENT' ? 'does not exist' : `cannot be read (${code})`,
      'Give a designation such as naca:4415, or the path of a file.',
    );
  }
  if (found.isDirectory()) refuse('is a folder', hint);
  if (!found.isFile()) refuse('is a pipe or a device, no file', hint);
  if (found.size > largest)
    refuse(
      `has ${Math.round(found.size / 1e6)} MB; at most ${Math.round(largest / 1e6)} MB are read`,
      'Is this the right file?',
    );
}

/** Reads a file as text, whatever its encoding. @throws InvalidInput `file` with the reason. */
export const readTextFile = (path: string): string => decodeText(readBytes(path));

/** A file's bytes. @throws InvalidInput `file` where it is not there, too large, or cannot be read. */
export function readBytes(path: string): Uint8Array {
  checkFile(path, LARGEST_TEXT);
  try {
    return readFileSync(path);
  } catch (error) {
    throw new InvalidInput('file', `${path} cannot be read (${(error as NodeJS.ErrnoException).code}).`);
  }
}

export interface GivenSection {
  name: string;
  source: SectionSource;
  diagnosis: Diagnosis[];
  repaired: boolean;
}

/** Reads what --section was given: `naca:` and a designation, or the path of a coordinate file. @throws InvalidInput. */
export function readSection(given: string, mirror = false): GivenSection {
  if (/^naca:/i.test(given)) {
    const designation = given.slice(5).replace(/:(sharp|published)$/i, '');
    const trailingEdge = /:sharp$/i.test(given) ? 'sharp' : 'published';
    return {
      name: `NACA ${designation.trim()}`,
      source: { kind: 'designation', designation, trailingEdge },
      diagnosis: [],
      repaired: false,
    };
  }
  const read = readCoordinates(readTextFile(given), basename(given, extname(given)), { mirror });
  return {
    name: read.name,
    source: { kind: 'coordinates', points: read.points },
    diagnosis: read.diagnosis,
    repaired: read.repaired,
  };
}

/** A lookup for candidate files: the sections in the file, designations, and paths of coordinate files beside it. */
export function fileLookup(
  sections: Record<string, SectionSource>,
  folder: (name: string) => string,
): (key: string) => SectionSource {
  const inside = sectionLookup(sections);
  return (key) => {
    if (!sections[key] && !/^naca:/i.test(key) && /\.\w+$/.test(key)) return readSection(folder(key)).source;
    return inside(key);
  };
}
