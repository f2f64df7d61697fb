import { placeSurface, type PlacedSurface } from './placement';
import type { LiftingSurface } from './types';

/** Steps that the length of a flowing bay is measured in. */
const STEPS = 256;

/** Lengths along the rise of the span, m. */
export interface TrueSpan {
  /** From the root to each station. */
  stations: number[];
  /** Of one side. */
  total: number;
  /** The bay, and the share of it, at a share of the whole length. */
  at(share: number): { bay: number; share: number };
}

/** Length of the line of twist along its rise, in front view, station by station. @param placed the surface placed, where it is already. */
export function trueOffsets(surface: LiftingSurface, placed: PlacedSurface = placeSurface(surface)): TrueSpan {
  const stations = [0];
  const tables: (Float64Array | null)[] = [];
  surface.bays.forEach((bay, b) => {
    const from = stations[b];
    if (!placed.curved[b]) {
      tables.push(null);
      stations.push(from + bay.span / Math.cos(placed.dihedrals[b]));
      return;
    }
    // The quarter chord's line would count its sweep; the rise alone is measured, in the surface's own frame.
    const table = new Float64Array(STEPS + 1);
    let [y, z] = [NaN, NaN];
    for (let k = 0; k <= STEPS; k++) {
      const { quarterChord: q } = placed.at(b, k / STEPS);
      if (k > 0) table[k] = table[k - 1] + Math.hypot(q.y - y, q.z - z);
      [y, z] = [q.y, q.z];
    }
    tables.push(table);
    stations.push(from + table[STEPS]);
  });
  const total = stations[stations.length - 1];
  return {
    stations,
    total,
    at(share) {
      const want = Math.min(1, Math.max(0, share)) * total;
      let bay = 0;
      while (bay < surface.bays.length - 1 && want >= stations[bay + 1]) bay++;
      const rest = want - stations[bay];
      const table = tables[bay];
      if (!table) return { bay, share: Math.min(1, rest / (stations[bay + 1] - stations[bay])) };
      let k = 1;
      while (k < STEPS && table[k] < rest) k++;
      const t = table[k] > table[k - 1] ? (rest - table[k - 1]) / (table[k] - table[k - 1]) : 0;
      return { bay, share: Math.min(1, (k - 1 + Math.min(1, t)) / STEPS) };
    },
  };
}
