import { InvalidInput, VeldtwindError } from '@veldtwind/core/numerics';
import { openPromise, type ZipFile } from 'yauzl';
import type { Db } from './open';
import { writing } from './writing';

/** Bytes that one line, and the whole, may unpack to. */
const LONGEST_LINE = 64_000_000;
const LARGEST = 4_000_000_000;

/** Cuts bytes into lines, whatever pieces they come in. */
class Lines {
  private rest: Uint8Array[] = [];
  private length = 0;
  constructor(
    private readonly code: string,
    private readonly line: (bytes: Uint8Array) => unknown,
  ) {}
  push(bytes: Uint8Array): void {
    let from = 0;
    for (let to = bytes.indexOf(10); to >= 0; to = bytes.indexOf(10, from)) {
      this.keep(bytes.subarray(from, to));
      this.end();
      from = to + 1;
    }
    if (from < bytes.length) this.keep(bytes.slice(from));
  }
  private keep(bytes: Uint8Array): void {
    this.rest.push(bytes);
    this.length += bytes.length;
    if (this.length > LONGEST_LINE)
      throw new InvalidInput(
        `${this.code}-line`,
        `A line of the file is longer than ${LONGEST_LINE / 1e6} MB.`,
        'Give a file that was exported here.',
      );
  }
  end(): void {
    if (this.length > 0) this.line(this.rest.length === 1 ? this.rest[0] : Buffer.concat(this.rest));
    this.rest = [];
    this.length = 0;
  }
}

/**
 * Reads the files of an archive, each as a whole or, where its name ends with `.jsonl`, line by line in small transactions.
 * @param code what errors are called. @param taker gives what takes a file, or its lines; null for a file that is not read.
 * @throws InvalidInput `code…` where it is no archive, is cut off, or unpacks to too much.
 */
export async function readArchive(
  db: Db,
  path: string,
  code: string,
  taker: (name: string) => ((bytes: Uint8Array) => unknown) | null,
): Promise<void> {
  let zip: ZipFile;
  try {
    zip = await openPromise(path, { autoClose: false });
  } catch (error) {
    throw new InvalidInput(
      code,
      `The file is no zip archive, or not a whole one (${(error as Error).message}).`,
      'Give a file that was exported here.',
    );
  }
  let unpacked = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      const take = taker(entry.fileName);
      if (!take) continue;
      const isLines = entry.fileName.endsWith('.jsonl');
      const lines = new Lines(code, take);
      const whole: Uint8Array[] = [];
      for await (const data of await zip.openReadStreamPromise(entry)) {
        const bytes = data as Buffer;
        // A small file may hold a great one.
        unpacked += bytes.length;
        if (unpacked > LARGEST)
          throw new InvalidInput(
            `${code}-size`,
            `The file unpacks to more than ${LARGEST / 1e9} GB.`,
            'Give a file that was exported here.',
          );
        if (isLines) writing(db, () => lines.push(bytes));
        else whole.push(bytes);
      }
      if (isLines) writing(db, () => lines.end());
      else take(Buffer.concat(whole));
    }
  } catch (error) {
    if (error instanceof VeldtwindError || (error as { code?: string }).code?.startsWith('SQLITE')) throw error;
    throw new InvalidInput(code, `The file cannot be unpacked (${(error as Error).message}).`, 'Is it complete?');
  } finally {
    zip.close();
  }
}
