import { RING_SIDE, type Body, type LiftingSurface, type SectionLookup } from '../../airframe';
import { InvalidInput } from '../../numerics';
import { bodyPatches, piercing } from './body-patches';
import { halfFin, inPlane } from './fin-patches';
import { DEFAULT_PANELS, MOST_SKIN_PANELS, mirrored, type PanelSpread, type Patch } from './patch';
import { wingPatches } from './wing-patches';

/** The skins of an airframe. */
export interface PanelMesh {
  patches: Patch[];
  panels: number;
  /** Whether only the right half is held, with its mirror image. */ half: boolean;
  /** Bodies that pass through surfaces, and are left out. */ pierced: { body: string; surface: string }[];
}

const SAME = 1e-9;

/**
 * Cuts the closed skins of an airframe into panels.
 * @param surfaces where they stand. @param whole both sides explicitly, for states without symmetry.
 * @throws InvalidInput `panel-count` for too few or too many; from the lookup, and for parts that are no shape.
 */
export function panelMesh(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
  spread: PanelSpread = DEFAULT_PANELS,
  whole = false,
): PanelMesh {
  for (const [name, least, most] of [
    ['chordwise', 4, RING_SIDE],
    ['spanwise', 2, 400],
    ['around', 3, 48],
    ['along', 4, 200],
  ] as const)
    if (!(Number.isInteger(spread[name]) && spread[name] >= least && spread[name] <= most))
      throw new InvalidInput(
        'panel-count',
        `Panels ${name} are from ${least} to ${most}; ${spread[name]} is not.`,
        'Give a whole number within these.',
        name,
      );
  if (surfaces.length === 0 && bodies.length === 0)
    throw new InvalidInput('no-surface', 'There is nothing that air flows around.', 'Add a wing in Airframe.');
  const central = surfaces.map((s) => inPlane(s, lookup));
  const bodyAside = bodies.some((b) => !b.mirrored && Math.abs(b.position.y) > SAME);
  // A surface that stands once is whole by itself: its other half is no image.
  const half = !whole && surfaces.every((s, k) => s.mirrored || central[k]) && !bodyAside;
  const longest = Math.max(0.1, ...surfaces.map((s) => s.bays.reduce((sum, b) => sum + b.span, 0)));
  const patches: Patch[] = [];
  const pierced: PanelMesh['pierced'] = [];
  surfaces.forEach((s, k) => {
    const made = wingPatches(s, k, lookup, spread, longest, half);
    patches.push(...(half && central[k] ? halfFin(made[0]) : made));
    if (s.mirrored && !half) patches.push(...made.map(mirrored));
  });
  bodies.forEach((b, k) => {
    const surface = piercing(b, surfaces, lookup);
    if (surface) {
      pierced.push({ body: b.id, surface });
      return;
    }
    const made = bodyPatches(b, k, spread, half);
    patches.push(...made);
    if (b.mirrored && !half) patches.push(...made.map(mirrored));
  });
  const panels = patches.reduce((sum, p) => sum + p.ni * p.nj, 0);
  if (panels > MOST_SKIN_PANELS)
    throw new InvalidInput(
      'panel-count',
      `The skins would have ${panels} panels; ${MOST_SKIN_PANELS} is the most.`,
      'Use fewer along the chord or the span.',
      'spanwise',
    );
  return { patches, panels, half, pierced };
}
