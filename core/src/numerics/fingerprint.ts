/** A short fingerprint of a text, 16 hexadecimal digits: equal texts have equal ones. Not for secrets. @source FNV-1a, IETF RFC 9923. */
export function fingerprint(text: string): string {
  // 64 bits as two halves of 32, since numbers hold 53.
  let low = 0x84222325;
  let high = 0xcbf29ce4;
  for (let i = 0; i < text.length; i++) {
    low = (low ^ text.charCodeAt(i)) >>> 0;
    // Times 2^40 + 435.
    const product = low * 435;
    const carry = Math.floor(product / 2 ** 32);
    high = (Math.imul(high, 435) + carry + (low << 8)) >>> 0;
    low = product >>> 0;
  }
  return high.toString(16).padStart(8, '0') + low.toString(16).padStart(8, '0');
}
