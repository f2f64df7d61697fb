import { z } from 'zod';
import { EXPORT_FORMAT_IDS, subjectWords } from '@veldtwind/core/formats';
import { composedReport, reportPart } from '@veldtwind/core/report';
import { planSchema, STUDY_KINDS, type StudyPlan, type StudyResult, type Try } from '@veldtwind/core/studies';
import { words } from '@veldtwind/core/limits';
import { comment, someone } from './people';
import { runPlan, type CurveInput, type PolarFacts } from '@veldtwind/core/polar';
import type { ViscousPoint } from '@veldtwind/core/section-flow';
import {
  attachmentPart,
  briefPart,
  candidatePart,
  editRequest,
  measurementPart,
  picturePart,
  flightRecordPart,
  scenarioPart,
  notePart,
  partKey,
  SCHEMA_VERSION,
  sectionPart,
  studyPart,
  type PartChange,
  type ProjectDocument,
} from '@veldtwind/core/project';

/** The one shape of every error that the API answers with. */
export const errorReply = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    path: z.string().optional(),
    hint: z.string().optional(),
  }),
});
export type ErrorReply = z.infer<typeof errorReply>;

export const LONGEST_PROJECT_NAME = 80;
const projectName = z.string().trim().min(1, 'needs a name').max(LONGEST_PROJECT_NAME);
const version = z.number().int().min(0);

export const projectRow = z.object({
  id: z.string(),
  name: z.string(),
  version,
  createdAt: z.string(),
  updatedAt: z.string(),
});
export type ProjectRow = z.infer<typeof projectRow>;

/** Labels of the steps that undo and redo would take, null where there is none. */
const steps = { undo: z.string().nullable(), redo: z.string().nullable() };

/** The document as it is sent: without the texts of files. */
export const documentReply = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  brief: briefPart,
  sections: z.record(z.string(), sectionPart),
  candidates: z.record(z.string(), candidatePart),
  notes: z.record(z.string(), notePart),
  measurements: z.record(z.string(), measurementPart),
  pictures: z.record(z.string(), picturePart),
  scenarios: z.record(z.string(), scenarioPart),
  flightRecords: z.record(z.string(), flightRecordPart),
  studies: z.record(z.string(), studyPart),
  reports: z.record(z.string(), reportPart),
  attachments: z.record(z.string(), attachmentPart),
});

/** A stored part that cannot be read: it is kept as it is, and left out of the document. */
export const unreadPart = z.object({ key: z.string(), why: z.enum(['newer', 'damaged']), message: z.string() });

export const projectState = projectRow.extend({ ...steps, unread: z.array(unreadPart), document: documentReply });
export type ProjectState = Omit<z.infer<typeof projectState>, 'document'> & {
  document: ProjectDocument;
};

/** A change of a part as it is told: parts beside the document are left out. */
const toldChange = z.object({ part: partKey, value: z.unknown().nullable() });

/** What an edit, an undo or a redo came to: changes that lead from `base` to `version`. */
export const applied = z.object({
  version,
  base: version,
  label: z.string(),
  /** Null where they cannot be told any more: open the project again. */
  changes: z.array(toldChange).nullable(),
  /** The edit was applied before; nothing was done now. */
  repeated: z.boolean().optional(),
  ...steps,
});
export type Applied = Omit<z.infer<typeof applied>, 'changes'> & { changes: PartChange[] | null };

/** What brings a client from a version to the current one: changed parts, or the whole document where that is not known any more. */
export const catching = projectRow.extend({
  ...steps,
  since: version,
  changes: z.array(toldChange).optional(),
  document: documentReply.optional(),
});
export type Catching = Omit<z.infer<typeof catching>, 'changes' | 'document'> & {
  changes?: PartChange[];
  document?: ProjectDocument;
};

/** A stale edit is answered with what changed since the version it was made on. */
export const staleReply = errorReply.extend({ current: catching });

export const newProject = z.object({
  name: projectName,
  from: z.enum(['empty', 'demo', 'sample']).optional(),
  /** Which of the samples. */ sample: z.string().max(40).optional(),
  /** A document of this version or an older one. */
  document: z.looseObject({ schemaVersion: z.number() }).optional(),
});
/** An aircraft from above in lines: mm, the nose up. */
export const pictureLines = z.array(
  z.object({ points: z.array(z.tuple([z.number(), z.number()])), closed: z.boolean() }),
);
/** A sample aircraft that a project can begin from. */
export const sampleRow = z.object({ id: z.string(), name: z.string(), says: z.string(), picture: pictureLines });
export type SampleRow = z.infer<typeof sampleRow>;
/** What came of reading a project's file. */
export const importedProject = z.object({
  id: z.string(),
  name: z.string(),
  parts: z.number(),
  edits: z.number(),
  results: z.number(),
  /** What was kept unread or left out, with the reason. */
  left: z.array(z.string()),
});
export type ImportedProject = z.infer<typeof importedProject>;
export const renameProject = z.object({ name: projectName });
export const stepRequest = z.object({
  baseVersion: version,
  /** Says that a step of somebody else is meant. */ anothers: z.boolean().optional(),
});
export const editWithId = editRequest.extend({ editId: z.uuid().optional() });
export const historyQuery = z.object({ most: z.coerce.number().int().min(1).max(1000).default(100) });
export const openQuery = z.object({ points: z.enum(['packed']).optional() });
export const sinceQuery = z.object({ version: z.coerce.number().int().min(0) });
export const historyEntry = z.object({
  id: z.number(),
  label: z.string(),
  state: z.enum(['done', 'undone', 'dropped']),
  version: z.number(),
  createdAt: z.string(),
  by: z.string().nullable().describe('Name of who made it, where the server knows people by name'),
});

export const preferenceKey = z.string().regex(/^[a-z][A-Za-z0-9-]{0,80}$/, 'is not the name of a preference');
/** A preference's value: JSON, not nested so deep that it cannot be told. */
export const preferenceValue = z.object({ value: z.unknown() });
export const LONGEST_PREFERENCE = 20_000;

export const keyOfResultText = z.string().regex(/^[0-9a-f]{32}$/, 'is not the key of a result');
export const resultReply = z.object({ key: z.string(), output: z.unknown() });
export const computedReply = resultReply.extend({
  /** False where it was known already. */
  computed: z.boolean(),
});

export const health = z.object({
  status: z.enum(['ok', 'failing']),
  version: z.string(),
  uptimeSeconds: z.number(),
  projects: z.number(),
  /** Why the store cannot be written, where it cannot. */
  trouble: z.string().optional(),
  /** Results that pages took from the home of results, and that they computed and had kept, since the start. */
  results: z.object({ given: z.number(), kept: z.number() }),
  /** How late the server's loop was in the last minute or two, ms. */
  loop: z.object({ median: z.number(), percentile99: z.number(), longest: z.number() }).optional(),
});

/** Tabs of one browser are told apart by this header, so that a tab does not hear its own edits. */
export const TAB_HEADER = 'x-veldtwind-tab';
export const tabName = words(64);

export const runRow = z.object({
  id: z.string(),
  projectId: z.string().nullable(),
  name: z.string(),
  state: z.enum(['running', 'paused', 'cancelled', 'finished']),
  priority: z.number(),
  createdAt: z.string(),
  endedAt: z.string().nullable(),
  by: z.string().nullable(),
  points: z.number(),
  known: z.number(),
  solved: z.number(),
  doubtful: z.number(),
  unsolved: z.number(),
  tasks: z.number(),
  failed: z.number(),
  error: z.string().nullable(),
});
export type RunReply = z.infer<typeof runRow>;
export const newRun = z.object({
  name: z.string().trim().min(1).max(80),
  plan: runPlan,
  priority: z.number().int().min(-100).max(100).optional(),
  /** Says that so many points are meant. */
  many: z.boolean().optional(),
});
export const runEstimate = z.object({ points: z.number(), known: z.number(), sweeps: z.number(), seconds: z.number() });
export const runChange = z.object({
  state: z.enum(['running', 'paused', 'cancelled']).optional(),
  priority: z.number().int().min(-100).max(100).optional(),
});
/** A study that the server makes, as it is listed. */
export const studyRow = z.object({
  id: z.string(),
  projectId: z.string(),
  candidate: z.string(),
  name: z.string(),
  kind: z.enum(STUDY_KINDS),
  state: z.enum(['running', 'paused', 'finished', 'failed']),
  done: z.number(),
  planned: z.number().describe('0 until it is known'),
  best: z.unknown().describe('Of a search for one aim, the best try so far'),
  why: z.string().nullable(),
  by: z.string().nullable(),
  createdAt: z.string(),
  endedAt: z.string().nullable(),
});
export type StudyReply = Omit<z.infer<typeof studyRow>, 'best'> & { best: Try | null };
export const newStudy = z.object({
  name: z.string().trim().min(1).max(120),
  candidate: z.string().min(1).max(64),
  input: z.object({ plan: planSchema }).loose().describe('Input of the analysis "study"'),
});
export const studyChange = z.object({ state: z.enum(['running', 'paused']) });
/** A study whole: what it was asked, what came of it, and its tries from a place on. */
export const studyWhole = z.object({
  study: studyRow,
  plan: z.unknown(),
  method: z.enum(['lattice', 'polars']),
  result: z.unknown().nullable(),
  tries: z.array(z.unknown()),
});
export interface StudyWholeReply {
  study: StudyReply;
  plan: StudyPlan;
  method: 'lattice' | 'polars';
  result: Omit<StudyResult, 'tries'> | null;
  tries: Try[];
}
/** A curve as it is listed: what it was solved for, how far, and its facts. */
export const curveReply = z.object({
  id: z.number(),
  key: z.string(),
  version: z.number().describe('Version of the method that solved it'),
  name: z.string(),
  section: z.string().nullable(),
  at: z.string().describe('When it was first asked for'),
  input: z.unknown(),
  points: z.number(),
  solved: z.number(),
  doubtful: z.number(),
  unsolved: z.number(),
  facts: z.unknown(),
});
export interface CurveReply extends Omit<z.infer<typeof curveReply>, 'input' | 'facts'> {
  input: CurveInput;
  facts: PolarFacts | null;
}
export const pointsQuery = z.object({
  curves: z.string().regex(/^\d{1,9}(,\d{1,9}){0,499}$/, 'lists the numbers of curves'),
});
/** Some curves by their numbers; all of the project without. */
export const someCurves = z.object({ curves: pointsQuery.shape.curves.optional() });
export const importedCurves = z.object({
  run: runRow,
  curves: z.number(),
  points: z.number(),
  known: z.number().describe('Points that were there already'),
  left: z.array(z.string()).describe('What was left out, with the reason'),
});
export const pointsReply = z.object({
  curves: z.array(z.object({ id: z.number(), points: z.array(z.object({ place: z.number(), point: z.unknown() })) })),
});
export interface PointsReply {
  curves: { id: number; points: { place: number; point: ViscousPoint }[] }[];
}

/** What is sent to everybody who has a project open, by the name of the event. */
export const EVENTS = {
  changed: applied.extend({
    project: z.string(),
    from: z.string().nullable(),
    by: z.object({ id: z.string(), name: z.string() }).nullable().optional(),
  }),
  renamed: z.object({ project: z.string(), name: z.string() }),
  removed: z.object({ project: z.string() }),
  runs: z.object({ project: z.string(), run: runRow, curves: z.array(z.number()) }),
  studies: z.object({ project: z.string(), study: studyRow }),
  people: z.object({ project: z.string(), people: z.array(someone) }),
  comments: z.object({ project: z.string(), comments: z.array(comment) }),
  roles: z.object({ project: z.string() }),
} as const;
export type EventName = keyof typeof EVENTS;
export type StudiesEvent = { project: string; study: StudyReply };
export type RunsEvent = { project: string; run: RunReply; curves: number[] };
export type ChangedEvent = Applied & {
  project: string;
  from: string | null;
  by?: { id: string; name: string } | null;
};

const short = z.string().max(400).optional();
/** How an airframe is written; numbers in mm. */
export const airframeFile = z.object({
  as: z.enum(EXPORT_FORMAT_IDS),
  what: z.string().max(20).optional().describe(`What is written ${subjectWords()}; the first is usual`),
  unit: z.string().max(4).optional().describe('Of stl and obj: m, mm, in'),
  skin: z.coerce.number().optional(),
  spacing: z.coerce.number().optional(),
  ring: z.coerce.number().optional(),
  sheet: short.describe('Width and height, as 900x600'),
  printer: short.describe('Of parts: width, depth and height, as 200x200x180'),
  kerf: z.coerce.number().optional().describe('Of parts: width that the cut takes away'),
  holes: short.describe('Spars and rods with commas, as 0.28:8x20,0.6:6'),
});

/** A state of a project that is kept by name. */
export const keptVersion = z.object({
  id: z.string(),
  name: z.string(),
  version: z.number().int(),
  createdAt: z.string(),
  by: z.string().nullable(),
});
export type KeptVersionReply = z.infer<typeof keptVersion>;

/** How numbers of a report are shown. */
export const reportQuery = z.object({ units: z.enum(['metric', 'small', 'us']).default('metric') });
export const composeQuery = reportQuery.extend({
  soon: z
    .enum(['yes', 'no'])
    .default('no')
    .describe('Without what waits for the longer computations: such blocks are pending'),
});
export const reportFileQuery = reportQuery.extend({
  as: z.enum(['pdf', 'html', 'docx', 'zip']),
  paper: z.enum(['a4', 'letter']).default('a4'),
  issue: z.string().max(64).optional().describe('Of the report, as it was issued; as it is now without'),
});
/** A report with its content, and the version of the project that it is of. */
export const composedReply = z.object({ version: z.number().int(), report: composedReport });

/** An issue of a report: its content never changes. */
export const reportIssue = z.object({
  id: z.string(),
  projectId: z.string(),
  reportId: z.string(),
  number: z.number().int(),
  name: z.string(),
  note: z.string(),
  by: z.string().nullable(),
  createdAt: z.string(),
});
export const newIssue = reportQuery.extend({ note: z.string().trim().max(1000).default('') });
/** A link to the read-only view of one report; whoever has it may read just that. */
export const reportLink = z.object({
  token: z.string(),
  projectId: z.string(),
  reportId: z.string(),
  issueId: z.string().nullable(),
  by: z.string().nullable(),
  createdAt: z.string(),
});
export const newReportLink = z.object({
  report: z.string().min(1).max(64),
  issue: z.string().max(64).nullable().default(null),
});
