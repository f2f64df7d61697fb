import { z } from 'zod';
import { analysis, checkedInput, resultKey } from '../results';
import { InvalidInput, RAD } from '../numerics';
import {
  DEFAULT_SPREAD,
  markCurve,
  polarPoints,
  stateOf,
  ViscousSection,
  type Distributions,
  type Journal,
  type KnownPoint,
  type PolarRequest,
  type SolvedPoint,
  type SolvedState,
  type ViscousPoint,
} from '../section-flow';
import { panelSpread, sectionSource } from '../shaping';
import { flapSetting, viscousConditions } from './conditions';
import { distributionTable } from './distribution-table';
import { polar } from './polar';
import { flappedOutline } from './section-flow';

/** States that are read at once. */
export const MOST_STATES = 2000;

/** What runs along a curve. */
export const SWEPT = ['alpha', 'cl', 're'] as const;

/** Everything that a curve's points depend on, but their place on it. */
export const curveInput = z
  .object({
    source: sectionSource,
    flap: flapSetting.nullable().default(null),
    spread: panelSpread.default(DEFAULT_SPREAD),
    kind: z.enum(['fixed-re', 'fixed-lift', 'over-re']),
    conditions: viscousConditions,
    /** Angle in degrees or lift, swept or held (`at`, over Reynolds numbers). */
    swept: z.enum(SWEPT),
    at: z
      .object({ alphaDeg: z.number().min(-45).max(45) })
      .or(z.object({ cl: z.number().min(-5).max(5) }))
      .optional(),
  })
  .refine(
    (c) => (c.kind === 'over-re') === (c.swept === 're'),
    'sweeps Reynolds numbers if and only if it is of that kind',
  )
  .refine(
    (c) => (c.swept === 're') === (c.at !== undefined),
    'holds an angle or a lift over Reynolds numbers, and only there',
  );
export type CurveInput = z.infer<typeof curveInput>;

/** Version of the method that curves are solved by. */
export const CURVE_VERSION = polar.version;

/** The key of a curve: equal inputs solved by the same version of the method share their points. */
export const curveKey = (input: CurveInput, version: number = CURVE_VERSION): string =>
  resultKey('curve', version, input);

/** What curves share that differ by their Reynolds number alone. */
export const familyKey = (input: CurveInput): string =>
  curveKey({ ...input, conditions: { ...input.conditions, reynolds: 1e6 } });

/** Places on a curve are whole numbers: millionths of a degree or of a lift coefficient, or a Reynolds number. */
export const placeOf = (input: Pick<CurveInput, 'swept'>, value: number): number =>
  Math.round(input.swept === 're' ? value : value * 1e6);
export const valueAt = (input: Pick<CurveInput, 'swept'>, place: number): number =>
  input.swept === 're' ? place : place / 1e6;

/** A point of a curve, its place, and what it can be read again from. */
export interface CurvePoint {
  place: number;
  point: ViscousPoint;
  state?: SolvedState;
  distributions?: Distributions;
}

function requestOf(input: CurveInput, values: number[]): PolarRequest {
  const { kind, conditions, swept, at } = input;
  if (swept === 'alpha') return { kind, conditions, alphas: values.map((v) => v * RAD) };
  if (swept === 'cl') return { kind, conditions, lifts: values };
  return {
    kind,
    conditions,
    reynolds: values,
    ...('cl' in at! ? { lifts: [at.cl] } : { alphas: [at!.alphaDeg * RAD] }),
  };
}

/**
 * Solves places of a curve.
 * @param values in degrees, lift coefficients or Reynolds numbers. @param known points solved before, by their index in `values`.
 * @param journal for sweeps that may be broken off. @param onPoint told each point as it is ready.
 */
export function solveCurve(
  input: CurveInput,
  values: number[],
  options: {
    known?: ReadonlyMap<number, KnownPoint>;
    journal?: Journal;
    onPoint?: (point: CurvePoint) => void;
    cancelled?: () => boolean;
  } = {},
): ViscousPoint[] {
  const { outline, hinge } = flappedOutline(input.source, input.flap);
  return polarPoints(new ViscousSection(outline, input.spread), requestOf(input, values), {
    hinge,
    known: options.known,
    journal: options.journal,
    cancelled: options.cancelled,
    onPoint: (index, point, distributions, state) =>
      options.onPoint?.({
        place: placeOf(input, values[index]),
        point,
        ...(distributions ? { distributions } : {}),
        ...(state ? { state } : {}),
      }),
  });
}

/** The points of a curve in order, with what only neighbours show marked. Those given are left as they are. */
export function curvePoints(input: CurveInput, points: readonly CurvePoint[]): CurvePoint[] {
  const sorted = points
    .slice()
    .sort((a, b) => a.place - b.place)
    .map((p) => ({ ...p, point: { ...p.point } as ViscousPoint }));
  for (const { point } of sorted) if ('doubts' in point) point.doubts = point.doubts.slice();
  if (input.swept !== 'alpha') return sorted;
  const marked = sorted.map((p) => p.point);
  markCurve(marked);
  return sorted.map((p, i) => ({ ...p, point: marked[i] }));
}

/** A stored state as text. */
const base64 = z
  .string()
  .max(200_000)
  .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'is not base64');

/** A point of a curve with everything along its surfaces, read from its stored state. */
export const storedPoint = analysis({
  version: 1,
  input: z.object({ curve: curveInput, state: base64 }),
  run: ({ curve, state }): { point: SolvedPoint; distributions: Distributions } => {
    const found = stateOf(Uint8Array.from(atob(state), (c) => c.charCodeAt(0)));
    if (!found) throw new InvalidInput('state', 'The stored point cannot be read.', 'Solve it again.');
    const { outline } = flappedOutline(curve.source, curve.flap);
    const section = new ViscousSection(outline, curve.spread);
    const point = section.restore(found, curve.conditions);
    return { point, distributions: section.distributions()! };
  },
});

/** Points of a curve as tables, one a point: `side` and everything along it, one row a station. Points whose state cannot be read have none. */
export const storedTables = analysis({
  version: 1,
  input: z.object({ curve: curveInput, states: z.array(base64).max(MOST_STATES) }),
  run: ({ curve, states }): (string | null)[] => {
    const { outline } = flappedOutline(curve.source, curve.flap);
    const section = new ViscousSection(outline, curve.spread);
    return states.map((state) => {
      const found = stateOf(Uint8Array.from(atob(state), (c) => c.charCodeAt(0)));
      if (!found) return null;
      section.restore(found, curve.conditions);
      return distributionTable(section.distributions()!);
    });
  },
});

/** A curve's input that came from outside, checked. @throws InvalidInput with the path of the field. */
export const checkedCurve = (given: unknown): CurveInput => checkedInput(curveInput, given);
