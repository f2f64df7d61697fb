import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { HttpError } from './errors';

/** Bytes that a file may have which is sent to the server. */
const LARGEST = 4_000_000_000;

/** What a folder without room means to who sends. */
const full = (error: NodeJS.ErrnoException): unknown =>
  error.code === 'ENOSPC' || error.code === 'EDQUOT'
    ? new HttpError(
        507,
        'temporary-full',
        'The temporary folder of the server is full: the file cannot be taken.',
        'Free some space there, and send it again; nothing is lost.',
      )
    : error;

/** Puts what is sent into a file of its own while it is used. @throws HttpError 400 where it breaks off, 413 where it is too large, 507 where there is no room for it. */
export async function spooled<T>(req: Request, use: (path: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'veldtwind-upload-')).catch((error: NodeJS.ErrnoException) => {
    throw full(error);
  });
  try {
    const path = join(folder, 'file');
    let bytes = 0;
    await pipeline(
      req,
      async function* (source: AsyncIterable<Buffer>) {
        for await (const piece of source) {
          bytes += piece.length;
          if (bytes > LARGEST)
            throw new HttpError(413, 'too-large', 'The file is larger than 4 GB.', 'Send less at once.');
          yield piece;
        }
      },
      createWriteStream(path),
    ).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ECONNRESET' || error.code === 'ERR_STREAM_PREMATURE_CLOSE')
        throw new HttpError(400, 'broken-off', 'The file broke off while it was sent.', 'Send it again.');
      throw full(error);
    });
    return await use(path);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
