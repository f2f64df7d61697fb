import { z } from 'zod';
import { partId, within, words } from '../limits';
import { MASS_ITEM_LIMITS, MASS_SHAPES } from './limits';

const { mass, position, size, inertia, product, share } = MASS_ITEM_LIMITS;
const length = within({ ...size, min: -size.max }).optional();

/** A thing with a mass (kg) and a place in the airframe's axes (m), as it is saved. */
export const massItemSchema = z.object({
  id: partId,
  name: words(80),
  mass: within(mass),
  position: z.object({ x: within(position.x), y: within(position.y), z: within(position.z) }),
  shape: z.enum(MASS_SHAPES).optional(),
  part: partId.optional(),
  size: z.object({ x: length, y: length, z: length }).optional(),
  inertia: z
    .object({
      Ixx: within(inertia),
      Iyy: within(inertia),
      Izz: within(inertia),
      Ixy: within(product).optional(),
      Ixz: within(product).optional(),
      Iyz: within(product).optional(),
    })
    .optional(),
  mirrored: z.boolean().optional(),
  group: words(40).min(1).optional(),
});

/** Loadings by name: how much of each mass item is there; those not named are there whole. */
export const loadingsSchema = z
  .record(words(60).min(1, 'needs a name'), z.record(partId, within(share)))
  .refine((l) => Object.keys(l).length <= 40, 'has more than 40 loadings');
