import type { Draft } from 'immer';
import { freeId } from '../limits';
import { addCandidate, freshBrief, freshProject, type ProjectDocument, type SectionPart } from '../project';
import { canonicalJson } from '../results';
import type { StartingLayout } from './balanced';
import type { LayoutPlan } from './plans';
import type { LayoutNumbers } from './sizes';

/** Longest note of a candidate. */
const LONGEST_NOTE = 4000;
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

/** What tells sections apart besides their ids. */
const madeOf = ({ name, source, steps }: SectionPart) => canonicalJson([name, source, steps]);

/**
 * Adds a starting layout to a project as one more candidate; its sections are those that the project has, where they are the same. The brief stays.
 * @returns the candidate's id.
 */
export function addLayoutCandidate(document: Draft<ProjectDocument>, plan: LayoutPlan, made: StartingLayout): string {
  const ids = new Map(
    made.sections.map((s) => {
      const same = Object.values(document.sections).find((o) => madeOf(o) === madeOf(s));
      if (same) return [s.id, same.id];
      const id = freeId(s.id, (i) => Object.hasOwn(document.sections, i));
      document.sections[id] = { ...s, id };
      return [s.id, id];
    }),
  );
  const surfaces = made.candidate.surfaces.map((s) => ({
    ...s,
    stations: s.stations.map((t) => ({ ...t, section: ids.get(t.section) ?? t.section })),
  }));
  const id = addCandidate(document, { ...made.candidate, surfaces });
  const added = document.candidates[id];
  added.name = plan.name;
  added.note = [`Starting layout: ${plan.name.toLowerCase()}.`, ...made.assumed].join(' ').slice(0, LONGEST_NOTE);
  return id;
}
