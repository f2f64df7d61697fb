import type { AirframeMotion } from '../candidate';
import { pairedMode } from '../motion';
import { DEG } from '../numerics';
import { STATIC_MARGIN } from './candidate';
import { quantitiesOf } from './quantity';

const inertia = { dimension: 'inertia' as const };
const ABOUT = 'about the centre of gravity, along the stream and across it';

/** Quantities of level flight in trim, and of the aircraft in it. */
export const MOTION_QUANTITIES = quantitiesOf<AirframeMotion>([
  {
    id: 'level-angle',
    symbol: 'α',
    name: 'angle of attack',
    says: 'in level flight, in trim where a control trims',
    formula: 'CL(α, δ) = W/(q S), Cm(α, δ) = 0',
    dimension: 'angle',
    of: (m) => m.trim.alpha * DEG,
  },
  {
    id: 'level-CL',
    symbol: 'CL',
    name: 'lift coefficient',
    says: 'in level flight; less than weight over q S by what the thrust carries',
    formula: 'CL = L/(q S)',
    dimension: 'plain',
    digits: 4,
    of: (m) => m.trim.CL,
  },
  {
    id: 'level-CD',
    symbol: 'CD',
    name: 'drag coefficient',
    says: 'in level flight, with the drag of the deflections that trim',
    formula: 'CD = D/(q S)',
    dimension: 'plain',
    digits: 5,
    of: (m) => m.trim.CD,
  },
  { id: 'mass', symbol: 'mass', name: 'mass', says: 'of the loading', dimension: 'mass', of: (m) => m.mass.mass },
  {
    id: 'centre',
    symbol: 'x of the centre of gravity',
    name: 'centre of gravity, x',
    dimension: 'length',
    of: (m) => m.mass.centre.x,
  },
  { ...STATIC_MARGIN, of: (m) => m.staticMargin },
  {
    id: 'stick-free-margin',
    symbol: 'stick-free margin',
    name: 'stick-free margin',
    says: 'static margin with the control that trims let free: it floats by its hinge moment, thin-section theory',
    dimension: 'ratio',
    of: (m) => m.stickFree?.staticMargin ?? null,
  },
  {
    id: 'manoeuvre-margin',
    symbol: 'manoeuvre margin',
    name: 'manoeuvre margin',
    says: 'how far aft the centre of gravity may go until a pull-up needs no deflection, over the mean chord',
    formula: '−(Cmα/CLα)(1 − CLq μ) − Cmq μ, μ = ρ S c̄/(4 m)',
    dimension: 'ratio',
    of: (m) => m.manoeuvre.margin,
  },
  { id: 'Ixx', symbol: 'Ixx', name: 'Ixx', says: ABOUT, ...inertia, of: (m) => m.case.Ixx },
  { id: 'Iyy', symbol: 'Iyy', name: 'Iyy', says: ABOUT, ...inertia, of: (m) => m.case.Iyy },
  { id: 'Izz', symbol: 'Izz', name: 'Izz', says: ABOUT, ...inertia, of: (m) => m.case.Izz },
  { id: 'Ixz', symbol: 'Ixz', name: 'Ixz = ∫xz dm', says: ABOUT, ...inertia, of: (m) => m.case.Ixz },
]);

const SWINGING = [
  { id: 'shortPeriod', name: 'short period' },
  { id: 'phugoid', name: 'phugoid' },
  { id: 'dutchRoll', name: 'Dutch roll' },
] as const;

/** The modes of motion in level flight. */
export const MODE_QUANTITIES = quantitiesOf<AirframeMotion>([
  ...SWINGING.flatMap(({ id, name }) => [
    {
      id: `motion.${id}.damping`,
      symbol: `ζ ${name}`,
      name: `${name} damping ratio`,
      says: 'above 1 where it no longer oscillates',
      formula: 'ζ = −σ/√(σ² + ω²)',
      dimension: 'plain' as const,
      digits: 3,
      of: (m: AirframeMotion) => pairedMode(m.modes, name)?.dampingRatio ?? null,
    },
    {
      id: `motion.${id}.frequency`,
      symbol: `f ${name}`,
      name: `${name} frequency`,
      formula: 'f = ω/2π',
      dimension: 'plain' as const,
      per: 'Hz',
      digits: 3,
      of: (m: AirframeMotion) => pairedMode(m.modes, name)?.frequencyHz ?? null,
    },
  ]),
  {
    id: 'motion.roll.timeConstant',
    symbol: 'T roll',
    name: 'roll time constant',
    formula: 'T = −1/σ',
    dimension: 'plain',
    per: 's',
    digits: 3,
    of: ({ modes }) => {
      const roll = modes.find((m) => m.name === 'roll');
      return roll && roll.re < 0 ? -1 / roll.re : null;
    },
  },
  {
    id: 'motion.spiral.timeToDouble',
    symbol: 'T double, spiral',
    name: 'spiral time to double',
    says: 'none where the spiral dies out',
    formula: 'T = ln 2/σ',
    dimension: 'plain',
    per: 's',
    digits: 1,
    of: ({ modes }) => modes.find((m) => m.name === 'spiral')?.timeToDouble ?? null,
  },
]);
