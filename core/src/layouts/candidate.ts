import type { SectionLookup } from '../airframe';
import { freshSweep, type CandidatePart } from '../project';
import { bodiesOf } from './bodies';
import { engineOf, itemsOf } from './masses';
import type { LayoutPlan } from './plans';
import type { LayoutNumbers, LayoutSizes } from './sizes';
import type { LayoutSections, LayoutState } from './state';
import { surfacesOf } from './surfaces';

/** The candidate that a plan comes to at a state. */
export function layoutCandidate(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  numbers: LayoutNumbers,
  sections: LayoutSections,
  state: LayoutState,
  lookup: SectionLookup,
): CandidatePart {
  const surfaces = surfacesOf(plan, sizes, sections, state);
  const bodies = bodiesOf(plan, sizes, state, surfaces);
  return {
    id: 'a',
    letter: 'A',
    name: plan.name,
    note: plan.says,
    style: 0,
    surfaces,
    bodies,
    massItems: itemsOf(plan, sizes, numbers, state, surfaces, bodies, lookup),
    reference: null,
    sweep: { ...freshSweep(), fromDeg: -6, toDeg: 14 },
    ...engineOf(plan, sizes, numbers, bodies),
  };
}
