import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { RAD } from '../numerics';
import { analysis } from '../results';
import { deflectFlap } from '../section';
import {
  atLift,
  DEFAULT_SPREAD,
  InviscidSection,
  isSolved,
  ViscousSection,
  type Distributions,
  type InviscidPoint,
  type PanelSpread,
  type SolvedState,
  type ViscousPoint,
} from '../section-flow';
import { kept, panelSpread, sectionSource, sourceOutline, type SectionSource } from '../shaping';
import { angle, flapSetting, viscousConditions, type FlapSetting } from './conditions';

/** Points of the outline that panels are put on. */
const OUTLINE_POINTS = 241;

/** The outline of a source with its flap deflected, and the hinge in chords. @throws InvalidInput for a flap that cannot be built. */
export function flappedOutline(source: SectionSource, flap: FlapSetting | null) {
  const outline = sourceOutline(source, OUTLINE_POINTS);
  if (!flap) return { outline, hinge: undefined };
  return deflectFlap(outline, { x: flap.x, y: flap.y, angle: flap.angleDeg * RAD });
}

/** The flow about a section without viscosity, with the nodes it is known at. */
export interface SectionFlow {
  x: Float64Array;
  y: Float64Array;
  /** Index of the nose among the nodes. */
  nose: number;
  point: InviscidPoint;
}

/** Solvers that are ready: a viscous one holds several megabytes. */
const inviscid = kept(30, (source) => new InviscidSection(sourceOutline(source, OUTLINE_POINTS)));
interface Ready {
  section: ViscousSection;
  hinge?: { x: number; y: number };
  /** The state solved last, from which a value that moves goes on. */
  state?: SolvedState;
}
const solvers = new LRUCache<string, Ready>({ max: 6 });

function readySolver(source: SectionSource, flap: FlapSetting | null, spread: PanelSpread): Ready {
  const key = JSON.stringify([source, flap, spread]);
  let ready = solvers.get(key);
  if (!ready) {
    const { outline, hinge } = flappedOutline(source, flap);
    ready = { section: new ViscousSection(outline, spread), hinge };
    solvers.set(key, ready);
  }
  return ready;
}

const isDefault = (spread: PanelSpread) => JSON.stringify(spread) === JSON.stringify(DEFAULT_SPREAD);
const where = {
  source: sectionSource,
  flap: flapSetting.nullable().default(null),
  spread: panelSpread.default(DEFAULT_SPREAD),
};

/** The flow about a section without viscosity at one angle, rad. */
export const inviscidFlow = analysis({
  version: 1,
  input: z.object({ ...where, alpha: angle, mach: z.number().min(0).max(0.69) }),
  run: ({ source, flap, spread, alpha, mach }): SectionFlow => {
    const solver = flap || !isDefault(spread) ? readySolver(source, flap, spread).section.solver : inviscid(source);
    const { x, y, s, nose } = solver.nodes;
    return { x, y, nose: s.findIndex((v) => v >= nose - 1e-9), point: solver.at(alpha, mach) };
  },
});

/** One viscous point with everything along its surfaces. */
export interface ViscousFlow {
  point: ViscousPoint;
  distributions?: Distributions;
}

/** Iterations that a point may take while values move. */
const LIVE_EFFORT = 600;
/** A state is started from when its Reynolds number is within this factor's logarithm. */
const NEAR = 1;

/**
 * One viscous point for an engineer who moves values: either the angle or the lift is held, and it goes on from the point solved last for this
 * section. It is shown and not stored: another start may lead to another root where there are two.
 */
export const liveViscousPoint = analysis({
  version: 2,
  input: z.object({
    ...where,
    alphaDeg: z.number().min(-45).max(45).nullable(),
    cl: z.number().min(-5).max(5).nullable(),
    conditions: viscousConditions,
  }),
  run: ({ source, flap, spread, alphaDeg, cl, conditions }, { cancelled }): ViscousFlow => {
    const ready = readySolver(source, flap, spread);
    const options = { effort: LIVE_EFFORT, hinge: ready.hinge, cancelled };
    const near =
      ready.state && Math.abs(Math.log(ready.state.reynolds / conditions.reynolds)) < NEAR ? ready.state : undefined;
    const point =
      cl === null
        ? ready.section.at((alphaDeg ?? 0) * RAD, conditions, near, options)
        : atLift(ready.section, cl, { kind: 'fixed-re', conditions }, near, options);
    if (isSolved(point) && ready.section.solved) ready.state = ready.section.state();
    return { point, distributions: ready.section.distributions() };
  },
});
