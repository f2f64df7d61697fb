import { autopilotSchema, chainOf, flightModel, sampledLoop, studyLoop, type StudyInput } from '../control';
import { matrixExponential } from '../motion';
import { sampleCase } from '../motion/testing/sample-case';
import { Autopilot, Sensors, type Measurement } from './autopilot';
import { channelSchema } from './scenario';

const of = sampleCase();
const LAWS = [
  { from: 'q', kp: 0.15, sign: -1, notch: { frequency: 30, width: 0.6, depth: 0.2 } },
  { from: 'theta', kp: 3, ki: 0.8, kd: 0.05, filter: 40, lead: { zero: 9, pole: 25 }, forward: 0.4 },
];
const input = (delay: number, laws: object[] = LAWS, mover: object = { timeConstant: 0.05 }): StudyInput => ({
  of,
  scale: {},
  settings: autopilotSchema.parse({
    step: 0.04,
    delay,
    chains: [{ id: 'pitch', name: 'Pitch', to: 'e', mover, laws }],
  }),
  controls: { e: 'Elevator' },
  chain: 'pitch',
  loop: laws.length - 1,
});

/** Nothing is wanted at the first instant, so that filters are at rest, and 1 from the next on. */
const STEP_AFTER_REST = [
  [0, 0],
  [0.5, 0],
  [1, 1],
];

/** The autopilot of flights on the linear aircraft: the second way of computing what `sampledLoop` says. */
function flown({ settings }: StudyInput, count: number): number[] {
  const model = flightModel(of, 'longitudinal');
  const { mover, laws } = settings.chains[0];
  const n = model.A.length;
  const lag = (mover as { timeConstant: number }).timeConstant;
  // States of the aircraft, the deflection, and what is asked of it, which stays.
  const big = [
    ...model.A.map((row, i) => [...row, model.B[i][0], 0]),
    [...new Array<number>(n).fill(0), -1 / lag, 1 / lag],
    new Array<number>(n + 2).fill(0),
  ];
  const FINE = 40;
  const move = matrixExponential(big, settings.step / FINE);
  let x = new Array<number>(n + 2).fill(0);
  const measure = (): Measurement =>
    Object.fromEntries([
      ...['beta', 'p', 'r', 'phi', 'psi', 'course', 'x', 'y'].map((k) => [k, 0]),
      ...model.outputs.map((name, o) => [name, model.C[o].reduce((v, c, j) => v + c * x[j], 0)]),
    ]) as Measurement;
  const channel = channelSchema.parse({ to: 'Elevator', loops: laws, reference: STEP_AFTER_REST });
  const autopilot = new Autopilot([channel], settings.step, [], [[-1e9, 1e9]], measure());
  const late = Math.round((settings.delay / settings.step) * FINE);
  const asked: number[] = [];
  const out: number[] = [];
  for (let k = 0; k < count * FINE; k++) {
    if (k % FINE === 0) {
      const now = measure();
      out.push(now[laws[laws.length - 1].from]);
      const [value] = autopilot.update(k / FINE, now);
      for (let i = 0; i < FINE; i++) asked[k + late + i] = value;
    }
    x[n + 1] = asked[k] ?? 0;
    x = move.map((row) => row.reduce((v, a, j) => v + a * x[j], 0));
  }
  return out;
}

describe('the autopilot in steps', () => {
  for (const delay of [0, 0.03, 0.11])
    it(`does on the linear aircraft what the sampled loop says, ${delay} s late: lead, notch and feed-forward too`, () => {
      const asked = input(delay);
      const said = sampledLoop(asked, 3)!.step.y;
      const did = flown(asked, said.length + 1);
      const size = Math.max(...did.map(Math.abs));
      said.forEach((v, k) => expect(Math.abs(v - did[k + 1]) / size).toBeLessThan(1e-9));
      expect(said.length).toBeGreaterThan(70);
    });

  it('loses with its margin: gains higher by the gain margin stand at the edge of growing', () => {
    const asked = input(0.03, [LAWS[0]]);
    const { gainMarginDb } = sampledLoop(asked, 1)!;
    const times = (f: number) => sampledLoop(input(0.03, [{ ...LAWS[0], kp: LAWS[0].kp * f }]), 1)!.holds;
    const edge = 10 ** (gainMarginDb! / 20);
    expect(gainMarginDb).toBeGreaterThan(0);
    expect(times(edge * 0.999)).toBe(true);
    expect(times(edge * 1.001)).toBe(false);
  });

  it('comes to the continuous loop as its steps grow short, in the order of the step', () => {
    const at = (step: number) => {
      const asked = input(0.02);
      asked.settings.step = step;
      const s = studyLoop(asked);
      return Math.abs(s.sampled!.phaseMarginDeg! - s.phaseMarginDeg!);
    };
    const [coarse, fine] = [at(0.02), at(0.005)];
    expect(fine).toBeLessThan(0.6);
    expect(fine).toBeLessThan(0.3 * coarse);
  });
});

describe('sensors with a lag', () => {
  it('follow a ramp exactly, and turn on over half a turn', () => {
    const [lag, step] = [0.3, 0.05];
    const sensors = new Sensors(lag, step);
    const zero = {
      alpha: 0,
      beta: 0,
      p: 0,
      q: 0,
      r: 0,
      rTurn: 0,
      phi: 0,
      theta: 0,
      climb: 0,
      course: 0,
      height: 0,
      V: 0,
      x: 0,
      y: 0,
    };
    for (let k = 0; k < 60; k++) {
      const t = k * step;
      // A ramp of height, and a heading that goes on over half a turn.
      const turn = 3 + 0.4 * t;
      const said = sensors.tell({ ...zero, height: 2 * t, psi: Math.atan2(Math.sin(turn), Math.cos(turn)) });
      const behind = lag * (1 - Math.exp(-t / lag));
      expect(said.height).toBeCloseTo(2 * (t - behind), 12);
      const off = said.psi - (turn - 0.4 * behind);
      expect(Math.abs(Math.atan2(Math.sin(off), Math.cos(off)))).toBeLessThan(1e-12);
    }
  });
  it('take phase by their own formula, and leave the step of what is as it is without them', () => {
    const at = (sensorLag: number) => {
      const asked = input(0, [LAWS[0]]);
      asked.settings.sensorLag = sensorLag;
      asked.settings.step = 0.004;
      return studyLoop(asked);
    };
    const [plain, late] = [at(0), at(0.04)];
    const w = late.frequency.w[200];
    const k = plain.frequency.w.reduce((b, v, i) => (Math.abs(v - w) < Math.abs(plain.frequency.w[b] - w) ? i : b), 0);
    const phase = (s: typeof plain, i: number) => Math.atan2(s.frequency.im[i], s.frequency.re[i]);
    const v = plain.frequency.w[k];
    const slope = (phase(plain, k + 1) - phase(plain, k)) / (plain.frequency.w[k + 1] - v);
    const lost = phase(plain, k) + slope * (w - v) - phase(late, 200);
    expect(Math.atan2(Math.sin(lost), Math.cos(lost))).toBeCloseTo(Math.atan(0.04 * w), 2);
    expect(late.gainMarginDb!).toBeLessThan(plain.gainMarginDb!);
    expect(Math.abs(late.sampled!.gainMarginDb! - late.gainMarginDb!)).toBeLessThan(0.5);
  });
});

describe('laws with filters', () => {
  it('a notch takes out its frequency, a lead turns the phase by what its formula says', () => {
    const law = { kp: 2, ki: 0, kd: 0, sign: 1 as const, from: 'q', delay: 0 };
    const notched = chainOf({ ...law, notch: { frequency: 12, width: 0.5, depth: 0.1 } }, false);
    const size = (s: typeof notched, w: number) => {
      // |C (jw − A)⁻¹ B + D| of two states by Cramer's rule.
      const [[a, b], [c, d]] = s.A;
      const det = { re: a * d - b * c - w * w, im: -w * (a + d) };
      const [x, y] = [
        { re: -d * s.B[0][0] + b * s.B[1][0], im: w * s.B[0][0] },
        { re: c * s.B[0][0] - a * s.B[1][0], im: w * s.B[1][0] },
      ];
      const top = { re: s.C[0][0] * x.re + s.C[0][1] * y.re, im: s.C[0][0] * x.im + s.C[0][1] * y.im };
      const m = det.re ** 2 + det.im ** 2;
      return Math.hypot((top.re * det.re + top.im * det.im) / m + s.D[0][0], (top.im * det.re - top.re * det.im) / m);
    };
    expect(size(notched, 12)).toBeCloseTo(0.2, 9);
    expect(size(notched, 1e-3)).toBeCloseTo(2, 5);
    const plain = studyLoop(input(0, [LAWS[0]]));
    const led = studyLoop(input(0, [{ ...LAWS[0], lead: { zero: 20, pole: 60 } }]));
    const i = plain.frequency.w.findIndex((w) => w > 5);
    const phase = (s: typeof plain, k: number) => Math.atan2(s.frequency.im[k], s.frequency.re[k]);
    const w = plain.frequency.w[i];
    const j = led.frequency.w.reduce((b, v, k) => (Math.abs(v - w) < Math.abs(led.frequency.w[b] - w) ? k : b), 0);
    const wj = led.frequency.w[j];
    const plainAt =
      phase(plain, i) + ((phase(plain, i + 1) - phase(plain, i)) * (wj - w)) / (plain.frequency.w[i + 1] - w);
    expect(phase(led, j) - plainAt).toBeCloseTo(Math.atan(wj / 20) - Math.atan(wj / 60), 3);
  });

  it('a schedule multiplies the gains by what its line says at the speed', () => {
    const scheduledLaw = {
      ...LAWS[0],
      schedule: [
        [20, 1],
        [32, 3],
      ],
    };
    const a = studyLoop(input(0, [scheduledLaw]));
    const b = studyLoop(input(0, [{ ...LAWS[0], kp: LAWS[0].kp * 2 }]));
    expect(a.gainMarginDb).toBeCloseTo(b.gainMarginDb!, 9);
    expect(a.sampled!.gainMarginDb).toBeCloseTo(b.sampled!.gainMarginDb!, 9);
  });

  it('a washout lets nothing through that stays, and what swings as it is', () => {
    const washed = studyLoop(input(0, [{ ...LAWS[0], washout: 0.05 }]));
    const plain = studyLoop(input(0, [LAWS[0]]));
    expect(washed.sampled!.holds).toBe(true);
    const size = (s: typeof plain, i: number) => Math.hypot(s.frequency.re[i], s.frequency.im[i]);
    const at = plain.frequency.w.findIndex((w) => w > 10);
    const same = washed.frequency.w.findIndex((w) => w >= plain.frequency.w[at]);
    expect(size(washed, same) / size(plain, at)).toBeCloseTo(1, 1);
    // A step of the reference is forgotten.
    expect(Math.abs(washed.finalValue ?? 0)).toBeLessThan(1e-9);
  });
  it('what is fed forward moves the step and leaves the margins', () => {
    const [with0, without] = [studyLoop(input(0)), studyLoop(input(0, [LAWS[0], { ...LAWS[1], forward: undefined }]))];
    expect(with0.phaseMarginDeg).toBeCloseTo(without.phaseMarginDeg!, 9);
    expect(with0.riseTime!).toBeLessThan(without.riseTime!);
    expect(with0.finalValue).toBeCloseTo(1, 6);
  });
});
