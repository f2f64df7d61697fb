/** What the platform offers everywhere, in the browser as under Node; core's own types know neither. */
declare const TextDecoder: new (
  label: string,
  options?: { fatal?: boolean; ignoreBOM?: boolean },
) => { decode(bytes: Uint8Array): string };

/**
 * Text of a file: UTF-16 or UTF-8 by its byte-order mark, else UTF-8 where it is valid, else Latin-1.
 * @returns the text without a byte-order mark.
 */
export function decodeText(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}
