import Papa from 'papaparse';
import { plainCell } from '../spreadsheet';
import { InvalidInput } from '../numerics';

/** Quantities that a measured table can hold. */
export const MEASURED_QUANTITIES = ['alpha', 'cl', 'cd', 'cm', 'transition-top', 'transition-bottom'] as const;
export type MeasuredQuantity = (typeof MEASURED_QUANTITIES)[number];
export const MOST_ROWS = 5000;
const MOST_BYTES = 4_000_000;
const MOST_COLUMNS = 60;
const MOST_TOLD = 5;

/** A table as it was read: its headings, its cells as numbers, and what its columns seem to hold. */
export interface MeasuredTable {
  /** As in the file; `column 1` and so on where it has none. */
  headings: string[];
  /** Null where a cell is empty or no number. */
  rows: (number | null)[][];
  /** What each column seems to hold by its heading. */
  guess: (MeasuredQuantity | null)[];
  /** Cells that are no numbers, as sentences. */
  notes: string[];
}

/** Words that headings begin with, longest first. */
const WORDS: [RegExp, MeasuredQuantity][] = [
  [/^(alpha|α|angle|incidence|aoa|alfa)/, 'alpha'],
  [/^(xtr?|transition|x_?t|tr).*(top|upper|up|u$|1$)/, 'transition-top'],
  [/^(xtr?|transition|x_?t|tr).*(bot|lower|low|l$|2$)/, 'transition-bottom'],
  [/^(c_?l|ca|cz|lift)(?![a-z]*d)/, 'cl'],
  [/^(c_?d|cw|cx|drag)/, 'cd'],
  [/^(c_?m|moment|pitch)/, 'cm'],
];
const quantityOf = (heading: string): MeasuredQuantity | null => {
  const plain = heading
    .trim()
    .toLowerCase()
    .replace(/[\s()[\]{}$\\,/°]+/g, '');
  return WORDS.find(([word]) => word.test(plain))?.[1] ?? null;
};

/** A cell as a number: a decimal comma is taken where no point is used, and a true minus sign for a minus. */
function numberOf(cell: string, comma: boolean): number | null {
  const text = cell.trim().replace(/[−–]/g, '-').replace(/\s/g, '');
  if (text === '') return null;
  const value = Number(comma ? text.replace(',', '.') : text);
  return Number.isFinite(value) ? value : NaN;
}

/**
 * Reads a table of measured values, separated by commas, semicolons, tabs or blanks, with headings or without.
 * @throws InvalidInput `measured-table` for what holds no two columns of numbers.
 */
export function readMeasuredTable(text: string): MeasuredTable {
  const refuse = (message: string): never => {
    throw new InvalidInput(
      'measured-table',
      message,
      'Give a table with a row of headings and a column each of angle, lift, drag or moment, such as CSV.',
    );
  };
  if (text.length > MOST_BYTES) return refuse('The table is larger than 4 MB.');
  const clean = text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n');
  if (clean.includes('\0')) return refuse('This is no text.');
  const lines = clean.split('\n').filter((l) => l.trim() && !/^\s*(#|%|\/\/)/.test(l));
  const blanks = !lines.some((l) => /[,;\t]/.test(l));
  const source = blanks ? lines.map((l) => l.trim().replace(/\s+/g, '\t')).join('\n') : lines.join('\n');
  const parsed = Papa.parse<string[]>(source, {
    ...(blanks ? { delimiter: '\t' } : { delimitersToGuess: [';', '\t', ','] }),
    skipEmptyLines: 'greedy',
    transform: plainCell,
  }).data;
  const width = Math.min(MOST_COLUMNS, Math.max(0, ...parsed.map((r) => r.length)));
  if (parsed.length === 0 || width < 2) return refuse('There are no two columns in it.');
  // A comma is decimal where cells hold it, which they only do where something else separates them.
  const comma = parsed.some((r) => r.some((c) => /^\s*[-−+]?\d*,\d+/.test(c)));
  const numeric = (r: string[]) => r.filter((c) => Number.isFinite(numberOf(c, comma) ?? NaN)).length;
  const first = parsed.findIndex((r) => numeric(r) >= 2);
  if (first < 0) return refuse('No row of it has two numbers.');
  const named = first > 0 ? parsed[first - 1] : undefined;
  const headings = Array.from({ length: width }, (_, i) => named?.[i]?.trim() || `column ${i + 1}`);
  const body = parsed.slice(first);
  if (body.length > MOST_ROWS) return refuse(`It has ${body.length} rows; at most ${MOST_ROWS} are read.`);
  const notes: string[] = [];
  let untold = 0;
  const rows = body.map((r, k) =>
    Array.from({ length: width }, (_, i) => {
      const v = numberOf(r[i] ?? '', comma);
      if (v === null || Number.isFinite(v)) return v;
      if (notes.length < MOST_TOLD)
        notes.push(`Row ${k + 1}, ${headings[i]}: “${r[i].trim().slice(0, 40)}” is no number; left out.`);
      else untold++;
      return null;
    }),
  );
  if (untold > 0) notes.push(`And ${untold} more cells that are no numbers.`);
  const taken = new Set<MeasuredQuantity>();
  const guess = headings.map((h) => {
    const q = quantityOf(h);
    if (q === null || taken.has(q)) return null;
    taken.add(q);
    return q;
  });
  return { headings, rows, guess, notes };
}

/**
 * The rows of a table by chosen columns; rows with fewer than two values are left out.
 * @param columns what each column of the table holds, null for nothing. @throws InvalidInput `measured-columns` for fewer than two, or one twice.
 */
export function chosenColumns(
  table: Pick<MeasuredTable, 'rows'>,
  columns: readonly (MeasuredQuantity | null)[],
): { columns: MeasuredQuantity[]; rows: (number | null)[][] } {
  const at = columns.flatMap((q, i) => (q === null ? [] : [{ q, i }]));
  const twice = at.find(({ q }, k) => at.findIndex((a) => a.q === q) !== k);
  if (twice)
    throw new InvalidInput('measured-columns', `Two columns are said to hold ${twice.q}.`, 'Choose one of them.');
  if (at.length < 2) throw new InvalidInput('measured-columns', 'Choose what two columns hold at least.');
  const rows = table.rows
    .map((r) => at.map(({ i }) => r[i] ?? null))
    .filter((r) => r.filter((v) => v !== null).length >= 2);
  if (rows.length === 0) throw new InvalidInput('measured-columns', 'No row has two values in those columns.');
  return { columns: at.map(({ q }) => q), rows };
}
