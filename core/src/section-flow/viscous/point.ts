/** How a point was reached, in the order in which the ways are tried. */
export type Approach = 'start' | 'continued' | 'halved' | 'other-side' | 'fresh' | 'other-panels';

/** Why a solved point is doubtful. */
export type Doubt = 'past-maximum-lift' | 'large-separation' | 'locally-supersonic' | 'low-reynolds' | 'jump';

export const DOUBT_TEXT: Record<Doubt, string> = {
  'past-maximum-lift': 'Past maximum lift: integral boundary layers are only a guide here.',
  'large-separation': 'The flow is separated over more than three fifths of a surface.',
  'locally-supersonic': 'The flow is supersonic over part of the section; the compressibility rule no longer holds.',
  'low-reynolds': 'The Reynolds number is below the range of the closures (20 000).',
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
export interface ViscousPoint {
  /** rad */ alpha: number;
  reynolds: number;
  cl: number;
  cd: number;
  cdFriction: number;
  cdPressure: number;
  /** About the quarter chord, nose-up positive. */
  cm: number;
  cpMin: number;
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
  status: 'solved' | 'doubtful' | 'unsolved';
  doubts: Doubt[];
  reason?: string;
  iterations: number;
  residual: number;
  approach?: Approach;
}

/** A point without a solution: every number is NaN, so that it can never pass for a result. */
export function unsolvedPoint(alpha: number, reynolds: number, reason: string, iterations: number): ViscousPoint {
  return {
    alpha,
    reynolds,
    cl: NaN,
    cd: NaN,
    cdFriction: NaN,
    cdPressure: NaN,
    cm: NaN,
    cpMin: NaN,
    transitionTop: NaN,
    transitionBottom: NaN,
    status: 'unsolved',
    doubts: [],
    reason,
    iterations,
    residual: NaN,
  };
}

/** Adds a doubt to a solved point. */
export function doubt(point: ViscousPoint, why: Doubt): void {
  if (point.status === 'unsolved' || point.doubts.includes(why)) return;
  point.status = 'doubtful';
  point.doubts.push(why);
  point.reason = point.doubts.map((d) => DOUBT_TEXT[d]).join(' ');
}

/** Takes a doubt back. */
export function trust(point: ViscousPoint, why: Doubt): void {
  if (!point.doubts.includes(why)) return;
  point.doubts = point.doubts.filter((d) => d !== why);
  if (point.doubts.length === 0) {
    point.status = 'solved';
    delete point.reason;
  } else point.reason = point.doubts.map((d) => DOUBT_TEXT[d]).join(' ');
}
