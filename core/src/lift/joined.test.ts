import type { LiftingSurface } from '../airframe';
import { madeSurface } from '../airframe/testing';
import { makeLattice } from '.';

const flat = { ordinate: () => 0, slope: () => 0 };
const wing = madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: -0.5 }, [1, 0.8], 4);
const tail = (z: number) => madeSurface('tail', 'horizontal', true, { x: 4, y: 0, z }, [0.6, 0.5], 1.4);
const fin = (z: number) => madeSurface('fin', 'vertical', false, { x: 4, y: 0, z }, [0.6, 0.45], 0.9);
const hanging = madeSurface('fin', 'vertical', false, { x: 4, y: 0, z: -0.9 }, [0.45, 0.6], 0.9);

/** Slopes with sideslip at an angle, per rad. */
function slopes(surfaces: LiftingSurface[], spanwise: number) {
  const lattice = makeLattice({ surfaces, spread: { chordwise: 6, spanwise, spacing: 'cosine' } }, () => flat);
  const [a, b] = [0.01, -0.01].map((sideslip) => lattice.at({ alpha: 0.03, sideslip }));
  return { CY: (a.CY - b.CY) / 0.02, Cn: (a.Cn - b.Cn) / 0.02, Cl: (a.Cl - b.Cl) / 0.02 };
}

describe('surfaces that share an edge', () => {
  const arrangements: [string, LiftingSurface[]][] = [
    ['a fin on a tailplane', [wing, tail(0), fin(0)]],
    ['a fin below a tailplane', [wing, tail(0), hanging]],
    ['a tailplane on the tip of a fin', [wing, tail(0.9), fin(0)]],
    [
      'fins at the tips of a tailplane',
      [wing, tail(0), madeSurface('fins', 'vertical', true, { x: 4, y: 1.4, z: 0 }, [0.5, 0.4], 0.6)],
    ],
  ];
  it.each(arrangements)('%s: side force and yaw have settled at the strips of every day', (_, surfaces) => {
    const [coarse, fine] = [24, 72].map((n) => slopes(surfaces, n));
    expect(Math.abs(coarse.CY / fine.CY - 1)).toBeLessThan(0.01);
    expect(Math.abs(coarse.Cn / fine.Cn - 1)).toBeLessThan(0.01);
  });
  it('holds the flow at the root of the fin: more side force than alone, and more than with a wide gap', () => {
    const [joined, apart, alone] = [
      [wing, tail(0), fin(0)],
      [wing, tail(-0.3), fin(0)],
      [wing, fin(0)],
    ].map((s) => Math.abs(slopes(s, 24).CY));
    expect(joined / alone).toBeGreaterThan(1.2);
    expect(joined).toBeGreaterThan(apart);
    // A fin on an endless plane would be half of one of twice the span.
    const mirror = structuredClone(hanging);
    mirror.stations.push({ chord: 0.45, twistDeg: 0, section: 'naca:0009' });
    mirror.bays.push({ span: 0.9, sweepDeg: 0, dihedralDeg: 0 });
    const whole = Math.abs(slopes([wing, mirror], 24).CY);
    const bare = Math.abs(slopes([wing], 24).CY);
    expect(joined - bare).toBeLessThan(0.5 * (whole - bare) * 1.02);
    expect(joined - bare).toBeGreaterThan(0.5 * (whole - bare) * 0.8);
  });
  it('leaves symmetric flow as it is', () => {
    const lift = (surfaces: LiftingSurface[]) => {
      const l = makeLattice({ surfaces }, () => flat).at({ alpha: 0.05 });
      return [l.CL, l.Cm];
    };
    const [with0, without] = [lift([wing, tail(0), fin(0)]), lift([wing, tail(0)])];
    with0.forEach((v, i) => expect(Math.abs(v / without[i] - 1)).toBeLessThan(2e-3));
  });

  // An end that is turned against the edge it stands on crosses it: its vortices must not run past the other's control points.
  const turned = (surface: LiftingSurface, incidenceDeg: number) => ({ ...surface, incidenceDeg });
  const angles = [-3, -2.5, -2, -1.5, -1, -0.5, 0, 0.5, 1, 1.5, 2, 2.5, 3];
  it.each<[string, (incidence: number) => LiftingSurface[]]>([
    ['a fin on a tailplane', (i) => [wing, turned(tail(0), i), fin(0)]],
    ['a fin below a tailplane', (i) => [wing, turned(tail(0), i), hanging]],
    ['a tailplane on the tip of a fin', (i) => [wing, turned(tail(0.9), i), fin(0)]],
    [
      'fins at the tips of a tailplane',
      (i) => [wing, turned(tail(0), i), madeSurface('fins', 'vertical', true, { x: 4, y: 1.4, z: 0 }, [0.5, 0.4], 0.6)],
    ],
  ])('%s: slopes in sideslip follow incidence smoothly', (_, make) => {
    const all = angles.map((i) => slopes(make(i), 24));
    for (const key of ['CY', 'Cn', 'Cl'] as const) {
      const size = Math.max(...all.map((s) => Math.abs(s[key])));
      for (let k = 1; k < all.length - 1; k++)
        expect(Math.abs(all[k - 1][key] - 2 * all[k][key] + all[k + 1][key])).toBeLessThan(3e-3 * size);
      // Six degrees of incidence are no other aircraft.
      expect(Math.min(...all.map((s) => Math.abs(s[key]))) / size).toBeGreaterThan(0.5);
    }
  });
  it.each([0, 0.1, 0.4])('keeps a neutral point with fins on twisted tips, at %d of their chord', (chord) => {
    const at = (twistDeg: number) => {
      const swept = madeSurface('wing', 'horizontal', true, { x: 0, y: 0, z: 0 }, [0.33, 0.18], 0.955, {
        sweep: 24,
        dihedral: 1,
        incidenceDeg: 4,
      });
      swept.stations[1].twistDeg = twistDeg;
      const fins = madeSurface('fins', 'vertical', true, { x: 0, y: 0, z: 0 }, [0.12, 0.08], 0.15, { sweep: 20 });
      fins.attachedTo = { surface: 'wing', share: 1, chord };
      const lattice = makeLattice({ surfaces: [swept, fins], about: { x: 0.25, y: 0, z: 0 } }, () => flat);
      const [a, b] = [0.02, 0.03].map((alpha) => lattice.at({ alpha }));
      return (b.Cm - a.Cm) / (b.CL - a.CL);
    };
    const places = [-3, -3.5, -4, -4.5, -5, -5.25, -5.5, -5.75, -6].map(at);
    for (let k = 1; k < places.length; k++) expect(Math.abs(places[k] - places[k - 1])).toBeLessThan(0.006);
    expect(Math.max(...places) - Math.min(...places)).toBeLessThan(0.03);
  });
  it('keeps the neutral point of a cambered fin on a tailplane, whatever its size', () => {
    const cambered = { ordinate: (x: number) => 0.04 * x * (1 - x), slope: (x: number) => 0.04 * (1 - 2 * x) };
    const at = (scale: number) => {
      const surfaces = [wing, turned(tail(0), -2), fin(0)];
      surfaces[2] = {
        ...surfaces[2],
        stations: surfaces[2].stations.map((t) => ({ ...t, chord: t.chord * scale, section: 'naca:2409' })),
        bays: surfaces[2].bays.map((b) => ({ ...b, span: b.span * scale })),
      };
      const lattice = makeLattice({ surfaces, about: { x: 0.3, y: 0, z: 0 } }, (key) =>
        key === 'naca:2409' ? cambered : flat,
      );
      const [a, b] = [0.02, 0.03].map((alpha) => lattice.at({ alpha }));
      return (b.Cm - a.Cm) / (b.CL - a.CL);
    };
    const margins = [0.55, 0.77, 1, 1.2, 1.4, 1.7].map(at);
    for (const margin of margins) expect(Math.abs(margin - margins[2])).toBeLessThan(2e-3);
  });
});
