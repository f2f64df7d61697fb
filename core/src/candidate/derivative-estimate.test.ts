import { condensed, estimateDerivatives, readResponseRecord, steadyOf, type ResponseRecord } from '../estimation';
import { keptMeanLine } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { DEG, RAD } from '../numerics';
import { freshCandidate, type CandidatePart } from '../project';
import type { SectionSource } from '../shaping';
import { fly, randomNumbers, scenarioSchema } from '../simulation';
import { derivativeEstimate, type DerivativeEstimate, type DerivativeEstimateInput } from './derivative-estimate';
import { flightTables, flownVehicle } from './fly';
import { airframeMotion, type AirframeMotion, type MotionInput } from './motion';

const section: SectionSource = { kind: 'designation', designation: '0009', trailingEdge: 'published' };
const control = (id: string, kind: string, from = 0) =>
  ({ id, name: id, kind, from, to: 1, hinge: 0.7, deflectionDeg: 0, limitsDeg: [-25, 25] }) as const;
const wing = madeWing(5, 0.5, 0.4);
const tail = {
  ...madeWing(1.4, 0.32, 0.28),
  id: 'tail',
  name: 'Tail',
  role: 'tailplane',
  position: { x: 2.2, y: 0, z: 0.2 },
  controls: [control('Elevator', 'symmetric')],
};
const fin = {
  ...madeWing(1, 0.4, 0.25),
  id: 'fin',
  name: 'Fin',
  role: 'fin',
  plane: 'vertical',
  mirrored: false,
  position: { x: 2.2, y: 0, z: 0 },
  controls: [control('Rudder', 'symmetric')],
};
const ailerons = [control('Ailerons', 'opposed', 0.6)];
const aircraft = {
  ...freshCandidate('t', 'T', 'Tailed', 0),
  surfaces: [{ ...wing, bays: wing.bays.map((b) => ({ ...b, dihedralDeg: 4 })), controls: ailerons }, tail, fin],
  massItems: [
    {
      id: 'm',
      name: 'All',
      mass: 20,
      position: { x: 0.12, y: 0, z: 0 },
      inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 },
    },
  ],
} as unknown as CandidatePart;
const of = (candidate: CandidatePart = aircraft): MotionInput => ({
  candidate,
  sections: { s: section } as MotionInput['sections'],
  speed: 22,
  altitude: 800,
  polars: null,
});
const lineOf = () => keptMeanLine(section);
const NAMES = ['Elevator', 'Ailerons', 'Rudder'].map((name) => ({ id: name, name }));

/** A doublet as a servo moves it: each half so long, s, with ramps. */
const RAMP = 0.1;
const doublet = (at: number, half: number, degrees: number): [number, number][] => [
  [0, 0],
  [at, 0],
  [at + RAMP, degrees],
  [at + half, degrees],
  [at + half + 2 * RAMP, -degrees],
  [at + 2 * half + RAMP, -degrees],
  [at + 2 * half + 2 * RAMP, 0],
  [1e4, 0],
];

let predicted: AirframeMotion;
/** What a flight with some doublets writes down, as text. The thrust through the centre balances the drag. */
let flown: (inputs: object[], duration: number) => string;
beforeAll(() => {
  const options = { speed: 22, altitude: 800, polars: null };
  const tables = flightTables(aircraft, () => section, lineOf, options);
  predicted = airframeMotion(aircraft, () => section, lineOf, options);
  const { trim, flow, reference } = predicted;
  const drag = trim.CD * flow.dynamicPressure * reference.area;
  flown = (inputs, duration) => {
    const scenario = scenarioSchema.parse({
      ground: 700,
      launch: { kind: 'flight', speed: 22, height: 100 },
      duration,
      record: 0.02,
      inputs,
      boosts: [
        {
          thrust: [
            [0, drag],
            [1000, drag],
          ],
          position: { x: 0.12, y: 0, z: 0 },
          pitchDeg: -trim.alpha * DEG,
        },
      ],
    });
    const { columns, series } = fly(scenario, flownVehicle(tables.massItems, {}, tables, scenario));
    return `${columns.join(',')}\n${series[0].map((_, i) => series.map((v) => v[i]).join(',')).join('\n')}`;
  };
});
const pitched = () => flown([{ kind: 'points', control: 'Elevator', points: doublet(0.5, 0.4, 2) }], 8);
const rolled = () =>
  flown(
    [
      { kind: 'points', control: 'Rudder', points: doublet(0.5, 0.7, 3) },
      { kind: 'points', control: 'Ailerons', points: doublet(4.5, 0.5, 2) },
    ],
    10,
  );
/** Noise of small sensors, rad, rad/s and m/s. */
const NOISE = {
  speed: 0.15,
  alpha: 0.2 * RAD,
  theta: 0.2 * RAD,
  q: 0.5 * RAD,
  beta: 0.2 * RAD,
  p: 0.5 * RAD,
  r: 0.5 * RAD,
  phi: 0.2 * RAD,
};
function noisy(record: ResponseRecord, seed: number): ResponseRecord {
  const random = randomNumbers(seed);
  const outputs = Object.fromEntries(
    Object.entries(record.outputs).map(([name, v]) => [
      name,
      v.map((x) => x + NOISE[name as keyof typeof NOISE] * random.normal()),
    ]),
  );
  return { ...record, outputs };
}

const close = (e: DerivativeEstimate, name: string, share: number) => {
  const found = e.derivatives.find((d) => d.name === name)!;
  expect([name, Math.abs(found.value / found.predicted - 1) < share, found.value]).toEqual([name, true, found.value]);
};

describe('derivatives from the record of a nonlinear flight', () => {
  let pitching: ResponseRecord;
  let rolling: ResponseRecord;
  beforeAll(() => {
    pitching = readResponseRecord(pitched(), NAMES);
    rolling = readResponseRecord(rolled(), NAMES);
  });
  const estimate = (record: ResponseRecord, more: Partial<DerivativeEstimateInput> = {}) =>
    derivativeEstimate({ of: of(), record, ...more });

  it('are those of small motions about its trim, with rates and bank along the body', () => {
    const along = estimate(pitching);
    expect(along.motions).toEqual(['longitudinal']);
    for (const [name, share] of Object.entries({
      CL_alpha: 0.01,
      Cm_alpha: 0.01,
      Cm_q: 0.06,
      'controls.Elevator.Cm': 0.04,
    }))
      close(along, name, share);
    const aside = estimate(rolling);
    expect(aside.motions).toEqual(['lateral']);
    const shares = { CY_beta: 0.02, Cl_beta: 0.02, Cn_beta: 0.02, Cl_p: 0.02, Cn_p: 0.05, Cl_r: 0.02, Cn_r: 0.02 };
    for (const [name, share] of Object.entries(shares)) close(aside, name, share);
    for (const [name, share] of [
      ['Ailerons.Cl', 0.02],
      ['Ailerons.Cn', 0.06],
      ['Rudder.Cn', 0.02],
    ] as const)
      close(aside, `controls.${name}`, share);
    for (const p of [...along.predicted, ...aside.predicted]) expect(p.explained).toBeGreaterThan(0.999);
  });
  it('holds the true values in its bounds with the noise of sensors', () => {
    const runs = 8;
    for (const [motion, record] of [
      ['longitudinal', pitching],
      ['lateral', rolling],
    ] as const) {
      const held: Record<string, number> = {};
      for (let k = 1; k <= runs; k++)
        for (const d of estimateDerivatives(predicted.case, noisy(record, k), motion, undefined, predicted.trim.alpha)
          .derivatives)
          held[d.name] = (held[d.name] ?? 0) + (d.low <= d.predicted && d.predicted <= d.high ? 1 : 0);
      const all = Object.values(held);
      expect(Math.min(...all)).toBeGreaterThanOrEqual(runs - 3);
      expect(all.reduce((a, b) => a + b, 0) / (runs * all.length)).toBeGreaterThan(0.88);
    }
  });
  it('answer a sweep over frequency as the linear motion does', () => {
    const sweep = { kind: 'sweep', control: 'Elevator', at: 1, duration: 40, amountDeg: 1, fromHz: 0.3, toHz: 4 };
    const record = noisy(readResponseRecord(flown([sweep], 42), NAMES), 5);
    const e = estimate(record);
    expect(e.frequency.map((f) => f.output)).toEqual(['speed', 'alpha', 'q', 'theta']);
    const q = e.frequency.find((f) => f.output === 'q')!;
    const sound = q.points.map((p, i) => ({ ...p, like: q.predicted[i] })).filter((p) => p.omega > 2.5 && p.omega < 22);
    expect(sound.length).toBeGreaterThan(20);
    for (const p of sound) {
      expect([p.omega, p.coherence > 0.9]).toEqual([p.omega, true]);
      expect([p.omega, Math.abs(p.gain / p.like.gain - 1) < 0.1]).toEqual([p.omega, true]);
      expect([p.omega, Math.abs(p.phase - p.like.phase) < 0.15]).toEqual([p.omega, true]);
    }
    expect(estimate(pitching).frequency).toEqual([]);
  });
  it('compares with what was computed, also where that was set by hand', () => {
    const own = { ...aircraft, derivatives: { overrides: { Cm_alpha: -1, CL_q: 8 } } } as CandidatePart;
    const e = estimate(pitching, { of: of(own) });
    expect(e.derivatives.find((d) => d.name === 'Cm_alpha')!.predicted).toBeCloseTo(predicted.derivatives.Cm_alpha, 9);
    close(e, 'Cm_alpha', 0.05);
  });
  it('estimates what is asked for, and the usual ones where nothing of it can be', () => {
    const one = estimate(pitching, { names: ['Cm_q', 'Cl_p'] });
    expect(one.derivatives.map((d) => d.name)).toEqual(['Cm_q']);
    expect(one.names).toContain('Cm_alphadot');
    expect(estimate(pitching, { names: ['Cl_p'] }).derivatives.map((d) => d.name)).toContain('Cm_alpha');
  });
  it('takes a part of the record', () => {
    const e = estimate(pitching, { from: 0.2, to: 4 });
    expect(e.t.length).toBe(191);
    close(e, 'Cm_alpha', 0.05);
    expect(() => estimate(pitching, { from: 7.8 })).toThrow(/11 rows from 7.8/);
    expect(() => estimate(pitching, { from: 3 })).toThrow(/no response to a control that moves/);
  });
  it('says so where the candidate has none of its controls', () => {
    const other = { ...pitching, controls: { Ruddervator: pitching.controls.Elevator } };
    expect(() => estimate(other)).toThrow(/Ruddervator, which the candidate does not have/);
  });
});

describe('a condensed record', () => {
  it('averages neighbours, and keeps the derivatives', () => {
    const record = readResponseRecord(pitched(), NAMES);
    const less = condensed(record, 150);
    expect([record.t.length, less.t.length]).toEqual([401, 133]);
    expect(less.t[0]).toBe(0);
    expect(less.t[1]).toBeCloseTo(0.06, 12);
    expect(less.outputs.q![1]).toBeCloseTo(
      (record.outputs.q![3] + record.outputs.q![4] + record.outputs.q![5]) / 3,
      12,
    );
    expect(less.notes.at(-1)).toMatch(/each 3 rows are averaged: 133 of 401/);
    close(derivativeEstimate({ of: of(), record: less }), 'Cm_alpha', 0.03);
    expect(condensed(record, 500)).toBe(record);
  });
});

describe('the steady flight that a record begins from', () => {
  it('is told by the rows before a control moves', () => {
    const record = readResponseRecord(pitched(), NAMES);
    const { speed, climb } = steadyOf(record);
    expect(speed).toBeCloseTo(22, 3);
    expect(climb! * DEG).toBeCloseTo(0, 1);
    expect(steadyOf({ ...record, outputs: { q: record.outputs.q } })).toEqual({});
  });
});
