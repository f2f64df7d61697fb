import { GRAVITY } from '../atmosphere';
import { sampleCase } from '../motion/testing/sample-case';
import { DEG, RAD } from '../numerics';
import {
  autopilotSchema,
  fastestGains,
  flightModel,
  gainsFor,
  modelArrays,
  modelCsv,
  modelJson,
  modelText,
  robustness,
  studyLoop,
  type StudyInput,
} from '.';

const of = sampleCase({
  Cl_p: -0.52,
  Cn_beta: 0.05,
  Cn_r: -0.06,
  Cl_r: 0.1,
  CY_beta: -0.3,
  Cl_beta: -0.06,
  controls: {
    Elevator: { CL: 0.4, Cm: -1.1 },
    Aileron: { Cl: -0.25, Cn: 0.01 },
    Rudder: { CY: 0.1, Cn: -0.04, Cl: 0.004 },
  },
});
const chains = {
  pitch: {
    id: 'pitch',
    name: 'Pitch',
    to: 'e',
    mover: { naturalFrequency: 45, dampingRatio: 0.7 },
    laws: [
      { from: 'q', kp: 0.15, sign: -1 },
      { from: 'theta', kp: 3, ki: 0.5 },
      { from: 'height', kp: 0.01 },
    ],
  },
  roll: {
    id: 'roll',
    name: 'Roll',
    to: 'a',
    laws: [
      { from: 'p', kp: 0.1, sign: -1 },
      { from: 'phi', kp: 2 },
    ],
  },
  yaw: { id: 'yaw', name: 'Yaw damper', to: 'r', laws: [{ from: 'r', kp: 0.3, sign: -1 }] },
};
const study = (
  chain: keyof typeof chains,
  loop: number,
  more: Partial<StudyInput> = {},
  edit: object = {},
): StudyInput => ({
  of,
  scale: {},
  settings: autopilotSchema.parse({ step: 0.01, chains: Object.values({ ...chains, ...edit }) }),
  controls: { e: 'Elevator', a: 'Aileron', r: 'Rudder' },
  chain,
  loop,
  ...more,
});

describe('the model that loops see', () => {
  it('puts out what is measured: climb and height follow from pitch and heave', () => {
    const m = flightModel(of, 'longitudinal');
    expect(m.outputs).toEqual(['V', 'alpha', 'q', 'theta', 'climb', 'height']);
    expect(m.A[4]).toEqual([0, -1, 0, 26, 0]);
    expect(m.C[4][3]).toBe(1);
    expect(m.C[4][1]).toBeCloseTo(-1 / 26, 12);
    const without = flightModel(of, 'longitudinal', { Cm_q: 0 });
    expect(without.A[2][2]).toBeGreaterThan(m.A[2][2]);
    const side = flightModel(of, 'lateral');
    expect(side.outputs).toContain('course');
    // In a coordinated turn the yaw rate is (g/V) φ.
    const turn = side.C[side.outputs.indexOf('rTurn')];
    expect(turn[2] * ((GRAVITY / 26) * 0.3) + turn[3] * 0.3).toBeCloseTo(0, 14);
    expect(turn[2]).toBe(1);
  });
});

describe('study of a loop', () => {
  it('agrees with itself: margins lie on the curve, the step ends at the gain at rest, the peak is the least distance', () => {
    const s = studyLoop(study('pitch', 1));
    expect(s.stable).toBe(true);
    expect(s.step.y.at(-1)).toBeCloseTo(1, 1);
    expect(s.finalValue).toBeCloseTo(1, 6);
    const { w, re, im } = s.frequency;
    const i = w.findIndex((v) => v > s.gainCrossover!);
    expect(Math.hypot(re[i - 1], im[i - 1])).toBeGreaterThan(1);
    expect(Math.hypot(re[i], im[i])).toBeLessThan(1);
    const phase = Math.atan2(im[i], re[i]) * DEG;
    expect(Math.abs(180 + phase - s.phaseMarginDeg!)).toBeLessThan(6);
    // A phase margin φ bounds the sensitivity from below: 1 / (2 sin φ/2).
    expect(s.sensitivityPeak).toBeGreaterThan(0.98 / (2 * Math.sin((s.phaseMarginDeg! * Math.PI) / 360)));
    expect(s.path[0].poles.length).toBe(s.closedPoles.length);
    expect(s.greatestEffort).toBeGreaterThan(0.3);
  });
  it('closes the other chains of its side, and those within it', () => {
    const damped = studyLoop(study('roll', 1));
    const alone = studyLoop(study('roll', 1, {}, { yaw: { ...chains.yaw, laws: [{ from: 'r', kp: 0 }] } }));
    const least = (poles: [number, number][]) =>
      Math.min(...poles.filter(([, b]) => b > 1).map(([a, b]) => -a / Math.hypot(a, b)));
    expect(least(damped.closedPoles)).toBeGreaterThan(least(alone.closedPoles) + 0.02);
  });
  it('takes derivatives out: without pitch damping the short period is less damped', () => {
    const [with_, without] = [1, 0].map((Cm_q) => studyLoop(study('pitch', 0, { scale: { Cm_q } })).openPoles);
    const fast = (poles: [number, number][]) => Math.min(...poles.map(([re]) => re));
    expect(fast(without)).not.toBeCloseTo(fast(with_), 1);
  });
  it('says what is not there, what is mixed and what has no gain', () => {
    expect(() => studyLoop(study('pitch', 0, { controls: {} }))).toThrow(/moves a control that is not there/);
    expect(() =>
      studyLoop(
        study(
          'pitch',
          1,
          {},
          {
            pitch: {
              ...chains.pitch,
              laws: [
                { from: 'q', kp: 1 },
                { from: 'phi', kp: 1 },
              ],
            },
          },
        ),
      ),
    ).toThrow(/mixes q with phi/);
    expect(() => studyLoop(study('pitch', 0, {}, { pitch: { ...chains.pitch, laws: [{ from: 'q' }] } }))).toThrow(
      /no gain/,
    );
  });
});

describe('tuning', () => {
  it('crosses where it is told with the margin that it is told', () => {
    for (const [frequency, degrees] of [
      [2, 70],
      [4, 60],
      [3, 100],
    ]) {
      const law = gainsFor(study('pitch', 1), { frequency, phaseMargin: degrees * RAD });
      const s = studyLoop(study('pitch', 1, {}, { pitch: { ...chains.pitch, laws: [chains.pitch.laws[0], law] } }));
      const at = s.frequency.w.findIndex((w) => w > frequency);
      expect(Math.hypot(s.frequency.re[at - 1], s.frequency.im[at - 1])).toBeGreaterThan(1 - 1e-6);
      expect(Math.hypot(s.frequency.re[at], s.frequency.im[at])).toBeLessThan(1 + 1e-6);
    }
    const turned = { ...chains.pitch, laws: [chains.pitch.laws[0], { ...chains.pitch.laws[1], sign: -1 }] };
    expect(() => gainsFor(study('pitch', 1, {}, { pitch: turned }), { frequency: 2, phaseMargin: 1 })).toThrow(
      /No gains cross/,
    );
  });
  it('finds gains that are fast and do not ring', () => {
    const law = fastestGains(study('pitch', 1));
    const s = studyLoop(study('pitch', 1, {}, { pitch: { ...chains.pitch, laws: [chains.pitch.laws[0], law] } }));
    expect(s.stable).toBe(true);
    expect(s.phaseMarginDeg!).toBeGreaterThanOrEqual(45);
    expect(Math.abs(s.gainMarginDb!)).toBeGreaterThanOrEqual(6);
    expect(s.sensitivityPeak).toBeLessThan(2.05);
    expect(s.riseTime!).toBeLessThan(studyLoop(study('pitch', 1)).riseTime!);
  });
  it('names the derivative that costs most when it is not what it is thought to be', () => {
    const list = robustness(study('pitch', 1));
    const still = list.find((r) => r.name === '')!;
    expect(list[0].phaseMarginDeg!).toBeLessThan(still.phaseMarginDeg!);
    expect(list.length).toBeGreaterThan(10);
  });
});

describe('a model that leaves', () => {
  const m = flightModel(of, 'longitudinal');
  it('is read back from JSON, a table, text and arrays', () => {
    expect(JSON.parse(modelJson(m))).toEqual(JSON.parse(JSON.stringify(m)));
    expect(modelCsv(m).split('\n')[1]).toBe(`u,${m.A[0].join(',')}`);
    expect(modelText(m)).toContain(`A = [${m.A[0].join(' ')}; `);
    const bytes = modelArrays(m)['A.npy'];
    const length = bytes[8] + 256 * bytes[9];
    expect((10 + length) % 64).toBe(0);
    const header = String.fromCharCode(...bytes.slice(10, 10 + length));
    expect(header).toMatch(/'shape': \(5, 5\)/);
    const values = new Float64Array(bytes.buffer.slice(10 + length));
    expect([...values]).toEqual(m.A.flat());
  });
});
