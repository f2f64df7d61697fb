/** Text as it may stand in markup and in quoted attributes. */
export const escaped = (text: string): string =>
  text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;');

/** Pixels to a hundredth: nothing finer is seen, and files stay small and equal. */
export const num = (v: number): number => Math.round(100 * v) / 100;

type Attributes = Record<string, string | number>;
const written = (attributes: Attributes) =>
  Object.entries(attributes)
    .map(([k, v]) => ` ${k}="${escaped(String(v))}"`)
    .join('');

export const open = (name: string, attributes: Attributes): string => `<${name}${written(attributes)}>`;
export const textAt = (x: number, y: number, text: string, attributes: Attributes): string =>
  `<text x="${x}" y="${y}"${written(attributes)}>${escaped(text)}</text>`;
