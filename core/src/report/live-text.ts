import { responseOf, valueOf } from '../quantities';
import { saidOf, type ReportContext } from './context';

/** `@{A static-margin}`: a quantity of a candidate; without a letter of the first one. */
const LIVE = /@\{\s*(?:([A-Z]{1,4})\s+)?([\w.-]+)\s*\}/g;

/** Text with its live numbers filled in, and those that could not be. */
export function filledIn(
  markdown: string,
  { subjects, units }: ReportContext,
): { markdown: string; unknown: string[] } {
  const unknown: string[] = [];
  const text = markdown.replace(LIVE, (whole: string, letter: string | undefined, id: string) => {
    const s = letter === undefined ? subjects[0] : subjects.find((own) => own.candidate.letter === letter);
    const q = responseOf(id);
    const value = s && q ? valueOf(q, s.made) : null;
    if (q && value !== null && Number.isFinite(value)) return saidOf(q, value, units);
    unknown.push(whole);
    return `**?${id}**`;
  });
  return { markdown: text, unknown };
}
