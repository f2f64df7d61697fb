import { freshBrief, freshProject, type ProjectDocument } from '../project';
import type { StartingLayout } from './balanced';
import type { LayoutPlan } from './plans';
import type { LayoutNumbers } from './sizes';

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
