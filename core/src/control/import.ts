import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import { plainCell } from '../spreadsheet';
import { refusalOf } from '../limits';
import { InvalidInput } from '../numerics';
import { controlModel, type ControlModel } from './schema';
import { zeros } from './state-space';

const KEYS = ['A', 'B', 'C', 'D'] as const;
type Key = (typeof KEYS)[number];
interface Raw {
  matrices: Partial<Record<Key, number[][]>>;
  states?: string[];
  inputs?: string[];
  outputs?: string[];
  loops?: unknown;
}
const MOST_BYTES = 4_000_000;
const HINT = 'Give a model as vw control --export writes it: .json, .csv, .txt, .m or .npz; see docs/control.md.';
const refuse = (message: string): never => {
  throw new InvalidInput('model', message, HINT);
};

/**
 * Reads a linear model in one of the ways in which it leaves: JSON, CSV, text, or an archive of arrays. Names that the file does not have are made up; without
 * C the states are put out, without D nothing passes through.
 * @param name of the file, by whose end the way is known. @throws InvalidInput `model`, with what is wrong.
 */
export function readModel(bytes: Uint8Array, name: string): ControlModel {
  if (bytes.length > MOST_BYTES) refuse('The file is larger than 4 MB.');
  const end = /\.(\w+)$/.exec(name)?.[1].toLowerCase() ?? '';
  const read: Record<string, () => Raw> = {
    json: () => fromJson(decode(bytes)),
    csv: () => fromCsv(decode(bytes)),
    txt: () => fromText(decode(bytes)),
    m: () => fromText(decode(bytes)),
    npz: () => fromArrays(bytes),
  };
  if (!Object.hasOwn(read, end)) refuse(`It is not known how to read ${name}.`);
  const { matrices, loops, ...names } = read[end]();
  const { A, B } = matrices;
  if (!A || A.length === 0) return refuse('The file holds no matrix A.');
  if (!B || B.length === 0) return refuse('The file holds no matrix B.');
  const states = names.states ?? A.map((_, i) => `x${i + 1}`);
  const C = matrices.C ?? A.map((_, i) => A.map((__, j) => (i === j ? 1 : 0)));
  const inputs = names.inputs ?? B[0].map((_, i) => `u${i + 1}`);
  const outputs = names.outputs ?? (matrices.C ? C.map((_, i) => `y${i + 1}`) : states);
  const parsed = controlModel.safeParse({
    A,
    B,
    C,
    D: matrices.D ?? zeros(C.length, inputs.length),
    states,
    inputs,
    outputs,
    ...(loops === undefined ? {} : { loops }),
  });
  if (parsed.success) return parsed.data;
  throw refusalOf(parsed.error, 'The model');
}

const decode = (bytes: Uint8Array): string => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes).replace(/^\uFEFF/, '');
  } catch {
    return refuse('The file is no text.');
  }
};

function fromJson(text: string): Raw {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return refuse(`The file is no JSON: ${(error as Error).message}.`);
  }
  if (typeof value !== 'object' || value === null) return refuse('The file holds no model.');
  const { A, B, C, D, ...rest } = value as Record<string, never>;
  return { matrices: { A, B, C, D }, ...rest };
}

const number = (cell: string, where: string): number => {
  const v = Number(cell);
  return cell.trim() !== '' && Number.isFinite(v) ? v : refuse(`${where} holds "${cell}", which is no number.`);
};

/** Blocks that begin with a row of the matrix's letter and its columns' names; each row begins with its own name. */
function fromCsv(text: string): Raw {
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy', transform: plainCell });
  const out: Raw = { matrices: {} };
  let key: Key | null = null;
  let width = 0;
  for (const row of data) {
    const first = row[0].trim();
    if (
      (KEYS as readonly string[]).includes(first) &&
      row.slice(1).some((c) => !Number.isFinite(Number(c)) || c === '')
    ) {
      key = first as Key;
      width = row.length - 1;
      out.matrices[key] = [];
      const names = row.slice(1).map((c) => c.trim());
      if (key === 'A') out.states = names;
      if (key === 'B') out.inputs = names;
      if (key === 'C') out.outputs = [];
      continue;
    }
    if (!key) return refuse('The table does not begin with a row that names A and its states.');
    if (row.length - 1 !== width) refuse(`A row of ${key} has ${row.length - 1} numbers, not ${width}.`);
    if (key === 'C') out.outputs!.push(first);
    out.matrices[key]!.push(row.slice(1).map((c) => number(c, `Row ${first} of ${key}`)));
  }
  return out;
}

/** Assignments such as `A = [1 2; 3 4];`, with names in comments. */
function fromText(text: string): Raw {
  const out: Raw = { matrices: {} };
  for (const [, what, list] of text.matchAll(/^\s*[%#]\s*(states|inputs|outputs)\s*:\s*(.+)$/gm))
    out[what as 'states'] = list
      .split(',')
      .map((v) => v.trim())
      .filter(Boolean);
  for (const [, key, body] of text.replace(/^\s*[%#].*$/gm, '').matchAll(/\b([ABCD])\s*=\s*\[([^\]]*)\]/g)) {
    const rows = body
      .split(/;|\n/)
      .map((r) => r.trim())
      .filter(Boolean)
      .map((r) => r.split(/[\s,]+/).map((c) => number(c, key)));
    if (rows.some((r) => r.length !== rows[0].length)) refuse(`The rows of ${key} differ in length.`);
    out.matrices[key as Key] = rows;
  }
  return out;
}

/** Files of the open array format in a zip archive; names are not in it. */
function fromArrays(bytes: Uint8Array): Raw {
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, { filter: (f) => /^[ABCD]\.npy$/.test(f.name) && f.originalSize < MOST_BYTES });
  } catch {
    return refuse('The file is no archive of arrays, or is cut off.');
  }
  const out: Raw = { matrices: {} };
  for (const [name, data] of Object.entries(files)) out.matrices[name[0] as Key] = readArrayFile(data, name);
  return out;
}

/**
 * A matrix of a file of the open array format, versions 1 to 3. @throws InvalidInput `model` for other kinds of numbers than float64 and float32.
 * @source the format's published description.
 */
export function readArrayFile(data: Uint8Array, name: string): number[][] {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  if (data.length < 12 || data[0] !== 0x93 || String.fromCharCode(...data.slice(1, 6)) !== 'NUMPY')
    return refuse(`${name} is no array file.`);
  const wide = data[6] > 1;
  const length = wide ? view.getUint32(8, true) : view.getUint16(8, true);
  const start = (wide ? 12 : 10) + length;
  const header = String.fromCharCode(...data.slice(wide ? 12 : 10, Math.min(start, 4096)));
  const kind = /'descr'\s*:\s*'([<>|=]?[a-z]\d+)'/.exec(header)?.[1];
  const byColumns = /'fortran_order'\s*:\s*True/.test(header);
  const shape = /'shape'\s*:\s*\(([^)]*)\)/
    .exec(header)?.[1]
    .split(',')
    .map((v) => v.trim())
    .filter(Boolean)
    .map(Number);
  if (!shape || shape.length === 0 || shape.length > 2 || !shape.every((v) => Number.isInteger(v) && v > 0 && v <= 60))
    return refuse(`${name} is no matrix of at most 60 rows and columns.`);
  const size =
    kind === '<f8' || kind === '>f8'
      ? 8
      : kind === '<f4' || kind === '>f4'
        ? 4
        : refuse(`${name} holds numbers of the kind ${kind ?? '?'}, not float64.`);
  const little = kind![0] === '<';
  const [rows, columns] = shape.length === 1 ? [1, shape[0]] : shape;
  if (data.length < start + size * rows * columns) refuse(`${name} is cut off.`);
  const at = (i: number) =>
    size === 8 ? view.getFloat64(start + 8 * i, little) : view.getFloat32(start + 4 * i, little);
  return Array.from({ length: rows }, (_, r) =>
    Array.from({ length: columns }, (__, c) => at(byColumns ? c * rows + r : r * columns + c)),
  );
}
