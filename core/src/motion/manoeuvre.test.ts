import { GRAVITY } from '../atmosphere';
import { motionCase } from './derivatives';
import { handlingLevels, manoeuvreOf, type Mode } from '.';

const of = (more: object = {}, derivatives: object = {}) =>
  motionCase.parse({
    mass: 24,
    Ixx: 6,
    Iyy: 3.4,
    Izz: 9,
    area: 1.5,
    chord: 0.33,
    span: 4.8,
    speed: 26,
    density: 1.156,
    CL: 0.4,
    CD: 0.03,
    derivatives: {
      CL_alpha: 5.6,
      Cm_alpha: -0.7,
      CL_q: 6,
      Cm_q: -14,
      controls: { Elevator: { CL: 0.4, Cm: -1.1 }, Aileron: { Cl: -0.2 } },
      ...derivatives,
    },
    ...more,
  });

describe('a pull-up', () => {
  it('needs no deflection where the centre lies at the manoeuvre point', () => {
    const c = of();
    const { margin } = manoeuvreOf(c);
    // Moved aft by the margin: Cm_α and Cm_q gain it times the lift's slopes.
    const { CL_alpha, Cm_alpha, CL_q, Cm_q } = c.derivatives;
    const moved = of({}, { Cm_alpha: Cm_alpha + margin * CL_alpha, Cm_q: Cm_q + margin * CL_q });
    expect(manoeuvreOf(moved).deflectionPerG.Elevator!).toBeCloseTo(0, 12);
    // Ahead of it by the static margin and the damping over twice the relative mass.
    const relative = (2 * 24) / (1.156 * 1.5 * 0.33);
    expect(margin).toBeCloseTo(0.7 / 5.6 + 14 / (2 * relative), 2);
  });
  it('balances lift and moment with the deflection that it gives', () => {
    const c = of();
    const { deflectionPerG, alphaPerG } = manoeuvreOf(c);
    const rate = ((GRAVITY / 26) * 0.33) / (2 * 26);
    const e = deflectionPerG.Elevator!;
    const weight = (24 * GRAVITY) / (0.5 * 1.156 * 26 * 26 * 1.5);
    expect(5.6 * alphaPerG! + 0.4 * e + 6 * rate).toBeCloseTo(weight, 12);
    expect(-0.7 * alphaPerG! - 1.1 * e - 14 * rate).toBeCloseTo(0, 12);
    expect(e).toBeLessThan(0);
    expect(deflectionPerG.Aileron).toBeNull();
  });
});

describe('levels of handling', () => {
  const mode = (name: string, re: number, im: number): Mode => ({
    name,
    re,
    im,
    frequencyHz: im / 6.283,
    dampingRatio: -re / Math.hypot(re, im),
    ...(re > 0 ? { timeToDouble: Math.LN2 / re } : { timeToHalf: Math.LN2 / -re }),
    shape: [],
  });
  it('puts each mode at its level, and says against what', () => {
    const levels = handlingLevels(
      [
        mode('short period', -4, 6),
        mode('phugoid', -0.01, 0.4),
        mode('Dutch roll', -0.3, 3),
        mode('roll', -0.5, 0),
        mode('spiral', 0.02, 0),
      ],
      'I',
      'B',
    );
    const by = Object.fromEntries(levels.map((l) => [l.mode, l.level]));
    expect(by).toEqual({ 'short period': 1, phugoid: 2, 'Dutch roll': 1, roll: 2, spiral: 1 });
    expect(handlingLevels([mode('Dutch roll', -0.3, 3)], 'I', 'A')[0].level).toBe(2);
    expect(handlingLevels([mode('spiral', 0.07, 0), mode('phugoid', 0.02, 0.3)], 'I', 'B').map((l) => l.level)).toEqual(
      [4, 2],
    );
    const quick = [mode('short period', -4, 6)];
    // ω² = 52: over n/α of 20 it is 2.6, over 10 more than 3.6, over 400 less than 0.16.
    expect([20, 10, 400].map((n) => handlingLevels(quick, 'I', 'A', n)[0].level)).toEqual([1, 2, 4]);
    expect(handlingLevels(quick, 'I', 'A', 10)[0].says).toMatch(/^ω² over n\/α 5.20; 0.28 to 3.6/);
    expect(handlingLevels([mode('short period', -0.5, 0.5)], 'I', 'C', 1)[0].level).toBe(2);
    expect(levels[3].says).toMatch(/time constant 2.0 s; 1.4 s at most/);
  });
});
