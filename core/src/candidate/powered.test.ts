import type { LiftingSurface } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { massProperties, type MassItem } from '../balance';
import { makeLattice } from '../lift';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { airframeCase, airframeDerivatives, freeResponse, motionOf, trimLevel, type Mode } from '../motion';
import { RAD } from '../numerics';
import { engineSchema, type Engine } from '../propulsion';
import { aeroTables, fly, scenarioSchema, type Flight } from '../simulation';
import { flownVehicle, latticeSource, powered, seriesRoot, thrustOf } from '.';

const flat = () => ({ ordinate: () => 0, slope: () => 0 });
const surfaces: LiftingSurface[] = [
  madeWing(5, 0.5, 0.4),
  {
    ...madeWing(1.4, 0.32, 0.28),
    id: 'tail',
    name: 'Tail',
    role: 'tailplane',
    position: { x: 2.2, y: 0, z: 0.2 },
    controls: [
      {
        id: 'e',
        name: 'Elevator',
        from: 0,
        to: 1,
        hinge: 0.7,
        kind: 'symmetric',
        deflectionDeg: 0,
        limitsDeg: [-25, 25],
      },
    ],
  },
  {
    ...madeWing(1, 0.4, 0.25),
    id: 'fin',
    name: 'Fin',
    role: 'fin',
    plane: 'vertical',
    mirrored: false,
    position: { x: 2.2, y: 0, z: 0 },
  },
];
const items: MassItem[] = [
  { id: 'm', name: 'All', mass: 20, position: { x: 0.12, y: 0, z: 0 }, inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 } },
];
const mass = massProperties(items)!;
const lattice = makeLattice({ surfaces, about: mass.centre }, flat);
const bare = latticeSource(lattice, { surfaces, bodies: [], lineOf: flat }, () => 0.025);
const [speed, height] = [22, 100];
const flow = flowState(speed, height);
const tables = aeroTables(bare, speed);
const column = (f: Flight, name: string) => f.series[f.columns.indexOf(name)];

function motionWith(engine: Engine) {
  const engined = powered(bare, engine, flow, 20 * GRAVITY);
  const trim = trimLevel(engined.source, flow, 20 * GRAVITY, engined.flight);
  const { throttle, ...push } = thrustOf(engined, bare.centre, trim, flow);
  const moving = {
    ...airframeCase(engined.source, mass, trim, airframeDerivatives(engined.source, trim, flow), flow),
    ...push,
  };
  return { trim, throttle, moving, ...motionOf(moving) };
}
function flightWith(engine: Engine, disturbance: object, duration: number, record = 0.02): Flight {
  const scenario = scenarioSchema.parse({
    launch: { kind: 'flight', speed, height, disturbance },
    duration,
    record,
    engine,
    tolerance: 1e-9,
  });
  return fly(scenario, flownVehicle(items, {}, tables, scenario));
}

// Above the centre and ahead of it, or behind, with a little tilt.
const line = { position: { x: -0.5, y: 0, z: 0.15 }, pitchDeg: 2 };
const ENGINES: [string, Engine][] = [
  ['constant thrust', { kind: 'constant', thrust: 40, ...line }],
  ['a power with an efficiency', { kind: 'power', power: 900, efficiency: 0.7, ...line }],
  ['the ideal propeller', { kind: 'propeller', power: 1200, diameter: 0.5, ...line }],
  [
    'motor, battery and blades',
    { kind: 'motor', propeller: { diameter: 0.5, pitch: 0.35 }, kv: 400, resistance: 0.03, voltage: 22, ...line },
  ],
  ['a jet', { kind: 'jet', thrust: 60, ...line }],
  [
    'a table',
    {
      kind: 'table',
      points: [
        [0, 60],
        [30, 30],
        [60, 5],
      ],
      ...line,
    },
  ],
].map(([name, e]) => [name as string, engineSchema.parse(e)]);

describe.each(ENGINES)('%s', (_, engine) => {
  const linear = motionWith(engine);
  const named = (name: string) => linear.modes.find((m: Mode) => m.name === name)!;
  it('trims in Motion where it does in a flight', () => {
    const still = flightWith(engine, {}, 1);
    const { alphaDeg, throttle, controls } = still.summary.trim!;
    expect(Math.abs(alphaDeg * RAD - linear.trim.alpha)).toBeLessThan(4e-4);
    expect(throttle / linear.throttle!).toBeCloseTo(1, 2);
    expect(Math.abs(controls.Elevator * RAD - linear.trim.controls.e)).toBeLessThan(2e-3);
    expect(Math.abs(column(still, 'height').at(-1)! - height)).toBeLessThan(0.01);
  });
  it('has the phugoid and the short period of the flight within 2 %', () => {
    const phugoid = named('phugoid');
    const still = flightWith(engine, {}, 40, 0.1);
    const slow = flightWith(engine, { u: 0.02 }, 40, 0.1);
    const away = column(slow, 'V').map((v, i) => v - column(still, 'V')[i]);
    const [t0, t1] = column(slow, 't');
    const long = seriesRoot(away.slice(40), t1 - t0)!;
    expect(Math.abs(long.im / phugoid.im - 1)).toBeLessThan(0.02);
    // Of the damping ratio, which is small.
    expect(Math.abs(-long.re / Math.hypot(long.re, long.im) / phugoid.dampingRatio - 1)).toBeLessThan(0.02);
    // The short period beside the phugoid: the rate of pitch from the same start, over the time in which it dies out.
    const short = named('short period');
    const end = 3 / -short.re;
    const calm = flightWith(engine, {}, end, end / 200);
    const a0 = linear.trim.alpha;
    const pitched = flightWith(engine, { w: 0.05 }, end, end / 200);
    const rate = column(pitched, 'q').map((v, i) => v - column(calm, 'q')[i]);
    const expected = freeResponse(
      linear.matrices.longitudinal,
      [0.05 * Math.sin(a0), 0.05 * Math.cos(a0), 0, 0],
      end,
      201,
    ).map((x) => x[2]);
    const most = Math.max(...expected.map(Math.abs));
    expect(most).toBeGreaterThan(1e-3);
    expect(Math.max(...expected.map((v, i) => Math.abs(v - rate[i]))) / most).toBeLessThan(0.02);
  });
});

describe('thrust in small motions', () => {
  const damping = (engine: Engine) => motionWith(engine).modes.find((m) => m.name === 'phugoid')!.dampingRatio;
  const through = { position: mass.centre, pitchDeg: 0 };
  it('damps the phugoid where it falls with speed', () => {
    const constant = damping(engineSchema.parse({ kind: 'constant', thrust: 40, ...through }));
    const power = damping(engineSchema.parse({ kind: 'power', power: 900, ...through }));
    // Lanchester's ratio: CD/CL/√2 for constant thrust, half as much again for constant power.
    expect(power / constant).toBeGreaterThan(1.3);
    expect(power / constant).toBeLessThan(1.7);
    const none = damping({ kind: 'none' });
    expect(none).toBeCloseTo(constant, 3);
  });
  it('moves the margin by its propeller’s force across the axis, forward where it pulls', () => {
    const motor = (x: number, sideForce: boolean) =>
      motionWith(
        engineSchema.parse({
          kind: 'motor',
          propeller: { diameter: 0.5, pitch: 0.35 },
          kv: 400,
          resistance: 0.03,
          voltage: 22,
          sideForce,
          position: { x, y: 0, z: 0 },
        }),
      ).moving.derivatives.Cm_alpha;
    expect(motor(-0.6, true)).toBeGreaterThan(motor(-0.6, false));
    expect(motor(1, true)).toBeLessThan(motor(1, false));
  });
});
