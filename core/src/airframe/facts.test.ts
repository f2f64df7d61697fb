import { RAD } from '../numerics';
import type { SectionSource } from '../shaping';
import { sectionFacts } from '../section';
import { sourceOutline } from '../shaping';
import { addBodyStation, bodyFacts, bodyRings, type Body } from './body';
import { newSurface } from './edits';
import { newBody } from './new-body';
import { planformOf } from './planform';
import { areaParts, sizeOf, skinPoints, surfaceFacts, tailFacts } from './surface-facts';
import type { LiftingSurface } from './types';

const lookup = (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge: 'sharp' });
const wing = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 1, y: 0, z: 0.2 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.4, twistDeg: 0, section: '0012' },
    { chord: 0.4, twistDeg: 0, section: '0012' },
  ],
  bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }],
  ...more,
});

describe('facts of a lifting surface', () => {
  it('a straight wing: areas and spans in closed form', () => {
    const f = surfaceFacts(wing(), lookup);
    expect(f.areaTrue).toBeCloseTo(1.6, 12);
    expect(f.areaProjected).toBeCloseTo(1.6, 12);
    expect([f.spanTrue, f.spanProjected, f.aspectRatio, f.taper, f.meanChord]).toEqual([
      4,
      4,
      expect.closeTo(10, 10),
      1,
      0.4,
    ]);
    expect(f.mac).toEqual({
      chord: expect.closeTo(0.4, 12),
      x: expect.closeTo(1, 12),
      y: expect.closeTo(1, 12),
      z: expect.closeTo(0.2, 12),
    });
    const { x, y } = sourceOutline(lookup('0012'), 241);
    let around = 0;
    for (let i = 1; i < x.length; i++) around += Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]);
    const tips = 2 * sectionFacts({ x, y }).area * 0.16;
    expect(Math.abs(f.areaWetted / (around * 0.4 * 4 + tips) - 1)).toBeLessThan(1e-3);
  });
  it('a tapered wing with dihedral and sweep: the mean chord of the textbook, the true span along the dihedral', () => {
    const f = surfaceFacts(
      wing({
        stations: [
          { chord: 0.6, twistDeg: 0, section: '0012' },
          { chord: 0.3, twistDeg: 0, section: '0009' },
        ],
        bays: [{ span: 2, sweepDeg: 20, dihedralDeg: 10 }],
      }),
      lookup,
    );
    const t = 0.5;
    expect(f.mac.chord).toBeCloseTo((2 / 3) * 0.6 * ((1 + t + t * t) / (1 + t)), 12);
    expect(f.mac.y).toBeCloseTo((2 / 3) * ((1 + 2 * t) / (1 + t)), 12);
    expect(f.mac.z).toBeCloseTo(0.2 + f.mac.y * Math.tan(10 * RAD), 12);
    expect(f.spanProjected).toBeCloseTo(4, 12);
    expect(f.spanTrue).toBeCloseTo(4 / Math.cos(10 * RAD), 12);
    expect(f.areaProjected).toBeCloseTo(1.8, 12);
    expect(f.areaTrue).toBeCloseTo(1.8 / Math.cos(10 * RAD), 12);
    expect(f.areaWetted).toBeGreaterThan(2 * f.areaTrue);
    expect(f.areaWetted).toBeLessThan(2.15 * f.areaTrue);
  });
  it('tails have a lever and a volume coefficient; the size is that of the box about all', () => {
    const tail = wing({
      id: 'tail',
      role: 'tailplane',
      position: { x: 3, y: 0, z: 0.2 },
      bays: [{ span: 0.5, sweepDeg: 0, dihedralDeg: 0 }],
    });
    const fin = wing({
      id: 'fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: false,
      position: { x: 3, y: 0, z: 0.2 },
      bays: [{ span: 0.5, sweepDeg: 0, dihedralDeg: 0 }],
    });
    const [t, v] = tailFacts([wing(), tail, fin]);
    expect(t.arm).toBeCloseTo(2, 12);
    expect(t.volumeCoefficient).toBeCloseTo((0.4 * 2) / (1.6 * 0.4), 12);
    expect(v.volumeCoefficient).toBeCloseTo((0.2 * 2) / (1.6 * 4), 12);
    expect([t.verticalVolume, v.horizontalVolume]).toEqual([0, 0].map((z) => expect.closeTo(z, 12)));
    // A V-tail works in both, by the squares of cosine and sine.
    const vee = { ...tail, bays: [{ span: 0.5, sweepDeg: 0, dihedralDeg: 35 }] };
    const [both] = tailFacts([wing(), vee]);
    const area = 0.4 / Math.cos(35 * RAD);
    const shares = [Math.cos, Math.sin].map((f) => f(35 * RAD) ** 2);
    const along = areaParts(vee);
    expect(along.horizontal / along.vertical).toBeCloseTo(shares[0] / shares[1], 10);
    expect([area, area * Math.cos(35 * RAD)].some((s) => Math.abs(along.horizontal + along.vertical - s) < 1e-9)).toBe(
      true,
    );
    expect(both.horizontalVolume).toBeCloseTo((along.horizontal * both.arm) / (1.6 * 0.4), 12);
    expect(both.verticalVolume).toBeCloseTo((along.vertical * both.arm) / (1.6 * 4), 12);
    const size = sizeOf([...skinPoints(wing(), lookup), ...skinPoints(fin, lookup)]);
    expect(size.width).toBeCloseTo(4, 10);
    expect(size.length).toBeCloseTo(2.4, 3);
    expect(size.height).toBeCloseTo(0.5 + 0.06 * 0.4, 3);
  });
});

const body = (more: Partial<Body> = {}): Body => ({
  id: 'pod',
  name: 'Pod',
  mirrored: false,
  position: { x: 0, y: 0, z: 0 },
  loft: 'smooth',
  stations: [],
  ...more,
});
const station = (x: number, width: number, height: number, more: object = {}) => ({
  x,
  width,
  height,
  z: 0,
  shape: 'ellipse' as const,
  corner: 0.3,
  ...more,
});

describe('facts of a body', () => {
  it('an ellipsoid of revolution: area, volume and shadow in closed form', () => {
    const [a, r] = [1, 0.25];
    const stations = Array.from({ length: 9 }, (_, i) => {
      const x = a * (1 - Math.cos((Math.PI * i) / 8));
      const w = i === 0 || i === 8 ? 0 : 2 * r * Math.sqrt(1 - ((x - a) / a) ** 2);
      return station(x, w, w);
    });
    const f = bodyFacts(body({ stations }));
    const e = Math.sqrt(1 - (r / a) ** 2);
    expect(Math.abs(f.volume / ((4 / 3) * Math.PI * a * r * r) - 1)).toBeLessThan(1e-3);
    expect(Math.abs(f.areaWetted / (2 * Math.PI * r * r * (1 + (a / (r * e)) * Math.asin(e))) - 1)).toBeLessThan(1e-3);
    expect(Math.abs(f.frontalArea / (Math.PI * r * r) - 1)).toBeLessThan(1e-3);
    expect(f.length).toBeCloseTo(2, 12);
    expect(bodyFacts(body({ stations, mirrored: true })).volume).toBeCloseTo(2 * f.volume, 12);
  });
  it('a cone, a cylinder and a box, by straight lofts', () => {
    const cone = bodyFacts(body({ loft: 'straight', stations: [station(0, 0, 0), station(1, 0.5, 0.5)] }));
    expect(Math.abs(cone.volume / ((Math.PI * 0.0625) / 3) - 1)).toBeLessThan(1e-3);
    expect(Math.abs(cone.areaWetted / (Math.PI * 0.25 * Math.hypot(1, 0.25) + Math.PI * 0.0625) - 1)).toBeLessThan(
      2e-3,
    );
    const box = bodyFacts(
      body({ loft: 'straight', stations: [0, 2].map((x) => station(x, 0.4, 0.3, { shape: 'box', corner: 0 })) }),
    );
    expect(box.volume).toBeCloseTo(0.24, 10);
    expect(box.areaWetted).toBeCloseTo(2 * (0.4 * 0.3 + 2 * 0.4 + 2 * 0.3), 10);
    expect(box.frontalArea).toBeCloseTo(0.12, 10);
    const round = bodyFacts(
      body({ loft: 'straight', stations: [0, 1].map((x) => station(x, 0.4, 0.4, { shape: 'box', corner: 0.5 })) }),
    );
    expect(round.volume).toBeCloseTo(0.16 - (4 - Math.PI) * 0.01, 3);
  });
  it('a body that rises casts a longer shadow than its cross-section', () => {
    const f = bodyFacts(body({ loft: 'straight', stations: [station(0, 0.2, 0.2), station(1, 0.2, 0.2, { z: 0.3 })] }));
    expect(f.frontalArea).toBeGreaterThan(0.2 * 0.3);
    expect(f.frontalArea).toBeCloseTo(0.2 * 0.3 + Math.PI * 0.01, 3);
  });
  it('a smooth loft does not overshoot its stations', () => {
    const rings = bodyRings(
      body({ stations: [station(0, 0, 0), station(0.2, 0.3, 0.3), station(1, 0.3, 0.3), station(1.4, 0.05, 0.05)] }),
    );
    for (const r of rings) expect(Math.max(...r.map((p) => p.y))).toBeLessThanOrEqual(0.15 + 1e-12);
  });
  it.each([
    [[station(0, 0.1, 0.1), station(-1, 0.1, 0.1)], /behind the station before/],
    [[station(0, 0.1, 0.1), station(0, 0.1, 0.1)], /behind the station before/],
    [[station(0, 0, 0), station(1, 0, 0)], /a width and a height/],
    [[station(0, 0.1, 0.1)], /two stations/],
    [[station(0, -1, 0.1), station(1, 0.1, 0.1)], /Width must be from 0 m/],
    [[station(0, NaN, 0.1), station(1, 0.1, 0.1)], /number|must/],
  ])('is refused with the field: %#', (stations, message) => {
    expect(() => bodyFacts(body({ stations }))).toThrow(message);
  });
});

describe('editing a body', () => {
  it('a first one begins ahead of the wing and reaches the tail', () => {
    const wing = newSurface({ role: 'wing', section: 'naca:2411', span: 4 }, []);
    const tail = newSurface({ role: 'tailplane', section: 'naca:0009', span: 4 }, [wing]);
    const chord = planformOf(wing).mac.chord;
    const alone = newBody([], [wing]);
    const end = (b: Body) => b.position.x + b.stations[b.stations.length - 1].x;
    expect(alone.position.x).toBeLessThan(wing.position.x - 1.5 * chord);
    expect(end(alone)).toBeGreaterThan(wing.position.x + 3 * chord);
    expect(end(newBody([], [wing, tail]))).toBeCloseTo(tail.position.x + tail.stations[0].chord, 2);
    expect(Math.max(...alone.stations.map((s) => s.width))).toBeLessThan(chord);
  });
  it('a new one is a body; a station goes between its neighbours, or behind the last', () => {
    const first = newBody([], []);
    expect(bodyFacts(first).volume).toBeGreaterThan(0);
    const second = newBody([first], []);
    expect(second.id).not.toBe(first.id);
    const b = structuredClone(first);
    addBodyStation(b, 1);
    addBodyStation(b, b.stations.length - 1);
    expect(b.stations).toHaveLength(7);
    expect(b.stations[2]).toMatchObject({ x: 0.5 * (first.stations[1].x + first.stations[2].x) });
    expect(() => bodyFacts(b)).not.toThrow();
  });
});
