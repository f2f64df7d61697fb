import { closeSync, openSync, writeSync } from 'node:fs';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { TraceStep } from '@veldtwind/core/section-flow';

/** A file of iterations as JSON lines, numbers with four digits. @throws InvalidInput `file` where it cannot be written. */
export function openTrace(path: string): { write: (step: TraceStep) => void; close: () => void } {
  let file: number;
  try {
    file = openSync(path, 'w');
  } catch (error) {
    throw new InvalidInput('file', `${path} cannot be written (${(error as NodeJS.ErrnoException).code}).`);
  }
  const short = (_key: string, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(4)) : v);
  return {
    write: (step) => {
      try {
        writeSync(file, `${JSON.stringify(step, short)}\n`);
      } catch (error) {
        throw new InvalidInput('file', `${path} cannot be written (${(error as NodeJS.ErrnoException).code}).`);
      }
    },
    close: () => closeSync(file),
  };
}
