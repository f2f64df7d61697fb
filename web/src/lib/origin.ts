import type { ModelMethod } from '@veldtwind/core/candidate';
import { METHOD_FACTS } from '@veldtwind/core/quantities';
import { displayUnit, formatQuantity, type UnitSet } from '@veldtwind/core/units';
import type { Origin } from '@/store/number-sheet';

/** How numbers of a candidate's level flight were made. @param of speed in m/s, altitude in m. */
export function originOf(
  of: { letter: string; speed: number; altitude: number; loading?: string; setting?: string; method: ModelMethod },
  units: UnitSet,
  more: Partial<Pick<Origin, 'provisional' | 'doubts'>> = {},
): Origin {
  const shown = (value: number, d: 'speed' | 'altitude') =>
    `${formatQuantity(value, d, units)} ${displayUnit(d, units).symbol}`;
  return {
    method: METHOD_FACTS[of.method],
    of: {
      letter: of.letter,
      speed: of.speed,
      altitude: of.altitude,
      ...(of.loading !== undefined && { loading: of.loading }),
    },
    conditions: `Candidate ${of.letter} at ${shown(of.speed, 'speed')} and ${shown(of.altitude, 'altitude')}${of.loading ? `, loading “${of.loading}”` : ''}${of.setting ? `, controls in “${of.setting}”` : ''}`,
    provisional: false,
    doubts: [],
    ...more,
  };
}
