import { FailedComputation, InvalidInput, VeldtwindError } from '@veldtwind/core/numerics';

/** The writers are a file of their own, with classes of their own: what they refuse is told as what it is here. */
export async function asOwn<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const { name, code, message, hint, path } = error as VeldtwindError;
    const Kind = name === 'InvalidInput' ? InvalidInput : name === 'FailedComputation' ? FailedComputation : null;
    throw Kind && !(error instanceof VeldtwindError) ? new Kind(code, message, hint, path) : error;
  }
}
