import type { MotionCase } from './derivatives';

/** A derivative in another form. */
export interface FormLine {
  name: string;
  value: number;
  unit: string;
  says: string;
}

const turned = (alpha: number, along: number, up: number): [number, number] => [
  along * Math.cos(alpha) - up * Math.sin(alpha),
  along * Math.sin(alpha) + up * Math.cos(alpha),
];

/**
 * The derivatives in body axes (forward, right, down), without dimension, per rad, rates with b/2V and c/2V: forces CX, CZ instead of drag and lift, and
 * rolling and yawing moments and rates about the body's own axes.
 * @param alpha of the trim, rad. @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, appendix B.12 (turning of axes).
 */
export function bodyDerivatives({ derivatives: d, CL, CD }: MotionCase, alpha: number): FormLine[] {
  const [s, c] = [Math.sin(alpha), Math.cos(alpha)];
  const out: FormLine[] = [];
  const add = (name: string, value: number, says: string) => out.push({ name, value, unit: '', says });
  /** Forces along the body from lift and drag that change, and from the stream that turns against the body. */
  const forces = (lift: number, drag: number, turns: 0 | 1) => ({
    X: lift * s - drag * c + turns * (CL * c + CD * s),
    Z: -lift * c - drag * s + turns * (CL * s - CD * c),
  });
  for (const [key, lift, drag, says, turns] of [
    ['alpha', d.CL_alpha, d.CD_alpha, 'angle of attack', 1],
    ['q', d.CL_q, d.CD_q, 'pitch rate q c / 2V', 0],
    ['alphadot', d.CL_alphadot, 0, 'rate of α, α̇ c / 2V', 0],
    ['u', d.CL_u, d.CD_u, 'change of speed', 0],
  ] as const) {
    const { X, Z } = forces(lift, drag, turns);
    add(`CX_${key}`, X, `force forward per ${says}`);
    add(`CZ_${key}`, Z, `force downward per ${says}`);
  }
  for (const [key, value, says] of [
    ['alpha', d.Cm_alpha, 'angle of attack'],
    ['q', d.Cm_q, 'pitch rate q c / 2V'],
    ['alphadot', d.Cm_alphadot, 'rate of α, α̇ c / 2V'],
    ['u', d.Cm_u, 'change of speed'],
  ] as const)
    add(`Cm_${key}`, value, `pitching moment per ${says}`);
  /** Moments about the stream's axes told about the body's. */
  const moments = (l: number, n: number) => turned(alpha, l, n);
  const [lb, nb] = moments(d.Cl_beta, d.Cn_beta);
  add('CY_beta', d.CY_beta, 'side force per sideslip');
  add('Cl_beta', lb, 'rolling moment per sideslip');
  add('Cn_beta', nb, 'yawing moment per sideslip');
  for (const axis of ['p', 'r'] as const) {
    // p_s = p cos α + r sin α, r_s = r cos α − p sin α.
    const [wp, wr] = axis === 'p' ? [c, -s] : [s, c];
    const [l, n] = moments(wp * d.Cl_p + wr * d.Cl_r, wp * d.Cn_p + wr * d.Cn_r);
    const says = axis === 'p' ? 'roll rate p b / 2V' : 'yaw rate r b / 2V';
    add(`CY_${axis}`, wp * d.CY_p + wr * d.CY_r, `side force per ${says}`);
    add(`Cl_${axis}`, l, `rolling moment per ${says}`);
    add(`Cn_${axis}`, n, `yawing moment per ${says}`);
  }
  for (const [name, k] of Object.entries(d.controls)) {
    const { X, Z } = forces(k.CL, k.CD, 0);
    const [l, n] = moments(k.Cl, k.Cn);
    for (const [key, value] of Object.entries({ CX: X, CZ: Z, Cm: k.Cm, CY: k.CY, Cl: l, Cn: n }))
      if (Math.abs(value) > 1e-9) add(`${key} ${name}`, value, `per deflection of ${name}`);
  }
  return out;
}

/**
 * The derivatives with their dimensions, stability axes: forces (N) and moments (N m) per velocity (m/s), rate (rad/s), acceleration (m/s²) and deflection (rad).
 * @source as the linear systems, times mass and moments of inertia; Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, tables 4.4 and 4.5.
 */
export function dimensionalDerivatives(of: MotionCase): FormLine[] {
  const { derivatives: d, area, chord, span, speed, density, CL, CD } = of;
  const qS = 0.5 * density * speed * speed * area;
  const [lag, turn] = [chord / (2 * speed), span / (2 * speed)];
  const out: FormLine[] = [];
  const add = (name: string, value: number, unit: string, says: string) => out.push({ name, value, unit, says });
  const V = speed;
  add('X_u', (-(d.CD_u + 2 * CD) * qS) / V, 'N s/m', 'force forward per speed');
  add('X_w', ((CL - d.CD_alpha) * qS) / V, 'N s/m', 'force forward per heave');
  add('X_q', -d.CD_q * lag * qS, 'N s', 'force forward per pitch rate');
  add('Z_u', (-(d.CL_u + 2 * CL) * qS) / V, 'N s/m', 'force downward per speed');
  add('Z_w', (-(d.CL_alpha + CD) * qS) / V, 'N s/m', 'force downward per heave');
  add('Z_wdot', (-d.CL_alphadot * lag * qS) / V, 'N s²/m', 'force downward per rate of heave');
  add('Z_q', -d.CL_q * lag * qS, 'N s', 'force downward per pitch rate');
  add('M_u', (d.Cm_u * qS * chord) / V, 'N s', 'pitching moment per speed');
  add('M_w', (d.Cm_alpha * qS * chord) / V, 'N s', 'pitching moment per heave');
  add('M_wdot', (d.Cm_alphadot * lag * qS * chord) / V, 'N s²', 'pitching moment per rate of heave');
  add('M_q', d.Cm_q * lag * qS * chord, 'N m s', 'pitching moment per pitch rate');
  add('Y_v', (d.CY_beta * qS) / V, 'N s/m', 'side force per side velocity');
  add('Y_p', d.CY_p * turn * qS, 'N s', 'side force per roll rate');
  add('Y_r', d.CY_r * turn * qS, 'N s', 'side force per yaw rate');
  for (const [axis, says] of [
    ['l', 'rolling moment'],
    ['n', 'yawing moment'],
  ] as const) {
    const [L, k] = [axis === 'l' ? 'L' : 'N', axis === 'l' ? 'Cl' : 'Cn'] as const;
    add(`${L}_v`, (d[`${k}_beta`] * qS * span) / V, 'N s', `${says} per side velocity`);
    add(`${L}_p`, d[`${k}_p`] * turn * qS * span, 'N m s', `${says} per roll rate`);
    add(`${L}_r`, d[`${k}_r`] * turn * qS * span, 'N m s', `${says} per yaw rate`);
  }
  for (const [name, k] of Object.entries(d.controls))
    for (const [key, value, unit] of [
      ['X', -k.CD * qS, 'N'],
      ['Z', -k.CL * qS, 'N'],
      ['M', k.Cm * qS * chord, 'N m'],
      ['Y', k.CY * qS, 'N'],
      ['L', k.Cl * qS * span, 'N m'],
      ['N', k.Cn * qS * span, 'N m'],
    ] as const)
      if (Math.abs(value) > 1e-9) add(`${key} ${name}`, value, unit, `per deflection of ${name}, rad`);
  return out;
}
