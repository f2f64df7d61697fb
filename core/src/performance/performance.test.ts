import { flowState, GRAVITY, standardAir } from '../atmosphere';
import { FailedComputation, greatestOf } from '../numerics';
import { Thruster, type Engine } from '../propulsion';
import {
  ceiling,
  climbOptima,
  consumptionOf,
  glideOptima,
  gustLoad,
  landing,
  levelFlights,
  levelPoint,
  loadEnvelope,
  rangeFacts,
  rangeOverMass,
  takeOff,
  tightestTurn,
  turnOptima,
  type Energy,
  type Flyer,
} from '.';

const AT = { x: 0, y: 0, z: 0 };
const SEA = standardAir(0).density;
/** An aircraft with a parabolic polar: everything about it has a closed form. */
function parabolic(engine: Engine | null = null, { CLmax = 1.4, mass = 12 } = {}) {
  const [area, aspect, e, CD0] = [0.9, 12, 0.85, 0.025];
  const k = 1 / (Math.PI * aspect * e);
  const weight = mass * GRAVITY;
  const flyer: Flyer = {
    weight,
    area,
    chord: 0.28,
    thruster: engine && new Thruster(engine),
    liftSlope: 5,
    leastCL: -0.8,
    get search() {
      return this;
    },
    trim({ speed, altitude, climb = 0, bank = 0, weightShare = 1 }) {
      const { dynamicPressure: q } = flowState(speed, altitude);
      const loadFactor = Math.cos(climb) / Math.cos(bank);
      const CL = (weight * weightShare * loadFactor) / (q * area);
      if (CL > CLmax) throw new FailedComputation('no-trim', 'No angle carries the weight.', 'Fly faster.');
      const CD = CD0 + k * CL * CL;
      return {
        speed,
        altitude,
        alpha: CL / 5,
        control: null,
        CL,
        CD,
        CDtrim: 0,
        Cm: 0,
        drag: q * area * CD,
        cosTilt: 1,
        loadFactor,
      };
    },
    stall: (altitude, share = 1) => Math.sqrt((2 * weight * share) / (standardAir(altitude).density * area * CLmax)),
  };
  const bestCL = Math.sqrt(CD0 / k);
  const speedAt = (CL: number, h = 0) => Math.sqrt((2 * weight) / (standardAir(h).density * area * CL));
  return { flyer, k, CD0, area, weight, bestCL, speedAt, bestRatio: 1 / (2 * Math.sqrt(k * CD0)) };
}
const POWER: Engine = { kind: 'power', power: 1000, efficiency: 0.7, position: AT, pitchDeg: 0, yawDeg: 0 };
const RANGE = [10, 60] as const;

describe('the greatest value of a function', () => {
  it('is found between samples, at ends, and beside holes', () => {
    expect(greatestOf((x) => -((x - 2.3) ** 2), [0, 1, 2, 3, 4])!.x).toBeCloseTo(2.3, 4);
    expect(greatestOf((x) => Math.sin(x), [0, 1, 2, 3], 1e-7)!.x).toBeCloseTo(Math.PI / 2, 5);
    expect(greatestOf((x) => x, [1, 2, 3])).toEqual({ x: 3, value: 3, atEnd: 'high' });
    expect(greatestOf((x) => -x, [1, 2, 3])!.atEnd).toBe('low');
    expect(greatestOf(() => null, [1, 2])).toBeNull();
    const holed = greatestOf((x) => (x < 1.9 ? null : -((x - 2) ** 2)), [1, 2, 3]);
    expect(holed!.x).toBeCloseTo(2, 3);
  });
});

describe('level flight of a parabolic polar', () => {
  const { flyer, weight } = parabolic(POWER);
  it('power is drag times speed, sink is power over weight, and the climb is what is left, over the weight', () => {
    for (const p of levelFlights(flyer, [14, 18, 22, 26, 30], 500)) {
      expect(p.status).toBe('solved');
      expect(p.power! / (p.drag! * p.speed)).toBeCloseTo(1, 12);
      expect(p.sink! / (p.power! / weight)).toBeCloseTo(1, 12);
      expect(p.powerAvailable).toBeCloseTo(700, 9);
      expect(p.climb! / ((p.powerAvailable! - p.climbPower!) / weight)).toBeCloseTo(1, 9);
      expect(p.climb).toBeCloseTo(p.speed * Math.sin(p.climbAngle!), 9);
      // The lift of a climb carries less than the weight: it needs less power than level flight.
      expect(p.climbPower!).toBeLessThan(p.power!);
      expect(p.throttle).toBeCloseTo(p.power! / 700, 9);
    }
  });
  it('says why a speed cannot be flown, and a glider has no climb', () => {
    const [slow, fast] = levelFlights(parabolic().flyer, [5, 25], 0);
    expect(slow).toMatchObject({ status: 'unflyable', power: null, climb: null });
    expect(slow.reason).toMatch(/weight/);
    expect(fast).toMatchObject({ status: 'solved', climb: null, powerAvailable: null, throttle: null });
    expect(() => levelPoint(flyer, 0, 0)).toThrow(/greater than zero/);
    expect(() => levelPoint(flyer, 20, 1e6)).toThrow(/atmosphere/);
  });
  it('thrust that lifts more than the wing has no steady climb', () => {
    const strong = parabolic({ kind: 'constant', thrust: 200, position: AT, pitchDeg: 0, yawDeg: 0 });
    expect(levelPoint(strong.flyer, 20, 0)).toMatchObject({ status: 'solved', climb: null });
  });
});

describe('optima of a parabolic polar', () => {
  it('best glide and least sink are those of the closed form', () => {
    const { flyer, bestCL, bestRatio, k, CD0, area, weight } = parabolic(null, { CLmax: 3 });
    const { bestGlide, leastSink } = glideOptima(flyer, 0, RANGE);
    expect(bestGlide!.ratio / bestRatio).toBeCloseTo(1, 6);
    // In a glide the lift is W cos γ.
    const glideSpeed = (CL: number) => {
      const CD = CD0 + k * CL * CL;
      return Math.sqrt((2 * weight) / (SEA * area * Math.hypot(CL, CD)));
    };
    expect(bestGlide!.speed / glideSpeed(bestCL)).toBeCloseTo(1, 3);
    const sinkAt = (CL: number) => glideSpeed(CL) * Math.sin(Math.atan2(CD0 + k * CL * CL, CL));
    const least = Math.min(...Array.from({ length: 2000 }, (_, i) => sinkAt(0.4 + (i * 2) / 2000)));
    expect(leastSink!.sink / least).toBeCloseTo(1, 6);
  });
  it('the ceiling of a power that falls with the density is where the least power needed meets it', () => {
    // Power over speed gives thrust; a jet with its thrust falling as the density has a closed form: T/W = 2 √(k CD0).
    const thrust = 22;
    const { flyer, weight, bestRatio } = parabolic({
      kind: 'jet',
      thrust,
      machLapse: 0,
      densityExponent: 1,
      position: AT,
      pitchDeg: 0,
      yawDeg: 0,
    });
    const top = ceiling(flyer, 0, [12, 60])!;
    const share = weight / bestRatio / thrust;
    expect(standardAir(top.altitude).density / SEA / share).toBeCloseTo(1, 3);
    const service = ceiling(flyer, 0, [12, 60], 0.5)!;
    expect(service.altitude).toBeLessThan(top.altitude);
    expect(ceiling(parabolic().flyer, 0, [12, 60])).toBeNull();
    expect(ceiling(flyer, 19_000, [12, 90])).toBeNull();
  });
  it('a power that does not depend on the speed climbs best near the least power needed, and is fastest where both are equal', () => {
    const { flyer } = parabolic({ ...POWER, power: 400 }, { CLmax: 4 });
    const { best, steepest, fastest } = climbOptima(flyer, 0, [8.5, 60]);
    expect(best!.speed).toBeGreaterThan(steepest!.speed);
    const p = levelPoint(flyer, fastest!, 0);
    expect(p.power! / p.powerAvailable!).toBeCloseTo(1, 6);
    expect(levelPoint(flyer, fastest! + 1, 0).climb!).toBeLessThan(0);
  });
  it('range and endurance on a battery: E η (L/D)/W, and E η over the least power', () => {
    const { flyer, weight, bestRatio, bestCL, k, CD0, speedAt } = parabolic({ ...POWER, power: 3000, efficiency: 0.6 });
    const energy: Energy = { kind: 'battery', capacity: 200, usable: 0.8, efficiency: 0.9 };
    const { bestRange, bestEndurance } = rangeFacts(flyer, energy, 0, RANGE);
    const eta = 0.8 * 0.9 * 0.6;
    expect(bestRange!.range / ((200 * 3600 * eta * bestRatio) / weight)).toBeCloseTo(1, 5);
    expect(bestRange!.speed / speedAt(bestCL)).toBeCloseTo(1, 3);
    const CL = Math.sqrt((3 * CD0) / k);
    const v = speedAt(Math.min(1.4, CL));
    const power = (weight * v * (CD0 + k * Math.min(1.4, CL) ** 2)) / Math.min(1.4, CL);
    expect(bestEndurance!.time / ((200 * 3600 * eta) / power)).toBeCloseTo(1, 4);
  });
  it('range and endurance on fuel are those of Breguet', () => {
    const { flyer, weight, bestRatio, k, CD0, area } = parabolic(
      { ...POWER, power: 3000, efficiency: 0.6 },
      { mass: 12 },
    );
    const energy: Energy = { kind: 'fuel', mass: 3, consumption: 0.5, per: 'power' };
    const { bestRange, bestEndurance } = rangeFacts(flyer, energy, 0, RANGE);
    const c = 0.5 / 3.6e6;
    const [w0, w1] = [weight, weight - 3 * GRAVITY];
    expect(bestRange!.range / ((0.6 / (c * GRAVITY)) * bestRatio * Math.log(w0 / w1))).toBeCloseTo(1, 5);
    // At the least power: E = η/(c g) (CL^1.5/CD) √(2 ρ S) (W1^−½ − W0^−½).
    const CL = Math.min(1.4, Math.sqrt((3 * CD0) / k));
    const climb = CL ** 1.5 / (CD0 + k * CL * CL);
    const closed = (0.6 / (c * GRAVITY)) * climb * Math.sqrt(2 * SEA * area) * (1 / Math.sqrt(w1) - 1 / Math.sqrt(w0));
    expect(bestEndurance!.time / closed).toBeCloseTo(1, 4);
    expect(() => rangeFacts(flyer, { ...energy, mass: 12 }, 0, RANGE)).toThrow(/not less than the whole mass/);
  });
  it('range over the mass: of a parabolic polar on a battery it goes with one over the weight', () => {
    const { flyer } = parabolic({ ...POWER, power: 9000, efficiency: 0.6 });
    const energy: Energy = { kind: 'battery', capacity: 200, usable: 0.8, efficiency: 0.9 };
    const [light, now, heavy] = rangeOverMass(flyer, energy, 0, RANGE, [0.7, 1, 1.6]);
    expect(now.mass).toBeCloseTo(12, 9);
    expect((light.range! * 0.7) / now.range!).toBeCloseTo(1, 5);
    expect((heavy.range! * 1.6) / now.range!).toBeCloseTo(1, 5);
    // The power goes with the weight to 3/2.
    expect((heavy.time! * 1.6 ** 1.5) / now.time!).toBeCloseTo(1, 3);
  });
  it('a thrust-specific consumption: E = (L/D)/(c g) ln', () => {
    const { flyer, weight, bestRatio } = parabolic({
      kind: 'constant',
      thrust: 60,
      position: AT,
      pitchDeg: 0,
      yawDeg: 0,
    });
    const { bestEndurance } = rangeFacts(flyer, { kind: 'fuel', mass: 3, consumption: 0.1, per: 'thrust' }, 0, RANGE);
    const c = 0.1 / 3600;
    expect(bestEndurance!.time / ((bestRatio / (c * GRAVITY)) * Math.log(weight / (weight - 3 * GRAVITY)))).toBeCloseTo(
      1,
      5,
    );
  });
  it('a speed that full thrust does not hold consumes nothing that could be told', () => {
    const { flyer } = parabolic({ ...POWER, power: 50 });
    const energy: Energy = { kind: 'battery', capacity: 200, usable: 0.8, efficiency: 0.9 };
    expect(consumptionOf(flyer, energy, flyer.trim({ speed: 40, altitude: 0 }))).toBeNull();
    expect(rangeFacts(flyer, energy, 0, RANGE)).toEqual({ bestRange: null, bestEndurance: null });
    expect(rangeFacts(parabolic().flyer, energy, 0, RANGE).bestRange).toBeNull();
  });
});

describe('turns', () => {
  it('of constant thrust: the quickest sustained one has the closed form of a parabolic polar', () => {
    const thrust = 30;
    const { flyer, k, CD0, area, weight } = parabolic(
      { kind: 'constant', thrust, position: AT, pitchDeg: 0, yawDeg: 0 },
      { CLmax: 5 },
    );
    const { quickest } = turnOptima(flyer, 0, [8, 60], 50);
    // Greatest rate: q S = W √(k/CD0), n² = (T/W)/√(k CD0) − 1.
    const q = (weight / area) * Math.sqrt(k / CD0);
    const n2 = thrust / weight / Math.sqrt(k * CD0) - 1;
    const v = Math.sqrt((2 * q) / SEA);
    expect(quickest!.rate / ((GRAVITY * Math.sqrt(n2 - 1)) / v)).toBeCloseTo(1, 4);
    expect(quickest!.loadFactor / Math.sqrt(n2)).toBeCloseTo(1, 2);
    expect(quickest!.by).toBe('power');
  });
  it('ends at the stall, at the structure or at the engine, and says which', () => {
    const { flyer } = parabolic(POWER);
    const stall = flyer.stall(0)!;
    const slow = tightestTurn(flyer, 1.3 * stall, 0, 6, false)!;
    expect(slow.by).toBe('stall');
    expect(slow.loadFactor / 1.69).toBeCloseTo(1, 3);
    const fast = tightestTurn(flyer, 3 * stall, 0, 4, false)!;
    expect(fast).toMatchObject({ by: 'structure' });
    expect(fast.loadFactor).toBeCloseTo(4, 9);
    expect(fast.radius).toBeCloseTo(fast.speed ** 2 / (GRAVITY * Math.sqrt(15)), 6);
    expect(tightestTurn(flyer, 30, 0, 6, true)!.by).toBe('power');
    expect(tightestTurn(flyer, 0.9 * stall, 0, 6, false)).toBeNull();
    expect(tightestTurn(parabolic().flyer, 20, 0, 6, true)).toBeNull();
    expect(tightestTurn(flyer, 20, 0, 1, false)).toBeNull();
  });
});

describe('loads', () => {
  it('a gust has the formula’s load: worked in its own units', () => {
    // n − 1 = K U V a/(498 W/S) with ft/s, kn, lb/ft².
    const [loading, chord, slope, speed] = [600, 1.2, 5, 60];
    const mu = (2 * loading) / (SEA * chord * slope * GRAVITY);
    const K = (0.88 * mu) / (5.3 + mu);
    const imperial = (K * 50 * (speed / 0.514444) * slope) / (498 * (loading / 47.8803));
    expect(gustLoad(speed, 15.24, { loading, chord, slope, density: SEA, gravity: GRAVITY }) / imperial).toBeCloseTo(
      1,
      2,
    );
  });
  it('the envelope meets the stall at the greatest load, and holds its corners', () => {
    const { flyer } = parabolic();
    const e = loadEnvelope(flyer, 0, { positive: 3.8, negative: -1.5, cruise: 30, dive: 42 }, GRAVITY);
    expect(e.manoeuvring! / (flyer.stall(0)! * Math.sqrt(3.8))).toBeCloseTo(1, 6);
    expect(e.manoeuvre[0]).toEqual({ speed: 0, n: 0 });
    expect(e.manoeuvre.some((p) => p.n === 3.8 && p.speed === 42)).toBe(true);
    const inverted = e.inverted!;
    expect(0.5 * SEA * inverted ** 2 * flyer.area * 0.8).toBeCloseTo(1.5 * flyer.weight, 4);
    expect(e.gusts[0].up - 1).toBeCloseTo(1 - e.gusts[0].down, 12);
    expect(e.greatest).toBeGreaterThanOrEqual(3.8);
    // Without a stall it says so, and keeps its corners.
    const unknown = loadEnvelope(
      { ...flyer, stall: () => null, leastCL: null },
      0,
      { positive: 3.8, negative: -1.5, cruise: 30, dive: 42 },
      GRAVITY,
    );
    expect([unknown.stall, unknown.manoeuvring, unknown.inverted]).toEqual([null, null, null]);
  });
});

describe('on the ground', () => {
  const ground = { CL: 0.4, CD: 0.03, rolling: 0.04, braking: 0.3, obstacle: 15 };
  it('without drag, lift and friction the run is m V²/(2 T), and the time m V/T', () => {
    const { flyer, weight } = parabolic({ kind: 'constant', thrust: 60, position: AT, pitchDeg: 0, yawDeg: 0 });
    const made = takeOff(flyer, 0, { CL: 0, CD: 0, rolling: 0, braking: 0, obstacle: 15 });
    if (!made.ok) throw new Error(made.reason);
    const v = 1.1 * flyer.stall(0)!;
    expect(made.run).toBeCloseTo(((weight / GRAVITY) * v ** 2) / 120, 6);
    expect(made.time).toBeCloseTo(((weight / GRAVITY) * v) / 60, 6);
    expect(made.total).toBeGreaterThan(made.run);
    const rough = takeOff(flyer, 0, ground);
    expect(rough.ok && rough.run).toBeGreaterThan(made.run);
  });
  it('landing: friction alone stops it in V²/(2 μ g)', () => {
    const { flyer } = parabolic();
    const made = landing(flyer, 0, { CL: 0, CD: 0, rolling: 0, braking: 0.3, obstacle: 0 });
    if (!made.ok) throw new Error(made.reason);
    expect(made.run).toBeCloseTo((1.15 * flyer.stall(0)!) ** 2 / (2 * 0.3 * GRAVITY), 6);
  });
  it('what cannot be is told with its reason', () => {
    expect(takeOff(parabolic().flyer, 0, ground)).toEqual({ ok: false, reason: 'It has no engine.' });
    const weak = parabolic({ kind: 'constant', thrust: 3, position: AT, pitchDeg: 0, yawDeg: 0 });
    expect(takeOff(weak.flyer, 0, ground)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/lift-off speed/),
    });
    expect(landing(parabolic().flyer, 0, { ...ground, CD: 0, braking: 0 })).toMatchObject({ ok: false });
    const unknown = { ...parabolic(POWER).flyer, stall: () => null };
    expect(takeOff(unknown, 0, ground)).toMatchObject({ ok: false, reason: expect.stringMatching(/polars/) });
  });
});
