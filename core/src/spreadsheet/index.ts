import Papa from 'papaparse';

/** A cell as it is told. */
export type Cell = string | number | boolean | null | undefined;

const NUMBER = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i;
/** What a spreadsheet takes for a formula, or what was made harmless already. */
const FORMULA = /^'*[=+\-@\t\r]/;

/**
 * A cell that no spreadsheet runs: text that begins like a formula and is no number gets an apostrophe before it.
 * {@link plainCell} takes it off again.
 */
export const harmlessCell = (cell: Cell): Cell =>
  typeof cell === 'string' && FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell;

/** A cell as it was before {@link harmlessCell}. */
export const plainCell = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

/**
 * Rows as comma-separated values, or with another delimiter; none of the lines ends behind the last one.
 * @param rows the first one with the names of the columns. Texts that a spreadsheet would run are made harmless.
 */
export const tableText = (rows: readonly (readonly Cell[])[], delimiter = ',', newline = '\r\n'): string =>
  Papa.unparse(
    rows.map((row) => row.map(harmlessCell)),
    { delimiter, newline },
  );
