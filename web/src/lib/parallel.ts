import type { SeriesStyle } from './series-style';

/** A quantity with an axis of its own. */
export interface ParallelAxis {
  id: string;
  name: string;
  digits: number;
}
/** A thing with its values by axis. */
export interface ParallelLine {
  id: string;
  label: string;
  style: SeriesStyle;
  values: Record<string, number | null>;
}
export type Ranges = Record<string, [number | null, number | null]>;

/** Whether a thing keeps all limits. What has no value there keeps none. */
export const within = (line: Pick<ParallelLine, 'values'>, ranges: Ranges): boolean =>
  Object.entries(ranges).every(([id, [low, high]]) => {
    if (low === null && high === null) return true;
    const v = line.values[id];
    return v !== null && v !== undefined && (low === null || v >= low) && (high === null || v <= high);
  });
