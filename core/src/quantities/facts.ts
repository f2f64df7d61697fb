import type { AtLift, PolarFacts } from '../polar';
import { plain, quantitiesOf, type Quantity } from './quantity';

/** Facts of a curve, by which curves are listed, sorted and chosen. */
export const FACT_QUANTITIES = quantitiesOf<PolarFacts>([
  plain('cl-max', 'cl max', 'greatest lift', 3, (f) => f.clMax),
  {
    id: 'alpha-cl-max',
    symbol: 'α at cl max',
    name: 'angle of greatest lift',
    dimension: 'angle',
    digits: 1,
    of: (f) => f.alphaClMaxDeg,
  },
  plain(
    'lift-kept',
    'lift kept 3° past the greatest',
    'lift left 3° past its greatest, a share of it',
    2,
    (f) => f.liftKept,
  ),
  plain('cd-min', 'cd min', 'least drag', 5, (f) => f.cdMin),
  plain('cl-cd-min', 'cl at cd min', 'lift at least drag', 3, (f) => f.clAtCdMin),
  plain('low-drag-from', 'low drag from cl', 'lower edge of the low-drag range', 3, (f) => f.lowDragRange?.[0] ?? null),
  plain('low-drag-to', 'low drag to cl', 'upper edge of the low-drag range', 3, (f) => f.lowDragRange?.[1] ?? null),
  plain('best-ratio', 'best cl / cd', 'greatest lift over drag', 1, (f) => f.bestLiftToDrag),
  plain('cl-best-ratio', 'cl at best cl / cd', 'lift at the greatest lift over drag', 3, (f) => f.clAtBestLiftToDrag),
  plain('best-climb', 'best cl^1.5 / cd', 'greatest climb ratio', 1, (f) => f.bestClimb),
  {
    id: 'zero-lift',
    symbol: 'α zero lift',
    name: 'angle of zero lift',
    dimension: 'angle',
    digits: 2,
    of: (f) => f.alphaZeroLiftDeg,
  },
  { ...plain('slope', 'slope', 'slope of lift', 4, (f) => f.liftSlopePerDeg), per: '/°' },
  plain('cm-zero', 'cm at zero lift', 'moment at zero lift', 4, (f) => f.cmZeroLift),
  plain('cm-greatest', 'greatest cm', 'moment of greatest size', 4, (f) => f.cmGreatest),
  plain('cm-nose-up', 'greatest nose-up cm', 'greatest nose-up moment before the stall', 4, (f) => f.cmGreatestNoseUp),
]);

/** Facts of a curve together with what it has where the aircraft flies. */
export interface CurveFacts {
  facts: PolarFacts;
  /** At the lift of the design point, of the climb and of the greatest stall speed; null where the curve does not reach it, or none is set. */
  design: AtLift | null;
  climb: AtLift | null;
  stall: AtLift | null;
  /** Greatest thickness of the section, chords. */
  thickness: number | null;
}

const whole = ({ of, ...q }: Quantity<PolarFacts>): Quantity<CurveFacts> => ({ ...q, of: (c) => of(c.facts) });

/** What sections are listed, ranked and chosen by: at the aircraft's own lift first. */
export const CURVE_QUANTITIES = quantitiesOf<CurveFacts>([
  plain('cd-design', 'cd at design lift', 'drag at design lift', 5, (c) => c.design?.cd ?? null),
  plain('cm-design', 'cm at design lift', 'moment at design lift', 4, (c) => c.design?.cm ?? null),
  plain(
    'edge-design',
    'distance to the low-drag edge',
    'from design lift to the edge of the low-drag range',
    2,
    (c) => c.design?.toEdge ?? null,
  ),
  plain('cd-climb', 'cd at climb lift', 'drag at climb lift', 5, (c) => c.climb?.cd ?? null),
  plain('cm-climb', 'cm at climb lift', 'moment at climb lift', 4, (c) => c.climb?.cm ?? null),
  plain('cd-stall', 'cd at stall lift', 'drag at the lift of the greatest stall speed', 5, (c) => c.stall?.cd ?? null),
  plain(
    'cm-stall',
    'cm at stall lift',
    'moment at the lift of the greatest stall speed',
    4,
    (c) => c.stall?.cm ?? null,
  ),
  ...FACT_QUANTITIES.map(whole),
  {
    id: 'thickness',
    symbol: 'thickness',
    name: 'greatest thickness',
    dimension: 'ratio',
    digits: 2,
    of: (c) => c.thickness,
  },
]);
