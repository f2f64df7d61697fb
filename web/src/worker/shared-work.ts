import { runAnalysis, type AnalysisKind, type InputOf, type OutputOf, type Progress } from '@veldtwind/core/analysis';

/** Analyses that the findings and the areas both ask for. */
const SHARED: ReadonlySet<AnalysisKind> = new Set<AnalysisKind>([
  'motion',
  'motion-flown',
  'control-survey',
  'trimmed-stall',
]);
/** Answers that stay at hand. */
const MOST = 8;

type Report = (progress: Progress) => void;
/** What is under way for one or several requests. */
interface UnderWay {
  requests: Map<number, Report | undefined>;
  output: Promise<unknown>;
}

/** Work that several requests want is done once: its last answers stay at hand, and one that is under way is joined. */
export class SharedWork {
  private readonly ended = new Set<number>();
  private readonly answers = new Map<string, unknown>();
  private readonly underWay = new Map<string, UnderWay>();

  /** What equal requests have in common; null for work that nobody else asks for. */
  keyOf(kind: AnalysisKind, input: unknown): string | null {
    return SHARED.has(kind) ? `${kind} ${JSON.stringify(input)}` : null;
  }

  /** An answer that is at hand. */
  answered(key: string | null): unknown {
    return key === null ? undefined : this.answers.get(key);
  }

  /** Takes an answer that came from elsewhere. */
  take(id: number, key: string | null, output: unknown): void {
    this.ended.delete(id);
    if (key === null) return;
    this.answers.set(key, output);
    if (this.answers.size > MOST) this.answers.delete(this.answers.keys().next().value!);
  }

  /** Gives up a request; what is under way ends, where it listens between its steps, when all its requests are given up. */
  cancel(id: number): void {
    this.ended.add(id);
  }

  /** Computes an answer, or waits for the one that another request has begun. @throws what the analysis throws. */
  async run<K extends AnalysisKind>(
    id: number,
    kind: K,
    input: InputOf<K>,
    key: string | null,
    report?: Report,
  ): Promise<OutputOf<K>> {
    const begun = key === null ? undefined : this.underWay.get(key);
    const work = begun && !this.isOver(begun) ? begun : this.begin(kind, input, key);
    work.requests.set(id, report);
    try {
      const output = (await work.output) as OutputOf<K>;
      this.take(id, key, output);
      return output;
    } finally {
      this.ended.delete(id);
    }
  }

  private isOver({ requests }: UnderWay): boolean {
    for (const id of requests.keys()) if (!this.ended.has(id)) return false;
    return requests.size > 0;
  }

  private begin<K extends AnalysisKind>(kind: K, input: InputOf<K>, key: string | null): UnderWay {
    const requests: UnderWay['requests'] = new Map();
    const work: UnderWay = { requests, output: Promise.resolve() };
    // It begins after the request is entered: an analysis may ask at once whether it is given up.
    work.output = Promise.resolve().then(() =>
      runAnalysis(kind, input, {
        report: (progress) => requests.forEach((report) => void report?.(progress)),
        cancelled: () => this.isOver(work),
        breathe: () => new Promise((go) => setTimeout(go, 0)),
      }),
    );
    if (key !== null) {
      this.underWay.set(key, work);
      const over = () => void (this.underWay.get(key) === work && this.underWay.delete(key));
      work.output.then(over, over);
    }
    return work;
  }
}
