import { standing, type Body, type LiftingSurface } from '../../airframe';
import { deflectionsOf } from '../controls';
import { buildLattice, DEFAULT_LATTICE, type LatticeSpread } from '../lattice';
import { sectionKey, stripSections, type StripShare } from './strip-sections';

/** A polar that a strip reads, and how much it counts: `share` of the second Reynolds number, the rest of the first. */
export interface PolarUse {
  section: string;
  flap: StripShare['flap'];
  weight: number;
  reynolds: [number, number];
  share: number;
  /** Where the strip runs beyond all that are there. */ outside: 'below' | 'above' | null;
}

/** A strip of the right sides and of surfaces that stand once, with what it reads. */
export interface StripPolars {
  surface: string;
  /** Share of the half span. */ station: number;
  /** m */ chord: number;
  reynolds: number;
  /** None where nothing is there of a section. */ uses: PolarUse[];
}

/** Within 1 % it is the same flow. */
const SAME = 0.01;

/**
 * Which polars the strips of an airframe read at one speed, in the order of the strips; controls as they stand.
 * @param have Reynolds numbers of the polars that are there, by {@link sectionKey}. @param reynoldsPerMetre of the speed, 1/m.
 * @throws InvalidInput for a shape that cannot be.
 */
export function stripPolars(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  have: ReadonlyMap<string, readonly number[]>,
  reynoldsPerMetre: number,
  spread: LatticeSpread = DEFAULT_LATTICE,
): StripPolars[] {
  const placed = standing(surfaces, bodies);
  // Only where strips lie matters, which no mean line changes.
  const flat = () => ({ ordinate: () => 0, slope: () => 0 });
  const lattice = buildLattice(placed, flat, { ...spread, chordwise: 1 });
  return stripSections(placed, lattice, flat, 'uniform', deflectionsOf(placed), false).map((s) => {
    const reynolds = s.chord * reynoldsPerMetre;
    return {
      surface: placed[s.surface].id,
      station: s.station,
      chord: s.chord,
      reynolds,
      uses: s.shares.flatMap(({ section, flap, weight }) => {
        const list = [...(have.get(sectionKey({ section, flap })) ?? [])].sort((a, b) => a - b);
        return list.length === 0 ? [] : [{ section, flap, weight, ...about(list, reynolds) }];
      }),
    };
  });
}

/** The two of a list about a Reynolds number, and the share of the second by its logarithm. */
function about(list: readonly number[], reynolds: number): Pick<PolarUse, 'reynolds' | 'share' | 'outside'> {
  const at = Math.log(reynolds);
  const [first, last] = [list[0], list[list.length - 1]];
  if (at <= Math.log(first))
    return { reynolds: [first, first], share: 0, outside: at < Math.log(first) - SAME ? 'below' : null };
  if (at >= Math.log(last))
    return { reynolds: [last, last], share: 0, outside: at > Math.log(last) + SAME ? 'above' : null };
  const k = list.findIndex((r) => Math.log(r) > at) - 1;
  const [a, b] = [list[k], list[k + 1]];
  return { reynolds: [a, b], share: (at - Math.log(a)) / Math.log(b / a), outside: null };
}
