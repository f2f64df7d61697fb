import { motionCase, motionOf, rootsOf, type MotionCase } from '.';
import reference from '../../reference/motion.json';

// A published set of a light aeroplane, in feet, slugs and seconds; here in SI.
const FOOT = 0.3048;
const SLUG = 14.59390294;
const published = (): MotionCase =>
  motionCase.parse({
    mass: reference.mass.weight_lb * 0.45359237,
    Ixx: reference.mass.Ixx * SLUG * FOOT ** 2,
    Iyy: reference.mass.Iyy * SLUG * FOOT ** 2,
    Izz: reference.mass.Izz * SLUG * FOOT ** 2,
    Ixz: 0,
    area: reference.reference.area_ft2 * FOOT ** 2,
    chord: reference.reference.chord_ft * FOOT,
    span: reference.reference.span_ft * FOOT,
    speed: reference.trim.speed_ft_s * FOOT,
    density: (reference.trim.air_density_slug_ft3 * SLUG) / FOOT ** 3,
    climbDeg: 0,
    CL: reference.trim.CL,
    CD: reference.trim.CD,
    derivatives: { ...reference.longitudinal_per_rad, ...reference.lateral_per_rad },
  });
const mode = (c: MotionCase, name: string) => motionOf(c).modes.find((m) => m.name === name)!;
const changed = (derivatives: Partial<MotionCase['derivatives']>, more: Partial<MotionCase> = {}): MotionCase => {
  const c = published();
  return { ...c, ...more, derivatives: { ...c.derivatives, ...derivatives } };
};

describe('modes of the published set', () => {
  it.each([
    ['short period', 'short_period'],
    ['phugoid', 'phugoid'],
    ['Dutch roll', 'dutch_roll'],
    ['roll', 'roll'],
  ] as const)('%s is as published', (name, key) => {
    const m = mode(published(), name);
    const p: { re: number; im?: number; rel_tol: number } = reference.modes[key];
    expect(Math.abs(m.re / p.re - 1)).toBeLessThan(p.rel_tol);
    if (p.im !== undefined) expect(Math.abs(m.im / p.im - 1)).toBeLessThan(p.rel_tol);
  });
  it('spiral is as published', () => {
    const p = reference.modes.spiral;
    expect(Math.abs(mode(published(), 'spiral').re - p.re)).toBeLessThan(p.abs_tol);
  });
  it('tells times, periods and damping that belong together', () => {
    const m = mode(published(), 'phugoid');
    expect(m.period! * m.frequencyHz).toBeCloseTo(1, 12);
    expect(Math.exp(m.re * m.timeToHalf!)).toBeCloseTo(0.5, 12);
    expect(m.dampingRatio).toBeCloseTo(-m.re / Math.hypot(m.re, m.im), 12);
    expect(mode(published(), 'roll')).toMatchObject({ im: 0, frequencyHz: 0, dampingRatio: 1 });
    const slow = motionOf(changed({ Cl_beta: -0.01, Cn_r: -0.02 })).modes.find((k) => k.name === 'spiral')!;
    expect(slow.re).toBeGreaterThan(0);
    expect(slow.timeToDouble).toBeCloseTo(Math.LN2 / slow.re, 12);
    expect(slow.timeToHalf).toBeUndefined();
  });
  it('has the shapes of the trade: a phugoid changes speed, a roll is a roll', () => {
    const part = (m: ReturnType<typeof mode>, state: string) => m.shape.find((s) => s.state === state)!.size;
    const phugoid = mode(published(), 'phugoid');
    expect(part(phugoid, 'u')).toBeGreaterThan(5 * part(phugoid, 'w'));
    const short = mode(published(), 'short period');
    expect(part(short, 'w')).toBeGreaterThan(5 * part(short, 'u'));
    const roll = mode(published(), 'roll');
    expect(part(roll, 'p')).toBeGreaterThan(20 * part(roll, 'r'));
  });
});

describe('names where modes merge or come apart', () => {
  it('a tail-heavy aircraft has no short period any more; every root has a name', () => {
    const m = motionOf(changed({ Cm_alpha: 0.6 })).modes;
    const long = m.slice(
      0,
      m.findIndex((k) => /roll|spiral|Dutch|lateral/.test(k.name)),
    );
    expect(long.reduce((n, k) => n + (k.im > 0 ? 2 : 1), 0)).toBe(4);
    expect(long.some((k) => k.timeToDouble !== undefined)).toBe(true);
    expect(new Set(m.map((k) => k.name)).size).toBe(m.length);
  });
  it('roll and spiral may merge into a slow oscillation', () => {
    const m = motionOf(changed({ Cl_p: -0.05, Cl_beta: -0.3, Cn_p: 0.1, Cn_r: -0.5 })).modes;
    expect(m.slice(2).map((k) => k.name)).toEqual(['Dutch roll', 'lateral phugoid']);
    expect(m[3].im).toBeLessThan(m[2].im);
  });
  it('eigenvalues and vectors satisfy the equations', () => {
    for (const system of Object.values(motionOf(changed({}, { Ixz: 200, climbDeg: 5 })).matrices))
      for (const r of rootsOf(system.A))
        system.A.forEach((row, i) => {
          const re = row.reduce((s, a, k) => s + a * r.vector[k].re, 0);
          const im = row.reduce((s, a, k) => s + a * r.vector[k].im, 0);
          const v = r.vector[i];
          const scale = 1e-9 * Math.max(1, ...r.vector.map((x) => Math.hypot(x.re, x.im))) * 1e3;
          expect(Math.abs(re - (r.re * v.re - r.im * v.im))).toBeLessThan(scale);
          expect(Math.abs(im - (r.re * v.im + r.im * v.re))).toBeLessThan(scale);
        });
  });
});

describe('the equations', () => {
  it('have the limits of the trade: a phugoid of g√2/V, a roll of its damping', () => {
    // Without pitching the long period swings at √2 g/V.
    const c = changed({ Cm_alpha: -4000, Cm_q: -10, Cm_alphadot: 0, CD_alpha: 0 }, { CD: 1e-6, CL: 0 });
    const level = { ...c, CL: (c.mass * 9.80665) / (0.5 * c.density * c.speed ** 2 * c.area) };
    expect(mode(level, 'phugoid').im).toBeCloseTo((Math.SQRT2 * 9.80665) / c.speed, 2);
    const roll = changed({ Cl_beta: 0, Cl_r: 0, Cn_p: 0 });
    const q = 0.5 * roll.density * roll.speed ** 2;
    const Lp = (q * roll.area * roll.span ** 2 * roll.derivatives.Cl_p) / (2 * roll.speed * roll.Ixx);
    expect(mode(roll, 'roll').re).toBeCloseTo(Lp, 6);
  });
  it('let controls in where they belong, through the downwash lag and the product of inertia', () => {
    const elevator = { CL: 0.4, CD: 0.01, Cm: -1.1, CY: 0, Cl: 0, Cn: 0 };
    const aileron = { CL: 0, CD: 0, Cm: 0, CY: 0, Cl: -0.13, Cn: 0.003 };
    const c = changed({ controls: { elevator, aileron } }, { Ixz: 150 });
    const { longitudinal, lateral } = motionOf(c).matrices;
    expect(longitudinal.inputs).toEqual(['elevator', 'aileron']);
    const force = (0.5 * c.density * c.speed ** 2 * c.area) / c.mass;
    expect(longitudinal.B[1][0]).toBeCloseTo(-0.4 * force, 9);
    expect(longitudinal.B[2][0]).toBeLessThan(0);
    expect(longitudinal.B.map((row) => Math.abs(row[1]))).toEqual([0, 0, 0, 0]);
    expect(lateral.B[1][1]).toBeLessThan(0);
    // The product of inertia turns the nose as well.
    const plain = motionOf({ ...c, Ixz: 0 }).matrices.lateral.B[2][1];
    expect(lateral.B[2][1]).toBeLessThan(plain);
  });
});

describe('what is given', () => {
  it('is refused where no body has it, and doubted where units or signs look wrong', () => {
    const refused = (more: object) => motionCase.safeParse({ ...published(), ...more }).error?.issues[0].message;
    expect(refused({ Izz: 1e6 })).toMatch(/no body has such moments/);
    expect(refused({ Ixz: 1e5 })).toMatch(/not be positive/);
    expect(refused({ mass: 0 })).toMatch(/greater than 0/);
    expect(refused({ derivatives: { CL_alfa: 4 } })).toMatch(/CL_alfa/);
    expect(refused({ CL: NaN })).toBeDefined();
    expect(motionOf(published()).doubts).toEqual([]);
    expect(motionOf(changed({ CL_alpha: 0.0775 })).doubts[0]).toMatch(/per degree/);
    expect(motionOf(changed({ Cm_q: 9.96 })).doubts[0]).toMatch(/Cm_q is positive/);
  });
});
