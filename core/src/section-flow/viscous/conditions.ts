import { InvalidInput } from '../../numerics';
import { checkMach } from '../inviscid';
import { criticalOf, type ViscousConditions } from './layers';

export const LOWEST_REYNOLDS = 1000;
export const HIGHEST_REYNOLDS = 1e9;
/** Below this the closures of turbulent layers are outside the measurements they were fitted to. */
export const CLOSURE_REYNOLDS = 20_000;

/** Turbulence of the stream to which the thresholds were measured, %. */
export const MOST_TURBULENCE = 6;
/** Higher grains reach out of the layer. */
export const MOST_GRAIN = 0.002;

const turbulenceRefused = (percent: number) =>
  new InvalidInput(
    'turbulence-range',
    `The turbulence level lies from 0 to ${MOST_TURBULENCE} %; ${percent} does not.`,
    'Rougher streams than that were not measured.',
    'turbulence',
  );

/** Refuses conditions outside the method's range. @throws InvalidInput naming the field, the limit and the value. */
export function checkConditions(conditions: ViscousConditions): void {
  checkMach(conditions.mach ?? 0);
  const { reynolds } = conditions;
  if (!(reynolds >= LOWEST_REYNOLDS && reynolds <= HIGHEST_REYNOLDS)) {
    throw new InvalidInput(
      'reynolds-range',
      `The Reynolds number must be from 1 000 to 10⁹; ${reynolds} is not.`,
      'Nearest that works: ' + (reynolds > HIGHEST_REYNOLDS ? '1e9' : '1000') + '.',
      'reynolds',
    );
  }
  for (const critical of criticalOf(conditions)) {
    if (!(critical >= 0.1 && critical <= 30)) {
      throw new InvalidInput(
        'amplification-range',
        `The critical amplification exponent lies from 0.1 to 30; ${critical} does not.`,
        'A quiet tunnel has 9 to 11, a glider in calm air 11 to 14, a rough stream 4.',
        'ncrit',
      );
    }
  }
  const { turbulence = 0, grain = 0 } = conditions;
  if (!(turbulence >= 0 && turbulence <= MOST_TURBULENCE)) throw turbulenceRefused(turbulence);
  if (!(grain >= 0 && grain <= MOST_GRAIN)) {
    throw new InvalidInput(
      'grain-range',
      `Grains are from 0 to ${MOST_GRAIN} of the chord high; ${grain} is not.`,
      'Insects and sanded paint lie between 0.00005 and 0.0005 of a chord of one metre.',
      'grain',
    );
  }
  for (const [trip, name] of [
    [conditions.tripTop, 'tripTop'],
    [conditions.tripBottom, 'tripBottom'],
  ] as const) {
    if (trip !== undefined && !(trip >= 0 && trip <= 1)) {
      throw new InvalidInput('trip-range', `A trip lies from 0 to 1 of the chord; ${trip} does not.`, undefined, name);
    }
  }
}

/**
 * Critical amplification exponent of a stream of a given turbulence.
 * @param percent root-mean-square turbulence over speed, %. Below 0.03 % the exponent does not rise further: sound takes over. From 1 % on, turbulence
 * also enters the layer (`ViscousConditions.turbulence`).
 * @throws InvalidInput outside 0–6 %.
 * @source JPL Publication 77-15, 1977: n = −8.43 − 2.4 ln Tu, fitted for Tu from 0.1 to 2.98 %; 0.1 beyond.
 */
export function amplificationOfTurbulence(percent: number): number {
  if (!(percent >= 0 && percent <= MOST_TURBULENCE)) throw turbulenceRefused(percent);
  const level = Math.max(percent, 0.03) / 100;
  return Math.max(0.1, -8.43 - 2.4 * Math.log(level));
}
