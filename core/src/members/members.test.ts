import { madeSurface } from '../airframe/testing';
import { MATERIALS, materialOf, rectangleTorsion, tube, type Spar, type SurfaceStructure } from '../structure';
import type { SectionSource } from '../shaping';
import { crossSection, memberMasses, ribPlaces, sectionStress, SurfaceShape, type BuiltSurface } from '.';

const source: SectionSource = { kind: 'designation', designation: '0012', trailingEdge: 'sharp' };
const lookup = () => source;
const spar = (more: Partial<Spar>): Spar => ({
  id: 'main',
  name: 'Main spar',
  kind: 'solid',
  material: 'spruce',
  at: 0.3,
  from: 0,
  to: 1,
  width: 0.01,
  ...more,
});
const wing = (structure: Partial<SurfaceStructure>, more: { sweep?: number; tip?: number } = {}): BuiltSurface => ({
  ...madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [0.4, more.tip ?? 0.4], 2, {
    section: '0012',
    sweep: more.sweep ?? 0,
  }),
  structure: { spars: [], ...structure },
});
const cut = (surface: BuiltSurface, share = 0.5) =>
  crossSection(surface, new SurfaceShape(surface, lookup).at(share), 0, 0.2);

describe('cross-sections of a built wing', () => {
  it('of two tubes are both together, with the axis between them by their stiffness', () => {
    const [a, b] = [tube(0.02, 1e-3), tube(0.012, 1e-3)];
    const material = MATERIALS['carbon-rod'];
    const of = cut(
      wing({
        spars: [
          spar({ kind: 'tube', material: 'carbon-rod', width: 0.02, wall: 1e-3 }),
          spar({ id: 'rear', kind: 'tube', material: 'carbon-rod', at: 0.7, width: 0.012, wall: 1e-3 }),
        ],
      }),
    );
    expect(of.EI / (material.modulus * (a.I + b.I))).toBeCloseTo(1, 12);
    expect(of.GJ / (2 * material.shearModulus * (a.I + b.I))).toBeCloseTo(1, 12);
    expect(of.axis).toBeCloseTo(0.4 * (0.3 + (0.4 * b.I) / (a.I + b.I)), 12);
    // σ = M R/I shared by stiffness; what it fails by first of the three.
    const [front] = sectionStress(of, 20, 0, 0);
    expect(Math.abs(front.stress)).toBeCloseTo((20 * 0.01) / (a.I + b.I), 0);
  });
  it('of a solid spar that fills the section have its rectangle', () => {
    const of = cut(wing({ spars: [spar({})] }));
    const { spars } = of;
    expect(spars[0].height).toBeCloseTo(0.12 * 0.4, 4);
    const h = spars[0].height;
    expect(of.EI).toBeCloseTo((10.5e9 * 0.01 * h ** 3) / 12, 6);
    expect(of.GJ).toBeCloseTo(0.65e9 * rectangleTorsion(0.01, h).J, 9);
    // Bending, shear and torque one by one.
    const s = (m: number, v: number, t: number) => sectionStress(of, m, v, t)[0];
    expect(s(30, 0, 0).mode).toBe('compression');
    expect(s(30, 0, 0).stress).toBeCloseTo(-(30 * 6) / (0.01 * h * h), 3);
    expect(s(0, 50, 0).stress).toBeCloseTo((1.5 * 50) / (0.01 * h), 3);
    expect(s(0, 0, 2).stress).toBeCloseTo(2 * rectangleTorsion(0.01, h).stress, 3);
    expect(s(0, 0, 2).factor).toBeCloseTo(7e6 / (2 * rectangleTorsion(0.01, h).stress), 6);
  });
  it('of a skin all round are one cell: 4 A² G t / perimeter', () => {
    const of = cut(wing({ skin: { material: 'carbon-cloth-45', thickness: 4e-4 } }));
    const { ring } = of.place;
    let [area, around] = [0, 0];
    for (let i = 0; i < ring.length; i++) {
      const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
      area += 0.5 * (a[0] * b[1] - b[0] * a[1]);
      around += Math.hypot(b[0] - a[0], b[1] - a[1]);
    }
    // The middle line of the skin lies half its thickness within.
    const middle = Math.abs(area) - 0.5 * 4e-4 * around;
    expect(of.GJ / ((27e9 * 4e-4 * 4 * middle ** 2) / around)).toBeCloseTo(1, 2);
  });
  it('close a nose skin by the web behind it, and know that one without a web is open', () => {
    const skin = { material: 'glass-cloth-45' as const, thickness: 3e-4, to: 0.3 };
    const closed = cut(
      wing({ skin, spars: [spar({ kind: 'i', cap: 2e-3, web: 1e-3, webMaterial: 'birch-plywood' })] }),
    );
    const open = cut(wing({ skin }));
    expect(closed.GJ / open.GJ).toBeGreaterThan(1000);
    // Torque shears the web too, and the members are told apart.
    const told = sectionStress(closed, 10, 20, 5).map((s) => s.member);
    expect(new Set(told)).toEqual(new Set(['skin', 'main']));
  });
  it('of an I and a box are the sum of their parts', () => {
    const of = (kind: 'i' | 'box') =>
      cut(wing({ spars: [spar({ kind, height: 0.03, width: 0.02, cap: 2e-3, web: 1.5e-3 })] }));
    const caps = 2 * 0.02 * 2e-3 * (0.014 ** 2 + 2e-3 ** 2 / 12);
    const web = (1.5e-3 * 0.026 ** 3) / 12;
    expect(of('i').EI / 10.5e9).toBeCloseTo(caps + web, 12);
    expect(of('box').EI / 10.5e9).toBeCloseTo(caps + 2 * web, 12);
    const A = 0.0185 * 0.028;
    const cell = (4 * A * A) / (2 * (0.0185 / 2e-3 + 0.028 / 1.5e-3));
    expect(of('box').GJ / (0.65e9 * cell)).toBeCloseTo(1, 1);
    expect(of('box').GJ).toBeGreaterThan(20 * of('i').GJ);
  });
  it('refuse a spar outside of the skin with the place, and a skin without room inside', () => {
    const high = wing({ spars: [spar({ height: 0.04 })] }, { tip: 0.2 });
    expect(() => cut(high, 0.9)).toThrow(expect.objectContaining({ code: 'spar-outside' }));
    expect(() => cut(high, 0.9)).toThrow(/at 90 % of the half span: it is 40.0 mm high/);
    expect(() => cut(wing({ spars: [spar({ kind: 'tube', width: 0.03, wall: 1e-3, at: 0.01 })] }))).toThrow(
      expect.objectContaining({ code: 'spar-outside' }),
    );
    expect(() => cut(wing({ skin: { material: 'spruce', thickness: 0.03 } }))).toThrow(
      expect.objectContaining({ code: 'skin-thick' }),
    );
    expect(() => cut(wing({ spars: [spar({ to: 0.4 })] }))).toThrow(expect.objectContaining({ code: 'no-structure' }));
  });
});

describe('masses of members', () => {
  it('are density times what they fill, on both sides', () => {
    const surface = wing({
      skin: { material: 'birch-plywood', thickness: 1e-3 },
      spars: [spar({ height: 0.03, kind: 'box', width: 0.02, cap: 2e-3, web: 1.5e-3, webMaterial: 'balsa-hard' })],
      ribs: { material: 'balsa-light', thickness: 3e-3, spacing: 0.1, holes: 0.4 },
    });
    const [skin, main, ribs] = memberMasses(surface, lookup);
    const { ring } = new SurfaceShape(surface, lookup).at(0);
    const around = ring.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - ring[i][0], p[1] - ring[i][1]), 0);
    expect(skin.mass).toBeCloseTo(2 * 680 * 1e-3 * around * 2, 9);
    expect(main.mass).toBeCloseTo(4 * (430 * 2 * 0.02 * 2e-3 + 180 * 2 * 1.5e-3 * 0.026), 9);
    expect(ribPlaces(2, 0.1)).toHaveLength(21);
    // The section's area less the skin on both sides of it.
    const area = 0.0822 * 0.4 ** 2 - 1e-3 * around;
    expect(ribs.mass / (2 * 21 * 110 * 3e-3 * 0.6 * area)).toBeCloseTo(1, 1);
    expect(ribs.price).toBeCloseTo(ribs.mass * 60, 9);
  });
  it('count as weighed where they were, and lie where they lay', () => {
    const plain = wing({ spars: [spar({})] }, { tip: 0.2 });
    const weighed = wing({ spars: [spar({ weighed: 0.5 })] }, { tip: 0.2 });
    const [a] = memberMasses(plain, lookup);
    const [b] = memberMasses(weighed, lookup);
    expect(b.mass).toBe(0.5);
    expect(b.computed).toBeCloseTo(a.mass, 12);
    expect(2 * b.lumps.reduce((s, l) => s + l.mass, 0)).toBeCloseTo(0.5, 12);
    const middle = (m: typeof a) =>
      m.lumps.reduce((s, l) => s + l.mass * l.y, 0) / m.lumps.reduce((s, l) => s + l.mass, 0);
    expect(middle(b)).toBeCloseTo(middle(a), 12);
    // Heights go from h to h/2: the middle of a trapezium.
    expect(middle(a) / ((2 * (1 + 2 * 0.5)) / (3 * 1.5))).toBeCloseTo(1, 3);
  });
  it('of a swept spar is as long as it lies', () => {
    const of = (sweep: number) => memberMasses(wing({ spars: [spar({ height: 0.03 })] }, { sweep }), lookup)[0].mass;
    expect(of(30) / of(0)).toBeCloseTo(1 / Math.cos(Math.PI / 6), 2);
    expect(materialOf('spruce').density).toBe(430);
  });
});
