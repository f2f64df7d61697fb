import { DualSpace } from '../../numerics';
import {
  amplificationRate,
  equilibriumShear,
  intervalResiduals,
  laminarDissipation,
  laminarEnergyShape,
  laminarFriction,
  marchLayer,
  slipVelocity,
  stationState,
  turbulentEnergyShape,
  turbulentFriction,
} from '.';

/** The similar profile of u ~ xᵐ, by shooting with a fourth-order Runge–Kutta scheme: a second way of computing what the closures approximate. */
function similarProfile(m: number): { shape: number; theta: number; friction: number } {
  const beta = (2 * m) / (m + 1);
  const step = 0.002;
  const run = (wall: number) => {
    let [f, g, h] = [0, 0, wall];
    let displacement = 0;
    let theta = 0;
    const rate = (p: number, q: number, r: number): [number, number, number] => [q, r, -p * r - beta * (1 - q * q)];
    for (let eta = 0; eta < 10; eta += step) {
      const k1 = rate(f, g, h);
      const k2 = rate(f + (step / 2) * k1[0], g + (step / 2) * k1[1], h + (step / 2) * k1[2]);
      const k3 = rate(f + (step / 2) * k2[0], g + (step / 2) * k2[1], h + (step / 2) * k2[2]);
      const k4 = rate(f + step * k3[0], g + step * k3[1], h + step * k3[2]);
      const before = g;
      f += (step / 6) * (k1[0] + 2 * k2[0] + 2 * k3[0] + k4[0]);
      g += (step / 6) * (k1[1] + 2 * k2[1] + 2 * k3[1] + k4[1]);
      h += (step / 6) * (k1[2] + 2 * k2[2] + 2 * k3[2] + k4[2]);
      const mean = (g + before) / 2;
      displacement += step * (1 - mean);
      theta += step * mean * (1 - mean);
      if (g > 1.0005) return { above: true, displacement, theta };
      if (h < -1e-4 && g < 0.99 && eta > 2) return { above: false, displacement, theta };
    }
    return { above: g > 1, displacement, theta };
  };
  let low = 0;
  let high = 2;
  for (let k = 0; k < 70; k++) {
    const mid = (low + high) / 2;
    if (run(mid).above) high = mid;
    else low = mid;
  }
  const r = run(low);
  const scale = Math.sqrt(2 / (m + 1));
  return { shape: r.displacement / r.theta, theta: r.theta * scale, friction: (2 * low) / scale };
}

const even = (n: number, from: number) => Array.from({ length: n + 1 }, (_, i) => from + ((1 - from) * i) / n);
const geometric = (n: number, from: number) => Array.from({ length: n + 1 }, (_, i) => from ** (1 - i / n));

describe('laminar layers against similarity', () => {
  const re = 1e5;
  it.each([
    [1, 0.03],
    [0.5, 0.03],
    [0.2, 0.03],
    [0, 0.001],
    [-0.03, 0.03],
    [-0.05, 0.03],
    [-0.07, 0.03],
    [-0.085, 0.03],
  ])('u ~ x^%f within %f in shape and momentum thickness', (m, tolerance) => {
    const exact = similarProfile(m);
    const x = even(100, 0.02);
    const layer = marchLayer(
      x,
      x.map((v) => v ** m),
      { flow: { reynolds: re, mach: 0 }, criticalAmplification: 1e9, similarity: m },
    );
    const end = x.length - 1;
    expect(Math.abs(layer.shape[end] / exact.shape - 1)).toBeLessThan(tolerance);
    expect(Math.abs((layer.theta[end] * Math.sqrt(re)) / exact.theta - 1)).toBeLessThan(tolerance);
    // Friction runs toward zero at separation, so there it is held against the plate's.
    expect(Math.abs(layer.friction[end] * Math.sqrt(re) - exact.friction)).toBeLessThan(
      Math.max(tolerance * exact.friction, 0.025),
    );
  });
  it('flat plate: momentum thickness, shape and friction within 1 % everywhere', () => {
    const x = geometric(120, 1e-3);
    const layer = marchLayer(
      x,
      x.map(() => 1),
      { flow: { reynolds: re, mach: 0 }, criticalAmplification: 1e9, similarity: 0 },
    );
    x.forEach((v, i) => {
      expect(Math.abs(layer.theta[i] / (0.66411 * Math.sqrt(v / re)) - 1)).toBeLessThan(0.01);
      expect(Math.abs(layer.shape[i] / 2.5911 - 1)).toBeLessThan(0.01);
      expect(Math.abs(layer.friction[i] / (0.66411 / Math.sqrt(v * re)) - 1)).toBeLessThan(0.01);
    });
  });
});

describe('turbulent layers and transition', () => {
  it.each([1e6, 3e6, 1e7])('total friction of a plate at Re %d within 4 %% of the published formula', (re) => {
    const x = geometric(160, 1e-4);
    const layer = marchLayer(
      x,
      x.map(() => 1),
      { flow: { reynolds: re, mach: 0 }, criticalAmplification: 9, similarity: 0, trip: 0.002 },
    );
    const formula = 0.455 / Math.log10(re) ** 2.58;
    expect(Math.abs((2 * layer.theta[160]) / formula - 1)).toBeLessThan(0.04);
    expect(layer.shape[160]).toBeGreaterThan(1.28);
    expect(layer.shape[160]).toBeLessThan(1.42);
  });
  it('a plate in quiet air becomes turbulent near Re_x = 3 million, earlier in rough air', () => {
    const at = (criticalAmplification: number) => {
      const x = geometric(200, 1e-3);
      return (
        marchLayer(
          x,
          x.map(() => 1),
          { flow: { reynolds: 1e7, mach: 0 }, criticalAmplification, similarity: 0 },
        ).transition! * 1e7
      );
    };
    expect(at(9)).toBeGreaterThan(2.6e6);
    expect(at(9)).toBeLessThan(3.2e6);
    expect(at(4)).toBeLessThan(at(9));
  });
  it('marches through a laminar separation by prescribing the shape, and turns turbulent behind it', () => {
    const x = even(160, 0.01);
    const layer = marchLayer(
      x,
      x.map((v) => 1 - 0.3 * v),
      { flow: { reynolds: 3e5, mach: 0 }, criticalAmplification: 9, similarity: 0 },
    );
    expect(layer.prescribed.some(Boolean)).toBe(true);
    expect(layer.transition).toBeGreaterThan(0.2);
    for (const list of [layer.theta, layer.displacement, layer.speed, layer.friction])
      expect(list.every(Number.isFinite)).toBe(true);
  });
});

describe('exact derivatives', () => {
  const check = (build: (s: DualSpace, v: number[]) => number, at: number[]) => {
    const s = new DualSpace(at.length, 4000);
    const evaluate = (values: number[]) => {
      s.reset();
      return build(
        s,
        values.map((v, k) => s.variable(v, k)),
      );
    };
    const slot = evaluate(at);
    const exact = at.map((_, k) => s.partial(slot, k));
    at.forEach((v, k) => {
      const h = 1e-6 * Math.max(1e-6, Math.abs(v));
      const shifted = (d: number) => {
        const slotAt = evaluate(at.map((w, j) => (j === k ? w + d : w)));
        return s.value(slotAt);
      };
      const difference = (shifted(h) - shifted(-h)) / (2 * h);
      expect(Math.abs(exact[k] - difference)).toBeLessThan(2e-4 * Math.max(Math.abs(difference), 1e-3));
    });
  };
  it.each([1.4, 2.2, 2.9, 3.7, 4.6, 6.5, 8.2])('of every closure at Hk = %f', (hk) => {
    for (const re of [260, 900, 5000]) {
      check((s, [h]) => laminarEnergyShape(s, h), [hk]);
      check((s, [h, r]) => laminarFriction(s, h, r), [hk, re]);
      check((s, [h, r]) => laminarDissipation(s, h, r), [hk, re]);
      check((s, [h, r]) => turbulentEnergyShape(s, h, r), [hk, re]);
      check((s, [h, r]) => turbulentFriction(s, h, r, s.constant(0.04)), [hk, re]);
      check((s, [h, r, t]) => amplificationRate(s, h, r, t), [hk, re, 1e-3]);
    }
  });
  it('of the equilibrium shear and of whole intervals, laminar, turbulent and wake', () => {
    check(
      (s, [hk, h, r]) => {
        const e = turbulentEnergyShape(s, hk, r);
        return equilibriumShear(s, hk, h, e, slipVelocity(s, hk, h, e));
      },
      [1.8, 1.85, 2000],
    );
    const flow = { reynolds: 2e6, mach: 0.3 };
    const states = {
      laminar: [0.5, 4e-4, 1.1e-3, 1.1, 0.9, 4.3e-4, 1.2e-3, 1.08],
      turbulent: [0.05, 1e-3, 1.6e-3, 1.2, 0.055, 1.1e-3, 1.9e-3, 1.17],
      wake: [0.06, 3e-3, 4.5e-3, 0.95, 0.058, 2.9e-3, 4.1e-3, 0.96],
    };
    for (const kind of ['laminar', 'turbulent', 'wake'] as const) {
      for (const which of ['first', 'momentum', 'energy'] as const) {
        check((s, v) => {
          const a = stationState(s, { c: v[0], theta: v[1], displacement: v[2], speed: v[3] }, kind, flow);
          const b = stationState(s, { c: v[4], theta: v[5], displacement: v[6], speed: v[7] }, kind, flow);
          return intervalResiduals(s, a, b, 0.3, 0.32, kind === 'laminar')[which];
        }, states[kind]);
      }
    }
  });
});
