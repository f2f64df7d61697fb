import type { PolarFacts } from '../polar';
import { plain, quantitiesOf } from './quantity';

/** Facts of a curve, by which curves are listed, sorted and chosen. */
export const FACT_QUANTITIES = quantitiesOf<PolarFacts>([
  plain('cl-max', 'cl max', 'greatest lift', 3, (f) => f.clMax),
  {
    id: 'alpha-cl-max',
    symbol: 'α at it',
    name: 'angle of greatest lift',
    dimension: 'angle',
    digits: 1,
    of: (f) => f.alphaClMaxDeg,
  },
  plain('lift-kept', 'kept 3° later', 'lift left 3° past its greatest, a share of it', 2, (f) => f.liftKept),
  plain('cd-min', 'cd min', 'least drag', 5, (f) => f.cdMin),
  plain('cl-cd-min', 'cl at it', 'lift at least drag', 3, (f) => f.clAtCdMin),
  plain('low-drag-from', 'low drag from cl', 'lower edge of the low-drag range', 3, (f) => f.lowDragRange?.[0] ?? null),
  plain('low-drag-to', 'to cl', 'upper edge of the low-drag range', 3, (f) => f.lowDragRange?.[1] ?? null),
  plain('best-ratio', 'best cl / cd', 'greatest lift over drag', 1, (f) => f.bestLiftToDrag),
  plain('cl-best-ratio', 'cl at it', 'lift at the greatest lift over drag', 3, (f) => f.clAtBestLiftToDrag),
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
]);
