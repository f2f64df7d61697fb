import { tableText } from '../spreadsheet';
import type { FlightModel } from './model';

/** Ways in which a linear model leaves. */
export const MODEL_FORMATS = ['json', 'csv', 'text', 'npz'] as const;
export type ModelFormat = (typeof MODEL_FORMATS)[number];

const KEYS = ['A', 'B', 'C', 'D'] as const;

/** As JSON: what `vw control --model` reads. */
export const modelJson = (m: FlightModel): string =>
  `${JSON.stringify({ A: m.A, B: m.B, C: m.C, D: m.D, states: m.states, inputs: m.inputs, outputs: m.outputs }, null, 2)}\n`;

/** As a table: one row a matrix row, named by matrix and row. */
export function modelCsv(m: FlightModel): string {
  const rowsOf = { A: m.states, B: m.states, C: m.outputs, D: m.outputs };
  const columnsOf = { A: m.states, B: m.inputs, C: m.states, D: m.inputs };
  const tables = KEYS.map((key) =>
    tableText([[key, ...columnsOf[key]], ...m[key].map((row, i) => [rowsOf[key][i], ...row])], ',', '\n'),
  );
  return `${tables.join('\n\n')}\n`;
}

/** As assignments that numerical languages read: rows parted by semicolons. */
export const modelText = (m: FlightModel): string =>
  [
    `% states: ${m.states.join(', ')}`,
    `% inputs: ${m.inputs.join(', ')}`,
    `% outputs: ${m.outputs.join(', ')}`,
    ...KEYS.map((key) => `${key} = [${m[key].map((row) => row.join(' ')).join('; ')}];`),
    '',
  ].join('\n');

/**
 * A matrix as a file of the open array format, version 1.0: float64, by rows.
 * @source the format's published description.
 */
export function arrayFile(rows: readonly (readonly number[])[]): Uint8Array {
  const [n, k] = [rows.length, rows[0]?.length ?? 0];
  const text = `{'descr': '<f8', 'fortran_order': False, 'shape': (${n}, ${k}), }`;
  // The header ends with a line feed, and the values begin at a multiple of 64.
  const length = Math.ceil((10 + text.length + 1) / 64) * 64 - 10;
  const out = new Uint8Array(10 + length + 8 * n * k);
  const view = new DataView(out.buffer);
  out.set([0x93, 0x4e, 0x55, 0x4d, 0x50, 0x59, 1, 0]);
  view.setUint16(8, length, true);
  const header = `${text.padEnd(length - 1)}\n`;
  for (let i = 0; i < length; i++) out[10 + i] = header.charCodeAt(i);
  rows.flat().forEach((v, i) => view.setFloat64(10 + length + 8 * i, v, true));
  return out;
}

/** Files of an archive of arrays: zip them under these names. */
export const modelArrays = (m: FlightModel): Record<string, Uint8Array> =>
  Object.fromEntries(KEYS.map((key) => [`${key}.npy`, arrayFile(m[key])]));
