import { writeFileSync } from 'node:fs';
import { tableText } from '@veldtwind/core/spreadsheet';
import { InvalidInput } from '@veldtwind/core/numerics';
import { digitsOf, headingOf, inUnit, quantityIn, type Quantity } from '@veldtwind/core/quantities';

/** A column of a printed table. */
export interface Column<T> {
  title: string;
  text: (row: T) => string;
}

/**
 * Columns of quantities, in metric units. @param ids which, in their order. @param from what a row's quantities are read from; null where it has none.
 */
export const quantityColumns = <T, From>(
  list: readonly Quantity<From>[],
  ids: readonly string[],
  from: (row: T) => From | null,
): Column<T>[] =>
  ids.map((id) => {
    const q = quantityIn(list, id);
    return {
      title: headingOf(q),
      text: (row) => {
        const source = from(row);
        const value = source === null ? null : q.of(source);
        return value === null || !Number.isFinite(value)
          ? ''
          : inUnit(q, value, 'metric').toFixed(digitsOf(q, 'metric'));
      },
    };
  });

/** A table as text: right-aligned columns, two blanks apart. */
export function table<T>(rows: readonly T[], columns: Column<T>[]): string {
  const cells = rows.map((r) => columns.map((c) => c.text(r)));
  const widths = columns.map((c, i) => Math.max(c.title.length, ...cells.map((row) => row[i].length)));
  const line = (row: string[]) =>
    row
      .map((cell, i) => cell.padStart(widths[i]))
      .join('  ')
      .trimEnd();
  return [line(columns.map((c) => c.title)), ...cells.map(line)].join('\n') + '\n';
}

/** Writes a value as JSON on standard output. Numbers that are none become null. */
export function printJson(value: unknown): void {
  process.stdout.write(
    `${JSON.stringify(value, (_, v) => (typeof v === 'number' && !Number.isFinite(v) ? null : v))}\n`,
  );
}

/** Writes a file, in the place of one that is there. @throws InvalidInput `file` where it cannot be written. */
export function writeFile(path: string, content: string | Uint8Array): void {
  try {
    writeFileSync(path, content);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    throw new InvalidInput('file', `${path} cannot be written (${code}).`, 'Give another path.');
  }
}

/** Writes rows as CSV, one column each as the table prints it. @throws InvalidInput `file` where the file cannot be written. */
export function writeCsv<T>(path: string, rows: readonly T[], columns: Column<T>[]): void {
  const text = tableText([columns.map((c) => c.title.trim()), ...rows.map((r) => columns.map((c) => c.text(r)))]);
  writeFile(path, `${text}\n`);
}
