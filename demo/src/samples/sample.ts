import { dragSchema, type DragSettings } from '@veldtwind/core/drag';
import { layoutDocument, layoutOf, startingLayout, type LayoutNumbers } from '@veldtwind/core/layouts';
import { readDocument, type CandidatePart, type ProjectDocument } from '@veldtwind/core/project';

/** A project that is offered beside the demo. */
export interface Sample {
  id: string;
  name: string;
  /** What it is and what it teaches, in a sentence. */
  says: string;
  document: ProjectDocument;
}

/** A candidate: what is told of it, and what it changes of the layout's own. */
interface Variant {
  name: string;
  note: string;
  of?: (candidate: CandidatePart) => CandidatePart;
}

/** A project from a starting layout, with its candidates. @param more what else the project has, such as requirements and scenarios. */
export function fromLayout(
  layout: string,
  numbers: LayoutNumbers,
  variants: readonly Variant[],
  more: (document: ProjectDocument) => Partial<Record<keyof ProjectDocument, unknown>>,
): ProjectDocument {
  const plan = layoutOf(layout);
  const document = layoutDocument(plan, numbers, startingLayout(plan, numbers));
  const candidates = variants.map(({ name, note, of = (c) => c }, style) => ({
    ...of(structuredClone(document.candidates.a)),
    name,
    note,
    id: 'abcdef'[style],
    letter: 'ABCDEF'[style],
    style,
  }));
  return readDocument({
    ...document,
    ...more(document),
    candidates: Object.fromEntries(candidates.map((c) => [c.id, c])),
  });
}

/** Drag that is not modelled. */
export const withAllowances = (c: CandidatePart, allowances: DragSettings['allowances']): CandidatePart => ({
  ...c,
  drag: dragSchema.parse({ ...c.drag, allowances }),
});

/** The payload farther aft by so many metres. */
export const payloadAft = (c: CandidatePart, dx: number): CandidatePart => ({
  ...c,
  massItems: c.massItems.map((m) =>
    m.id === 'payload' ? { ...m, position: { ...m.position, x: Number((m.position.x + dx).toFixed(4)) } } : m,
  ),
});
