import { fork, type ChildProcess } from 'node:child_process';
import { resolve } from 'node:path';

/** What a command ended with. */
export interface Ended {
  code: number;
  out: string;
  err: string;
}

let runner: ChildProcess | undefined;
let count = 0;
const waiting = new Map<number, { done: (ended: Ended) => void; fail: (error: Error) => void }>();

function begun(): ChildProcess {
  if (runner) return runner;
  const child = fork(resolve('scripts/vw-many.mjs'), { stdio: ['ignore', 'ignore', 'inherit', 'ipc'], execArgv: [] });
  child.on('message', (m: Ended & { id?: number }) => {
    if (m.id === undefined) return;
    waiting.get(m.id)?.done({ code: m.code, out: m.out, err: m.err });
    waiting.delete(m.id);
  });
  child.on('exit', (code, signal) => {
    if (runner === child) runner = undefined;
    for (const { fail } of waiting.values()) fail(new Error(`the runner of commands ended with ${code ?? signal}`));
    waiting.clear();
  });
  return (runner = child);
}
afterAll(() => {
  runner?.kill('SIGKILL');
});

/** Runs a command as `vw` would, in a process that does so for all tests of a file. */
export const vwIn = (
  args: readonly string[],
  where: { cwd?: string; env?: Record<string, string> } = {},
): Promise<Ended> =>
  new Promise((done, fail) => {
    const id = ++count;
    waiting.set(id, { done, fail });
    begun().send({ id, args, cwd: where.cwd ?? process.cwd(), env: where.env ?? {} });
  });
/** The same, in this folder. */
export const vw = (...args: string[]): Promise<Ended> => vwIn(args);
