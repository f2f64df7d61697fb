import { answerOf, type StudyKind, type StudyResult } from '../studies';
import { said, saidOf, type ReportContext } from './context';
import type { TableMaker } from './tables';

/** A study of the project as a report tells it. */
export interface StudyTold {
  name: string;
  kind: StudyKind;
  /** Id of its candidate. */ candidate: string;
  state: string;
  tries: number;
  /** ISO date. */ createdAt: string;
  /** Null until it is over. */ result: Omit<StudyResult, 'tries'> | null;
}

const KINDS: Record<StudyKind, string> = {
  effects: 'Sensitivities',
  grid: 'Map',
  solve: 'Solution',
  spread: 'Uncertainty',
  search: 'Search',
};
/** Answers and causes that one cell tells at most. */
const MOST = 4;
const short = (v: number) => String(Number(v.toPrecision(4)));

/** `Static margin` and its value; the place of an answer beside it. */
function answered(key: string, c: ReportContext): { name: string; text: (v: number | null) => string } {
  const [id, at] = key.split(' at ');
  const { q } = answerOf(id);
  return {
    name: at ? `${q.name} at ${at}` : q.name,
    text: (v) => saidOf(q as Parameters<typeof saidOf>[0], v, c.units),
  };
}

function outcome({ result, kind, state }: StudyTold, c: ReportContext): string {
  if (!result) return state;
  const tried = (t: { answers: (number | null)[] }) =>
    result.answers
      .slice(0, MOST)
      .map((key, i) => {
        const { name, text } = answered(key, c);
        return `${name} ${text(t.answers[i])}`;
      })
      .join('; ');
  if (kind === 'solve' && result.solution)
    return `${result.solution.met ? 'All bands are met' : 'Not all bands can be met'}: ${tried(result.solution)}`;
  if (result.front) return `Front of ${result.front.length}`;
  if (kind === 'search' && result.best) return tried(result.best);
  if (result.spread)
    return result.spread
      .slice(0, MOST)
      .map((s) => {
        const { name, text } = answered(s.answer, c);
        const chance = result.chances?.[s.answer];
        const most = [...s.causes].sort((p, q) => q.total.value - p.total.value)[0];
        return `${name} ${text(s.p5)} to ${text(s.p95)} (5–95 %)${chance === undefined ? '' : `, within its band in ${said(chance, 'ratio', c.units, 0)}`}${most ? `, mostly by ${most.variable}` : ''}`;
      })
      .join('; ');
  return `${result.answers.length} ${result.answers.length === 1 ? 'quantity' : 'quantities'} over ${result.variables.length} ${result.variables.length === 1 ? 'variable' : 'variables'}`;
}

/** What was tried, and what came of it. */
export const studiesTable: TableMaker = (c, of) => {
  const there = c.studies.filter((s) => of.some((subject) => subject.candidate.id === s.candidate));
  if (there.length === 0) return { missing: 'No study was run: run one in Studies.' };
  const letter = (id: string) => of.find((s) => s.candidate.id === id)?.candidate.letter ?? '';
  return {
    title: 'Studies',
    caption: '',
    table: {
      columns: [
        { name: '' },
        { name: 'Study' },
        { name: 'Kind' },
        { name: 'Variables' },
        { name: 'Tries', numbers: true },
        { name: 'Result' },
      ],
      rows: there.map((s) =>
        [
          letter(s.candidate),
          s.name,
          KINDS[s.kind],
          (s.result?.variables ?? []).map((v) => `${v.name} ${short(v.from)} to ${short(v.to)}`).join('; '),
          String(s.tries),
          outcome(s, c),
        ].map((text) => ({ text })),
      ),
    },
  };
};
