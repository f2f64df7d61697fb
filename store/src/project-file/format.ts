import { z } from 'zod';
import { partKey, readKey } from '@veldtwind/core/project';
import { composedReport } from '@veldtwind/core/report';

/**
 * A whole project as one open file: a zip of JSON and CSV, described in docs/project-file.md. `project.json` says what it is; each line of the `.jsonl`
 * files is one part, edit or result. The CSV files are for people and other programs; they are not read back.
 */
export const FORMAT = 'veldtwind-project';
export const FORMAT_VERSION = 1;

export const FILES = {
  head: 'project.json',
  parts: 'parts.jsonl',
  edits: 'edits.jsonl',
  comments: 'comments.jsonl',
  issues: 'issues.jsonl',
  results: 'results.jsonl',
  curves: 'curves.jsonl',
  versions: 'versions.jsonl',
  end: 'end.json',
} as const;

const version = z.number().int().min(0).max(1e12);
const date = z.iso.datetime();

export const headSchema = z.object({
  format: z.literal(FORMAT, 'is not that of a Veldtwind project'),
  formatVersion: z.number().int().max(FORMAT_VERSION, 'was written by a newer Veldtwind; open it with that version'),
  name: z.string().trim().min(1).max(80),
  version,
  createdAt: date,
});
export type Head = z.infer<typeof headSchema>;

/** What the file held: one that was cut off has no such end. */
export const endSchema = z.object({
  parts: version,
  edits: version,
  results: version,
  // Files of before curves were in them.
  curves: version.default(0),
  versions: version.default(0),
  comments: version.default(0),
  issues: version.default(0),
});
export type End = z.infer<typeof endSchema>;

const key = partKey.refine((k) => {
  readKey(k);
  return true;
});
/** A part with the version of its kind; one whose text was no JSON has the text. */
export const partLine = z.object({ key, version, value: z.unknown(), text: z.string().optional() });
/** Name of who did it, where the server knew people by name. */
const name = z.string().max(60).nullable().default(null);
export const editLine = z.object({
  label: z.string().max(500),
  state: z.enum(['done', 'undone', 'dropped']),
  version,
  createdAt: date,
  clientId: z.string().max(64).nullable(),
  by: name,
  changes: z.array(
    z.object({ part: key, before: z.unknown(), after: z.unknown(), beforeVersion: version, afterVersion: version }),
  ),
});
/** A state of the project that was kept by name. */
export const versionLine = z.object({
  name: z.string().trim().min(1).max(100),
  version,
  createdAt: date,
  by: name,
  document: z.unknown(),
});
export const commentLine = z.object({
  name: z.string().max(60),
  text: z.string().min(1).max(2000),
  place: z.string().max(300),
  createdAt: date,
  doneAt: date.nullable(),
  doneBy: name,
});
/** An issue of a report, with its content. */
export const issueLine = z.object({
  report: z.string().min(1).max(64),
  number: z.number().int().min(1).max(1e6),
  note: z.string().max(1000),
  by: name,
  createdAt: date,
  content: composedReport,
});
export const resultLine = z.object({
  key: z.string().regex(/^[0-9a-f]{32}$/),
  kind: z.string(),
  methodVersion: version,
  input: z.unknown(),
  output: z.unknown(),
});
