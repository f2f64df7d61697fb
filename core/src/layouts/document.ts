import { standing } from '../airframe';
import { viewItems, type DrawingItem } from '../figures';
import { freshBrief, freshProject, type ProjectDocument } from '../project';
import { sectionLookup } from '../candidate';
import { starterLibrary } from '../starter';
import type { StartingLayout } from './balanced';
import { layoutCandidate } from './candidate';
import { startingState } from './state';
import type { LayoutPlan } from './plans';
import { layoutSizes, type LayoutNumbers } from './sizes';

/** Lighter than this an aircraft has nobody on board, kg. */
const LIGHTEST_CREWED = 115;

const hundredth = (v: number) => Number(v.toFixed(2));

/** A new project with a starting layout in it: its brief has the numbers and what was assumed, and asks for the static margin that it was placed for. */
export function layoutDocument(plan: LayoutPlan, numbers: LayoutNumbers, made: StartingLayout): ProjectDocument {
  const fresh = freshProject();
  const brief = freshBrief();
  return {
    ...fresh,
    brief: {
      ...brief,
      speed: numbers.speed,
      altitude: numbers.altitude,
      mass: numbers.mass,
      spanLimit: numbers.spanLimit,
      bands: {
        ...brief.bands,
        staticMargin: { min: hundredth(plan.staticMargin - 0.07), max: hundredth(plan.staticMargin + 0.13) },
      },
      assumptions: {
        ...brief.assumptions,
        ...(numbers.mass < LIGHTEST_CREWED ? { aircraftClass: 'uncrewed' as const } : {}),
      },
      note: [`Starting layout: ${plan.name.toLowerCase()}.`, ...made.assumed.map((line) => `- ${line}`)].join('\n'),
    },
    sections: Object.fromEntries(made.sections.map((s) => [s.id, s])),
    candidates: { a: made.candidate },
  };
}

/** A layout seen from above at its usual numbers, before it is balanced; mm, nose up. */
export function layoutPicture(plan: LayoutPlan): DrawingItem[] {
  const numbers: LayoutNumbers = { ...plan.usual, altitude: 0, spanLimit: null };
  const sizes = layoutSizes(plan, numbers);
  const [first] = starterLibrary();
  const lookup = sectionLookup({ [first.id]: first });
  const { surfaces, bodies } = layoutCandidate(
    plan,
    sizes,
    numbers,
    { wing: first.id, tail: first.id },
    startingState(plan, sizes),
    lookup,
  );
  return viewItems(standing(surfaces, bodies), bodies, lookup, 'plan');
}
