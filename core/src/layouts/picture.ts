import { standing } from '../airframe';
import { sectionLookup } from '../candidate';
import { viewItems } from '../figures';
import { VeldtwindError } from '../numerics';
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

/**
 * The first candidate of a project from above; nothing where none is drawn, or where it cannot be placed. One section stands for all, since from above they
 * make no difference that such a picture shows: the library need not be read.
 */
export function projectPicture({ candidates }: Pick<ProjectDocument, 'candidates'>): PictureLine[] {
  const drawn = Object.values(candidates)
    .sort((a, b) => a.letter.localeCompare(b.letter))
    .find((c) => c.surfaces.length > 0 || c.bodies.length > 0);
  if (!drawn) return [];
  const one = sectionLookup({})('naca:0010');
  try {
    return linesOf(viewItems(standing(drawn.surfaces, drawn.bodies), drawn.bodies, () => one, 'plan'));
  } catch (error) {
    // A picture is no place to tell what is wrong with an airframe; a fault of the program is told.
    if (error instanceof VeldtwindError) return [];
    throw error;
  }
}
