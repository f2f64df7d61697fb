import { insertStation, linesOf, moveBodyHandle, moveStation, moveSurfaceHandle } from './handles';
import { placeStations } from './placement';
import { planformOf } from './planform';
import { bodyFromOutline, riseFromLine, surfaceFromOutline } from './sketch';
import { bodyFacts } from './body';
import type { LiftingSurface } from './types';

const wing = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0.1, y: 0, z: 0.2 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.4, twistDeg: 0, section: 'a' },
    { chord: 0.3, twistDeg: -1, section: 'b' },
    { chord: 0.2, twistDeg: -2, section: 'c' },
  ],
  bays: [
    { span: 1, sweepDeg: 2, dihedralDeg: 3 },
    { span: 0.5, sweepDeg: 10, dihedralDeg: 10, dihedralRelative: true },
  ],
  ...more,
});
const places = (s: LiftingSurface) => placeStations(s).map((p) => p.leadingEdge);

describe('handles', () => {
  it('of a station move it alone, where the pointer goes', () => {
    const s = wing();
    const before = places(s);
    moveSurfaceHandle(s, { kind: 'leading', station: 1 }, 'plan', [0.1, 0.05]);
    const after = places(s);
    expect(after[1].y).toBeCloseTo(before[1].y + 0.1, 4);
    expect(after[1].x).toBeCloseTo(before[1].x + 0.05, 4);
    for (const i of [0, 2]) for (const k of ['x', 'y', 'z'] as const) expect(after[i][k]).toBeCloseTo(before[i][k], 4);
    moveSurfaceHandle(s, { kind: 'leading', station: 2 }, 'front', [0, 0.1]);
    expect(places(s)[2].z).toBeCloseTo(before[2].z + 0.1, 4);
    expect(s.bays[1].dihedralRelative).toBe(true);
  });
  it('of a trailing edge change the chord, and of a part its place', () => {
    const s = wing();
    const before = places(s);
    moveSurfaceHandle(s, { kind: 'trailing', station: 1 }, 'plan', [0, 0.06]);
    expect(s.stations[1].chord).toBeCloseTo(0.36, 6);
    expect(places(s)[1].x).toBeCloseTo(before[1].x, 4);
    moveSurfaceHandle(s, { kind: 'part' }, 'side', [0.2, -0.1]);
    expect(s.position).toEqual({ x: 0.3, y: 0, z: 0.1 });
    moveSurfaceHandle(s, { kind: 'leading', station: 0 }, 'front', [0.02, 0]);
    expect(s.position.y).toBe(0.02);
  });
  it('of a fin and of a turned surface move along what is seen', () => {
    const fin = wing({
      plane: 'vertical',
      mirrored: false,
      bays: [{ span: 1, sweepDeg: 0, dihedralDeg: 0 }],
      stations: wing().stations.slice(0, 2),
    });
    const before = places(fin);
    moveSurfaceHandle(fin, { kind: 'leading', station: 1 }, 'side', [0.1, 0.2]);
    expect(places(fin)[1].z).toBeCloseTo(before[1].z + 0.2, 4);
    expect(places(fin)[1].x).toBeCloseTo(before[1].x + 0.1, 4);
    const vee = wing({ rollDeg: 35 });
    const was = places(vee);
    moveSurfaceHandle(vee, { kind: 'leading', station: 2 }, 'front', [0.1, 0.05]);
    expect(places(vee)[2].y).toBeCloseTo(was[2].y + 0.1, 4);
    expect(places(vee)[2].z).toBeCloseTo(was[2].z + 0.05, 4);
  });
  it('refuse to pass a neighbour or to close a chord, and leave the surface as it was', () => {
    const s = wing();
    const same = JSON.stringify(s);
    const refused = (work: () => void, what: RegExp) => {
      expect(work).toThrow(what);
      expect(JSON.stringify(s)).toBe(same);
    };
    refused(
      () => moveSurfaceHandle(s, { kind: 'leading', station: 1 }, 'plan', [0.6, 0]),
      /cannot pass the one outboard/,
    );
    refused(
      () => moveSurfaceHandle(s, { kind: 'leading', station: 1 }, 'plan', [-1.2, 0]),
      /cannot pass the one inboard/,
    );
    refused(
      () => moveSurfaceHandle(s, { kind: 'trailing', station: 2 }, 'plan', [0, -0.3]),
      /Chord must be greater than 0/,
    );
    refused(() => moveSurfaceHandle(s, { kind: 'leading', station: 2 }, 'front', [0, 9]), /dihedral/);
  });
  it('of a body change its place, its stations and their size', () => {
    const body = bodyFromOutline(
      [
        [0, 0],
        [0.1, 0.3],
        [0.05, 1],
        [-0.05, 1],
        [-0.1, 0.3],
      ],
      'plan',
      () => false,
    );
    moveBodyHandle(body, { kind: 'station', station: 1 }, 'plan', [0.02, 0.1]);
    expect(body.stations[1]).toMatchObject({ x: 0.4, width: 0.24, height: 0.2 });
    expect(() => moveBodyHandle(body, { kind: 'station', station: 1 }, 'plan', [0, 2])).toThrow(/cannot pass/);
    moveBodyHandle(body, { kind: 'part' }, 'side', [0.5, 0.1]);
    expect(body.position).toEqual({ x: 0.5, y: 0, z: 0.1 });
  });
});

describe('stations', () => {
  it('put into a bay leave the shape as it is', () => {
    const s = wing({ stations: wing().stations.map((t) => ({ ...t, twistRelative: true })) });
    const before = placeStations(s);
    insertStation(s, 1, 0.3);
    const after = placeStations(s);
    expect(after).toHaveLength(4);
    expect(after[2].chord).toBeCloseTo(0.27, 5);
    for (const [i, k] of [
      [0, 0],
      [1, 1],
      [2, 3],
    ]) {
      expect(after[k].leadingEdge.x).toBeCloseTo(before[i].leadingEdge.x, 4);
      expect(after[k].leadingEdge.z).toBeCloseTo(before[i].leadingEdge.z, 4);
      expect(after[k].pitch).toBeCloseTo(before[i].pitch, 6);
    }
    expect(planformOf(s).area).toBeCloseTo(planformOf(wing()).area, 4);
  });
  it('change places with their chord, twist and section', () => {
    const s = wing();
    moveStation(s, 1, 1);
    expect(s.stations.map((t) => t.section)).toEqual(['a', 'c', 'b']);
    expect(s.stations.map((t) => t.chord)).toEqual([0.4, 0.2, 0.3]);
    expect(linesOf(s).offsets).toEqual([0, 1, 1.5]);
    moveStation(s, 0, -1);
    expect(s.stations.map((t) => t.section)).toEqual(['a', 'c', 'b']);
  });
});

describe('a sketch', () => {
  const sketch = (outline: [number, number][], more: object = {}) =>
    surfaceFromOutline({ role: 'wing', view: 'plan', outline, section: 'a', taken: () => false, ...more });
  it('of half a wing, drawn to the plane of symmetry, is a wing with its corners as stations', () => {
    const s = sketch([
      [0, 0],
      [1, 0.02],
      [2, 0.1],
      [2, 0.3],
      [1, 0.38],
      [0, 0.4],
    ]);
    expect(s.mirrored).toBe(true);
    expect(s.stations.map((t) => t.chord)).toEqual([0.4, 0.36, 0.2].map((v) => expect.closeTo(v, 3)));
    expect(planformOf(s).span).toBeCloseTo(4, 3);
    expect(places(s)[2].x).toBeCloseTo(0.1, 3);
    expect(planformOf(s).area).toBeCloseTo(2 * (0.38 + 0.28), 2);
  });
  it('of a whole wing, or of its left half, is the same wing', () => {
    const right: [number, number][] = [
      [0, 0],
      [2, 0.1],
      [2, 0.3],
      [0, 0.4],
    ];
    const whole: [number, number][] = [
      [0, 0],
      [2, 0.1],
      [2, 0.3],
      [0, 0.4],
      [-2, 0.3],
      [-2, 0.1],
    ];
    const left = right.map(([u, v]): [number, number] => [-u, v]);
    for (const outline of [whole, left]) {
      expect(planformOf(sketch(outline)).area).toBeCloseTo(planformOf(sketch(right)).area, 2);
      expect(places(sketch(outline))[1].x).toBeCloseTo(0.1, 3);
    }
  });
  it('of a fin from the side stands up; one that ends in a point gets a least chord', () => {
    const fin = sketch(
      [
        [2, 0],
        [2.3, 0.4],
        [2.45, 0.4],
        [2.5, 0],
      ],
      { role: 'fin', view: 'side' },
    );
    expect(fin).toMatchObject({ plane: 'vertical', mirrored: false, position: { x: 2, y: 0, z: 0 } });
    expect(planformOf(fin).span).toBeCloseTo(0.4, 3);
    expect(fin.stations[1].chord).toBeCloseTo(0.15, 2);
    const dart = sketch([
      [0, 0],
      [1, 0.8],
      [0, 0.8],
    ]);
    expect(dart.stations[1].chord).toBeGreaterThan(0.01);
    expect(() => placeStations(dart)).not.toThrow();
  });
  it('of a body has its widths, or its heights with their middles', () => {
    const pod = bodyFromOutline(
      [
        [-0.1, 0.4],
        [0, 0],
        [0.1, 0.4],
        [0.04, 1.2],
        [-0.04, 1.2],
      ],
      'plan',
      () => false,
    );
    expect(pod.stations.map((s) => s.width)).toEqual([0, 0.2, 0.08].map((v) => expect.closeTo(v, 3)));
    expect(bodyFacts(pod).length).toBeCloseTo(1.2, 3);
    const side = bodyFromOutline(
      [
        [0, 0],
        [0.4, 0.12],
        [1, 0.15],
        [1, 0.05],
        [0.4, -0.1],
      ],
      'side',
      () => false,
    );
    expect(side.stations[2]).toMatchObject({ height: expect.closeTo(0.1, 2), z: expect.closeTo(0.1, 2) });
    expect(
      bodyFromOutline(
        [
          [0.5, 0],
          [0.55, 0],
          [0.55, 1],
          [0.5, 1],
        ],
        'plan',
        () => false,
      ),
    ).toMatchObject({ mirrored: true, name: 'Boom' });
  });
  it('from ahead, a line gives a wing its rise', () => {
    const s = wing();
    const before = placeStations(s);
    const line: [number, number][] = [
      [-1.5, 0.5],
      [-1, 0.1],
      [0, 0],
    ];
    riseFromLine(s, line, { y: 0, z: 0.2 });
    const after = placeStations(s);
    expect(after[1].quarterChord.z - after[0].quarterChord.z).toBeCloseTo(0.1, 4);
    expect(after[2].quarterChord.z - after[0].quarterChord.z).toBeCloseTo(0.5, 4);
    expect(after[2].leadingEdge.x).toBeCloseTo(before[2].leadingEdge.x, 4);
    expect(() =>
      riseFromLine(
        s,
        [
          [0, 0],
          [0.1, 4],
        ],
        { y: 0, z: 0 },
      ),
    ).toThrow(/more than 75°/);
    expect(() => riseFromLine(s, [[0, 0]], { y: 0, z: 0 })).toThrow(/two points/);
  });
  it('that encloses nothing is refused', () => {
    expect(() =>
      sketch([
        [0, 0],
        [1, 1],
      ]),
    ).toThrow(/three points or more/);
    expect(() =>
      sketch([
        [0, 0],
        [1, 1],
        [2, 2],
      ]),
    ).toThrow(/no area/);
    expect(() =>
      sketch([
        [0, 0],
        [1, NaN],
        [2, 2],
      ]),
    ).toThrow(/three points/);
    const many = Array.from({ length: 100 }, (_, i): [number, number] => [i * 0.05, (i % 2) * 0.01]);
    expect(() => sketch([...many, [5, 1], [0, 1]])).toThrow(/corners along the span/);
  });
});
