import { wrap } from 'comlink';
import type { ComputeApi } from './compute.worker';

const make = () => wrap<ComputeApi>(new Worker(new URL('./compute.worker.ts', import.meta.url), { type: 'module' }));

/** Two workers: one for candidates, one for sections, so that neither waits for the other. */
export const candidateWorker = make();
export const sectionWorker = make();
