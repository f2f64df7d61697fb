import { z } from 'zod';
import { finiteNumber } from '../limits';
import { deflectionsOf, depthBelow, makeLattice, type LatticeSpread } from '../lift';
import type { AirframeSource } from '../motion';
import { RAD } from '../numerics';

/** What the ground below adds to the coefficients, by height of the moment reference over it and by angle. */
export interface GroundTable {
  /** m, rising. */ heights: number[];
  /** rad, rising. */ alphas: number[];
  /** By height, over the angles. */ CL: number[][];
  CD: number[][];
  Cm: number[][];
  /** Height from which on nothing is left of it, m. */ gone: number;
}

/** Differences to free air settle with few panels. */
const SPREAD: LatticeSpread = { chordwise: 4, spanwise: 12, spacing: 'cosine' };
const ANGLES = [-4, 0, 4, 8, 12];
/** Heights from the lowest to so many spans; the ground is gone at twice the last. */
const HEIGHTS = 6;
const SPANS = 1.5;
const CLEARANCE = 0.01;

const rows = z.array(z.array(finiteNumber).min(2).max(50)).min(2).max(50);
const rising = (list: number[]) => list.every((v, i) => i === 0 || v > list[i - 1]);
/** A table as it is stored. */
export const groundTableSchema = z
  .object({
    heights: z.array(z.number().positive()).min(2).max(50).refine(rising, 'must rise'),
    alphas: z.array(finiteNumber).min(2).max(50).refine(rising, 'must rise'),
    CL: rows,
    CD: rows,
    Cm: rows,
    gone: z.number().positive(),
  })
  .refine(
    (t) =>
      [t.CL, t.CD, t.Cm].every(
        (k) => k.length === t.heights.length && k.every((row) => row.length === t.alphas.length),
      ) && t.gone > t.heights[t.heights.length - 1],
    'has rows of other lengths, or ends before its last height',
  );

/**
 * What the ground adds to lift, induced drag and pitching moment of an airframe, by images of the lattice below a plane along the path.
 * @param report share that is done. @returns changes against free air at the same angle; controls as they stand.
 * @source images: {@link makeLattice} with a ground.
 */
export function groundTable(source: AirframeSource, report: (done: number) => void = () => {}): GroundTable {
  const { reference, lattice } = source;
  const at = nearGround(source);
  const alphas = ANGLES.map((a) => a * RAD);
  const least = Math.max(...alphas.map((a) => depthBelow(lattice, a))) + CLEARANCE * reference.span;
  const most = Math.max(SPANS * reference.span, 2 * least);
  const heights = Array.from({ length: HEIGHTS }, (_, k) => least * (most / least) ** (k / (HEIGHTS - 1)));
  const free = alphas.map((alpha) => at(alpha));
  const table: GroundTable = { heights, alphas, CL: [], CD: [], Cm: [], gone: 2 * most };
  heights.forEach((ground, k) => {
    const here = alphas.map((alpha) => at(alpha, ground));
    table.CL.push(here.map((c, i) => c.CL - free[i].CL));
    table.CD.push(here.map((c, i) => c.CDi - free[i].CDi));
    table.Cm.push(here.map((c, i) => c.Cm - free[i].Cm));
    report((k + 1) / HEIGHTS);
  });
  return table;
}

/** Coefficients of a source without viscosity at an angle, rad, and a height, m; in free air without. */
function nearGround({ surfaces, reference, centre: about, lineOf, lattice }: AirframeSource) {
  const input = { surfaces: [...surfaces], reference, about, spread: SPREAD, mach: lattice.options.mach ?? 0 };
  const controls = deflectionsOf(surfaces);
  return (alpha: number, ground?: number) =>
    makeLattice({ ...input, ground }, lineOf, alpha).coefficients({ alpha, controls });
}

/**
 * What the ground adds at one height and angle: {@link groundTable} of a single place.
 * @param height of the centre of gravity over the ground, m. @param alpha rad. @throws InvalidInput `ground` where a surface would reach into it.
 */
export function groundEffect(source: AirframeSource, height: number, alpha: number): { CL: number; CD: number } {
  const at = nearGround(source);
  const [free, near] = [at(alpha), at(alpha, height)];
  return { CL: near.CL - free.CL, CD: near.CDi - free.CDi };
}

/** Where a value lies among rising ones: the lower of its neighbours, and the share of the upper; the end ones outside. */
function between(list: readonly number[], at: number): [number, number] {
  let i = 0;
  while (i < list.length - 2 && at > list[i + 1]) i++;
  return [i, Math.max(0, Math.min(1, (at - list[i]) / (list[i + 1] - list[i])))];
}

/**
 * Reads what the ground adds at a height and an angle: evenly in the logarithm of the height and in the angle, fading out above the last height.
 * @returns of the height of the point that the table is about, m (below the lowest one that is taken), and the angle, rad: null where the ground is out of reach.
 */
export function groundReader(
  t: GroundTable,
): (height: number, alpha: number) => { CL: number; CD: number; Cm: number } | null {
  const logs = t.heights.map(Math.log);
  const [low, high, gone] = [logs[0], logs[logs.length - 1], Math.log(t.gone)];
  return (height, alpha) => {
    if (!(height < t.gone)) return null;
    const at = Math.max(low, Math.log(Math.max(height, 1e-9)));
    const fade = at <= high ? 1 : (gone - at) / (gone - high);
    const [i, u] = between(logs, at);
    const [j, v] = between(t.alphas, alpha);
    const read = (k: number[][]) =>
      fade * ((1 - u) * ((1 - v) * k[i][j] + v * k[i][j + 1]) + u * ((1 - v) * k[i + 1][j] + v * k[i + 1][j + 1]));
    return { CL: read(t.CL), CD: read(t.CD), Cm: read(t.Cm) };
  };
}
