import { InvalidInput } from '../../numerics';
import { checkMach } from '../inviscid';
import type { ViscousConditions } from './layers';

export const LOWEST_REYNOLDS = 1000;
export const HIGHEST_REYNOLDS = 1e9;
/** Below this the closures of turbulent layers are outside the measurements they were fitted to. */
export const CLOSURE_REYNOLDS = 20_000;

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
  const critical = conditions.criticalAmplification ?? 9;
  if (!(critical >= 0.1 && critical <= 30)) {
    throw new InvalidInput(
      'amplification-range',
      `The critical amplification exponent lies from 0.1 to 30; ${critical} does not.`,
      'A quiet tunnel has 9 to 11, a glider in calm air 11 to 14, a rough stream 4.',
      'ncrit',
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
 * @param percent root-mean-square turbulence over speed, %. Below 0.03 % the exponent does not rise further: sound takes over.
 * @throws InvalidInput outside 0–3 %.
 * @source JPL Publication 77-15, 1977: n = −8.43 − 2.4 ln Tu, fitted for Tu from 0.1 to 2.98 %.
 */
export function amplificationOfTurbulence(percent: number): number {
  if (!(percent >= 0 && percent <= 2.9)) {
    throw new InvalidInput(
      'turbulence-range',
      `The turbulence level lies from 0 to 2.9 %; ${percent} does not.`,
      'Beyond that, transition skips the growth of waves.',
      'turbulence',
    );
  }
  const level = Math.max(percent, 0.03) / 100;
  return Math.max(0.1, -8.43 - 2.4 * Math.log(level));
}
