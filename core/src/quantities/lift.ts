import type { SteadyPoint } from '../flight';
import type { AirframeLoads, LiftResult, StripLoad, StripState } from '../lift';
import { DEG } from '../numerics';
import { quantitiesOf } from './quantity';

/** One state of a lift result, with what makes forces of its coefficients. What only a state with polars tells is there then. */
export interface LiftPoint {
  point: AirframeLoads & Partial<Omit<SteadyPoint, keyof AirframeLoads>>;
  reference: LiftResult['reference'];
  /** Pa; null where the design point is not known. */
  dynamicPressure: number | null;
}

const force = (coefficient: (p: AirframeLoads) => number) => (l: LiftPoint) =>
  l.dynamicPressure === null ? null : coefficient(l.point) * l.dynamicPressure * l.reference.area;

const moment = (coefficient: (p: AirframeLoads) => number, arm: 'chord' | 'span') => (l: LiftPoint) => {
  const f = force(coefficient)(l);
  return f === null ? null : f * l.reference[arm];
};

const told = (of: (p: LiftPoint['point']) => number | undefined) => (l: LiftPoint) => of(l.point) ?? null;

/** The lift of the right half of the wing times a power of its arm from the plane of symmetry, on the dynamic pressure. */
const onHalf = (power: 1 | 2) => (l: LiftPoint) => {
  if (l.dynamicPressure === null) return null;
  const areas = new Map<number, number>();
  for (const s of l.point.strips) areas.set(s.surface, (areas.get(s.surface) ?? 0) + s.chord * s.width);
  const wing = [...areas].reduce((a, b) => (b[1] > a[1] ? b : a), [-1, 0])[0];
  const sum = l.point.strips.reduce(
    (m, s) => (s.surface === wing && s.y > 0 ? m + s.cl * s.chord * s.width * s.y ** power : m),
    0,
  );
  return l.dynamicPressure * sum;
};

/** Below this lift a ratio to it says nothing. */
const LEAST_LIFT = 0.02;

/** Quantities of the whole aircraft at one angle of attack. */
export const LIFT_QUANTITIES = quantitiesOf<LiftPoint>([
  { id: 'alpha', symbol: 'α', name: 'angle of attack', dimension: 'angle', of: ({ point }) => point.alpha * DEG },
  { id: 'CL', symbol: 'CL', name: 'lift coefficient', dimension: 'plain', digits: 4, of: ({ point }) => point.CL },
  {
    id: 'CDi',
    symbol: 'CD induced',
    name: 'induced drag coefficient',
    dimension: 'plain',
    digits: 5,
    of: ({ point }) => point.CDi,
  },
  { id: 'Cm', symbol: 'Cm', name: 'pitching moment', dimension: 'plain', digits: 4, of: ({ point }) => point.Cm },
  {
    id: 'ratio',
    symbol: 'CL / CD induced',
    name: 'lift over induced drag',
    dimension: 'plain',
    digits: 1,
    of: ({ point }) => (Math.abs(point.CL) < LEAST_LIFT ? null : point.CL / point.CDi),
  },
  {
    id: 'efficiency',
    symbol: 'span efficiency',
    name: 'span efficiency',
    dimension: 'plain',
    digits: 3,
    of: ({ point }) => (Math.abs(point.CL) < 2.5 * LEAST_LIFT ? null : point.efficiency),
  },
  {
    id: 'greatest',
    symbol: 'greatest local cl',
    name: 'greatest local lift coefficient',
    dimension: 'plain',
    digits: 3,
    of: ({ point }) => Math.max(...point.strips.map((s) => s.cl)),
  },
  { id: 'lift', symbol: 'lift', name: 'lift', dimension: 'force', of: force((p) => p.CL) },
  {
    id: 'pitching-moment',
    symbol: 'pitching moment',
    name: 'pitching moment, dimensional',
    dimension: 'moment',
    of: moment((p) => p.Cm, 'chord'),
  },
  {
    id: 'induced-drag',
    symbol: 'induced drag',
    name: 'induced drag',
    dimension: 'force',
    digits: 2,
    of: force((p) => p.CDi),
  },
  {
    id: 'root-bending',
    symbol: 'root bending moment',
    name: 'bending moment at the root',
    says: 'of the lift of one half of the wing about the plane of symmetry',
    formula: 'M = ∫ l y dy',
    dimension: 'moment',
    of: onHalf(1),
  },
  {
    id: 'bending-integral',
    symbol: '∫ l y² dy',
    name: 'second moment of the span load',
    says: 'twice the bending moment of one half of the wing, integrated along its span',
    formula: '∫ l y² dy',
    dimension: 'plain',
    per: 'N m²',
    of: onHalf(2),
  },
  {
    id: 'CD',
    symbol: 'CD',
    name: 'drag coefficient',
    says: 'induced, profile and parasite drag; with polars',
    dimension: 'plain',
    digits: 5,
    of: told((p) => p.CD),
  },
  {
    id: 'CD-profile',
    symbol: 'CD profile',
    name: 'profile drag coefficient',
    says: 'of the sections’ polars',
    dimension: 'plain',
    digits: 5,
    of: told((p) => p.CDprofile),
  },
  {
    id: 'CD-parasite',
    symbol: 'CD parasite',
    name: 'parasite drag coefficient',
    says: 'of bodies and allowances, from Drag',
    dimension: 'plain',
    digits: 5,
    of: told((p) => p.CDparasite),
  },
  {
    id: 'lift-to-drag',
    symbol: 'CL / CD',
    name: 'lift over drag',
    dimension: 'plain',
    digits: 2,
    of: ({ point: p }) => (p.CD === undefined ? null : p.CL / p.CD),
  },
  { id: 'drag', symbol: 'drag', name: 'drag', dimension: 'force', digits: 2, of: told((p) => p.drag) },
  { id: 'speed', symbol: 'speed', name: 'speed', dimension: 'speed', of: told((p) => p.speed) },
  {
    id: 'sink',
    symbol: 'sink',
    name: 'sink of the glide',
    says: 'downward, of a glide at the same angle and speed',
    dimension: 'speed',
    digits: 3,
    of: ({ point: p }) =>
      p.CD === undefined || p.speed === undefined || p.CL < LEAST_LIFT
        ? null
        : (p.speed * p.CD) / Math.hypot(p.CL, p.CD),
  },
  {
    id: 'power',
    symbol: 'power needed',
    name: 'power needed',
    says: 'drag times speed',
    dimension: 'plain',
    per: 'W',
    digits: 1,
    of: ({ point: p }) => (p.drag === undefined || p.speed === undefined ? null : p.drag * p.speed),
  },
  {
    id: 'stalled',
    symbol: 'stalled',
    name: 'share of the span that has stalled',
    dimension: 'ratio',
    of: ({ point: p }) =>
      p.stalled === undefined ? null : Math.max(0, ...p.stalled.map((s) => Math.abs(s.to - s.from))),
  },
  {
    id: 'deflection',
    symbol: 'δ',
    name: 'deflection of the control',
    dimension: 'angle',
    of: ({ point: p }) => (p.deflection === undefined ? null : p.deflection * DEG),
  },
  { id: 'sideslip', symbol: 'β', name: 'sideslip', dimension: 'angle', of: ({ point }) => point.beta * DEG },
]);

/** What sideslip brings. */
export const LATERAL_QUANTITIES = quantitiesOf<LiftPoint>([
  { id: 'CY', symbol: 'CY', name: 'side force', dimension: 'plain', digits: 4, of: ({ point }) => point.CY },
  { id: 'Cl', symbol: 'Cl', name: 'rolling moment', dimension: 'plain', digits: 4, of: ({ point }) => point.Cl },
  { id: 'Cn', symbol: 'Cn', name: 'yawing moment', dimension: 'plain', digits: 4, of: ({ point }) => point.Cn },
  {
    id: 'side-force',
    symbol: 'side force',
    name: 'side force, dimensional',
    dimension: 'force',
    of: force((p) => p.CY),
  },
  {
    id: 'rolling-moment',
    symbol: 'rolling moment',
    name: 'rolling moment, dimensional',
    dimension: 'moment',
    of: moment((p) => p.Cl, 'span'),
  },
  {
    id: 'yawing-moment',
    symbol: 'yawing moment',
    name: 'yawing moment, dimensional',
    dimension: 'moment',
    of: moment((p) => p.Cn, 'span'),
  },
]);

/** A strip with the mean chord that its load is told on. */
export interface LoadedStrip {
  strip: StripLoad;
  /** With polars: what its section does. */ state?: StripState;
  /** m */ meanChord: number;
  /** Load less that of the ellipse that carries what the surface carries. */ aboveEllipse?: number;
}

/** Quantities along the span. */
export const SPAN_QUANTITIES = quantitiesOf<LoadedStrip>([
  {
    id: 'load',
    symbol: 'cl c / c̄',
    name: 'span load',
    dimension: 'plain',
    of: ({ strip, meanChord }) => (strip.cl * strip.chord) / meanChord,
  },
  {
    id: 'load-deviation',
    symbol: 'Δ(cl c / c̄)',
    name: 'span load less the elliptic one',
    dimension: 'plain',
    of: ({ aboveEllipse }) => aboveEllipse ?? null,
  },
  { id: 'cl', symbol: 'cl', name: 'local lift coefficient', dimension: 'plain', of: ({ strip }) => strip.cl },
  {
    id: 'cd',
    symbol: 'cd',
    name: 'local drag coefficient',
    dimension: 'plain',
    digits: 5,
    of: ({ state }) => state?.cd ?? null,
  },
  {
    id: 'lift-left',
    symbol: 'clmax − cl',
    name: 'lift left to the local stall',
    dimension: 'plain',
    of: ({ state }) => (state && Number.isFinite(state.clMax) ? state.clMax - state.cl : null),
  },
  {
    id: 'local-angle',
    symbol: 'α local',
    name: 'angle that the section meets',
    dimension: 'angle',
    of: ({ state }) => (state ? state.angle * DEG : null),
  },
  {
    id: 'induced-angle',
    symbol: 'α induced',
    name: 'induced angle',
    dimension: 'angle',
    of: ({ strip }) => (Number.isFinite(strip.inducedAngle) ? strip.inducedAngle * DEG : null),
  },
]);
