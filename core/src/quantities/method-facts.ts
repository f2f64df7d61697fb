import type { ModelMethod } from '../candidate';

/** What a method is, where it comes from and where it holds. */
export interface MethodFacts {
  name: string;
  says: string;
  sources: readonly string[];
  valid: string;
  /** Its page below `docs`. */
  page: string;
}

const LATTICE = [
  'Low-Speed Aerodynamics, 2nd ed., 2001, chapter 12',
  'NACA TM-1105, 1946 (compressibility)',
  'NACA TM-1036, 1942 (bodies)',
];

/** The methods that numbers of an aircraft are made by. */
export const METHOD_FACTS: Readonly<Record<ModelMethod, MethodFacts>> = {
  lattice: {
    name: 'vortex lattice',
    says: 'Inviscid: vortices on the mean surfaces, slender bodies, profile drag from the drag build-up.',
    sources: LATTICE,
    valid: 'Attached flow, below the critical Mach number. It knows no stall.',
    page: 'methods/lattice',
  },
  polars: {
    name: 'lattice with section polars',
    says: 'Each strip of the lattice is turned until its lift is that of its section’s polar at its angle and Reynolds number.',
    sources: [...LATTICE, 'J. Aircraft 43(3), 2006, 660–668 (strips beyond the stall)'],
    valid: 'Up to the greatest lift, where polars are solved. Beyond it, and where a polar is doubtful, it says so.',
    page: 'methods/lattice-with-polars',
  },
  panels: {
    name: 'surface panels',
    says: 'Inviscid: sources and doublets on the closed surfaces, with thickness and bodies.',
    sources: ['Low-Speed Aerodynamics, 2nd ed., 2001, chapter 12'],
    valid: 'Attached flow, below the critical Mach number. It knows no stall and no profile drag.',
    page: 'methods/surface-panels',
  },
};
