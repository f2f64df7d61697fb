import { z } from 'zod';

/** One quantity of a figure, in the reader's unit. */
const axis = z.object({
  /** As at the end of the axis. */ name: z.string(),
  unit: z.string(),
  /** Zero is on it even where no curve comes near. */ zero: z.boolean().optional(),
  /** Logarithmic, where all of it is above zero. */ log: z.boolean().optional(),
  /** Rises downward or to the left. */ inverted: z.boolean().optional(),
});

/** A place of a curve; null interrupts it. */
const place = z.tuple([z.number(), z.number()]).nullable();

const series = z.object({
  name: z.string(),
  /** Colour, dash and marker go by this number: the same one is the same subject in every figure of a report. */
  style: z.number().int().min(0),
  points: z.array(place),
  /** Only points: no line joins them. */ scattered: z.boolean().optional(),
  /** Drawn thin and grey: what others are held against. */ faint: z.boolean().optional(),
  /** A closed shape, drawn filled. */ closed: z.boolean().optional(),
});

/**
 * A figure as data: subject, axes, curves, bands and marks, all in the reader's units. Pages, files and issues of a report draw the same one.
 * Numbers are those that the analyses gave: nothing in it is rounded.
 */
export const figureSpec = z.object({
  x: axis,
  y: axis,
  series: z.array(series),
  /** Ground between two values of an axis; open where one is null. */
  bands: z.array(
    z.object({
      axis: z.enum(['x', 'y']),
      from: z.number().nullable(),
      to: z.number().nullable(),
      name: z.string(),
    }),
  ),
  marks: z.array(z.object({ x: z.number(), y: z.number(), name: z.string(), style: z.number().int().min(0) })),
  /** One scale for both directions, as a shape needs. */ equal: z.boolean().optional(),
  /** What made it. */ method: z.string().optional(),
});
export type FigureSpec = z.infer<typeof figureSpec>;
export type FigureSeries = FigureSpec['series'][number];
export type FigureAxis = FigureSpec['x'];

/** `name, unit`, as at the end of an axis. */
export const axisText = ({ name, unit }: FigureAxis): string => (unit ? `${name}, ${unit}` : name);

/** The numbers behind a figure as rows: one for each point, with its curve's name. */
export function figureRows(figure: FigureSpec): { header: string[]; rows: (string | number)[][] } {
  return {
    header: ['curve', axisText(figure.x), axisText(figure.y)],
    rows: figure.series.flatMap((s) => s.points.flatMap((p) => (p ? [[s.name, p[0], p[1]]] : []))),
  };
}
