import { z } from 'zod';
import { keptMeanLine } from '../lift';
import { RAD } from '../numerics';
import { analysis } from '../results';
import { airframeMotion, loadedMass, motion, motionSource, type AirframeMotion, type MotionInput } from './motion';
import { withPlacedMass } from './placed-mass';
import { linearBesideFlight } from './flown-modes';
import { sectionLookup } from './section-lookup';

/** Quantities that two methods tell. */
export type ComparedQuantity =
  | 'static-margin'
  | 'lift-slope'
  | 'trim-angle'
  | 'drag'
  | 'short-period'
  | 'short-period-damping'
  | 'phugoid'
  | 'phugoid-damping'
  | 'dutch-roll'
  | 'dutch-roll-damping'
  | 'short-period-half'
  | 'roll-half'
  | 'induced-drag';
/** The ways to them. */
export type MethodName =
  'section-polars' | 'lattice' | 'build-up' | 'far-field' | 'near-field' | 'linear-model' | 'flight';

/** One quantity by two methods. */
export interface MethodPair {
  quantity: ComparedQuantity;
  first: { method: MethodName; value: number };
  second: { method: MethodName; value: number };
  /** Largest difference between them that says nothing: a share of the first, or in the quantity's own unit where `absolute`. */
  band: number;
  absolute: boolean;
  agree: boolean;
}

const pair = (
  quantity: ComparedQuantity,
  [first, a]: [MethodName, number],
  [second, b]: [MethodName, number],
  band: number,
  absolute = false,
): MethodPair | null =>
  Number.isFinite(a) && Number.isFinite(b)
    ? {
        quantity,
        first: { method: first, value: a },
        second: { method: second, value: b },
        band,
        absolute,
        agree: Math.abs(a - b) <= (absolute ? band : band * Math.abs(a)),
      }
    : null;

const modeOf = (m: AirframeMotion, name: string) => m.modes.find((k) => k.name === name);

/**
 * The same flight by section polars and by the lattice without viscosity, with its drag from the build-up.
 * @returns pairs with their bands: 0.03 of the chord in margin, a tenth of the slope of lift and of the short period, 1° of trim, a fifth of drag and of the
 *   phugoid's damping. Quantities that one of them has not are left out.
 */
export function polarsBesideLattice(polars: AirframeMotion, lattice: AirframeMotion): MethodPair[] {
  const [shortA, shortB] = [polars, lattice].map((m) => modeOf(m, 'short period'));
  const [longA, longB] = [polars, lattice].map((m) => modeOf(m, 'phugoid'));
  return [
    pair('static-margin', ['section-polars', polars.staticMargin], ['lattice', lattice.staticMargin], 0.03, true),
    pair('lift-slope', ['section-polars', polars.derivatives.CL_alpha], ['lattice', lattice.derivatives.CL_alpha], 0.1),
    pair('trim-angle', ['section-polars', polars.trim.alpha], ['lattice', lattice.trim.alpha], RAD, true),
    pair('drag', ['section-polars', polars.trim.CD], ['build-up', lattice.trim.CD], 0.2),
    ...(shortA && shortB
      ? [pair('short-period', ['section-polars', shortA.frequencyHz], ['lattice', shortB.frequencyHz], 0.1)]
      : []),
    ...(longA && longB
      ? [pair('phugoid-damping', ['section-polars', longA.dampingRatio], ['lattice', longB.dampingRatio], 0.2)]
      : []),
  ].filter((p) => p !== null);
}

/** Quantities of a candidate's level flight by two methods each; none where only one is at hand. */
export const motionMethods = analysis({
  version: 3,
  input: z.object({ of: motion.input as z.ZodType<MotionInput> }),
  run: ({ of }: { of: MotionInput }): MethodPair[] => {
    const { candidate, sections, ...rest } = of;
    if (!rest.polars) return [];
    const lookup = sectionLookup(sections);
    const lineOf = (key: string) => keptMeanLine(lookup(key));
    const [polars, lattice] = [rest.polars, null].map((p) =>
      airframeMotion(candidate, lookup, lineOf, { ...rest, polars: p }),
    );
    const placed = withPlacedMass(candidate, lookup);
    const mass = loadedMass(placed, rest.loading);
    const source = motionSource(placed, lookup, lineOf, mass, rest.speed, rest.altitude, null);
    const { CDi, CDiNear } = source.lattice.coefficients({ alpha: lattice.trim.alpha });
    const induced = pair('induced-drag', ['far-field', CDi], ['near-field', CDiNear], 0.15);
    return [...polarsBesideLattice(polars, lattice), ...(induced ? [induced] : [])];
  },
});

/** Sizes of a damping ratio below which its band is that of this one: a share of nearly nothing says nothing. */
const LEAST_DAMPING = 0.05;
const FLOWN = {
  'short period': ['short-period', 'short-period-damping'],
  phugoid: ['phugoid', 'phugoid-damping'],
  'Dutch roll': ['dutch-roll', 'dutch-roll-damping'],
} as const;
const HALVED = { 'short period, real 2': 'short-period-half', roll: 'roll-half' } as const;

/** Frequencies, damping ratios and times to half by the linear model and by flights of the full equations: bands of 5 and 10 %. */
export function pairsOfFlown(modes: ReturnType<typeof linearBesideFlight>): MethodPair[] {
  return modes
    .flatMap(({ linear, flown }) => {
      if (linear.im === 0) {
        const half = HALVED[linear.name as keyof typeof HALVED];
        return [pair(half, ['linear-model', -Math.LN2 / linear.re], ['flight', -Math.LN2 / flown.re], 0.1)];
      }
      const [frequency, damping] = FLOWN[linear.name as keyof typeof FLOWN];
      const ratio = -flown.re / Math.hypot(flown.re, flown.im);
      const band = 0.1 * Math.max(LEAST_DAMPING, Math.abs(linear.dampingRatio));
      return [
        pair(frequency, ['linear-model', linear.frequencyHz], ['flight', flown.im / (2 * Math.PI)], 0.05),
        pair(damping, ['linear-model', linear.dampingRatio], ['flight', ratio], band, true),
      ];
    })
    .filter((p) => p !== null);
}

/** Modes of a candidate by the linear model and by flights, both by the lattice: polars of its input are not read. */
export const flownMethods = analysis({
  version: 3,
  input: z.object({ of: motion.input as z.ZodType<MotionInput> }),
  run: ({ of }: { of: MotionInput }): MethodPair[] => pairsOfFlown(linearBesideFlight(of)),
});
