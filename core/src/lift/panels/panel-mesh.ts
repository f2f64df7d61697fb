import { RING_SIDE, type Body, type LiftingSurface, type SectionLookup } from '../../airframe';
import { InvalidInput } from '../../numerics';
import { bodyPatches, piercing } from './body-patches';
import { BodySkin } from './body-skin';
import { FinSkin } from './fin-skin';
import { halfFin, inPlane } from './fin-patches';
import { DEFAULT_PANELS, MOST_SKIN_PANELS, mirrored, type PanelSpread, type Patch } from './patch';
import type { Cutting } from './units';
import { bodyPlaces, columnsAlong, meetings } from './span-places';
import { wingPatches } from './wing-patches';
import { WingSolid } from './wing-solid';

/** The skins of an airframe. */
export interface PanelMesh {
  patches: Patch[];
  panels: number;
  /** Whether only the right half is held, with its mirror image. */ half: boolean;
  /** Ids of the surfaces among the parts. */ surfaces: ReadonlySet<string>;
  /** By surface that bodies pass through, the x just behind the last of these. */ turns: ReadonlyMap<string, number>;
  /** Ids of bodies through surfaces that are so slim that what panels tell of them is more wrong than nothing. */ leftOut: string[];
  /** Bodies and surfaces that pass through each other. */ joined: { body: string; surface: string }[];
  /** Pairs of surfaces that pass through each other, both ways round: ids with a blank between. */ crossed: ReadonlySet<string>;
  /** What lies inside another part, by the index of the patch that it passes through. */
  hiding: ReadonlyMap<number, Cutting['hidden']>;
  /** And what of it lies inside a body. */
  inBodies: ReadonlyMap<number, Cutting['hidden']>;
  /** By surface whose trailing edge ends on others: the skins of these. */ fins: ReadonlyMap<
    string,
    readonly FinSkin[]
  >;
  /** Skins of the bodies that surfaces pass through, and the patches that they are. */
  skins: ReadonlyMap<number, BodySkin>;
}

const SAME = 1e-9;
/**
 * Width over the span below which a body that passes through surfaces is left out. By slender-body theory two such booms move the neutral point by a few
 * thousandths of the chord; cells of panels that are cut by skins as thin as those of the surfaces themselves tell up to a tenth.
 */
const SLIM = 0.0125;

const widestOf = (body: Body): number => Math.max(...body.stations.map((s) => Math.max(s.width, s.height)));
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

/** Pairs of surfaces whose skins pass through each other. */
function solidPairs(solids: readonly { id: string; solid: WingSolid }[]): [string, string][] {
  const out: [string, string][] = [];
  solids.forEach((p, i) =>
    solids.slice(i + 1).forEach((q) => {
      if (p.id !== q.id && (p.solid.meets(q.solid) || q.solid.meets(p.solid))) out.push([p.id, q.id]);
    }),
  );
  return out;
}

/** Which patches others pass through, and what of them is inside of these. */
function whatHides(
  patches: readonly Patch[],
  joined: PanelMesh['joined'],
  crossed: ReadonlySet<string>,
  solids: readonly { id: string; solid: WingSolid }[],
  skins: readonly { id: string; skin: BodySkin; patch: Patch }[],
): Pick<PanelMesh, 'hiding' | 'inBodies' | 'skins'> {
  const hiding = new Map<number, Cutting['hidden']>();
  const inBodies = new Map<number, Cutting['hidden']>();
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
    const others = solids.filter(({ id }) => crossed.has(`${patch.id} ${id}`));
    const inBody: Cutting['hidden'] = (p) => through.some(({ skin }) => skin.inside(p));
    if (through.length > 0) inBodies.set(index, inBody);
    if (through.length + others.length > 0)
      hiding.set(index, (p) => inBody(p) || others.some(({ solid }) => solid.inside(p)));
  });
  return { hiding, inBodies, skins: met };
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
  const through = bodies.map((b) => piercing(b, surfaces, lookup));
  const span = Math.max(...surfaces.map((s) => (s.mirrored ? 2 : 1) * s.bays.reduce((sum, b) => sum + b.span, 0)));
  const leftOut = bodies.filter((b, n) => through[n].length > 0 && widestOf(b) < SLIM * span);
  const turns = new Map<string, number>();
  const met = meetings(surfaces);
  const crossed = new Set<string>();
  surfaces.forEach((s, k) => {
    const cutAt = [
      ...met.filter((m) => m.surface === s.id).map(({ share }) => ({ from: share, to: share })),
      ...bodyPlaces(
        s,
        bodies.filter((b, n) => through[n].includes(s) && !leftOut.includes(b)),
        columnsAlong(s, spread, longest),
      ),
    ];
    const made = wingPatches(s, k, lookup, spread, longest, half, cutAt);
    const other = s.mirrored && !half ? made.map(mirrored) : [];
    for (const wing of [made[0], ...other.slice(0, 1)]) solids.push({ id: s.id, solid: new WingSolid(wing) });
    patches.push(...(half && central[k] ? halfFin(made[0]) : made), ...other);
  });
  const skins: { id: string; skin: BodySkin; patch: Patch }[] = [];
  const joined: PanelMesh['joined'] = [];
  bodies.forEach((b, k) => {
    if (leftOut.includes(b)) return;
    const chords = through[k].map((s) =>
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
    for (const s of through[k]) {
      joined.push({ body: b.id, surface: s.id });
      turns.set(s.id, Math.max(turns.get(s.id) ?? -Infinity, x[x.length - 1] + BEHIND * radius));
    }
  });
  const fins = new Map<string, FinSkin[]>();
  for (const [p, q] of solidPairs(solids)) {
    crossed.add(`${p} ${q}`).add(`${q} ${p}`);
    for (const { surface, edgeOf, behind, edge, middle } of met) {
      if (!((surface === p && edgeOf === q) || (surface === q && edgeOf === p))) continue;
      turns.set(edgeOf, Math.max(turns.get(edgeOf) ?? -Infinity, behind + 1e-6));
      const solid = solids.find(({ id }) => id === surface)!;
      const known = fins.get(edgeOf) ?? [];
      if (!known.some((f) => f.solidIs(solid.solid)))
        fins.set(edgeOf, [...known, new FinSkin(solid.solid, middle, edge, behind)]);
    }
  }
  const panels = patches.reduce((sum, p) => sum + p.ni * p.nj, 0);
  if (panels > MOST_SKIN_PANELS)
    throw new InvalidInput(
      'panel-count',
      `The skins would have ${panels} panels; ${MOST_SKIN_PANELS} is the most.`,
      'Use fewer along the chord or the span.',
      'spanwise',
    );
  const ids = new Set(surfaces.map((s) => s.id));
  return {
    patches,
    panels,
    half,
    leftOut: leftOut.map((b) => b.id),
    surfaces: ids,
    turns,
    joined,
    crossed,
    fins,
    ...whatHides(patches, joined, crossed, solids, skins),
  };
}
