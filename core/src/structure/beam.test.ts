import {
  bentBeam,
  divergencePressure,
  Flexibility,
  reversalPressure,
  spanLoads,
  vibrations,
  type ElasticStrip,
} from '.';

const SPAN = 2.4;
const EI = 900;
const GJ = 260;

/** The cantilever under a load per metre, in strips of a lattice. */
function deflected(load: (y: number) => number, tip = 0) {
  const count = 20;
  const edge = (i: number) => SPAN * Math.sin((0.5 * Math.PI * i) / count);
  const strips = Array.from({ length: count }, (_, i) => {
    const [a, b] = [edge(i), edge(i + 1)];
    const middle = SPAN * Math.sin((0.5 * Math.PI * (i + 0.5)) / count);
    return { along: 0.5 * (a + b), width: b - a, force: load(middle) * (b - a), x: 0, moment: 0.4 * (b - a) };
  });
  const places = Array.from({ length: count + 1 }, (_, i) => edge(i));
  const { shear, bending, torsion } = spanLoads(
    strips,
    tip === 0 ? [] : [{ along: SPAN, force: tip, x: 0, moment: 0 }],
    places,
    () => 0,
  );
  const all = (v: number, n: number) => Array<number>(n).fill(v);
  const of = { EI: all(EI, count + 1), EIMiddle: all(EI, count), GJ: all(GJ, count + 1), GJMiddle: all(GJ, count) };
  return bentBeam({ s: places, shear, bending, torsion, ...of });
}

describe('a cantilever', () => {
  it('deflects as the closed forms say: even, elliptic and end load', () => {
    const even = deflected(() => 30);
    expect(even.deflection.at(-1)! / ((30 * SPAN ** 4) / (8 * EI))).toBeCloseTo(1, 9);
    expect(even.slope.at(-1)! / ((30 * SPAN ** 3) / (6 * EI))).toBeCloseTo(1, 9);
    expect(even.twist.at(-1)! / ((0.4 * SPAN ** 2) / (2 * GJ))).toBeCloseTo(1, 9);
    const end = deflected(() => 0, 50);
    // Shear and bending of a force at the tip end before it.
    expect(end.deflection.at(-1)! / ((50 * SPAN ** 3) / (3 * EI))).toBeCloseTo(1, 3);
    const elliptic = deflected((y) => 30 * Math.sqrt(1 - (y / SPAN) ** 2));
    let exact = 0;
    const n = 4000;
    for (let k = 0; k < n; k++) {
      const t = ((k + 0.5) * Math.PI) / (2 * n);
      const y = Math.sin(t);
      // Influence of a force at y on the tip: y² (3 − y)/6.
      exact += (Math.cos(t) ** 2 * ((y * y * (3 - y)) / 6) * Math.PI) / (2 * n);
    }
    expect(elliptic.deflection.at(-1)! / ((30 * SPAN ** 4 * exact) / EI)).toBeCloseTo(1, 3);
  });
});

/** A uniform wing in strips. */
function uniform(count: number, of: Partial<ElasticStrip> = {}) {
  const strips = Array.from({ length: count }, (_, i): ElasticStrip => {
    const s = (SPAN * (i + 0.5)) / count;
    const { cos = 1 } = of;
    return {
      s,
      y: s * cos,
      width: (SPAN / count) * cos,
      chord: 0.3,
      ahead: 0.05,
      cos: 1,
      sin: 0,
      liftSlope: 2 * Math.PI,
      mass: (1.1 * SPAN) / count,
      behind: 0,
      inertia: (0.006 * SPAN) / count,
      ...of,
    };
  });
  const flex = new Flexibility(
    strips.map((s) => s.s),
    () => EI,
    () => GJ,
  );
  return { strips, flex };
}

describe('aeroelasticity by strips', () => {
  it('a uniform wing diverges at π² GJ/(4 L² c e a)', () => {
    const { strips, flex } = uniform(30);
    const exact = (Math.PI ** 2 * GJ) / (4 * SPAN ** 2 * 0.3 * 0.05 * 2 * Math.PI);
    expect(divergencePressure(flex, strips)! / exact).toBeCloseTo(1, 3);
  });
  it('with the axis ahead of the quarter chord, or swept back, it does not', () => {
    const ahead = uniform(20, { ahead: -0.02 });
    expect(divergencePressure(ahead.flex, ahead.strips)).toBeNull();
    const angle = 0.6;
    const swept = uniform(20, { cos: Math.cos(angle), sin: Math.sin(angle) });
    expect(divergencePressure(swept.flex, swept.strips)).toBeNull();
    const forward = uniform(20, { cos: Math.cos(angle), sin: -Math.sin(angle) });
    const straight = uniform(20);
    expect(divergencePressure(forward.flex, forward.strips)).toBeLessThan(
      divergencePressure(straight.flex, straight.strips)!,
    );
  });
  it('swept forward without torsion diverges in bending at the closed form of the uniform wing', () => {
    // Of a wing stiff in torsion: q c a sinΛ cosΛ L³/EI = 6.33, its length along the beam.
    const angle = 0.4;
    const { strips } = uniform(60, { cos: Math.cos(angle), sin: -Math.sin(angle), ahead: 0 });
    const flex = new Flexibility(
      strips.map((s) => s.s),
      () => EI,
      () => 1e12,
    );
    const perMetre = 0.3 * 2 * Math.PI * Math.cos(angle) * Math.sin(angle);
    expect((divergencePressure(flex, strips)! * perMetre * SPAN ** 3) / EI).toBeCloseTo(6.33, 1);
  });
  it('a control along the whole uniform wing reverses where the closed form says', () => {
    const { strips, flex } = uniform(40);
    const [effect, moment] = [0.6, -0.6];
    const controls = strips.map(() => ({ effect, moment }));
    const { pressure, left } = reversalPressure(flex, strips, controls, 6000);
    expect(left(0)).toBeCloseTo(1, 12);
    // θ″ + k²θ = −m with k² = q c e a/GJ: integrate the twist and the roll by small steps of an independent march.
    const rollAt = (q: number) => {
      const n = 4000;
      const h = SPAN / n;
      const rate = (theta: number) => -(q / GJ) * (0.3 * 0.05 * 2 * Math.PI * (theta + effect) + 0.3 ** 2 * moment);
      // Shoot for θ′(L) = 0.
      const shoot = (slope: number) => {
        let [theta, turn, roll] = [0, slope, 0];
        for (let k = 0; k < n; k++) {
          const mid = theta + 0.5 * h * turn;
          roll += (mid + effect) * (k + 0.5) * h * h;
          const middle = turn + 0.5 * h * rate(theta);
          turn += h * rate(mid);
          theta += h * middle;
        }
        return { turn, roll };
      };
      const [a, b] = [shoot(0), shoot(1)];
      const t = -a.turn / (b.turn - a.turn);
      return a.roll + t * (b.roll - a.roll);
    };
    expect(Math.sign(rollAt(0.99 * pressure!))).toBe(1);
    expect(Math.sign(rollAt(1.01 * pressure!))).toBe(-1);
  });
  it('a uniform wing vibrates at 3.516 √(EI/m L⁴) and π/2 √(GJ/I L²)', () => {
    const { strips, flex } = uniform(24);
    const all = vibrations(flex, strips);
    const bending = all.find((v) => v.bending > 0.5)!;
    const torsion = all.find((v) => v.bending < 0.5)!;
    expect((bending.frequency * 2 * Math.PI) / (3.516 * Math.sqrt(EI / (1.1 * SPAN ** 4)))).toBeCloseTo(1, 2);
    expect((torsion.frequency * 2 * Math.PI) / (0.5 * Math.PI * Math.sqrt(GJ / (0.006 * SPAN ** 2)))).toBeCloseTo(1, 2);
    expect([bending.bending, torsion.bending].map((v) => Math.round(v))).toEqual([1, 0]);
  });
});
