import { standing, type LiftingSurface } from '../../airframe';
import { deflectionsOf } from '../controls';
import { buildLattice, DEFAULT_LATTICE, type LatticeSpread } from '../lattice';
import type { SectionPolars } from './polar-curve';
import { sectionKey, stripSections, type StripShare } from './strip-sections';

/** A polar that strips run at. */
export interface PolarNeed {
  section: string;
  flap: StripShare['flap'];
  reynolds: number;
}

/** Reynolds numbers that polars are computed at, five a decade, so that candidates and speeds share them. */
const STEPS = [1, 1.5, 2.5, 4, 6];
export const LEAST_REYNOLDS = 10_000;
export const GREATEST_REYNOLDS = 60_000_000;

/** The steps that lie about a Reynolds number; one where it is one. */
export function reynoldsAbout(reynolds: number): number[] {
  const at = Math.min(GREATEST_REYNOLDS, Math.max(LEAST_REYNOLDS, reynolds));
  const decade = Math.floor(Math.log10(at) + 1e-9);
  const ladder = [-1, 0, 1].flatMap((d) => STEPS.map((s) => Math.round(s * 10 ** (decade + d))));
  const low = ladder.filter((r) => r <= at * 1.005).pop()!;
  const high = ladder.find((r) => r >= at * 0.995)!;
  return low === high ? [low] : [low, high];
}

/** Angles that a polar for an aircraft is computed at, degrees: closer where sections stall. */
export const POLAR_ANGLES: readonly number[] = [
  ...Array.from({ length: 14 }, (_, i) => i - 10),
  ...Array.from({ length: 33 }, (_, i) => 4 + 0.5 * i),
];

/** Sections and chords of an airframe's strips, by section key. */
function chordsBySection(
  surfaces: readonly LiftingSurface[],
  spread: LatticeSpread,
  also: readonly Readonly<Record<string, number>>[],
) {
  const placed = standing(surfaces);
  // Only where strips lie matters, which no mean line changes.
  const flat = () => ({ ordinate: () => 0, slope: () => 0 });
  const lattice = buildLattice(placed, flat, { ...spread, chordwise: 1 });
  const own = deflectionsOf(placed);
  const strips = [{}, ...also].flatMap((set) =>
    stripSections(placed, lattice, flat, 'uniform', { ...own, ...set }, true),
  );
  const out = new Map<string, { share: StripShare; chords: number[] }>();
  for (const s of strips)
    for (const share of s.shares) {
      const key = sectionKey(share);
      const entry = out.get(key) ?? { share, chords: [] };
      entry.chords.push(s.chord);
      out.set(key, entry);
    }
  return out;
}

/**
 * The polars that an airframe's strips need at its speeds, in order of section and Reynolds number.
 * @param reynoldsPerMetre of the speeds, 1/m. @param also further deflections of controls, rad by id, that it is to be known at.
 */
export function polarNeeds(
  surfaces: readonly LiftingSurface[],
  reynoldsPerMetre: readonly number[],
  spread: LatticeSpread = DEFAULT_LATTICE,
  also: readonly Readonly<Record<string, number>>[] = [],
): PolarNeed[] {
  const needs: PolarNeed[] = [];
  for (const { share, chords } of chordsBySection(surfaces, spread, also).values()) {
    const wanted = new Set<number>();
    for (const c of chords) for (const r of reynoldsPerMetre) for (const re of reynoldsAbout(c * r)) wanted.add(re);
    for (const reynolds of [...wanted].sort((a, b) => a - b))
      needs.push({ section: share.section, flap: share.flap, reynolds });
  }
  return needs;
}

/** Which of the needs are met by polars that are there: their own Reynolds number, or one within 1 %. */
export function missingPolars(needs: readonly PolarNeed[], polars: readonly SectionPolars[]): PolarNeed[] {
  const have = new Map(polars.map((p) => [sectionKey(p), p.curves.map((c) => c.reynolds)]));
  return needs.filter((n) => !(have.get(sectionKey(n)) ?? []).some((re) => Math.abs(re / n.reynolds - 1) < 0.01));
}
