import { threadId } from 'node:worker_threads';
import { checkedInputOf, runAnalysis, type AnalysisKind } from '@veldtwind/core/analysis';
import { VeldtwindError } from '@veldtwind/core/numerics';

/** A task for a thread: the analysis, its input as text, and a flag that is raised to end it. */
export interface Task {
  kind: AnalysisKind;
  input: string;
  flag: SharedArrayBuffer;
}

/** What a thread brings back: the result as JSON, or what was wrong with the input, as data that crosses threads. */
export type Outcome =
  | { ok: true; output: string; thread: number }
  | { ok: false; name: string; code: string; message: string; hint?: string; path?: string };

/** Typed arrays as plain lists, so that they come back as they are. */
const plain = (_key: string, value: unknown) =>
  ArrayBuffer.isView(value) && !(value instanceof DataView) ? Array.from(value as unknown as ArrayLike<number>) : value;

/** Runs an analysis in a thread. */
export default async function run({ kind, input, flag }: Task): Promise<Outcome> {
  const ended = new Int32Array(flag);
  try {
    const output = await runAnalysis(kind, checkedInputOf(kind, JSON.parse(input)) as never, {
      cancelled: () => Atomics.load(ended, 0) !== 0,
    });
    return { ok: true, output: JSON.stringify(output, plain), thread: threadId };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    const { name, code, message, hint, path } = error;
    return { ok: false, name, code, message, hint, path };
  }
}
