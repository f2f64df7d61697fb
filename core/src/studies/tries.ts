/** One set of values of the variables, and what it answered. */
export interface Try {
  index: number;
  /** In the order of the variables. */ values: number[];
  /** In the order of what is asked; null is kept with its reason, and is never a number. */
  answers: (number | null)[];
  reasons?: Record<string, string>;
}

/** Makes one try's answers; what fails is told, not thrown. */
export type Evaluate = (
  values: readonly number[],
) => Promise<{ values: (number | null)[]; reasons: Record<string, string> }>;

export interface StudyContext {
  /** Of tries that were made in an earlier run: none is computed twice. */ known?: readonly Try[];
  /** Told each new try. */ onTry?: (made: Try) => void;
  /** How far it is; of a search for one aim also the best so far. */ report?: (progress: {
    done: number;
    of: number;
    best?: Try;
  }) => void;
  cancelled?: () => boolean;
  /** Lets others have their turn, before each try. */ breathe?: () => Promise<void>;
}

/** A study that was told to end. */
export class StudyStopped extends Error {}

/** All tries of a study, each computed once. */
export class Tries {
  private readonly byKey = new Map<string, Try>();
  private readonly earlier = new Map<string, Try>();
  /** How many were taken over from an earlier run. */ resumed = 0;

  constructor(
    private readonly evaluate: Evaluate,
    private readonly context: StudyContext = {},
    /** Where values come to stand: whole numbers. */
    private readonly settled: (values: readonly number[]) => readonly number[] = (v) => v,
  ) {
    for (const t of context.known ?? []) this.earlier.set(String(t.values), t);
  }

  get all(): Try[] {
    return [...this.byKey.values()];
  }

  /** The try of some values. @throws StudyStopped when the study was told to end. */
  async at(given: readonly number[]): Promise<Try> {
    const values = this.settled(given);
    const key = String(values);
    let made = this.byKey.get(key);
    if (made) return made;
    await this.context.breathe?.();
    if (this.context.cancelled?.()) throw new StudyStopped('The study was stopped.');
    const before = this.earlier.get(key);
    if (before) {
      this.resumed++;
      made = { ...before, index: this.byKey.size };
    } else {
      const { values: answers, reasons } = await this.evaluate(values);
      made = {
        index: this.byKey.size,
        values: [...values],
        answers,
        ...(Object.keys(reasons).length > 0 && { reasons }),
      };
    }
    this.byKey.set(key, made);
    if (!before) this.context.onTry?.(made);
    return made;
  }

  tell(done: number, of: number, best?: Try): void {
    this.context.report?.({ done, of, ...(best && { best }) });
  }
}

/** A variable as the searches see it. */
export interface Axis {
  from: number;
  to: number;
  /** As it stands. */ value: number;
  /** A sensible change. */ step: number;
  whole: boolean;
}
