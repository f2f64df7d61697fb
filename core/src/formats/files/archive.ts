import { unzipSync } from 'fflate';

/** A file as it was given. */
export interface GivenFile {
  name: string;
  bytes: Uint8Array;
}

/** Something that was not read, with the reason. */
export interface LeftOut {
  name: string;
  message: string;
  hint?: string;
}

export const LARGEST_FILE = 2_000_000;
/** All that an archive may unpack to, bytes. */
const LARGEST_ARCHIVE = 200_000_000;
export const MOST_FILES = 20_000;

/** True for a zip archive, by its first bytes. */
export const isArchive = ({ bytes: b }: GivenFile): boolean =>
  b[0] === 0x50 && b[1] === 0x4b && b[2] === 3 && b[3] === 4;

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/**
 * The files of an archive. Sizes and counts are bounded by what its directory says, and no file unpacks to more than that.
 * @returns the files, and what was left out with the reason.
 */
export function openArchive(archive: GivenFile, most = MOST_FILES): { files: GivenFile[]; left: LeftOut[] } {
  const left: LeftOut[] = [];
  let total = 0;
  let count = 0;
  let beyond = 0;
  try {
    const files = unzipSync(archive.bytes, {
      filter: (f) => {
        if (f.originalSize === 0 || /(^|\/)(\.|__MACOSX)/.test(f.name)) return false;
        if (f.originalSize > LARGEST_FILE) {
          left.push({
            name: f.name,
            message: `The file has ${megabytes(f.originalSize)}; a section has a few kilobytes.`,
            hint: 'Is this the right file?',
          });
          return false;
        }
        if (count >= most || total + f.originalSize > LARGEST_ARCHIVE) {
          beyond++;
          return false;
        }
        count++;
        total += f.originalSize;
        return true;
      },
    });
    if (beyond > 0) {
      left.push({
        name: archive.name,
        message: `${beyond} files of the archive were left: at most ${most} files and ${megabytes(LARGEST_ARCHIVE)} are read at once.`,
        hint: 'Read them in parts.',
      });
    }
    return { files: Object.entries(files).map(([name, bytes]) => ({ name, bytes })), left };
  } catch (error) {
    left.push({
      name: archive.name,
      message: `The archive cannot be opened: ${(error as Error).message}.`,
      hint: 'Is it complete?',
    });
    return { files: [], left };
  }
}
