import {
  bodyRings,
  ringOf,
  skinRings,
  type Body,
  type LiftingSurface,
  type Point3,
  type SectionLookup,
} from '../airframe';
import { RAD } from '../numerics';
import { escaped, num, open } from './svg-text';

/** Where it is looked from: azimuth from ahead (0) to the right wing (90), elevation above the horizon, degrees. */
export interface ViewDirection {
  azimuthDeg: number;
  elevationDeg: number;
}
/** An airframe in parallel projection: facets from the farthest to the nearest. */
export interface SpaceView {
  /** Of a unit of length, mm. */ unit: number;
  /** Width and height, units. */ size: [number, number];
  /** Corners in whole units from the left and from below; shade from 0 (dark) to {@link SHADES} (lit). */
  facets: { points: [number, number][]; shade: number }[];
}
/** Shades that are told apart, and units along the longer side. */
export const SHADES = 24;
const UNITS = 4000;

/** Every so many points of a section's ring, steps between two of its rings, and rings and points of a body that are drawn. */
const RING_SKIP = 8;
const STEPS = 6;
const BODY_RINGS = 22;
const BODY_POINTS = 20;

type Corner = [number, number, number];
type Ring = readonly Point3[];
const mirrored = (ring: Ring): Point3[] => ring.map((p) => ({ ...p, y: -p.y }));
/** At most so many of a list, with its first and last. */
function thinned<T>(list: readonly T[], most: number): T[] {
  const n = Math.min(list.length, most);
  return Array.from({ length: n }, (_, i) => list[Math.round((i * (list.length - 1)) / Math.max(1, n - 1))]);
}
/** Rings with steps between them: what is long lies before one thing and behind another. */
const stepped = (rings: readonly Ring[]): Ring[] =>
  rings.flatMap((ring, i) =>
    i === 0
      ? [ring]
      : Array.from({ length: STEPS }, (_, j) => {
          const [t, before] = [(j + 1) / STEPS, rings[i - 1]];
          const between = (p: Point3, q: Point3, k: 'x' | 'y' | 'z') => (1 - t) * p[k] + t * q[k];
          return ring.map((q, k) => ({
            x: between(before[k], q, 'x'),
            y: between(before[k], q, 'y'),
            z: between(before[k], q, 'z'),
          }));
        }),
  );

/** Skins as rings that close on themselves. */
function shells(surfaces: readonly LiftingSurface[], bodies: readonly Body[], lookup: SectionLookup): Ring[][] {
  const loop = (key: string) => ringOf(lookup, key).filter((_, i) => i % RING_SKIP === 0);
  const of = [
    ...surfaces.map((s) => ({ rings: stepped(skinRings(s, lookup, loop).map((r) => r.points)), twice: s.mirrored })),
    ...bodies.map((b) => ({
      rings: thinned(bodyRings(b), BODY_RINGS).map((r) => thinned(r, BODY_POINTS)),
      twice: b.mirrored,
    })),
  ];
  return of.flatMap(({ rings, twice }) => {
    const closed = rings.map((r) => [...r, r[0]]);
    return twice ? [closed, closed.map(mirrored)] : [closed];
  });
}

/** Facets of a skin and of the lids at its ends, all turned alike. */
function facetsOf(rings: readonly (readonly Corner[])[]): Corner[][] {
  const out: Corner[][] = [[...rings[0]].slice(1).reverse(), rings.at(-1)!.slice(1)];
  for (let i = 1; i < rings.length; i++)
    for (let k = 1; k < rings[i].length; k++)
      out.push([rings[i - 1][k - 1], rings[i - 1][k], rings[i][k], rings[i][k - 1]]);
  return out;
}
/** Twice the area of a facet as a vector (the sum of the cross products of its corners). */
function normalOf(corners: readonly Corner[]): Corner {
  const n: Corner = [0, 0, 0];
  corners.forEach((p, i) => {
    const q = corners[(i + 1) % corners.length];
    n[0] += p[1] * q[2] - p[2] * q[1];
    n[1] += p[2] * q[0] - p[0] * q[2];
    n[2] += p[0] * q[1] - p[1] * q[0];
  });
  return n;
}
const dot = (p: Corner, q: Corner) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];

/** Direction of the light in the axes of the page (right, up, to the viewer). */
const LIGHT_FROM: Corner = [-0.35, 0.7, 0.62];

/**
 * An airframe as it is seen from afar: its skin in flat facets, those that face away left out.
 * @param surfaces where they stand. @returns in the plane of projection.
 * @throws InvalidInput for a part that is no shape.
 */
export function spaceView(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
  { azimuthDeg, elevationDeg }: ViewDirection,
): SpaceView {
  const [a, e] = [azimuthDeg * RAD, elevationDeg * RAD];
  // Ahead is −x, the right wing +y.
  const to: Corner = [-Math.cos(e) * Math.cos(a), Math.cos(e) * Math.sin(a), Math.sin(e)];
  const right: Corner = [-Math.sin(a), -Math.cos(a), 0];
  const up: Corner = [Math.sin(e) * Math.cos(a), -Math.sin(e) * Math.sin(a), Math.cos(e)];
  const seen = ({ x, y, z }: Point3): Corner => [right, up, to].map((v) => 1000 * dot([x, y, z], v)) as Corner;
  const facets: { corners: Corner[]; shade: number; depth: number }[] = [];
  for (const rings of shells(surfaces, bodies, lookup)) {
    const own = facetsOf(rings.map((r) => r.map(seen)));
    const volume = own.reduce((sum, f) => sum + dot(f[0], normalOf(f)), 0);
    for (const corners of own) {
      const n = normalOf(corners).map((v) => (volume < 0 ? -v : v)) as Corner;
      const size = Math.hypot(...n);
      if (n[2] <= 1e-6 * size || size === 0) continue;
      const light = Math.max(0, dot(n, LIGHT_FROM) / size);
      const depth = corners.reduce((sum, c) => sum + c[2], 0) / corners.length;
      facets.push({ corners, shade: Math.round(SHADES * Math.min(1, light)), depth });
    }
  }
  facets.sort((p, q) => p.depth - q.depth);
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  for (const { corners } of facets)
    for (const c of corners)
      for (const i of [0, 1]) {
        low[i] = Math.min(low[i], c[i]);
        high[i] = Math.max(high[i], c[i]);
      }
  const unit = facets.length > 0 ? Math.max(high[0] - low[0], high[1] - low[1]) / UNITS : 1;
  const whole = (v: number, i: number) => Math.round((v - low[i]) / unit);
  return {
    unit,
    size: facets.length > 0 ? [whole(high[0], 0), whole(high[1], 1)] : [1, 1],
    facets: facets.map(({ corners, shade }) => ({
      points: corners.map(([x, y]): [number, number] => [whole(x, 0), whole(y, 1)]),
      shade,
    })),
  };
}

const channel = (hex: string, i: number) => parseInt(hex.slice(1 + 2 * i, 3 + 2 * i), 16);
/** Of the skin in shade and in light. */
const SHADE = '#857459';
const LIGHT = '#f3ead6';
const INKS = Array.from({ length: SHADES + 1 }, (_, shade) => {
  const mixed = [0, 1, 2].map((i) => channel(SHADE, i) + (shade / SHADES) * (channel(LIGHT, i) - channel(SHADE, i)));
  return `#${mixed.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;
});

/** A space view in a box, as large as it allows: facets of one colour that follow each other belong together. */
export interface PlacedView {
  height: number;
  runs: { ink: string; facets: [number, number][][] }[];
}
const MARGIN = 12;
/** @param box px, or any other unit; its height is the greatest. @returns places from the left and from above. */
export function placedView({ size: [w, h], facets }: SpaceView, box: { width: number; height: number }): PlacedView {
  const scale = Math.min((box.width - 2 * MARGIN) / Math.max(1, w), (box.height - 2 * MARGIN) / Math.max(1, h));
  const height = num(scale * h + 2 * MARGIN);
  const left = 0.5 * (box.width - scale * w);
  const at = ([x, y]: [number, number]): [number, number] => [
    Math.round(10 * (left + scale * x)) / 10,
    Math.round(10 * (height - MARGIN - scale * y)) / 10,
  ];
  const runs: PlacedView['runs'] = [];
  for (const f of facets) {
    const [ink, own] = [INKS[f.shade] ?? LIGHT, f.points.map(at)];
    const last = runs.at(-1);
    if (last?.ink === ink) last.facets.push(own);
    else runs.push({ ink, facets: [own] });
  }
  return { height, runs };
}

/** An airframe in space as the text of an SVG element, as large as its box allows. */
export function spaceViewSvg(view: SpaceView, box: { width: number; height: number }, title: string): string {
  const { height, runs } = placedView(view, box);
  const head = { xmlns: 'http://www.w3.org/2000/svg', width: box.width, height, viewBox: `0 0 ${box.width} ${height}` };
  const paths = runs.map(
    ({ ink, facets }) =>
      `<path d="${facets.map((f) => `M${f.join('L')}Z`).join('')}" fill="${ink}" stroke="${ink}" stroke-width="0.5"/>`,
  );
  return `${open('svg', head)}<title>${escaped(title)}</title>${paths.join('')}</svg>`;
}
