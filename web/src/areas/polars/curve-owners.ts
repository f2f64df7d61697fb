import type { CurveReply } from '@veldtwind/contract';
import { resolvedSource, type ProjectDocument } from '@veldtwind/core/project';
import { earlierShape, shapeText, type SectionSource } from '@veldtwind/core/shaping';
import { when } from '@/lib/when';
import { FAMILY } from './family/family-name';

/** Whose curve one is: of which section, and of which of its shapes. */
export interface CurveOwner {
  /** What its curves and style are kept by: the section's key, or the name of one that the project has not. */
  key: string;
  /** The project's section; null where there is none. */
  section: string | null;
  /** As the section is called now. */
  name: string;
  /** Which shape it is of; empty where that is the section's present one. */
  mark: string;
}

type Owned = Pick<CurveReply, 'id' | 'key' | 'name' | 'section' | 'at' | 'input'>;

/** Texts of shapes by the key of what was solved: a list that is read again is of other objects. */
const texts = new Map<string, string>();
const textOf = ({ key, input }: Owned): string => {
  let text = texts.get(key);
  if (text === undefined) texts.set(key, (text = shapeText(input.source)));
  return text;
};

/** Whose each curve is. A curve belongs to the section that has its shape; where none has, to the one that it was solved for, as an earlier shape of it. */
export function curveOwners(
  curves: readonly Owned[],
  sections: ProjectDocument['sections'],
): ReadonlyMap<number, CurveOwner> {
  const sources = new Map<string, SectionSource>();
  const byShape = new Map<string, string>();
  const used = new Set(curves.map((c) => c.section));
  for (const id of Object.keys(sections)) {
    try {
      const source = resolvedSource(sections, id);
      sources.set(id, source);
      const text = shapeText(source);
      // Of several of one shape the one that something was solved for.
      if (!byShape.has(text) || used.has(id)) byShape.set(text, id);
    } catch {
      // A mix whose parts are missing has no shape.
    }
  }
  const owned = (id: string, mark: string): CurveOwner => ({ key: id, section: id, name: sections[id].name, mark });
  return new Map(
    curves.map((c): [number, CurveOwner] => {
      const own = c.section !== null && Object.hasOwn(sections, c.section) ? c.section : null;
      const now = own === null ? undefined : sources.get(own);
      const how = now ? earlierShape(c.input.source, now) : null;
      if (own !== null && how?.kind === 'same') return [c.id, owned(own, '')];
      const other = byShape.get(textOf(c));
      if (other !== undefined) return [c.id, owned(other, '')];
      if (own !== null)
        return [c.id, owned(own, how?.kind === 'before-step' ? `before step ${how.step}` : `as of ${when(c.at)}`)];
      return [
        c.id,
        // What was never a section of the project is as it was solved.
        {
          key: c.name,
          section: null,
          name: c.name,
          mark: c.section === null || c.section.startsWith(FAMILY) ? '' : 'section removed',
        },
      ];
    }),
  );
}
