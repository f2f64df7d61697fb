import { planformOf, type LiftingSurface, type Planform } from '../airframe';
import { angleForLift, type Evaluation } from '../candidate';
import { DEG } from '../numerics';
import { quantitiesOf } from './quantity';

const big = { dimension: 'count' as const };
/** The static margin, whatever it is read from. */
export const STATIC_MARGIN = {
  id: 'static-margin',
  symbol: 'static margin',
  name: 'static margin',
  says: 'neutral point behind the centre of gravity, over the mean chord; of the whole aircraft in the trim of level flight',
  formula: '(x_np − x_cg)/c̄ = −(dCm/dα)/(dCL/dα)',
  dimension: 'ratio' as const,
};

/** Quantities of a whole candidate, read from its evaluation. */
export const CANDIDATE_QUANTITIES = quantitiesOf<Evaluation>([
  {
    id: 'CL-needed',
    symbol: 'CL needed',
    name: 'lift coefficient needed',
    formula: 'W/(q S)',
    dimension: 'plain',
    of: (e) => e.design?.CL ?? null,
  },
  {
    id: 're-root',
    symbol: 'Re root',
    name: 'Reynolds number at the root',
    ...big,
    of: (e) => e.design?.reynolds?.root ?? null,
  },
  {
    id: 're-mean',
    symbol: 'Re mean',
    name: 'Reynolds number of the mean chord',
    ...big,
    of: (e) => e.design?.reynolds?.mean ?? null,
  },
  {
    id: 're-tip',
    symbol: 'Re tip',
    name: 'Reynolds number at the tip',
    ...big,
    of: (e) => e.design?.reynolds?.tip ?? null,
  },
  {
    id: 'trim-angle',
    symbol: 'trim',
    name: 'trim angle',
    says: 'without a pitching moment, controls as they stand',
    formula: 'Cm(α) = 0',
    dimension: 'angle',
    of: (e) => (e.balance?.trims[0] ? e.balance.trims[0].alpha * DEG : null),
  },
  {
    id: 'trim-CL',
    symbol: 'trim CL',
    name: 'trim CL',
    formula: 'CL(α) where Cm(α) = 0',
    dimension: 'plain',
    of: (e) => e.balance?.trims[0]?.CL ?? null,
  },
  {
    id: 'trim-speed',
    symbol: 'trim speed',
    name: 'trim speed',
    formula: 'V = √(2 W/(ρ S CL))',
    dimension: 'speed',
    of: (e) => e.balance?.trims[0]?.speed ?? null,
  },
  { ...STATIC_MARGIN, of: (e) => e.balance?.staticMargin ?? null },
  {
    id: 'pitch-slope',
    symbol: 'pitch slope',
    name: 'pitch slope',
    says: 'dCm/dα about the centre of gravity, in the trim of level flight',
    formula: 'dCm/dα',
    dimension: 'plain',
    digits: 4,
    per: '/°',
    of: (e) => (e.balance ? e.balance.pitchSlope / DEG : null),
  },
  {
    id: 'pitch-slope-rad',
    symbol: 'pitch slope',
    name: 'pitch slope',
    says: 'dCm/dα about the centre of gravity, in the trim of level flight',
    formula: 'dCm/dα',
    dimension: 'plain',
    per: '/rad',
    of: (e) => e.balance?.pitchSlope ?? null,
  },
  {
    id: 'lift-slope',
    symbol: 'lift slope',
    name: 'lift slope',
    says: 'dCL/dα at α = 0',
    formula: 'dCL/dα',
    dimension: 'plain',
    per: '/rad',
    of: (e) => e.curve?.liftSlope ?? null,
  },
  {
    id: 'lift-slope-deg',
    symbol: 'lift slope',
    name: 'lift slope',
    says: 'dCL/dα at α = 0',
    formula: 'dCL/dα',
    dimension: 'plain',
    digits: 4,
    per: '/°',
    of: (e) => (e.curve?.liftSlope != null ? e.curve.liftSlope / DEG : null),
  },
  {
    id: 'zero-lift-angle',
    symbol: 'zero-lift angle',
    name: 'zero-lift angle',
    formula: 'CL(α) = 0',
    dimension: 'angle',
    of: (e) => (e.curve?.zeroLiftAngle != null ? e.curve.zeroLiftAngle * DEG : null),
  },
  {
    id: 'design-angle',
    symbol: 'α of the design lift',
    name: 'α of the design lift',
    formula: 'CL(α) = W/(q S)',
    dimension: 'angle',
    of: (e) => {
      const alpha = e.curve && e.design?.CL != null ? angleForLift(e.curve, e.design.CL) : null;
      return alpha === null ? null : alpha * DEG;
    },
  },
  {
    id: 'neutral-point',
    symbol: 'neutral point',
    name: 'neutral point',
    formula: 'x_np = x_cg − c̄ (dCm/dα)/(dCL/dα)',
    dimension: 'length',
    says: 'of the whole aircraft, in the trim of level flight',
    of: (e) => e.balance?.neutralPoint ?? null,
  },
  {
    id: 'zero-lift-moment',
    symbol: 'Cm at zero lift',
    name: 'Cm at zero lift',
    formula: 'Cm − CL (dCm/dα)/(dCL/dα)',
    dimension: 'plain',
    digits: 4,
    of: (e) => e.curve?.zeroLiftMoment ?? null,
  },
  {
    id: 'centre',
    symbol: 'centre of gravity',
    name: 'centre of gravity',
    dimension: 'length',
    of: (e) => e.mass?.centre.x ?? null,
  },
  { id: 'mass', symbol: 'mass', name: 'mass', dimension: 'mass', of: (e) => e.mass?.mass ?? null },
]);

/** Quantities of a brief's design point. */
export const DESIGN_QUANTITIES = quantitiesOf<NonNullable<Evaluation['design']>>([
  { id: 'density', symbol: 'air density', name: 'air density', dimension: 'density', of: (d) => d.flow.density },
  {
    id: 'dynamic-pressure',
    symbol: 'dynamic pressure',
    name: 'dynamic pressure',
    dimension: 'pressure',
    digits: 1,
    of: (d) => d.flow.dynamicPressure,
  },
  { id: 'mach', symbol: 'Mach number', name: 'Mach number', dimension: 'plain', digits: 4, of: (d) => d.flow.mach },
  { id: 'weight', symbol: 'weight', name: 'weight', dimension: 'force', of: (d) => d.weight },
  {
    id: 'CL',
    symbol: 'CL needed',
    name: 'CL needed',
    says: 'weight over dynamic pressure and wing area',
    dimension: 'plain',
    of: (d) => d.CL,
  },
  {
    id: 're-mean',
    symbol: 'Re, mean chord',
    name: 'Re, mean chord',
    ...big,
    of: (d) => d.reynolds?.mean ?? null,
  },
]);

/** A surface with its planform; null where its numbers are no shape. */
export interface SurfaceRow {
  surface: LiftingSurface;
  plan: Planform | null;
}

/** A surface with its planform, for quantities of it. */
export function surfaceRow(surface: LiftingSurface): SurfaceRow {
  try {
    return { surface, plan: planformOf(surface) };
  } catch {
    return { surface, plan: null };
  }
}

const ofPlan = (of: (p: Planform) => number) => (r: SurfaceRow) => (r.plan ? of(r.plan) : null);

/** Quantities of a lifting surface. */
export const SURFACE_QUANTITIES = quantitiesOf<SurfaceRow>([
  {
    id: 'area',
    symbol: 'area',
    name: 'area',
    says: 'projected, both sides together',
    dimension: 'area',
    of: ofPlan((p) => p.area),
  },
  {
    id: 'span',
    symbol: 'span',
    name: 'span',
    says: 'projected, tip to tip',
    dimension: 'length',
    of: ofPlan((p) => p.span),
  },
  {
    id: 'aspect',
    symbol: 'aspect ratio',
    name: 'aspect ratio',
    dimension: 'plain',
    digits: 2,
    of: ofPlan((p) => p.aspectRatio),
  },
  {
    id: 'taper',
    symbol: 'taper',
    name: 'taper',
    says: 'tip chord over root chord',
    dimension: 'plain',
    of: ofPlan((p) => p.taper),
  },
  {
    id: 'mac',
    symbol: 'mean aerodynamic chord',
    name: 'mean aerodynamic chord',
    dimension: 'chord',
    of: ofPlan((p) => p.mac.chord),
  },
  {
    id: 'quarter',
    symbol: 'its quarter chord at x',
    name: 'x of its quarter chord',
    dimension: 'length',
    of: ofPlan((p) => p.quarterChord),
  },
  { id: 'incidence', symbol: 'incidence', name: 'incidence', dimension: 'angle', of: (r) => r.surface.incidenceDeg },
]);
