import {
  addDependencies,
  create,
  divideDependencies,
  evaluateDependencies,
  multiplyDependencies,
  powDependencies,
  subtractDependencies,
  unaryMinusDependencies,
  unaryPlusDependencies,
  unitDependencies,
  type MathJsInstance,
  type Unit,
} from 'mathjs';
import { InvalidInput } from '../numerics';

/** What a number measures. */
export type Dimension =
  | 'length'
  | 'chord'
  | 'area'
  | 'speed'
  | 'altitude'
  | 'mass'
  | 'angle'
  | 'pressure'
  | 'density'
  | 'force'
  | 'moment'
  | 'stress'
  | 'thickness'
  | 'inertia'
  | 'ratio'
  | 'plain'
  | 'count';

/** Which units numbers are shown in; inside everything is SI, and angles in fields are degrees. */
export type UnitSet = 'metric' | 'small' | 'us';

export const UNIT_SETS: { id: UnitSet; name: string }[] = [
  { id: 'metric', name: 'Metric (m, kg)' },
  { id: 'small', name: 'Small metric (mm, g)' },
  { id: 'us', name: 'US (ft, lb)' },
];

/** How a stored value is shown. */
export interface DisplayUnit {
  /** As shown. */ symbol: string;
  /** As the unit library names it; absent for plain numbers. */ unit?: string;
  /** Shown value = stored value × scale. */ scale: number;
  digits: number;
}

const FOOT = 0.3048;
const POUND = 0.45359237;
const DISPLAY: Record<Dimension, Record<UnitSet, DisplayUnit>> = {
  length: {
    metric: { symbol: 'm', unit: 'm', scale: 1, digits: 3 },
    small: { symbol: 'mm', unit: 'mm', scale: 1000, digits: 0 },
    us: { symbol: 'ft', unit: 'ft', scale: 1 / FOOT, digits: 3 },
  },
  chord: {
    metric: { symbol: 'm', unit: 'm', scale: 1, digits: 3 },
    small: { symbol: 'mm', unit: 'mm', scale: 1000, digits: 1 },
    us: { symbol: 'in', unit: 'in', scale: 12 / FOOT, digits: 2 },
  },
  area: {
    metric: { symbol: 'm²', unit: 'm^2', scale: 1, digits: 3 },
    small: { symbol: 'dm²', unit: 'dm^2', scale: 100, digits: 1 },
    us: { symbol: 'ft²', unit: 'ft^2', scale: 1 / FOOT ** 2, digits: 2 },
  },
  speed: {
    metric: { symbol: 'm/s', unit: 'm/s', scale: 1, digits: 1 },
    small: { symbol: 'm/s', unit: 'm/s', scale: 1, digits: 1 },
    us: { symbol: 'ft/s', unit: 'ft/s', scale: 1 / FOOT, digits: 1 },
  },
  altitude: {
    metric: { symbol: 'm', unit: 'm', scale: 1, digits: 0 },
    small: { symbol: 'm', unit: 'm', scale: 1, digits: 0 },
    us: { symbol: 'ft', unit: 'ft', scale: 1 / FOOT, digits: 0 },
  },
  mass: {
    metric: { symbol: 'kg', unit: 'kg', scale: 1, digits: 2 },
    small: { symbol: 'g', unit: 'g', scale: 1000, digits: 0 },
    us: { symbol: 'lb', unit: 'lbm', scale: 1 / POUND, digits: 2 },
  },
  pressure: {
    metric: { symbol: 'Pa', unit: 'Pa', scale: 1, digits: 0 },
    small: { symbol: 'Pa', unit: 'Pa', scale: 1, digits: 0 },
    us: { symbol: 'lbf/ft²', unit: 'lbf/ft^2', scale: FOOT ** 2 / (POUND * 9.80665), digits: 2 },
  },
  density: {
    metric: { symbol: 'kg/m³', unit: 'kg/m^3', scale: 1, digits: 4 },
    small: { symbol: 'kg/m³', unit: 'kg/m^3', scale: 1, digits: 4 },
    us: { symbol: 'lb/ft³', unit: 'lbm/ft^3', scale: FOOT ** 3 / POUND, digits: 5 },
  },
  force: {
    metric: { symbol: 'N', unit: 'N', scale: 1, digits: 1 },
    small: { symbol: 'N', unit: 'N', scale: 1, digits: 2 },
    us: { symbol: 'lbf', unit: 'lbf', scale: 1 / (POUND * 9.80665), digits: 2 },
  },
  moment: {
    metric: { symbol: 'N m', unit: 'N m', scale: 1, digits: 2 },
    small: { symbol: 'N m', unit: 'N m', scale: 1, digits: 3 },
    us: { symbol: 'ft lbf', unit: 'ft lbf', scale: 1 / (FOOT * POUND * 9.80665), digits: 2 },
  },
  stress: {
    metric: { symbol: 'MPa', unit: 'MPa', scale: 1e-6, digits: 1 },
    small: { symbol: 'MPa', unit: 'MPa', scale: 1e-6, digits: 1 },
    us: { symbol: 'psi', unit: 'psi', scale: FOOT ** 2 / (POUND * 9.80665) / 144, digits: 0 },
  },
  thickness: {
    metric: { symbol: 'mm', unit: 'mm', scale: 1000, digits: 2 },
    small: { symbol: 'mm', unit: 'mm', scale: 1000, digits: 2 },
    us: { symbol: 'in', unit: 'in', scale: 12 / FOOT, digits: 4 },
  },
  inertia: {
    metric: { symbol: 'kg m²', scale: 1, digits: 3 },
    small: { symbol: 'kg m²', scale: 1, digits: 5 },
    us: { symbol: 'lb ft²', scale: 1 / (POUND * FOOT ** 2), digits: 2 },
  },
  angle: everywhere({ symbol: '°', unit: 'deg', scale: 1, digits: 2 }),
  ratio: everywhere({ symbol: '%', scale: 100, digits: 1 }),
  plain: everywhere({ symbol: '', scale: 1, digits: 3 }),
  count: everywhere({ symbol: '', scale: 1, digits: 0 }),
};

function everywhere(u: DisplayUnit): Record<UnitSet, DisplayUnit> {
  return { metric: u, small: u, us: u };
}

/** How a dimension is shown in a set. */
export const displayUnit = (dimension: Dimension, set: UnitSet): DisplayUnit => DISPLAY[dimension][set];

/** The mark between whole and decimals that the reader is used to; the other one then groups thousands. */
export type DecimalMark = 'point' | 'comma';
let askMark: () => DecimalMark = () => 'point';
/** Sets what says by which mark numbers are shown; it is asked for every number. Without it there is a point. */
export function showDecimalsBy(mark: () => DecimalMark): void {
  askMark = mark;
}
/** The mark that numbers are shown with now. */
export const shownDecimalMark = (): DecimalMark => askMark();
/** A number's text with its point as the mark that is shown. */
export const withShownMark = (text: string): string => (askMark() === 'comma' ? text.replace('.', ',') : text);

/** A number as shown: fixed digits, a true minus sign, no minus on zero. */
export function formatNumber(value: number, digits: number): string {
  if (!Number.isFinite(value)) return '—';
  const text = value.toFixed(digits);
  return withShownMark((Number(text) === 0 ? (0).toFixed(digits) : text).replace('-', '−'));
}

/** A stored value as shown in a set, without its unit. */
export function formatQuantity(value: number, dimension: Dimension, set: UnitSet, digits?: number): string {
  const u = displayUnit(dimension, set);
  return formatNumber(value * u.scale, digits ?? u.digits);
}

/** Numbers, their arithmetic and units: nothing else of the library can be called from a field. */
const ARITHMETIC = {
  addDependencies,
  divideDependencies,
  evaluateDependencies,
  multiplyDependencies,
  powDependencies,
  subtractDependencies,
  unaryMinusDependencies,
  unaryPlusDependencies,
  unitDependencies,
};
let engine: MathJsInstance | undefined;
const LONGEST = 120;
/** 1 lbf s²/ft, kg. */
const SLUG = (POUND * 9.80665) / FOOT;
const SPELLINGS: [RegExp, string][] = [
  [/−/g, '-'],
  [/°/g, ' deg'],
  [/″|''/g, ' inch'],
  [/²/g, '^2'],
  [/³/g, '^3'],
  // A whole number and a fraction: 2 1/2.
  [/(^|[-+*/(\s])(\d+)\s+(\d+)\s*\/\s*(\d+)(?![\d.])/g, '$1($2+$3/$4)'],
  // The library has "in" for converting, too.
  [/\bin\b/g, 'inch'],
  [/\bkts?\b/gi, '(1852/3600 m/s)'],
  // Small letters only: kN is a force.
  [/\bkn\b/g, '(1852/3600 m/s)'],
  [/\bmph\b/gi, '(mi/hour)'],
  [/\bkm\/h\b/gi, '(km/hour)'],
  [/\blbs?\b/gi, 'lbm'],
  [/\bpsf\b/gi, '(lbf/ft^2)'],
  [/\bslugs?\b/gi, `(${SLUG} kg)`],
];

/** Thousands in groups of three. */
const grouped = (text: string, mark: string) =>
  text.split(mark).every((part, i) => (i === 0 ? /^\d{1,3}$/ : /^\d{3}$/).test(part));

/**
 * What a run of digits, points and commas may mean, as plain numbers with a point. One comma before exactly three digits may be either mark, and comes out as
 * two readings, the decimal one first; a point alone is always the decimal mark, since that is how numbers are shown.
 * @returns none where it is no number.
 */
export function numberReadings(text: string): string[] {
  const [points, commas] = ['.', ','].map((mark) => text.split(mark).length - 1);
  if (commas === 0) return points <= 1 ? [text] : grouped(text, '.') ? [text.replaceAll('.', '')] : [];
  if (points === 0) {
    if (commas > 1) return grouped(text, ',') ? [text.replaceAll(',', '')] : [];
    const decimal = text.replace(',', '.');
    return grouped(text, ',') && !text.startsWith('0') ? [decimal, text.replace(',', '')] : [decimal];
  }
  // Both: the last one is the decimal mark, the other groups.
  const [mark, group] = text.lastIndexOf(',') > text.lastIndexOf('.') ? [',', '.'] : ['.', ','];
  const [whole, decimals, ...more] = text.split(mark);
  return more.length > 0 || decimals.includes(group) || !grouped(whole, group)
    ? []
    : [`${whole.replaceAll(group, '')}.${decimals}`];
}

const RUN = /\d[\d.,]*\d|\d/g;

/** Whether a number of what was typed may be read in two ways. */
export const hasTwoReadings = (text: string): boolean =>
  (text.match(RUN) ?? []).some((run) => numberReadings(run).length > 1);

/** How a field reads what has two readings. */
export interface ReadingOptions {
  /** Without it what has two readings is refused. */ decimalMark?: DecimalMark;
  /** Whether a stored value can be meant: a reading that cannot is none. */ accepts?: (value: number) => boolean;
}

/**
 * Reads what was typed into a field: a number, arithmetic, units of the right kind.
 * @param text such as `14 in`, `0.25*1.4 m`, `3 ft + 2 in`, `12`. A bare number is taken in the field's own unit.
 * @param options how `1,500` is read, which may be 1.5 or 1500: by the mark that the reader is used to, or as the only one that can be meant; else refused.
 * @returns the stored value: SI, degrees for angles, a fraction for ratios.
 * @throws InvalidInput `quantity` with what was wrong.
 */
export function parseQuantity(
  text: string,
  dimension: Dimension,
  set: UnitSet,
  { decimalMark, accepts = () => true }: ReadingOptions = {},
): number {
  const shown = displayUnit(dimension, set);
  const example = dimension === 'plain' ? '0.25*1.4' : dimension === 'ratio' ? '12 %' : `12 ${shown.symbol}`;
  const refuse = (why: string): never => {
    throw new InvalidInput(
      'quantity',
      `“${text.trim().slice(0, 40)}” ${why}.`,
      `Write a number, for instance ${example}.`,
    );
  };
  let source = text.trim();
  if (source === '') refuse('is empty');
  if (source.length > LONGEST) refuse('is too long');
  if (!/^[\w\s.,+\-−*/()^°²³%″']*$/.test(source)) refuse('is not a quantity');
  let percent = false;
  if (dimension === 'ratio') {
    percent = source.includes('%');
    source = source.replace('%', '');
  } else if (source.includes('%')) refuse('has a %, which does not belong here');
  const runs = source.match(RUN) ?? [];
  const all = runs.map(numberReadings);
  all.forEach((r, i) => r.length === 0 && refuse(`holds ${runs[i]}, which is no number`));
  const evaluate = (pick: 0 | 1) => {
    let k = 0;
    const plain = source.replace(RUN, () => {
      const r = all[k++];
      return r[Math.min(pick, r.length - 1)];
    });
    return valueOf(plain, dimension, shown, percent, refuse);
  };
  if (all.every((r) => r.length === 1)) return evaluate(0);
  // The only reading that can be meant, else the reader's own.
  const values = [evaluate(0), evaluate(1)];
  const can = values.filter(accepts);
  if (can.length === 1) return can[0];
  if (decimalMark) return values[decimalMark === 'comma' ? 0 : 1];
  const [run] = runs.filter((_, i) => all[i].length > 1);
  const [a, b] = numberReadings(run);
  throw new InvalidInput(
    'quantity',
    `“${text.trim().slice(0, 40)}” has two readings: ${run} may be ${Number(a)} or ${b}.`,
    `Write ${Number(a)} or ${b}.`,
  );
}

/** What an expression without commas comes to, as stored. */
function valueOf(
  text: string,
  dimension: Dimension,
  shown: DisplayUnit,
  percent: boolean,
  refuse: (why: string) => never,
): number {
  let source = text;
  for (const [from, to] of SPELLINGS) source = source.replace(from, to);
  engine ??= create(ARITHMETIC, {}) as unknown as MathJsInstance;
  let value: unknown;
  try {
    value = engine.evaluate(source);
  } catch {
    refuse('cannot be worked out');
  }
  if (typeof value === 'number') {
    if (!Number.isFinite(value)) refuse('is not a finite number');
    if (dimension === 'ratio') return percent ? value / 100 : value / shown.scale;
    return value / shown.scale;
  }
  const unit = value as Unit;
  if (typeof unit?.toNumber !== 'function' || !shown.unit) return refuse(`has a unit, but a plain number belongs here`);
  try {
    const number = unit.toNumber(shown.unit);
    if (!Number.isFinite(number)) refuse('is not a finite number');
    return number / shown.scale;
  } catch {
    return refuse(
      `is not ${dimension === 'angle' ? 'an angle' : dimension === 'area' ? 'an area' : `a ${dimension === 'chord' ? 'length' : dimension}`}`,
    );
  }
}
