import {
  DISTRIBUTION_KEYS,
  type Distributions,
  type LayerDistribution,
  isSolved,
  type SolvedPoint,
  type PolarRequest,
  type ViscousPoint,
} from '@veldtwind/core/section-flow';
import type { Column } from './output';

const DEG = 180 / Math.PI;

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

const number = (v: number | null | undefined, digits: number) =>
  v !== undefined && v !== null && Number.isFinite(v) ? v.toFixed(digits) : '';

export const POINT_COLUMNS: Column<PrintedPoint>[] = [
  { title: 'alpha, deg', text: (p) => (p.alphaDeg === null ? '' : String(Number(p.alphaDeg.toFixed(4)))) },
  { title: 'Re', text: (p) => number(p.reynolds, 0) },
  { title: 'cl', text: (p) => number(p.cl, 4) },
  { title: 'cd', text: (p) => number(p.cd, 5) },
  { title: 'friction', text: (p) => number(p.cdFriction, 5) },
  { title: 'cm', text: (p) => number(p.cm, 4) },
  { title: 'cp min', text: (p) => number(p.cpMin, 3) },
  { title: 'transition top', text: (p) => number(p.transitionTop, 3) },
  { title: 'bottom', text: (p) => number(p.transitionBottom, 3) },
  { title: 'separation top', text: (p) => number(p.separationTop, 3) },
  { title: 'bottom ', text: (p) => number(p.separationBottom, 3) },
  { title: 'status', text: (p) => p.status },
  { title: 'reached', text: (p) => p.approach ?? '' },
];
