import { z } from 'zod';
import { finiteNumber, partId, words } from '../../limits';
import { criterion, MOST_MEMBERS, variedNumber, viscousConditions } from '../../polar';
import { partKind } from './kind';
import { sectionReference } from './section';

/** A family study: a base section, the numbers that are varied over a grid, at what its members are solved, and what is asked of them. */
export const studyPart = z.object({
  id: partId,
  name: words(80).min(1, 'needs a name'),
  note: words(2000).default(''),
  /** Id of the base section. */
  base: partId,
  numbers: z.array(variedNumber).max(8),
  /** Members beside the grid: half way between two, or tried by a search. */
  tries: z.array(z.array(finiteNumber).max(8)).max(MOST_MEMBERS).default([]),
  reynolds: z.array(finiteNumber.min(1000).max(1e9)).min(1, 'is empty').max(20),
  mach: finiteNumber.min(0).max(0.69).default(0),
  alpha: z.object({
    fromDeg: finiteNumber.min(-45),
    toDeg: finiteNumber.max(45),
    stepDeg: finiteNumber.min(0.05).max(10),
  }),
  conditions: viscousConditions.omit({ reynolds: true, mach: true }).default({}),
  criteria: z.array(criterion).max(20).default([]),
  /** Tries that a search may still make; null where none goes on. */
  searching: z.number().int().min(0).max(MOST_MEMBERS).nullable().default(null),
});
export type StudyPart = z.infer<typeof studyPart>;

export const studyKind = partKind<StudyPart>({
  schema: studyPart,
  version: 1,
  migrations: {},
  place: { at: 'record', field: 'studies' },
  label: (s) => `the family study ${s.name}`,
  references: (s) => sectionReference(s.base, 'base'),
  freeing: 'Take it out of the studies first.',
});
