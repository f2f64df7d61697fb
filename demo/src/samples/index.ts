import { bergwind } from './bergwind';
import { cisticola } from './cisticola';
import type { Sample } from './sample';
import { thatchgrass } from './thatchgrass';

/** The sample aircraft, in the order in which they are offered. Each has a page in docs/samples. */
export const SAMPLES: readonly (() => Sample)[] = [cisticola, bergwind, thatchgrass];
export type { Sample };
