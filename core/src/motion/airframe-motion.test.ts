import type { LiftingSurface } from '../airframe';
import { flowState } from '../atmosphere';
import { makeLattice } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { RAD } from '../numerics';
import {
  airframeCase,
  airframeDerivatives,
  pitchControl,
  stabilityInertia,
  trimLevel,
  type AirframeSource,
} from './airframe-motion';
import { motionOf } from '.';

const flat = () => ({ ordinate: () => 0, slope: () => 0 });
function sourceOf(surfaces: LiftingSurface[], x = 0.25, drag = 0.02): AirframeSource {
  const centre = { x, y: 0, z: 0 };
  const lattice = makeLattice({ surfaces, about: centre }, flat);
  return {
    lattice,
    surfaces,
    reference: lattice.reference,
    centre,
    lineOf: flat,
    at: (state) => {
      const l = lattice.at(state);
      return { ...l, CD: l.CDi + drag };
    },
  };
}
const flow = flowState(20, 0);
const level = { alpha: 0, speed: 20, CL: 0, CD: 0.02, controls: {}, Cm: 0 };
const tail = (x: number): LiftingSurface => ({
  ...madeWing(2, 0.4, 0.4),
  id: 'tail',
  name: 'Tail',
  role: 'tailplane',
  position: { x, y: 0, z: 0.3 },
  controls: [
    {
      id: 'elevator',
      name: 'Elevator',
      from: 0,
      to: 1,
      hinge: 0.7,
      kind: 'symmetric',
      deflectionDeg: 0,
      limitsDeg: [-25, 25],
    },
  ],
});
const fin: LiftingSurface = {
  ...madeWing(2, 0.5, 0.3),
  id: 'fin',
  name: 'Fin',
  role: 'fin',
  plane: 'vertical',
  mirrored: false,
  position: { x: 4, y: 0, z: 0 },
  bays: [{ span: 0.8, sweepDeg: 15, dihedralDeg: 0 }],
};

describe('derivatives of an airframe', () => {
  it('damp the roll of a slender wing by −πA/32', () => {
    const delta = madeWing(0.5, 4, 0.02, { bays: [{ span: 0.25, sweepDeg: 0, sweepAt: 1, dihedralDeg: 0 }] });
    const source = sourceOf([delta], 2);
    const aspect = source.reference.span ** 2 / source.reference.area;
    const { Cl_p } = airframeDerivatives(source, level, flow);
    expect(Math.abs(Cl_p / ((-Math.PI * aspect) / 32) - 1)).toBeLessThan(0.05);
  });
  it('damp pitching by the tail', () => {
    const with_ = sourceOf([madeWing(8, 1, 1), tail(4)]);
    const without = sourceOf([madeWing(8, 1, 1)]);
    const d = airframeDerivatives(with_, level, flow);
    const q = d.Cm_q - airframeDerivatives(without, level, flow).Cm_q;
    const arm = 4 + 0.1 - 0.25;
    const alone = makeLattice({ surfaces: [tail(4)], reference: with_.reference, about: with_.centre }, flat);
    const slope = (alone.at({ alpha: 0.01 }).CL - alone.at({ alpha: -0.01 }).CL) / 0.02;
    // a V l/c, with the slope of the tail alone on the wing's area.
    expect(Math.abs(q / (-2 * slope * arm * arm) - 1)).toBeLessThan(0.1);
    // The lag of the downwash is a share of it: that of the downwash's slope.
    expect(d.Cm_alphadot / q).toBeGreaterThan(0.15);
    expect(d.Cm_alphadot / q).toBeLessThan(0.6);
    expect(d.CL_alphadot).toBeGreaterThan(0);
  });
  it('roll a wing with dihedral out of sideslip as strips do', () => {
    const angle = 5;
    const source = sourceOf([madeWing(10, 1, 1, { bays: [{ span: 5, sweepDeg: 0, dihedralDeg: angle }] })]);
    const d = airframeDerivatives(source, level, flow);
    // Antisymmetric incidence ±βΓ over the halves: the rolling moment of a control over the whole span, by the lifting line.
    const straight = madeWing(10, 1, 1, {
      controls: [
        { id: 'all', name: 'All', from: 0, to: 1, hinge: 0.01, kind: 'opposed', deflectionDeg: 0, limitsDeg: [-5, 5] },
      ],
    });
    const lattice = makeLattice({ surfaces: [straight], about: source.centre }, flat);
    const h = 1e-3;
    const moment = (lattice.at({ alpha: 0, controls: { all: h } }).Cl / h) * angle * RAD;
    expect(Math.abs(d.Cl_beta / moment - 1)).toBeLessThan(0.015);
    expect(d.Cl_beta).toBeLessThan(0);
  });
  it('come to the lifting line’s roll by dihedral as the wing grows slender: a surface carries less', () => {
    // Glauert's equation for ±βΓ over the halves of a rectangular wing, by 200 terms, per radian of dihedral.
    const line = { 10: 1.030292, 20: 1.22835 };
    const short = Object.entries(line).map(([aspect, want]) => {
      const wing = madeWing(Number(aspect), 1, 1, {
        bays: [{ span: Number(aspect) / 2, sweepDeg: 0, dihedralDeg: 1 }],
      });
      const { Cl_beta } = airframeDerivatives(sourceOf([wing]), level, flow);
      return 1 + Cl_beta / (RAD * want);
    });
    expect(short[0]).toBeLessThan(0.09);
    expect(short[1]).toBeLessThan(0.045);
    expect(short[1]).toBeGreaterThan(0);
  });
  it('are those of the stream’s axes: a rate about them is one about both of the body’s', () => {
    const source = sourceOf([madeWing(8, 1, 1), fin]);
    const at = (alpha: number) => airframeDerivatives(source, { ...level, alpha }, flow);
    const [zero, steep] = [at(0), at(8 * RAD)];
    expect(zero.Cn_beta).toBeGreaterThan(0);
    expect(zero.Cn_r).toBeLessThan(0);
    expect(zero.CY_beta).toBeLessThan(0);
    // A wing that lifts yaws as it rolls, and rolls as it yaws.
    expect(steep.Cn_p).toBeLessThan(zero.Cn_p - 0.02);
    expect(steep.Cl_r).toBeGreaterThan(zero.Cl_r + 0.1);
  });
});

describe('trim and motion of an airframe', () => {
  const surfaces = [madeWing(8, 1, 0.7), tail(4), { ...fin, controls: [] }];
  const source = sourceOf(surfaces, 0.35);
  const inertia = { xx: 30, yy: 25, zz: 52, xy: 0, xz: 1.5, yz: 0 };
  const mass = { mass: 40, centre: source.centre, inertia };
  it('carries the weight and holds the moment', () => {
    const trim = trimLevel(source, flow, 40 * 9.80665);
    expect(pitchControl(source)!.id).toBe('elevator');
    const l = source.lattice.at({ alpha: trim.alpha, controls: trim.controls });
    expect(Math.abs(l.Cm)).toBeLessThan(0.004);
    expect(Math.abs(l.CL / trim.CL - 1)).toBeLessThan(0.01);
    expect(() => trimLevel(source, flowState(4, 0), 4000)).toThrow(/which no angle within/);
  });
  it('has modes that die out where tail and fin are large', () => {
    const trim = trimLevel(source, flow, 40 * 9.80665);
    const d = airframeDerivatives(source, trim, flow);
    const { modes, doubts } = motionOf(airframeCase(source, mass, trim, d, flow));
    expect(doubts).toEqual([]);
    const phugoid = modes.find((m) => m.name === 'phugoid')!;
    // Slower than that of constant energy, √2 g / V, by the damping in pitch.
    expect(phugoid.frequencyHz).toBeLessThan((Math.SQRT2 * 9.80665) / 20 / (2 * Math.PI));
    expect(phugoid.frequencyHz).toBeGreaterThan(0.03);
    for (const m of modes.filter((k) => /short period|^roll|Dutch/.test(k.name))) expect(m.re).toBeLessThan(0);
  });
  it('turns inertia into the axes of the stream, and refuses none', () => {
    const a = 6 * RAD;
    const t = stabilityInertia(inertia, a);
    expect(t.Ixx + t.Izz).toBeCloseTo(82, 12);
    expect(t.Ixx * t.Izz - t.Ixz ** 2).toBeCloseTo(30 * 52 - 1.5 ** 2, 9);
    // Mass that lies forward and down: Ixz = ∫xz dm is positive.
    expect(stabilityInertia({ ...inertia, xz: -2 }, 0).Ixz).toBe(2);
    const trim = trimLevel(source, flow, 40 * 9.80665);
    const d = airframeDerivatives(source, trim, flow);
    const point = { ...mass, inertia: { xx: 0, yy: 0, zz: 0, xy: 0, xz: 0, yz: 0 } };
    expect(() => airframeCase(source, point, trim, d, flow)).toThrow(/no moment of inertia/);
  });
});

describe('steady flight that is not level', () => {
  const surfaces = [madeWing(5, 0.5, 0.5), tail(2.4)];
  const source = sourceOf(surfaces, 0.15);
  const weight = 20 * 9.80665;
  it('carries more lift in a turn, less in a climb, and pays with thrust', () => {
    const straight = trimLevel(source, flow, weight);
    const turn = trimLevel(source, flow, weight, { bank: 60 * RAD });
    expect(turn.CL / straight.CL).toBeCloseTo(2, 6);
    expect(turn.loadFactor).toBeCloseTo(2, 12);
    // The rate of the turn damps in pitch: more elevator than a dive at twice the weight needs.
    const heavy = trimLevel(source, flow, 2 * weight);
    expect(Object.values(turn.controls)[0]).toBeLessThan(Object.values(heavy.controls)[0]);
    const climb = trimLevel(source, flow, weight, { climb: 10 * RAD });
    expect(climb.CL / straight.CL).toBeCloseTo(Math.cos(10 * RAD), 6);
    const q = flow.dynamicPressure * source.reference.area;
    expect(climb.thrust).toBeCloseTo(q * climb.CD + weight * Math.sin(10 * RAD), 0);
  });
  it('takes the moment of a thrust line that lies above the centre', () => {
    const through = trimLevel(source, flow, weight, { thrustLine: { at: source.centre } });
    const above = trimLevel(source, flow, weight, { thrustLine: { at: { ...source.centre, z: 0.3 } } });
    // Nose down: the trailing edge goes up against it.
    expect(Object.values(above.controls)[0]).toBeLessThan(Object.values(through.controls)[0]);
  });
});
