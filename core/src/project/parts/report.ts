import { z } from 'zod';
import { figureSpec } from '../../figures/figure';
import { finiteNumber, partId, words } from '../../limits';
import { partKind } from './kind';

/** Letters that a text of a report holds at most, and blocks of a report. */
export const LONGEST_TEXT = 60_000;
export const MOST_BLOCKS = 300;
/** Points of a figure that is kept as it was. */
export const MOST_POINTS = 20_000;
/** Rows, columns and letters of a cell of a table that is kept as it was. */
export const MOST_ROWS = 2000;
const MOST_COLUMNS = 60;
const MOST_LETTERS = 400;

/** What a figure of a report shows. */
export const REPORT_FIGURES = [
  'lift-curve',
  'moment-curve',
  'drag-polar',
  'span-load',
  'power-required',
  'climb-rate',
  'sink-rate',
  'trim-deflection',
  'load-envelope',
  'range-mass',
  'margin-centre',
  'margin-loading',
  'modes',
  'section-shapes',
  'section-drag',
  'section-lift',
  'section-moment',
  'flight-path',
] as const;
export type ReportFigure = (typeof REPORT_FIGURES)[number];

/** What a table of a report lists. */
export const REPORT_TABLES = [
  'brief',
  'requirements',
  'geometry',
  'sections',
  'masses',
  'drag',
  'performance',
  'modes',
  'controls',
  'loops',
  'flights',
  'studies',
  'findings',
  'assumptions',
  'validity',
  'methods',
] as const;
export type ReportTable = (typeof REPORT_TABLES)[number];

/** A title or caption of the engineer's own; empty for that of the content. */
const own = words(400).default('');
/** Of one candidate; all of them without. */
const subject = partId.optional();

/** Where something that is kept was kept from, and when. */
const keptFrom = { from: words(60).default(''), at: z.string().max(40).default('') };
const keptCell = z.string().max(MOST_LETTERS, `has more than ${MOST_LETTERS} letters`);
const keptTable = z
  .object({
    columns: z
      .array(z.object({ name: keptCell, numbers: z.boolean().optional() }))
      .min(1, 'has no columns')
      .max(MOST_COLUMNS, `has more than ${MOST_COLUMNS} columns`),
    rows: z.array(z.array(keptCell)).max(MOST_ROWS, `has more than ${MOST_ROWS} rows`),
  })
  .refine((t) => t.rows.every((r) => r.length === t.columns.length), 'has a row of another length than its heading');

/** One block of a report. */
export const reportBlock = z.discriminatedUnion('kind', [
  z.object({ id: partId, kind: z.literal('heading'), level: z.int().min(1).max(3), text: words(300) }),
  z.object({
    id: partId,
    kind: z.literal('text'),
    /** Markdown; `@{A static-margin}` is a live number. */
    markdown: z.string().max(LONGEST_TEXT, `is longer than ${LONGEST_TEXT} letters`),
  }),
  z.object({ id: partId, kind: z.literal('figure'), of: z.enum(REPORT_FIGURES), subject, title: own, caption: own }),
  z.object({ id: partId, kind: z.literal('table'), of: z.enum(REPORT_TABLES), subject, title: own, caption: own }),
  z.object({ id: partId, kind: z.literal('three-view'), subject: partId, title: own, caption: own }),
  z.object({
    id: partId,
    kind: z.literal('kept-figure'),
    figure: figureSpec.refine(
      (f) => f.series.reduce((sum, s) => sum + s.points.length, 0) <= MOST_POINTS,
      `has more than ${MOST_POINTS} points`,
    ),
    ...keptFrom,
    title: own,
    caption: own,
  }),
  /** A table as it was. */
  z.object({ id: partId, kind: z.literal('kept-table'), table: keptTable, ...keptFrom, title: own, caption: own }),
  /** A candidate in space: looked at from ahead (0) to the right wing (90), and from above. */
  z.object({
    id: partId,
    kind: z.literal('space-view'),
    subject: partId,
    azimuthDeg: finiteNumber.min(-360).max(360),
    elevationDeg: finiteNumber.min(-90).max(90),
    title: own,
    caption: own,
  }),
  /** An attachment of the project: a picture, or a file that goes along. */
  z.object({ id: partId, kind: z.literal('picture'), attachment: partId, title: own, caption: own }),
  z.object({ id: partId, kind: z.literal('file'), attachment: partId, caption: own }),
  z.object({
    id: partId,
    kind: z.literal('decision'),
    /** The candidate that was chosen; empty while none is. */ chosen: z.string().max(60).default(''),
    why: z.string().max(LONGEST_TEXT).default(''),
    givenUp: z.string().max(LONGEST_TEXT).default(''),
  }),
]);
export type ReportBlock = z.infer<typeof reportBlock>;

const apart = (list: readonly { id: string }[]) => new Set(list.map((b) => b.id)).size === list.length;

/** A report of a project: blocks in their order. */
export const reportPart = z.object({
  id: partId,
  name: words(120).min(1, 'needs a name'),
  blocks: z
    .array(reportBlock)
    .max(MOST_BLOCKS, `has more than ${MOST_BLOCKS} blocks`)
    .refine(apart, 'has two blocks with one id'),
});
export type ReportPart = z.infer<typeof reportPart>;

export const reportKind = partKind<ReportPart>({
  schema: reportPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'reports' },
  label: (r) => `the report ${r.name}`,
  // What it showed may go: the block then says so.
  references: () => [],
});
