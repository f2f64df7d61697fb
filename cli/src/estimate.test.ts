import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { respond } from '@veldtwind/core/estimation';
import { lateralSystem, longitudinalSystem, motionCase } from '@veldtwind/core/motion';
import { DEG, RAD } from '@veldtwind/core/numerics';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'estimate-'));
const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const set = (Cm_alpha: number, Cl_p: number) => ({
  mass: 24,
  Ixx: 6.1,
  Iyy: 3.4,
  Izz: 9.2,
  area: 1.56,
  chord: 0.33,
  span: 4.8,
  speed: 26,
  density: 1.156,
  CL: 0.386,
  CD: 0.031,
  derivatives: {
    CL_alpha: 5.6,
    Cm_alpha,
    Cm_q: -14,
    CY_beta: -0.38,
    Cl_beta: -0.07,
    Cn_beta: 0.06,
    Cl_p,
    Cn_r: -0.07,
    controls: { Elevator: { CL: 0.4, Cm: -1.1 }, Ailerons: { Cl: 0.25, Cn: -0.01 } },
  },
});

/** A flight with a doublet of the elevator and one of the ailerons, as a logger in degrees writes it. */
function flown(): string {
  const c = motionCase.parse(set(-0.75, -0.52));
  const t = Array.from({ length: 400 }, (_, k) => k * 0.02);
  const pulse = (v: number, at: number) => (v > at && v < at + 0.4 ? 3 : v > at + 0.4 && v < at + 0.8 ? -3 : 0);
  const u = [t.map((v) => pulse(v, 0.5)), t.map((v) => pulse(v, 3))];
  const rad = u.map((d) => d.map((v) => v * RAD));
  const [a, b] = [longitudinalSystem(c), lateralSystem(c)].map((s) => respond(s, [0, 0, 0, 0], t, rad));
  const deg = (v: number) => v * DEG;
  const rows = t.map((v, k) =>
    [v, 2 + deg(a[k][1] / 26), deg(a[k][2]), deg(b[k][1]), deg(b[k][2]), deg(b[k][0] / 26), u[0][k] - 1, u[1][k]].map(
      (x) => x.toFixed(6),
    ),
  );
  const head = 't (s),alpha (deg),q (deg/s),p (deg/s),r (deg/s),beta (deg),Elevator (deg),Ailerons (deg)';
  return [head, ...rows].join('\n');
}

describe('vw estimate', () => {
  const start = file('set.json', JSON.stringify(set(-0.6, -0.45)));
  const record = file('record.csv', flown());
  it('finds the derivatives of a record in both motions, from a set that is off', async () => {
    const { out, code } = await vw('estimate', '--record', record, '--derivatives', start, '--json');
    expect(code).toBe(0);
    const { derivatives, motions } = JSON.parse(out) as {
      derivatives: Record<string, number>;
      motions: { motion: string }[];
    };
    expect(motions.map((m) => m.motion)).toEqual(['longitudinal', 'lateral']);
    expect(derivatives.Cm_alpha).toBeCloseTo(-0.75, 3);
    expect(derivatives.Cl_p).toBeCloseTo(-0.52, 3);
    expect(derivatives['controls.Elevator.Cm']).toBeCloseTo(-1.1, 3);
  });
  it('says them in a table, of the motion and names that are asked for', async () => {
    const { out, code } = await vw(
      ...['estimate', '--record', record, '--derivatives', start, '--motion', 'longitudinal'],
      ...['--estimate', 'Cm_alpha,Cm_q'],
    );
    expect(code).toBe(0);
    expect(out).toMatch(/Cm_alpha +-0\.6000 +-0\.75/);
    expect(out).not.toMatch(/CL_alpha/);
  });
  it('refuses what tells nothing', async () => {
    const none = await vw('estimate', '--record', record);
    expect(none.code).toBe(1);
    expect(none.err).toMatch(/--airframe or --derivatives/);
    const still = file(
      'still.csv',
      ['t (s),q (deg/s),Elevator (deg)', ...Array.from({ length: 30 }, (_, k) => `${k},0,1`)].join('\n'),
    );
    const refused = await vw('estimate', '--record', still, '--derivatives', start);
    expect(refused.code).toBe(1);
    expect(refused.err).toMatch(/doublet/);
  });
});
