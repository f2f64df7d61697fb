import { z } from 'zod';
import { figureSpec } from '../figures/figure';

/** A drawing at true scale, mm, as `Drawing` has it. */
const pair = z.tuple([z.number(), z.number()]);
const drawing = z.object({
  title: z.string(),
  items: z.array(
    z.discriminatedUnion('kind', [
      z.object({
        kind: z.literal('line'),
        layer: z.enum(['cut', 'hole', 'line', 'sheet', 'text']),
        points: z.array(pair),
        closed: z.boolean(),
      }),
      z.object({
        kind: z.literal('circle'),
        layer: z.enum(['cut', 'hole', 'line', 'sheet', 'text']),
        at: pair,
        radius: z.number(),
      }),
      z.object({
        kind: z.literal('text'),
        layer: z.enum(['cut', 'hole', 'line', 'sheet', 'text']),
        at: pair,
        height: z.number(),
        text: z.string(),
        upward: z.boolean().optional(),
      }),
    ]),
  ),
});

/** One cell of a table: its text, and how it stands where it is held against a band. */
const cell = z.object({ text: z.string(), state: z.enum(['inside', 'outside']).optional() });
export type ComposedCell = z.infer<typeof cell>;

const table = z.object({
  columns: z.array(z.object({ name: z.string(), numbers: z.boolean().optional() })),
  rows: z.array(z.array(cell)),
});
export type ComposedTable = z.infer<typeof table>;

const spaceView = z.object({
  unit: z.number(),
  size: pair,
  facets: z.array(z.object({ points: z.array(pair), shade: z.number() })),
});

const shown = {
  id: z.string(),
  /** Of its kind, from 1. */ number: z.number(),
  title: z.string(),
  caption: z.string(),
  /** Of a candidate that is no longer in the project: as it was when it was composed last. */ lastSeen: z
    .boolean()
    .optional(),
};

/** A block with its content: what page, file and issue show. */
export const composedBlock = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('heading'), id: z.string(), level: z.number(), text: z.string() }),
  /** Numbers are filled in; those that there are none of are told in `unknown`. */
  z.object({ kind: z.literal('text'), id: z.string(), markdown: z.string(), unknown: z.array(z.string()) }),
  z.object({ kind: z.literal('figure'), ...shown, figure: figureSpec }),
  z.object({ kind: z.literal('table'), ...shown, table }),
  z.object({ kind: z.literal('drawing'), ...shown, drawing }),
  z.object({ kind: z.literal('view'), ...shown, view: spaceView }),
  /** PNG or JPEG as a data URL. */
  z.object({ kind: z.literal('picture'), ...shown, data: z.string() }),
  /** A file that goes along, as a data URL. */
  z.object({
    kind: z.literal('file'),
    id: z.string(),
    name: z.string(),
    /** Bytes. */ size: z.number(),
    caption: z.string(),
    data: z.string(),
  }),
  z.object({
    kind: z.literal('decision'),
    id: z.string(),
    chosen: z.string(),
    against: z.array(z.string()),
    why: z.string(),
    givenUp: z.string(),
  }),
  /** What cannot be shown, and why. */
  z.object({
    kind: z.literal('missing'),
    id: z.string(),
    title: z.string(),
    reason: z.string(),
    gone: z.boolean().optional(),
    /** Of what is not there yet. */ pending: z.boolean().optional(),
  }),
]);
export type ComposedBlock = z.infer<typeof composedBlock>;

/** A report with all its content. */
export const composedReport = z.object({
  name: z.string(),
  project: z.string(),
  blocks: z.array(composedBlock),
});
export type ComposedReport = z.infer<typeof composedReport>;
