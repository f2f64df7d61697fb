import type { LoopFacts, LoopLine } from '../control';
import { quantitiesOf } from './quantity';

const rate = { dimension: 'plain' as const, digits: 2, per: 'rad/s' };
const time = { dimension: 'plain' as const, digits: 2, per: 's' };
/** Above this an overshoot is a share of hardly anything. */
const MOST_OVERSHOOT = 10;

/** Margins of the open loop, and the answer of the closed one to a step. */
export const LOOP_QUANTITIES = quantitiesOf<LoopFacts>([
  {
    id: 'control.gainMargin',
    symbol: 'gain margin',
    name: 'gain margin',
    says: 'change of gain to the limit of stability; negative: a decrease',
    formula: '−20 log₁₀ |L(iω)| where the phase is −180°',
    dimension: 'plain',
    digits: 1,
    per: 'dB',
    of: (l) => l.gainMarginDb,
  },
  {
    id: 'control.phaseMargin',
    symbol: 'phase margin',
    name: 'phase margin',
    says: 'change of phase to the limit of stability; negative: the lead that makes an unstable loop stable',
    formula: '180° + ∠L(iω) where |L| = 1',
    dimension: 'angle',
    digits: 0,
    of: (l) => l.phaseMarginDeg,
  },
  {
    id: 'control.gainCrossover',
    symbol: 'gain crossover',
    name: 'gain crossover frequency',
    formula: 'ω where |L(iω)| = 1',
    ...rate,
    of: (l) => l.gainCrossover,
  },
  {
    id: 'control.bandwidth',
    symbol: 'bandwidth',
    name: 'bandwidth',
    says: 'frequency up to which the closed loop follows its reference',
    formula: 'ω where |T(iω)| has fallen by 3 dB',
    ...rate,
    of: (l) => l.bandwidth,
  },
  {
    id: 'control.riseTime',
    symbol: 'rise time',
    name: 'rise time',
    says: 'of the answer to a step, from 10 % to 90 %',
    ...time,
    of: (l) => l.riseTime,
  },
  {
    id: 'control.overshoot',
    symbol: 'overshoot',
    name: 'overshoot',
    says: 'of the answer to a step, over its final value; none where hardly anything is left at rest',
    dimension: 'ratio',
    digits: 0,
    of: (l) => ((l.overshoot ?? Infinity) < MOST_OVERSHOOT ? l.overshoot : null),
  },
  {
    id: 'control.settlingTime',
    symbol: 'settling time',
    name: 'settling time',
    says: 'of the answer to a step, until it stays within 2 % of its final value',
    ...time,
    of: (l) => l.settlingTime,
  },
  {
    id: 'control.sensitivityPeak',
    symbol: 'max |S|',
    name: 'sensitivity peak',
    says: 'inverse of the least distance of the open loop from −1; small is robust',
    formula: 'max |1/(1 + L(iω))|',
    dimension: 'plain',
    digits: 2,
    of: (l) => l.sensitivityPeak,
  },
]);

/** Loops that could be told; none where a failure hides what is least. */
const told = (lines: readonly LoopLine[]): Extract<LoopLine, { keeps: boolean }>[] =>
  lines.every((l) => 'keeps' in l) ? (lines as Extract<LoopLine, { keeps: boolean }>[]) : [];
/** The least of all loops: below zero where one does not hold, as far as it is from holding. */
const least = (lines: readonly LoopLine[], margin: (l: LoopFacts) => number | null): number | null => {
  const all = told(lines).map((l) => {
    const m = margin(l);
    const size = m === null ? Infinity : Math.abs(m);
    return l.holds ? size : -size;
  });
  const value = Math.min(...all);
  return Number.isFinite(value) ? value : null;
};

/** What all loops of a candidate keep, each with those within it closed. */
export const LOOPS_QUANTITIES = quantitiesOf<readonly LoopLine[]>([
  {
    id: 'control.leastGainMargin',
    symbol: 'least gain margin',
    name: 'least gain margin of all loops',
    says: 'in size; negative where a loop is unstable, slow roots aside',
    dimension: 'plain',
    digits: 1,
    per: 'dB',
    of: (lines) => least(lines, (l) => l.gainMarginDb),
  },
  {
    id: 'control.leastPhaseMargin',
    symbol: 'least phase margin',
    name: 'least phase margin of all loops',
    says: 'in size; negative where a loop is unstable, slow roots aside',
    dimension: 'angle',
    digits: 0,
    of: (lines) => least(lines, (l) => l.phaseMarginDeg),
  },
  {
    id: 'control.greatestSensitivity',
    symbol: 'max |S|',
    name: 'greatest sensitivity peak of all loops',
    says: 'inverse of the least distance of an open loop from −1',
    dimension: 'plain',
    digits: 2,
    of: (lines) => {
      const peaks = told(lines).map((l) => l.sensitivityPeak);
      return peaks.length > 0 && peaks.every((p) => p !== null) ? Math.max(...(peaks as number[])) : null;
    },
  },
]);
