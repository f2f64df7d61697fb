import type { SectionLookup } from '../airframe';
import { polarCurve, POLAR_ANGLES, sectionKey, type PolarNeed, type SectionPolars } from '../lift';
import { DEG } from '../numerics';
import { sweepsOf, type Sweep } from '../polar';
import { DEFAULT_SPREAD, isSolved, type ViscousPoint } from '../section-flow';

/** Conditions that the polars of an aircraft are computed under. */
export interface PolarConditions {
  /** Critical amplification. */ ncrit: number;
  /** Of the stream; polars are told apart in steps of it. */ mach: number;
}

/** Below this Mach number polars are those of a stream without compressibility; above it, of the nearest step. */
const LEAST_MACH = 0.15;
const MACH_STEP = 0.05;
const GREATEST_MACH = 0.65;

/** The Mach number that polars are computed at for a stream's. */
export function polarMach(mach: number): number {
  if (mach < LEAST_MACH) return 0;
  return Math.min(GREATEST_MACH, Math.round(Math.round(mach / MACH_STEP) * MACH_STEP * 100) / 100);
}

/** Where a flap's hinge lies in the thickness: in its middle. */
const HINGE_HEIGHT = 0.5;

/** The sweep of angles that meets a need: the same as a run plan's for that section. @throws from the lookup. */
export function sweepFor(
  need: PolarNeed,
  lookup: SectionLookup,
  { ncrit, mach }: PolarConditions,
  name = need.section,
): Sweep {
  const flap = need.flap ? { x: need.flap.hinge, y: HINGE_HEIGHT, angleDeg: need.flap.angleDeg } : null;
  return sweepsOf({
    sections: [{ name, source: lookup(need.section), flap }],
    reynolds: [need.reynolds],
    mach: [polarMach(mach)],
    conditions: { criticalAmplification: ncrit },
    sweep: 'fixed-re',
    alphas: [...POLAR_ANGLES],
    spread: DEFAULT_SPREAD,
  })[0];
}

/** Angles between which a polar has to be known for an aircraft, and the widest gap between two of them, degrees. */
const FROM = -8;
const TO = 16;
const WIDEST_GAP = 1.5;
/** Reynolds numbers of two polars between which a third is read are within this factor: the ladder's are within 1.67. */
const WIDEST_STEP = 2;
/** A polar within this share of a Reynolds number is its own. */
const SAME = 0.01;

/** Whether points cover the angles that strips of an aircraft come to. */
export function coversAircraft(points: readonly ViscousPoint[]): boolean {
  const angles = points
    .filter(isSolved)
    .map((p) => p.alpha * DEG)
    .sort((a, b) => a - b);
  return (
    angles.length > 1 &&
    angles[0] <= FROM &&
    angles[angles.length - 1] >= TO &&
    angles.every((a, i) => i === 0 || a - angles[i - 1] <= WIDEST_GAP + 1e-6)
  );
}

/**
 * The Reynolds numbers of other polars of the same section that a need can be read from: one as good as its own, or the two about it where they lie close
 * enough to each other. @returns none where there are none.
 */
export function standIns(wanted: number, there: readonly number[]): number[] {
  const near = there.slice().sort((a, b) => Math.abs(Math.log(a / wanted)) - Math.abs(Math.log(b / wanted)))[0];
  if (near === undefined) return [];
  if (Math.abs(near / wanted - 1) <= SAME) return [near];
  const low = Math.max(...there.filter((r) => r < wanted));
  const high = Math.min(...there.filter((r) => r > wanted));
  return low > 0 && high / low <= WIDEST_STEP ? [low, high] : [];
}

/** Polars that were found for needs, by section and flap. Curves that hold too little are left out. */
export function gathered(found: readonly { need: PolarNeed; points: readonly ViscousPoint[] }[]): SectionPolars[] {
  const bySection = new Map<string, SectionPolars>();
  for (const { need, points } of found) {
    const curve = polarCurve(need.reynolds, points);
    if (!curve) continue;
    const key = sectionKey(need);
    const entry = bySection.get(key) ?? { section: need.section, flap: need.flap, curves: [] };
    entry.curves.push(curve);
    bySection.set(key, entry);
  }
  return [...bySection.values()];
}
