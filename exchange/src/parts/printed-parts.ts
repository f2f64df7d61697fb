import { ShapeUtils, Vector2 } from 'three';
import { meshFacts, type PartMesh, type Point3 } from '@veldtwind/core/airframe';
import { InvalidInput, RAD } from '@veldtwind/core/numerics';
import { sparAt, type BuiltSurface, type SurfaceShape } from '@veldtwind/core/members';
import { materialOf } from '@veldtwind/core/structure';
import type { MadePart } from './part';

const MM = 1000;
/** What a printer holds, mm. */
export interface Printer {
  width: number;
  depth: number;
  height: number;
}

/** How solids are printed: the wall about them, mm, and the share of what lies within that is filled. */
export interface Printing {
  wall: number;
  infill: number;
}
export const PRINTING_DEFAULTS: Printing = { wall: 0.8, infill: 0.08 };

/** Points of one side of a section, of a hole, and slices of a piece. */
const SIDE = 40;
const HOLE = 32;
const SLICES = 6;
const MOST_PIECES = 200;
/** Holes are larger than the tubes that join the pieces, m. */
const CLEARANCE = 1e-4;
/** Least wall between a hole and the skin, m. */
const WALL = 8e-4;

interface Piece {
  /** Shares of the half span. */ from: number;
  to: number;
  /** Chord fractions. */ front: number;
  rear: number;
}

/** A printed piece: its mesh as it stands on its inner face, in metres. */
export interface PrintedPart extends MadePart {
  mesh: PartMesh;
}

/**
 * A surface cut into solids that a printer holds, each standing on its inner end: along the span, and along the chord where it is too long. Tubes of the
 * structure go through as holes and join them.
 * @throws InvalidInput `printer` where pieces would be too many or a printer too small.
 */
export function printedParts(
  surface: BuiltSurface,
  shape: SurfaceShape,
  printer: Printer,
  { wall, infill }: Printing = PRINTING_DEFAULTS,
): PrintedPart[] {
  for (const [key, value] of Object.entries(printer))
    if (!(value >= 20 && value <= 5000))
      throw new InvalidInput(
        'printer',
        `The ${key} of the printer must be from 20 to 5000 mm; ${value} is not.`,
        'Write it as 200x200x180.',
        'printer',
      );
  const stations = shape.stations.map((s) => s / shape.total);
  const out: PrintedPart[] = [];
  stations.slice(1).forEach((outer, bay) => {
    const inner = stations[bay];
    const chord = Math.max(shape.at(inner).chord, shape.at(outer).chord) * MM;
    const long = (outer - inner) * shape.total * MM;
    let along = Math.max(1, Math.ceil(long / printer.height - 1e-9));
    let across = Math.max(1, Math.ceil(chord / Math.hypot(printer.width, printer.depth) - 1e-9));
    for (;;) {
      if (along * across > MOST_PIECES)
        throw new InvalidInput(
          'printer',
          `Bay ${bay + 1} of ${surface.name} would take more than ${MOST_PIECES} pieces on a printer of ${printer.width} × ${printer.depth} × ${printer.height} mm.`,
          'Give a larger printer.',
          'printer',
        );
      const pieces = Array.from({ length: along * across }, (_, k): Piece => {
        const [i, j] = [Math.floor(k / across), k % across];
        return {
          from: inner + ((outer - inner) * i) / along,
          to: inner + ((outer - inner) * (i + 1)) / along,
          front: j / across,
          rear: (j + 1) / across,
        };
      });
      const made = pieces.map((p) => solid(surface, shape, p));
      const sizes = made.map((m) => extent(m.mesh));
      if (sizes.some((s) => s.height > printer.height + 1e-6)) along++;
      else if (sizes.some((s) => !fits(s.flat, printer))) across++;
      else {
        made.forEach(({ mesh, notes }, k) => {
          const { volume, area } = meshFacts(mesh);
          const shell = Math.min(volume, (area * wall) / MM);
          const label = `${surface.name} printed ${bay + 1}-${Math.floor(k / across) + 1}${across > 1 ? 'abcdefgh'[k % across] : ''}`;
          const material = 'printed';
          out.push({
            label,
            surface: surface.id,
            kind: 'printed',
            material,
            thickness: 0,
            area: 0,
            length: sizes[k].height,
            count: surface.mirrored ? 2 : 1,
            mass: materialOf(material).density * (shell + infill * (volume - shell)),
            items: [],
            notes: notes.map((n) => `${label}: ${n}`),
            mesh: { ...mesh, id: label, name: label },
          });
        });
        return;
      }
    }
  });
  return out;
}

/** The solid of a piece, standing on its inner end. */
function solid(surface: BuiltSurface, shape: SurfaceShape, piece: Piece) {
  const { from, to, front, rear } = piece;
  const foot = shape.at(from).station;
  const { along: ex, up: ey, leadingEdge: o } = foot;
  const ez = { x: ex.y * ey.z - ex.z * ey.y, y: ex.z * ey.x - ex.x * ey.z, z: ex.x * ey.y - ex.y * ey.x };
  const end = shape.at(to).station.leadingEdge;
  const dot = (a: Point3, b: Point3) => a.x * b.x + a.y * b.y + a.z * b.z;
  // Upward is outboard.
  const up = dot({ x: end.x - o.x, y: end.y - o.y, z: end.z - o.z }, ez) >= 0 ? 1 : -1;
  const notes: string[] = [];
  const vertices: number[] = [];
  const rings: { outline: number[]; holes: number[][] }[] = [];
  const flat: { outline: Vector2[]; holes: Vector2[][] }[] = [];
  const tubes = surface.structure.spars.filter((s) => s.kind === 'tube' && s.from <= from + 1e-9 && s.to >= to - 1e-9);
  const taken: { x: number; r: number; name: string }[] = [];
  const goesThrough = tubes.filter((spar) => {
    const inside = [from, 0.5 * (from + to), to].every((share) => {
      const place = shape.at(share);
      const s = sparAt(spar, place, surface.name, 0, false);
      if (!s) return false;
      const r = 0.5 * s.width + CLEARANCE + WALL;
      if (s.x - r < front * place.chord || s.x + r > rear * place.chord) return false;
      return Array.from({ length: 12 }, (_, k) => (2 * Math.PI * k) / 12).every((a) => {
        const [q, v] = [s.x + r * Math.cos(a), s.z + r * Math.sin(a)];
        return v < place.upper(q) && v > place.lower(q);
      });
    });
    const touched = [from, to].some((share) => {
      const place = shape.at(share);
      const s = sparAt(spar, place, surface.name, 0, false);
      return s !== null && s.x > front * place.chord && s.x < rear * place.chord;
    });
    const s = sparAt(spar, shape.at(from), surface.name, 0, false);
    const other = s && taken.find((o) => Math.abs(o.x - s.x) < o.r + 0.5 * s.width + 2 * WALL);
    if (inside && s && other) {
      notes.push(`no hole for ${spar.name}: it would meet that for ${other.name}`);
      return false;
    }
    if (inside && s) taken.push({ x: s.x, r: 0.5 * s.width, name: spar.name });
    if (!inside && touched)
      notes.push(`no hole for ${spar.name}: less than ${WALL * MM} mm of wall would be left about it`);
    return inside;
  });
  for (let k = 0; k <= SLICES; k++) {
    const place = shape.at(from + ((to - from) * k) / SLICES);
    const { leadingEdge: p, along: a, up: u } = place.station;
    const put = (x: number, z: number): number => {
      const d = {
        x: p.x + x * a.x + z * u.x - o.x,
        y: p.y + x * a.y + z * u.y - o.y,
        z: p.z + x * a.z + z * u.z - o.z,
      };
      vertices.push(dot(d, ex), up * dot(d, ey), up * dot(d, ez));
      return vertices.length / 3 - 1;
    };
    const [x0, x1] = [front * place.chord, rear * place.chord];
    const xs = Array.from({ length: SIDE + 1 }, (_, i) => x0 + (x1 - x0) * 0.5 * (1 - Math.cos((Math.PI * i) / SIDE)));
    const line: [number, number][] = [];
    // Forward on top, back below: the ends are one point where the section is sharp there.
    for (const x of [...xs].reverse()) line.push([x, place.upper(x)]);
    for (const x of xs) line.push([x, place.lower(x)]);
    const open = (x: number) => place.upper(x) - place.lower(x) > 1e-6 * place.chord;
    const nose = front === 0 && !open(x0);
    const tail = rear === 1 && !open(x1);
    const kept = line.filter((_, i) => !(nose && i === SIDE + 1) && !(tail && i === line.length - 1));
    const holes = goesThrough.map((spar) => {
      const s = sparAt(spar, place, surface.name, 0, false)!;
      const r = 0.5 * s.width + CLEARANCE;
      return Array.from({ length: HOLE }, (_, i): [number, number] => {
        const angle = (2 * Math.PI * i) / HOLE;
        return [s.x + r * Math.cos(angle), s.z + r * Math.sin(angle)];
      });
    });
    rings.push({ outline: kept.map(([x, z]) => put(x, z)), holes: holes.map((h) => h.map(([x, z]) => put(x, z))) });
    flat.push({
      outline: kept.map(([x, z]) => new Vector2(x, z)),
      holes: holes.map((h) => h.map(([x, z]) => new Vector2(x, z))),
    });
  }
  const triangles: number[] = [];
  const wall = (a: readonly number[], b: readonly number[], inward: boolean) => {
    const n = a.length;
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      if (inward) triangles.push(a[i], b[j], a[j], a[i], b[i], b[j]);
      else triangles.push(a[i], a[j], b[j], a[i], b[j], b[i]);
    }
  };
  for (let k = 0; k < SLICES; k++) {
    wall(rings[k].outline, rings[k + 1].outline, false);
    rings[k].holes.forEach((h, i) => wall(h, rings[k + 1].holes[i], false));
  }
  for (const k of [0, SLICES]) {
    const faces = ShapeUtils.triangulateShape(flat[k].outline, flat[k].holes);
    const index = [rings[k].outline, ...rings[k].holes].flat();
    for (const [a, b, c] of faces) {
      const t = [index[a], index[b], index[c]];
      triangles.push(...(k === 0 ? t : t.reverse()));
    }
  }
  const mesh = oriented(surface, Float64Array.from(vertices), triangles);
  return { mesh, notes };
}

/** A mesh whose neighbouring faces run alike and whose volume is positive: caps and holes are turned to fit. */
function oriented(surface: BuiltSurface, vertices: Float64Array, list: number[]): PartMesh {
  const count = list.length / 3;
  const edges = new Map<string, number[]>();
  const key = (a: number, b: number) => (a < b ? `${a},${b}` : `${b},${a}`);
  for (let f = 0; f < count; f++)
    for (let i = 0; i < 3; i++) {
      const k = key(list[3 * f + i], list[3 * f + ((i + 1) % 3)]);
      const known = edges.get(k);
      if (known) known.push(f);
      else edges.set(k, [f]);
    }
  const runs = (f: number, a: number, b: number) =>
    [0, 1, 2].some((i) => list[3 * f + i] === a && list[3 * f + ((i + 1) % 3)] === b);
  const seen = new Uint8Array(count);
  for (let start = 0; start < count; start++) {
    if (seen[start]) continue;
    seen[start] = 1;
    const queue = [start];
    for (let f = queue.pop(); f !== undefined; f = queue.pop())
      for (let i = 0; i < 3; i++) {
        const a: number = list[3 * f + i];
        const b: number = list[3 * f + ((i + 1) % 3)];
        for (const g of edges.get(key(a, b)) ?? []) {
          if (g === f || seen[g]) continue;
          if (runs(g, a, b)) [list[3 * g + 1], list[3 * g + 2]] = [list[3 * g + 2], list[3 * g + 1]];
          seen[g] = 1;
          queue.push(g);
        }
      }
  }
  const mesh = { id: surface.id, name: surface.name, vertices, triangles: Uint32Array.from(list) } as PartMesh;
  if (meshFacts(mesh).volume < 0)
    for (let f = 0; f < count; f++)
      [mesh.triangles[3 * f + 1], mesh.triangles[3 * f + 2]] = [mesh.triangles[3 * f + 2], mesh.triangles[3 * f + 1]];
  return mesh;
}

/** Height and plan of a piece, mm. */
function extent({ vertices: v }: PartMesh): { height: number; flat: [number, number][] } {
  let [low, high] = [Infinity, -Infinity];
  const flat: [number, number][] = [];
  for (let i = 0; i < v.length; i += 3) {
    low = Math.min(low, v[i + 2]);
    high = Math.max(high, v[i + 2]);
    flat.push([MM * v[i], MM * v[i + 1]]);
  }
  return { height: MM * (high - low), flat };
}

/** Whether a plan lies in a rectangle when it is turned. */
function fits(flat: readonly [number, number][], { width, depth }: Printer): boolean {
  for (let deg = 0; deg < 180; deg += 3) {
    const [c, s] = [Math.cos(deg * RAD), Math.sin(deg * RAD)];
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [x, y] of flat) {
      const [u, v] = [c * x - s * y, s * x + c * y];
      [x0, x1, y0, y1] = [Math.min(x0, u), Math.max(x1, u), Math.min(y0, v), Math.max(y1, v)];
    }
    if (x1 - x0 <= width && y1 - y0 <= depth) return true;
  }
  return false;
}
