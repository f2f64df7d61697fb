import { HttpError } from './errors';

/** Nesting that a request may have; projects have about ten. */
export const DEEPEST_REQUEST = 64;

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [0x22, 0x5c, 0x5b, 0x5d, 0x7b, 0x7d];

/** Refuses JSON that is nested too deep, before it is parsed: a walk over its bytes. @throws HttpError 400. */
export function checkDepth(bytes: Uint8Array, most = DEEPEST_REQUEST): void {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i];
    if (quoted) {
      if (b === BACKSLASH) i++;
      else if (b === QUOTE) quoted = false;
    } else if (b === QUOTE) quoted = true;
    else if (b === OPEN_LIST || b === OPEN) {
      if (++depth > most)
        throw new HttpError(400, 'too-deep', `The request is nested more than ${most} deep.`, 'Send it flat.');
    } else if (b === CLOSE_LIST || b === CLOSE) depth--;
  }
}
