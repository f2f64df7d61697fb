import { lateralSystem, longitudinalSystem, type MotionCase } from '../motion';
import { sampleCase } from '../motion/testing/sample-case';
import { RAD } from '../numerics';
import { randomNumbers } from '../simulation';
import {
  estimateDerivatives,
  motionsOf,
  readResponseRecord,
  respond,
  type ResponseMotion,
  type ResponseRecord,
} from '.';

const aircraft = (scale = 1) =>
  sampleCase({
    Cm_alphadot: -4,
    CY_beta: -0.38,
    Cl_beta: -0.07 * scale,
    Cn_beta: 0.06 * scale,
    CY_p: -0.05,
    Cl_p: -0.52 * scale,
    Cn_p: -0.04,
    CY_r: 0.16,
    Cl_r: 0.1,
    Cn_r: -0.07 * scale,
    CL_alpha: 5.6 * scale,
    Cm_alpha: -0.75 * scale,
    Cm_q: -14 * scale,
    controls: {
      Elevator: { CL: 0.4 * scale, Cm: -1.1 * scale },
      Ailerons: { Cl: 0.25 * scale, Cn: -0.012 },
      Rudder: { CY: 0.15, Cl: 0.008, Cn: -0.06 * scale },
    },
  });
/** A doublet of ±size from a time on, each half so long. */
const doublet = (t: number, from: number, half: number, size: number) =>
  t < from || t >= from + 2 * half ? 0 : t < from + half ? size : -size;

/** Small steps of order four through the equations: a second way beside the exponential. */
function flown(c: MotionCase, motion: ResponseMotion, seconds: number, rate: number) {
  const { A, B, inputs } = motion === 'longitudinal' ? longitudinalSystem(c) : lateralSystem(c);
  const deflection = (id: string, t: number) =>
    id === 'Elevator' && motion === 'longitudinal'
      ? doublet(t, 0.5, 0.4, 3 * RAD)
      : id === 'Rudder' && motion === 'lateral'
        ? doublet(t, 0.5, 0.6, 5 * RAD)
        : id === 'Ailerons' && motion === 'lateral'
          ? doublet(t, 4, 0.4, 4 * RAD)
          : 0;
  const t = Array.from({ length: seconds * rate + 1 }, (_, i) => i / rate);
  const u = inputs.map((id) => t.map((v) => deflection(id, v)));
  const slope = (x: readonly number[], d: readonly number[]) =>
    A.map((row, i) => row.reduce((s, v, j) => s + v * x[j], 0) + d.reduce((s, v, j) => s + v * B[i][j], 0));
  const parts = 10;
  const x = [[0, 0, 0, 0]];
  for (let k = 1; k < t.length; k++) {
    let now = x[k - 1];
    for (let p = 0; p < parts; p++) {
      const h = (t[k] - t[k - 1]) / parts;
      const at = (share: number) => u.map((v) => v[k - 1] + ((p + share) / parts) * (v[k] - v[k - 1]));
      const go = (d: readonly number[], by: number) => now.map((v, i) => v + by * d[i]);
      const k1 = slope(now, at(0));
      const k2 = slope(go(k1, h / 2), at(0.5));
      const k3 = slope(go(k2, h / 2), at(0.5));
      const k4 = slope(go(k3, h), at(1));
      now = now.map((v, i) => v + (h / 6) * (k1[i] + 2 * k2[i] + 2 * k3[i] + k4[i]));
    }
    x.push(now);
  }
  return { t, x, controls: Object.fromEntries(inputs.map((id, i) => [id, u[i]])) };
}
/** What sensors with an offset and noise make of it. */
function recorded(
  c: MotionCase,
  motion: ResponseMotion,
  noise: (row: number, output: number) => number,
  seconds = 8,
): ResponseRecord {
  const { t, x, controls } = flown(c, motion, seconds, 20);
  const of = (i: number, scale: number, offset: number) => x.map((v, k) => v[i] * scale + offset + noise(k, i));
  return {
    t,
    controls,
    notes: [],
    outputs:
      motion === 'longitudinal'
        ? { speed: of(0, 1, c.speed), alpha: of(1, 1 / c.speed, 0.05), q: of(2, 1, 0.01), theta: of(3, 1, 0.04) }
        : { beta: of(0, 1 / c.speed, -0.01), p: of(1, 1, 0.005), r: of(2, 1, 0), phi: of(3, 1, 0.02) },
  };
}
const SIZES = {
  longitudinal: [0.15, 0.2 * RAD, 0.5 * RAD, 0.3 * RAD],
  lateral: [0.2 * RAD, 0.6 * RAD, 0.4 * RAD, 0.3 * RAD],
};
const valueOf = (c: MotionCase, name: string) =>
  name.split('.').reduce((at, key) => (at as Record<string, never>)[key], c.derivatives as unknown) as number;

describe('derivatives from a record', () => {
  it('the response by the exponential is that of small steps', () => {
    const c = aircraft();
    const { t, x, controls } = flown(c, 'lateral', 6, 50);
    const system = lateralSystem(c);
    const found = respond(
      system,
      [0, 0, 0, 0],
      t,
      system.inputs.map((id) => controls[id]),
    );
    const greatest = Math.max(...x.map((v) => Math.abs(v[1])));
    found.forEach((v, k) => expect(Math.abs(v[1] - x[k][1])).toBeLessThan(1e-6 * greatest));
  });
  it.each(['longitudinal', 'lateral'] as const)(
    '%s: true values of a clean record are found from a start that is 20 % off',
    (motion) => {
      const [truth, start] = [aircraft(), aircraft(1.2)];
      const found = estimateDerivatives(
        start,
        recorded(truth, motion, () => 0),
        motion,
      );
      for (const d of found.derivatives) {
        expect(Math.abs(d.value / valueOf(truth, d.name) - 1)).toBeLessThan(1e-3);
        expect(d.predicted).toBe(valueOf(start, d.name));
      }
      expect(found.outputs.every((o) => o.explained > 0.999)).toBe(true);
    },
  );
  it.each(['longitudinal', 'lateral'] as const)(
    '%s: of 100 records with noise, 90 to 99 hold the true value in the bounds of 95 %%',
    (motion) => {
      const [truth, start] = [aircraft(), aircraft(1.15)];
      const inside: Record<string, number> = {};
      const clean = recorded(truth, motion, () => 0);
      for (let seed = 1; seed <= 100; seed++) {
        const { normal } = randomNumbers(seed);
        const outputs = Object.fromEntries(
          Object.entries(clean.outputs).map(([name, v], i) => [name, v.map((y) => y + SIZES[motion][i] * normal())]),
        );
        const found = estimateDerivatives(start, { ...clean, outputs }, motion);
        for (const d of found.derivatives) {
          const value = valueOf(truth, d.name);
          inside[d.name] = (inside[d.name] ?? 0) + Number(d.low <= value && value <= d.high);
        }
      }
      const shares = Object.values(inside);
      const mean = shares.reduce((s, v) => s + v, 0) / shares.length;
      expect(mean).toBeGreaterThanOrEqual(92);
      expect(mean).toBeLessThanOrEqual(98);
      for (const n of shares) {
        expect(n).toBeGreaterThanOrEqual(90);
        expect(n).toBeLessThanOrEqual(99);
      }
    },
  );
});

const CONTROLS = ['Elevator', 'Ailerons', 'Rudder'].map((id) => ({ id, name: id }));
const table = (head: string, row: (k: number) => (number | string)[], rows = 60) =>
  [head, ...Array.from({ length: rows }, (_, k) => row(k).join(','))].join('\n');

describe('the record of a response', () => {
  it('is read with its units, its controls by name, from time 0', () => {
    const r = readResponseRecord(
      table('Time (ms), alpha (deg), q (rad/s), airspeed (km/h), elevator (deg), mood', (k) => [
        100 + 20 * k,
        k,
        0.5,
        90,
        k > 5 ? 2 : 0,
        'fine',
      ]),
      CONTROLS,
    );
    expect(r.t[1]).toBeCloseTo(0.02, 12);
    expect(r.outputs.alpha![3]).toBeCloseTo(3 * RAD, 12);
    expect(r.outputs.q![3]).toBe(0.5);
    expect(r.outputs.speed![0]).toBeCloseTo(25, 12);
    expect(r.controls.Elevator[10]).toBeCloseTo(2 * RAD, 12);
    expect(r.notes).toEqual(['column "mood" is not read']);
    expect(motionsOf(aircraft(), r)).toEqual(['longitudinal']);
  });
  it.each<[string, string, string]>([
    ['nothing', '', 'record-table'],
    ['an angle without unit', table('t (s),alpha,Elevator (deg)', (k) => [k, 1, 2]), 'record-unit'],
    ['an unknown unit', table('t (s),alpha (gon),Elevator (deg)', (k) => [k, 1, 2]), 'record-unit'],
    ['no clock', table('alpha (deg),Elevator (deg)', () => [1, 2]), 'record-columns'],
    ['no response', table('t (s),Elevator (deg)', (k) => [k, 2]), 'record-columns'],
    ['no control', table('t (s),alpha (deg)', (k) => [k, 2]), 'record-columns'],
    ['two clocks', table('t (s),time (s),q (deg/s),Elevator (deg)', (k) => [k, k, 1, 2]), 'record-clock'],
    ['time that goes back', table('t (s),q (deg/s),Elevator (deg)', (k) => [k % 30, 1, 2]), 'record-clock'],
    ['rows without numbers', table('t (s),q (deg/s),Elevator (deg)', (k) => [k, 'x', 2]), 'record-short'],
    ['a few rows', table('t (s),q (deg/s),Elevator (deg)', (k) => [k, 1, 2], 6), 'record-short'],
  ])('%s is refused, with what to do', (_, text, code) => {
    expect(() => readResponseRecord(text, CONTROLS)).toThrow(
      expect.objectContaining({ code, hint: expect.stringMatching(/\w/) as string }) as Error,
    );
  });
});

describe('a record that decides nothing', () => {
  const record = recorded(aircraft(), 'longitudinal', () => 0, 3);
  it('without a control that moves is refused', () => {
    const still = { ...record, controls: { Elevator: record.t.map(() => 0.1) } };
    expect(motionsOf(aircraft(), still)).toEqual([]);
    expect(() => estimateDerivatives(aircraft(), still, 'longitudinal')).toThrow(
      expect.objectContaining({ code: 'estimation-still' }) as Error,
    );
    expect(() => estimateDerivatives(aircraft(), record, 'lateral')).toThrow(
      expect.objectContaining({ code: 'estimation-outputs' }) as Error,
    );
    for (const name of ['Cl_beta', 'Cm_gamma', 'controls.Rudder.Cm', 'constructor'])
      expect(() => estimateDerivatives(aircraft(), record, 'longitudinal', [name])).toThrow(
        expect.objectContaining({ code: 'estimation-name' }) as Error,
      );
  });
  it('the damping of pitch is less sure where the lag of the downwash is estimated beside it', () => {
    const { normal } = randomNumbers(5);
    const noisy = recorded(aircraft(), 'longitudinal', (_, i) => SIZES.longitudinal[i] * normal());
    const [alone, both] = [['Cm_q'], ['Cm_q', 'Cm_alphadot']].map((names) =>
      estimateDerivatives(aircraft(), noisy, 'longitudinal', names),
    );
    expect(both.derivatives[0].deviation).toBeGreaterThan(1.3 * alone.derivatives[0].deviation);
  });
  it('noise that lasts from row to row widens the bounds, and is told', () => {
    const { normal } = randomNumbers(11);
    const white = recorded(aircraft(), 'longitudinal', (_, i) => SIZES.longitudinal[i] * normal());
    const last = [0, 0, 0, 0];
    const lasting = recorded(aircraft(), 'longitudinal', (k, i) => {
      last[i] = 0.9 * (k === 0 ? 0 : last[i]) + Math.sqrt(1 - 0.81) * SIZES.longitudinal[i] * normal();
      return last[i];
    });
    const [a, b] = [white, lasting].map((r) => estimateDerivatives(aircraft(), r, 'longitudinal'));
    expect(b.derivatives[1].deviation).toBeGreaterThan(2 * a.derivatives[1].deviation);
    expect(a.doubts).toEqual([]);
    expect(b.doubts.join()).toMatch(/correlated in time/);
  });
});
