import { InvalidInput } from '../numerics';

/** Nesting that a file or a request may have; projects have about ten. */
export const DEEPEST_JSON = 64;

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [0x22, 0x5c, 0x5b, 0x5d, 0x7b, 0x7d];

/** Whether JSON is nested deeper than some: one walk over its signs, before it is parsed. @param codeAt the sign at a place. */
export function isDeeper(length: number, codeAt: (i: number) => number, most = DEEPEST_JSON): boolean {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < length; i++) {
    const c = codeAt(i);
    if (quoted) {
      if (c === BACKSLASH) i++;
      else if (c === QUOTE) quoted = false;
    } else if (c === QUOTE) quoted = true;
    else if (c === OPEN_LIST || c === OPEN) {
      if (++depth > most) return true;
    } else if (c === CLOSE_LIST || c === CLOSE) depth--;
  }
  return false;
}

/** The value of a JSON text. @param what its name in messages. @throws InvalidInput `json` where it is none, or nested without end. */
export function parseJson(text: string, what: string, hint = 'Check its syntax.'): unknown {
  const bare = text.replace(/^\uFEFF/, '');
  if (isDeeper(bare.length, (i) => bare.charCodeAt(i)))
    throw new InvalidInput('json', `${what} is nested more than ${DEEPEST_JSON} deep.`, 'Write it flat.');
  try {
    return JSON.parse(bare);
  } catch (error) {
    throw new InvalidInput('json', `${what} is not JSON (${(error as Error).message}).`, hint);
  }
}
