import { formatNumber } from '@veldtwind/core/units';

/** A Reynolds number in thousands or millions. @param digits of the millions. */
export const reynoldsText = (re: number, digits = 1): string =>
  re >= 1e6 ? `${formatNumber(re / 1e6, digits)} M` : `${formatNumber(re / 1e3, 0)} k`;
