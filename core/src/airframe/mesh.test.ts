import type { SectionSource } from '../shaping';
import { sectionFacts } from '../section';
import { sourceOutline } from '../shaping';
import type { Body } from './body';
import { meshFacts, partMeshes } from './mesh';
import { surfaceFacts } from './surface-facts';
import type { LiftingSurface } from './types';

const lookup =
  (trailingEdge: 'sharp' | 'published') =>
  (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge });
const surface = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0.2, y: 0, z: 0.1 },
  incidenceDeg: 2,
  stations: [
    { chord: 0.5, twistDeg: 0, section: '4415' },
    { chord: 0.5, twistDeg: 0, section: '4415' },
  ],
  bays: [{ span: 2, sweepDeg: 10, dihedralDeg: 0 }],
  ...more,
});
const tips = () =>
  surface({
    stations: [
      { chord: 0.5, twistDeg: 0, section: '4415' },
      {
        chord: 0.4,
        twistDeg: -1,
        section: '4415',
        edges: { leading: { run: 'inboard' }, trailing: { run: 'inboard' } },
      },
      { chord: 0.1, twistDeg: -3, section: '0009' },
    ],
    bays: [
      { span: 2, sweepDeg: 3, dihedralDeg: 2 },
      { span: 0.3, sweepDeg: 30, dihedralDeg: 60 },
    ],
  });
const body = (stations: [number, number, number][], more: Partial<Body> = {}): Body => ({
  id: 'pod',
  name: 'Pod',
  mirrored: false,
  loft: 'smooth',
  position: { x: 0, y: 0, z: 0 },
  stations: stations.map(([x, width, height]) => ({ x, width, height, z: 0, shape: 'ellipse', corner: 0.3 })),
  ...more,
});

describe('closed skins', () => {
  it.each(['sharp', 'published'] as const)('of a straight wing have its volume and area, trailing edge %s', (edge) => {
    const [mesh] = partMeshes([surface()], [], lookup(edge));
    const f = meshFacts(mesh);
    expect(f.closed).toBe(true);
    const area = sectionFacts(sourceOutline(lookup(edge)('4415'), 401)).area;
    expect(Math.abs(f.volume / (4 * 0.25 * area) - 1)).toBeLessThan(1e-3);
    // A blunt edge has a face of its own, which the wetted area leaves out.
    const facts = surfaceFacts(surface(), lookup(edge));
    expect(Math.abs(f.area / facts.areaWetted - 1)).toBeLessThan(edge === 'sharp' ? 1e-6 : 3e-3);
  });
  it('of an ellipsoid have its volume within 0.1 %', () => {
    const s = Array.from({ length: 9 }, (_, i): [number, number, number] => {
      const t = 0.5 * (1 - Math.cos((Math.PI * i) / 8));
      const r = Math.sqrt(Math.max(0, 1 - (2 * t - 1) ** 2));
      return [2 * t, 0.6 * (i % 8 === 0 ? 0 : r), 0.4 * (i % 8 === 0 ? 0 : r)];
    });
    const f = meshFacts(partMeshes([], [body(s)], lookup('sharp'))[0]);
    expect(f.closed).toBe(true);
    expect(Math.abs(f.volume / ((4 / 3) * Math.PI * 1 * 0.3 * 0.2) - 1)).toBeLessThan(1e-3);
  });
  it('are closed for every kind of part, and stand on both sides', () => {
    const fin = surface({ id: 'fin', plane: 'vertical', position: { x: 3, y: 0.4, z: 0 }, incidenceDeg: 0 });
    const open = body([
      [0, 0.2, 0.2],
      [1, 0.3, 0.3],
      [2, 0, 0.2],
    ]);
    const box = { ...open, id: 'box', mirrored: true, position: { x: 0, y: 1, z: 0 } };
    box.stations = box.stations.map((s) => ({ ...s, shape: 'box' as const, corner: 0 }));
    const meshes = partMeshes([tips(), fin, surface({ id: 'one', mirrored: false })], [open, box], lookup('sharp'));
    expect(meshes.map((m) => m.id)).toEqual(['wing', 'fin', 'fin-left', 'one', 'pod', 'box', 'box-left']);
    for (const m of meshes) {
      const f = meshFacts(m);
      expect({ id: m.id, open: f.openEdges }).toEqual({ id: m.id, open: 0 });
      expect(f.volume).toBeGreaterThan(0);
    }
    const side = (id: string) => meshFacts(meshes.find((m) => m.id === id)!).volume;
    expect(side('fin-left')).toBeCloseTo(side('fin'), 12);
  });
  it('with a hole are not called closed', () => {
    const [mesh] = partMeshes([surface()], [], lookup('sharp'));
    expect(meshFacts({ ...mesh, triangles: mesh.triangles.slice(3) }).openEdges).toBe(3);
  });
});
