import {
  bladeSection,
  engineSchema,
  PISTON_LAPSE,
  motorState,
  pitchedPropeller,
  propellerAt,
  propellerPower,
  propellerTable,
  propellerThrust,
  Thruster,
  type Propeller,
} from '.';

const section = { zeroLift: -0.06, slope: 5.8, clMax: 1.3, cdMin: 0.012, cdGrowth: 0.012, clOfLeastDrag: 0.4 };
const shape = { diameter: 0.5, pitch: 0.35, blades: 2, solidity: 0.06 };
const air = { speed: 20, density: 1.2 };
const at = { position: { x: 1, y: 0, z: 0 } };

/** Another way to the same balance: induced speeds in each annulus followed until they repeat. */
function byIteration(p: Propeller, J: number, rps: number) {
  const [R, omega, V] = [0.5 * p.diameter, 2 * Math.PI * rps, J * rps * p.diameter];
  let [thrust, torque] = [0, 0];
  const n = 24;
  for (let k = 0; k < n; k++) {
    const share = p.hub + ((k + 0.5) * (1 - p.hub)) / n;
    const r = share * R;
    let i = 0;
    while (i < p.stations.length - 2 && share > p.stations[i + 1].r) i++;
    const [a, b] = [p.stations[i], p.stations[i + 1]];
    const t = (share - a.r) / (b.r - a.r);
    const c = (a.chord + t * (b.chord - a.chord)) * R;
    const angle = a.angle + t * (b.angle - a.angle);
    let [w, u] = [1, 0];
    let [dT, dQ] = [0, 0];
    for (let round = 0; round < 4000; round++) {
      const [va, vt] = [V + w, omega * r - u];
      const phi = Math.atan2(va, vt);
      const W2 = va * va + vt * vt;
      const { cl, cd } = p.section(angle - phi, 1e5, share);
      const [cn, ct] = [cl * Math.cos(phi) - cd * Math.sin(phi), cl * Math.sin(phi) + cd * Math.cos(phi)];
      const loss = (edge: number) =>
        (2 / Math.PI) * Math.acos(Math.min(1, Math.exp((-p.blades * edge) / (2 * r * Math.sin(phi)))));
      const F = Math.max(1e-3, loss(R - r) * loss(r - 0.98 * p.hub * R));
      // Forces a length and density of the blades; momentum: dT = 4πr F (V + w) w.
      [dT, dQ] = [0.5 * p.blades * c * W2 * cn, 0.5 * p.blades * c * W2 * ct];
      const nextW = dT / (4 * Math.PI * r * F * va);
      const nextU = dQ / (4 * Math.PI * r * F * va);
      w += 0.1 * (nextW - w);
      u += 0.1 * (nextU - u);
    }
    const dr = ((1 - p.hub) / n) * R;
    thrust += dT * dr;
    torque += dQ * r * dr;
  }
  const scale = rps * rps * p.diameter ** 4;
  return { CT: thrust / scale, CP: (2 * Math.PI * torque) / (scale * p.diameter) };
}

describe('propeller by blade elements', () => {
  const p = pitchedPropeller(shape, section);
  it.each([0.1, 0.3, 0.5, 0.65])('J %d: another way to the balance comes to the same', (J) => {
    const [a, b] = [propellerAt(p, J, 100), byIteration(p, J, 100)];
    expect(a.CT / b.CT).toBeCloseTo(1, 6);
    expect(a.CP / b.CP).toBeCloseTo(1, 6);
  });
  it('never beats the ideal propeller, and comes near it without drag and with many blades', () => {
    for (const J of [0, 0.2, 0.4, 0.6]) {
      const q = propellerAt(p, J, 100);
      const [T, P] = [q.CT * 1.2 * 1e4 * 0.5 ** 4, q.CP * 1.2 * 1e6 * 0.5 ** 5];
      expect(P).toBeGreaterThan(propellerPower(T, 0.5, 1.2, J * 50));
    }
    const fine = pitchedPropeller({ ...shape, blades: 12 }, { ...section, cdMin: 0, cdGrowth: 0 });
    const q = propellerAt(fine, 0.45, 100);
    const [T, P] = [q.CT * 1.2 * 1e4 * 0.5 ** 4, q.CP * 1.2 * 1e6 * 0.5 ** 5];
    const share = propellerPower(T, 0.5, 1.2, 0.45 * 50) / P;
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(1);
  });
  it('has no thrust where it advances by its pitch, pushes at rest, and turns against the side wind', () => {
    const list = propellerTable(p, 100);
    const zero = list.findIndex((q) => q.CT < 0);
    expect(list[zero].J).toBeCloseTo(0.75, 1);
    expect(list[0].CT).toBeGreaterThan(0.06);
    expect(list[0].CN).toBeCloseTo(0, 12);
    for (const q of list.slice(1, zero)) expect(q.CN).toBeGreaterThan(0);
  });
  it('takes a plate where the blade has stalled, and goes over to it without a step', () => {
    const s = bladeSection(section);
    for (let a = -1.4; a < 1.4; a += 0.01) {
      const [one, two] = [s(a, 1e5, 0.5), s(a + 0.01, 1e5, 0.5)];
      expect(Math.abs(two.cl - one.cl)).toBeLessThan(0.2);
      expect(two.cd).toBeGreaterThan(0);
    }
    expect(s(Math.PI / 2, 1e5, 0.5).cd).toBeCloseTo(2, 6);
  });
  it.each([
    [{ blades: 0 }, /0 blades/],
    [{ diameter: 0 }, /no diameter/],
  ])('refuses %j', (more, message) => {
    expect(() => propellerAt({ ...p, ...more }, 0.3, 100)).toThrow(message);
  });
});

describe('motor', () => {
  const motor = { kv: 400, resistance: 0.03, idleCurrent: 1.5, battery: { voltage: 22, resistance: 0.02 } };
  const table = {
    ...new Thruster(
      engineSchema.parse({ kind: 'motor', propeller: shape, kv: 400, resistance: 0.03, voltage: 22, ...at }),
    ).propeller!,
    diameter: 0.5,
  };
  it('turns where torques are equal, and its powers add up', () => {
    const s = motorState(motor, table, 0.8, 20, 1.2);
    const back = (60 * s.rps) / motor.kv;
    // Voltage of the motor: the battery's under load.
    const volt = 0.8 * (22 - 0.02 * 0.8 * s.current);
    expect(volt).toBeCloseTo(back + s.current * motor.resistance, 9);
    expect(s.shaftPower).toBeCloseTo((s.current - motor.idleCurrent) * back, 6);
    expect(s.batteryPower).toBeGreaterThan(s.shaftPower);
    expect(s.thrust * 20).toBeLessThan(s.shaftPower);
  });
  it('pushes less the faster it flies, more with more voltage, and nothing without', () => {
    const over = [0, 10, 20, 30].map((v) => motorState(motor, table, 1, v, 1.2).thrust);
    over.slice(1).forEach((t, i) => expect(t).toBeLessThan(over[i]));
    expect(motorState(motor, table, 0.5, 10, 1.2).thrust).toBeLessThan(over[1]);
    expect(motorState(motor, table, 0, 10, 1.2).thrust).toBe(0);
    expect(motorState(motor, table, 0.05, 60, 1.2)).toMatchObject({ thrust: 0 });
  });
});

describe('engines', () => {
  const all = [
    { kind: 'constant', thrust: 40, ...at },
    { kind: 'power', power: 1200, efficiency: 0.7, ...at },
    { kind: 'propeller', power: 1200, diameter: 0.5, ...at },
    { kind: 'motor', propeller: shape, kv: 400, resistance: 0.03, voltage: 22, ...at },
    { kind: 'jet', thrust: 60, ...at },
    { kind: 'table', points: [[0, 60], [20, 40], [50, 5]], ...at },
  ].map((e) => new Thruster(engineSchema.parse(e))); // prettier-ignore
  it.each(all.map((t) => [t.engine.kind, t] as const))('%s: throttle and thrust lead back to each other', (_, t) => {
    // A motor at a third of its voltage would be driven by the air.
    for (const share of t.engine.kind === 'motor' ? [0.7, 0.85, 1] : [0.3, 0.7, 1]) {
      const thrust = t.thrust(share, air);
      expect(thrust).toBeGreaterThan(0);
      expect(t.throttleFor(thrust, air)).toBeCloseTo(share, 6);
    }
    expect(t.thrust(0, air)).toBe(0);
    expect(t.throttleFor(2 * t.thrust(1, air), air)).toBeGreaterThan(1);
    expect(t.throttleFor(0, air)).toBe(0);
  });
  it('change with speed as their kinds do', () => {
    const by = Object.fromEntries(all.map((t) => [t.engine.kind, t]));
    expect(by.constant.perSpeed(0.5, air)).toBeCloseTo(0, 9);
    // T = ηP/V.
    expect(by.power.perSpeed(0.5, air)).toBeCloseTo(-by.power.thrust(0.5, air) / 20, 4);
    // Of the ideal propeller, by the derivative of P = T (V/2 + √(V²/4 + T/2ρA)).
    const T = propellerThrust(0.8 * 600, 0.5, 1.2, 20);
    const disc = 2 * 1.2 * Math.PI * 0.0625;
    const root = Math.sqrt(100 + T / disc);
    const slope = -(T * (0.5 + 20 / (4 * root))) / (10 + root + T / (2 * root * disc));
    expect(by.propeller.perSpeed(0.5, air) / slope).toBeCloseTo(1, 5);
    expect(by.jet.perSpeed(1, air)).toBeCloseTo((-60 * 0.4 * (1.2 / 1.225) ** 0.8) / 340, 6);
    expect(by.table.perSpeed(1, { ...air, speed: 10 })).toBeCloseTo((-1 * 1.2) / 1.225, 6);
    expect(by.motor.perSpeed(0.8, air)).toBeLessThan(0);
  });
  it('of a piston lose power with height as the published rule says, and an electric motor loses none', () => {
    const of = (more: object) =>
      new Thruster(engineSchema.parse({ kind: 'power', power: 75000, efficiency: 0.7, ...at, ...more }));
    const full = (t: Thruster, sigma: number) => t.thrust(1, { speed: 50, density: 1.225 * sigma });
    const piston = of({ powerDensityExponent: PISTON_LAPSE });
    for (const sigma of [1, 0.9, 0.8, 0.7, 0.6]) {
      expect(Math.abs(full(piston, sigma) / full(piston, 1) / (1.132 * sigma - 0.132) - 1)).toBeLessThan(0.02);
      expect(full(of({}), sigma)).toBeCloseTo(0.7 * 1500, 9);
    }
    const ideal = { kind: 'propeller' as const, power: 75000, diameter: 1.8, ...at };
    const [high, low] = [
      { speed: 50, density: 0.9 },
      { speed: 50, density: 1.225 },
    ];
    const lapsing = new Thruster(engineSchema.parse({ ...ideal, powerDensityExponent: 1 }));
    // The same as an engine of the power that is left.
    const left = new Thruster(engineSchema.parse({ ...ideal, power: (75000 * 0.9) / 1.225 }));
    expect(lapsing.thrust(1, high)).toBeCloseTo(left.thrust(1, high), 9);
    expect(lapsing.throttleFor(lapsing.thrust(0.6, high), high)).toBeCloseTo(0.6, 6);
    expect(lapsing.thrust(1, low)).toBeCloseTo(new Thruster(engineSchema.parse(ideal)).thrust(1, low), 9);
  });
  it('say nothing of a glider, and refuse what cannot be', () => {
    expect(new Thruster({ kind: 'none' }).thrust(1, air)).toBe(0);
    for (const broken of [
      { kind: 'steam' },
      { kind: 'jet', thrust: -1, ...at },
      { kind: 'table', points: [[1, 2]], ...at },
    ])
      expect(engineSchema.safeParse(broken).success).toBe(false);
  });
});
