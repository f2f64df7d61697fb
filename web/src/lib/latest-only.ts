/**
 * Runs the newest request only: while one is under way, later ones replace each other and the last is run when it ends.
 * @param work computes an answer. @param done takes an answer; called only for requests that were run.
 */
export function latestOnly<A extends unknown[], R>(
  work: (...args: A) => Promise<R>,
  done: (result: R, ...args: A) => void,
  failed: (error: unknown, ...args: A) => void = () => undefined,
) {
  let running = false;
  let waiting: A | null = null;
  const run = async (args: A): Promise<void> => {
    running = true;
    try {
      done(await work(...args), ...args);
    } catch (error) {
      failed(error, ...args);
    }
    running = false;
    if (waiting) {
      const next = waiting;
      waiting = null;
      void run(next);
    }
  };
  return (...args: A): void => {
    if (running) waiting = args;
    else void run(args);
  };
}
