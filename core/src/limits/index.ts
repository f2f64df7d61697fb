import { z } from 'zod';
import { displayUnit, type Dimension, type UnitSet } from '../units';

/**
 * Limits of one number that is typed and saved. Schema, refusal and field are made from the same entry.
 * Values are as stored: SI, degrees for angles, fractions for ratios.
 */
export interface FieldLimit {
  label: string;
  /** What it measures, which settles its unit in the interface. */
  dimension: Dimension;
  min: number;
  max: number;
  /** The least value itself is not allowed; `nearest` is then the least that is offered instead. */
  above?: { nearest: number };
  /** Step of the arrow keys and of dragging. */
  step?: number;
  /** Value at which the number changes nothing; where a shape breaks, the nearest value that works is sought from here. */
  neutral?: number;
  hint?: string;
  /** Why the limit is there, as the end of a sentence. */
  reason?: string;
  /** May be left out. */
  optional?: boolean;
  /** What holds where it is left out, in a word. */
  otherwise?: string;
}

/** Step of the arrow keys and of dragging, in stored units: the limit's own, or one that suits what it measures; undefined leaves it to the field. */
export function stepOf(limit: FieldLimit): number | undefined {
  if (limit.step !== undefined) return limit.step;
  if (limit.dimension === 'count') return 1;
  if (limit.dimension === 'angle') return 0.5;
  // Small shares, such as gaps, are set finer.
  if (limit.dimension === 'ratio') return limit.max <= 0.05 ? 0.0005 : 0.0025;
  return limit.dimension === 'plain' ? 0.01 : undefined;
}

/** A value as it is shown in a message. */
export function shownValue(limit: FieldLimit, value: number, set: UnitSet = 'metric'): string {
  const unit = displayUnit(limit.dimension, set);
  const shown = Number((value * unit.scale).toPrecision(4));
  const text = String(shown);
  return unit.symbol === '°' ? `${text}°` : unit.symbol ? `${text} ${unit.symbol}` : text;
}

/** A refused value: which limit it breaks, in words, and the nearest value that works. */
export interface BrokenLimit {
  message: string;
  nearest: number;
}

/** Says which limit a value breaks and the nearest that works, or undefined when it breaks none. */
export function limitBroken(limit: FieldLimit, value: number): BrokenLimit | undefined {
  if (!Number.isFinite(value))
    return { message: `${limit.label} must be a number`, nearest: Math.min(limit.max, Math.max(limit.min, 0)) };
  const low = limit.above ? value <= limit.min : value < limit.min;
  if (!low && value <= limit.max) return undefined;
  const nearest = low ? (limit.above?.nearest ?? limit.min) : limit.max;
  const range = limit.above
    ? `greater than ${shownValue(limit, limit.min)} and at most ${shownValue(limit, limit.max)}`
    : `from ${shownValue(limit, limit.min)} to ${shownValue(limit, limit.max)}`;
  const why = limit.reason ? ` (${limit.reason})` : '';
  return {
    message: `${limit.label} must be ${range}${why}; ${shownValue(limit, value)} is not. Nearest that works: ${shownValue(limit, nearest)}`,
    nearest,
  };
}

/** A number within a limit, as a schema; the refusal says the limit and the nearest value that works. */
export const within = (limit: FieldLimit) =>
  z.number().superRefine((value, context) => {
    const broken = limitBroken(limit, value);
    if (broken) context.addIssue({ code: 'custom', message: broken.message, params: { nearest: broken.nearest } });
    else if (limit.dimension === 'count' && !Number.isInteger(value))
      context.addIssue({ code: 'custom', message: `${limit.label} must be a whole number` });
  });
export * from './text';
export * from './ids';
export * from './json';
export * from './refusal';
export * from './number-list';
