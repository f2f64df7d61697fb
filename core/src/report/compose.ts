import { standing, surfaceFacts, type LiftingSurface } from '../airframe';
import { spaceView, threeView } from '../figures';
import { VeldtwindError } from '../numerics';
import { attachmentSize, isPicture, type ProjectDocument } from '../project';
import type { UnitSet } from '../units';
import type { ReportBlock, ReportFigure, ReportPart } from '../project';
import type { ComposedBlock, ComposedReport } from './composed';
import { contextOf, said, type ReportContext, type Subject } from './context';
import type { FigureMaker } from './figure-parts';
import { LIFT_FIGURES } from './figures-lift';
import { PERFORMANCE_FIGURES } from './figures-performance';
import { STABILITY_FIGURES } from './figures-stability';
import { SECTION_FIGURES } from './figures-sections';
import { filledIn } from './live-text';
import { FIGURE_NAMES, TABLE_NAMES } from './names';
import type { CandidatePolars, CandidateResults } from './results';
import type { StudyTold } from './table-studies';
import { TABLES } from './tables';

const FIGURES: Record<ReportFigure, FigureMaker> = {
  ...LIFT_FIGURES,
  ...PERFORMANCE_FIGURES,
  ...STABILITY_FIGURES,
  ...SECTION_FIGURES,
};

/** What is told only when all results are there. */
const LATE: ReadonlySet<string> = new Set([
  ...Object.keys(PERFORMANCE_FIGURES),
  'margin-loading',
  'requirements',
  'performance',
  'loops',
  'findings',
  'validity',
]);

/** What a report is composed from, beside its blocks. */
export interface ReportMaterial {
  document: ProjectDocument;
  /** By candidate; only those that are there are told. */ results: Readonly<Record<string, CandidateResults>>;
  polars: Readonly<Record<string, CandidatePolars>>;
  units: UnitSet;
  /** The newest first. */ studies?: readonly StudyTold[];
}

/** A report with all its figures, tables and numbers. What cannot be shown becomes a block that says why; nothing is thrown for it. */
export function composeReport(report: ReportPart, project: string, material: ReportMaterial): ComposedReport {
  const { document, results, polars, units, studies } = material;
  const context = contextOf(document, results, polars, units, studies);
  const numbered = { figure: 0, table: 0 };
  return {
    name: report.name,
    project,
    blocks: report.blocks.map((b): ComposedBlock => {
      try {
        return composed(b, context, numbered);
      } catch (error) {
        if (!(error instanceof VeldtwindError)) throw error;
        return { kind: 'missing', id: b.id, title: titleOf(b), reason: error.message };
      }
    }),
  };
}

const NAMES: Record<ReportBlock['kind'], string> = {
  heading: 'Heading',
  text: 'Text',
  figure: 'Figure',
  table: 'Table',
  'three-view': 'Three-view',
  'space-view': 'Space view',
  'kept-figure': 'Snapshot',
  'kept-table': 'Snapshot',
  picture: 'Picture',
  file: 'File',
  decision: 'Decision',
};
function titleOf(b: ReportBlock): string {
  if ('title' in b && b.title) return b.title;
  if (b.kind === 'figure') return FIGURE_NAMES[b.of];
  if (b.kind === 'table') return TABLE_NAMES[b.of];
  return NAMES[b.kind];
}

function composed(b: ReportBlock, c: ReportContext, numbered: Numbered): ComposedBlock {
  if (b.kind === 'heading') return { kind: 'heading', id: b.id, level: b.level, text: b.text };
  if (waits(b, c)) {
    // It keeps its place among the numbers, so that those behind it do not change twice.
    if (b.kind === 'figure' || b.kind === 'table') numbered[b.kind]++;
    return { kind: 'missing', id: b.id, title: titleOf(b), reason: 'It is being computed.', pending: true };
  }
  if (b.kind === 'text') return { kind: 'text', id: b.id, ...filledIn(b.markdown, c) };
  if (b.kind === 'decision') return decision(b, c);
  if (b.kind === 'kept-figure' || b.kind === 'kept-table') {
    const from = `Snapshot from ${b.from || 'the project'}${b.at ? `, ${b.at.slice(0, 10)}` : ''}.`;
    const own = { id: b.id, title: b.title, caption: [b.caption, from].filter(Boolean).join(' ') };
    if (b.kind === 'kept-figure') return { kind: 'figure', ...own, number: ++numbered.figure, figure: b.figure };
    const rows = b.table.rows.map((r) => r.map((text) => ({ text })));
    return { kind: 'table', ...own, number: ++numbered.table, table: { columns: b.table.columns, rows } };
  }
  if (b.kind === 'picture' || b.kind === 'file') return attached(b, c, numbered);
  const gone = {
    kind: 'missing',
    id: b.id,
    title: titleOf(b),
    reason: 'Its candidate is no longer in the project.',
    gone: true,
  } as const;
  const of = b.subject === undefined ? c.subjects : c.subjects.filter((s) => s.candidate.id === b.subject);
  if (b.subject !== undefined && of.length === 0) return gone;
  if (b.kind === 'three-view' || b.kind === 'space-view') return drawn(b, c, of[0], numbered);
  if (b.kind === 'figure') {
    const made = FIGURES[b.of](c, of);
    if ('missing' in made) return { kind: 'missing', id: b.id, title: titleOf(b), reason: made.missing };
    return {
      kind: 'figure',
      id: b.id,
      number: ++numbered.figure,
      title: b.title || made.title,
      caption: b.caption || made.caption,
      figure: made.figure,
    };
  }
  const made = TABLES[b.of](c, of);
  if ('missing' in made) return { kind: 'missing', id: b.id, title: titleOf(b), reason: made.missing };
  return {
    kind: 'table',
    id: b.id,
    number: ++numbered.table,
    title: b.title || made.title,
    caption: b.caption || made.caption,
    table: made.table,
  };
}

/** Whether a block tells what is still to be made. */
function waits(b: ReportBlock, c: ReportContext): boolean {
  const subject = 'subject' in b ? b.subject : undefined;
  if (!c.subjects.some((s) => s.pending && (subject === undefined || s.candidate.id === subject))) return false;
  if (b.kind === 'figure' || b.kind === 'table') return LATE.has(b.of);
  if (b.kind === 'text') return filledIn(b.markdown, c).unknown.length > 0;
  return b.kind === 'decision' && filledIn(b.why + b.givenUp, c).unknown.length > 0;
}

type Numbered = { figure: number; table: number };

/** What is seen of the wing, in numbers. */
function wingWords(there: readonly LiftingSurface[], c: ReportContext): string {
  const wing = there.find((s) => s.role === 'wing');
  if (!wing) return '';
  const f = surfaceFacts(wing, c.lookup);
  return `The wing has a span of ${said(f.spanProjected, 'length', c.units)}, an area of ${said(f.areaProjected, 'area', c.units)} and an aspect ratio of ${f.aspectRatio.toFixed(1)}.`;
}

function drawn(
  b: Extract<ReportBlock, { kind: 'three-view' | 'space-view' }>,
  c: ReportContext,
  s: Subject,
  numbered: Numbered,
): ComposedBlock {
  const { surfaces, bodies } = s.candidate;
  const title = b.title || (b.kind === 'three-view' ? `Three-view of ${s.title}` : s.title);
  if (surfaces.length === 0 && bodies.length === 0)
    return { kind: 'missing', id: b.id, title, reason: 'It has no parts.' };
  const there = standing(surfaces, bodies);
  const content =
    b.kind === 'three-view'
      ? ({ kind: 'drawing', drawing: threeView(s.title, there, bodies, c.lookup) } as const)
      : ({ kind: 'view', view: spaceView(there, bodies, c.lookup, b) } as const);
  const caption = b.caption || (b.kind === 'space-view' ? wingWords(there, c) : '');
  return { ...content, id: b.id, number: ++numbered.figure, title, caption };
}

function attached(
  b: Extract<ReportBlock, { kind: 'picture' | 'file' }>,
  c: ReportContext,
  numbered: Numbered,
): ComposedBlock {
  const own = Object.hasOwn(c.document.attachments, b.attachment) ? c.document.attachments[b.attachment] : undefined;
  const missing = (reason: string, gone: boolean): ComposedBlock => ({
    kind: 'missing',
    id: b.id,
    title: titleOf(b),
    reason,
    ...(gone && { gone }),
  });
  if (!own) return missing('Its file is no longer in the project.', true);
  const { id, caption } = b;
  if (b.kind === 'file')
    return { kind: 'file', id, name: own.name, size: attachmentSize(own), caption, data: own.data };
  if (!isPicture(own)) return missing(`${own.name} is neither PNG nor JPEG. Put it in as a file.`, false);
  return { kind: 'picture', id, number: ++numbered.figure, title: b.title || own.name, caption, data: own.data };
}

function decision(b: Extract<ReportBlock, { kind: 'decision' }>, c: ReportContext): ComposedBlock {
  const chosen = c.subjects.find((s) => s.candidate.id === b.chosen);
  return {
    kind: 'decision',
    id: b.id,
    chosen: chosen?.title ?? '',
    against: c.subjects.filter((s) => s !== chosen).map((s) => s.title),
    why: filledIn(b.why, c).markdown,
    givenUp: filledIn(b.givenUp, c).markdown,
  };
}

/**
 * Blocks whose candidate went, as they were when they were composed last. @param last the report as it was then.
 * @returns the report, each such block marked.
 */
export function withLastSeen(report: ComposedReport, last: ComposedReport): ComposedReport {
  const before = new Map(last.blocks.map((b) => [b.id, b]));
  if (!report.blocks.some((b) => b.kind === 'missing' && b.gone && before.has(b.id))) return report;
  const numbered = { figure: 0, table: 0 };
  return {
    ...report,
    blocks: report.blocks.map((b) => {
      const known = b.kind === 'missing' && b.gone ? before.get(b.id) : undefined;
      const shown = known && 'caption' in known ? { ...known, lastSeen: true } : b;
      return 'number' in shown ? { ...shown, number: ++numbered[shown.kind === 'table' ? 'table' : 'figure'] } : shown;
    }),
  };
}
