import { GRAVITY } from '../atmosphere';
import { RAD } from '../numerics';
import { lateralTrim } from '.';
import { sampleCase } from './testing/sample-case';

const of = sampleCase({
  CY_beta: -0.45,
  Cl_beta: -0.08,
  Cn_beta: 0.06,
  controls: {
    Elevator: { CL: 0.4, Cm: -1.1 },
    Aileron: { Cl: 0.22, Cn: -0.01, CY: 0 },
    Rudder: { Cl: 0.01, Cn: -0.07, CY: 0.16 },
  },
});
const limits = { Aileron: [-20 * RAD, 20 * RAD], Rudder: [-25 * RAD, 25 * RAD] } as const;
const qS = 0.5 * of.density * of.speed ** 2 * of.area;
/** What is left of the three equations. */
const rest = (t: ReturnType<typeof lateralTrim>, beta: number) => {
  const by = Object.fromEntries(t.controls.map((c) => [c.name, c.deflection]));
  const { controls: k } = of.derivatives;
  const sum = (key: 'CY' | 'Cl' | 'Cn') => by.Aileron * k.Aileron[key] + by.Rudder * k.Rudder[key];
  const d = of.derivatives;
  return {
    Y: qS * (d.CY_beta * beta + sum('CY')) + of.mass * GRAVITY * Math.sin(t.bank),
    L: qS * of.span * (d.Cl_beta * beta + sum('Cl')),
    N: qS * of.span * (d.Cn_beta * beta + sum('Cn')),
  };
};

describe('lateral trim', () => {
  it('balances side force, roll and yaw in a steady sideslip', () => {
    const t = lateralTrim(of, { sideslip: 8 * RAD }, limits);
    const { Y, L, N } = rest(t, 8 * RAD);
    for (const v of [Y, L, N]) expect(Math.abs(v)).toBeLessThan(1e-9);
    // Wind from the right: the right wing goes down against it.
    expect(t.bank).toBeGreaterThan(0);
    expect(t.controls.map((c) => c.name).sort()).toEqual(['Aileron', 'Rudder']);
  });
  it('holds an engine out and unequal wings without sideslip', () => {
    const t = lateralTrim(of, { sideslip: 0, yawMoment: 30, rollMoment: -12 }, limits);
    const { Y, L, N } = rest(t, 0);
    expect([Y, L, N].map((v) => Number(v.toFixed(9)))).toEqual([0, 12, -30]);
  });
  it('tells what is left of each control, and the greatest sideslip, at which the first one has none', () => {
    const t = lateralTrim(of, { sideslip: 8 * RAD }, limits);
    const at = lateralTrim(of, { sideslip: t.most!.sideslip }, limits);
    const first = at.controls.find((c) => c.name === t.most!.control)!;
    expect(first.left).toBeCloseTo(0, 9);
    expect(at.controls.every((c) => c.left! > -1e-9)).toBe(true);
    const left = lateralTrim(of, { sideslip: -8 * RAD }, limits);
    expect(left.most!.sideslip).toBeCloseTo(-t.most!.sideslip, 9);
    // With a standing moment the sides differ.
    const uneven = [1, -1].map((s) =>
      Math.abs(lateralTrim(of, { sideslip: s * RAD, yawMoment: 10 }, limits).most!.sideslip),
    );
    expect(Math.abs(uneven[0] - uneven[1])).toBeGreaterThan(0.01);
  });
  it('says which controls are missing', () => {
    const without = (controls: object) => sampleCase({ ...of.derivatives, controls });
    expect(() => lateralTrim(without({}), { sideslip: 0.1 })).toThrow(/No control rolls or yaws/);
    expect(() => lateralTrim(without({ Aileron: { Cl: 0.2, Cn: 0, CY: 0 } }), { sideslip: 0.1 })).toThrow(
      /Aileron alone cannot hold/,
    );
  });
});
