import type { NumberLine } from './types';

const NUMBER = /^[+\-−]?(?:\d+\.?\d*|\.\d+)(?:[eEdD][+\-−]?\d+)?$/;
const COMMENT = /(?:#|!|%|\/\/|\/\*|\*|'|").*$/;
const WORD = /^["']?[A-Za-z][\w .-]*["']?$/;

/** A text taken apart into lines of numbers and all else. */
export interface TextLines {
  numbers: NumberLine[];
  /** Lines of words before the first numbers. */
  titles: string[];
  /** Lines of words among or after the numbers. */
  skipped: number[];
  /** Places in `numbers` before which a blank line or a line of words stands. */
  breaks: number[];
  /** A single whole number that stood alone before the points: a count. */
  lone: number[];
  decimalComma: boolean;
}

const value = (token: string) => Number(token.replaceAll('−', '-').replace(/[dD]/, 'e'));

/** Numbers of a line, or undefined when it does not hold numbers only (but for one word in front of separators, such as a surface's name). */
function numbersOf(line: string, comma: boolean): number[] | undefined {
  let bare = line.trim();
  if (comma) {
    if (/[;\s]/.test(bare.replace(/,\s+/g, ','))) bare = bare.replace(/(\d),(\d)/g, '$1.$2');
    else {
      // Commas between and inside the numbers: 0,5,0,1 is two of them.
      const parts = bare.split(',');
      if (parts.length === 4) bare = `${parts[0]}.${parts[1]} ${parts[2]}.${parts[3]}`;
    }
  }
  const separated = /[,;\t]/.test(bare);
  const tokens = bare.split(
    separated && !/[,;\t]\s*$/.test(bare) && !/\d\s+[-+.\d]/.test(bare) ? /\s*[,;\t]\s*/ : /[\s;,]+/,
  );
  if (tokens.length > 2 && separated && WORD.test(tokens[0])) tokens.shift();
  const values: number[] = [];
  for (const token of tokens) {
    if (token === '') continue;
    if (!NUMBER.test(token)) {
      // Words behind two numbers are a remark.
      if (values.length >= 2) break;
      return undefined;
    }
    values.push(value(token));
  }
  return values.length > 0 ? values : undefined;
}

/** True where a text uses commas as decimal signs: no points in its numbers, and commas inside numbers that other signs separate. */
function usesDecimalComma(lines: readonly string[]): boolean {
  let yes = 0;
  for (const line of lines) {
    const bare = line.trim();
    if (!/^[-+−]?\d/.test(bare)) continue;
    if (/\d\.\d|\.\d/.test(bare)) return false;
    if (/\d,\d+\s*[;\t ]\s*[-+−]?\d+,\d/.test(bare) || /^[-+−]?\d+,\d+,[-+−]?\d+,\d+$/.test(bare)) yes++;
  }
  return yes >= 3;
}

/** Takes a text apart into lines of numbers and all else. */
export function readLines(text: string): TextLines {
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r|\u2028/);
  const decimalComma = usesDecimalComma(lines);
  const found: TextLines = { numbers: [], titles: [], skipped: [], breaks: [], lone: [], decimalComma };
  lines.forEach((line, i) => {
    const bare = line.replaceAll('\u00a0', ' ').replaceAll('\u0000', '').trim();
    const brk = () => {
      if (found.numbers.length > 0 && found.breaks.at(-1) !== found.numbers.length)
        found.breaks.push(found.numbers.length);
    };
    if (bare === '') return brk();
    const values = numbersOf(bare, decimalComma) ?? numbersOf(bare.replace(COMMENT, ''), decimalComma);
    if (values && values.length >= 2) {
      found.numbers.push({ line: i + 1, values });
      return;
    }
    const comment = /^(?:#|!|%|\/\/|\/\*|\*)/.test(bare);
    if (values && found.numbers.length === 0) {
      found.lone.push(values[0]);
      return;
    }
    brk();
    if (comment) return;
    if (found.numbers.length === 0) found.titles.push(bare.replace(/^["']|["']$/g, ''));
    else found.skipped.push(i + 1);
  });
  return found;
}

/** A title that names columns and not a section. */
const isHeader = (title: string) =>
  /^(?:surface[\s,;]+)?["']?x\b[^a-z]*(?:[\s,;/]|to)*["']?(?:y|z|c)?/i.test(title) && title.length < 30;

/** The name that a text gives its section, if any. */
export function nameOf(titles: readonly string[]): string | undefined {
  return titles
    .map((t) =>
      t
        .replace(/\p{Cc}/gu, ' ')
        .replace(/\s+/g, ' ')
        .trim(),
    )
    .find((t) => /[\p{L}\d]/u.test(t) && !isHeader(t))
    ?.slice(0, 80);
}
