import type { ComposedBlock, ComposedReport } from './composed';

/** One thing that differs between two states of a report. */
export interface ReportChange {
  /** Id of the block. */ block: string;
  title: string;
  /** What differs there: the row and column of a table, for instance; empty for the whole block. */ where: string;
  before: string;
  after: string;
}

const titleOf = (b: ComposedBlock): string =>
  b.kind === 'heading'
    ? b.text
    : b.kind === 'text'
      ? 'Text'
      : b.kind === 'decision'
        ? 'Decision'
        : b.kind === 'file'
          ? b.name
          : b.title;

function tableChanges(
  a: Extract<ComposedBlock, { kind: 'table' }>,
  b: Extract<ComposedBlock, { kind: 'table' }>,
): ReportChange[] {
  // Rows are known by their leading words: up to the first number.
  const lead = (t: typeof a.table) => t.columns.findIndex((c) => c.numbers);
  const keyOf = (t: typeof a.table) => (row: (typeof t.rows)[number]) =>
    row
      .slice(0, Math.max(1, lead(t)))
      .map((c) => c.text)
      .join(' ');
  const [keyA, keyB] = [keyOf(a.table), keyOf(b.table)];
  const before = new Map(a.table.rows.map((r) => [keyA(r), r]));
  const after = new Map(b.table.rows.map((r) => [keyB(r), r]));
  const nameB = new Map(b.table.columns.map((c, i) => [c.name, i]));
  const of = (where: string, was: string, now: string): ReportChange => ({
    block: b.id,
    title: b.title,
    where,
    before: was,
    after: now,
  });
  const out: ReportChange[] = [];
  for (const [key, row] of before) {
    const other = after.get(key);
    if (!other) {
      out.push(of(key, row.map((c) => c.text).join(' · '), ''));
      continue;
    }
    a.table.columns.forEach(({ name }, i) => {
      const j = name ? nameB.get(name) : i;
      const now = j === undefined ? '' : (other[j]?.text ?? '');
      if (now !== row[i]?.text) out.push(of([key, name].filter(Boolean).join(', '), row[i]?.text ?? '', now));
    });
  }
  for (const [key, row] of after) if (!before.has(key)) out.push(of(key, '', row.map((c) => c.text).join(' · ')));
  return out;
}

/** Numbers of a curve, short: what is seen of it. */
const curveText = (points: readonly (readonly [number, number] | null)[]): string => {
  const there = points.filter((p) => p !== null);
  const show = (p: readonly [number, number] | undefined) =>
    p ? `(${p.map((v) => Number(v.toPrecision(4))).join(', ')})` : '—';
  return `${there.length} points, ${show(there[0])} to ${show(there.at(-1))}`;
};

function figureChanges(
  a: Extract<ComposedBlock, { kind: 'figure' }>,
  b: Extract<ComposedBlock, { kind: 'figure' }>,
): ReportChange[] {
  const out: ReportChange[] = [];
  const of = (where: string, before: string, after: string) =>
    out.push({ block: b.id, title: b.title, where, before, after });
  if (a.caption !== b.caption) of('caption', a.caption, b.caption);
  const n = Math.max(a.figure.series.length, b.figure.series.length);
  for (let i = 0; i < n; i++) {
    const [p, q] = [a.figure.series[i], b.figure.series[i]];
    if (p && q && p.name === q.name && JSON.stringify(p.points) === JSON.stringify(q.points)) continue;
    of(`curve ${(q ?? p).name}`.trim(), p ? curveText(p.points) : '', q ? curveText(q.points) : '');
  }
  return out;
}

/** What changed between two states of a report, block by block in the order of the later one; then blocks that went. */
export function reportChanges(before: ComposedReport, after: ComposedReport): ReportChange[] {
  const old = new Map(before.blocks.map((b) => [b.id, b]));
  const there = new Set(after.blocks.map((b) => b.id));
  const out: ReportChange[] = [];
  const whole = (b: ComposedBlock, was: string, now: string) =>
    out.push({ block: b.id, title: titleOf(b), where: '', before: was, after: now });
  for (const b of after.blocks) {
    const a = old.get(b.id);
    if (!a) whole(b, '', 'added');
    else if (a.kind === 'table' && b.kind === 'table') out.push(...tableChanges(a, b));
    else if (a.kind === 'figure' && b.kind === 'figure') out.push(...figureChanges(a, b));
    else if (a.kind === 'heading' && b.kind === 'heading') {
      if (a.text !== b.text) whole(b, a.text, b.text);
    } else if (a.kind === 'text' && b.kind === 'text') {
      if (a.markdown !== b.markdown) whole(b, a.markdown, b.markdown);
    } else if (a.kind !== b.kind) whole(b, titleOf(a), titleOf(b));
    else if (JSON.stringify({ ...a, number: 0 }) !== JSON.stringify({ ...b, number: 0 }))
      whole(b, 'as it was', 'changed');
  }
  for (const a of before.blocks) if (!there.has(a.id)) whole(a, titleOf(a), 'removed');
  return out;
}
