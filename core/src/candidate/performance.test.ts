import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { keptMeanLine, type SectionPolars } from '../lift';
import { madePolar } from '../lift/viscous/testing/made-polar';
import { DEG, RAD } from '../numerics';
import { energySchema, levelFlights, levelPoint, performanceSchema, takeOff } from '../performance';
import { readDocument } from '../project';
import { performanceQuantities } from '../quantities';
import { inputsOfMotion, airframeMotion } from './motion';
import { performance, performanceLimits, performanceMap, performanceOf, type Performance } from './performance';
import { sectionLookup } from './section-lookup';
import { CandidateFlyer, trimSurface } from './trimmed-flyer';
import { trimmedStall } from './trimmed-stall';

const demo = readDocument(
  (JSON.parse(readFileSync(join(__dirname, '../../../demo/seedsnipe.json'), 'utf8')) as { document: unknown }).document,
);
const { speed, altitude } = demo.brief;
const lookup = sectionLookup(demo.sections);
const lineOf = (key: string) => keptMeanLine(lookup(key));
/** Made-up polars for all sections of a shape: quick, and known. */
const madeUp = (surfaces: typeof demo.candidates.a.surfaces): SectionPolars[] =>
  [...new Set(surfaces.flatMap((s) => s.stations.map((t) => t.section)))].map((section) => ({
    section,
    flap: null,
    curves: [3e5, 9e5].map((reynolds) => madePolar(reynolds, { slope: 5.6, zero: -1.5, crest: 13 })),
  }));

describe('performance of the demo by the lattice', () => {
  const input = inputsOfMotion(demo, 'a', speed, undefined, null);
  const flyer = new CandidateFlyer(input.candidate, lookup, lineOf, { speed, altitude, polars: null });
  const motion = airframeMotion(input.candidate, lookup, lineOf, input);

  it('has the trim of Motion at the design point', () => {
    const p = levelPoint(flyer, speed, altitude);
    expect(p.trim!.alpha / motion.trim.alpha).toBeCloseTo(1, 6);
    expect(p.trim!.CD / motion.trim.CD).toBeCloseTo(1, 6);
    expect(p.trim!.CL / motion.trim.CL).toBeCloseTo(1, 6);
    const [[id, deflection]] = Object.entries(motion.trim.controls);
    expect(p.trim!.control).toMatchObject({ id, limit: null });
    expect(p.trim!.control!.deflection).toBeCloseTo(deflection, 6);
  });
  it('does not depend on the order of the speeds, and its identities hold', () => {
    const speeds = [18, 24, 32];
    const there = levelFlights(flyer, speeds, altitude);
    const back = levelFlights(flyer, speeds.slice().reverse(), altitude).reverse();
    there.forEach((p, i) => {
      expect(p.drag! / back[i].drag!).toBeCloseTo(1, 7);
      expect(p.power! / (p.drag! * p.speed)).toBeCloseTo(1, 12);
      expect(p.sink! / (p.power! / flyer.weight)).toBeCloseTo(1, 12);
      expect(p.climb! / ((p.climbAvailable! - p.climbPower!) / flyer.weight)).toBeCloseTo(1, 9);
    });
  });
  it('the search is as the flight itself, but for what a table takes', () => {
    for (const v of [16, 21.3, 33]) {
      const [exact, quick] = [flyer, flyer.search].map((f) => levelPoint(f, v, altitude, false));
      expect(quick.drag! / exact.drag!).toBeCloseTo(1, 3);
    }
  });
  it('trimmed by the incidence of the tailplane, or by nothing', () => {
    const of = (trimmedBy: 'incidence' | 'none') =>
      levelPoint(
        new CandidateFlyer(input.candidate, lookup, lineOf, { speed, altitude, polars: null, trimmedBy }),
        speed,
        altitude,
      );
    const [incidence, none] = [of('incidence'), of('none')];
    expect(incidence.trim!.control!.id).toBe(trimSurface(input.candidate.surfaces, null));
    expect(incidence.trim!.control!.name).toMatch(/Incidence/);
    expect(Math.abs(incidence.trim!.Cm)).toBeLessThan(1e-9);
    // Both take the same moment away by lift of the same tail.
    expect(incidence.trim!.CL / levelPoint(flyer, speed, altitude).trim!.CL).toBeCloseTo(1, 3);
    expect(none.trim!.control).toBeNull();
    expect(none.trim!.CDtrim).toBe(0);
    expect(Math.abs(none.trim!.Cm)).toBeGreaterThan(1e-5);
  });
  it('knows no stall without viscosity, and says so; the rest is there', async () => {
    const settings = performanceSchema.parse({});
    const made = (await performance.run({ of: input, energy: null, settings, speeds: [20, 26] }, {})) as Performance;
    expect(made.stall).toEqual({ missing: expect.stringMatching(/viscosity/) });
    expect(made.points).toHaveLength(2);
    expect(made.glide.bestGlide!.ratio).toBeGreaterThan(10);
    const more = await performanceLimits.run({ of: input, energy: null, settings }, {});
    expect(more.range).toEqual({ missing: expect.stringMatching(/battery/) });
    expect(more.takeOff).toMatchObject({ ok: false });
    expect(more.ceiling!.altitude).toBeGreaterThan(more.serviceCeiling!.altitude);
  });
  it('a map has its rows in order, and falls with the altitude', async () => {
    const map = await performanceMap.run(
      {
        of: input,
        energy: null,
        settings: performanceSchema.parse({}),
        speeds: [18, 24, 30],
        altitudes: [0, 2000, 4000],
      },
      {},
    );
    expect(map.climb).toHaveLength(3);
    expect(map.specificRange.flat().every((v) => v === null)).toBe(true);
    for (let i = 1; i < 3; i++) expect(map.climb[i][1]!).toBeLessThan(map.climb[i - 1][1]!);
    // At the design altitude it is that of the points.
    const here = await performanceMap.run(
      { of: input, energy: null, settings: performanceSchema.parse({}), speeds: [18, 24], altitudes: [altitude, 2000] },
      {},
    );
    expect(here.climb[0][1]! / levelPoint(flyer, 24, altitude).climb!).toBeCloseTo(1, 2);
  });
});

describe('performance of the demo with polars', () => {
  const polars = madeUp(demo.candidates.a.surfaces);
  const input = inputsOfMotion(demo, 'a', speed, undefined, polars);
  const flyer = new CandidateFlyer(input.candidate, lookup, lineOf, { speed, altitude, polars });
  it('has the stall of the trimmed aircraft, and stops flying below it', () => {
    const stall = trimmedStall(input.candidate, lookup, lineOf, { speed, altitude, polars });
    expect(flyer.stall(altitude)! / stall.speed).toBeCloseTo(1, 9);
    expect(levelPoint(flyer, 1.02 * stall.speed, altitude, false).status).not.toBe('unflyable');
    expect(levelPoint(flyer, 0.9 * stall.speed, altitude, false).status).not.toBe('solved');
    // Higher up it stalls faster by the root of the density.
    expect(flyer.stall(altitude + 3000)!).toBeGreaterThan(1.12 * flyer.stall(altitude)!);
  });
  it('stalls at nearly one speed by the elevator and by the tail incidence, and elsewhere where nothing trims', () => {
    const by = (trimmedBy: 'control' | 'incidence' | 'none') =>
      new CandidateFlyer(input.candidate, lookup, lineOf, { speed, altitude, polars, trimmedBy });
    const [control, incidence, none] = [by('control'), by('incidence'), by('none')].map((f) => f.stallIn(altitude));
    if (control instanceof Error || incidence instanceof Error || none instanceof Error) throw new Error('no stall');
    expect(incidence.speed / control.speed).toBeCloseTo(1, 2);
    // It is the tail that is turned, not the elevator.
    expect(Object.keys(incidence.controls)).toEqual([trimSurface(input.candidate.surfaces, null)]);
    expect(none.controls).toEqual({});
    expect(none.speed).not.toBeCloseTo(control.speed, 3);
  });
  it('tells the travel that is left, and doubts what is too fast for the method', () => {
    const { control } = levelPoint(flyer, speed, altitude, false).trim!;
    const limits = input.candidate.surfaces
      .flatMap((s) => s.controls ?? [])
      .find((c) => c.id === control!.id)!
      .limitsDeg.map((d) => d * RAD);
    expect(control!.left).toBeCloseTo(Math.min(control!.deflection - limits[0], limits[1] - control!.deflection), 12);
    expect(levelPoint(flyer, 250, altitude, false)).toMatchObject({
      status: expect.stringMatching(/doubtful|limited/),
      trim: { doubt: expect.stringMatching(/^Mach 0\.7\d is above 0\.7, the limit/) },
    });
  });
  it('a control at its stop is told with its name and from where on', () => {
    const surfaces = input.candidate.surfaces.map((s) => ({
      ...s,
      controls: (s.controls ?? []).map((c) => ({ ...c, limitsDeg: [-0.5, 0.5] as [number, number] })),
    }));
    const tight = new CandidateFlyer({ ...input.candidate, surfaces }, lookup, lineOf, { speed, altitude, polars });
    const slow = levelPoint(tight, 17, altitude, false);
    expect(slow.status).toBe('limited');
    expect(slow.reason).toMatch(/Elevator would have to go to .*°; its limit is [−-]?0\.5°/);
  });
  it('ground effect shortens the take-off, is nothing far above the ground, and says what would be in it', async () => {
    const rolled = (height: number) => {
      const at = flyer.onGround(3 * RAD, 15, altitude, height);
      const made = takeOff(flyer, altitude, { ...at, rolling: 0.05, braking: 0.3, obstacle: 15 });
      if (!made.ok) throw new Error(made.reason);
      return made.run;
    };
    const [free, near, far] = [0, 0.6, 200].map(rolled);
    expect(near).toBeLessThan(0.999 * free);
    expect(far / free).toBeCloseTo(1, 4);
    const settings = performanceSchema.parse({ groundHeight: 0.01 });
    const { takeOff: inside } = await performanceLimits.run(
      { of: { ...input, polars: null }, energy: null, settings },
      {},
    );
    expect(inside).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/m into it\. The moment reference needs/),
    });
  });
  it('an energy gives range and endurance; all optima lie inside the envelope; a glider has none of an engine', async () => {
    const energy = energySchema.parse({ kind: 'battery', capacity: 300 });
    const settings = performanceSchema.parse({});
    const { performance: made, limits } = await performanceOf({ of: input, energy, settings }, lookup);
    const stall = flyer.stall(altitude)!;
    const map = await performanceMap.run(
      { of: input, energy, settings, speeds: [20, 26], altitudes: [altitude, 900] },
      {},
    );
    // Way per energy, times all of it that is usable, is the range at that speed.
    const at = map.specificRange[0][1]! * 300 * 3600 * 0.8;
    if ('missing' in limits.range) throw new Error(limits.range.missing);
    const { bestGlide } = made.glide;
    const { bestRange, bestEndurance } = limits.range;
    for (const v of [bestGlide!.speed, made.climb.best!.speed, bestRange!.speed]) expect(v).toBeGreaterThan(stall);
    expect(bestEndurance!.speed).toBeLessThan(bestRange!.speed);
    expect(at).toBeLessThan(bestRange!.range);
    expect(at).toBeGreaterThan(0.5 * bestRange!.range);
    expect(made.climb.fastest!).toBeGreaterThan(made.climb.best!.speed);
    expect(bestGlide!.angle * DEG).toBeCloseTo(Math.atan(1 / bestGlide!.ratio) * DEG, 9);
    const told = performanceQuantities({ performance: made, limits }, 'polars');
    expect(told.filter((q) => q.status === 'failed')).toEqual([]);
    const glider = { ...input, candidate: { ...input.candidate, engine: undefined } };
    const none = performanceQuantities(await performanceOf({ of: glider, energy, settings }, lookup), 'polars');
    for (const id of ['climbRate', 'ceiling', 'range', 'turnRate', 'takeOffRun'])
      expect(none.find((q) => q.id === `performance.${id}`)).toMatchObject({
        value: null,
        reason: 'It has no engine.',
      });
  });
});
