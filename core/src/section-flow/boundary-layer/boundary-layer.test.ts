import {
  amplificationRate,
  densityShape,
  evaluateStation,
  INTERVAL_RECORD,
  intervalResiduals,
  kinematicShape,
  laminarDissipation,
  laminarEnergyShape,
  laminarFriction,
  marchLayer,
  RESIDUAL,
  similarityResiduals,
  slope,
  STATION_RECORD,
  GROWTH_RECORD,
  QUANTITY,
  transitionResiduals,
  turbulentEnergyShape,
  turbulentFriction,
  type LayerKind,
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

describe('derivatives by hand against differences', () => {
  const close = (exact: number, difference: number, size: number) =>
    expect(Math.abs(exact - difference)).toBeLessThanOrEqual(2e-5 * Math.max(Math.abs(difference), size));
  const difference = (f: (v: number) => number, v: number) => {
    const h = 1e-6 * Math.max(1e-7, Math.abs(v));
    return (f(v + h) - f(v - h)) / (2 * h);
  };

  it.each([1.4, 2.2, 2.9, 3.7, 4.6, 6.5, 8.2])('of every closure at Hk = %f', (hk) => {
    for (const re of [260, 900, 5000]) {
      const check = (f: (h: number, r: number) => number) => {
        const value = Math.abs(f(hk, re));
        const [byHk, byRe] = slope;
        close(
          byHk,
          difference((h) => f(h, re), hk),
          value,
        );
        close(
          byRe,
          difference((r) => f(hk, r), re),
          value / re,
        );
      };
      check(laminarEnergyShape);
      check(laminarFriction);
      check(laminarDissipation);
      check(turbulentEnergyShape);
      check((h, r) => turbulentFriction(h, r, 0.04));
      check((h, r) => amplificationRate(h, r, 1e-3));
      check((h) => densityShape(h, 0.04));
    }
    turbulentFriction(hk, 900, 0.04);
    close(
      slope[2],
      difference((m) => turbulentFriction(hk, 900, m), 0.04),
      1e-3,
    );
    kinematicShape(hk, 0.04);
    close(
      slope[2],
      difference((m) => kinematicShape(hk, m), 0.04),
      1,
    );
    amplificationRate(hk, 900, 1e-3);
    close(
      slope[4],
      difference((v) => amplificationRate(hk, 900, v), 1e-3),
      1,
    );
  });

  const flow = { reynolds: 2e6, mach: 0.3 };
  const states: [LayerKind, number[], number][] = [
    ['laminar', [0.5, 4e-4, 1.1e-3, 1.1, 0.9, 4.3e-4, 1.2e-3, 1.08], 0],
    ['laminar', [5, 2e-4, 1.1e-3, 1.1, 6, 2.1e-4, 1.7e-3, 1.09], 0],
    ['turbulent', [0.05, 1e-3, 1.6e-3, 1.2, 0.055, 1.1e-3, 1.9e-3, 1.17], 0],
    ['turbulent', [0.08, 1e-3, 4.1e-3, 1.2, 0.075, 1.1e-3, 4.9e-3, 1.17], 0],
    ['wake', [0.06, 3e-3, 4.5e-3, 0.95, 0.058, 2.9e-3, 4.1e-3, 0.96], 4e-4],
  ];
  const evaluate = (kind: LayerKind, v: number[], dead: number) => {
    const record = new Float64Array(2 * STATION_RECORD);
    evaluateStation(record, 0, kind, v[0], v[1], v[2], v[3], flow, dead);
    evaluateStation(record, STATION_RECORD, kind, v[4], v[5], v[6], v[7], flow, dead);
    return record;
  };
  /** Compares all columns of the three residuals of a function of variables with differences. */
  const compare = (f: (v: number[]) => Float64Array, at: number[], columns: number[]) => {
    const exact = f(at);
    for (let r = 0; r < 3; r++) {
      columns.forEach((column, k) => {
        const d = difference((v) => f(at.map((w, j) => (j === k ? v : w)))[r * RESIDUAL], at[k]);
        close(exact[r * RESIDUAL + column], d, 1e-2 / Math.abs(at[k]));
      });
    }
  };

  it.each(states)('of an interval, %s', (kind, at, dead) => {
    const f = (v: number[]) => {
      const record = evaluate(kind, v, dead);
      const out = new Float64Array(INTERVAL_RECORD);
      intervalResiduals(out, record, 0, record, STATION_RECORD, v[8], v[9], kind === 'laminar');
      return out;
    };
    compare(f, [...at, 0.3, 0.32], [1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  });
  it('of the first station', () => {
    const f = (v: number[]) => {
      const record = evaluate('laminar', [...v, ...v], 0);
      const out = new Float64Array(INTERVAL_RECORD);
      similarityResiduals(out, record, 0, v[4], 0.7);
      return out;
    };
    compare(f, [0, 4e-4, 1.1e-3, 1.1, 0.01], [5, 6, 7, 8, 10]);
  });
  const AROUND = [5, 4e-4, 1.3e-3, 1.1, 0.06, 4.6e-4, 1.0e-3, 1.08, 0.3, 0.32, 0.309];
  const transition = (v: number[]) => {
    const record = new Float64Array(2 * STATION_RECORD);
    evaluateStation(record, 0, 'laminar', v[0], v[1], v[2], v[3], flow);
    evaluateStation(record, STATION_RECORD, 'turbulent', v[4], v[5], v[6], v[7], flow);
    const out = new Float64Array(INTERVAL_RECORD);
    const growth = new Float64Array(GROWTH_RECORD);
    transitionResiduals(out, growth, record, 0, record, STATION_RECORD, v[8], v[9], v[10], flow);
    return { out, growth };
  };
  it('of the interval with transition, its place included', () => {
    compare((v) => transition(v).out, AROUND, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
    // Where no laminar layer leads to the place, it is interpolated, with slopes as exact.
    const bare = AROUND.slice();
    bare[3] = 0.4;
    compare((v) => transition(v).out, bare, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
  });
  it('of the growth at the place of transition', () => {
    const { growth } = transition(AROUND);
    // θ, δ*, U ahead; θ, δ*, U behind; both abscissae; the place.
    [1, 2, 3, 5, 6, 7, 8, 9, 10].forEach((k, i) => {
      const h = 1e-5 * AROUND[k];
      const moved = (d: number) => transition(AROUND.map((x, j) => (j === k ? x + d : x))).growth[0];
      const slope = (moved(h) - moved(-h)) / (2 * h);
      expect(Math.abs(growth[1 + i] - slope)).toBeLessThan(
        1e-4 * Math.max(Math.abs(slope), 1e-3 * Math.abs(growth[0] / AROUND[k])),
      );
    });
  });
  it('is continuous with its slope where the place passes the station ahead', () => {
    // At the station itself the laminar part has no length, and the growth is that of the station.
    const at = AROUND.slice();
    at[10] = at[8] + 1e-9;
    const record = new Float64Array(STATION_RECORD);
    evaluateStation(record, 0, 'laminar', at[0], at[1], at[2], at[3], flow);
    expect(transition(at).growth[0]).toBeCloseTo(record[QUANTITY.growth], 4);
  });
});
