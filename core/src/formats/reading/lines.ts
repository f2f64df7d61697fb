import type { NumberLine } from './types';

/*
 * Every pattern here finds its match or its failure in one walk over the line: no two parts of it that follow each other can take the same signs.
 * A file may hold anything, also a single line of a million blanks.
 */
const NUMBER = /^[+\-−]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eEdD][+\-−]?\d+)?$/;
const REMARK = /[#!%*'"]|\/[/*]/;
const WORD = /^["']?[A-Za-z][\w .-]*["']?$/;
/** Numbers of a line that are looked at. */
const MOST_COLUMNS = 64;
/** Titles that are kept. */
const MOST_TITLES = 100;

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
  const byBlanks = !separated || /[,;]$/.test(bare) || /\d\s+[-+.\d]/.test(bare);
  const tokens = bare.split(byBlanks ? /[\s;,]+/ : /[,;\t]/, MOST_COLUMNS).map((t) => t.trim());
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
    if (/\d,\d+(?:[ \t]+|[ \t]*;[ \t]*)[-+−]?\d+,\d/.test(bare) || /^[-+−]?\d+,\d+,[-+−]?\d+,\d+$/.test(bare)) yes++;
  }
  return yes >= 3;
}

/** The lines of a text, however they end. */
function splitLines(text: string): string[] {
  const lines: string[] = [];
  let start = text.charCodeAt(0) === 0xfeff ? 1 : 0;
  for (let i = start; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code !== 10 && code !== 13 && code !== 0x2028 && code !== 0x2029) continue;
    lines.push(text.slice(start, i));
    if (code === 13 && text.charCodeAt(i + 1) === 10) i++;
    start = i + 1;
  }
  lines.push(text.slice(start));
  return lines;
}

/** Takes a text apart into lines of numbers and all else. @param most lines of numbers after which reading ends. */
export function readLines(text: string, most = Infinity): TextLines {
  const lines = splitLines(text);
  const decimalComma = usesDecimalComma(lines);
  const found: TextLines = { numbers: [], titles: [], skipped: [], breaks: [], lone: [], decimalComma };
  const brk = () => {
    if (found.numbers.length > 0 && found.breaks.at(-1) !== found.numbers.length)
      found.breaks.push(found.numbers.length);
  };
  for (let i = 0; i < lines.length && found.numbers.length < most; i++) {
    const bare = lines[i] === '' ? '' : lines[i].replaceAll('\u00a0', ' ').replaceAll('\u0000', '').trim();
    if (bare === '') {
      brk();
      continue;
    }
    let values = numbersOf(bare, decimalComma);
    if (!values) {
      const remark = bare.search(REMARK);
      if (remark > 0) values = numbersOf(bare.slice(0, remark), decimalComma);
    }
    if (values && values.length >= 2) {
      found.numbers.push({ line: i + 1, values });
      continue;
    }
    if (values && found.numbers.length === 0) {
      found.lone.push(values[0]);
      continue;
    }
    brk();
    if (/^(?:#|!|%|\/\/|\/\*|\*)/.test(bare)) continue;
    if (found.numbers.length > 0) found.skipped.push(i + 1);
    else if (found.titles.length < MOST_TITLES) found.titles.push(bare.slice(0, 200).replace(/^["']|["']$/g, ''));
  }
  return found;
}

/** A title that names columns and not a section. */
const isHeader = (title: string) =>
  title.length < 30 && /^(?:surface[\s,;]+)?["']?x\b[^a-z]*(?:[\s,;/]|to)*["']?(?:y|z|c)?/i.test(title);

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
