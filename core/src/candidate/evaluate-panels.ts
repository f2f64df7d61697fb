import type { SectionLookup } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { trimsOf, type MassProperties, type Trim } from '../balance';
import { withStreamEffects } from '../flight';
import { analyseThick, type ThickResult } from '../lift';
import { RAD, VeldtwindError } from '../numerics';
import type { MeanLine } from '../section';
import { anglesOf, type DesignBrief, type DesignCandidate, type Evaluation } from './evaluate';
import { withPlacedMass } from './placed-mass';

/** Step over which the slopes of the skins are taken, rad. */
const STEP = 1 * RAD;
/** Angles of the curve between the ends of the sweep. */
const BETWEEN = 5;
/** Places of the centre of gravity, chords from where it is. */
const PLACES = [-0.6, -0.25, 0, 0.25, 0.6];

/** An aircraft by the flow about its closed surfaces, controls as they stand; SI, rad. */
export interface PanelStability {
  thick: ThickResult;
  alphas: number[];
  /** Angle about which slopes are taken. */ about: number;
  /** There. */ CL: number;
  CDi: number;
  /** dCL/dα and dCm/dα there, per rad. */ liftSlope: number;
  pitchSlope: number;
  /** dCL/dα at α = 0, per rad. */ liftSlopeAtZero: number;
  staticMargin: number;
  neutralPoint: number;
  /** Angle at which the lift carries the weight. */ levelAngle: number;
  trims: Trim[];
}

/**
 * Static stability by surface panels: slopes about an angle, moments about the centre of gravity.
 * @param by an evaluation of the same candidate by the lattice. @param about angle of its level flight, rad.
 * @throws as {@link analyseThick}.
 */
export function panelStability(
  by: Evaluation,
  candidate: DesignCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  flight: { speed: number; altitude: number; mass: MassProperties; about: number },
): PanelStability {
  const { speed, altitude, mass, about } = flight;
  const flow = flowState(speed, altitude);
  const sweep = anglesOf(candidate.sweep).map((a) => a * RAD);
  const [least, most] = [Math.min(...sweep), Math.max(...sweep)];
  // Those between the ends are for the curve; the flow is factorised once.
  const between = Array.from({ length: BETWEEN }, (_, i) => least + ((i + 1) / (BETWEEN + 1)) * (most - least));
  const wanted = [least, ...between, most, -STEP, 0, STEP, about - STEP, about, about + STEP];
  const alphas = [...new Set(wanted)].sort((a, b) => a - b);
  const { bodies = [], reference: given } = candidate;
  const thick = analyseThick(
    {
      surfaces: withStreamEffects({ ...candidate, bodies, speed, altitude, mass: mass.mass }, lookup, lineOf),
      bodies,
      ...(given ? { reference: given } : {}),
      alphas,
      mach: flow.mach,
      about: mass.centre,
    },
    lookup,
  );
  const at = (alpha: number) => thick.points[alphas.findIndex((a) => Math.abs(a - alpha) < 1e-12)];
  const slope = (key: 'CL' | 'Cm', alpha: number) => (at(alpha + STEP)[key] - at(alpha - STEP)[key]) / (2 * STEP);
  const [liftSlope, pitchSlope] = [slope('CL', about), slope('Cm', about)];
  const staticMargin = -pitchSlope / liftSlope;
  const { reference } = thick;
  const { CL, CDi } = at(about);
  const needed = (mass.mass * GRAVITY) / (flow.dynamicPressure * reference.area);
  const points = thick.points.map((p) => ({ ...by.lift!.points[0], ...p, strips: [] }));
  return {
    thick,
    alphas,
    about,
    CL,
    CDi,
    liftSlope,
    pitchSlope,
    liftSlopeAtZero: slope('CL', 0),
    staticMargin,
    neutralPoint: mass.centre.x + staticMargin * reference.chord,
    levelAngle: about + (needed - CL) / liftSlope,
    trims: trimsOf({ ...by.lift!, points }, mass.mass, flow.density),
  };
}

/**
 * An evaluation by surface panels: lift and moment over the angles, trims and static stability, all with the controls as they stand. What the panels cannot
 * make stays as the lattice has it, with the reason in `problems`.
 * @param by the evaluation of the same candidate by the lattice, whose level flight tells where the slopes are taken.
 */
export function evaluateWithPanels(
  by: Evaluation,
  brief: DesignBrief,
  candidate: DesignCandidate,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
): Evaluation {
  const { mass, balance } = by;
  if (!by.lift || !mass || !balance) return by;
  const { speed, altitude } = brief;
  try {
    const placed = withPlacedMass(candidate, lookup);
    const { alpha: about } = balance.state;
    const made = panelStability(by, placed, lookup, lineOf, { speed, altitude, mass, about });
    const { thick, liftSlope, liftSlopeAtZero, pitchSlope, staticMargin, neutralPoint, levelAngle, trims } = made;
    const [zero, above] = [0, STEP].map((a) => thick.points[made.alphas.indexOf(a)]);
    const momentPerLift = (above.Cm - zero.Cm) / (above.CL - zero.CL);
    const x = PLACES.map((share) => mass.centre.x + share * thick.reference.chord);
    const margins = x.map((place) => (neutralPoint - place) / thick.reference.chord);
    return {
      ...by,
      method: 'panels',
      curve: {
        points: thick.points.map((p) => ({ alpha: p.alpha, CL: p.CL, Cm: p.Cm, CDi: p.CDi })),
        liftSlope: liftSlopeAtZero,
        zeroLiftAngle: -zero.CL / liftSlopeAtZero,
        zeroLiftMoment: zero.Cm - zero.CL * momentPerLift,
        greatestLift: null,
      },
      balance: {
        trims,
        staticMargin,
        neutralPoint,
        pitchSlope,
        liftSlope,
        state: { at: 'level', alpha: levelAngle, speed, controls: {} },
        centres: { x, staticMargin: margins, pitchSlope: margins.map((m) => -m * liftSlope) },
      },
      problems: [...by.problems, ...panelProblems(made)],
    };
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    const { code, message, hint, path } = error;
    return { ...by, problems: [...by.problems, { code, message, hint, path }] };
  }
}

/** Why the flow about the skins is not to be relied on. */
function panelProblems({ thick }: PanelStability): Evaluation['problems'] {
  const doubts = new Set(thick.points.flatMap(({ doubt }) => (doubt === undefined ? [] : [doubt])));
  return [...doubts].map((message) => ({ code: 'panels-doubtful', message }));
}
