/** A column of a printed table. */
export interface Column<T> {
  title: string;
  text: (row: T) => string;
}

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
