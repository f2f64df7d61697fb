import { keptMeanLine, type SectionPolars } from '../lift';
import { madePolar } from '../lift/viscous/testing/made-polar';
import { DEG, RAD } from '../numerics';
import { glideAt, levelPoint, tightestTurn } from '../performance';
import type { CandidatePart } from '../project';
import { engineSchema, type Engine } from '../propulsion';
import { fly, scenarioSchema } from '../simulation';
import { madeTailed } from './testing/made-tailed';
import { CandidateFlyer, flightTables, flownVehicle, sectionLookup } from '.';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '1410', trailingEdge: 'published' } });
const lineOf = (key: string) => keptMeanLine(lookup(key));
const altitude = 500;
const line = { position: { x: -0.4, y: 0, z: 0.1 }, pitchDeg: 2 };
const aircraft = (engine?: Engine) => madeTailed({ centre: 0.2, incidenceDeg: -1, ...(engine && { engine }) });

/** The same aircraft flown for a moment from the trim that the simulation finds by itself. */
function flown(candidate: CandidatePart, speed: number, climbDeg = 0, polars: SectionPolars[] | null = null) {
  const tables = flightTables(candidate, lookup, lineOf, { speed, altitude, polars });
  const scenario = scenarioSchema.parse({
    ground: altitude - 100,
    launch: { kind: 'flight', speed, height: 100, climbDeg },
    duration: 2,
    record: 0.1,
    engine: candidate.engine ?? { kind: 'none' },
    tolerance: 1e-9,
  });
  const flight = fly(scenario, flownVehicle(tables.massItems, {}, tables, scenario));
  const column = (name: string) => flight.series[flight.columns.indexOf(name)];
  return { trim: flight.summary.trim!, height: column('height'), t: column('t') };
}

describe('performance beside the flight simulation', () => {
  it.each([18, 22, 30])('the glide at %p m/s has its angle and its elevator within 0.5 %', (speed) => {
    const candidate = aircraft();
    const flyer = new CandidateFlyer(candidate, lookup, lineOf, { speed, altitude, polars: null });
    const glide = glideAt(flyer, speed, altitude)!;
    const { trim, height, t } = flown(candidate, speed);
    const sink = (height[0] - height[height.length - 1]) / (t[t.length - 1] - t[0]);
    expect(sink / glide.sink).toBeCloseTo(1, 2);
    const still = flyer.trim({ speed, altitude, idle: true, climb: -glide.angle });
    expect(Math.abs(trim.alphaDeg * RAD - still.alpha)).toBeLessThan(4e-4);
    expect(Math.abs(trim.controls.Elevator * RAD - still.control!.deflection)).toBeLessThan(1e-3);
  });
  it.each([
    ['constant thrust', { kind: 'constant', thrust: 50, ...line }],
    ['a power', { kind: 'power', power: 1200, efficiency: 0.7, ...line }],
    [
      'a motor',
      {
        kind: 'motor',
        propeller: { diameter: 0.5, pitch: 0.35 },
        kv: 400,
        resistance: 0.03,
        voltage: 22,
        sideForce: false,
        ...line,
      },
    ],
  ])('the climb of %s at full throttle is held by the simulation at full throttle', (_, given) => {
    const candidate = aircraft(engineSchema.parse(given));
    const speed = 24;
    const flyer = new CandidateFlyer(candidate, lookup, lineOf, { speed, altitude, polars: null });
    const { climbAngle, climb } = levelPoint(flyer, speed, altitude);
    expect(climb!).toBeGreaterThan(0.5);
    // A hair less, and a hair more: one it holds, the other not.
    expect(flown(candidate, speed, 0.995 * climbAngle! * DEG).trim.throttle).toBeGreaterThan(0.985);
    expect(() => flown(candidate, speed, 1.005 * climbAngle! * DEG)).toThrow(/of its power/);
  });
  it.each([22, 25])('the sustained turn at %p m/s is flown with its rate and radius within 0.5 %', (speed) => {
    const candidate = aircraft(engineSchema.parse({ kind: 'power', power: 500, efficiency: 0.7, ...line }));
    const flyer = new CandidateFlyer(candidate, lookup, lineOf, { speed, altitude, polars: null });
    const turn = tightestTurn(flyer, speed, altitude, 3.8, true)!;
    expect(turn.by).toBe('power');
    const trim = flyer.trim({ speed, altitude, bank: turn.bank });
    const tables = flightTables(candidate, lookup, lineOf, { speed, altitude, polars: null });
    const { rate, bank } = turn;
    const scenario = scenarioSchema.parse({
      ground: altitude - 100,
      launch: {
        kind: 'hand',
        speed,
        height: 100,
        bankDeg: bank * DEG,
        alphaDeg: trim.alpha * DEG,
        spin: { q: rate * Math.sin(bank) * DEG, r: rate * Math.cos(bank) * DEG },
      },
      inputs: [{ kind: 'step', control: 'Elevator', at: 0, amountDeg: trim.control!.deflection * DEG }],
      duration: 0.2,
      record: 0.02,
      engine: candidate.engine,
      throttle: 1,
      tolerance: 1e-9,
    });
    const flight = fly(scenario, flownVehicle(tables.massItems, {}, tables, scenario));
    const column = (name: string) => flight.series[flight.columns.indexOf(name)];
    const [t, x, y, height] = ['t', 'x', 'y', 'height'].map(column);
    // Through the first, a middle and the last place goes one circle.
    const [a, b, c] = [0, 5, 10].map((i) => [x[i], y[i]]);
    const off = (p: number[], q: number[]) => Math.hypot(p[0] - q[0], p[1] - q[1]);
    const cross = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    const radius = (off(a, b) * off(b, c) * off(c, a)) / (2 * Math.abs(cross));
    expect(Math.abs(radius / turn.radius - 1)).toBeLessThan(0.005);
    const along = off(a, b) + off(b, c);
    expect(Math.abs(along / (t[10] - t[0]) / radius / turn.rate - 1)).toBeLessThan(0.005);
    // It is level: what is left is a hundredth of the weight over a fifth of a second.
    expect(Math.abs(height[10] - height[0])).toBeLessThan(0.5 * 0.01 * 9.81 * 0.04);
  });
  it('the stall is within 1 % of where the simulation no longer trims', () => {
    const candidate = aircraft();
    const curves = [3e5, 9e5].map((reynolds) => madePolar(reynolds, { slope: 5.6, zero: -1.5, crest: 13 }));
    const polars = [{ section: 's', flap: null, curves }];
    const flyer = new CandidateFlyer(candidate, lookup, lineOf, { speed: 16, altitude, polars });
    const stall = flyer.stall(altitude)!;
    expect(flown(candidate, 1.01 * stall, 0, polars).trim.alphaDeg).toBeGreaterThan(8);
    expect(() => flown(candidate, 0.99 * stall, 0, polars)).toThrow();
  });
});
