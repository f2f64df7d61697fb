import type { BodySkin, Place } from './body-skin';
import type { PanelMesh } from './panel-mesh';
import { onFin } from './wakes';
import { chordOf, type WakeStrip } from './wake-sheet';

/** Within this of a body, over its chord, panels at a trailing edge do not tell both skins apart. */
const GRAZE = 0.08;
/** So they do not where it goes into the body less than this. */
const SHALLOW = 0.02;
/** Diameter of a body, over the span, from which that is told: below it the lift of made-up aircraft was within 2 %. */
const THIN = 0.06;
/** Diameter of a body, over the width of a strip, from which that speaks of the body more than of itself. */
const NARROW = 0.5;
/** Places across a column at which it is looked. */
const LOOKS = 8;

/** Skins of the bodies that each surface touches. */
function touched(mesh: PanelMesh): Map<string, BodySkin[]> {
  const skins = new Map<string, BodySkin[]>();
  for (const [index, skin] of mesh.skins)
    for (const { body, surface } of mesh.joined)
      if (body === mesh.patches[index].id) skins.set(surface, [...(skins.get(surface) ?? []), skin]);
  return skins;
}

/** Whether the trailing edge of a strip passes a body that its surface touches so closely that panels do not tell both skins apart. */
export function grazed(mesh: PanelMesh): (w: WakeStrip) => boolean {
  const skins = touched(mesh);
  return ({ patch, column, a, b }) =>
    (skins.get(patch.id) ?? []).some((skin) => {
      // A boom that is thin beside the strip takes little of its edge.
      if (2 * skin.radius < NARROW * Math.hypot(b[1] - a[1], b[2] - a[2])) return false;
      const gap = skin.gap([0.5 * (a[0] + b[0]), 0.5 * (a[1] + b[1]), 0.5 * (a[2] + b[2])]);
      return gap !== null && gap < GRAZE * chordOf(patch, column);
    });
}

/**
 * Whether a surface touches a body whose skin its trailing edge passes closely, or hardly goes into.
 * @param span of the aircraft, m: thin bodies spoil little of what it lifts.
 */
export function touchesOnly(mesh: PanelMesh, span: number): boolean {
  const skins = touched(mesh);
  return mesh.patches.some((patch) => {
    if (patch.kind !== 'wing') return false;
    const { ni, nj, nodes } = patch;
    return (skins.get(patch.id) ?? []).some((skin) => {
      if (2 * skin.radius < THIN * span) return false;
      // Over the chord: how close it comes, and how deep it goes in.
      let [least, deepest] = [Infinity, 0];
      for (let j = 0; j < nj; j++)
        for (let k = 0; k < LOOKS; k++) {
          const t = (k + 0.5) / LOOKS;
          const at = [0, 1, 2].map((d) => {
            const p = 3 * j * (ni + 1) + d;
            return nodes[p] + t * (nodes[p + 3 * (ni + 1)] - nodes[p]);
          }) as unknown as Place;
          const gap = (skin.gap(at) ?? Infinity) / chordOf(patch, j);
          if (skin.inside(at)) deepest = Math.max(deepest, gap);
          else least = Math.min(least, gap);
        }
      return deepest > 0 ? deepest < SHALLOW : least < GRAZE;
    });
  });
}

/**
 * Beside a body circulation goes on as it is on the next strip: of a strip that is cut, or close to a body, the faces at the edge, as near to each other
 * as they are, say little of it.
 */
export function carriedOn(strips: readonly WakeStrip[], near: (w: WakeStrip) => boolean): WakeStrip[] {
  const spoilt = strips.map((w) => w.upper < 0 || w.lower < 0 || w.lines.some((l) => !onFin(l)) || near(w));
  const next = (k: number, way: 1 | -1): number | null => {
    for (let at = k + way; strips[at]?.patch === strips[k].patch; at += way) if (!spoilt[at]) return Math.abs(at - k);
    return null;
  };
  const own = strips.map((w, k) => {
    if (!spoilt[k]) return w;
    const [out, back] = [next(k, 1), next(k, -1)];
    if (out === null && back === null) return w;
    const from = strips[out !== null && (back === null || out <= back) ? k + out : k - back!];
    return { ...w, upper: from.upper, lower: from.lower, carried: true };
  });
  // Where an edge lies inside of others all along there is no wake.
  return own.filter((w) => w.upper >= 0 && w.lower >= 0);
}
