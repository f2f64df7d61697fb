const queues = new Map<string, Promise<unknown>>();

/**
 * Does one thing after the other of those that share a name: the next begins when the one before has ended, however it ended.
 * What is computed before something is written must read the state when its turn comes, never when it was asked.
 */
export function inTurn<T>(name: string, work: () => Promise<T>): Promise<T> {
  const before = queues.get(name) ?? Promise.resolve();
  const mine = before.catch(() => undefined).then(work);
  const settled = mine.catch(() => undefined);
  queues.set(name, settled);
  void settled.then(() => queues.get(name) === settled && queues.delete(name));
  return mine;
}
