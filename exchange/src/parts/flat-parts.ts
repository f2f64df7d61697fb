import { DEG } from '@veldtwind/core/numerics';
import {
  ribPlaces,
  skinAt,
  sparAt,
  type BuiltSurface,
  type SparPlace,
  type SurfaceShape,
} from '@veldtwind/core/members';
import { materialOf, type Spar } from '@veldtwind/core/structure';
import type { Point3 } from '@veldtwind/core/airframe';
import { checkContour, longSide, massOf, turning, type MadePart, type Pair } from './part';

const MM = 1000;
const SIDES = (surface: BuiltSurface) => (surface.mirrored ? 2 : 1);

const sparPlace = (spar: Spar, surface: BuiltSurface, shape: SurfaceShape, share: number): SparPlace | null => {
  const place = shape.at(share);
  return sparAt(spar, place, surface.name, skinAt(surface.structure, spar.at * place.chord, place.chord));
};

/** Length of a spar along its own line, mm. */
function lengthOf(spar: Spar, surface: BuiltSurface, shape: SurfaceShape): number {
  const n = 24;
  let [sum, before] = [0, null as Point3 | null];
  for (let k = 0; k <= n; k++) {
    const share = spar.from + ((spar.to - spar.from) * k) / n;
    const s = sparPlace(spar, surface, shape, share);
    if (!s) continue;
    const { leadingEdge: p, along: a, up: u } = shape.at(share).station;
    const here = { x: p.x + s.x * a.x + s.z * u.x, y: p.y + s.x * a.y + s.z * u.y, z: p.z + s.x * a.z + s.z * u.z };
    if (before) sum += Math.hypot(here.x - before.x, here.y - before.y, here.z - before.z);
    before = here;
  }
  return MM * sum;
}

/** Webs between the ribs, as sheets; caps, bars and tubes to be cut to length. */
export function sparParts(surface: BuiltSurface, shape: SurfaceShape): MadePart[] {
  const { structure } = surface;
  const shares = structure.ribs ? ribPlaces(shape.total, structure.ribs.spacing) : [0, 1];
  const rib = structure.ribs ? MM * structure.ribs.thickness : 0;
  return structure.spars.flatMap((spar): MadePart[] => {
    const out: MadePart[] = [];
    const length = lengthOf(spar, surface, shape);
    const [a, b] = [spar.from, spar.to].map((share) => sparPlace(spar, surface, shape, share)!);
    const mean = (f: (s: SparPlace) => number) => 0.5 * (f(a) + f(b));
    const common = { surface: surface.id, items: [], notes: [], length, area: 0 };
    const size = (f: (s: SparPlace) => number) =>
      Math.abs(f(a) - f(b)) < 1e-6
        ? `${(MM * f(a)).toFixed(1)}`
        : `${(MM * f(a)).toFixed(1)}–${(MM * f(b)).toFixed(1)}`;
    const { density } = materialOf(spar.material);
    const name = `${surface.name} ${spar.name}`;
    if (spar.kind === 'tube') {
      const mass = density * Math.PI * mean((s) => s.wall * (s.width - s.wall)) * length * 1e-3;
      const label = `${name}, ⌀${size((s) => s.width)} × ${size((s) => s.wall)} mm`;
      return [{ ...common, label, kind: 'tube', material: spar.material, thickness: 0, count: SIDES(surface), mass }];
    }
    if (spar.kind === 'solid') {
      const mass = density * mean((s) => s.width * s.height) * length * 1e-3;
      const label = `${name}, ${size((s) => s.width)} × ${size((s) => s.height)} mm`;
      return [{ ...common, label, kind: 'spar', material: spar.material, thickness: 0, count: SIDES(surface), mass }];
    }
    out.push({
      ...common,
      label: `${name} cap, ${size((s) => s.width)} × ${size((s) => s.cap)} mm`,
      kind: 'cap',
      material: spar.material,
      thickness: 0,
      count: 2 * SIDES(surface),
      mass: density * mean((s) => s.width * s.cap) * length * 1e-3,
    });
    const material = spar.webMaterial ?? spar.material;
    const thickness = MM * spar.web!;
    for (let k = 0; k + 1 < shares.length; k++) {
      const [from, to] = [Math.max(spar.from, shares[k]), Math.min(spar.to, shares[k + 1])];
      if (to - from < 1e-6) continue;
      const [p, q] = [from, to].map((share) => sparPlace(spar, surface, shape, share)!);
      const heights = [p, q].map((s) => MM * (s.height - 2 * s.cap));
      // Between the faces of the ribs.
      const long = MM * (to - from) * shape.total - rib;
      if (long <= 0) continue;
      const step = (MM * (q.z - p.z)) / 1;
      const points: Pair[] = [
        [0, -0.5 * heights[0]],
        [long, step - 0.5 * heights[1]],
        [long, step + 0.5 * heights[1]],
        [0, 0.5 * heights[0]],
      ];
      const label = `${name} web ${k + 1}`;
      const area = 0.5 * Math.abs(turning(points));
      const letter = Math.max(1, Math.min(5, 0.3 * Math.min(...heights), long / (0.7 * label.length)));
      out.push({
        label,
        surface: surface.id,
        kind: 'web',
        material,
        thickness,
        area,
        length: longSide(points),
        count: (spar.kind === 'box' ? 2 : 1) * SIDES(surface),
        mass: massOf(material, area, thickness),
        items: [
          { kind: 'line', layer: 'cut', points, closed: true },
          { kind: 'text', layer: 'text', at: [0.05 * long, 0.5 * step - 0.5 * letter], height: letter, text: label },
        ],
        notes: [],
      });
    }
    return out;
  });
}

const minus = (a: Point3, b: Point3): Point3 => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
const size = (a: Point3) => Math.hypot(a.x, a.y, a.z);
const dot = (a: Point3, b: Point3) => a.x * b.x + a.y * b.y + a.z * b.z;
const bent = (a: Point3, b: Point3): number => {
  const c = { x: a.y * b.z - a.z * b.y, y: a.z * b.x - a.x * b.z, z: a.x * b.y - a.y * b.x };
  return size(c);
};

/**
 * A ruled strip between two lines of as many points, laid flat triangle by triangle: exact where it can be developed.
 * @param first, second in metres. @returns both lines in mm, and the greatest warp that a plane sheet has to take, °.
 */
export function unrolled(
  first: readonly Point3[],
  second: readonly Point3[],
): { first: Pair[]; second: Pair[]; warpDeg: number } {
  const out = { first: [[0, 0] as Pair], second: [] as Pair[], warpDeg: 0 };
  out.second.push([0, MM * size(minus(second[0], first[0]))]);
  /** The third corner over a flat edge a–b, on the right of it as it goes. */
  const third = (A: Point3, B: Point3, C: Point3, a: Pair, b: Pair): Pair => {
    const edge = minus(B, A);
    const l = size(edge) || 1e-12;
    const along = dot(minus(C, A), edge) / l;
    const across = bent(edge, minus(C, A)) / l;
    const u = [(b[0] - a[0]) / (MM * l), (b[1] - a[1]) / (MM * l)];
    return [a[0] + MM * (along * u[0] + across * u[1]), a[1] + MM * (along * u[1] - across * u[0])];
  };
  for (let i = 0; i + 1 < first.length; i++) {
    const [A, B, C, D] = [first[i], second[i], first[i + 1], second[i + 1]];
    const [a, b] = [out.first[i], out.second[i]];
    const c = third(A, B, C, a, b);
    out.first.push(c);
    // Over the edge from the new corner to the second line.
    const d = third(C, B, D, c, b);
    out.second.push(d);
    const [n1, n2] = [cross(minus(B, A), minus(C, A)), cross(minus(B, C), minus(D, C))];
    const sizes = size(n1) * size(n2);
    if (sizes > 0) out.warpDeg = Math.max(out.warpDeg, Math.acos(Math.min(1, Math.abs(dot(n1, n2)) / sizes)) * DEG);
  }
  return out;
}
const cross = (a: Point3, b: Point3): Point3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});

/** Points of a skin on either side of the nose. */
const AROUND = 48;

/**
 * Skins laid flat, bay by bay, one side: from the rear edge on top around the nose to the rear edge below, in pieces that a sheet holds.
 * @param long, short sides of what a sheet has room for, mm.
 */
export function skinParts(surface: BuiltSurface, shape: SurfaceShape, long: number, short: number): MadePart[] {
  const { skin } = surface.structure;
  if (!skin) return [];
  const line = (share: number): Point3[] => {
    const place = shape.at(share);
    const { leadingEdge: p, along: a, up: u } = place.station;
    const end = (skin.to ?? 1) * place.chord;
    const at = (x: number, z: number): Point3 => ({
      x: p.x + x * a.x + z * u.x,
      y: p.y + x * a.y + z * u.y,
      z: p.z + x * a.z + z * u.z,
    });
    const xs = Array.from({ length: AROUND + 1 }, (_, k) => end * 0.5 * (1 + Math.cos((Math.PI * k) / AROUND)));
    const back = xs.slice(0, -1).reverse();
    return [...xs.map((x) => at(x, place.upper(x))), ...back.map((x) => at(x, place.lower(x)))];
  };
  const stations = shape.stations.map((s) => s / shape.total);
  return stations.slice(1).flatMap((outer, bay): MadePart[] => {
    const inner = stations[bay];
    const span = (outer - inner) * shape.total * MM;
    const around = MM * Math.max(...[inner, outer].map((s) => lengthAlong(line(s))));
    // The span along the longer side of the sheet, and around the nose across it; in two at the nose where that is too wide.
    const across = around <= short ? 1 : 2 * Math.ceil(around / (2 * short));
    const along = Math.max(1, Math.ceil((span * SLANT) / long));
    const out: MadePart[] = [];
    for (let k = 0; k < along; k++) {
      const [from, to] = [inner + ((outer - inner) * k) / along, inner + ((outer - inner) * (k + 1)) / along];
      const [first, second] = [line(from), line(to)];
      for (let j = 0; j < across; j++) {
        const at = (i: number) => Math.round(((first.length - 1) * i) / across);
        const label = `${surface.name} skin ${bay + 1}${along * across > 1 ? `-${k * across + j + 1}` : ''}`;
        const pieces = [first, second].map((l) => l.slice(at(j), at(j + 1) + 1));
        out.push(skinPiece(surface, skin, label, pieces[0], pieces[1], across === 1 ? AROUND : null));
      }
    }
    return out;
  });
}
/** Swept and tapered pieces are longer than their span. */
const SLANT = 1.03;
const lengthAlong = (line: readonly Point3[]) => line.slice(1).reduce((sum, p, i) => sum + size(minus(p, line[i])), 0);

function skinPiece(
  surface: BuiltSurface,
  skin: NonNullable<BuiltSurface['structure']['skin']>,
  label: string,
  inner: readonly Point3[],
  outer: readonly Point3[],
  nose: number | null,
): MadePart {
  const { first, second, warpDeg } = unrolled(inner, outer);
  const points: Pair[] = [...first, ...[...second].reverse()];
  checkContour(points, label);
  const area = 0.5 * Math.abs(turning(points));
  const thickness = MM * skin.thickness;
  const [x, y] = [0, 1].map((i) => points.reduce((sum, q) => sum + q[i], 0) / points.length);
  return {
    label,
    surface: surface.id,
    kind: 'skin',
    material: skin.material,
    thickness,
    area,
    length: longSide(points),
    count: SIDES(surface),
    mass: massOf(skin.material, area, thickness),
    items: [
      { kind: 'line', layer: 'cut', points, closed: true },
      // The line of the nose, to be bent about.
      ...(nose === null
        ? []
        : [{ kind: 'line' as const, layer: 'line' as const, points: [first[nose], second[nose]], closed: false }]),
      { kind: 'text', layer: 'text', at: [x + 4, y], height: 5, text: label },
    ],
    notes:
      warpDeg > WARPED
        ? [`${label}: it is no developable surface; triangles of it fold by up to ${warpDeg.toFixed(1)}°`]
        : [],
  };
}
/** Folds between neighbouring triangles that a thin sheet takes. */
const WARPED = 8;
