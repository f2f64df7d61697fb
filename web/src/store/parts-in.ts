import { partsOfDocument, type PartValue, type ProjectDocument } from '@veldtwind/core/project';

/** The parts of a document that some keys name. */
export function partsIn(of: ProjectDocument, keys: readonly string[]): Map<string, PartValue> {
  const wanted = new Set(keys);
  const owners = new Set(keys.map((k) => k.split(':')[1]?.split('.')[0]));
  // Only what is named is taken apart: a library of thousands is not.
  const few: ProjectDocument = {
    ...of,
    sections: Object.fromEntries(Object.entries(of.sections).filter(([k]) => wanted.has(`section:${k}`))),
    candidates: Object.fromEntries(Object.entries(of.candidates).filter(([k]) => owners.has(k))),
  };
  return new Map([...partsOfDocument(few)].filter(([k]) => wanted.has(k)));
}
