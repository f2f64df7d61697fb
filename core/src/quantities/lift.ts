import type { AirframeLoads, LiftResult, StripLoad } from '../lift';
import { quantitiesOf } from './quantity';

const DEG = 180 / Math.PI;

/** One angle of a lift result, with what makes forces of its coefficients. */
export interface LiftPoint {
  point: AirframeLoads;
  reference: LiftResult['reference'];
  /** Pa; null where the design point is not known. */
  dynamicPressure: number | null;
}

const force = (coefficient: (p: AirframeLoads) => number) => (l: LiftPoint) =>
  l.dynamicPressure === null ? null : coefficient(l.point) * l.dynamicPressure * l.reference.area;

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
    id: 'induced-drag',
    symbol: 'induced drag',
    name: 'induced drag',
    dimension: 'force',
    digits: 2,
    of: force((p) => p.CDi),
  },
]);

/** What sideslip brings. */
export const LATERAL_QUANTITIES = quantitiesOf<LiftPoint>([
  { id: 'CY', symbol: 'CY', name: 'side force', dimension: 'plain', digits: 4, of: ({ point }) => point.CY },
  { id: 'Cl', symbol: 'Cl', name: 'rolling moment', dimension: 'plain', digits: 4, of: ({ point }) => point.Cl },
  { id: 'Cn', symbol: 'Cn', name: 'yawing moment', dimension: 'plain', digits: 4, of: ({ point }) => point.Cn },
]);

/** A strip with the mean chord that its load is told on. */
export interface LoadedStrip {
  strip: StripLoad;
  /** m */ meanChord: number;
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
  { id: 'cl', symbol: 'cl', name: 'local lift coefficient', dimension: 'plain', of: ({ strip }) => strip.cl },
  {
    id: 'induced-angle',
    symbol: 'α induced',
    name: 'induced angle',
    dimension: 'angle',
    of: ({ strip }) => strip.inducedAngle * DEG,
  },
]);
