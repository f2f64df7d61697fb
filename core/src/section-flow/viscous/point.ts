import { FailedComputation } from '../../numerics';

/** How a point was reached, in the order in which the ways are tried. */
export type Approach = 'start' | 'continued' | 'halved' | 'other-side' | 'fresh' | 'over-reynolds' | 'other-panels';

/** Why a solved point is doubtful. */
export type Doubt =
  | 'past-maximum-lift'
  | 'nose-bubble-bursts'
  | 'large-separation'
  | 'locally-supersonic'
  | 'low-reynolds'
  | 'two-roots'
  | 'jump'
  | 'estimated';

export const DOUBT_TEXT: Record<Doubt, string> = {
  'past-maximum-lift': 'Past maximum lift: integral boundary layers are only a guide here.',
  'nose-bubble-bursts':
    'The nose bubble bursts: the pressure falls further at the nose than a bubble there can follow; the section stalls before.',
  'two-roots':
    'The lift jumps to the neighbouring point: the flow changes its form about here (a bubble that closes, or has burst), and which it has may depend on the side it is reached from.',
  'large-separation': 'The flow is separated over more than three fifths of a surface.',
  'locally-supersonic': 'The flow is supersonic over part of the section; the compressibility rule no longer holds.',
  'low-reynolds': 'The Reynolds number is below the range of the closures (20 000).',
  estimated:
    'Estimated: no flow was found at this angle; lift and drag go on from the last solved one to those of a plate with separated flow.',
  jump: 'The values jump against both neighbours.',
};

/** Force and moment of a flap about its hinge, on stream pressure and whole chord: forces along and across the chord, moment trailing edge down positive. */
export interface HingeLoad {
  /** Hinge in chords. */
  x: number;
  y: number;
  /** Moment over q c². */
  moment: number;
  /** Moment over q c_f², c_f the chord behind the hinge. */
  momentOnFlapChord: number;
  forceX: number;
  forceY: number;
}

/** One solved point of a section with viscosity; lengths in chords, coefficients on the chord. */
export interface SolvedPoint {
  status: 'solved' | 'doubtful';
  /** rad */ alpha: number;
  reynolds: number;
  cl: number;
  cd: number;
  cdFriction: number;
  cdPressure: number;
  /** About the quarter chord, nose-up positive. */
  cm: number;
  cpMin: number;
  /** Mach number of the stream at which sound's speed is first reached at this angle. */
  machCritical: number;
  /** Estimated drag of shocks past the critical Mach number; counted in cd. */
  cdWave?: number;
  transitionTop: number;
  transitionBottom: number;
  laminarSeparationTop?: number;
  laminarSeparationBottom?: number;
  reattachmentTop?: number;
  reattachmentBottom?: number;
  /** Turbulent separation. */
  separationTop?: number;
  separationBottom?: number;
  hinge?: HingeLoad;
  doubts: Doubt[];
  /** The doubts in words. */
  reason?: string;
  iterations: number;
  residual: number;
  approach?: Approach;
}

/** A point without a solution: it has no numbers that could pass for a result. */
export interface UnsolvedPoint {
  status: 'unsolved';
  /** rad; null where the angle was to follow from a lift. */
  alpha: number | null;
  reynolds: number;
  reason: string;
  iterations: number;
}

/** A point as it came out: with numbers, or with the reason why there are none. */
export type ViscousPoint = SolvedPoint | UnsolvedPoint;

/** Whether a point has numbers. */
export const isSolved = (point: ViscousPoint): point is SolvedPoint => point.status !== 'unsolved';

/** Whether a point has a flow of its own, with distributions: one that was solved, and not estimated from a neighbour. */
export const hasFlow = (point: ViscousPoint): point is SolvedPoint =>
  isSolved(point) && !point.doubts.includes('estimated');

/** A point without a solution, with the reason. @param alpha rad, or null where it was to follow. */
export function unsolvedPoint(
  alpha: number | null,
  reynolds: number,
  reason: string,
  iterations: number,
): UnsolvedPoint {
  return { status: 'unsolved', alpha, reynolds, reason, iterations };
}

/** Adds a doubt to a solved point. */
export function doubt(point: SolvedPoint, why: Doubt): void {
  if (point.doubts.includes(why)) return;
  point.status = 'doubtful';
  point.doubts.push(why);
  point.reason = point.doubts.map((d) => DOUBT_TEXT[d]).join(' ');
}

/** Takes a doubt back. */
export function trust(point: SolvedPoint, why: Doubt): void {
  if (!point.doubts.includes(why)) return;
  point.doubts = point.doubts.filter((d) => d !== why);
  if (point.doubts.length === 0) {
    point.status = 'solved';
    delete point.reason;
  } else point.reason = point.doubts.map((d) => DOUBT_TEXT[d]).join(' ');
}

/** The numbers of a point that must have some. @throws FailedComputation `unsolved` with the point's reason. */
export function asSolved(point: ViscousPoint): SolvedPoint {
  if (!isSolved(point)) throw new FailedComputation('unsolved', point.reason);
  return point;
}
