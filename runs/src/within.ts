/** Waits for something, but no longer than so many ms: what hangs holds up no stop. What fails is over, too. */
export const within = (ms: number, work: Promise<unknown>): Promise<unknown> =>
  Promise.race([work.catch(() => undefined), new Promise((done) => setTimeout(done, ms).unref())]);
