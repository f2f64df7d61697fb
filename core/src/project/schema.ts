import { z } from 'zod';
import { MOST_STEPS, savedSource, savedStep, sectionSource } from '../shaping';

/** Everything that is saved, as Zod schemas. Angles in degrees, all else SI: these are the fields that people type. */

export const SCHEMA_VERSION = 1;

const finite = z.number().refine(Number.isFinite, 'must be a finite number');
const text = (most: number) => z.string().max(most);
const id = z.string().regex(/^[a-z0-9][a-z0-9-]{0,63}$/, 'must be small letters, digits and dashes');
const length = finite.refine((v) => Math.abs(v) <= 1000, 'must lie within ±1000 m');
const positiveLength = finite.refine((v) => v > 0 && v <= 1000, 'must be greater than 0 and at most 1000 m');

export const point3 = z.object({ x: length, y: length, z: length });

export const sectionPart = z.object({
  id,
  name: text(80).min(1, 'needs a name'),
  source: savedSource,
  /** The recipe: shaping steps applied to the source, in order. */
  steps: z.array(savedStep).max(MOST_STEPS).default([]),
  tags: z.array(text(30).min(1)).max(20).default([]),
  note: text(4000),
  /** The file that was read, when the points come from one; its text is a part of its own. */
  fileName: text(255).optional(),
});

/** The text that a section was read from, kept as it was. */
export const originalPart = z.object({ id, fileName: text(255), text: text(2_000_000) });

export const stationSchema = z.object({
  chord: positiveLength,
  twistDeg: finite.min(-45).max(45),
  section: text(64).min(1),
});
export const baySchema = z.object({
  span: positiveLength,
  sweepDeg: finite.min(-75).max(75),
  dihedralDeg: finite.min(-75).max(75),
});

export const surfaceSchema = z
  .object({
    id,
    name: text(60).min(1, 'needs a name'),
    role: z.enum(['wing', 'tailplane', 'fin']),
    plane: z.enum(['horizontal', 'vertical']),
    mirrored: z.boolean(),
    position: point3,
    incidenceDeg: finite.min(-45).max(45),
    stations: z.array(stationSchema).min(2).max(40),
    bays: z.array(baySchema).min(1).max(39),
  })
  .refine((s) => s.bays.length === s.stations.length - 1, {
    message: 'needs one bay between each pair of stations',
    path: ['bays'],
  });

export const massItemSchema = z.object({ id, name: text(80), mass: finite.min(0).max(1e6), position: point3 });

export const candidatePart = z.object({
  id,
  letter: z.string().regex(/^[A-Z]{1,2}$/),
  name: text(60).min(1, 'needs a name'),
  note: text(4000),
  /** Place in the colour and dash order. */
  style: z.number().int().min(0).max(63),
  surfaces: z.array(surfaceSchema).max(20),
  massItems: z.array(massItemSchema).max(200),
  /** Area, span and chord of the coefficients, when they are not those of the wing. */
  reference: z.object({ area: finite.positive(), span: finite.positive(), chord: finite.positive() }).nullable(),
  sweep: z
    .object({ fromDeg: finite.min(-30).max(30), toDeg: finite.min(-30).max(30), stepDeg: finite.min(0.1).max(5) })
    .refine((s) => s.fromDeg < s.toDeg, { message: 'must start below its end', path: ['fromDeg'] }),
});

const band = z
  .object({ min: finite.nullable(), max: finite.nullable() })
  .refine((b) => b.min === null || b.max === null || b.min <= b.max, {
    message: 'lower limit must not be above the upper one',
    path: ['min'],
  });

export const briefPart = z.object({
  /** m/s */ speed: finite.positive().max(400),
  /** m */ altitude: finite.min(-1000).max(50000),
  /** kg */ mass: finite.positive().max(1e6),
  /** m, or null for none */ spanLimit: finite.positive().max(1000).nullable(),
  bands: z.object({ trimAngleDeg: band, staticMargin: band, pitchSlopePerDeg: band }),
  note: text(8000),
});

/** A part's key: `brief`, `section:ID`, `original:ID` (of that section) or `candidate:ID`. */
export const partKey = z.string().regex(/^(brief|(section|original|candidate):[a-z0-9-]{1,64})$/);

/** The whole document, its parts by key. */
export const projectDocument = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  brief: briefPart,
  sections: z.record(z.string(), sectionPart),
  candidates: z.record(z.string(), candidatePart),
  /** Texts of the sections that were read from files; left out where a document is only shown. */
  originals: z.record(z.string(), originalPart).optional(),
});

/** A candidate by itself, with the sections that it uses: the file that the command line reads and writes. */
export const candidateFile = z.object({
  format: z.literal('veldtwind-candidate'),
  version: z.literal(1),
  candidate: candidatePart.partial({
    id: true,
    letter: true,
    note: true,
    style: true,
    massItems: true,
    reference: true,
    sweep: true,
  }),
  sections: z.record(z.string(), sectionSource).optional(),
});

export type SectionPart = z.infer<typeof sectionPart>;
export type OriginalPart = z.infer<typeof originalPart>;
export type CandidatePart = z.infer<typeof candidatePart>;
export type BriefPart = z.infer<typeof briefPart>;
export type Band = z.infer<typeof band>;
export type ProjectDocument = z.infer<typeof projectDocument>;
export type CandidateFile = z.infer<typeof candidateFile>;
export type PartValue = BriefPart | SectionPart | OriginalPart | CandidatePart;
