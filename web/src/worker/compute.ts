import { wrap } from 'comlink';
import type { ComputeApi } from './compute.worker';
import type { LibraryApi } from './library.worker';

const make = () => wrap<ComputeApi>(new Worker(new URL('./compute.worker.ts', import.meta.url), { type: 'module' }));

/** Workers beside each other, so that none waits for another: candidates; the open section's flow; its shape; the library and its files. */
export const candidateWorker = make();
export const sectionWorker = make();
export const libraryWorker = wrap<LibraryApi>(
  new Worker(new URL('./library.worker.ts', import.meta.url), { type: 'module' }),
);

/** The worker that shapes the open section; a design that is given up takes its worker with it. */
export const shapeWorker = (() => {
  const start = () => {
    const worker = new Worker(new URL('./compute.worker.ts', import.meta.url), { type: 'module' });
    return { worker, api: wrap<ComputeApi>(worker) };
  };
  let now = start();
  return {
    get api() {
      return now.api;
    },
    restart() {
      now.worker.terminate();
      now = start();
    },
  };
})();
