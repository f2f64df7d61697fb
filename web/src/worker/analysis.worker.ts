import { expose } from 'comlink';
import { ResultsHome } from './results-home';
import { SharedWork } from './shared-work';
import type { AnalysisKind, InputOf, OutputOf, Progress } from '@veldtwind/core/analysis';

/** What a worker answers: a result, or what was wrong, as data that crosses threads. */
export type Answer<K extends AnalysisKind> =
  | { ok: true; output: OutputOf<K>; ms: number }
  | { ok: false; cancelled: boolean; message: string; code?: string; hint?: string; path?: string };

const results = new ResultsHome();

const work = new SharedWork();

const api = {
  async run<K extends AnalysisKind>(
    id: number,
    kind: K,
    input: InputOf<K>,
    look: boolean,
    report?: (progress: Progress) => void,
  ): Promise<Answer<K>> {
    const start = performance.now();
    const key = work.keyOf(kind, input);
    const said = work.answered(key);
    if (said !== undefined) return { ok: true, output: said as OutputOf<K>, ms: performance.now() - start };
    const known = look ? await results.get(kind, input) : undefined;
    if (known) {
      work.take(id, key, known.output);
      return { ok: true, output: known.output as OutputOf<K>, ms: performance.now() - start };
    }
    try {
      const output = await work.run(id, kind, input, key, report);
      results.remember(id, kind, input, output);
      return { ok: true, output, ms: performance.now() - start };
    } catch (error) {
      const { name, message, code, hint, path } = error as Error & { code?: string; hint?: string; path?: string };
      if (code === undefined && name !== 'Cancelled') console.error(error);
      return { ok: false, cancelled: name === 'Cancelled', message, code, hint, path };
    }
  },
  /** Ends what runs, where it listens between its steps. */
  cancel: (id: number): void => work.cancel(id),
  /** Settles whose results are taken and kept. */
  home: (project: string | null, origin: string, tab: string): void => results.open(project, origin, tab),
  /** Has an answer kept, by the number of its request. */
  keep: (id: number): Promise<void> => results.keep(id),
};

export type WorkerApi = typeof api;
expose(api);
