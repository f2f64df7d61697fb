import { expose } from 'comlink';
import { keepHints } from './errors';
import { strToU8, unzip, zip } from 'fflate';
import { getMany, setMany } from 'idb-keyval';
import {
  decodeText,
  readCoordinates,
  writeSection,
  type ReadSection,
  type SectionFormat,
  type WriteOptions,
} from '@veldtwind/core/formats';
import { fingerprint } from '@veldtwind/core/numerics';
import { sourceFacts, sourceOutline, type SectionSource } from '@veldtwind/core/shaping';
import { massProperties, resample, SurfaceSpline, type SectionFacts } from '@veldtwind/core/section';

/** What a card and a row of the table show of a section. */
export interface SectionSummary {
  facts: SectionFacts;
  perimeter: number;
  centroid: { x: number; y: number };
  /** x, y of 61 points of the outline. */
  outline: Float32Array;
  /** Why the section could not be made; all else is missing then. */
  failure?: string;
}

export interface GivenFile {
  name: string;
  bytes: Uint8Array;
}

export interface FileResult {
  name: string;
  text?: string;
  read?: ReadSection;
  /** One surface only: it may be half of a symmetric section. */
  half?: boolean;
  failure?: { message: string; hint?: string };
}

const VERSION = 3;
const OUTLINE_POINTS = 61;

function summarise(source: SectionSource): SectionSummary {
  const outline = sourceOutline(source, 121);
  const spline = new SurfaceSpline(outline);
  const few = resample(outline, OUTLINE_POINTS, spline);
  const mass = massProperties(outline, spline);
  const drawn = new Float32Array(2 * OUTLINE_POINTS);
  few.x.forEach((x, i) => {
    drawn[2 * i] = x;
    drawn[2 * i + 1] = few.y[i];
  });
  return { facts: sourceFacts(source, outline), perimeter: mass.perimeter, centroid: mass.centroid, outline: drawn };
}

const LARGEST_FILE = 2_000_000;
const LARGEST_ARCHIVE = 400_000_000;
const MOST_FILES = 20_000;

const isArchive = (f: GivenFile) => f.bytes[0] === 0x50 && f.bytes[1] === 0x4b && f.bytes[2] === 3 && f.bytes[3] === 4;

function opened(bytes: Uint8Array): Promise<Record<string, Uint8Array>> {
  let total = 0;
  return new Promise((done, failed) =>
    unzip(
      bytes,
      {
        filter: (f) => {
          total += f.originalSize;
          return (
            total < LARGEST_ARCHIVE &&
            f.originalSize > 0 &&
            f.originalSize <= LARGEST_FILE &&
            !/(^|\/)(\.|__MACOSX)/.test(f.name)
          );
        },
      },
      (error, files) => (error ? failed(error) : done(files)),
    ),
  );
}

let cancelled = false;

const api = {
  /** Facts of sections, from this browser's store where they were computed before. */
  async summaries(sources: SectionSource[]): Promise<SectionSummary[]> {
    const keys = sources.map((s) => `summary-${VERSION}-${fingerprint(JSON.stringify(s))}`);
    let known: (SectionSummary | undefined)[] = [];
    try {
      known = await getMany<SectionSummary>(keys);
    } catch {
      // Without a store everything is computed anew.
    }
    const fresh: [string, SectionSummary][] = [];
    const out = sources.map((source, i): SectionSummary => {
      const kept = known[i];
      if (kept) return kept;
      try {
        const made = summarise(source);
        fresh.push([keys[i], made]);
        return made;
      } catch (error) {
        return { failure: (error as Error).message } as SectionSummary;
      }
    });
    if (fresh.length > 0) await setMany(fresh).catch(() => undefined);
    return out;
  },

  cancel(): void {
    cancelled = true;
  },

  /** Reads files and archives of them; tells how far it is after every few. */
  async read(
    given: GivenFile[],
    mirror: boolean,
    progress: (done: number, of: number) => void | Promise<void>,
  ): Promise<FileResult[]> {
    cancelled = false;
    const files: GivenFile[] = [];
    const out: FileResult[] = [];
    for (const f of given) {
      if (!isArchive(f)) files.push(f);
      else {
        try {
          for (const [name, bytes] of Object.entries(await opened(f.bytes))) files.push({ name, bytes });
        } catch (error) {
          out.push({
            name: f.name,
            failure: { message: `The archive cannot be opened: ${(error as Error).message}.`, hint: 'Is it complete?' },
          });
        }
      }
    }
    if (files.length > MOST_FILES) {
      out.push({
        name: `${files.length - MOST_FILES} files`,
        failure: { message: `More than ${MOST_FILES} files at once; the rest was left.`, hint: 'Read them in parts.' },
      });
      files.length = MOST_FILES;
    }
    for (let i = 0; i < files.length && !cancelled; i++) {
      const { name, bytes } = files[i];
      const short = name.split('/').pop()!;
      if (bytes.length > LARGEST_FILE) {
        out.push({
          name: short,
          failure: {
            message: `The file has ${Math.round(bytes.length / 1e6)} MB; a section has a few kilobytes.`,
            hint: 'Is this the right file?',
          },
        });
        continue;
      }
      const text = decodeText(bytes);
      try {
        out.push({
          name: short,
          text,
          read: readCoordinates(text, short.replace(/\.[^.]*$/, '') || 'Section', { mirror }),
        });
      } catch (error) {
        const e = error as { message: string; hint?: string; code?: string };
        out.push({
          name: short,
          text,
          half: e.code === 'coordinates-one-surface',
          failure: { message: e.message, hint: e.hint },
        });
      }
      if (i % 25 === 24) {
        await progress(i + 1, files.length);
        await new Promise((r) => setTimeout(r, 0));
      }
    }
    await progress(files.length, files.length);
    return out;
  },

  /** One file, or a zip of several. */
  async write(
    sections: { name: string; file: string; source: SectionSource }[],
    format: SectionFormat,
    options: WriteOptions,
  ): Promise<{ bytes: Uint8Array; failed: string[] }> {
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
    const bytes = await new Promise<Uint8Array>((done, stop) =>
      zip(files, { level: 6 }, (error, data) => (error ? stop(error) : done(data))),
    );
    return { bytes, failed };
  },
};

export type LibraryApi = typeof api;
keepHints();
expose(api);
