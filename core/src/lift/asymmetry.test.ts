import { describe, expect, it } from '@jest/globals';
import type { LiftingSurface } from '../airframe';
import { meanLineCache } from '../airframe';
import { RAD } from '../numerics';
import type { SectionSource } from '../shaping';
import { makeLattice, raisedApart, turnedApart, VortexLattice, type SideTurn } from '.';

const lookup = (key: string): SectionSource => ({ kind: 'designation', designation: key, trailingEdge: 'sharp' });
const lineOf = meanLineCache(lookup);
const about = { x: 0.3, y: 0, z: -0.2 };
const reference = { area: 4, chord: 0.7, span: 6, source: 'typed' } as never;
const state = { alpha: 5 * RAD };
const wing = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'w',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0.1 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.8, twistDeg: 0, section: '0009' },
    { chord: 0.5, twistDeg: 0, section: '0009' },
  ],
  bays: [{ span: 3, sweepDeg: 8, dihedralDeg: 4 }],
  ...more,
});
const latticeOf = (surfaces: LiftingSurface[]) =>
  makeLattice({ surfaces, reference, about, spread: { chordwise: 4, spanwise: 20, spacing: 'cosine' } }, lineOf);
/** A small surface far away, so that both sides of the wing are parts of their own. */
const far = wing({ id: 'far', mirrored: false, position: { x: 60, y: 0.5, z: 30 } });
const whole = latticeOf([wing(), far]);

/** Turns a place about an axis through `at`: about y by the first angle, about x by the second. */
type Turn = (v: [number, number, number], point: boolean) => [number, number, number];
const about_ =
  (at: { x: number; z: number }, up: (y: number) => number, over: (y: number) => number, strip: { y: number }): Turn =>
  ([x, y, z], point) => {
    const [px, pz] = point ? [x - at.x, z - at.z] : [x, z];
    const [a, b] = [up(strip.y), over(strip.y)];
    // Nose up: what lies aft goes down.
    const [x1, z1] = [px * Math.cos(a) + pz * Math.sin(a), pz * Math.cos(a) - px * Math.sin(a)];
    const [y2, z2] = [y * Math.cos(b) - z1 * Math.sin(b), y * Math.sin(b) + z1 * Math.cos(b)];
    return [x1 + (point ? at.x : 0), y2, z2 + (point ? at.z : 0)];
  };
/** The same lattice with the wing's places and normals turned, each side in a way of its own: another geometry, solved anew. */
function rebuilt(up: (y: number) => number, over: (y: number) => number) {
  const parts = whole.lattice.parts.map((p) => {
    if (p.id !== 'w') return p;
    const side = { y: p.middleY[0] };
    const turn = about_({ x: 0.2, z: 0.1 }, up, over, side);
    const each = (from: Float64Array, point: boolean) => {
      const out = new Float64Array(from.length);
      for (let k = 0; k < from.length; k += 3) out.set(turn([from[k], from[k + 1], from[k + 2]], point), k);
      return out;
    };
    return { ...p, corners: each(p.corners, true), controls: each(p.controls, true), normals: each(p.normals, false) };
  });
  const lattice = { ...whole.lattice, parts };
  const built = new VortexLattice(lattice, lattice, whole.reference, about).at(state);
  const base = whole.at(state);
  return { CY: built.CY - base.CY, Cl: built.Cl - base.Cl, Cn: built.Cn - base.Cn };
}
const only =
  (turn: SideTurn): SideTurn =>
  (part, strip) =>
    part.id === 'w' ? turn(part, strip) : 0;

describe('halves that differ', () => {
  const symmetric = latticeOf([wing()]);

  it('roll and yaw by their incidence as the wing does that is turned so', () => {
    const told = turnedApart(symmetric, state, () => RAD * Math.cos(4 * RAD));
    const built = rebuilt(
      (y) => (y > 0 ? 0.5 : -0.5) * RAD,
      () => 0,
    );
    // More on the right rolls to the left.
    expect(told.Cl).toBeLessThan(-0.003);
    expect(Math.abs(told.Cl / built.Cl - 1)).toBeLessThan(0.01);
    expect(Math.abs(told.Cn / built.Cn - 1)).toBeLessThan(0.08);
    expect(Math.abs(told.CY - built.CY)).toBeLessThan(3e-4);
  });
  it('lean over by their dihedral as the wing does that is rolled so', () => {
    const told = raisedApart(symmetric, state, 'w', 2 * RAD, symmetric.at(state).strips);
    const built = rebuilt(
      () => 0,
      () => RAD,
    );
    expect(built.CY).toBeLessThan(-0.005);
    expect(Math.abs(told.CY / built.CY - 1)).toBeLessThan(0.02);
    // What the stream across the span does to a swept wing is left out: a hundredth of a degree of incidence.
    expect(Math.abs(told.Cl - built.Cl)).toBeLessThan(0.02 * Math.abs(told.CY));
    expect(Math.abs(told.Cn - built.Cn)).toBeLessThan(0.02 * Math.abs(told.CY));
  });
  it('are told alike where the left side is a part of its own, by twist too', () => {
    const twist: SideTurn = (part, strip) => RAD * Math.abs(part.station[strip]);
    for (const turn of [() => RAD, twist])
      expect(turnedApart(whole, state, only(turn)).Cl / turnedApart(symmetric, state, only(turn)).Cl).toBeCloseTo(1, 3);
    const raised = raisedApart(whole, state, 'w', 2 * RAD, whole.at(state).strips);
    expect(raised.CY / raisedApart(symmetric, state, 'w', 2 * RAD, symmetric.at(state).strips).CY).toBeCloseTo(1, 2);
  });
});
