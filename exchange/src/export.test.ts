import DxfParser from 'dxf-parser';
import Papa from 'papaparse';
import { SVGPathData } from 'svg-pathdata';
import { Mesh, type BufferGeometry, type Object3D } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { meshFacts, partMeshes, surfaceFacts, type Body, type LiftingSurface } from '@veldtwind/core/airframe';
import type { SectionSource } from '@veldtwind/core/shaping';
import { exportAirframe, type ExportRequest } from './export';
import { inset } from './inset';

const lookup = (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge: 'published' });
const wing: LiftingSurface = {
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0.05 },
  incidenceDeg: 1,
  stations: [
    { chord: 0.4, twistDeg: 0, section: '4415' },
    { chord: 0.3, twistDeg: -1, section: '4415', edges: { leading: { run: 'inboard' }, trailing: { run: 'inboard' } } },
    { chord: 0.12, twistDeg: -2, section: '0009' },
  ],
  bays: [
    { span: 1.2, sweepDeg: 1.5, dihedralDeg: 3 },
    { span: 0.3, sweepDeg: 22, dihedralDeg: 45 },
  ],
  controls: [
    {
      id: 'flap',
      name: 'Flap',
      from: 0.1,
      to: 0.5,
      hinge: 0.75,
      kind: 'symmetric',
      deflectionDeg: 0,
      limitsDeg: [-5, 40],
    },
  ],
};
const fins: LiftingSurface = {
  ...wing,
  id: 'fin',
  name: 'Fin',
  role: 'fin',
  plane: 'vertical',
  attachedTo: { body: 'boom', share: 0.8 },
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.2, twistDeg: 0, section: '0009' },
    { chord: 0.14, twistDeg: 0, section: '0009' },
  ],
  bays: [{ span: 0.25, sweepDeg: 20, dihedralDeg: 0 }],
  controls: undefined,
};
const boom: Body = {
  id: 'boom',
  name: 'Boom "slim" <1>',
  mirrored: true,
  loft: 'smooth',
  position: { x: 0.1, y: 0.35, z: 0 },
  stations: [
    { x: 0, width: 0, height: 0, z: 0, shape: 'ellipse', corner: 0.3 },
    { x: 0.2, width: 0.06, height: 0.08, z: 0, shape: 'box', corner: 0.5 },
    { x: 1.1, width: 0.04, height: 0.04, z: 0.02, shape: 'ellipse', corner: 0.3 },
  ],
};
const request = (more: Partial<ExportRequest>): ExportRequest => ({
  name: 'Straight',
  surfaces: [wing, fins],
  bodies: [boom],
  lookup,
  format: 'stl',
  ...more,
});
const meshes = () => {
  const placed = { ...fins, attachedTo: undefined, position: { x: 0.98, y: 0.35, z: 0.0151111 } };
  return partMeshes([wing, placed], [boom], lookup);
};
const wanted = () => meshes().reduce((sum, m) => sum + meshFacts(m).volume, 0);

/** Volume of a read geometry; its vertices need not be shared. */
function volumeOf(geometry: BufferGeometry): number {
  const places = geometry.getAttribute('position');
  const index = geometry.getIndex();
  const n = index ? index.count : places.count;
  const at = (i: number) => (index ? index.getX(i) : i);
  let sum = 0;
  for (let i = 0; i < n; i += 3) {
    const [a, b, c] = [at(i), at(i + 1), at(i + 2)].map((k) => [places.getX(k), places.getY(k), places.getZ(k)]);
    sum +=
      (a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])) /
      6;
  }
  return sum;
}
const geometries = (root: Object3D): BufferGeometry[] => {
  const found: BufferGeometry[] = [];
  root.traverse((o) => o instanceof Mesh && found.push(o.geometry as BufferGeometry));
  return found;
};
const buffer = (content: Uint8Array | string) => {
  const bytes = content as Uint8Array;
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
};

describe('meshes, read back by other readers', () => {
  it.each([
    ['m', 1],
    ['mm', 1e9],
  ] as const)('STL in %s has the volume of all parts', async (unit, scale) => {
    const { content } = await exportAirframe(request({ unit }));
    const read = new STLLoader().parse(buffer(content));
    expect(Math.abs(volumeOf(read) / (scale * wanted()) - 1)).toBeLessThan(1e-4);
  });
  it('OBJ has an object a part', async () => {
    const { content } = await exportAirframe(request({ format: 'obj' }));
    const read = new OBJLoader().parse(content as string);
    expect(read.children.map((c) => c.name)).toEqual(['wing', 'fin', 'fin-left', 'boom', 'boom-left']);
    const sum = geometries(read).reduce((s, g) => s + volumeOf(g), 0);
    expect(Math.abs(sum / wanted() - 1)).toBeLessThan(1e-4);
  });
  it('GLB stands upright with its nose ahead', async () => {
    const { content } = await exportAirframe(request({ format: 'glb' }));
    const read = await new Promise<{ scene: Object3D }>((done, fail) =>
      new GLTFLoader().parse(buffer(content), '', done as never, fail),
    );
    const found = geometries(read.scene);
    expect(found).toHaveLength(5);
    expect(Math.abs(found.reduce((s, g) => s + volumeOf(g), 0) / wanted() - 1)).toBeLessThan(1e-4);
    found.forEach((g) => g.computeBoundingBox());
    const box = found[0].boundingBox!;
    // The wing: 3 m along x, its tips up along y, aft along −z.
    expect(box.max.x - box.min.x).toBeCloseTo(3, 2);
    expect(box.max.y).toBeGreaterThan(0.3);
    expect(box.min.z).toBeLessThan(-0.4);
    expect(box.max.z).toBeLessThan(0.01);
  });
});

describe('drawings', () => {
  const dxf = async (what: string, ribs = {}) => {
    const made = await exportAirframe(request({ format: 'dxf', what, ribs }));
    const read = new DxfParser().parseSync(made.content as string)!;
    return { read, notes: made.notes };
  };
  type Entity = {
    type: string;
    layer: string;
    vertices?: { x: number; y: number }[];
    shape?: boolean;
    text?: string;
    radius?: number;
  };
  const entities = (read: { entities: unknown[] }) => read.entities as Entity[];

  it('a three-view in DXF is at true scale in millimetres', async () => {
    const { read } = await dxf('three-view');
    expect(read.header.$INSUNITS).toBe(4);
    const lines = entities(read).filter((e) => e.type === 'LWPOLYLINE' && e.layer === 'line');
    const xs = lines.flatMap((e) => e.vertices!.map((v) => v.x));
    // Both views across the span are 3 m wide.
    const wide = lines.filter((e) => Math.max(...e.vertices!.map((v) => v.x)) > 1499.9);
    expect(wide.length).toBeGreaterThanOrEqual(2);
    expect(Math.min(...xs)).toBeCloseTo(-1500, 1);
    expect(entities(read).some((e) => e.type === 'TEXT' && /span 3000 mm/.test(e.text!))).toBe(true);
  });
  it('ribs lie on their sheets, apart, at true scale, with their skin taken off and their holes', async () => {
    const { read, notes } = await dxf('ribs', {
      skin: 1.5,
      spacing: 200,
      holes: [
        { at: 0.3, width: 6, height: 20 },
        { at: 0.6, width: 5 },
      ],
      sheet: { width: 800, height: 450 },
    });
    const all = entities(read);
    const cuts = all.filter((e) => e.layer === 'cut');
    const sheets = all.filter((e) => e.layer === 'sheet' && e.type === 'LWPOLYLINE');
    expect(sheets.length).toBeGreaterThan(0);
    const box = (e: Entity) => {
      const [xs, ys] = [e.vertices!.map((v) => v.x), e.vertices!.map((v) => v.y)];
      return [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    };
    for (const c of cuts) {
      const [a, b, d, e] = box(c);
      expect(sheets.map(box).some((s) => a >= s[0] && b <= s[1] && d >= s[2] && e <= s[3])).toBe(true);
      for (const o of cuts) {
        if (o === c) continue;
        const [p, q, r, s] = box(o);
        expect(b < p || q < a || e < r || s < d).toBe(true);
      }
    }
    // Ribs of the wing at 0 … 1202 mm in seven steps, of its tip in two, of the fin in two; two frames.
    expect(cuts).toHaveLength(8 + 3 + 3 + 2);
    const longest = Math.max(...cuts.map((c) => Math.max(box(c)[1] - box(c)[0], box(c)[3] - box(c)[2])));
    expect(longest).toBeLessThan(400);
    expect(longest).toBeGreaterThan(380);
    expect(all.filter((e) => e.type === 'CIRCLE' && e.radius === 2.5).length).toBeGreaterThan(6);
    expect(all.filter((e) => e.type === 'TEXT' && /^Wing \d+, \d+ mm$/.test(e.text!))).toHaveLength(11);
    expect(notes.join()).toMatch(/16 parts on/);
    expect(notes.join()).toMatch(/Fin 1, 0 mm: spar 6×20 does not fit/);
  });
  it('SVG is a drawing in millimetres whose words cannot be markup', async () => {
    const { content } = await exportAirframe(request({ format: 'svg', what: 'ribs' }));
    const text = content as string;
    expect(text).toMatch(/width="[\d.]+mm"/);
    expect(text).not.toContain('<1>');
    expect(text).toContain('&quot;slim&quot; &lt;1&gt;');
    const paths = [...text.matchAll(/<path d="([^"]+)"[^>]*data-layer="cut"/g)].map((m) => new SVGPathData(m[1]));
    expect(paths.length).toBeGreaterThan(10);
    const widths = paths.map((p) => p.getBounds()).map((b) => Math.max(b.maxX - b.minX, b.maxY - b.minY));
    expect(Math.max(...widths)).toBeGreaterThan(380);
  });
  it('an outline moved inward keeps its distance, and ends where nothing is left', () => {
    const square: [number, number][] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ];
    const inner = inset(square, 1);
    for (const [x, y] of inner) {
      expect(Math.min(x, y, 10 - x, 10 - y)).toBeGreaterThan(0.98);
      expect(Math.min(x, y, 10 - x, 10 - y)).toBeLessThan(1.1);
    }
    expect(inset(square, 6).length).toBeLessThan(3);
    expect(inset([...square].reverse(), 1).length).toBe(inner.length);
  });
});

describe('tables and what is refused', () => {
  it('stations and section points come back from CSV', async () => {
    const read = (content: Uint8Array | string) =>
      Papa.parse<Record<string, string>>(content as string, { header: true, skipEmptyLines: true }).data;
    const stations = read((await exportAirframe(request({ format: 'csv' }))).content);
    expect(stations.map((r) => r.part)).toEqual(['wing', 'wing', 'wing', 'fin', 'fin', 'boom', 'boom', 'boom']);
    expect(Number(stations[0].chord)).toBe(0.4);
    expect(Number(stations[2].quarterY)).toBeCloseTo(1.5, 9);
    expect(Number(stations[3].quarterX)).toBeGreaterThan(0.97);
    const points = read((await exportAirframe(request({ format: 'csv', what: 'sections' }))).content);
    expect(points.length).toBe(5 * 121);
    const chord = surfaceFacts(wing, lookup).mac.chord;
    expect(chord).toBeGreaterThan(0.3);
  });
  it('says what cannot be asked for', async () => {
    await expect(exportAirframe(request({ format: 'iges' as never }))).rejects.toThrow(/no format "iges"/);
    await expect(exportAirframe(request({ what: 'ribs' }))).rejects.toThrow(/stl is always of the whole airframe/);
    await expect(exportAirframe(request({ format: 'dxf', what: 'rib' }))).rejects.toThrow(/"rib" is none of them/);
    await expect(exportAirframe(request({ format: 'glb', unit: 'mm' }))).rejects.toThrow(/says its unit itself/);
    await expect(exportAirframe(request({ unit: 'ft' }))).rejects.toThrow(/no unit "ft"/);
    await expect(exportAirframe(request({ surfaces: [], bodies: [] }))).rejects.toThrow(/no parts/);
    const ribs = (ribs: object) => exportAirframe(request({ format: 'dxf', what: 'ribs', ribs }));
    await expect(ribs({ sheet: { width: 200, height: 100 } })).rejects.toThrow(
      /a sheet of 200 × 100 mm does not hold it/,
    );
    await expect(ribs({ spacing: NaN })).rejects.toThrow(/distance of ribs must be from 5/);
    await expect(ribs({ spacing: 5, skin: 0, sheet: { width: 9000, height: 9000 } })).resolves.toBeDefined();
    await expect(ribs({ holes: [{ at: 2, width: 5 }] })).rejects.toThrow(/chord fraction between 0 and 1/);
  });
});
