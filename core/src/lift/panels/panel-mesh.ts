import { RING_SIDE, type Body, type LiftingSurface, type SectionLookup } from '../../airframe';
import { InvalidInput } from '../../numerics';
import { bodyPatches, piercing } from './body-patches';
import { BodySkin } from './body-skin';
import { halfFin, inPlane } from './fin-patches';
import { DEFAULT_PANELS, MOST_SKIN_PANELS, mirrored, type PanelSpread, type Patch } from './patch';
import type { Cutting } from './units';
import { wingPatches } from './wing-patches';
import { WingSolid } from './wing-solid';

/** The skins of an airframe. */
export interface PanelMesh {
  patches: Patch[];
  panels: number;
  /** Whether only the right half is held, with its mirror image. */ half: boolean;
  /** Ids of the surfaces among the parts. */ surfaces: ReadonlySet<string>;
  /** By surface that bodies pass through, the x just behind the last of these. */ turns: ReadonlyMap<string, number>;
  /** Bodies and surfaces that pass through each other. */ joined: { body: string; surface: string }[];
  /** What lies inside another part, by the index of the patch that it passes through. */
  hiding: ReadonlyMap<number, Cutting['hidden']>;
  /** Skins of the bodies that surfaces pass through, and the patches that they are. */
  skins: ReadonlyMap<number, BodySkin>;
}

const SAME = 1e-9;
/** How far behind a body its wakes leave it, over its radius. */
export const BEHIND = 1e-3;

/** From where to where along x the columns of a surface that are beside a body stand. */
function chordIn(body: Body, skins: readonly Patch[]): [number, number] {
  const wide = Math.max(...body.stations.map((s) => Math.max(s.width, s.height)));
  const near = (y: number, z: number) =>
    Math.abs(Math.abs(y) - Math.abs(body.position.y)) < wide && Math.abs(z - body.position.z) < 2 * wide;
  let [from, to] = [Infinity, -Infinity];
  for (const { nodes } of skins)
    for (let k = 0; k < nodes.length; k += 3) {
      if (!near(nodes[k + 1], nodes[k + 2])) continue;
      from = Math.min(from, nodes[k]);
      to = Math.max(to, nodes[k]);
    }
  return [from, to];
}

/** Which patches others pass through, and what of them is inside of these. */
function whatHides(
  patches: readonly Patch[],
  joined: PanelMesh['joined'],
  solids: readonly { id: string; solid: WingSolid }[],
  skins: readonly { id: string; skin: BodySkin; patch: Patch }[],
): Pick<PanelMesh, 'hiding' | 'skins'> {
  const hiding = new Map<number, Cutting['hidden']>();
  const met = new Map<number, BodySkin>();
  const bodies = new Set(skins.map((s) => s.id));
  patches.forEach((patch, index) => {
    if (bodies.has(patch.id)) {
      const through = solids.filter(({ id }) => joined.some((m) => m.body === patch.id && m.surface === id));
      if (through.length === 0) return;
      hiding.set(index, (p) => through.some(({ solid }) => solid.inside(p)));
      const own = skins.find((s) => s.patch === patch);
      if (own) met.set(index, own.skin);
      return;
    }
    const through = skins.filter(({ id }) => joined.some((m) => m.surface === patch.id && m.body === id));
    if (through.length > 0) hiding.set(index, (p) => through.some(({ skin }) => skin.inside(p)));
  });
  return { hiding, skins: met };
}

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
  const solids: { id: string; solid: WingSolid }[] = [];
  surfaces.forEach((s, k) => {
    const made = wingPatches(s, k, lookup, spread, longest, half);
    const other = s.mirrored && !half ? made.map(mirrored) : [];
    for (const wing of [made[0], ...other.slice(0, 1)]) solids.push({ id: s.id, solid: new WingSolid(wing) });
    patches.push(...(half && central[k] ? halfFin(made[0]) : made), ...other);
  });
  const skins: { id: string; skin: BodySkin; patch: Patch }[] = [];
  const joined: PanelMesh['joined'] = [];
  const turns = new Map<string, number>();
  bodies.forEach((b, k) => {
    const through = piercing(b, surfaces, lookup);
    const chords = through.map((s) =>
      chordIn(
        b,
        patches.filter((p) => p.id === s.id && p.kind !== 'cap'),
      ),
    );
    const made = bodyPatches(b, k, spread, half, chords);
    const other = b.mirrored && !half ? made.map(mirrored) : [];
    for (const patch of [made[0], ...other.slice(0, 1)]) skins.push({ id: b.id, skin: new BodySkin(patch), patch });
    patches.push(...made, ...other);
    const { x, radius } = skins[skins.length - 1].skin;
    for (const s of through) {
      joined.push({ body: b.id, surface: s.id });
      turns.set(s.id, Math.max(turns.get(s.id) ?? -Infinity, x[x.length - 1] + BEHIND * radius));
    }
  });
  const panels = patches.reduce((sum, p) => sum + p.ni * p.nj, 0);
  if (panels > MOST_SKIN_PANELS)
    throw new InvalidInput(
      'panel-count',
      `The skins would have ${panels} panels; ${MOST_SKIN_PANELS} is the most.`,
      'Use fewer along the chord or the span.',
      'spanwise',
    );
  const ids = new Set(surfaces.map((s) => s.id));
  return { patches, panels, half, surfaces: ids, turns, joined, ...whatHides(patches, joined, solids, skins) };
}
