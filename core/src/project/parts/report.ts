import { z } from 'zod';
import { figureSpec } from '../../figures/figure';
import { partId, words } from '../../limits';
import { partKind } from './kind';

/** Letters that a text of a report holds at most, and blocks of a report. */
export const LONGEST_TEXT = 60_000;
export const MOST_BLOCKS = 300;
/** Points of a figure that is kept as it was. */
export const MOST_POINTS = 20_000;

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
  'flights',
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
    /** Area that it was kept from, and when. */
    from: words(60).default(''),
    at: z.string().max(40).default(''),
    title: own,
    caption: own,
  }),
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
