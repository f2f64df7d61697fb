import { crossings } from './crossings';
import { copiedSurface, newSurface } from './edits';
import { planformOf } from './planform';
import type { LiftingSurface, SurfaceRole } from './types';

const add = (role: SurfaceRole, surfaces: readonly LiftingSurface[]): LiftingSurface[] => [
  ...surfaces,
  newSurface({ role, section: role === 'wing' ? 'naca:2411' : 'naca:0009', span: 4 }, surfaces),
];
const chordEnds = (s: LiftingSurface) => [s.position.x, s.position.x + s.stations[0].chord];

describe('a new surface', () => {
  it('of any role, once and again, lies in no other', () => {
    let all: LiftingSurface[] = [];
    for (const role of [
      'wing',
      'tailplane',
      'fin',
      'foreplane',
      'wing',
      'tailplane',
      'fin',
      'foreplane',
      'fin',
    ] as const)
      all = add(role, all);
    expect(crossings(all)).toEqual([]);
    expect(new Set(all.map((s) => s.id)).size).toBe(all.length);
    // Fins share one plane: none begins before the one ahead ends.
    const fins = all.filter((s) => s.role === 'fin').map(chordEnds);
    fins.slice(1).forEach(([from], i) => expect(from).toBeGreaterThanOrEqual(fins[i][1]));
  });
  it('moves clear of what stands where it would', () => {
    const [wing, tail] = add('tailplane', add('wing', []));
    // A wing with so much dihedral that it passes through the place of the tail.
    const steep = {
      ...wing,
      position: { ...tail.position, z: tail.position.z - 0.05 },
      bays: [{ ...wing.bays[0], dihedralDeg: 12 }],
    };
    const made = newSurface({ role: 'tailplane', section: 'naca:0009', span: 4 }, [wing, { ...steep, id: 'steep' }]);
    expect(crossings([wing, { ...steep, id: 'steep' }, made])).toEqual([]);
  });
  it('as a foreplane stands ahead of the wing, level, with a share of its area', () => {
    const [wing, foreplane] = add('foreplane', add('wing', []));
    const { area, mac } = planformOf(wing);
    expect(foreplane).toMatchObject({ role: 'foreplane', plane: 'horizontal', mirrored: true });
    expect(foreplane.position.x + foreplane.stations[0].chord).toBeLessThan(wing.position.x - mac.chord);
    expect(planformOf(foreplane).area / area).toBeCloseTo(0.16, 2);
  });
});

describe('a copy', () => {
  it('of a fin stands behind it, since both share one plane', () => {
    const all = add('fin', add('wing', []));
    const copy = copiedSurface(all[1], all);
    expect(copy.position.x).toBeGreaterThan(chordEnds(all[1])[1]);
  });
});
