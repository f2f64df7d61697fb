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
  /** Corners in the plane of projection, mm, y up; light from 0 (shade) to 1. */ facets: {
    points: [number, number][];
    light: number;
  }[];
}

/** Every so many points of a section's ring, steps between two of its rings, and rings and points of a body that are drawn. */
const RING_SKIP = 6;
const STEPS = 8;
const BODY_RINGS = 28;
const BODY_POINTS = 24;

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
 * @param surfaces where they stand. @returns millimetres in the plane of projection.
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
  const facets: { points: [number, number][]; light: number; depth: number }[] = [];
  for (const rings of shells(surfaces, bodies, lookup)) {
    const own = facetsOf(rings.map((r) => r.map(seen)));
    const volume = own.reduce((sum, f) => sum + dot(f[0], normalOf(f)), 0);
    for (const corners of own) {
      const n = normalOf(corners).map((v) => (volume < 0 ? -v : v)) as Corner;
      const size = Math.hypot(...n);
      if (n[2] <= 1e-6 * size || size === 0) continue;
      facets.push({
        points: corners.map(([x, y]): [number, number] => [num(x), num(y)]),
        light: num(Math.max(0, dot(n, LIGHT_FROM) / size)),
        depth: corners.reduce((sum, c) => sum + c[2], 0) / corners.length,
      });
    }
  }
  facets.sort((p, q) => p.depth - q.depth);
  return { facets: facets.map(({ points, light }) => ({ points, light })) };
}

const channel = (hex: string, i: number) => parseInt(hex.slice(1 + 2 * i, 3 + 2 * i), 16);
/** Of the skin in shade and in light. */
const SHADE = '#857459';
const LIGHT = '#f3ead6';
/** Shades that are told apart. */
const SHADES = 24;
const colour = (exact: number): string => {
  const light = Math.round(SHADES * exact) / SHADES;
  return `#${[0, 1, 2]
    .map((i) =>
      Math.round(channel(SHADE, i) + light * (channel(LIGHT, i) - channel(SHADE, i)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
};

/** Facets of one colour that follow each other are drawn as one. */
function runsOf(facets: readonly { colour: string; path: string }[]): { colour: string; paths: string }[] {
  const out: { colour: string; paths: string }[] = [];
  for (const f of facets) {
    const last = out.at(-1);
    if (last?.colour === f.colour) last.paths += f.path;
    else out.push({ colour: f.colour, paths: f.path });
  }
  return out;
}

/** An airframe in space as the text of an SVG element, as large as its box allows. */
export function spaceViewSvg(view: SpaceView, size: { width: number; height: number }, title: string): string {
  const all = view.facets.flatMap((f) => f.points);
  const [low, high] = [0, 1]
    .map((i) => (i === 0 ? Math.min : Math.max))
    .map((pick) => [0, 1].map((i) => all.reduce((m, p) => pick(m, p[i]), pick === Math.min ? Infinity : -Infinity)));
  const margin = 12;
  const [w, h] = all.length > 0 ? [high[0] - low[0], high[1] - low[1]] : [1, 1];
  const scale = Math.min((size.width - 2 * margin) / Math.max(1e-9, w), (size.height - 2 * margin) / Math.max(1e-9, h));
  const height = Math.min(size.height, scale * h + 2 * margin);
  const left = 0.5 * (size.width - scale * w);
  const at = ([x, y]: [number, number]) =>
    `${num(left + scale * (x - low[0]))},${num(height - margin - scale * (y - low[1]))}`;
  return [
    open('svg', {
      xmlns: 'http://www.w3.org/2000/svg',
      width: size.width,
      height: num(height),
      viewBox: `0 0 ${size.width} ${num(height)}`,
    }),
    `<title>${escaped(title)}</title>`,
    ...runsOf(view.facets.map((f) => ({ colour: colour(f.light), path: `M${f.points.map(at).join('L')}Z` }))).map(
      (r) => `<path d="${r.paths}" fill="${r.colour}" stroke="${r.colour}" stroke-width="0.5"/>`,
    ),
    '</svg>',
  ].join('');
}
