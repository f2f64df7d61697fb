import { z } from 'zod';
import type { LiftingSurface } from '../airframe';
import { finiteNumber, type FieldLimit } from '../limits';
import { InvalidInput } from '../numerics';
import type { CandidatePart } from './parts';
import { withSetting } from './settings';

/** Limits of what a variant changes. */
export const VARIANT_LIMITS = {
  turn: { label: 'Turned by', dimension: 'angle', min: -15, max: 15, step: 1 },
  centre: { label: 'Moved aft', dimension: 'length', min: -5, max: 5, step: 0.01 },
} as const satisfies Record<string, FieldLimit>;

/** One thing that is another way than a candidate has it, to be laid beside it. */
export const variantSchema = z.discriminatedUnion('kind', [
  /** Controls as a kept setting has them. */ z.strictObject({ kind: z.literal('setting'), id: z.string().max(120) }),
  /** Masses as a loading has them. */ z.strictObject({ kind: z.literal('loading'), name: z.string().max(120) }),
  /** A surface turned about its root, degrees, nose up. */
  z.strictObject({
    kind: z.literal('turn'),
    surface: z.string().max(120),
    byDeg: finiteNumber.min(VARIANT_LIMITS.turn.min).max(VARIANT_LIMITS.turn.max),
  }),
  /** The centre of gravity moved aft, m. */
  z.strictObject({
    kind: z.literal('centre'),
    by: finiteNumber.min(VARIANT_LIMITS.centre.min).max(VARIANT_LIMITS.centre.max),
  }),
  /** Bodies that drag as they do, and neither lift nor pitch nor yaw: see `bodiesLift` of the sweep. */
  z.strictObject({ kind: z.literal('bodies') }),
]);
export type Variant = z.infer<typeof variantSchema>;

/** What tells variants apart. */
export const variantKey = (v: Variant): string => JSON.stringify(v);

const missing = (what: string, name: string) =>
  new InvalidInput('variant', `There is no ${what} "${name}".`, 'Take the variant away, or choose another.', 'variant');

/** Shares of the masses of a loading, each item its own. */
function loaded(c: CandidatePart, name: string): CandidatePart {
  const shares = c.loadings?.[name];
  if (!shares) throw missing('loading', name);
  const massItems = c.massItems.flatMap((m) => {
    const share = shares[m.id] ?? 1;
    if (share === 0) return [];
    const { inertia } = m;
    const times = inertia && {
      inertia: Object.fromEntries(Object.entries(inertia).map(([k, v]) => [k, v * share])) as typeof inertia,
    };
    return [{ ...m, mass: m.mass * share, ...times }];
  });
  return { ...c, massItems };
}

/**
 * A candidate with one thing another way; nothing of what is given changes.
 * @throws InvalidInput `variant` for what is not there, or as {@link withSetting}.
 */
export function withVariant(c: CandidatePart, v: Variant): CandidatePart {
  switch (v.kind) {
    case 'setting':
      return withSetting(c, v.id);
    case 'loading':
      return loaded(c, v.name);
    case 'turn': {
      if (!c.surfaces.some((s) => s.id === v.surface)) throw missing('surface', v.surface);
      const surfaces = c.surfaces.map((s): LiftingSurface =>
        s.id === v.surface ? { ...s, incidenceDeg: s.incidenceDeg + v.byDeg } : s,
      );
      return { ...c, surfaces };
    }
    case 'centre':
      return moved(c, v.by);
    case 'bodies':
      if (c.bodies.length > 0) return c;
      throw new InvalidInput('variant', 'There are no bodies.', 'Take the variant away.', 'variant');
  }
}

/** Masses moved until their common centre lies further aft. Those that are spread over a part stay where it is. */
function moved(c: CandidatePart, by: number): CandidatePart {
  const massOf = (list: CandidatePart['massItems']) => list.reduce((sum, m) => sum + (m.mirrored ? 2 : 1) * m.mass, 0);
  const free = massOf(c.massItems.filter((m) => m.part === undefined));
  if (free === 0)
    throw new InvalidInput(
      'variant',
      c.massItems.length ? 'All masses are spread over parts: none can be moved.' : 'There are no masses to move.',
      'Give a mass item a place of its own in Balance.',
      'variant',
    );
  const x = (by * massOf(c.massItems)) / free;
  return {
    ...c,
    massItems: c.massItems.map((m) =>
      m.part === undefined ? { ...m, position: { ...m.position, x: m.position.x + x } } : m,
    ),
  };
}
