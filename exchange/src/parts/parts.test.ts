import DxfParser from 'dxf-parser';
import { meshFacts, partMeshes, type LiftingSurface } from '@veldtwind/core/airframe';
import { madeSurface } from '@veldtwind/core/airframe/testing';
import { RAD } from '@veldtwind/core/numerics';
import { memberMasses, SurfaceShape, type BuiltSurface } from '@veldtwind/core/members';
import type { SectionSource } from '@veldtwind/core/shaping';
import type { Spar, SurfaceStructure } from '@veldtwind/core/structure';
import { unrolled } from './flat-parts';
import { makeParts } from '.';
import { printedParts } from './printed-parts';
import { CUT_DEFAULTS, ribParts } from './rib-parts';
import { wirePaths } from './wire-paths';
import type { MadePart, Pair } from './part';

const source: SectionSource = { kind: 'designation', designation: '4415', trailingEdge: 'sharp' };
const lookup = () => source;
const spar = (more: Partial<Spar> = {}): Spar => ({
  id: 'main',
  name: 'Main spar',
  kind: 'i',
  material: 'spruce',
  at: 0.3,
  from: 0,
  to: 1,
  width: 0.014,
  cap: 0.003,
  web: 0.0015,
  webMaterial: 'birch-plywood',
  ...more,
});
const TUBE = spar({ id: 'rear', name: 'Rear tube', kind: 'tube', at: 0.6, width: 0.008, wall: 0.001 });
const BUILT: SurfaceStructure = {
  skin: { material: 'birch-plywood-45', thickness: 0.0008, to: 0.3 },
  spars: [spar(), TUBE],
  ribs: { material: 'balsa-light', thickness: 0.003, spacing: 0.12, holes: 0.2 },
};
const wing = (structure: SurfaceStructure = BUILT, chords: [number, number] = [0.3, 0.2]): BuiltSurface => ({
  ...madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, chords, 1.2, {
    section: '4415',
    sweep: 3,
    dihedral: 3,
  }),
  structure,
});
const ribs = (surface: BuiltSurface, cut = { kerf: 0, clearance: 0 }) =>
  ribParts(surface, new SurfaceShape(surface, lookup), cut);
const made = (surface: BuiltSurface, more: Partial<Parameters<typeof makeParts>[0]> = {}) =>
  makeParts({ name: 'Made', surfaces: [surface], bodies: [], lookup, sheet: { width: 600, height: 300 }, ...more });

/** Whether a closed contour crosses itself: each pair of its sides, by the signs of four areas. */
function crosses(p: readonly Pair[]): boolean {
  const side = (a: Pair, b: Pair, c: Pair) => Math.sign((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));
  for (let i = 0; i < p.length; i++)
    for (let k = i + 2; k < p.length; k++) {
      if (i === 0 && k === p.length - 1) continue;
      const [a, b, c, d] = [p[i], p[i + 1], p[k], p[(k + 1) % p.length]];
      if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return true;
    }
  return false;
}
const contourOf = (part: MadePart) =>
  part.items.find((i) => i.kind === 'line' && i.layer === 'cut') as { points: Pair[] };
/** Whether a place lies within a contour. */
function inside(points: readonly Pair[], [x, y]: Pair): boolean {
  let odd = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [a, b] = [points[i], points[j]];
    if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) odd = !odd;
  }
  return odd;
}

describe('ribs of a built wing', () => {
  it('are closed contours without a crossing, their holes inside and apart from each other', () => {
    const list = ribs(wing(), CUT_DEFAULTS);
    expect(list).toHaveLength(11);
    for (const rib of list) {
      const { points } = contourOf(rib);
      expect(crosses(points)).toBe(false);
      const holes = rib.items.flatMap((i) => (i.kind === 'circle' ? [i] : []));
      expect(holes.length).toBeGreaterThan(3);
      for (const h of holes)
        for (let k = 0; k < 24; k++) {
          const a = (2 * Math.PI * k) / 24;
          const edge: Pair = [h.at[0] + (h.radius + 1) * Math.cos(a), h.at[1] + (h.radius + 1) * Math.sin(a)];
          expect(inside(points, edge)).toBe(true);
        }
      holes.forEach((h, i) => {
        for (const o of holes.slice(i + 1))
          expect(Math.hypot(h.at[0] - o.at[0], h.at[1] - o.at[1])).toBeGreaterThan(h.radius + o.radius + 0.5);
      });
    }
  });
  it('have no crossing at the nose under a skin of any thickness', () => {
    for (const thickness of [0.0005, 0.0013, 0.0017, 0.0024])
      for (const to of [0.25, 1])
        for (const rib of ribs(wing({ ...BUILT, skin: { material: 'spruce', thickness, to } }), CUT_DEFAULTS))
          expect(crosses(contourOf(rib).points)).toBe(false);
  });
  it('weigh what the members weigh', () => {
    const surface = wing({ ...BUILT, spars: [], ribs: { ...BUILT.ribs!, holes: 0.2 } });
    const weight = memberMasses(surface, lookup).find((m) => m.id === 'ribs')!.mass;
    const cut = ribs(surface).reduce((sum, r) => sum + r.mass * r.count, 0);
    expect(cut / weight).toBeCloseTo(1, 1);
  });
  it('have notches as wide and as deep as the caps, and a hole as large as the tube, with room and kerf', () => {
    const [plain] = ribs(wing());
    const [cut] = ribs(wing(), { kerf: 0.4, clearance: 0.1 });
    const hole = (r: MadePart) =>
      r.items.flatMap((i) => (i.kind === 'circle' && Math.abs(i.at[0] - 180) < 1 ? [i.radius] : []))[0];
    expect(hole(plain)).toBeCloseTo(4, 9);
    expect(hole(cut)).toBeCloseTo(4 + 0.1 - 0.2, 9);
    const width = (r: MadePart) => {
      const level = contourOf(r).points;
      const long = level.slice(1).flatMap((p, i) => {
        const flat = Math.abs(p[1] - level[i][1]) < 1e-9 && Math.abs(0.5 * (p[0] + level[i][0]) - 90) < 1;
        return flat ? [Math.abs(p[0] - level[i][0])] : [];
      });
      return Math.max(...long);
    };
    expect(width(plain)).toBeCloseTo(14, 2);
    expect(width(cut)).toBeCloseTo(14 + 0.2 - 0.4, 2);
  });
  it('are nose and tail about a solid spar', () => {
    const list = ribs(wing({ ...BUILT, spars: [spar({ kind: 'solid', width: 0.006 })] }));
    expect(list).toHaveLength(22);
    expect(list[0].label).toMatch(/ a$/);
    const [nose, tail] = list.map((r) => contourOf(r).points.map((p) => p[0]));
    expect(Math.min(...tail) - Math.max(...nose)).toBeCloseTo(6, 6);
  });
  it('refuse two slots that overlap; a printed part has a hole for one of them', () => {
    const twice = { ...BUILT, spars: [TUBE, { ...TUBE, id: 'other', name: 'Other tube', at: 0.61 }] };
    expect(() => ribs(wing(twice))).toThrow(/slots for Rear tube and Other tube overlap/);
    const surface = wing({ ...twice, ribs: undefined }, [0.24, 0.16]);
    const list = printedParts(surface, new SurfaceShape(surface, lookup), { width: 250, depth: 250, height: 200 });
    expect(list[0].notes.join()).toMatch(/no hole for Other tube/);
    for (const p of list) expect(meshFacts(p.mesh).closed).toBe(true);
  });
  it('refuse a slot through the edge, and a spar that leaves the skin', () => {
    const near = spar({ kind: 'tube', width: 0.0292, wall: 0.001, at: 0.3 });
    expect(() =>
      ribs(wing({ ...BUILT, skin: undefined, spars: [near] }, [0.2, 0.2]), { kerf: 0, clearance: 1 }),
    ).toThrow(expect.objectContaining({ code: 'slot-edge' }));
    expect(() => ribs(wing({ ...BUILT, spars: [{ ...TUBE, width: 0.05 }] }))).toThrow(
      expect.objectContaining({ code: 'spar-outside' }),
    );
    expect(() => ribs(wing({ ...BUILT, spars: [spar({ cap: 0.014, tipCap: 0.014 })] }))).toThrow(
      expect.objectContaining({ code: expect.stringMatching(/slot-edge|spar-outside/) }),
    );
  });
});

describe('skins laid flat', () => {
  it('keep lengths and areas: a cone is exact', () => {
    const ring = (r: number, z: number) =>
      Array.from({ length: 61 }, (_, k) => {
        const a = (Math.PI * k) / 60;
        return { x: r * Math.cos(a), y: r * Math.sin(a), z };
      });
    const { first, second, warpDeg } = unrolled(ring(0.1, 0), ring(0.06, 0.3));
    const long = (l: Pair[]) => l.slice(1).reduce((s, p, i) => s + Math.hypot(p[0] - l[i][0], p[1] - l[i][1]), 0);
    expect(long(first)).toBeCloseTo(100 * Math.PI, 0);
    expect(long(second)).toBeCloseTo(60 * Math.PI, 0);
    const slant = Math.hypot(300, 40);
    first.forEach((p, i) => expect(Math.hypot(p[0] - second[i][0], p[1] - second[i][1])).toBeCloseTo(slant, 6));
    // All of the inner line lies about the cone's apex.
    expect(warpDeg).toBeLessThan(0.1);
  });
  it('weigh what the skin weighs, and lie on sheets that hold them', () => {
    const { parts } = made(wing());
    const skins = parts.filter((p) => p.kind === 'skin');
    const weight = memberMasses(wing(), lookup).find((m) => m.id === 'skin')!.mass;
    expect(skins.reduce((sum, p) => sum + p.mass * p.count, 0) / weight).toBeCloseTo(1, 1);
    for (const p of skins) expect(p.length).toBeLessThan(600);
  });
});

describe('files of parts', () => {
  it('hold every part once for either side, read by an independent reader, within their sheets', () => {
    const { files, parts } = made(wing());
    for (const [name, content] of files) {
      if (!name.endsWith('.dxf')) continue;
      const read = new DxfParser().parseSync(content as string)!;
      const lines = read.entities.filter((e) => e.type === 'LWPOLYLINE') as unknown as {
        layer: string;
        shape: boolean;
        vertices: { x: number; y: number }[];
      }[];
      for (const l of lines.filter((e) => e.layer === 'cut')) {
        expect(l.shape).toBe(true);
        const sheet = Math.floor(l.vertices[0].x / 640);
        for (const v of l.vertices) {
          expect(v.x).toBeGreaterThan(640 * sheet);
          expect(v.x).toBeLessThan(640 * sheet + 600);
          expect(v.y).toBeGreaterThan(0);
          expect(v.y).toBeLessThan(300);
        }
      }
    }
    const balsa = new DxfParser().parseSync(files.get('balsa-light-3-mm.dxf') as string)!;
    expect(balsa.entities.filter((e) => e.type === 'LWPOLYLINE' && e.layer === 'cut')).toHaveLength(22);
    const list = files.get('parts.csv') as string;
    expect(list.split('\r\n')[0]).toMatch(/^part,kind,material,"thickness, mm",count/);
    expect(list).toMatch(/Rear tube, ⌀8\.0 × 1\.0 mm/);
    expect(parts.filter((p) => p.kind === 'web')).toHaveLength(10);
  });
  it('refuse a sheet that is smaller than a rib, and an airframe of nothing', () => {
    expect(() => made(wing(), { sheet: { width: 200, height: 100 } })).toThrow(
      expect.objectContaining({ code: 'sheet' }),
    );
    expect(() => made(wing(), { sheet: { width: NaN, height: 100 } })).toThrow(
      expect.objectContaining({ code: 'sheet' }),
    );
    expect(() =>
      makeParts({ name: 'x', surfaces: [], bodies: [], lookup, sheet: { width: 600, height: 300 } }),
    ).toThrow(expect.objectContaining({ code: 'no-structure' }));
  });
});

describe('printed parts', () => {
  const printer = { width: 200, depth: 200, height: 180 };
  it('are closed, fit the printer, and add up to the wing without the holes of its tubes', () => {
    const surface = wing({ spars: [TUBE] }, [0.24, 0.16]);
    const list = printedParts(surface, new SurfaceShape(surface, lookup), printer);
    let volume = 0;
    for (const { mesh } of list) {
      const facts = meshFacts(mesh);
      expect(facts.closed).toBe(true);
      expect(facts.volume).toBeGreaterThan(0);
      volume += 2 * facts.volume;
      let high = 0;
      for (let i = 2; i < mesh.vertices.length; i += 3) {
        expect(mesh.vertices[i]).toBeGreaterThan(-1e-9);
        high = Math.max(high, mesh.vertices[i]);
      }
      expect(1000 * high).toBeLessThanOrEqual(180 + 1e-6);
    }
    const whole = partMeshes([surface as LiftingSurface], [], lookup).reduce((s, m) => s + meshFacts(m).volume, 0);
    const hole = 2 * 1.2 * Math.PI * 0.0041 ** 2;
    expect((volume + hole) / whole).toBeCloseTo(1, 1);
    expect(list.length).toBe(7);
  });
  it('are cut along the chord where it is too long', () => {
    const surface = wing({ spars: [] }, [0.5, 0.4]);
    const list = printedParts(surface, new SurfaceShape(surface, lookup), printer);
    expect(list.some((p) => /[abc]$/.test(p.label))).toBe(true);
    for (const p of list) expect(meshFacts(p.mesh).closed).toBe(true);
    expect(() => printedParts(surface, new SurfaceShape(surface, lookup), { ...printer, height: 5 })).toThrow(
      expect.objectContaining({ code: 'printer' }),
    );
  });
});

describe('wire paths of cores', () => {
  it('have as many points at both ends, and lie outside of the core by half of what the wire melts', () => {
    const surface = wing({ spars: [], core: { material: 'foam-hard' } });
    const [path] = wirePaths(surface, new SurfaceShape(surface, lookup), 1.2);
    expect(path.inner).toHaveLength(path.outer.length);
    const height = (l: Pair[]) => Math.max(...l.map((p) => p[1])) - Math.min(...l.map((p) => p[1]));
    const { ring } = new SurfaceShape(surface, lookup).at(0);
    const own = 1000 * (Math.max(...ring.map((p) => p[1])) - Math.min(...ring.map((p) => p[1])));
    expect(height(path.inner) - own).toBeCloseTo(1.2, 1);
    expect(path.span).toBeCloseTo(1000 * (1.2 / Math.cos(3 * RAD)), 3);
  });
});
