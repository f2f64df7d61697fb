import { DEG } from '@veldtwind/core/numerics';
import {
  DISTRIBUTION_KEYS,
  type Distributions,
  type LayerDistribution,
  isSolved,
  type SolvedPoint,
  type PolarRequest,
  type ViscousPoint,
} from '@veldtwind/core/section-flow';
import { headingOf, POLAR_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { quantityColumns, type Column } from './output';

type Printed<T> = Record<keyof T & string, (number | null)[]>;

/** Distributions as plain lists with five significant digits; null where a quantity has no meaning. */
export function details(distributions: Distributions): Record<keyof Distributions, Printed<LayerDistribution>> {
  const list = (d: LayerDistribution) =>
    Object.fromEntries(
      DISTRIBUTION_KEYS.map((k) => [
        k,
        Array.from(d[k], (v) => (Number.isFinite(v) ? Number(v.toPrecision(5)) : null)),
      ]),
    ) as Printed<LayerDistribution>;
  return { top: list(distributions.top), bottom: list(distributions.bottom), wake: list(distributions.wake) };
}

/** Fields that every printed point has; null where it is unsolved. */
const NUMBERS = [
  'cl',
  'cd',
  'cdFriction',
  'cdPressure',
  'cm',
  'cpMin',
  'machCritical',
  'transitionTop',
  'transitionBottom',
] as const satisfies readonly (keyof SolvedPoint)[];
type Numbers = Record<(typeof NUMBERS)[number], number | null>;

export interface PrintedPoint
  extends Partial<Omit<SolvedPoint, 'alpha' | 'doubts' | 'status' | keyof Numbers>>, Numbers {
  status: ViscousPoint['status'];
  alphaDeg: number | null;
  /** The lift asked for, in a sweep over lift. */
  clWanted?: number;
  doubts?: string[];
  details?: ReturnType<typeof details>;
}

/** A point as the command line prints it: angles in degrees, the given ones exactly as given. */
export function printedPoint(
  point: ViscousPoint,
  request: PolarRequest,
  index: number,
  along: ReturnType<typeof details> | undefined,
): PrintedPoint {
  const { alpha, ...rest } = point;
  const { doubts, ...numbers } = isSolved(point) ? point : { doubts: [] };
  return {
    alphaDeg: alpha === null ? null : Number((alpha * DEG).toPrecision(10)),
    ...(request.lifts ? { clWanted: request.lifts[request.kind === 'over-re' ? 0 : index] } : {}),
    ...(Object.fromEntries(NUMBERS.map((k) => [k, (numbers as Partial<SolvedPoint>)[k] ?? null])) as Numbers),
    ...rest,
    doubts: doubts.length ? doubts : undefined,
    ...(along ? { details: along } : {}),
  };
}

const SHOWN = [
  'cl',
  'cd',
  'friction',
  'cm',
  'cp-min',
  'transition-top',
  'transition-bottom',
  'separation-top',
  'separation-bottom',
];
/** A row together with the point that it prints. */
export interface PointRow {
  printed: PrintedPoint;
  point: ViscousPoint;
}
const solved = ({ point }: PointRow) => (isSolved(point) ? point : null);

/** Columns of a viscous polar. An unsolved point has its angle and Reynolds number, and no others. */
export const POINT_COLUMNS: Column<PointRow>[] = [
  {
    title: headingOf(quantityIn(POLAR_QUANTITIES, 'alpha')),
    text: ({ printed: p }) => (p.alphaDeg === null ? '' : String(Number(p.alphaDeg.toFixed(4)))),
  },
  { title: 'Re', text: ({ point }) => point.reynolds.toFixed(0) },
  ...quantityColumns(POLAR_QUANTITIES, SHOWN, solved),
  { title: 'status', text: ({ point }) => point.status },
  { title: 'reached', text: (r) => solved(r)?.approach ?? '' },
];
