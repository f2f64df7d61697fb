import { strToU8, zipSync } from 'fflate';
import { z } from 'zod';
import { analysis } from '../../results';
import { sectionSource, sourceOutline, type SectionSource } from '../../shaping';
import { decodeText } from '../reading/decode';
import { readCoordinates, type ReadSection } from '../reading/read';
import { SECTION_FORMATS, writeSection } from '../section-writer';
import { isArchive, LARGEST_FILE, MOST_FILES, openArchive, type GivenFile } from './archive';

/** What came of reading one file: a section, or why there is none. */
export interface FileResult {
  name: string;
  text?: string;
  read?: ReadSection;
  /** One surface only: it may be half of a symmetric section. */
  half?: boolean;
  failure?: { message: string; hint?: string };
}

const BATCH = 25;
const givenFile = z.object({ name: z.string(), bytes: z.instanceof(Uint8Array) }) as z.ZodType<GivenFile>;

/** Reads files and archives of them; what cannot be read is told with the reason, the rest goes on. Ended early, it gives what it has. */
export const readFiles = analysis({
  version: 1,
  input: z.object({ files: z.array(givenFile), mirror: z.boolean() }),
  run: async ({ files: given, mirror }, { report, cancelled, breathe }): Promise<FileResult[]> => {
    const out: FileResult[] = [];
    const files: GivenFile[] = [];
    for (const file of given) {
      if (!isArchive(file)) files.push(file);
      else {
        const opened = openArchive(file, Math.max(0, MOST_FILES - files.length));
        files.push(...opened.files);
        for (const { name, ...failure } of opened.left) out.push({ name, failure });
      }
    }
    if (files.length > MOST_FILES) {
      out.push({
        name: `${files.length - MOST_FILES} files`,
        failure: { message: `More than ${MOST_FILES} files at once; the rest was left.`, hint: 'Read them in parts.' },
      });
      files.length = MOST_FILES;
    }
    for (let i = 0; i < files.length; i++) {
      out.push(readOne(files[i], mirror));
      if (i % BATCH === BATCH - 1) {
        report?.({ done: i + 1, of: files.length });
        await breathe?.();
        if (cancelled?.()) break;
      }
    }
    report?.({ done: files.length, of: files.length });
    return out;
  },
});

function readOne({ name, bytes }: GivenFile, mirror: boolean): FileResult {
  const short = name.split('/').pop() || name;
  if (bytes.length > LARGEST_FILE) {
    return {
      name: short,
      failure: {
        message: `The file has ${Math.round(bytes.length / 1e6)} MB; a section has a few kilobytes.`,
        hint: 'Is this the right file?',
      },
    };
  }
  const text = decodeText(bytes);
  try {
    const read = readCoordinates(text, short.replace(/\.[^.]*$/, '') || 'Section', { mirror });
    return { name: short, text, read };
  } catch (error) {
    const { message, hint, code } = error as { message: string; hint?: string; code?: string };
    return { name: short, text, half: code === 'coordinates-one-surface', failure: { message, hint } };
  }
}

/** A section to be written, under the name of its file. */
export interface SectionToWrite {
  name: string;
  file: string;
  source: SectionSource;
}

/** One file, or a zip of several; what cannot be written is told. */
export const writeFiles = analysis({
  version: 1,
  input: z.object({
    sections: z.array(z.object({ name: z.string(), file: z.string(), source: sectionSource })),
    format: z.enum(SECTION_FORMATS),
    options: z.object({
      points: z.number().optional(),
      chord: z.number().optional(),
      unit: z.enum(['mm', 'm', 'in']).optional(),
    }),
  }),
  run: ({ sections, format, options }): { bytes: Uint8Array; failed: string[] } => {
    const failed: string[] = [];
    const files: Record<string, Uint8Array> = {};
    for (const s of sections) {
      try {
        files[s.file] = strToU8(writeSection(s.name, sourceOutline(s.source, 241), format, options));
      } catch (error) {
        failed.push(`${s.name}: ${(error as Error).message}`);
      }
    }
    const names = Object.keys(files);
    if (sections.length === 1 && names.length === 1) return { bytes: files[names[0]], failed };
    return { bytes: zipSync(files, { level: 6 }), failed };
  },
});
