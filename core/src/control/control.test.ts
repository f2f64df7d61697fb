import { DEG, RAD } from '../numerics';
import { closeLoops } from './loops';
import { controlModel } from './schema';
import { delayed, fromTransfer, polesOf, responseAt, series } from './state-space';
import { stepResponse } from './step';

/** A model of one input and one output from its transfer function. */
const model = (top: number[], bottom: number[], loops: object[]) => {
  const s = fromTransfer(top, bottom);
  return controlModel.parse({
    ...s,
    states: s.A.map((_, i) => `x${i}`),
    inputs: ['u'],
    outputs: ['y'],
    loops: loops.map((l) => ({ from: 'y', to: 'u', ...l })),
  });
};

describe('systems', () => {
  it('answer at a frequency as their transfer functions do', () => {
    const s = series(fromTransfer([1, 2], [1, 0.4, 4]), fromTransfer([3], [0.5, 1]));
    const w = 1.7;
    const [re, im] = responseAt(s, 0, 0, w);
    // (jw + 2) 3 / ((4 − w² + 0.4 j w) (1 + 0.5 j w))
    const div = (a: number[], b: number[]) => {
      const d = b[0] ** 2 + b[1] ** 2;
      return [(a[0] * b[0] + a[1] * b[1]) / d, (a[1] * b[0] - a[0] * b[1]) / d];
    };
    const exact = div(div([6, 3 * w], [4 - w * w, 0.4 * w]), [1, 0.5 * w]);
    expect(re).toBeCloseTo(exact[0], 12);
    expect(im).toBeCloseTo(exact[1], 12);
    expect(polesOf(s.A).map(([a]) => a)[0]).toBeCloseTo(-2, 9);
  });
  it('pass a delay with its phase and without a gain', () => {
    const [re, im] = responseAt(delayed(0.2), 0, 0, 3);
    expect(Math.hypot(re, im)).toBeCloseTo(1, 12);
    expect(Math.atan2(im, re)).toBeCloseTo(-0.6, 6);
  });
});

describe('margins', () => {
  it('are those of k / (s (s + 1) (s + 2))', () => {
    const { loops } = closeLoops(model([1], [1, 3, 2, 0], [{ kp: 2 }]));
    const [l] = loops;
    expect(l.gainMarginDb).toBeCloseTo(20 * Math.log10(3), 8);
    expect(l.phaseCrossover).toBeCloseTo(Math.SQRT2, 9);
    const w = l.gainCrossover!;
    expect(2 / (w * Math.hypot(w, 1) * Math.hypot(w, 2))).toBeCloseTo(1, 9);
    expect(l.phaseMarginDeg).toBeCloseTo(90 - (Math.atan(w) + Math.atan(w / 2)) * DEG, 8);
    expect(l.stable).toBe(true);
    const unstable = closeLoops(model([1], [1, 3, 2, 0], [{ kp: 7 }])).loops[0];
    expect(unstable.stable).toBe(false);
    expect(unstable.gainMarginDb).toBeLessThan(0);
    expect(unstable.riseTime).toBeNull();
  });
  it('count a delay exactly', () => {
    const [l] = closeLoops(model([1], [1, 0], [{ kp: 2, delay: 0.3 }])).loops;
    // 2 e^(−0.3 j w) / (j w): gain 1 at w = 2; phase −180° at w = π / 0.6.
    expect(l.gainCrossover).toBeCloseTo(2, 9);
    expect(l.phaseMarginDeg).toBeCloseTo(90 - 0.6 * DEG, 8);
    expect(l.phaseCrossover).toBeCloseTo(Math.PI / 0.6, 8);
    expect(l.gainMarginDb).toBeCloseTo(20 * Math.log10(Math.PI / 1.2), 8);
  });
  it('are none where nothing crosses, and keep the sign of the loop', () => {
    const [l] = closeLoops(model([-1], [1, 1], [{ kp: 0.5, sign: -1 }])).loops;
    expect(l.gainMarginDb).toBeNull();
    expect(l.gainCrossover).toBeNull();
    expect(l.closedPoles).toEqual([[-1.5, 0]]);
  });
});

type Complex = [number, number];
const times = (a: Complex, b: Complex): Complex => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]];
const over = (a: Complex, b: Complex): Complex => {
  const d = b[0] ** 2 + b[1] ** 2;
  return [(a[0] * b[0] + a[1] * b[1]) / d, (a[1] * b[0] - a[0] * b[1]) / d];
};
/** Roots of a polynomial with complex coefficients, the highest power first, all at once. */
function rootsOf(polynomial: Complex[]): Complex[] {
  const p = polynomial.map((c) => over(c, polynomial[0]));
  const size = Math.max(...p.map(([a, b]) => Math.hypot(a, b)));
  let roots = p.slice(1).map((_, i): Complex => [size * Math.cos(2 * i + 0.4), size * Math.sin(2 * i + 0.4)]);
  for (let k = 0; k < 2000; k++)
    roots = roots.map((r, i) => {
      const value = p.reduce<Complex>(
        (sum, c) => {
          const [a, b] = times(sum, r);
          return [a + c[0], b + c[1]];
        },
        [0, 0],
      );
      const rest = roots.reduce<Complex>(
        (sum, q, j) => (j === i ? sum : times(sum, [r[0] - q[0], r[1] - q[1]])),
        [1, 0],
      );
      const [a, b] = over(value, rest);
      return [r[0] - a, r[1] - b];
    });
  return roots;
}
/** Whether no closed pole lies on the right at frequencies above zero, with the loop's gain times k and its phase turned by a lag: roots of den + k e^(−jφ) num. */
const stableBy = (top: number[], bottom: number[], gain: number, lagDeg = 0): boolean => {
  const lag = lagDeg * RAD;
  const poly = bottom.map((d, i): Complex => {
    const n = (top[i - (bottom.length - top.length)] ?? 0) * gain;
    return [d + n * Math.cos(lag), -n * Math.sin(lag)];
  });
  return rootsOf(poly).every(([re, im]) => re < 0 || (lag !== 0 && im < 1e-9));
};

describe('margins by the criterion of Nyquist', () => {
  // Unstable plants, conditionally stable ones, resonances: numerator, denominator, gain, unstable open poles.
  const cases: [string, number[], number[], number, number][] = [
    ['an unstable pole held', [1], [1, -1], 3, 1],
    ['an unstable pole, a lag in the loop', [20], [1, 9, -10], 1.3, 1],
    ['an unstable pair', [1, 1], [1, -0.6, 4], 5, 2],
    ['conditionally stable', [1, 2, 1], [1, 0.02, 0.0001, 0], 8, 0],
    ['a resonance beyond the crossing', [100], [1, 0.3, 100, 0], 0.2, 0],
    ['three lags', [6], [1, 6, 11, 6], 4, 0],
    ['unstable with a slow pole at rest', [-2, -2], [1, 3, -0.5], -1.5, 1],
  ];
  it.each(cases)('%s: the loop stays stable up to them, and not beyond', (_, top, bottom, kp, openUnstable) => {
    const sign = kp < 0 ? -1 : 1;
    const [l] = closeLoops(model(top, bottom, [{ kp: Math.abs(kp), sign }])).loops;
    const holds = (k: number, lagDeg = 0) => stableBy(top, bottom, kp * k, lagDeg);
    expect([l.stable, holds(1)]).toEqual([true, true]);
    if (bottom.at(-1) !== 0) expect(stableBy(top, bottom, 0)).toBe(openUnstable === 0);
    if (l.gainMarginDb !== null) {
      const db = l.gainMarginDb;
      for (const share of [0.5, 0.97, -0.97]) expect(holds(10 ** ((share * db) / 20))).toBe(true);
      expect(holds(10 ** ((1.03 * db) / 20))).toBe(false);
    } else {
      expect(l.reasons.gainMarginDb).toMatch(/No change/);
      for (const k of [0.01, 0.1, 10, 100]) expect(holds(k)).toBe(true);
    }
    const lag = l.phaseMarginDeg! * (l.phaseWay === 'lag' ? 1 : -1);
    expect(l.phaseMarginDeg!).toBeGreaterThan(0);
    for (const share of [0.3, 0.6, 0.97, -0.5, -0.97]) expect(holds(1, share * lag)).toBe(true);
    expect(holds(1, 1.03 * lag)).toBe(false);
  });
  it('tells why a figure is not there, and never a margin above zero of an unstable loop', () => {
    for (const [top, bottom, kp] of [
      [[1], [1, 3, 2, 0], 7],
      [[1], [1, -1], 0.5],
      [[1], [1, -2, 5], 0.1],
      [[1, 2, 1], [1, 0.02, 0.0001, 0], 0.001],
    ] as const) {
      const [l] = closeLoops(model([...top], [...bottom], [{ kp }])).loops;
      expect(l.stable).toBe(false);
      expect(l.reasons.step).toMatch(/does not come to rest.*pole/);
      for (const key of ['gainMarginDb', 'phaseMarginDeg'] as const)
        if (l[key] === null) expect(l.reasons[key]).toMatch(/unstable/);
        else expect(l[key]!).toBeLessThan(0);
    }
  });
});

describe('closed loops', () => {
  it('step as a system of second order does', () => {
    const [w, z] = [3, 0.35];
    const [l] = closeLoops(model([w * w], [1, 2 * z * w, 0], [{ kp: 1 }])).loops;
    expect(l.overshoot).toBeCloseTo(Math.exp((-Math.PI * z) / Math.sqrt(1 - z * z)), 5);
    expect(l.finalValue).toBeCloseTo(1, 3);
    const d = w * Math.sqrt(1 - z * z);
    const y = (t: number) => 1 - Math.exp(-z * w * t) * (Math.cos(d * t) + ((z * w) / d) * Math.sin(d * t));
    // The rise between the two times at which the exact response has these values.
    const time = (level: number) => {
      let [a, b] = [0, Math.PI / d];
      for (let k = 0; k < 60; k++) [a, b] = y((a + b) / 2) < level ? [(a + b) / 2, b] : [a, (a + b) / 2];
      return a;
    };
    expect(Math.abs(l.riseTime! / (time(0.9) - time(0.1)) - 1)).toBeLessThan(1e-3);
    expect(Math.abs(y(l.settlingTime!) - 1)).toBeCloseTo(0.02, 3);
  });
  it('lie within each other: an outer one moves the reference of the inner one', () => {
    // Rate of an integrator chain: inner on the rate, outer on the angle.
    const m = controlModel.parse({
      A: [
        [-1, 0],
        [1, 0],
      ],
      B: [[2], [0]],
      states: ['rate', 'angle'],
      inputs: ['u'],
      loops: [
        { from: 'rate', to: 'u', kp: 4 },
        { from: 'angle', kp: 3, name: 'attitude' },
      ],
    });
    const { loops, openPoles } = closeLoops(m);
    expect(openPoles.map(([re]) => re)).toEqual([-1, 0]);
    expect(loops[0].closedPoles.map(([re]) => Number(re.toFixed(9))).sort((a, b) => a - b)).toEqual([-9, 0]);
    // s² + 9 s + 24
    const sum = loops[1].closedPoles.reduce((s, [re]) => s + re, 0);
    expect(sum).toBeCloseTo(-9, 9);
    const [a, b] = loops[1].closedPoles;
    expect(a[0] * b[0] - a[1] * b[1]).toBeCloseTo(24, 9);
    expect(loops[1].to).toBe('reference of rate');
  });
  it('have the poles of law, filter, actuator and plant together', () => {
    const [l] = closeLoops(
      model(
        [1],
        [1, 0.2, 1],
        [{ kp: 2, ki: 1, kd: 0.5, filter: 30, actuator: { naturalFrequency: 25, dampingRatio: 0.7 } }],
      ),
    ).loops;
    // (s² + 0.2 s + 1) s (s + 30) (s² + 35 s + 625) + 625 (17 s² + 61 s + 30)
    const at = (s: number) =>
      (s * s + 0.2 * s + 1) * s * (s + 30) * (s * s + 35 * s + 625) + 625 * (17 * s * s + 61 * s + 30);
    const value = (s: number) =>
      l.closedPoles.reduce(([a, b], [re, im]) => [a * (s - re) + b * im, b * (s - re) - a * im], [1, 0])[0];
    for (const s of [0.5, 2, 7]) expect(Math.abs(value(s) / at(s) - 1)).toBeLessThan(1e-9);
    const y = stepResponse(fromTransfer([1], [1, 1]), 0, 0, 2, 5);
    expect(y[4]).toBeCloseTo(1 - Math.exp(-2), 12);
  });
  it('refuse what cannot be, and say where', () => {
    const refused = (value: object) => {
      const r = controlModel.safeParse(value);
      return r.success ? '' : `${r.error.issues[0].path.join('.')} ${r.error.issues[0].message}`;
    };
    const base = { A: [[0]], B: [[1]], states: ['x'], inputs: ['u'] };
    expect(refused({ ...base, loops: [{ from: 'x', to: 'v', kp: 1 }] })).toMatch(/loops.0.to is no input; there are u/);
    expect(refused({ ...base, loops: [{ from: 'x', to: 'u', kd: 1 }] })).toMatch(/filter is needed/);
    expect(refused({ ...base, loops: [{ from: 'x', to: 'u' }] })).toMatch(/no gain/);
    expect(refused({ ...base, A: [[0, 1]] })).toMatch(/^A must have 1 rows of 1/);
    const through = controlModel.parse({
      ...base,
      A: [[-1]],
      C: [[0]],
      D: [[-1]],
      outputs: ['y'],
      loops: [{ from: 'y', to: 'u', kp: 1 }],
    });
    expect(() => closeLoops(through)).toThrow(/feeds itself/);
    const huge = closeLoops(controlModel.parse({ ...base, loops: [{ from: 'x', to: 'u', kp: 1e12 }] }));
    expect(huge.loops[0].closedPoles[0][0]).toBeCloseTo(-1e12, -2);
  });
});
