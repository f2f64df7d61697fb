import { RAD } from '../numerics';
import type { SectionSource } from '../shaping';
import { letGo, standing } from './attach';
import { placeSurface, skinPlaces, trailingEdge } from './placement';
import { planformOf } from './planform';
import { surfaceFacts } from './surface-facts';
import { trueOffsets } from './true-span';
import type { EdgeFlow, LiftingSurface, StationEdges } from './types';

const lookup = (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge: 'sharp' });
const station = (chord: number, edges?: StationEdges, twistDeg = 0) => ({
  chord,
  twistDeg,
  section: '0012',
  ...(edges ? { edges } : {}),
});
const surface = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [station(1), station(0.8), station(0.3)],
  bays: [
    { span: 2, sweepDeg: 2, dihedralDeg: 2 },
    { span: 0.6, sweepDeg: 25, dihedralDeg: 40 },
  ],
  ...more,
});
const flow = (run: EdgeFlow['run'], more: Partial<EdgeFlow> = {}): EdgeFlow => ({ run, ...more });
const blended = (reach?: number) =>
  surface({
    stations: [
      station(1),
      station(0.8, { leading: flow('inboard', { reach }), trailing: flow('inboard', { reach }) }),
      station(0.3),
    ],
  });

describe('edges that flow', () => {
  it('leave a station in line with the bay inboard, and arrive where the tip stands', () => {
    const straight = placeSurface(surface());
    const placed = placeSurface(blended());
    expect(placed.curved).toEqual([false, true]);
    const h = 1e-5;
    const [a, b] = [placed.at(1, 0), placed.at(1, h)];
    const [p, q] = [straight.at(0, 1 - h), straight.at(0, 1)];
    const slope = (u: { x: number; y: number; z: number }, v: { x: number; y: number; z: number }, k: 'x' | 'z') =>
      (v[k] - u[k]) / (v.y - u.y);
    expect(slope(a.leadingEdge, b.leadingEdge, 'x')).toBeCloseTo(slope(p.leadingEdge, q.leadingEdge, 'x'), 3);
    expect(slope(trailingEdge(a), trailingEdge(b), 'x')).toBeCloseTo(slope(trailingEdge(p), trailingEdge(q), 'x'), 3);
    // Dihedral blends with the leading edge.
    expect(slope(a.leadingEdge, b.leadingEdge, 'z')).toBeCloseTo(Math.tan(2 * RAD), 3);
    const tip = placed.stations[2];
    expect(tip.leadingEdge.x).toBeCloseTo(straight.stations[2].leadingEdge.x, 12);
    expect(tip.leadingEdge.z).toBeCloseTo(straight.stations[2].leadingEdge.z, 12);
  });
  it('hold their direction longer the farther they reach', () => {
    const rise = (reach: number) => placeSurface(blended(reach)).at(1, 0.3).leadingEdge.z;
    expect(rise(0.9)).toBeLessThan(rise(0.4));
    expect(rise(0.4)).toBeLessThan(placeSurface(surface()).at(1, 0.3).leadingEdge.z);
  });
  it('reach into each bay by a strength of its own', () => {
    const rise = (more: Partial<EdgeFlow>) => {
      const placed = placeSurface(
        surface({
          stations: [station(1), station(0.8, { leading: flow('held', { angleDeg: 20, ...more }) }), station(0.3)],
        }),
      );
      return [placed.at(0, 0.6).leadingEdge.x, placed.at(1, 0.4).leadingEdge.x];
    };
    const [both, outer] = [rise({ reach: 0.3 }), rise({ reach: 0.3, reachOutboard: 0.8 })];
    expect(outer[0]).toBe(both[0]);
    expect(outer[1]).toBeCloseTo(rise({ reach: 0.8 })[1], 12);
    expect(Math.abs(outer[1] - both[1])).toBeGreaterThan(0.005);
  });
  it('run on when the numbers change: the bay inboard swept, the flow follows', () => {
    const swept = blended();
    swept.bays[0].sweepDeg = 12;
    const placed = placeSurface(swept);
    const h = 1e-5;
    const d = (placed.at(1, h).leadingEdge.x - placed.at(1, 0).leadingEdge.x) / (0.6 * h);
    const inner = Math.tan(12 * RAD) + (-0.25 * -0.2) / 2 + 0;
    expect(d).toBeCloseTo(inner, 3);
  });
  it('hold an angle, are in line outboard, or square to the plane of symmetry', () => {
    const h = 1e-6;
    const lead = (edges: StationEdges, at: number) => {
      const s = surface();
      s.stations[at] = { ...s.stations[at], edges };
      return placeSurface(s);
    };
    const held = lead({ leading: flow('held', { angleDeg: 10 }) }, 1);
    const d = (held.at(1, h).leadingEdge.x - held.at(1, 0).leadingEdge.x) / (0.6 * h);
    expect(d).toBeCloseTo(Math.tan(10 * RAD), 4);
    const root = lead({ leading: flow('inboard'), trailing: flow('inboard') }, 0);
    expect((root.at(0, h).leadingEdge.x - root.at(0, 0).leadingEdge.x) / (2 * h)).toBeCloseTo(0, 4);
    expect((root.at(0, h).leadingEdge.z - root.at(0, 0).leadingEdge.z) / (2 * h)).toBeCloseTo(0, 4);
    const out = lead({ leading: flow('outboard') }, 1);
    expect(out.curved).toEqual([true, false]);
  });
  it('keep to the straight line where both ends run along it, to 1e-12', () => {
    const s = surface();
    const own = placeSurface(s);
    const le = (own.stations[2].leadingEdge.x - own.stations[1].leadingEdge.x) / 0.6;
    s.stations[1].edges = { leading: flow('held', { angleDeg: Math.atan(le) / RAD, reach: 0.8 }) };
    // Held on both sides of the station; in the outer bay it is the straight line itself.
    const placed = placeSurface(s);
    for (const t of [0.1, 0.37, 0.8])
      expect(Math.abs(placed.at(1, t).leadingEdge.x - own.at(1, t).leadingEdge.x)).toBeLessThan(1e-12);
  });
  it('give area, mean chord and its place as a fine sum does', () => {
    const s = blended(0.6);
    const placed = placeSurface(s);
    let [area, square, edge] = [0, 0, 0];
    const n = 40000;
    for (const [b, span] of [
      [0, 2],
      [1, 0.6],
    ] as const)
      for (let k = 0; k < n / 4; k++) {
        const at = placed.at(b, (k + 0.5) / (n / 4));
        const w = span / (n / 4);
        area += w * at.chord;
        square += w * at.chord ** 2;
        edge += w * at.chord * (at.quarterChord.x - 0.25 * at.chord);
      }
    const plan = planformOf(s);
    expect(Math.abs(plan.area / (2 * area) - 1)).toBeLessThan(1e-7);
    expect(Math.abs(plan.mac.chord / (square / area) - 1)).toBeLessThan(1e-7);
    expect(Math.abs(plan.mac.leadingEdge - edge / area)).toBeLessThan(1e-7);
  });
  it('are refused where they cross, or have no neighbour', () => {
    const s = surface();
    s.stations[1].edges = {
      leading: flow('held', { angleDeg: 75, reach: 1 }),
      trailing: flow('held', { angleDeg: -75, reach: 1 }),
    };
    expect(() => surfaceFacts(s, lookup)).toThrow(/leading and trailing edge meet/);
    const tip = surface();
    tip.stations[2].edges = { leading: flow('outboard') };
    expect(() => placeSurface(tip)).toThrow(/no bay outboard/);
    const held = surface();
    held.stations[1].edges = { leading: flow('held', { angleDeg: 89 }) };
    expect(() => placeSurface(held)).toThrow(/Held at must be from -80° to 80°/);
  });
});

describe('how a surface stands', () => {
  const plain = (more: Partial<LiftingSurface> = {}) =>
    surface({ stations: [station(1), station(1)], bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }], ...more });
  it('sweep counts at any chord fraction', () => {
    const at = (sweepAt: number) =>
      placeSurface(surface({ bays: surface().bays.map((b) => ({ ...b, sweepDeg: 5, sweepAt })) }));
    const leading = at(0).stations;
    expect(leading[1].leadingEdge.x).toBeCloseTo(2 * Math.tan(5 * RAD), 12);
    const trailing = at(1).stations.map(trailingEdge);
    expect(trailing[2].x - trailing[1].x).toBeCloseTo(0.6 * Math.tan(5 * RAD), 12);
  });
  it('twist turns about any chord fraction, and may count from the station inboard', () => {
    const about = (twistAbout: number) =>
      placeSurface(plain({ stations: [station(1), { ...station(1), twistDeg: 4, twistAbout }] })).stations[1];
    expect(about(0).leadingEdge.z).toBeCloseTo(0, 12);
    expect(trailingEdge(about(1)).z).toBeCloseTo(0, 12);
    expect(about(0.25).quarterChord.z).toBeCloseTo(0, 12);
    const s = surface({ stations: [1, 0.8, 0.3].map((c) => ({ ...station(c), twistDeg: -1, twistRelative: true })) });
    expect(placeSurface(s).stations.map((p) => p.pitch / RAD)).toEqual([-1, -2, -3].map((v) => expect.closeTo(v, 12)));
    const d = surface({ bays: surface().bays.map((b) => ({ ...b, dihedralDeg: 10, dihedralRelative: true })) });
    expect(placeSurface(d).dihedrals.map((v) => v / RAD)).toEqual([10, 20].map((v) => expect.closeTo(v, 12)));
  });
  it('turned about x it is a tail in V: less wide in projection, as wide in truth', () => {
    const f = surfaceFacts(plain({ rollDeg: 35 }), lookup);
    expect(f.spanProjected).toBeCloseTo(4 * Math.cos(35 * RAD), 12);
    expect(f.spanTrue).toBeCloseTo(4, 12);
    expect(f.areaTrue).toBeCloseTo(4, 9);
    expect(f.areaProjected).toBeCloseTo(4 * Math.cos(35 * RAD), 12);
    expect(f.areaWetted).toBeCloseTo(surfaceFacts(plain(), lookup).areaWetted, 9);
  });
  it('a fin may hang down, with its area and its place', () => {
    const fin = plain({ plane: 'vertical', mirrored: false, rollDeg: 180, position: { x: 0, y: 0, z: -0.2 } });
    const f = surfaceFacts(fin, lookup);
    expect(f.areaProjected).toBeCloseTo(2, 12);
    expect(f.mac.z).toBeCloseTo(-1.2, 12);
    expect(placeSurface(fin).stations[1].leadingEdge.z).toBeCloseTo(-2.2, 12);
    expect(() => placeSurface(plain({ rollDeg: 90 }))).toThrow(/at most 75°.*Nearest that works: 75°/);
  });
  it('sections stand normal to the span where they are told to', () => {
    const s = surface({ sectionsStand: 'normal', incidenceDeg: 3 });
    for (const { at } of skinPlaces(placeSurface(s))) {
      expect(Math.hypot(at.up.x, at.up.y, at.up.z)).toBeCloseTo(1, 12);
      expect(at.up.x * at.along.x + at.up.y * at.along.y + at.up.z * at.along.z).toBeCloseTo(0, 12);
    }
    const tip = placeSurface(s).stations[2];
    expect(Math.atan2(-tip.up.y, tip.up.z) / RAD).toBeCloseTo(40, 6);
    // As long as thick: an upright one is thinner across its skin.
    const upright = surfaceFacts(
      surface({ stations: [station(1), station(1)], bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 60 }] }),
      lookup,
    );
    const normal = surfaceFacts(
      surface({
        sectionsStand: 'normal',
        stations: [station(1), station(1)],
        bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 60 }],
      }),
      lookup,
    );
    expect(normal.areaWetted).toBeGreaterThan(upright.areaWetted);
  });
  it('true shares of the span find their bay', () => {
    const s = surface();
    const t = trueOffsets(s);
    expect(t.total).toBeCloseTo(2 / Math.cos(2 * RAD) + 0.6 / Math.cos(40 * RAD), 12);
    const at = t.at(t.stations[1] / t.total + 1e-12);
    expect(at.bay).toBe(1);
    expect(t.at(1)).toEqual({ bay: 1, share: expect.closeTo(1, 9) });
  });
});

describe('what is attached', () => {
  const fin = (more: Partial<LiftingSurface> = {}) =>
    surface({
      id: 'fin',
      name: 'Fin',
      plane: 'vertical',
      position: { x: 0.1, y: 0, z: 0.02 },
      attachedTo: { surface: 'wing', share: 1, chord: 0.5 },
      ...more,
    });
  it('follows what it stands on, through a chain too', () => {
    const [wing, tip] = [surface(), fin()];
    const top = fin({ id: 'top', attachedTo: { surface: 'fin', share: 0 }, position: { x: 0, y: 0, z: 0.5 } });
    const placed = standing([top, tip, wing]);
    const end = placeSurface(wing).stations[2];
    const middle = { x: 0.5 * (end.leadingEdge.x + trailingEdge(end).x), z: end.leadingEdge.z };
    expect(placed[1].position.x).toBeCloseTo(middle.x + 0.1, 12);
    expect(placed[1].position.z).toBeCloseTo(middle.z + 0.02, 12);
    expect(placed[0].position.z).toBeCloseTo(middle.z + 0.52, 12);
    const wider = { ...wing, bays: wing.bays.map((b) => ({ ...b, span: 2 * b.span })) };
    expect(standing([wider, tip])[1].position.y).toBeCloseTo(2 * placed[1].position.y, 12);
    expect(standing([wing])[0]).toBe(wing);
  });
  it('stands on a body at a share of its length', () => {
    const boom = {
      id: 'boom',
      name: 'Boom',
      mirrored: true,
      loft: 'smooth' as const,
      position: { x: 1, y: 0.4, z: 0 },
      stations: [0, 2].map((x, i) => ({
        x,
        width: 0.1,
        height: 0.1,
        z: 0.2 * i,
        shape: 'ellipse' as const,
        corner: 0.3,
      })),
    };
    const [f] = standing([fin({ attachedTo: { body: 'boom', share: 0.75 }, position: { x: 0, y: 0, z: 0 } })], [boom]);
    expect(f.position).toEqual({ x: 2.5, y: 0.4, z: expect.closeTo(0.15, 12) });
  });
  it('stays where it stands when what it stood on goes', () => {
    const airframe = { surfaces: [surface(), fin()], bodies: [] };
    const before = standing(airframe.surfaces)[1].position;
    letGo(airframe, 'wing');
    expect(airframe.surfaces[1].attachedTo).toBeUndefined();
    for (const k of ['x', 'y', 'z'] as const) expect(airframe.surfaces[1].position[k]).toBeCloseTo(before[k], 4);
  });
  it('to nothing, or to itself, is refused', () => {
    expect(() => standing([fin()])).toThrow(/"wing", which is not there/);
    expect(() => standing([fin({ attachedTo: { surface: 'fin', share: 0 } })])).toThrow(/attached to itself/);
    expect(() => standing([fin({ attachedTo: { body: 'boom', share: 0 } })])).toThrow(/"boom", which is not there/);
  });
});
