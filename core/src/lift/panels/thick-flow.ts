import {
  referenceOf,
  standing,
  type Body,
  type LiftingSurface,
  type Point3,
  type Reference,
  type SectionLookup,
} from '../../airframe';
import { InvalidInput } from '../../numerics';
import type { RunContext } from '../../results';
import { checkAngles, quarterChordPoint } from '../lift-analysis';
import { againstLattice, type AgainstLattice } from './against-lattice';
import { PanelFlow } from './panel-flow';
import type { PanelPoint } from './panel-point';
import { panelMesh, type PanelMesh } from './panel-mesh';
import { DEFAULT_PANELS, type PanelSpread } from './patch';

/** Faster streams are near the speed of sound on every closed surface. */
export const MOST_MACH = 0.7;

/** What a flow about closed surfaces needs; SI, rad. */
export interface ThickInput {
  surfaces: LiftingSurface[];
  bodies?: Body[];
  alphas: number[];
  beta?: number;
  /** Mach number of the stream, below 0.7. */ mach?: number;
  about?: Point3;
  reference?: Reference;
  spread?: PanelSpread;
}

/** A strip of a wing's panels. */
export interface PanelColumn {
  id: string;
  station: number;
  /** Index of its first panel. */ from: number;
  fractions: number[];
}

/** The flow about closed surfaces over a list of angles. */
export interface ThickResult {
  reference: Reference;
  momentReference: Point3;
  panels: number;
  half: boolean;
  joined: PanelMesh['joined'];
  /** Ids of bodies that are too slim to be panelled where they pass through surfaces. */ leftOut: string[];
  /** Corners of the panels, 12 numbers each, m; of the right half where it is one. */ corners: Float32Array;
  /** Strips of wings: their panels from the trailing edge over the upper face and back, and the chord fractions of these. */
  columns: PanelColumn[];
  points: PanelPoint[];
  /** The lattice beside it; null in sideslip, and where there is no surface. */ compared: AgainstLattice | null;
}

/** A flow that is ready for any angle. @throws InvalidInput for a shape that cannot be; Cancelled. */
export function makeThickFlow(
  input: Omit<ThickInput, 'alphas'>,
  lookup: SectionLookup,
  context: RunContext = {},
): PanelFlow {
  const { bodies = [], spread = DEFAULT_PANELS, beta = 0, mach = 0 } = input;
  if (!(mach >= 0 && mach <= MOST_MACH))
    throw new InvalidInput(
      'mach-range',
      `The panels hold for Mach numbers from 0 to ${MOST_MACH}; ${mach} is not.`,
      'Use a slower speed, or the lattice.',
      'mach',
    );
  if (spread.chordwise % 2 !== 0)
    throw new InvalidInput(
      'panel-count',
      `Panels along the chord are cut in half for a second, coarser flow; ${spread.chordwise} is odd.`,
      'Give an even number.',
      'chordwise',
    );
  const surfaces = standing(input.surfaces, bodies);
  const reference = input.reference ?? referenceOf(surfaces);
  const about = input.about ?? quarterChordPoint(surfaces);
  const mesh = (chordwise: number) => panelMesh(surfaces, bodies, lookup, { ...spread, chordwise }, beta !== 0);
  const fine = mesh(spread.chordwise);
  const rough = surfaces.length > 0 && spread.chordwise >= 8 ? mesh(spread.chordwise / 2) : undefined;
  // Assembly goes with the square of the panels.
  const [a, b] = [fine.panels ** 2, (rough?.panels ?? 0) ** 2];
  const part = (from: number, share: number): RunContext => ({
    ...context,
    report: ({ done, of }) => context.report?.({ done: Math.round(100 * (from + (share * done) / of)), of: 100 }),
  });
  const coarse = rough && new PanelFlow(rough, reference, about, undefined, part(0, b / (a + b)), mach);
  return new PanelFlow(fine, reference, about, coarse, part(b / (a + b), a / (a + b)), mach);
}

function columnsOf(mesh: PanelMesh): PanelColumn[] {
  const out: PanelColumn[] = [];
  let from = 0;
  for (const { kind, id, ni, nj, stations, fractions } of mesh.patches) {
    if (kind === 'wing')
      for (let j = 0; j < nj; j++)
        out.push({ id, station: stations![j], from: from + j * ni, fractions: Array.from(fractions!) });
    from += ni * nj;
  }
  return out;
}

/**
 * Lift, induced drag, moments and pressures of thick closed skins over a list of angles.
 * @throws InvalidInput for a shape that cannot be, or an angle that is too steep; FailedComputation `panels-unsolved`; Cancelled.
 */
export function analyseThick(input: ThickInput, lookup: SectionLookup, context: RunContext = {}): ThickResult {
  checkAngles(input.alphas, input.beta);
  const flow = makeThickFlow(input, lookup, context);
  const { mesh, reference, about } = flow;
  const { bodies = [], beta = 0, mach = 0 } = input;
  const surfaces = standing(input.surfaces, bodies);
  const middle = 0.5 * (Math.min(...input.alphas) + Math.max(...input.alphas));
  const compared =
    beta === 0 && surfaces.length > 0 ? againstLattice(flow, { surfaces, bodies, mach }, lookup, middle) : null;
  const at = (alpha: number): PanelPoint => {
    const point = flow.at({ alpha, sideslip: beta });
    return point.doubt === undefined && compared?.disagrees ? { ...point, doubt: compared.disagrees } : point;
  };
  return {
    reference,
    momentReference: about,
    panels: mesh.panels,
    half: mesh.half,
    joined: mesh.joined,
    leftOut: mesh.leftOut,
    corners: Float32Array.from(flow.panels.corners),
    columns: columnsOf(mesh),
    points: input.alphas.map(at),
    compared,
  };
}
