/** How fine the skins are cut. */
export interface PanelSpread {
  /** Panels along the chord on each of the two faces. */ chordwise: number;
  /** Strips on half of the longest surface; others get their share by span. */ spanwise: number;
  /** Panels around half a body, and along it. */ around: number;
  along: number;
}

/** Columns along a surface at least. */
export const FEWEST_STRIPS = 6;
export const DEFAULT_PANELS: PanelSpread = { chordwise: 20, spanwise: 20, around: 8, along: 24 };
export const MOST_SKIN_PANELS = 6000;

/**
 * A skin cut into rows and columns of panels. Nodes run with i fastest:
 *
 * ```
 *   wing: i from the trailing edge over the upper face, the nose and the lower face back to it; j from root to tip
 *   body: i around, j from nose to tail          cap: i along the chord, j across
 * ```
 */
export interface Patch {
  kind: 'wing' | 'body' | 'cap';
  id: string;
  /** Index among the surfaces or bodies. */ part: number;
  ni: number;
  nj: number;
  /** (ni + 1) × (nj + 1) nodes: x, y, z. */
  nodes: Float64Array;
  /** −1 where the order of the nodes looks inward. */ out: 1 | -1;
  /** The row i = 0 follows the last one. */ wraps: boolean;
  /** Columns that close to a point at their end: what lies across it is a neighbour. */
  poles: { first: boolean; last: boolean };
  /** Edges that lie in the plane of symmetry: first and last column, first and last row. */
  onPlane: { first: boolean; last: boolean; start: boolean; end: boolean };
  /** Chord fraction of the middle of each panel of a row, for wings; and share of the half span of each column. */
  fractions?: Float64Array;
  stations?: Float64Array;
  /** Where across each column of a wing its condition is posed, as a share of its width: the middle by the law that the columns are spread by. */
  middles?: Float64Array;
  /** Whether bodies stand in a wing that are narrow beside its columns. */
  narrow?: boolean;
}

/** The left copy of a patch, its order kept; it looks the other way. */
export function mirrored(patch: Patch): Patch {
  const nodes = patch.nodes.slice();
  for (let k = 1; k < nodes.length; k += 3) nodes[k] = -nodes[k];
  return {
    ...patch,
    nodes,
    out: patch.out === 1 ? -1 : 1,
    ...(patch.stations ? { stations: patch.stations.map((s) => -s) } : {}),
  };
}
