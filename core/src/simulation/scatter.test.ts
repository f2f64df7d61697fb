import { drawsOf, footprint, scatterSchema, scenarioSchema, shareInside, type AeroTables, type ScatterLine } from '.';

const six = (v: number) => ({ CL: [v], CD: [v], CY: [v], Cl: [v], Cm: [v], Cn: [v] });
const tables: AeroTables = {
  reference: { area: 1, span: 1, chord: 1 },
  about: { x: 0, y: 0, z: 0 },
  alphas: [0],
  speeds: [20],
  base: [six(1)],
  slopeAlphas: [0],
  betas: [-0.1, 0, 0.1],
  side: [six(1), six(0), six(1)],
  rates: { p: six(1), q: six(1), r: six(1) },
  lag: { CL: 0, Cm: 0 },
  controls: [],
  plate: { up: [], side: [], aspectRatio: 8, drag: 0.02 },
  gaps: 0,
};
const scenario = scenarioSchema.parse({
  launch: { kind: 'hand', speed: 18, height: 2, elevationDeg: 10 },
  duration: 5,
});

describe('scatter', () => {
  const scatter = scatterSchema.parse({
    runs: 400,
    seed: 3,
    speed: 2,
    elevationDeg: 3,
    mass: 0.1,
    drag: 0.2,
    slopes: 0.1,
    wind: 1.5,
  });
  it('draws the spread that it is told, the same whoever draws which part', () => {
    const all = [...drawsOf(scenario, tables, scatter, 0, 400)];
    const speeds = all.map((d) => (d.scenario.launch as { speed: number }).speed);
    const mean = speeds.reduce((a, b) => a + b) / 400;
    const sd = Math.sqrt(speeds.reduce((s, v) => s + (v - mean) ** 2, 0) / 399);
    expect(Math.abs(mean - 18)).toBeLessThan(0.4);
    expect(Math.abs(sd - 2)).toBeLessThan(0.3);
    expect([...drawsOf(scenario, tables, scatter, 120, 122)]).toEqual(all.slice(120, 122));
    expect(new Set(all.map((d) => d.masses)).size).toBe(400);
    expect(all.every((d) => d.tables.base[0].CD[0] > 0)).toBe(true);
    const still = [...drawsOf(scenario, tables, scatterSchema.parse({ runs: 2 }), 0, 1)][0];
    expect(still.scenario.launch).toEqual(scenario.launch);
    expect(still.masses).toBe(1);
  });
  it('tells the ellipse that holds 95 % of the ends', () => {
    const line = (i: number): ScatterLine => {
      // Even places of a disc stretched to 30 and 10 m, turned by 0.5.
      const [r, a] = [Math.sqrt((i + 0.5) / 2000), i * 2.39996];
      const [u, v] = [30 * r * Math.cos(a), 10 * r * Math.sin(a)];
      const [c, s] = [Math.cos(0.5), Math.sin(0.5)];
      return {
        run: i,
        x: 100 + c * u - s * v,
        y: 5 + s * u + c * v,
        time: 1,
        greatestHeight: 1,
        greatestLoadFactor: 1,
        ended: 'ground',
      };
    };
    const f = footprint(Array.from({ length: 2000 }, (_, i) => line(i)))!;
    expect(f.x).toBeCloseTo(100, 0);
    expect(f.turn).toBeCloseTo(0.5, 1);
    // The spread of an even disc is half its radius.
    expect(f.axes[0] / (Math.sqrt(5.991) * 15)).toBeCloseTo(1, 1);
    expect(f.axes[1] / (Math.sqrt(5.991) * 5)).toBeCloseTo(1, 1);
    expect(footprint([])).toBeNull();
  });
});

describe('the share inside limits', () => {
  const line = (x: number, load: number, ended: ScatterLine['ended'] = 'ground'): ScatterLine => ({
    run: 0,
    x,
    y: 0,
    time: 1,
    greatestHeight: 1,
    greatestLoadFactor: load,
    ended,
  });
  it('counts load and distance together, and nothing that ran away', () => {
    const lines = [line(100, 1.2), line(112, 1.2), line(101, -3), line(100, 1, 'diverged')];
    const at = { x: 100, y: 0 };
    expect(shareInside(lines, {}, at)).toBe(0.75);
    expect(shareInside(lines, { distance: 10 }, at)).toBe(0.5);
    expect(shareInside(lines, { distance: 10, loadFactor: 2 }, at)).toBe(0.25);
    expect(shareInside([], { distance: 10 }, at)).toBe(0);
  });
});
