import { pairedMode, type Mode } from './modes';

/** Classes of aircraft: small and light; medium; heavy; agile; and without a pilot on board, whose levels are those of what grows alone. */
export const AIRCRAFT_CLASSES = ['I', 'II', 'III', 'IV', 'uncrewed'] as const;
export type AircraftClass = (typeof AIRCRAFT_CLASSES)[number];
/** Phases of flight: precise and rapid; gradual; near the ground. */
export const FLIGHT_PHASES = ['A', 'B', 'C'] as const;
export type FlightPhase = (typeof FLIGHT_PHASES)[number];

/** The level of a mode: 1 clearly adequate, 2 adequate with more work, 3 just controllable, 4 worse than that. */
export interface HandlingLevel {
  mode: string;
  level: 1 | 2 | 3 | 4;
  /** What it was held against, in words. */ says: string;
}

const level = (limits: readonly (readonly [number, number])[], v: number): 1 | 2 | 3 | 4 => {
  const i = limits.findIndex(([least, most]) => v >= least && v <= most);
  return (i < 0 ? 4 : i + 1) as 1 | 2 | 3 | 4;
};
const ANY = Infinity;
/** Damping ratio of the short period, least and greatest, by level. */
const SHORT: Record<FlightPhase, readonly [number, number][]> = {
  A: [[0.35, 1.3], [0.25, 2], [0.15, ANY]],
  B: [[0.3, 2], [0.2, 2], [0.15, ANY]],
  C: [[0.35, 1.3], [0.25, 2], [0.15, ANY]],
}; // prettier-ignore
/** Greatest time constant of roll, s. */
const ROLL: Record<FlightPhase, (c: AircraftClass) => readonly number[]> = {
  A: (c) => (c === 'I' || c === 'IV' ? [1, 1.4, 10] : [1.4, 3, 10]),
  B: () => [1.4, 3, 10],
  C: (c) => (c === 'I' || c === 'IV' ? [1, 1.4, 10] : [1.4, 3, 10]),
};
/** Least time to double of the spiral, s. */
const SPIRAL: Record<FlightPhase, readonly number[]> = { A: [12, 8, 4], B: [20, 8, 4], C: [12, 8, 4] };
/** Least damping ratio, damping ratio × frequency (1/s) and frequency (rad/s) of the Dutch roll. */
const DUTCH: Record<FlightPhase, (c: AircraftClass) => readonly (readonly [number, number, number])[]> = {
  A: (c) => [
    [0.19, 0.35, c === 'I' || c === 'IV' ? 1 : 0.4],
    [0.02, 0.05, 0.4],
    [0, 0, 0.4],
  ],
  B: () => [
    [0.08, 0.15, 0.4],
    [0.02, 0.05, 0.4],
    [0, 0, 0.4],
  ],
  C: (c) => [
    [0.08, c === 'I' || c === 'IV' ? 0.15 : 0.1, c === 'I' || c === 'IV' ? 1 : 0.4],
    [0.02, 0.05, 0.4],
    [0, 0, 0.4],
  ],
};

/** Least damping ratio × frequency of roll and spiral that swing together, 1/s, by level. */
const COUPLED = [0.5, 0.3, 0.15] as const;

/** ω² of the short period over n/α, least and greatest by level, and the least ω (rad/s) of levels 1 and 2. */
const ANTICIPATION: Record<FlightPhase, (c: AircraftClass) => { range: readonly [number, number][]; least: readonly number[] }> = {
  A: () => ({ range: [[0.28, 3.6], [0.16, 10], [0.16, ANY]], least: [1, 0.6, 0] }),
  B: () => ({ range: [[0.085, 3.6], [0.038, 10], [0.038, ANY]], least: [0, 0, 0] }),
  C: (c) => ({
    range: [[0.16, 3.6], [0.096, 10], [0.096, ANY]],
    least: c === 'I' || c === 'IV' ? [0.87, 0.6, 0] : [0.7, 0.4, 0],
  }),
}; // prettier-ignore

/**
 * Levels of the modes by the public requirements for piloted aircraft; for aircraft without a pilot on board they are a guide.
 * @source MIL-F-8785C, 1980, §3.2.1.2 (phugoid), table IV (short period), figures 1 to 3 (its frequency against n/α), tables VI to VIII
 *   (Dutch roll, roll, spiral), §3.3.1.3 (coupled roll and spiral); cited from memory. The short period has the worse of its two levels.
 * @param loadPerAlpha n/α, 1/rad; without it the short period's frequency is not looked at.
 */
export function handlingLevels(
  modes: readonly Mode[],
  c: AircraftClass,
  phase: FlightPhase,
  loadPerAlpha?: number,
): HandlingLevel[] {
  const out: HandlingLevel[] = [];
  const named = (name: string) => modes.find((m) => m.name === name);
  const add = (mode: string, l: HandlingLevel['level'], says: string) => out.push({ mode, level: l, says });
  // What grows without swinging has no level, but for the spiral; two roots that die out are a mode that is damped beyond swinging.
  for (const m of modes)
    if (m.im === 0 && m.re > 0 && /, real \d$/.test(m.name))
      add(
        m.name,
        4,
        `grows without swinging${m.timeToDouble ? `, doubles in ${m.timeToDouble.toPrecision(2)} s` : ''}; no level allows it`,
      );
  const short = pairedMode(modes, 'short period');
  if (short) {
    const [least, most] = SHORT[phase][0];
    const damping = level(SHORT[phase], short.dampingRatio);
    const says = [`damping ${short.dampingRatio.toFixed(2)}; ${least} to ${most} for level 1`];
    let worse = damping;
    // What does not swing has no frequency that n/α could be held against.
    if (loadPerAlpha !== undefined && loadPerAlpha > 0 && short.im > 0) {
      const w = Math.hypot(short.re, short.im);
      const { range, least: slowest } = ANTICIPATION[phase](c);
      const i = range.findIndex(
        ([a, b], k) => (w * w) / loadPerAlpha >= a && (w * w) / loadPerAlpha <= b && w >= slowest[k],
      );
      const frequency = (i < 0 ? 4 : i + 1) as HandlingLevel['level'];
      const text = `ω² over n/α ${((w * w) / loadPerAlpha).toFixed(2)}; ${range[0][0]} to ${range[0][1]} for level 1`;
      if (frequency > damping) says.unshift(text);
      else says.push(text);
      worse = Math.max(damping, frequency) as HandlingLevel['level'];
    }
    add('short period', worse, says.join(', '));
  }
  const phugoid = pairedMode(modes, 'phugoid');
  if (phugoid) {
    const { dampingRatio: z, timeToDouble } = phugoid;
    const l = z >= 0.04 ? 1 : z >= 0 ? 2 : (timeToDouble ?? 0) >= 55 ? 3 : 4;
    add(
      'phugoid',
      l,
      l > 2
        ? `doubles in ${timeToDouble?.toFixed(0)} s; 55 s at least for level 3`
        : `damping ${z.toFixed(3)}; 0.04 at least for level 1`,
    );
  }
  const coupled = named('lateral phugoid');
  if (coupled) {
    const i = phase === 'A' ? -1 : COUPLED.findIndex((least) => -coupled.re >= least);
    add(
      'lateral phugoid',
      (i < 0 ? 4 : i + 1) as 1 | 2 | 3 | 4,
      phase === 'A'
        ? 'roll and spiral swing together; no level allows it in phase A'
        : `damping ratio × frequency ${(-coupled.re).toFixed(2)}/s; ${COUPLED[0]}/s at least for level 1`,
    );
  }
  const dutch = named('Dutch roll');
  if (dutch) {
    const size = Math.hypot(dutch.re, dutch.im);
    const rows = DUTCH[phase](c);
    const i = rows.findIndex(([z, zw, w]) => dutch.dampingRatio >= z && -dutch.re >= zw && size >= w);
    const [z, zw, w] = rows[0];
    add(
      'Dutch roll',
      (i < 0 ? 4 : i + 1) as 1 | 2 | 3 | 4,
      `damping ${dutch.dampingRatio.toFixed(2)} at ${size.toFixed(2)} rad/s; ${z}, ${zw}/s and ${w} rad/s at least for level 1`,
    );
  }
  const roll = named('roll');
  if (roll) {
    const constant = roll.re < 0 ? -1 / roll.re : ANY;
    const i = ROLL[phase](c).findIndex((most) => constant <= most);
    add(
      'roll',
      (i < 0 ? 4 : i + 1) as 1 | 2 | 3 | 4,
      `time constant ${constant === ANY ? 'none: it grows' : `${constant.toPrecision(2)} s`}; ${ROLL[phase](c)[0]} s at most for level 1`,
    );
  }
  const spiral = named('spiral');
  if (spiral) {
    const double = spiral.re > 0 ? Math.LN2 / spiral.re : ANY;
    const i = SPIRAL[phase].findIndex((least) => double >= least);
    add(
      'spiral',
      (i < 0 ? 4 : i + 1) as 1 | 2 | 3 | 4,
      `${double === ANY ? 'dies out' : `doubles in ${double.toFixed(0)} s`}; ${SPIRAL[phase][0]} s at least for level 1`,
    );
  }
  // Nobody on board feels frequencies and dampings; what grows has to be caught all the same.
  return c === 'uncrewed' ? out.filter((l) => l.mode === 'spiral' || / real \d$/.test(l.mode)) : out;
}
