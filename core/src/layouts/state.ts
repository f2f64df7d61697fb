import type { LayoutPlan } from './plans';
import type { LayoutSizes } from './sizes';

/** What is sought until the aircraft balances. */
export interface LayoutState {
  /** Ahead of the wing, m. */ nose: number;
  /** x of payload and of battery or fuel, m. */ payloadX: number;
  energyX: number;
  wingIncidenceDeg: number;
  /** Of what brings trim, degrees. */ trimDeg: number;
  dihedralDeg: number;
  /** Of the fin's area. */ finFactor: number;
}

/** Where the search for balance begins. */
export function startingState(plan: LayoutPlan, sizes: LayoutSizes): LayoutState {
  const nose = plan.nose * sizes.chord;
  return {
    nose,
    payloadX: nose + 0.2 * sizes.chord,
    energyX: 0.5 * nose,
    wingIncidenceDeg: 1,
    trimDeg: plan.trim === 'foreplane' ? 4 : plan.trim === 'washout' ? plan.wing.washoutDeg : -1,
    dihedralDeg: plan.wing.dihedralDeg,
    finFactor: 1,
  };
}

/** Sections of a layout by what they are for. */
export interface LayoutSections {
  wing: string;
  tail: string;
}

/** Rounded as an engineer would set it: to a tenth of a millimetre, to a hundredth of a degree. */
export const mm = (v: number) => Number(v.toFixed(4));
export const hundredth = (v: number) => Number(v.toFixed(2));
