import Papa from 'papaparse';
import { InvalidInput, RAD } from '../numerics';
import { plainCell } from '../spreadsheet';

/** What a record of a response may hold, by the motion that it belongs to. */
export const RESPONSE_OUTPUTS = {
  longitudinal: ['speed', 'alpha', 'q', 'theta'],
  lateral: ['beta', 'p', 'r', 'phi'],
} as const;
export type ResponseMotion = keyof typeof RESPONSE_OUTPUTS;
export type ResponseOutput = (typeof RESPONSE_OUTPUTS)[ResponseMotion][number];

/** A recorded response: time from its first row, s; speed in m/s, angles in rad, rates in rad/s, deflections in rad. */
export interface ResponseRecord {
  t: number[];
  outputs: Partial<Record<ResponseOutput, number[]>>;
  /** Deflections by the control's id. */ controls: Record<string, number[]>;
  /** What was left out, and why. */ notes: string[];
}

const WORDS: [RegExp, 'time' | ResponseOutput][] = [
  [/^(t|time)$/, 'time'],
  [/^(u|v|speed|airspeed|tas)$/, 'speed'],
  [/^(alpha|α|angle[ _]of[ _]attack)$/, 'alpha'],
  [/^(beta|β|sideslip)$/, 'beta'],
  [/^(p|roll[ _]rate)$/, 'p'],
  [/^(q|pitch[ _]rate)$/, 'q'],
  [/^(r|yaw[ _]rate)$/, 'r'],
  [/^(theta|θ|pitch|pitch[ _]angle)$/, 'theta'],
  [/^(phi|φ|bank|roll|bank[ _]angle|roll[ _]angle)$/, 'phi'],
];
const TIME = { s: 1, ms: 1e-3, us: 1e-6 };
const SPEED = { 'm/s': 1, 'km/h': 1 / 3.6, kt: 1852 / 3600, 'ft/s': 0.3048 };
const ANGLE = { deg: RAD, '°': RAD, rad: 1 };
const RATE = { 'deg/s': RAD, '°/s': RAD, 'rad/s': 1 };
const unitsOf = (quantity: string): Record<string, number> =>
  quantity === 'time' ? TIME : quantity === 'speed' ? SPEED : 'pqr'.includes(quantity) ? RATE : ANGLE;

/** Headings of a flight that was simulated here: SI, rad, and velocities along the body beside the speed. */
const OWN_FLIGHT = ['t', 'V', 'u', 'v', 'w', 'p', 'q', 'r', 'theta', 'phi', 'alpha', 'beta'];
const NOT_SPEED = ['u', 'v'];

const MOST_BYTES = 16_000_000;
const MOST_ROWS = 20_000;
const LEAST_ROWS = 20;

/**
 * Reads the record of a response: a table with a row of headings, such as `t (s), alpha (deg), q (deg/s), Elevator (deg)`. A flight that was simulated here,
 * as `vw fly --csv` writes it, is read as it is.
 * @param controls ids and names of the controls that may head a column.
 * @throws InvalidInput `record-table`, `record-columns`, `record-unit` also for an angle without one, `record-clock` where time goes back, `record-short`.
 */
export function readResponseRecord(text: string, controls: readonly { id: string; name: string }[]): ResponseRecord {
  const refuse = (code: string, message: string, hint: string): never => {
    throw new InvalidInput(code, message, hint, 'record');
  };
  if (text.length > MOST_BYTES)
    refuse('record-table', 'The record is larger than 16 MB.', 'Leave out rows or columns.');
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, '').trim(), { skipEmptyLines: 'greedy' });
  if (data.length < 2)
    refuse('record-table', 'The file holds no table.', 'Give a row of headings, and rows of numbers below.');
  if (data.length - 1 > MOST_ROWS)
    refuse('record-table', `There are ${data.length - 1} rows; ${MOST_ROWS} is the most.`, 'Leave out rows.');
  const notes: string[] = [];
  const own = OWN_FLIGHT.every((name) => data[0].includes(name));
  const columns: { key: string; control: boolean; at: number; unit: number }[] = [];
  data[0].forEach((raw, at) => {
    const heading = plainCell(raw).trim();
    const found = /^\s*([^,([]+?)\s*(?:[,([]\s*([^)\]]*?)\s*[)\]]?)?\s*$/.exec(heading);
    const word = (found?.[1] ?? heading).trim();
    const control = controls.find((c) => [c.id, c.name].some((n) => n.toLowerCase() === word.toLowerCase()));
    const key = control?.id ?? WORDS.find(([r]) => r.test(word.toLowerCase()))?.[1];
    if (own && (key === undefined || NOT_SPEED.includes(heading))) return;
    if (key === undefined) {
      notes.push(`column "${heading.slice(0, 60)}" is not read`);
      return;
    }
    const units = unitsOf(control ? 'angle' : key);
    const said = own
      ? units === ANGLE
        ? 'rad'
        : units === RATE
          ? 'rad/s'
          : ''
      : (found?.[2] ?? '').trim().toLowerCase();
    const unit = said === '' ? Object.values(units)[0] : units[said];
    if (unit === undefined || (said === '' && units !== TIME && units !== SPEED))
      refuse(
        'record-unit',
        said === '' ? `"${heading}" has no unit.` : `The unit of "${heading}" is not known.`,
        `Head it for instance "${word} (${Object.keys(units)[0]})"; known are ${Object.keys(units).join(', ')}.`,
      );
    if (columns.some((c) => c.key === key))
      refuse(
        key === 'time' ? 'record-clock' : 'record-columns',
        `There are two columns of ${key}${key === 'time' ? ': two clocks' : ''}.`,
        'Keep one of them.',
      );
    columns.push({ key, control: control !== undefined, at, unit });
  });
  const clock = columns.find((c) => c.key === 'time');
  const measured = columns.filter((c) => !c.control && c.key !== 'time');
  const missing = [
    ...(clock ? [] : ['time']),
    ...(measured.length > 0 ? [] : ['a response, such as alpha or q']),
    ...(columns.some((c) => c.control)
      ? []
      : [`a control (${controls.map((c) => c.name).join(', ') || 'none there'})`]),
  ];
  if (missing.length > 0)
    refuse(
      'record-columns',
      `There is no column of ${missing.join(', nor of ')}.`,
      `The headings are ${data[0].slice(0, 12).join(', ')}.`,
    );
  const cell = (row: readonly string[], c: { at: number; unit: number }) => {
    const text = (row[c.at] ?? '').trim().replace(/[−–]/g, '-');
    return text === '' ? NaN : Number(text) * c.unit;
  };
  const rows = data
    .slice(1)
    .map((row, i) => ({ line: i + 2, values: columns.map((c) => cell(row, c)) }))
    .filter(({ line, values }) => {
      const whole = values.every(Number.isFinite);
      if (!whole) notes.push(`row ${line} is left out: not all of it are numbers`);
      return whole;
    });
  if (notes.length > 6) notes.splice(5, Infinity, `and ${notes.length - 5} more`);
  if (rows.length < LEAST_ROWS)
    refuse(
      'record-short',
      `There are ${rows.length} rows with numbers; ${LEAST_ROWS} is the least.`,
      'Give a record of the whole response.',
    );
  const list = (c: { at: number }) => rows.map((r) => r.values[columns.findIndex((k) => k.at === c.at)]);
  const t = list(clock!);
  const back = t.findIndex((v, i) => i > 0 && v <= t[i - 1]);
  if (back > 0)
    refuse(
      'record-clock',
      `Time does not rise at row ${rows[back].line}, from ${t[back - 1]} to ${t[back]} s.`,
      'Keep one record, with times that rise.',
    );
  return {
    t: t.map((v) => v - t[0]),
    outputs: Object.fromEntries(measured.map((c) => [c.key, list(c)])),
    controls: Object.fromEntries(columns.filter((c) => c.control).map((c) => [c.key, list(c)])),
    notes,
  };
}

/** A record of which every list is made anew, with time from its first row. */
function everyList(record: ResponseRecord, of: (list: readonly number[]) => number[]): ResponseRecord {
  const all = <K extends string>(lists: Partial<Record<K, number[]>>) =>
    Object.fromEntries(Object.entries<number[] | undefined>(lists).map(([k, v]) => [k, of(v!)])) as Record<K, number[]>;
  const t = of(record.t);
  return {
    t: t.map((v) => v - t[0]),
    outputs: all(record.outputs),
    controls: all(record.controls),
    notes: record.notes,
  };
}

/**
 * A record with at most so many rows: neighbouring rows are averaged, which keeps what is slower than they are and lowers the noise of each.
 * @param most rows, 1 and more.
 */
export function condensed(record: ResponseRecord, most: number): ResponseRecord {
  const each = Math.ceil(record.t.length / most);
  if (each <= 1) return record;
  const count = Math.floor(record.t.length / each);
  const of = (list: readonly number[]) =>
    Array.from({ length: count }, (_, i) => list.slice(i * each, (i + 1) * each).reduce((s, v) => s + v, 0) / each);
  const made = everyList(record, of);
  return { ...made, notes: [...record.notes, `each ${each} rows are averaged: ${count} of ${record.t.length}`] };
}

/** The rows of a record between two times, s, with time from the first of them. @throws InvalidInput `record-short`. */
export function cut(record: ResponseRecord, from: number, to: number): ResponseRecord {
  const [first, end] = [record.t.findIndex((v) => v >= from), record.t.filter((v) => v <= to).length];
  if (first < 0 || end - first < LEAST_ROWS)
    throw new InvalidInput(
      'record-short',
      `There are ${first < 0 ? 0 : Math.max(0, end - first)} rows from ${from} to ${to} s; ${LEAST_ROWS} is the least.`,
      'Take in more of the record.',
      'record',
    );
  return everyList(record, (list) => list.slice(first, end));
}

/** A control moves when it goes so far, rad. */
export const MOVES = 0.1 * RAD;
/** Rows of the beginning that tell the steady flight at least and at most. */
const [FEW, MANY] = [3, 50];

/** The steady flight that a record begins from: its speed, m/s, and the angle of its path above the horizon, rad; each where it was measured. */
export function steadyOf({ t, outputs, controls }: Pick<ResponseRecord, 't' | 'outputs' | 'controls'>): {
  speed?: number;
  climb?: number;
} {
  const moved = t.findIndex((_, i) => Object.values(controls).some((v) => Math.abs(v[i] - v[0]) >= MOVES));
  const rows = Math.min(t.length, Math.max(FEW, Math.min(MANY, moved < 0 ? MANY : moved)));
  const { speed, theta, alpha } = outputs;
  return {
    ...(speed && { speed: median(speed.slice(0, rows)) }),
    ...(theta && alpha && { climb: median(theta.slice(0, rows).map((v, i) => v - alpha[i])) }),
  };
}

function median(list: readonly number[]): number {
  const sorted = [...list].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
