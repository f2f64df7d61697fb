import { standing } from '../airframe';
import { sectionLookup } from '../candidate';
import { viewItems } from '../figures';
import type { ProjectDocument } from '../project';
import { starterLibrary } from '../starter';
import { layoutCandidate } from './candidate';
import type { LayoutPlan } from './plans';
import { layoutSizes, type LayoutNumbers } from './sizes';
import { startingState } from './state';

/** A line of a small picture: mm, the nose up, starboard to the right. */
export interface PictureLine {
  points: [number, number][];
  closed: boolean;
}

const linesOf = (items: ReturnType<typeof viewItems>): PictureLine[] =>
  items.flatMap((i) =>
    i.kind === 'line'
      ? [
          {
            points: i.points.map(([x, y]): [number, number] => [Number(x.toFixed(1)), Number(y.toFixed(1))]),
            closed: Boolean(i.closed),
          },
        ]
      : [],
  );

/** A layout seen from above at its usual numbers, before it is balanced. */
export function layoutPicture(plan: LayoutPlan): PictureLine[] {
  const numbers: LayoutNumbers = { ...plan.usual, altitude: 0, spanLimit: null };
  const sizes = layoutSizes(plan, numbers);
  const [first] = starterLibrary();
  const lookup = sectionLookup({ [first.id]: first });
  const { surfaces, bodies } = layoutCandidate(
    plan,
    sizes,
    numbers,
    { wing: first.id, tail: first.id },
    startingState(plan, sizes),
    lookup,
  );
  return linesOf(viewItems(standing(surfaces, bodies), bodies, lookup, 'plan'));
}

/** The first candidate of a project from above; nothing where none is drawn, or where it cannot be placed. */
export function projectPicture(document: Pick<ProjectDocument, 'candidates' | 'sections'>): PictureLine[] {
  const drawn = Object.values(document.candidates)
    .sort((a, b) => a.letter.localeCompare(b.letter))
    .find((c) => c.surfaces.length > 0 || c.bodies.length > 0);
  if (!drawn) return [];
  try {
    return linesOf(
      viewItems(standing(drawn.surfaces, drawn.bodies), drawn.bodies, sectionLookup(document.sections), 'plan'),
    );
  } catch {
    // A picture is no place to tell what is wrong with an airframe.
    return [];
  }
}
