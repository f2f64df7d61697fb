import { z } from 'zod';
import { DRAWING_VIEWS } from '../../airframe';
import { finiteNumber, partId, words } from '../../limits';
import { partKind } from './kind';

/** Letters of a picture as text: about three megabytes of file. */
export const LARGEST_PICTURE = 4_200_000;

/** A picture that lies under a view of the drawing, to be sketched over. */
export const picturePart = z.object({
  id: partId,
  name: words(255),
  view: z.enum(DRAWING_VIEWS),
  data: z
    .string()
    .max(LARGEST_PICTURE, 'is too large')
    .regex(/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/=]+$/, 'must be a PNG, JPEG or WebP picture'),
  /** Corner at the left and above on the page, in the view's own coordinates, m. */
  left: finiteNumber.min(-1e4).max(1e4),
  top: finiteNumber.min(-1e4).max(1e4),
  /** m */
  width: finiteNumber.min(1e-4).max(1e4),
  /** Height over width. */
  aspect: finiteNumber.min(1e-3).max(1e3),
  opacity: finiteNumber.min(0.05).max(1),
});
export type PicturePart = z.infer<typeof picturePart>;

export const pictureKind = partKind<PicturePart>({
  schema: picturePart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'pictures' },
  label: (p) => `the picture ${p.name}`,
  references: () => [],
});
