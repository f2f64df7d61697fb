import { InvalidInput } from '../numerics';
import { STRUCTURE_LIMITS } from '../structure';
import type { MemberPart } from './cross-section';
import type { BuiltSurface } from './shape';

/** A dimension of a member that would let it hold. */
export interface Thicker {
  /** Path within the surface. */ path: string;
  label: string;
  /** m */ from: number;
  to: number;
}

/** Least reserve of a part of a member. */
export interface PartReserve {
  member: string;
  part: MemberPart;
  reserve: number;
}

type Dimension = 'width' | 'cap' | 'web' | 'wall';
/** The outer dimension that goes with one at the inner end. */
const TIP_OF: Partial<Record<Dimension, 'tipWidth' | 'tipCap'>> = { width: 'tipWidth', cap: 'tipCap' };
const BY_PART: Partial<Record<MemberPart, Dimension>> = { cap: 'cap', web: 'web', tube: 'wall', bar: 'width' };
const ROUNDS = 40;
/** Reserves within it are as good as none left over. */
const SETTLED = 0.004;
/** The smallest part of a step that is tried where the whole does not fit. */
const LEAST_STEP = 0.02;
/** A dimension changes by no more in a round. */
const MOST = 2;
// Buckling goes with the square of a thickness, stress with itself: a gain for both.
const GAIN = 0.55;

/** The thickness of a part of a member, m; undefined where it has none. */
function dimensionOf(
  { structure }: BuiltSurface,
  member: string,
  part: MemberPart,
): { path: string; label: string; value: number } | undefined {
  if (part === 'skin' && structure.skin)
    return {
      path: 'structure.skin.thickness',
      label: STRUCTURE_LIMITS.skin.thickness.label,
      value: structure.skin.thickness,
    };
  const spar = structure.spars.find((s) => s.id === member);
  const key = BY_PART[part];
  const value = key && spar?.[key];
  return value === undefined
    ? undefined
    : { path: `structure.spars.${member}.${key}`, label: STRUCTURE_LIMITS.spar[key!].label, value };
}

/** A surface with the thickness of a part of a member times a factor, at both ends of it, within limits. */
export function scaledMember(surface: BuiltSurface, member: string, part: MemberPart, factor: number): BuiltSurface {
  const { structure } = surface;
  const within = (v: number, { min, max }: { min: number; max: number }) => Math.min(max, Math.max(min, v));
  if (part === 'skin' && structure.skin)
    return {
      ...surface,
      structure: {
        ...structure,
        skin: {
          ...structure.skin,
          thickness: within(structure.skin.thickness * factor, STRUCTURE_LIMITS.skin.thickness),
        },
      },
    };
  const key = BY_PART[part];
  if (!key) return surface;
  return {
    ...surface,
    structure: {
      ...structure,
      spars: structure.spars.map((s) => {
        if (s.id !== member) return s;
        const tip = TIP_OF[key];
        const value = within((s[key] ?? 0) * factor, STRUCTURE_LIMITS.spar[key]);
        const narrow = Math.min(s.width, s.tipWidth ?? s.width);
        return {
          ...s,
          [key]: key === 'wall' ? Math.min(value, 0.5 * narrow) : value,
          ...(tip && s[tip] !== undefined && { [tip]: within(s[tip] * factor, STRUCTURE_LIMITS.spar[key]) }),
        };
      }),
    },
  };
}

/** Members sized together. */
export interface Sized {
  surface: BuiltSurface;
  /** Whether all hold. */ holds: boolean;
  changes: Thicker[];
}

/**
 * Thicknesses of skin, caps, webs, walls and bars with which every member just holds, changed together: each by what it lacks or has over, round after round
 * (fully stressed design). Loads are kept, though they change a little with the mass.
 * @param reserves of a changed surface, part by part. @param thinner whether a member that has too much may lose it.
 * @param least no member gets thinner than this, m.
 */
export function sized(
  surface: BuiltSurface,
  reserves: (changed: BuiltSurface) => PartReserve[],
  { thinner, least = 4e-4 }: { thinner: boolean; least?: number },
): Sized {
  let now = surface;
  let found = reserves(now);
  for (let round = 0; round < ROUNDS; round++) {
    const step = (share: number) => {
      let next = now;
      for (const { member, part, reserve } of found) {
        if (!Number.isFinite(reserve)) continue;
        const lacks = reserve < 0;
        if (!lacks && (!thinner || reserve < SETTLED)) continue;
        const size = dimensionOf(next, member, part);
        if (!size) continue;
        // A little more than what it lacks: it shall end above.
        const wanted = (1 + 0.5 * SETTLED) / (1 + reserve);
        let factor = Math.min(MOST, Math.max(1 / MOST, wanted ** (share * GAIN)));
        if (!lacks && size.value * factor < least) factor = Math.min(1, least / size.value);
        next = scaledMember(next, member, part, factor);
      }
      return next;
    };
    let next = step(1);
    if (next === now) break;
    let after: PartReserve[] | null = null;
    for (let share = 1; after === null && share > LEAST_STEP; share /= 2)
      try {
        after = reserves((next = step(share)));
      } catch (error) {
        // It no longer fits: a smaller step may.
        if (!(error instanceof InvalidInput)) throw error;
      }
    if (after === null) break;
    found = after;
    const same = changesOf(now, next, found).every((c) => Math.abs(c.to / c.from - 1) < 1e-5);
    now = next;
    if (same) break;
  }
  return { surface: now, holds: found.every((r) => r.reserve >= -SETTLED), changes: changesOf(surface, now, found) };
}

/** All thicknesses that differ between two states of a surface. */
export const sizedChanges = (before: BuiltSurface, after: BuiltSurface): Thicker[] =>
  changesOf(before, after, [
    { member: 'skin', part: 'skin' },
    ...before.structure.spars.flatMap(({ id }) =>
      (['bar', 'cap', 'web', 'tube'] as const).map((part) => ({ member: id, part })),
    ),
  ]);

function changesOf(
  before: BuiltSurface,
  after: BuiltSurface,
  parts: readonly Omit<PartReserve, 'reserve'>[],
): Thicker[] {
  const out: Thicker[] = [];
  for (const { member, part } of parts) {
    const [a, b] = [dimensionOf(before, member, part), dimensionOf(after, member, part)];
    if (!a || !b || out.some((c) => c.path === a.path) || Math.abs(b.value / a.value - 1) < 1e-6) continue;
    out.push({ path: a.path, label: a.label, from: a.value, to: b.value });
  }
  return out;
}
