import {
  bodyDerivatives,
  DERIVATIVE_NAMES,
  derivativeOf,
  derivativeSet,
  isDerivative,
  withDerivatives,
  dimensionalDerivatives,
  lateralSystem,
  longitudinalSystem,
  motionCase,
  readDerivatives,
} from '.';

const of = motionCase.parse({
  mass: 24,
  Ixx: 6.1,
  Iyy: 3.4,
  Izz: 9.2,
  Ixz: 0,
  area: 1.56,
  chord: 0.33,
  span: 4.8,
  speed: 26,
  density: 1.156,
  CL: 0.386,
  CD: 0.031,
  derivatives: {
    CL_alpha: 5.6,
    CD_alpha: 0.2,
    Cm_alpha: -0.75,
    CL_q: 6,
    CD_q: 0.1,
    Cm_q: -14,
    CL_alphadot: 1.5,
    Cm_alphadot: -4,
    CL_u: 0.01,
    CD_u: -0.004,
    Cm_u: 0.002,
    CY_beta: -0.3,
    Cl_beta: -0.06,
    Cn_beta: 0.05,
    CY_p: 0.02,
    Cl_p: -0.52,
    Cn_p: -0.04,
    CY_r: 0.1,
    Cl_r: 0.11,
    Cn_r: -0.06,
    controls: { Elevator: { CL: 0.4, Cm: -1.1 }, Aileron: { Cl: -0.25, Cn: 0.01 } },
  },
});
const by = (list: { name: string; value: number }[]) => Object.fromEntries(list.map((l) => [l.name, l.value]));

describe('derivatives with dimensions', () => {
  it('over mass and inertia are the entries of the linear systems', () => {
    const d = by(dimensionalDerivatives(of));
    const { A, B } = longitudinalSystem(of);
    expect(d.X_u / of.mass).toBeCloseTo(A[0][0], 12);
    expect(d.X_w / of.mass).toBeCloseTo(A[0][1], 12);
    expect(d.X_q / of.mass).toBeCloseTo(A[0][2], 12);
    const heave = of.mass - d.Z_wdot;
    expect(d.Z_u / heave).toBeCloseTo(A[1][0], 12);
    expect(d.Z_w / heave).toBeCloseTo(A[1][1], 12);
    expect((d.Z_q + of.mass * of.speed) / heave).toBeCloseTo(A[1][2], 12);
    expect((d.M_w + (d.M_wdot * d.Z_w) / heave) / of.Iyy).toBeCloseTo(A[2][1], 12);
    expect((d.M_q + (d.M_wdot * (d.Z_q + of.mass * of.speed)) / heave) / of.Iyy).toBeCloseTo(A[2][2], 12);
    expect((d['M Elevator'] + (d.M_wdot * d['Z Elevator']) / heave) / of.Iyy).toBeCloseTo(B[2][0], 12);
    const side = lateralSystem(of);
    expect(d.Y_v / of.mass).toBeCloseTo(side.A[0][0], 12);
    expect(d.L_p / of.Ixx).toBeCloseTo(side.A[1][1], 12);
    expect(d.N_r / of.Izz).toBeCloseTo(side.A[2][2], 12);
    expect(d.L_v / of.Ixx).toBeCloseTo(side.A[1][0], 12);
    expect(d['L Aileron'] / of.Ixx).toBeCloseTo(side.B[1][1], 12);
  });
});

describe('derivatives in body axes', () => {
  it('are those of the stream at no angle, with the signs of forces forward and downward', () => {
    const d = by(bodyDerivatives(of, 0));
    expect(d.CZ_alpha).toBeCloseTo(-5.6 - 0.031, 12);
    expect(d.CX_alpha).toBeCloseTo(0.386 - 0.2, 12);
    expect([d.Cl_p, d.Cn_r, d.Cl_r, d.Cn_p]).toEqual([-0.52, -0.06, 0.11, -0.04]);
  });
  it('turn with the angle as the forces and moments do that they are slopes of', () => {
    const alpha = 0.2;
    const d = by(bodyDerivatives(of, alpha));
    // Forces of lift and drag that change, along the body, by differences.
    const force = (a: number) => {
      const [CL, CD] = [0.386 + 5.6 * (a - alpha), 0.031 + 0.2 * (a - alpha)];
      return [CL * Math.sin(a) - CD * Math.cos(a), -CL * Math.cos(a) - CD * Math.sin(a)];
    };
    const h = 1e-6;
    const slope = (i: number) => (force(alpha + h)[i] - force(alpha - h)[i]) / (2 * h);
    expect(d.CX_alpha).toBeCloseTo(slope(0), 7);
    expect(d.CZ_alpha).toBeCloseTo(slope(1), 7);
    // Damping of a turn is the same whatever axes it is told in: the quadratic form of moment and rate.
    const stability = [
      [-0.52, 0.11],
      [-0.04, -0.06],
    ];
    const body = [
      [d.Cl_p, d.Cl_r],
      [d.Cn_p, d.Cn_r],
    ];
    const [p, r] = [0.7, -0.3];
    const [ps, rs] = [p * Math.cos(alpha) + r * Math.sin(alpha), r * Math.cos(alpha) - p * Math.sin(alpha)];
    const form = (m: number[][], x: number, y: number) =>
      x * (m[0][0] * x + m[0][1] * y) + y * (m[1][0] * x + m[1][1] * y);
    expect(form(body, p, r)).toBeCloseTo(form(stability, ps, rs), 12);
    expect(body[0][0] + body[1][1]).toBeCloseTo(-0.58, 12);
  });
});

describe('a set of derivatives from elsewhere', () => {
  it('is read as JSON, as a table, and with names written otherwise', () => {
    expect(readDerivatives(JSON.stringify({ mass: 3, derivatives: { CL_alpha: 5.1, Cm_q: -9 } }))).toEqual({
      CL_alpha: 5.1,
      Cm_q: -9,
    });
    expect(readDerivatives('{"CL_alpha": "4.9"}')).toEqual({ CL_alpha: 4.9 });
    expect(readDerivatives('derivative;value\nC_Lalpha;5.2\nCl_p;−0.4\nC_l_beta;-0.05\n')).toEqual({
      CL_alpha: 5.2,
      Cl_p: -0.4,
      Cl_beta: -0.05,
    });
    expect(readDerivatives('Cm_alphadot -3\nCn_r -0.05')).toEqual({ Cm_alphadot: -3, Cn_r: -0.05 });
    const withControls = { derivatives: { CL_alpha: 5, controls: { Elevator: { Cm: -1.2 }, none: null } } };
    expect(readDerivatives(JSON.stringify(withControls))).toEqual({ CL_alpha: 5, 'controls.Elevator.Cm': -1.2 });
    expect(readDerivatives('controls.Outer. flap.Cl, 0.2')).toEqual({ 'controls.Outer. flap.Cl': 0.2 });
    const all = Object.fromEntries(DERIVATIVE_NAMES.map((n, i) => [n, i + 0.5]));
    expect(readDerivatives(DERIVATIVE_NAMES.map((n) => `${n},${all[n]}`).join('\n'))).toEqual(all);
  });
  it.each([
    ['', /empty/],
    ['{', /no JSON/],
    ['hello world', /no derivative that is known/],
    ['CL_alpha,high', /"high", which is no number/],
    ['Cm_q,-9\nCm_q,-8', /given twice/],
    ['{"derivatives": {"CL_alpha": "NaN"}}', /no number/],
  ])('says what is wrong with %j', (text, why) => {
    expect(() => readDerivatives(text)).toThrow(why);
  });
});

describe('derivatives by name', () => {
  const set = derivativeSet.parse({ CL_alpha: 5, controls: { 'Flap.1': { Cm: -0.1 } } });
  it('tells and replaces also what a control does', () => {
    expect(derivativeOf(set, 'controls.Flap.1.Cm')).toBe(-0.1);
    const other = withDerivatives(set, { CL_alpha: 4, 'controls.Flap.1.CL': 0.3, 'controls.Gone.Cm': 1 });
    expect(other).toEqual({ ...set, CL_alpha: 4, controls: { 'Flap.1': { ...set.controls['Flap.1'], CL: 0.3 } } });
    expect(set.CL_alpha).toBe(5);
  });
  it.each([
    ['Cm_q', true],
    ['controls.Elevator.Cm', true],
    ['controls.Elevator.Cx', false],
    ['controls.Cm', false],
    ['controls..Cm', false],
    ['__proto__', false],
    ['Cm', false],
  ])('knows %s: %s', (name, known) => expect(isDerivative(name)).toBe(known));
});
