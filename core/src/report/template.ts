import { z } from 'zod';
import { MOST_BLOCKS, reportBlock, type ProjectDocument, type ReportBlock, type ReportPart } from '../project';

/** Blocks of a report for other projects: without ids and without candidates. */
export type ReportTemplate = Record<string, unknown>[];
const template = z.array(z.record(z.string(), z.unknown())).max(MOST_BLOCKS);

/** What is shown of each candidate. */
const ofEach = (b: Record<string, unknown>): boolean => b.kind === 'three-view' || b.kind === 'space-view';
/** The blocks of each candidate at the end of a list. */
function trailing(list: ReportTemplate): ReportTemplate {
  let from = list.length;
  while (from > 0 && ofEach(list[from - 1])) from--;
  return list.slice(from);
}

/** A report as a template: figures and tables of all candidates, one place for the three-views, and the decision open. */
export function templateOf(report: ReportPart): ReportTemplate {
  const out: ReportTemplate = [];
  for (const { id: _, ...block } of report.blocks) {
    // What belongs to this project alone.
    if (block.kind === 'picture' || block.kind === 'file' || block.kind === 'kept-table') continue;
    if (block.kind === 'three-view' || block.kind === 'space-view') {
      const { subject: _subject, ...rest } = block;
      // One stands for those of all candidates.
      if (!trailing(out).some((b) => b.kind === block.kind)) out.push({ ...rest, title: '', caption: '' });
    } else if (block.kind === 'decision') out.push({ kind: 'decision', chosen: '', why: '', givenUp: '' });
    else if ('subject' in block) {
      const { subject: _subject, ...rest } = block;
      out.push(rest);
    } else out.push(block);
  }
  return out;
}

/**
 * A report of a project from a template. @param newId makes the ids of report and blocks.
 * @returns null for what is no template; blocks that this version does not know are left out.
 */
export function fromTemplate(
  given: unknown,
  document: ProjectDocument,
  newId: () => string,
  name: string,
): ReportPart | null {
  const read = template.safeParse(given);
  if (!read.success) return null;
  const drawn = Object.values(document.candidates).filter((c) => c.surfaces.length + c.bodies.length > 0);
  const spread = read.data.flatMap((b, i, all) => {
    if (!ofEach(b)) return [b];
    // Those that follow each other stand together for each candidate.
    if (i > 0 && ofEach(all[i - 1])) return [];
    const end = all.findIndex((other, k) => k > i && !ofEach(other));
    const group = all.slice(i, end < 0 ? undefined : end);
    return drawn.flatMap((c) => group.map((own) => ({ ...own, subject: c.id })));
  });
  const blocks = spread.flatMap((b): ReportBlock[] => {
    const block = reportBlock.safeParse({ ...b, id: newId() });
    return block.success ? [block.data] : [];
  });
  return { id: newId(), name, blocks: blocks.slice(0, MOST_BLOCKS) };
}
