import type { z } from 'zod';
import { refusalOf } from '../limits';

/** How far an analysis has come. */
export interface Progress {
  done: number;
  of: number;
  /** What came of the step, where there is something to show already. */
  detail?: unknown;
}

/** What an analysis is given beside its input. It changes when a result comes, never what it is. */
export interface RunContext {
  report?: (progress: Progress) => void;
  /** Asked between steps; an analysis that is told to end throws {@link Cancelled}. */
  cancelled?: () => boolean;
  /** Awaited between steps by an analysis of many: lets a message to end it come in. */
  breathe?: () => Promise<void>;
}

/** Thrown by an analysis that was told to end; nothing of it is kept. */
export class Cancelled extends Error {
  constructor() {
    super('The analysis was ended.');
    this.name = 'Cancelled';
  }
}

/**
 * An analysis as data. The browser's workers, the server's threads and the command line run the same entry; the key of its result is made from its
 * input, so that whatever it depends on must be in there.
 */
export interface Analysis<Input, Output, Subject extends unknown[] = never> {
  /** Raised when the numbers of the method change. */
  version: number;
  input: z.ZodType<Input>;
  /** Everything that the result depends on, from a project's document: the only way in which areas make an input. */
  inputsOf?: (...subject: Subject) => Input;
  run(input: Input, context: RunContext): Output | Promise<Output>;
  /** May be asked for over HTTP, with the input checked. */
  remote?: true;
}

/** Fixes the types of an analysis. */
export const analysis = <Input, Output, Subject extends unknown[] = never>(
  entry: Analysis<Input, Output, Subject>,
): Analysis<Input, Output, Subject> => entry;

/** Checks an input that came from outside. @throws InvalidInput `invalid` with the path of the field. */
export function checkedInput<Input>(schema: z.ZodType<Input>, given: unknown): Input {
  const parsed = schema.safeParse(given);
  if (parsed.success) return parsed.data;
  throw refusalOf(parsed.error, 'The request');
}
