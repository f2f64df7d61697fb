import { InvalidInput } from '../numerics';

/** What a starting layout is made by: proportions and coefficients that are usual for its kind. */
export interface LayoutPlan {
  id: string;
  name: string;
  /** What it is for, in a sentence. */ says: string;
  /** Numbers that it is proposed with: kg, m/s, m, and W or N. */
  usual: { mass: number; speed: number; span: number; push: number };
  /** What pushes it: a shaft's power, a jet's thrust, or nothing. */
  pushedBy: 'power' | 'thrust' | 'none';
  engine: 'nose' | 'rear' | 'inside' | 'none';
  wing: {
    /** Lift coefficient in level flight at the design speed. */ CL: number;
    aspect: number;
    /** Below it the layout is none: what the span limit is held against. */ leastAspect: number;
    taper: number;
    sweepDeg: number;
    dihedralDeg: number;
    washoutDeg: number;
    /** Height on the body: −1 at its bottom, 1 at its top. */ height: number;
    section: 'cambered' | 'reflexed' | 'fast';
  };
  /** A second wing of the same size: behind, or above. */ second?: 'behind' | 'above';
  /** Where the fin and the tailplane are. */
  tail: 'low' | 't' | 'v' | 'booms' | 'tip-fins' | 'body-fin' | 'foreplane';
  /** Quarter chord of the wing to that of the tail, mean chords. */ arm: number;
  /** S_h l / (S c) and S_v l / (S b). */
  tailVolume: number;
  finVolume: number;
  body: 'fuselage' | 'pod' | 'pod-and-boom';
  /** Ahead of the wing, mean chords. */ nose: number;
  /** Of the chord. */ staticMargin: number;
  /** What brings trim. */ trim: 'tailplane' | 'foreplane' | 'second-wing' | 'washout' | 'elevator';
}

const wing = {
  CL: 0.45,
  aspect: 8,
  leastAspect: 4,
  taper: 0.6,
  sweepDeg: 2,
  dihedralDeg: 4,
  washoutDeg: -2,
  height: 0.8,
  section: 'cambered' as const,
};
const tailed = {
  tail: 'low' as const,
  arm: 3.2,
  tailVolume: 0.55,
  finVolume: 0.04,
  body: 'fuselage' as const,
  nose: 1.6,
  staticMargin: 0.12,
  trim: 'tailplane' as const,
};

/**
 * Starting layouts: wing loading by a lift coefficient, tails by volume coefficients.
 * @source ranges of volume coefficients and aspect ratios: NACA TN-1229, 1947; NASA TP-1589, 1980; usual practice of the textbooks for tailless layouts.
 */
export const LAYOUTS: readonly LayoutPlan[] = [
  {
    id: 'tailed',
    name: 'Tailed aircraft',
    says: 'Engine in the nose, high wing, tail on the body: forgiving, and easy to change.',
    usual: { mass: 12, speed: 22, span: 3.2, push: 900 },
    pushedBy: 'power',
    engine: 'nose',
    wing,
    ...tailed,
  },
  {
    id: 'twin-boom',
    name: 'Twin-boom pusher',
    says: 'The nose is free for a load or a camera; the propeller turns between two booms.',
    usual: { mass: 20, speed: 25, span: 4, push: 1600 },
    pushedBy: 'power',
    engine: 'rear',
    wing: { ...wing, aspect: 10, dihedralDeg: 3 },
    ...tailed,
    tail: 'booms',
    body: 'pod',
    nose: 2.2,
  },
  {
    id: 'glider',
    name: 'Glider',
    says: 'Much span on a slim body: a small sink rate.',
    usual: { mass: 5, speed: 13, span: 4, push: 0 },
    pushedBy: 'none',
    engine: 'none',
    wing: { ...wing, CL: 0.55, aspect: 16, leastAspect: 10, taper: 0.5, sweepDeg: 1 },
    ...tailed,
    arm: 4.2,
    tailVolume: 0.5,
    finVolume: 0.025,
    body: 'pod-and-boom',
    nose: 2.6,
  },
  {
    id: 't-tail',
    name: 'T-tail',
    says: 'The tailplane stands on the fin, clear of the wake and of the grass.',
    usual: { mass: 9, speed: 20, span: 3.2, push: 600 },
    pushedBy: 'power',
    engine: 'nose',
    wing: { ...wing, aspect: 10, height: 0.2 },
    ...tailed,
    tail: 't',
    arm: 3.4,
    finVolume: 0.045,
  },
  {
    id: 'v-tail',
    name: 'V-tail',
    says: 'Two surfaces do the work of three, and lie higher above the ground.',
    usual: { mass: 6, speed: 20, span: 2.6, push: 500 },
    pushedBy: 'power',
    engine: 'nose',
    wing,
    ...tailed,
    tail: 'v',
    arm: 3.4,
  },
  {
    id: 'swept-wing',
    name: 'Swept flying wing',
    says: 'Sweep and washout stand for the tail; fins at the tips.',
    usual: { mass: 3, speed: 17, span: 2.2, push: 300 },
    pushedBy: 'power',
    engine: 'rear',
    wing: {
      ...wing,
      CL: 0.35,
      aspect: 7.5,
      taper: 0.55,
      sweepDeg: 24,
      dihedralDeg: 1,
      washoutDeg: -3,
      height: 0,
      section: 'reflexed',
    },
    tail: 'tip-fins',
    arm: 0,
    tailVolume: 0,
    finVolume: 0.04,
    body: 'pod',
    nose: 0.6,
    staticMargin: 0.09,
    trim: 'washout',
  },
  {
    id: 'plank',
    name: 'Plank flying wing',
    says: 'A straight wing of a reflexed section, with a fin behind: simple to build.',
    usual: { mass: 2, speed: 14, span: 2.2, push: 180 },
    pushedBy: 'power',
    engine: 'nose',
    wing: {
      ...wing,
      CL: 0.35,
      aspect: 7,
      taper: 0.85,
      sweepDeg: 0,
      dihedralDeg: 3,
      washoutDeg: 0,
      height: 0,
      section: 'reflexed',
    },
    tail: 'body-fin',
    arm: 1.3,
    tailVolume: 0,
    finVolume: 0.03,
    body: 'fuselage',
    nose: 1.2,
    staticMargin: 0.08,
    trim: 'elevator',
  },
  {
    id: 'canard',
    name: 'Canard',
    says: 'The foreplane carries its share and stalls first; pusher, fins at the tips of a swept wing.',
    usual: { mass: 10, speed: 24, span: 2.8, push: 900 },
    pushedBy: 'power',
    engine: 'rear',
    wing: { ...wing, CL: 0.4, aspect: 8, sweepDeg: 20, dihedralDeg: 1, washoutDeg: -2, height: 0.8 },
    tail: 'foreplane',
    arm: 3.2,
    tailVolume: 0.5,
    finVolume: 0.035,
    body: 'pod',
    nose: 3.4,
    staticMargin: 0.12,
    trim: 'foreplane',
  },
  {
    id: 'tandem',
    name: 'Tandem wings',
    says: 'Two wings of the same size, one behind the other: little span for its mass, and a wide range of the centre.',
    usual: { mass: 8, speed: 20, span: 2, push: 700 },
    pushedBy: 'power',
    engine: 'nose',
    wing: { ...wing, aspect: 8, height: 0.8 },
    second: 'behind',
    tail: 'body-fin',
    arm: 4,
    tailVolume: 0,
    finVolume: 0.05,
    body: 'fuselage',
    nose: 1.4,
    staticMargin: 0.2,
    trim: 'second-wing',
  },
  {
    id: 'biplane',
    name: 'Biplane',
    says: 'Two wings above each other: slow flight with little span.',
    usual: { mass: 8, speed: 17, span: 1.9, push: 800 },
    pushedBy: 'power',
    engine: 'nose',
    wing: {
      ...wing,
      CL: 0.4,
      aspect: 6,
      leastAspect: 3.5,
      taper: 1,
      sweepDeg: 0,
      dihedralDeg: 3,
      washoutDeg: 0,
      height: -0.7,
    },
    ...tailed,
    second: 'above',
    arm: 3.4,
    tailVolume: 0.75,
    finVolume: 0.06,
  },
  {
    id: 'hand-launch',
    name: 'Hand-launched glider',
    says: 'Light, with much dihedral: thrown, and left to itself.',
    usual: { mass: 0.3, speed: 7.5, span: 1.5, push: 0 },
    pushedBy: 'none',
    engine: 'none',
    wing: { ...wing, CL: 0.5, aspect: 9, leastAspect: 5, dihedralDeg: 6, washoutDeg: -1, height: 0.9 },
    ...tailed,
    arm: 3.8,
    tailVolume: 0.5,
    finVolume: 0.03,
    body: 'pod-and-boom',
    nose: 1.8,
  },
  {
    id: 'jet',
    name: 'Low-wing jet',
    says: 'A swept low wing and an engine within the body: fast, with a small wing.',
    usual: { mass: 14, speed: 48, span: 2.2, push: 110 },
    pushedBy: 'thrust',
    engine: 'inside',
    wing: {
      ...wing,
      CL: 0.25,
      aspect: 6,
      leastAspect: 3,
      taper: 0.45,
      sweepDeg: 18,
      dihedralDeg: 4,
      height: -0.7,
      section: 'fast',
    },
    ...tailed,
    arm: 3,
    tailVolume: 0.55,
    finVolume: 0.055,
    nose: 2.6,
  },
];

/** A layout by its name. @throws InvalidInput `layout` where there is none. */
export function layoutOf(id: string): LayoutPlan {
  const plan = LAYOUTS.find((l) => l.id === id);
  if (!plan)
    throw new InvalidInput(
      'layout',
      `There is no layout "${id}".`,
      `There are ${LAYOUTS.map((l) => l.id).join(', ')}.`,
      'layout',
    );
  return plan;
}
