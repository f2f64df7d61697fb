import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SampleRow } from '@veldtwind/contract';
import { projectPicture } from '@veldtwind/core/layouts';
import { HttpError } from '../http/errors';
import { readDocument, type ProjectDocument } from '@veldtwind/core/project';

/** A sample aircraft as its file has it. */
export interface SampleFile {
  /** In the order in which they are offered. */ place: number;
  id: string;
  name: string;
  says: string;
  document: ProjectDocument;
}

/** Samples of a folder of JSON files, read when they are asked for the first time; none where there is no such folder. */
export function readSamples(folder: string): () => readonly SampleFile[] {
  let kept: SampleFile[] | null = null;
  return () =>
    (kept ??= existsSync(folder)
      ? readdirSync(folder)
          .filter((f) => f.endsWith('.json'))
          .map((f) => JSON.parse(readFileSync(join(folder, f), 'utf8')) as SampleFile)
          .map((sample) => ({ ...sample, document: readDocument(sample.document) }))
          .sort((a, b) => a.place - b.place)
      : []);
}

/** @throws HttpError 404, with what there is. */
export function sampleOf(samples: readonly SampleFile[], id: string | undefined): SampleFile {
  const found = samples.find((s) => s.id === id);
  if (!found)
    throw new HttpError(
      404,
      'no-sample',
      `There is no sample “${id ?? ''}”.`,
      `Samples: ${samples.map((s) => s.id).join(', ')}.`,
    );
  return found;
}

/** A sample as it is offered. */
export const sampleRow = ({ id, name, says, document }: SampleFile): SampleRow => ({
  id,
  name,
  says,
  picture: projectPicture(document),
});
