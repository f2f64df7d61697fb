import { DEEPEST_JSON, isDeeper } from '@veldtwind/core/limits';
import { HttpError } from './errors';

/** Refuses JSON that is nested too deep, before it is parsed. @throws HttpError 400. */
export function checkDepth(bytes: Uint8Array, most = DEEPEST_JSON): void {
  if (isDeeper(bytes.length, (i) => bytes[i], most))
    throw new HttpError(400, 'too-deep', `The request is nested more than ${most} deep.`, 'Send it flat.');
}
