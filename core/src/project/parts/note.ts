import { z } from 'zod';
import { finiteNumber, partId, words } from '../../limits';
import { partKind } from './kind';

/** A note placed on a figure: at values of the quantities on its axes, so that it stays with them. */
export const notePart = z.object({
  id: partId,
  /** The figure. */
  figure: words(60).min(1),
  /** Quantities on its axes when it was placed; shown only over the same two. */
  xQuantity: words(60),
  yQuantity: words(60),
  x: finiteNumber,
  y: finiteNumber,
  text: words(80).min(1, 'needs words'),
});
export type NotePart = z.infer<typeof notePart>;

export const noteKind = partKind<NotePart>({
  schema: notePart,
  version: 2,
  migrations: {},
  place: { at: 'record', field: 'notes' },
  label: (n) => `the note “${n.text}”`,
  references: () => [],
});
