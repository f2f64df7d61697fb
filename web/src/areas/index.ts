import type { Area } from '@/lib/area';

const found = import.meta.glob<{ default: Area }>('./*/area.ts', { eager: true });

/** Every area, in the order in which the work goes. A folder with an `area.ts` is one; nothing else lists it. */
export const AREAS: readonly Area[] = Object.values(found)
  .map((m) => m.default)
  .sort((a, b) => a.place - b.place);
