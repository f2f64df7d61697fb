import Papa from 'papaparse';
import { InvalidInput } from '../numerics';
import { plainCell } from '../spreadsheet';

/** What a column of an observed flight holds. */
export const PATH_QUANTITIES = ['time', 'x', 'y', 'height', 'speed'] as const;
export type PathQuantity = (typeof PATH_QUANTITIES)[number];

/** A flight as it was observed: SI, time from its first row. */
export interface ObservedPath {
  /** s */ t: number[];
  /** Along the launch direction and to the right of it from the first row on; m. */ x: number[];
  y: number[] | null;
  /** m */ height: number[];
  /** m/s; null where it is not told. */ speed: (number | null)[] | null;
  /** What was left out, and why. */ notes: string[];
  /** Rows after which the time stands still for long, as time and length, s. */ gaps: { at: number; length: number }[];
  /** Rows that lie far from their neighbours. */ outliers: { row: number; by: number }[];
}

const WORDS: [RegExp, PathQuantity][] = [
  [/^(t|time|seconds?|sec|clock|frame_?time)$/, 'time'],
  [/^(x|distance|range|along|north|downrange)$/, 'x'],
  [/^(y|lateral|across|east|right)$/, 'y'],
  [/^(h|height|altitude|up)$/, 'height'],
  [/^(v|speed|airspeed|groundspeed)$/, 'speed'],
];
/** Of the units that headings name in brackets or behind a comma. */
const UNITS: Record<string, number> = {
  s: 1,
  ms: 1e-3,
  us: 1e-6,
  min: 60,
  m: 1,
  cm: 0.01,
  mm: 0.001,
  km: 1000,
  ft: 0.3048,
  in: 0.0254,
  'm/s': 1,
  'km/h': 1 / 3.6,
  kt: 1852 / 3600,
  kn: 1852 / 3600,
  'ft/s': 0.3048,
  mph: 0.44704,
};
export const MOST_PATH_ROWS = 20_000;
const MOST_BYTES = 8_000_000;
/** Steps of time longer than so many usual ones are gaps. */
const GAP = 4;
/** Rows that lie so many typical deviations from the line between their neighbours are outliers. */
const FAR = 8;

/** A heading as its quantity and the size of its unit. */
function headed(heading: string): { quantity: PathQuantity | null; unit: number; known: boolean } {
  const found = /^\s*([^,([]+?)\s*(?:[,([]\s*([^)\]]*?)\s*[)\]]?)?\s*$/.exec(heading);
  const word = (found?.[1] ?? heading).trim().toLowerCase();
  const unit = (found?.[2] ?? '').trim().toLowerCase();
  const quantity = WORDS.find(([r]) => r.test(word))?.[1] ?? null;
  return { quantity, unit: unit === '' ? 1 : (UNITS[unit] ?? NaN), known: unit === '' || unit in UNITS };
}

const median = (list: readonly number[]): number => {
  const sorted = [...list].sort((a, b) => a - b);
  return sorted.length === 0 ? 0 : sorted[Math.floor(sorted.length / 2)];
};

/**
 * Reads an observed flight: a table with a row of headings, such as `t (s), x (m), height (m)`; units by the headings, SI without.
 * @throws InvalidInput `path-table`, `path-columns`, `path-unit`, `path-clock` where time goes back, `path-short` for fewer than five rows.
 */
export function readObservedPath(text: string): ObservedPath {
  const refuse = (code: string, message: string, hint: string): never => {
    throw new InvalidInput(code, message, hint, 'flight');
  };
  if (text.length > MOST_BYTES)
    refuse('path-table', 'The file is larger than 8 MB.', 'Leave out rows: some hundred a second say no more.');
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, '').trim(), { skipEmptyLines: 'greedy' });
  if (data.length < 2)
    refuse('path-table', 'The file holds no table.', 'Give a row of headings, and rows of numbers below.');
  const heads = data[0].map((h) => headed(plainCell(h)));
  // A z is a height where nothing else is: beside a height it may count downward.
  const z = data[0].findIndex((h) => /^\s*z\b/i.test(plainCell(h)));
  if (z >= 0 && !heads.some((h) => h.quantity === 'height')) heads[z] = { ...heads[z], quantity: 'height' };
  // Which of several speeds is meant cannot be known.
  if (heads.filter((h) => h.quantity === 'speed').length > 1)
    for (const h of heads) if (h.quantity === 'speed') h.quantity = null;
  const column = (q: PathQuantity) => heads.findIndex((h) => h.quantity === q);
  const missing = (['time', 'x', 'height'] as const).filter((q) => column(q) < 0);
  if (missing.length > 0)
    refuse(
      'path-columns',
      `There is no column of ${missing.join(', ')}: the headings are ${data[0].slice(0, 12).join(', ')}.`,
      'Head them t, x and height, each with its unit, such as "height (ft)".',
    );
  for (const q of PATH_QUANTITIES) {
    const same = heads.filter((h) => h.quantity === q).length;
    if (same > 1)
      refuse(
        q === 'time' ? 'path-clock' : 'path-columns',
        `There are ${same} columns of ${q}${q === 'time' ? ': two clocks' : ''}.`,
        'Keep one of them, or give the other another heading.',
      );
  }
  heads.forEach((h, i) => {
    if (h.quantity !== null && !h.known)
      refuse('path-unit', `The unit of "${data[0][i].trim()}" is not known.`, `Give ${Object.keys(UNITS).join(', ')}.`);
  });
  const notes: string[] = [];
  const rows = data.slice(1);
  if (rows.length > MOST_PATH_ROWS)
    refuse('path-table', `There are ${rows.length} rows; ${MOST_PATH_ROWS} is the most.`, 'Leave out rows.');
  const comma = rows.some((r) => r.some((c) => /^\s*-?\d+,\d+\s*$/.test(c)));
  const value = (row: readonly string[], q: PathQuantity): number => {
    const i = column(q);
    const cell = (row[i] ?? '').trim().replace(/[−–]/g, '-');
    return cell === '' ? NaN : Number(comma ? cell.replace(',', '.') : cell) * heads[i].unit;
  };
  const used = rows.flatMap((row, i) => {
    const [t, x, height] = (['time', 'x', 'height'] as const).map((q) => value(row, q));
    if (![t, x, height].every(Number.isFinite)) {
      notes.push(`row ${i + 2} is left out: not all of it are numbers`);
      return [];
    }
    const y = column('y') < 0 ? null : value(row, 'y');
    const speed = column('speed') < 0 ? null : value(row, 'speed');
    return [{ row: i + 2, t, x, height, y, speed }];
  });
  if (notes.length > 6) notes.splice(5, Infinity, `and ${notes.length - 5} more rows`);
  const back = used.findIndex((r, i) => i > 0 && r.t < used[i - 1].t);
  if (back > 0)
    refuse(
      'path-clock',
      `Time goes back at row ${used[back].row}, from ${used[back - 1].t} to ${used[back].t} s: two clocks, or two flights in one file.`,
      'Keep one flight, with times that rise.',
    );
  const apart = used.filter((r, i) => i === 0 || r.t > used[i - 1].t);
  if (apart.length < used.length) notes.push(`${used.length - apart.length} rows of the same time are left out`);
  if (apart.length < 5)
    refuse(
      'path-short',
      `There are ${apart.length} rows with numbers; a fit needs five and more.`,
      'Give more of them.',
    );
  const [first] = apart;
  const steps = apart.slice(1).map((r, i) => r.t - apart[i].t);
  const usual = median(steps);
  const gaps = steps.flatMap((s, i) => (s > GAP * usual ? [{ at: apart[i].t - first.t, length: s }] : []));
  // How far each row lies from the parabola through its four neighbours' middle: second differences of unlike steps.
  const aside = apart.map((r, i) => {
    if (i === 0 || i === apart.length - 1) return 0;
    const [a, b] = [apart[i - 1], apart[i + 1]];
    const s = (r.t - a.t) / (b.t - a.t);
    return Math.hypot(r.x - (a.x + s * (b.x - a.x)), r.height - (a.height + s * (b.height - a.height)));
  });
  const typical = median(aside.filter((v) => v > 0));
  const outliers = apart.flatMap((r, i) =>
    typical > 0 && aside[i] > FAR * typical && aside[i] > 1.5 * Math.max(aside[i - 1] ?? 0, aside[i + 1] ?? 0) * 0.9
      ? [{ row: r.row, by: aside[i] }]
      : [],
  );
  const left = new Set(outliers.map((o) => o.row));
  const kept = apart.filter((r) => !left.has(r.row));
  if (outliers.length > 0)
    notes.push(
      `${outliers.length === 1 ? 'row' : 'rows'} ${outliers
        .slice(0, 6)
        .map((o) => o.row)
        .join(
          ', ',
        )} ${outliers.length === 1 ? 'lies far from its neighbours and is left out' : 'lie far from their neighbours and are left out'}`,
    );
  return {
    t: kept.map((r) => r.t - first.t),
    x: kept.map((r) => r.x - first.x),
    y: column('y') < 0 ? null : kept.map((r) => r.y! - first.y!),
    height: kept.map((r) => r.height),
    speed: column('speed') < 0 ? null : kept.map((r) => (Number.isFinite(r.speed) ? r.speed : null)),
    notes,
    gaps,
    outliers,
  };
}
