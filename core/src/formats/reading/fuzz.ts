/** A small generator with a seed, so that a failure can be seen again. @returns numbers from 0 to below 1. */
export function seeded(seed: number): () => number {
  return () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
}

/** What files are made of, and what trips readers up. */
const PIECES = [
  ...['1 2\n', '\n', ' ', '\t', ';', ',', '1', '9', '.', '-', '0 0\n', '0.5 0.1\n', '1 0\n', '1,2;3,4\n', 'x', '#'],
  ...['"', '<path ', '<', '>', '/>', '<a>', '"d="', 'M', 'L0 0', 'e', '−', '\u2028', '\u2029', '\u0000', '\r', "'"],
  ...[
    '0\nSECTION\n',
    '10\n1\n20\n1\n',
    '0\nVERTEX\n',
    '&lt;',
    '&',
    '<!--',
    '<![CDATA[',
    '<!DOCTYPE a [',
    '<!ENTITY a "b">',
  ],
  ...['5 5\n', '1e308 1e308\n', '1e-320 1\n', '0 1\n1 0\n'],
];
const HEADS = ['', '<svg ', '<svg>', '<svg><path d="', '0\nSECTION\n', 'Title\n', '<svg><polyline points="'];

/** A hostile text: one piece or a group of them over and over, pieces in any order, or lines of small numbers and blanks. @param most its length. */
export function hostileText(random: () => number, most = 200_000): string {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const length = Math.floor(10 * (most / 10) ** random());
  const kind = Math.floor(random() * 5);
  const repeated = (p: string) => p.repeat(Math.ceil(length / p.length));
  if (kind === 0) return pick(HEADS) + repeated(pick(PIECES)) + pick(PIECES);
  if (kind === 1) return pick(HEADS) + repeated(pick(PIECES) + pick(PIECES) + pick(PIECES)) + pick(PIECES);
  if (kind === 2) return pick(HEADS) + Array.from({ length: Math.min(length, 400) }, () => pick(PIECES)).join('');
  if (kind === 3) {
    const some = [pick(PIECES), pick(PIECES), pick(PIECES), pick(PIECES)];
    let text = pick(HEADS);
    while (text.length < length) text += pick(some);
    return text;
  }
  const levels = 2 + Math.floor(random() * 9);
  const rows = 10 + Math.floor(random() * Math.min(length / 4, 4000));
  const falling = random() < 0.3;
  return Array.from({ length: rows }, (_, i) =>
    random() < 0.15
      ? ''
      : `${falling ? Math.abs(levels / 2 - (i * levels) / rows) : Math.floor(random() * levels)} ${Math.floor(random() * levels)}`,
  ).join('\n');
}
