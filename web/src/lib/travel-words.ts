import { formatNumber } from '@veldtwind/core/units';
import type { TravelCurve } from '@veldtwind/core/lift';

/** How much of a deflection works, in words. @param share 0 to 1. @param deflectionDeg at which. */
export const travelWords = (share: number, deflectionDeg: number, method: TravelCurve['method']): string =>
  `${formatNumber(100 * share, 0)} % effective at ${formatNumber(deflectionDeg, 0)}° (${method === 'polars' ? 'section polars' : 'plain flap'})`;
