/** One thing that reading found or changed. */
export interface Diagnosis {
  code: string;
  message: string;
  /** Line numbers, from 1. */
  lines?: number[];
  /** Largest displacement that the change caused, in chords. */
  displacement?: number;
}

/** A point as it was read. */
export interface Row {
  /** From 1; 0 for a point that was added. */
  line: number;
  x: number;
  y: number;
  /** A blank line or words stand before it. */
  fresh?: boolean;
}

/** A line of numbers. */
export interface NumberLine {
  line: number;
  values: number[];
}

const MOST_LINES = 20;

/** Line numbers for a diagnosis: the first few. */
export const linesOf = (rows: readonly { line: number }[]): number[] =>
  rows
    .map((r) => r.line)
    .filter((l) => l > 0)
    .slice(0, MOST_LINES);
