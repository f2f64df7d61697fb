import { DISTRIBUTION_KEYS, type Distributions } from '../section-flow';

/** Significant digits: single precision has seven, and the method not as many. */
const DIGITS = 5;
/** Powers of ten that are whole numbers without error. */
const POWERS = Array.from({ length: 23 }, (_, k) => 10 ** k);

/** A number with five significant digits, as short as it can be written; empty for what is none. Thousands are written for every point. */
export function shortNumber(v: number): string {
  if (!Number.isFinite(v)) return '';
  if (v === 0) return '0';
  const k = DIGITS - 1 - Math.floor(Math.log10(Math.abs(v)));
  if (k >= 0 && k < POWERS.length) return String(Math.round(v * POWERS[k]) / POWERS[k]);
  return String(Number(v.toPrecision(DIGITS)));
}

/** Distributions as CSV: one row a station of the upper surface, the lower surface or the wake. */
export function distributionTable(distributions: Distributions): string {
  let text = `side,${DISTRIBUTION_KEYS.join()}\n`;
  for (const side of ['top', 'bottom', 'wake'] as const) {
    const lists = DISTRIBUTION_KEYS.map((key) => distributions[side][key]);
    const n = lists[0].length;
    for (let i = 0; i < n; i++) {
      text += side;
      for (const list of lists) text += `,${shortNumber(list[i])}`;
      text += '\n';
    }
  }
  return text;
}
