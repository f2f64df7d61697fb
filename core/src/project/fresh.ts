import type { ProjectDocument } from './document';
import { assumptionsSchema, SCHEMA_VERSION, type BriefPart, type CandidatePart, type SectionPart } from './parts';

/** The brief that a new project starts with: numbers to change, bands open. */
export function freshBrief(): BriefPart {
  const open = () => ({ min: null, max: null });
  return {
    speed: 20,
    altitude: 0,
    mass: 10,
    spanLimit: null,
    climbSpeed: null,
    stallSpeed: null,
    bands: { trimAngleDeg: open(), staticMargin: open(), pitchSlopePerDeg: open(), dampingRatio: open() },
    requirements: [],
    note: '',
    assumptions: assumptionsSchema.parse({}),
  };
}

/** Angles that a new candidate is looked at over, degrees. */
export const freshSweep = () => ({ fromDeg: -4, toDeg: 12, stepDeg: 1 });

/** An empty candidate. */
export function freshCandidate(id: string, letter: string, name: string, style: number): CandidatePart {
  return {
    id,
    letter,
    name,
    note: '',
    style,
    surfaces: [],
    massItems: [],
    bodies: [],
    reference: null,
    sweep: freshSweep(),
  };
}

/** A section from a designation. */
export function designationSection(
  id: string,
  name: string,
  designation: string,
  trailingEdge: 'published' | 'sharp' = 'published',
  note = '',
): SectionPart {
  return { id, name, source: { kind: 'designation', designation, trailingEdge }, steps: [], tags: [], note };
}

/** An empty project: a brief, no sections, one empty candidate. */
export function freshProject(): ProjectDocument {
  return {
    schemaVersion: SCHEMA_VERSION,
    brief: freshBrief(),
    sections: {},
    candidates: { a: freshCandidate('a', 'A', 'First', 0) },
    notes: {},
    measurements: {},
    pictures: {},
    scenarios: {},
    flightRecords: {},
    studies: {},
    reports: {},
    attachments: {},
  };
}
