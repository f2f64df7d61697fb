import { meanLineCache, type Body, type LiftingSurface, type SectionLookup } from '../../airframe';
import { RAD } from '../../numerics';
import { BodyFlow } from '../body-flow';
import { deflectionsOf } from '../controls';
import { makeLattice } from '../lift-analysis';
import type { PanelFlow } from './panel-flow';

/** Lift slope, per rad, and static margin about the moment reference by one method. */
export interface Slopes {
  liftSlope: number;
  /** −dCm/dCL. */ margin: number;
}

/** Panels beside the lattice with slender bodies, which is another way to the same. */
export interface AgainstLattice {
  panels: Slopes;
  lattice: Slopes;
  /** What lies apart by more than both can explain, in words. */ disagrees?: string;
}

/** Margins farther apart than this, over the chord, and slopes beyond these ratios are more than thickness and bodies explain. */
const MARGIN = 0.03;
const SLOPE = { least: 0.96, greatest: 1.2 };
const STEP = RAD;

const slopesOf = (of: (alpha: number) => { CL: number; Cm: number }, alpha: number): Slopes => {
  const [up, down] = [of(alpha + STEP), of(alpha - STEP)];
  return { liftSlope: (up.CL - down.CL) / (2 * STEP), margin: -(up.Cm - down.Cm) / (up.CL - down.CL) };
};

/**
 * Holds a flow about closed surfaces against the lattice with slender bodies, in lift and in pitch about an angle.
 * @param alpha rad. @throws as the lattice.
 */
export function againstLattice(
  flow: PanelFlow,
  of: { surfaces: LiftingSurface[]; bodies: readonly Body[]; mach: number },
  lookup: SectionLookup,
  alpha: number,
): AgainstLattice {
  const { reference, about } = flow;
  const { surfaces, bodies, mach } = of;
  const lattice = makeLattice({ surfaces, reference, about, mach }, meanLineCache(lookup));
  const slender = new BodyFlow(lattice, bodies);
  const controls = deflectionsOf(surfaces);
  const panels = slopesOf((a) => flow.at({ alpha: a }), alpha);
  const thin = slopesOf(
    (a) => lattice.coefficients({ alpha: a, controls }, slender.forces({ alpha: a, controls })),
    alpha,
  );
  const ratio = panels.liftSlope / thin.liftSlope;
  const told: string[] = [];
  if (!(Math.abs(panels.margin - thin.margin) <= MARGIN))
    told.push(`static margin ${percent(panels.margin)} against ${percent(thin.margin)}`);
  if (!(ratio >= SLOPE.least && ratio <= SLOPE.greatest))
    told.push(`lift slope ${panels.liftSlope.toFixed(2)} against ${thin.liftSlope.toFixed(2)} per rad`);
  return {
    panels,
    lattice: thin,
    ...(told.length > 0 && {
      disagrees: `Surface panels and the lattice with slender bodies disagree: ${told.join(', ')}. One of them does not see this shape right; look for parts that touch or pass close.`,
    }),
  };
}

const percent = (v: number) => `${(100 * v).toFixed(1).replace('-', '−')} %`;
