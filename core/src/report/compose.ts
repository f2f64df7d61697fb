import { standing } from '../airframe';
import { threeView } from '../figures';
import { VeldtwindError } from '../numerics';
import type { ProjectDocument } from '../project';
import type { UnitSet } from '../units';
import type { ReportBlock, ReportFigure, ReportPart } from '../project';
import type { ComposedBlock, ComposedReport } from './composed';
import { contextOf, type ReportContext, type Subject } from './context';
import type { FigureMaker } from './figure-parts';
import { LIFT_FIGURES } from './figures-lift';
import { PERFORMANCE_FIGURES } from './figures-performance';
import { STABILITY_FIGURES } from './figures-stability';
import { SECTION_FIGURES } from './figures-sections';
import { filledIn } from './live-text';
import { FIGURE_NAMES, TABLE_NAMES } from './names';
import type { CandidatePolars, CandidateResults } from './results';
import { TABLES } from './tables';

const FIGURES: Record<ReportFigure, FigureMaker> = {
  ...LIFT_FIGURES,
  ...PERFORMANCE_FIGURES,
  ...STABILITY_FIGURES,
  ...SECTION_FIGURES,
};

/** What a report is composed from, beside its blocks. */
export interface ReportMaterial {
  document: ProjectDocument;
  /** By candidate; only those that are there are told. */ results: Readonly<Record<string, CandidateResults>>;
  polars: Readonly<Record<string, CandidatePolars>>;
  units: UnitSet;
}

/** A report with all its figures, tables and numbers. What cannot be shown becomes a block that says why; nothing is thrown for it. */
export function composeReport(report: ReportPart, project: string, material: ReportMaterial): ComposedReport {
  const { document, results, polars, units } = material;
  const context = contextOf(document, results, polars, units);
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

function titleOf(b: ReportBlock): string {
  if ('title' in b && b.title) return b.title;
  return b.kind === 'figure'
    ? FIGURE_NAMES[b.of]
    : b.kind === 'table'
      ? TABLE_NAMES[b.of]
      : b.kind === 'three-view'
        ? 'Three-view'
        : b.kind;
}

function composed(b: ReportBlock, c: ReportContext, numbered: { figure: number; table: number }): ComposedBlock {
  if (b.kind === 'heading') return { kind: 'heading', id: b.id, level: b.level, text: b.text };
  if (b.kind === 'text') return { kind: 'text', id: b.id, ...filledIn(b.markdown, c) };
  if (b.kind === 'decision') return decision(b, c);
  if (b.kind === 'kept-figure') {
    const caption = [b.caption, `Snapshot from ${b.from || 'the project'}${b.at ? `, ${b.at.slice(0, 10)}` : ''}.`];
    const { title, figure, id } = b;
    return { kind: 'figure', id, number: ++numbered.figure, title, caption: caption.filter(Boolean).join(' '), figure };
  }
  const gone = {
    kind: 'missing',
    id: b.id,
    title: titleOf(b),
    reason: 'Its candidate is no longer in the project.',
    gone: true,
  } as const;
  const of = b.subject === undefined ? c.subjects : c.subjects.filter((s) => s.candidate.id === b.subject);
  if (b.subject !== undefined && of.length === 0) return gone;
  if (b.kind === 'three-view') {
    const [s] = of;
    const drawing = drawn(c, s);
    if ('missing' in drawing)
      return { kind: 'missing', id: b.id, title: `Three-view of ${s.title}`, reason: drawing.missing };
    return {
      kind: 'drawing',
      id: b.id,
      number: ++numbered.figure,
      title: b.title || `Three-view of ${s.title}`,
      caption: b.caption,
      drawing,
    };
  }
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

function drawn(c: ReportContext, s: Subject) {
  const { surfaces, bodies } = s.candidate;
  if (surfaces.length === 0 && bodies.length === 0) return { missing: 'It has no parts.' };
  return threeView(s.title, standing(surfaces, bodies), bodies, c.lookup);
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
