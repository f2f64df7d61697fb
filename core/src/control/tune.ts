import { DEG, FailedComputation, RAD } from '../numerics';
import type { Law } from './chains';
import { marginsOf } from './margins';
import { closeLoop } from './loops';
import { polesOf } from './state-space';
import { loopResponse, moving, openedAt, rightPolesOf, type StudyInput } from './study';

/** Where the open loop is to cross gain 1, rad/s, and the phase that is to be left there, rad. */
export interface Crossing {
  frequency: number;
  phaseMargin: number;
}

const lawOf = (input: StudyInput): Law => input.settings.chains.find((c) => c.id === input.chain)!.laws[input.loop];
const withLaw = (input: StudyInput, law: Law): StudyInput => ({
  ...input,
  settings: {
    ...input.settings,
    chains: input.settings.chains.map((c) =>
      c.id === input.chain ? { ...c, laws: c.laws.map((l, i) => (i === input.loop ? law : l)) } : c,
    ),
  },
});

/**
 * Gains of a loop that cross where they are told: the proportional one, and the derivative one where phase must be won or the integral one where there is
 * phase to spare; the third keeps its share of the proportional one.
 * @throws FailedComputation `tune-reach` where no gains above zero do it.
 */
export function gainsFor(input: StudyInput, { frequency: w, phaseMargin }: Crossing): Law {
  const law = lawOf(input);
  // What stands behind the law: plant, mover and delay, as the loop of a gain of 1.
  const alone: Law = { ...law, kp: 1, ki: 0, kd: 0 };
  const [re, im] = loopResponse(openedAt(withLaw(input, alone)))(w);
  const size = re * re + im * im;
  if (!(size > 1e-24))
    throw new FailedComputation('tune-reach', `Nothing comes through at ${w.toPrecision(3)} rad/s.`, 'Cross lower.');
  // The law must be e^{j(φ − π)} over it.
  const [cr, ci] = [-Math.cos(phaseMargin), -Math.sin(phaseMargin)];
  const need: [number, number] = [(cr * re + ci * im) / size, (ci * re - cr * im) / size];
  const filter = law.filter ?? Math.max(20, 10 * w);
  // jω N/(jω + N), filtered, and 1/(jω).
  const d = filter * filter + w * w;
  const derivative: [number, number] = [(filter * w * w) / d, (filter * filter * w) / d];
  const refuse = (): never => {
    throw new FailedComputation(
      'tune-reach',
      `No gains cross at ${w.toPrecision(3)} rad/s with ${(phaseMargin * DEG).toFixed(0)}° left.`,
      'Cross lower, ask for less phase margin, or turn the sign of the loop.',
    );
  };
  const tidy = (l: Law): Law => (l.kp > 0 && l.ki >= 0 && l.kd >= 0 ? l : refuse());
  if (need[1] > 1e-9) {
    const kd = need[1] / derivative[1];
    return tidy({ ...law, kp: need[0] - kd * derivative[0], ki: 0, kd, filter });
  }
  return tidy({ ...law, kp: need[0], ki: -need[1] * w, kd: 0 });
}

/** Where the fastest crossing is looked for, over the range of frequencies, and the greatest sensitivity that does not ring. */
const TRIED = 60;
const NO_RINGING = 2;

/**
 * Gains that make a loop as fast as it can be without ringing: the highest crossing at which the margins that are aimed at are kept, the sensitivity stays
 * below 2, everything dies out, and mover and delay take no more than an eighth of a turn (a bound of our own).
 * @throws FailedComputation `tune-none` where there is none.
 */
export function fastestGains(input: StudyInput): Law {
  const { aims } = input.settings;
  const margin = Math.max(50, aims.phaseMarginDeg) * RAD;
  const highest = fastestMover(input);
  for (let i = 0; i < TRIED; i++) {
    const w = highest * (0.02 / highest) ** (i / (TRIED - 1));
    for (const more of [0, 10, 20]) {
      let law: Law;
      try {
        law = gainsFor(input, { frequency: w, phaseMargin: margin + more * RAD });
      } catch (error) {
        if (error instanceof FailedComputation) continue;
        throw error;
      }
      if (keeps(withLaw(input, law))) return law;
    }
  }
  throw new FailedComputation(
    'tune-none',
    'No crossing keeps the margins that are aimed at.',
    'Turn the sign of the loop, tune those within it first, or aim for less.',
  );
}

/** The frequency at which mover and delay have taken an eighth of a turn, rad/s: a loop that crosses above it works its control in vain. */
function fastestMover({ settings, chain }: StudyInput): number {
  const mover = settings.chains.find((c) => c.id === chain)?.mover;
  const lag = !mover
    ? 0
    : 'timeConstant' in mover
      ? mover.timeConstant
      : (2 * mover.dampingRatio) / mover.naturalFrequency;
  const taken = (w: number) =>
    w * (settings.delay + 0.5 * settings.step) + Math.atan(w * lag) + Math.atan(w * settings.sensorLag);
  let [low, high] = [0.02, 80];
  if (taken(high) < Math.PI / 4) return high;
  for (let i = 0; i < 40; i++) {
    const mid = Math.sqrt(low * high);
    if (taken(mid) < Math.PI / 4) low = mid;
    else high = mid;
  }
  return low;
}

function keeps(input: StudyInput): boolean {
  const { aims } = input.settings;
  const o = openedAt(input);
  const at = loopResponse(o);
  const poles = moving(polesOf(closeLoop(o.plant, o.told, o.to, o.chain).A));
  if (rightPolesOf(input, o, poles, moving(polesOf(o.plant.A))).unstable > 0) return false;
  const corners = [...polesOf(o.plant.A), ...polesOf(o.still.A)]
    .map(([re, im]) => Math.hypot(re, im))
    .filter((c) => c > 1e-6);
  const m = marginsOf(at, corners, 0, 400);
  if (m.gainMarginDb !== null && Math.abs(m.gainMarginDb) < aims.gainMarginDb) return false;
  if (m.phaseMarginDeg !== null && Math.abs(m.phaseMarginDeg) < aims.phaseMarginDeg) return false;
  for (let i = 0; i < 120; i++) {
    const [re, im] = at(0.02 * (400 / 0.02) ** (i / 119));
    if (1 / Math.hypot(1 + re, im) > NO_RINGING) return false;
  }
  return true;
}

/** Margins of a loop with every derivative that matters a share more or less, the worst first. @param share such as 0.2. */
export function robustness(
  input: StudyInput,
  share = 0.2,
): { name: string; by: number; gainMarginDb: number | null; phaseMarginDeg: number | null; stable: boolean }[] {
  const names = Object.entries(input.of.derivatives)
    .filter(([, v]) => typeof v === 'number' && v !== 0)
    .map(([name]) => name);
  const out = [{ name: '', by: 0 }, ...names.flatMap((name) => [-share, share].map((by) => ({ name, by })))].map(
    ({ name, by }) => {
      const o = openedAt({
        ...input,
        scale: { ...input.scale, ...(name && { [name]: (input.scale[name] ?? 1) * (1 + by) }) },
      });
      const corners = [...polesOf(o.plant.A), ...polesOf(o.still.A)]
        .map(([re, im]) => Math.hypot(re, im))
        .filter((c) => c > 1e-6);
      const poles = moving(polesOf(closeLoop(o.plant, o.told, o.to, o.chain).A));
      const { unstable: lost } = rightPolesOf(input, o, poles, moving(polesOf(o.plant.A)));
      const { gainMarginDb, phaseMarginDeg } = marginsOf(loopResponse(o), corners, lost, 300);
      return { name, by, gainMarginDb, phaseMarginDeg, stable: lost === 0 };
    },
  );
  const rank = (r: (typeof out)[number]) => (r.stable ? 0 : -1e6) + Math.abs(r.phaseMarginDeg ?? 180);
  return out.sort((a, b) => rank(a) - rank(b));
}
