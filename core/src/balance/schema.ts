import { z } from 'zod';
import { partId, within, words } from '../limits';
import { MASS_ITEM_LIMITS } from './limits';

const { mass, position } = MASS_ITEM_LIMITS;

/** A thing with a mass (kg) and a place in the airframe's axes (m), as it is saved. */
export const massItemSchema = z.object({
  id: partId,
  name: words(80),
  mass: within(mass),
  position: z.object({ x: within(position.x), y: within(position.y), z: within(position.z) }),
});
