import { parentPort, workerData } from 'node:worker_threads';
import { checkedInputOf } from '@veldtwind/core/analysis';
import { sectionLookup } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { checkedPlan, runStudy, type StudyInput, type StudyResult, type Try } from '@veldtwind/core/studies';

/** What a study's thread is given: JSON of the input, and of every try that was made before. */
export interface StudyTask {
  input: string;
  known: string[];
}
/** What it tells. */
export type StudyMessage =
  | { is: 'further'; tries: Try[]; done: number; planned: number; best: Try | null }
  | { is: 'finished'; result: Omit<StudyResult, 'tries'> }
  | { is: 'failed'; why: string };

/** Least time between two messages, ms. */
const EVERY = 200;

async function run({ input, known }: StudyTask): Promise<void> {
  const say = (message: StudyMessage) => parentPort!.postMessage(message);
  let [tries, told]: [Try[], number] = [[], 0];
  let at: { done: number; planned: number; best: Try | null } = { done: 0, planned: 0, best: null };
  const further = () => {
    say({ is: 'further', tries, ...at });
    [tries, told] = [[], performance.now()];
  };
  try {
    const { plan, subject, polars, settings } = checkedInputOf('study', JSON.parse(input)) as StudyInput;
    const { tries: _, ...result } = await runStudy(
      checkedPlan(plan, subject),
      subject,
      { polars, settings, lookupOf: sectionLookup },
      {
        known: known.map((text) => JSON.parse(text) as Try),
        onTry: (made) => {
          tries.push(made);
          if (performance.now() - told > EVERY) further();
        },
        report: ({ done, of, best }) => (at = { done, planned: of, best: best ?? null }),
      },
    );
    further();
    say({ is: 'finished', result });
  } catch (error) {
    if (tries.length > 0) further();
    if (!(error instanceof VeldtwindError)) throw error;
    say({ is: 'failed', why: [error.message, error.hint].filter(Boolean).join(' ') });
  }
}

void run(workerData as StudyTask);
