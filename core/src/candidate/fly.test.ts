import type { LiftingSurface } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { massProperties, type MassItem } from '../balance';
import { autopilotSchema, sampledLoop } from '../control';
import { makeLattice } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { airframeCase, airframeDerivatives, freeResponse, motionOf, trimLevel, type AirframeSource } from '../motion';
import { RAD } from '../numerics';
import { aeroTables, fly, scenarioSchema, type Flight } from '../simulation';
import { flownVehicle } from '.';

const flat = () => ({ ordinate: () => 0, slope: () => 0 });
const control = (id: string, kind: 'symmetric' | 'opposed', from = 0, hinge = 0.7) => ({
  id,
  name: id,
  from,
  to: 1,
  hinge,
  kind,
  deflectionDeg: 0,
  limitsDeg: [-25, 25] as [number, number],
});
const wing: LiftingSurface = { ...madeWing(5, 0.5, 0.4), controls: [control('Aileron', 'opposed', 0.6)] };
const surfaces: LiftingSurface[] = [
  { ...wing, bays: wing.bays.map((b) => ({ ...b, dihedralDeg: 4 })) },
  {
    ...madeWing(1.4, 0.32, 0.28),
    id: 'tail',
    name: 'Tail',
    role: 'tailplane',
    position: { x: 2.2, y: 0, z: 0.2 },
    controls: [control('Elevator', 'symmetric')],
  },
  {
    ...madeWing(1, 0.4, 0.25),
    id: 'fin',
    name: 'Fin',
    role: 'fin',
    plane: 'vertical',
    mirrored: false,
    position: { x: 2.2, y: 0, z: 0 },
    controls: [control('Rudder', 'symmetric')],
  },
];
const items: MassItem[] = [
  { id: 'm', name: 'All', mass: 20, position: { x: 0.12, y: 0, z: 0 }, inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 } },
];
const mass = massProperties(items)!;
const lattice = makeLattice({ surfaces, about: mass.centre }, flat);
const source: AirframeSource = {
  lattice,
  surfaces,
  reference: lattice.reference,
  centre: mass.centre,
  lineOf: flat,
  at: (state) => {
    const l = lattice.at(state);
    return { ...l, CD: l.CDi + 0.025 };
  },
};
const speed = 22;
const tables = aeroTables(source, speed);
const column = (f: Flight, name: string) => f.series[f.columns.indexOf(name)];
const run = (more: object) => {
  const scenario = scenarioSchema.parse({ launch: { kind: 'flight', speed, height: 100 }, duration: 5, ...more });
  return fly(scenario, flownVehicle(items, {}, tables, scenario));
};

const flow = flowState(speed, 100);
const trim = trimLevel(source, flow, 20 * GRAVITY);
const moving = airframeCase(source, mass, trim, airframeDerivatives(source, trim, flow), flow);
const linear = motionOf(moving);
/** Thrust that balances the drag, along the stream and through the centre: the linear model's. */
const thrust = {
  thrust: [
    [0, trim.CD * flow.dynamicPressure * source.reference.area],
    [1000, trim.CD * flow.dynamicPressure * source.reference.area],
  ],
  position: mass.centre,
  pitchDeg: -trim.alpha / RAD,
};

/** Frequency (rad/s) and rate of decay (1/s) of an oscillation about zero, from its crossings and swings. */
function oscillation(t: number[], x: number[]): { frequency: number; decay: number } {
  const crossings: number[] = [];
  for (let i = 1; i < x.length; i++)
    if (x[i - 1] * x[i] < 0) crossings.push(t[i - 1] + ((t[i] - t[i - 1]) * x[i - 1]) / (x[i - 1] - x[i]));
  // From each crest to the next trough: what drifts slowly falls out.
  const crests: { t: number; v: number }[] = [];
  for (let i = 1; i + 1 < x.length; i++)
    if ((x[i] - x[i - 1]) * (x[i + 1] - x[i]) <= 0) crests.push({ t: t[i], v: x[i] });
  const swings = crests.slice(1).map((c, i) => ({ t: 0.5 * (c.t + crests[i].t), v: Math.abs(c.v - crests[i].v) }));
  const [first, last] = [swings[0], swings[swings.length - 1]];
  return {
    frequency: (Math.PI * (crossings.length - 1)) / (crossings[crossings.length - 1] - crossings[0]),
    decay: Math.log(first.v / last.v) / (last.t - first.t),
  };
}

describe('flight of an airframe', () => {
  it('trims where Motion does, and stays there', () => {
    const f = run({ boosts: [thrust], duration: 20 });
    expect(f.summary.trim!.alphaDeg).toBeCloseTo(trim.alpha / RAD, 1);
    expect(f.summary.trim!.controls.Elevator).toBeCloseTo(Object.values(trim.controls)[0] / RAD, 1);
    expect(Math.abs(f.summary.trim!.climbDeg)).toBeLessThan(0.02);
    expect(Math.abs(column(f, 'height').at(-1)! - 100)).toBeLessThan(0.2);
    expect(Math.abs(column(f, 'y').at(-1)!)).toBeLessThan(1e-6);
  });
  it.each([16, 19, 22, 25, 28])('trims with a motor and a propeller of blades, at %i m/s', (v) => {
    const engine = {
      kind: 'motor',
      propeller: { diameter: 0.5, pitch: 0.32, solidity: 0.07 },
      kv: 400,
      resistance: 0.015,
      idleCurrent: 2,
      voltage: 25,
      batteryResistance: 0.015,
      position: { x: 1.25, y: 0, z: 0.02 },
    };
    const f = run({ engine, launch: { kind: 'flight', speed: v, height: 100 }, duration: 2 });
    expect(f.summary.trim!.throttle).toBeGreaterThan(0.3);
    expect(f.summary.trim!.throttle).toBeLessThan(1);
    expect(Math.abs(column(f, 'V').at(-1)! - v)).toBeLessThan(0.05);
  });
  it('has the frequency and the damping of the linear phugoid and Dutch roll within 1 %', () => {
    const phugoid = linear.modes.find((m) => m.name === 'phugoid')!;
    const still = run({ boosts: [thrust], duration: 60, record: 0.05 });
    const slow = run({
      boosts: [thrust],
      duration: 60,
      record: 0.05,
      launch: { kind: 'flight', speed, height: 100, disturbance: { u: 0.02 } },
    });
    const away = column(slow, 'u').map((v, i) => v - column(still, 'u')[i]);
    const long = oscillation(column(slow, 't').slice(40), away.slice(40));
    expect(Math.abs(long.frequency / phugoid.im - 1)).toBeLessThan(0.01);
    expect(Math.abs(long.decay / -phugoid.re - 1)).toBeLessThan(0.01);
    const roll = linear.modes.find((m) => m.name === 'Dutch roll')!;
    const side = run({
      boosts: [thrust],
      duration: 4,
      record: 0.005,
      launch: { kind: 'flight', speed, height: 100, disturbance: { v: 0.1 } },
    });
    // Beside its spiral: the linear model from the same start.
    const expected = freeResponse(linear.matrices.lateral, [0.1, 0, 0, 0], 4, 801);
    const v = column(side, 'v');
    const worst = Math.max(...v.map((x, i) => Math.abs(x - expected[i][0])));
    expect(worst).toBeLessThan(0.002);
    expect(Math.abs(roll.im)).toBeGreaterThan(1);
  });
  it('has the short period of the linear model', () => {
    const push = run({
      boosts: [thrust],
      duration: 2,
      record: 0.005,
      launch: { kind: 'flight', speed, height: 100, disturbance: { q: 0.05 } },
    });
    const expected = freeResponse(linear.matrices.longitudinal, [0, 0, 0.05, 0], 2, 401);
    const q = column(push, 'q');
    expect(Math.max(...q.map((x, i) => Math.abs(x - expected[i][2])))).toBeLessThan(0.01 * 0.05);
  });
  it('rolls to its aileron, turns by a loop on the bank, and reaches its way-points', () => {
    const doublet = run({
      inputs: [{ kind: 'step', control: 'Aileron', at: 0.5, amountDeg: 2 }],
      duration: 1.2,
      boosts: [thrust],
    });
    expect(Math.abs(column(doublet, 'phi').at(-1)!)).toBeGreaterThan(2 * RAD);
    expect(Math.max(...column(doublet, 'Aileron'))).toBeCloseTo(2 * RAD, 9);
    const side = Math.sign(column(doublet, 'phi').at(-1)!);
    const bank = {
      to: 'Aileron',
      loops: [
        { from: 'p', kp: 0.1 },
        { from: 'phi', kp: 2, limits: [-1, 1] },
      ],
    };
    bank.loops[0] = { ...bank.loops[0], sign: side } as never;
    const f = run({
      duration: 90,
      propeller: { power: 1500, diameter: 0.5, position: mass.centre },
      autopilot: {
        channels: [
          { ...bank, loops: [...bank.loops, { from: 'course', kp: 1, limits: [-0.6, 0.6] }], follow: 'waypoints' },
          {
            to: 'Elevator',
            loops: [
              { from: 'q', kp: 0.2, sign: -1 },
              { from: 'theta', kp: 3 },
              { from: 'climb', kp: 1, limits: [-0.3, 0.3] },
              { from: 'height', kp: 0.04, limits: [-0.15, 0.15] },
            ],
            follow: 'waypoints',
          },
          { to: 'throttle', loops: [{ from: 'V', kp: 0.2, ki: 0.05 }], reference: speed },
        ],
      },
      waypoints: [
        { name: 'gate', x: 300, y: 0, height: 110 },
        { name: 'corner', x: 500, y: 250, height: 120, radius: 30 },
      ],
    });
    expect(f.summary.waypoints.map((w) => w.name)).toEqual(['gate', 'corner']);
    expect(f.summary.ended).toBe('waypoints');
    expect(Math.abs(column(f, 'height').at(-1)! - 120)).toBeLessThan(5);
    expect(f.summary.greatestSpeed).toBeLessThan(28);
  });
  it('turns without sideslip where the yaw damper leaves the turn alone', () => {
    const doublet = run({
      duration: 0.5,
      inputs: [{ kind: 'step', control: 'Aileron', at: 0, amountDeg: 2 }],
    });
    const rolls = Math.sign(column(doublet, 'phi').at(-1)!);
    const yaws = Math.sign(
      column(run({ duration: 0.5, inputs: [{ kind: 'step', control: 'Rudder', at: 0, amountDeg: 2 }] }), 'r').at(-1)!,
    );
    const slip = (from: 'r' | 'rTurn') => {
      const f = run({
        duration: 12,
        propeller: { power: 1500, diameter: 0.5, position: mass.centre },
        autopilot: {
          channels: [
            {
              to: 'Aileron',
              loops: [
                { from: 'p', kp: 0.1, sign: rolls },
                { from: 'phi', kp: 2, ki: 0.2, limits: [-1, 1] },
              ],
              referenceDeg: 30,
            },
            {
              to: 'Elevator',
              loops: [
                { from: 'q', kp: 0.2, sign: -1 },
                { from: 'theta', kp: 3 },
              ],
            },
            { to: 'Rudder', loops: [{ from, kp: 1.5, sign: yaws }] },
            { to: 'throttle', loops: [{ from: 'V', kp: 0.2, ki: 0.05 }], reference: speed },
          ],
        },
      });
      expect(Math.abs(column(f, 'phi').at(-1)! / RAD - 30)).toBeLessThan(8);
      return Math.abs(column(f, 'beta').at(-1)!) / RAD;
    };
    const [held, left] = [slip('r'), slip('rTurn')];
    expect(left).toBeLessThan(0.5 * held);
    // What is left answers the roll that yawing brings.
    expect(left).toBeLessThan(2);
  });
  it('holds its speed by thrust as the linear loop says', () => {
    const laws = [{ from: 'V', kp: 40, ki: 10 }];
    const settings = autopilotSchema.parse({
      step: 0.02,
      chains: [{ id: 's', name: 'Speed', to: 'thrust', mover: { timeConstant: 0.3 }, laws }],
    });
    const said = sampledLoop({ of: moving, scale: {}, settings, controls: {}, chain: 's', loop: 0 }, 8)!.step;
    const f = run({
      duration: 8,
      record: 0.02,
      propeller: { power: 1500, diameter: 0.5, position: mass.centre },
      autopilot: {
        step: 0.02,
        channels: [{ to: 'throttle', thrust: { lag: 0.3 }, loops: laws, reference: speed + 0.2 }],
      },
    });
    const V = column(f, 'V');
    const worst = Math.max(...said.y.slice(0, 400).map((y, i) => Math.abs(V[i] - V[0] - 0.2 * y)));
    expect(Math.max(...said.y)).toBeGreaterThan(0.9);
    expect(worst / 0.2).toBeLessThan(0.03);
  });
  it('says what a climb lacks, and glides without an engine', () => {
    expect(() =>
      run({
        propeller: { power: 50, diameter: 0.4, position: mass.centre },
        launch: { kind: 'flight', speed, height: 50, climbDeg: 8 },
      }),
    ).toThrow(/climb of 8.0° needs \d+ % of its power/);
    const glide = run({ launch: { kind: 'flight', speed, height: 50, climbDeg: 8 } });
    expect(glide.summary.notes.join()).toMatch(/no thrust for a climb/);
    expect(glide.summary.trim!.climbDeg).toBeLessThan(-2);
  });
  it('falls like a plate far beyond its tables, and says so', () => {
    const f = run({ launch: { kind: 'hand', speed: 8, height: 60, elevationDeg: 80, alphaDeg: 60 }, duration: 30 });
    expect(f.summary.ended).toBe('ground');
    expect(f.summary.notes.join()).toMatch(/beyond the tables/);
    expect(column(f, 'V').every(Number.isFinite)).toBe(true);
  });
});
