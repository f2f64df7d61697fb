import { expose } from 'comlink';
import { ResultsHome } from './results-home';
import { runAnalysis, type AnalysisKind, type InputOf, type OutputOf, type Progress } from '@veldtwind/core/analysis';

/** What a worker answers: a result, or what was wrong, as data that crosses threads. */
export type Answer<K extends AnalysisKind> =
  | { ok: true; output: OutputOf<K>; ms: number }
  | { ok: false; cancelled: boolean; message: string; code?: string; hint?: string; path?: string };

const ended = new Set<number>();
const results = new ResultsHome();

/** Analyses that the findings and the areas both ask for: the last answers of each are kept, so that none is made twice. */
const SHARED: ReadonlySet<AnalysisKind> = new Set<AnalysisKind>(['motion', 'control-survey', 'trimmed-stall']);
const MOST_SHARED = 6;
const answers = new Map<string, unknown>();
function share(key: string, output: unknown): void {
  answers.set(key, output);
  if (answers.size > MOST_SHARED) answers.delete(answers.keys().next().value!);
}

const api = {
  async run<K extends AnalysisKind>(
    id: number,
    kind: K,
    input: InputOf<K>,
    look: boolean,
    report?: (progress: Progress) => void,
  ): Promise<Answer<K>> {
    const start = performance.now();
    const key = SHARED.has(kind) ? `${kind} ${JSON.stringify(input)}` : null;
    if (key !== null && answers.has(key))
      return { ok: true, output: answers.get(key) as OutputOf<K>, ms: performance.now() - start };
    const known = look ? await results.get(kind, input) : undefined;
    if (known) {
      ended.delete(id);
      if (key !== null) share(key, known.output);
      return { ok: true, output: known.output as OutputOf<K>, ms: performance.now() - start };
    }
    try {
      const output = await runAnalysis(kind, input, {
        report: report && ((progress) => void report(progress)),
        cancelled: () => ended.has(id),
        breathe: () => new Promise((go) => setTimeout(go, 0)),
      });
      if (key !== null) share(key, output);
      results.remember(id, kind, input, output);
      return { ok: true, output, ms: performance.now() - start };
    } catch (error) {
      const { name, message, code, hint, path } = error as Error & { code?: string; hint?: string; path?: string };
      if (code === undefined && name !== 'Cancelled') console.error(error);
      return { ok: false, cancelled: name === 'Cancelled', message, code, hint, path };
    } finally {
      ended.delete(id);
    }
  },
  /** Ends what runs, where it listens between its steps. */
  cancel: (id: number): void => void ended.add(id),
  /** Settles whose results are taken and kept. */
  home: (project: string | null, origin: string, tab: string): void => results.open(project, origin, tab),
  /** Has an answer kept, by the number of its request. */
  keep: (id: number): Promise<void> => results.keep(id),
};

export type WorkerApi = typeof api;
expose(api);
