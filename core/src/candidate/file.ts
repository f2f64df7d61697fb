import { parseJson } from '../limits';
import { candidateFile, freshSweep, invalidFrom, type CandidateFile, type CandidatePart } from '../project';
import type { SectionSource } from '../shaping';

/**
 * Reads a candidate file.
 * @param text JSON. @returns the candidate, complete, and the sections that the file brings.
 * @throws InvalidInput `json` or `invalid` with the path of the field.
 */
export function readCandidateFile(text: string): { candidate: CandidatePart; sections: Record<string, SectionSource> } {
  const raw = parseJson(text, 'The file', 'See docs/candidate-file.md for the format.');
  const parsed = candidateFile.safeParse(raw);
  if (!parsed.success) throw invalidFrom(parsed.error, 'Candidate file');
  const c = parsed.data.candidate;
  return {
    candidate: {
      ...c,
      id: c.id ?? 'file',
      letter: c.letter ?? 'A',
      note: c.note ?? '',
      style: c.style ?? 0,
      massItems: c.massItems ?? [],
      bodies: c.bodies ?? [],
      reference: c.reference ?? null,
      sweep: c.sweep ?? freshSweep(),
    },
    sections: parsed.data.sections ?? {},
  };
}

/** Writes a candidate with the sections that it uses. */
export function writeCandidateFile(
  candidate: CandidatePart,
  sectionOf: (key: string) => SectionSource | undefined,
): string {
  const sections: Record<string, SectionSource> = {};
  for (const s of candidate.surfaces) {
    for (const t of s.stations) {
      const source = t.section.startsWith('naca:') ? undefined : sectionOf(t.section);
      if (source) sections[t.section] = source;
    }
  }
  const file: CandidateFile = { format: 'veldtwind-candidate', version: 2, candidate, sections };
  return `${JSON.stringify(file, null, 2)}\n`;
}
