import type { CandidatePart, Edit, ProjectDocument, SectionPart } from '@veldtwind/core/project';
import { freeId, nextLetter } from '@/lib/ids';
import type { WaitingEdit } from './waiting-edits';

/** Sections and candidates that an edit touches. */
export function copyable(edit: WaitingEdit): { sections: string[]; candidates: string[] } {
  const sections = new Set<string>();
  const candidates = new Set<string>();
  for (const { part, value } of edit.changes) {
    const [kind, rest] = part.split(':');
    if (kind === 'section' && value !== null) sections.add(rest);
    if (kind === 'candidate' && value !== null) candidates.add(rest);
    if (kind === 'surface' || kind === 'mass-item') candidates.add(rest.split('.')[0]);
  }
  return { sections: [...sections], candidates: [...candidates] };
}

/**
 * What an edit made, under ids and names of its own.
 * @param document with the edit in it. @returns null where there is nothing that can stand beside what is there.
 */
export function asCopies(document: ProjectDocument, edit: WaitingEdit): { label: string; edit: Edit } | null {
  const touched = copyable(edit);
  const sections = touched.sections
    .map((id): SectionPart | undefined => document.sections[id])
    .filter((s) => s !== undefined);
  const candidates = touched.candidates
    .map((id): CandidatePart | undefined => document.candidates[id])
    .filter((c) => c !== undefined);
  if (sections.length + candidates.length === 0) return null;
  const names = [...sections, ...candidates].map((v) => v.name).join(', ');
  return {
    label: `Keep a copy of ${names}`,
    edit: (draft) => {
      for (const s of sections) {
        const id = freeId(`${s.id} kept`, (k) => k in draft.sections);
        draft.sections[id] = { ...s, id, name: `${s.name.slice(0, 70)} kept` };
      }
      for (const c of candidates) {
        const letter = nextLetter(Object.values(draft.candidates).map((o) => o.letter));
        const id = freeId(letter, (k) => k in draft.candidates);
        draft.candidates[id] = { ...c, id, letter, name: `${c.name.slice(0, 50)} kept` };
      }
    },
  };
}
