import { flowState } from '../atmosphere';
import type { Flyer } from './flyer';

const FOOT = 0.3048;
/** Gusts of 14 CFR 23.333 (1996) below 20 000 ft, m/s: at the design cruise and the design dive speed; they fall to half at 50 000 ft. */
const GUSTS = { cruise: 50 * FOOT, dive: 25 * FOOT };
const FADE = { from: 20_000 * FOOT, to: 50_000 * FOOT };
const SEA_LEVEL = 1.225;

/** Load factors that a structure is designed for, and the speeds that it is designed for, m/s equivalent. */
export interface LoadLimits {
  positive: number;
  /** Negative. */ negative: number;
  cruise: number;
  dive: number;
}

/** Load factor over speed. */
export interface LoadEnvelope {
  /** Manoeuvre: corners in order, beginning and ending at n = 0 and speed 0; speed in m/s, equivalent. */
  manoeuvre: { speed: number; n: number }[];
  /** Gusts: lines from n = 1 at rest. */
  gusts: { at: 'cruise' | 'dive'; gust: number; speed: number; up: number; down: number }[];
  /** Speed of the stall at n = 1, of manoeuvres (stall at the greatest load), and of the stall at the least load upside down. */
  stall: number | null;
  manoeuvring: number | null;
  inverted: number | null;
  /** Greatest and least load factor of both. */ greatest: number;
  least: number;
}

/**
 * Load factor of a sharp-edged gust, relieved.
 * @param speed equivalent, m/s. @param gust equivalent, m/s. @param loading weight over area, N/m². @param chord m. @param slope dCL/dα per rad. @param density kg/m³.
 * @source 14 CFR 23.341(c), 1996: n = 1 ± K ρ₀ U V a/(2 W/S), K = 0.88 μ/(5.3 + μ), μ = 2 (W/S)/(ρ c̄ a g).
 */
export function gustLoad(
  speed: number,
  gust: number,
  {
    loading,
    chord,
    slope,
    density,
    gravity,
  }: { loading: number; chord: number; slope: number; density: number; gravity: number },
): number {
  const mu = (2 * loading) / (density * chord * slope * gravity);
  const relief = (0.88 * mu) / (5.3 + mu);
  return (relief * SEA_LEVEL * gust * speed * slope) / (2 * loading);
}

/**
 * The manoeuvre and gust envelope of an aircraft at an altitude.
 * @source 14 CFR 23.333 to 23.341, 1996, as formulas; stall by the greatest lift in trim of this aircraft.
 */
export function loadEnvelope(flyer: Flyer, altitude: number, limits: LoadLimits, gravity: number): LoadEnvelope {
  const { weight, area, chord, liftSlope: slope, leastCL } = flyer;
  const { density } = flowState(1, altitude);
  const { positive, negative, cruise, dive } = limits;
  const equivalent = Math.sqrt(density / SEA_LEVEL);
  const trueStall = flyer.stall(altitude);
  const stall = trueStall === null ? null : trueStall * equivalent;
  const manoeuvring = stall === null ? null : stall * Math.sqrt(positive);
  const inverted =
    leastCL === null || !(leastCL < 0) || !(negative < 0)
      ? null
      : Math.sqrt((2 * negative * weight) / (SEA_LEVEL * area * leastCL));
  const curve = (to: number, n: number): { speed: number; n: number }[] =>
    Array.from({ length: 21 }, (_, i) => ({ speed: (to * i) / 20, n: n * (i / 20) ** 2 }));
  const above =
    manoeuvring === null
      ? [{ speed: 0, n: positive }]
      : curve(Math.min(manoeuvring, dive), positive * Math.min(1, (dive / manoeuvring) ** 2));
  const below =
    inverted === null
      ? [{ speed: 0, n: negative }]
      : curve(Math.min(inverted, cruise), negative * Math.min(1, (cruise / inverted) ** 2));
  const gustShare =
    altitude <= FADE.from ? 1 : Math.max(0.5, 1 - (0.5 * (altitude - FADE.from)) / (FADE.to - FADE.from));
  const of = { loading: weight / area, chord, slope, density, gravity };
  const gusts = (['cruise', 'dive'] as const).map((at) => {
    const gust = GUSTS[at] * gustShare;
    const more = gustLoad(limits[at], gust, of);
    return { at, gust, speed: limits[at], up: 1 + more, down: 1 - more };
  });
  return {
    manoeuvre: [
      ...above,
      { speed: dive, n: positive },
      { speed: dive, n: 0 },
      { speed: cruise, n: negative },
      ...below.slice().reverse(),
    ],
    gusts,
    stall,
    manoeuvring,
    inverted,
    greatest: Math.max(positive, ...gusts.map((g) => g.up)),
    least: Math.min(negative, ...gusts.map((g) => g.down)),
  };
}
