import {
  placeSurface,
  ringOf,
  trueOffsets,
  type LiftingSurface,
  type PlacedStation,
  type SectionLookup,
} from '../airframe';
import { InvalidInput } from '../numerics';
import type { Spar, SurfaceStructure } from '../structure';

/** A surface with what it is made of. */
export type BuiltSurface = LiftingSurface & { structure: SurfaceStructure };
export const isBuilt = (s: LiftingSurface): s is BuiltSurface => s.structure !== undefined;

/** The section of a surface at a place along its span, in metres from its leading edge: x along the chord, z across it. */
export interface SectionPlace {
  /** From the root in true length, m. */ along: number;
  /** The same as a share of the half span. */ share: number;
  chord: number;
  station: PlacedStation;
  /** From the upper edge at the tail over the nose to the lower. */ ring: [number, number][];
  upper(x: number): number;
  lower(x: number): number;
}

/** A surface's sections along its span. */
export class SurfaceShape {
  private readonly placed;
  private readonly offsets;
  /** Length of the half span, m. */ readonly total: number;

  constructor(
    readonly surface: LiftingSurface,
    private readonly lookup: SectionLookup,
  ) {
    this.placed = placeSurface(surface);
    this.offsets = trueOffsets(surface, this.placed);
    this.total = this.offsets.total;
  }
  private readonly rings = new Map<string, [number, number][]>();
  private ring(key: string): [number, number][] {
    let made = this.rings.get(key);
    if (!made) this.rings.set(key, (made = ringOf(this.lookup, key)));
    return made;
  }
  /** True lengths from the root to each station, m. */
  get stations(): readonly number[] {
    return this.offsets.stations;
  }
  at(share: number): SectionPlace {
    const { bay, share: within } = this.offsets.at(share);
    const station = this.placed.at(bay, within);
    const { chord } = station;
    const own = this.ring(station.section);
    const other = station.blend && station.blend.section !== station.section ? this.ring(station.blend.section) : null;
    const t = station.blend?.share ?? 0;
    const ring = own.map(([x, y], i): [number, number] =>
      other
        ? [chord * ((1 - t) * x + t * other[i][0]), chord * ((1 - t) * y + t * other[i][1])]
        : [chord * x, chord * y],
    );
    const nose = (ring.length - 1) / 2;
    const side = (from: number, step: number) => (x: number) => {
      let i = from;
      while (Math.abs(i - from) < nose - 1 && ring[i + step][0] < x) i += step;
      const [a, b] = [ring[i], ring[i + step]];
      const s = b[0] > a[0] ? Math.min(1, Math.max(0, (x - a[0]) / (b[0] - a[0]))) : 0;
      return a[1] + s * (b[1] - a[1]);
    };
    return {
      along: share * this.total,
      share,
      chord,
      station,
      ring,
      upper: side(nose, -1),
      lower: side(nose, 1),
    };
  }
}

/** A spar at a place: m, of its middle x behind the leading edge and z in the section. */
export interface SparPlace {
  spar: Spar;
  x: number;
  z: number;
  width: number;
  height: number;
  /** Reaches both skins. */ full: boolean;
  cap: number;
  web: number;
  wall: number;
}

const NEAR = 1e-9;

/**
 * The spar at a place of its surface; null where it does not reach.
 * @param inside thickness of the skin there, m. @param fits false where one that does not fit is told all the same, as for its mass.
 * @throws InvalidInput `spar-outside`.
 */
export function sparAt(spar: Spar, place: SectionPlace, name: string, inside: number, fits = true): SparPlace | null {
  const { share, chord } = place;
  if (share < spar.from - NEAR || share > spar.to + NEAR) return null;
  const t = Math.min(1, Math.max(0, (share - spar.from) / (spar.to - spar.from)));
  const mix = (a: number, b: number | undefined) => (b === undefined ? a : a + t * (b - a));
  const width = mix(spar.width, spar.tipWidth);
  const x = chord * mix(spar.at, spar.tipAt);
  const depthAt = (q: number) => place.upper(q) - place.lower(q) - 2 * inside;
  const z = 0.5 * (place.upper(x) + place.lower(x));
  const room = depthAt(x);
  const cap = spar.cap === undefined ? 0 : mix(spar.cap, spar.tipCap);
  const web = spar.web ?? 0;
  const wall = spar.wall ?? 0;
  const outside = (high: number, there: number): void => {
    if (!fits) return;
    const mm = (v: number) => `${(1000 * v).toFixed(1)} mm`;
    throw new InvalidInput(
      'spar-outside',
      `${spar.name} of ${name} leaves the skin at ${(100 * share).toFixed(0)} % of the half span: it is ${mm(high)} high, and the section has ${mm(Math.max(0, there))} there.`,
      'Make it smaller toward its outer end, end it further inboard, or move it to where the section is thicker.',
      `structure.spars.${spar.id}`,
    );
  };
  if (x - 0.5 * width < place.ring[(place.ring.length - 1) / 2][0] || x + 0.5 * width > chord)
    outside(spar.kind === 'tube' ? width : (spar.height ?? room), 0);
  if (spar.kind === 'tube') {
    for (let k = 0; k < 16; k++) {
      const angle = (2 * Math.PI * k) / 16;
      const q = x + 0.5 * width * Math.cos(angle);
      const v = z + 0.5 * width * Math.sin(angle);
      if (v > place.upper(q) - inside || v < place.lower(q) + inside) outside(width, Math.min(room, depthAt(q)));
    }
    return { spar, x, z, width, height: width, full: false, cap, web, wall };
  }
  const height = spar.height ?? Math.max(0, room);
  if (spar.height !== undefined) {
    const least = Math.min(depthAt(x - 0.5 * width), depthAt(x + 0.5 * width));
    if (height > least) outside(height, least);
  }
  const need = spar.kind === 'solid' ? 0 : 2 * cap;
  if (!(height > need)) outside(Math.max(need, 1e-4), height);
  return { spar, x, z, width, height, full: spar.height === undefined, cap, web, wall };
}

/** The skin's thickness at a chord's place, m; 0 where it does not reach. */
export const skinAt = (structure: SurfaceStructure, x: number, chord: number): number =>
  structure.skin && x <= (structure.skin.to ?? 1) * chord + NEAR ? structure.skin.thickness : 0;

/** Refuses a skin that is thicker than the section is. @throws InvalidInput `skin-thick`. */
export function checkSkin(structure: SurfaceStructure, place: SectionPlace, name: string): void {
  const { skin } = structure;
  if (!skin) return;
  let most = 0;
  for (let k = 1; k < 20; k++) {
    const x = (place.chord * k) / 20;
    most = Math.max(most, place.upper(x) - place.lower(x));
  }
  if (2 * skin.thickness >= most)
    throw new InvalidInput(
      'skin-thick',
      `The skin of ${name} is ${(1000 * skin.thickness).toFixed(1)} mm thick, and the section at ${(100 * place.share).toFixed(0)} % of the half span is ${(1000 * most).toFixed(1)} mm: nothing is left inside.`,
      'Make it thinner, or say that the section is filled by a core.',
      'structure.skin.thickness',
    );
}

/** Sweep of the line at a chord fraction near a place, rad. */
export function sweepOf(shape: SurfaceShape, share: number, fraction: number): number {
  const h = 0.01;
  const [a, b] = [Math.max(0, share - h), Math.min(1, share + h)].map((s) => {
    const { station, chord } = shape.at(s);
    return { along: s * shape.total, x: station.leadingEdge.x + fraction * chord * station.along.x };
  });
  return Math.atan((b.x - a.x) / (b.along - a.along));
}
