import { displayUnit, formatNumber, type Dimension, type UnitSet } from '../units';

/**
 * A quantity that can be read from something: for axes, ledgers, files, the command line, findings and the report.
 * `of` gives the stored value (SI, degrees for angles, fractions for ratios), or null where there is none.
 */
export interface Quantity<From> {
  id: string;
  /** As on an axis. */
  symbol: string;
  /** In words, short. */
  name: string;
  /** What it is, where its name does not say it. */
  says?: string;
  /** Its definition as a formula. */ formula?: string;
  dimension: Dimension;
  /** Digits shown; those of its unit without. */
  digits?: number;
  /** What stands for a unit where the dimension has none, such as `/°`. */
  per?: string;
  of: (from: From) => number | null;
}

/** Fixes what a list of quantities is read from. */
export const quantitiesOf = <From>(list: readonly Quantity<From>[]): readonly Quantity<From>[] => list;

/** A quantity without a dimension. */
export const plain = <From>(
  id: string,
  symbol: string,
  name: string,
  digits: number,
  of: Quantity<From>['of'],
): Quantity<From> => ({ id, symbol, name, digits, dimension: 'plain', of });

/** A quantity of a list by its id. @throws RangeError for one that is not there: a fault of the program. */
export function quantityIn<From>(list: readonly Quantity<From>[], id: string): Quantity<From> {
  const found = list.find((q) => q.id === id);
  if (!found) throw new RangeError(`There is no quantity "${id}".`);
  return found;
}

/** The unit that a quantity is shown in; empty where it has none. */
export const unitOf = (q: Pick<Quantity<never>, 'dimension' | 'per'>, set: UnitSet): string =>
  q.per ?? displayUnit(q.dimension, set).symbol;

/** A stored value as the number that is shown. */
export const inUnit = (q: Pick<Quantity<never>, 'dimension'>, value: number, set: UnitSet): number =>
  value * displayUnit(q.dimension, set).scale;

/** Digits that a quantity is shown with. Those it names are for metric units; in others about as much can be told apart. */
export function digitsOf(q: Pick<Quantity<never>, 'dimension' | 'digits'>, set: UnitSet): number {
  const unit = displayUnit(q.dimension, set);
  if (q.digits === undefined) return unit.digits;
  return Math.max(0, Math.round(q.digits - Math.log10(unit.scale / displayUnit(q.dimension, 'metric').scale)));
}

/** A stored value as text without its unit; a dash where there is none. */
export function textOf(q: Pick<Quantity<never>, 'dimension' | 'digits'>, value: number | null, set: UnitSet): string {
  return value === null || !Number.isFinite(value) ? '—' : formatNumber(inUnit(q, value, set), digitsOf(q, set));
}

/** `symbol, unit`, as on an axis. */
export const axisTitle = (q: Pick<Quantity<never>, 'symbol' | 'dimension' | 'per'>, set: UnitSet): string => {
  const unit = unitOf(q, set);
  return unit ? `${q.symbol}, ${unit}` : q.symbol;
};

/** Heading of a column in a table or file that programs read: plain letters, and they stay as they are. */
export function headingOf(q: Pick<Quantity<never>, 'id' | 'dimension' | 'per'>): string {
  const unit = displayUnit(q.dimension, 'metric');
  const shown = q.per ?? ('unit' in unit && unit.unit ? unit.unit : unit.symbol);
  const name = q.id.replaceAll('-', ' ');
  return shown ? `${name}, ${shown}` : name;
}
