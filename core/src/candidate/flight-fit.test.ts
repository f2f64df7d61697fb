import type { SectionSource } from '../shaping';
import { keptMeanLine } from '../lift';
import { fly, randomNumbers, scenarioSchema } from '../simulation';
import { flightTables, flownVehicle, type FlightTables } from './fly';
import { fitFlight, launchOf, type FitParameter } from './flight-fit';
import { madeTailed } from './testing/made-tailed';

const source: SectionSource = { kind: 'designation', designation: '2410', trailingEdge: 'sharp' };
const lookup = () => source;
let tables: FlightTables;
beforeAll(() => {
  tables = flightTables(madeTailed({ centre: 0.18 }), lookup, () => keptMeanLine(lookup()), {
    speed: 16,
    altitude: 0,
    polars: null,
  });
});
interface Thrown {
  speed: number;
  elevation: number;
  headwind?: number;
  drag?: number;
  trim?: number;
}
/** The path of a throw, with noise on every place. */
function thrown(of: Thrown, noise: number, seed = 1, duration = 4) {
  const wind = of.headwind ?? 0;
  const scenario = scenarioSchema.parse({
    ground: -400,
    launch: { kind: 'hand', speed: of.speed, height: 402, elevationDeg: of.elevation },
    duration,
    record: 0.05,
    ...(wind !== 0 && { wind: { speed: Math.abs(wind), fromDeg: wind > 0 ? 0 : 180 } }),
  });
  const own = {
    ...tables,
    base: tables.base.map((b) => ({
      ...b,
      CD: b.CD.map((v) => v * (of.drag ?? 1)),
      Cm: b.Cm.map((v) => v + (of.trim ?? 0)),
    })),
  };
  const { columns, series } = fly(scenario, flownVehicle(tables.massItems, {}, own, scenario));
  const random = randomNumbers(seed);
  const column = (name: string) => series[columns.indexOf(name)];
  const off = () => noise * random.normal();
  return {
    t: column('t'),
    x: column('x').map((v, i) => (i === 0 ? v : v + off())),
    height: column('height').map((v, i) => v - 400 + (i === 0 ? 0 : off())),
    y: null,
    speed: null,
    notes: [],
    gaps: [],
    outliers: [],
  };
}
const ALL: FitParameter[] = ['speed', 'elevation', 'drag', 'trim'];

describe('a throw that is fitted', () => {
  it('has its launch in the first part of its path', () => {
    const { speed, elevationDeg } = launchOf(thrown({ speed: 17, elevation: 8 }, 0));
    expect(Math.abs(speed / 17 - 1)).toBeLessThan(0.06);
    expect(Math.abs(elevationDeg - 8)).toBeLessThan(4);
  });
  it('gives back what it was flown with when nothing disturbs it', () => {
    const truth = { speed: 17.3, elevation: 6, drag: 1.4, trim: 0.006 };
    const { parameters, rms, withoutLift } = fitFlight(thrown(truth, 0), tables, { fit: ALL, altitude: 0 });
    for (const p of parameters) expect(p.value).toBeCloseTo(truth[p.id as keyof typeof truth], 2);
    expect(rms).toBeLessThan(0.01);
    expect(withoutLift).toBeGreaterThan(1);
  });
  it('holds the true values in its 95 % bounds as often as it says', () => {
    const truth = { speed: 16, elevation: 4, drag: 1.2, trim: -0.004 };
    let [inside, all] = [0, 0];
    for (let seed = 1; seed <= 25; seed++) {
      const { parameters } = fitFlight(thrown(truth, 0.05, seed), tables, { fit: ALL, altitude: 0 });
      for (const p of parameters) {
        const v = truth[p.id as keyof typeof truth];
        all++;
        if (v >= p.low && v <= p.high) inside++;
      }
    }
    expect(inside / all).toBeGreaterThan(0.88);
    expect(inside / all).toBeLessThanOrEqual(1);
  });
  it('says what the record cannot tell apart: speed and wind of a short throw', () => {
    const path = thrown({ speed: 16, elevation: 3, headwind: 1 }, 0.05, 3, 1);
    const { doubts, alike, parameters } = fitFlight(path, tables, {
      fit: ['speed', 'elevation', 'wind', 'drag', 'trim'],
      altitude: 0,
    });
    expect(alike.length + parameters.filter((p) => !p.decided).length).toBeGreaterThan(0);
    expect(doubts.join(' ')).toMatch(/does not decide|nearly the same effect/);
  });
  it('refuses a fit of more numbers than rows, and tells a model that lacks something', () => {
    const path = thrown({ speed: 16, elevation: 3 }, 0);
    const short = { ...path, t: path.t.slice(0, 2), x: path.x.slice(0, 2), height: path.height.slice(0, 2) };
    expect(() => fitFlight(short, tables, { fit: ALL, altitude: 0 })).toThrow(expect.objectContaining({ code: 'fit' }));
    // A push that no number of the fit makes.
    const pushed = { ...path, height: path.height.map((v, i) => v + 0.5 * Math.sin(4 * path.t[i])) };
    expect(fitFlight(pushed, tables, { fit: ALL, altitude: 0 }).doubts.join(' ')).toMatch(/lacks something/);
  });
});
