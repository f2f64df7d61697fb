import { describe, expect, it } from '@jest/globals';
import { GRAVITY } from '../atmosphere';
import { RAD } from '../numerics';
import type { CandidatePart } from '../project';
import { scenarioSchema, fly } from '../simulation';
import {
  asymmetry,
  airframeMotion,
  explainedBy,
  flightTables,
  flownVehicle,
  sectionLookup,
  type AsymmetryInput,
  type MotionInput,
} from '.';
import { keptMeanLine } from '../lift';
import { madeTailed } from './testing/made-tailed';

const sections = { s: { kind: 'designation', designation: '4415', trailingEdge: 'sharp' } } as const;
const aileron = {
  id: 'a',
  name: 'Aileron',
  kind: 'opposed',
  from: 0.6,
  to: 0.95,
  hinge: 0.75,
  deflectionDeg: 0,
  limitsDeg: [-20, 20],
} as const;
const fin = {
  id: 'fin',
  name: 'Fin',
  role: 'fin',
  plane: 'vertical',
  mirrored: false,
  position: { x: 2.2, y: 0, z: 0.1 },
  incidenceDeg: 0,
  stations: [
    { chord: 0.35, twistDeg: 0, section: 's0' },
    { chord: 0.25, twistDeg: 0, section: 's0' },
  ],
  bays: [{ span: 0.45, sweepDeg: 10, dihedralDeg: 0 }],
};
const rudder = { ...aileron, id: 'r', name: 'Rudder', kind: 'symmetric', from: 0, to: 1, hinge: 0.6 };
/** @param wing what is told of the wing besides. @param with which controls it rolls and yaws. */
const inputOf = (wing: object, controls: ('a' | 'r')[] = ['a', 'r'], speeds: number[] = []): AsymmetryInput => {
  const c = madeTailed();
  const [main, tail] = c.surfaces;
  const candidate = {
    ...c,
    surfaces: [
      { ...main, ...(controls.includes('a') && { controls: [aileron] }), ...wing },
      tail,
      { ...fin, ...(controls.includes('r') && { controls: [rudder] }) },
    ],
  } as unknown as CandidatePart;
  const of = {
    candidate,
    sections: { ...sections, s0: { kind: 'designation', designation: '0009', trailingEdge: 'sharp' } },
    speed: 18,
    altitude: 0,
    polars: null,
  } as unknown as MotionInput;
  return { of, speeds };
};
const run = (input: AsymmetryInput) => asymmetry.run(asymmetry.input.parse(input), {});
const given = (a: Awaited<ReturnType<typeof run>>) => a.causes.filter((c) => c.given);

describe('an asymmetry', () => {
  it('rolls to the side of less incidence, at the rate at which damping meets it', async () => {
    const input = inputOf({ asymmetry: { incidenceDeg: 1 } });
    const answer = await run(input);
    const [cause] = given(answer);
    expect(cause).toMatchObject({ surface: 'wing', kind: 'incidence', amount: RAD });
    expect(cause.rollMoment).toBeLessThan(0);
    const { candidate, sections: used, ...rest } = input.of;
    const lookup = sectionLookup(used);
    const { case: c } = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), rest);
    const qSb = 0.5 * c.density * c.speed ** 2 * c.area * c.span;
    const damped = cause.rollMoment / qSb / -c.derivatives.Cl_p;
    expect(cause.rollRate! / ((damped * 2 * c.speed) / c.span)).toBeCloseTo(1, 1.3);
    // Strips by themselves: Δα/2 · a · b/4 of the half span's arm against a b²/(24 V) p gives p̂ = 3/4 Δα for a rectangle; a wing of finite span has less of both.
    expect(Math.abs((cause.rollRate! * c.span) / (2 * c.speed)) / RAD).toBeGreaterThan(0.5);
    expect(Math.abs((cause.rollRate! * c.span) / (2 * c.speed)) / RAD).toBeLessThan(1);
  });
  it('is a sum of its causes, and each grows with its amount', async () => {
    const [one, both, twice] = await Promise.all([
      run(inputOf({ asymmetry: { twistDeg: 1 } })),
      run(inputOf({ asymmetry: { twistDeg: 1, mass: 0.2, drag: 0.5 } })),
      run(inputOf({ asymmetry: { twistDeg: 2 } })),
    ]);
    expect(given(twice)[0].rollMoment / given(one)[0].rollMoment).toBeCloseTo(2, 2);
    const sum = given(both).reduce((s, c) => s + c.rollMoment, 0);
    expect(both.now.rollMoment).toBeCloseTo(sum, 9);
    const mass = given(both).find((c) => c.kind === 'mass')!;
    // A half of 2.5 m, chords of 0.5 and 0.4 m: its half has its centre at 2.5/3 · (0.5 + 2 · 0.4)/(0.5 + 0.4).
    expect(mass.rollMoment / (0.2 * GRAVITY * (2.5 / 3) * (1.3 / 0.9))).toBeCloseTo(1, 2);
    const drag = given(both).find((c) => c.kind === 'drag')!;
    // More drag on the right turns the nose to the right.
    expect(drag.yawMoment).toBeGreaterThan(0);
    expect(drag.rollMoment).toBe(0);
  });
  it('is held by two controls without sideslip, by one with it, by none not at all', async () => {
    const wing = { asymmetry: { incidenceDeg: 0.5 } };
    const two = (await run(inputOf(wing))).now.held!;
    expect(two.sideslip).toBe(0);
    // Right down against a roll to the left would make it worse: the right aileron goes up … or the left one down.
    expect(two.controls.map((c) => c.name).sort()).toEqual(['Aileron', 'Rudder']);
    expect(Math.sign(two.controls.find((c) => c.name === 'Aileron')!.deflection)).toBe(-1);
    const one = (await run(inputOf(wing, ['r']))).now.held!;
    expect(one.controls.map((c) => c.name)).toEqual(['Rudder']);
    expect(Math.abs(one.sideslip)).toBeGreaterThan(0.1 * RAD);
    expect((await run(inputOf(wing, []))).now.held).toBeNull();
  });
  it('of mass needs more control the slower it flies, until the control is at its limit', async () => {
    const { speeds, limit } = await run(inputOf({ asymmetry: { mass: 1.5 } }, ['a', 'r'], [13, 16, 20, 26]));
    const left = speeds.map((s) => s.held!.controls.find((c) => c.name === 'Aileron')!.left!);
    for (let i = 1; i < left.length; i++) expect(left[i]).toBeGreaterThan(left[i - 1]);
    expect(limit).toBeNull();
    // Half of what is needed at 16 m/s is needed at √2 times that speed.
    const needed = Math.abs(speeds[1].held!.controls.find((c) => c.name === 'Aileron')!.deflection) / RAD;
    const limited = { ...aileron, limitsDeg: [-needed / 1.2, needed / 1.2] };
    const short = await run(
      inputOf({ asymmetry: { mass: 1.5 }, controls: [limited] }, ['a', 'r'], [13, 16, 17, 18, 20, 26]),
    );
    expect(short.limit).toMatchObject({ control: 'Aileron', side: 'below' });
    expect(short.limit!.speed / (16 * Math.sqrt(1.2))).toBeCloseTo(1, 1.5);
  });
  it('of an aileron’s rigging is that of the aileron itself', async () => {
    const answer = await run(inputOf({ controls: [{ ...aileron, riggingDeg: 2 }] }));
    const [cause] = given(answer);
    expect(cause).toMatchObject({ kind: 'rigging', control: { id: 'a', name: 'Aileron' } });
    // Right less left of 2°: one degree on each side, which the aileron takes back.
    expect(answer.now.held!.controls.find((c) => c.name === 'Aileron')!.deflection / RAD).toBeCloseTo(-1, 1);
  });
  it('tells what a unit of each kind would do where nothing is given', async () => {
    const { causes, now } = await run(inputOf({}));
    expect(given({ causes } as never)).toEqual([]);
    expect(now).toMatchObject({ rollMoment: 0, rollRate: 0 });
    expect(new Set(causes.map((c) => c.kind))).toEqual(
      new Set(['incidence', 'twist', 'dihedral', 'mass', 'drag', 'rigging']),
    );
    for (const c of causes.filter((k) => ['incidence', 'twist', 'mass'].includes(k.kind)))
      expect(c.rollRate).not.toBe(0);
  });
  it('is explained by amounts that bring the roll that was seen, none that anybody would see', async () => {
    const { causes } = await run(inputOf({ asymmetry: { incidenceDeg: 1 } }));
    const own = causes[0].rollRate!;
    const explained = explainedBy(causes, 0.5 * own, 20);
    expect(explained.find(({ cause }) => cause === causes[0])!.amount).toBeCloseTo(0.5 * RAD, 9);
    const back = await run(
      inputOf({ asymmetry: { twistDeg: explained.find((e) => e.cause.kind === 'twist')!.amount / RAD } }),
    );
    expect(back.now.rollRate! / (0.5 * own)).toBeCloseTo(1, 2);
    // Ten times that roll is no half of the aircraft's mass, nor a flap that hangs.
    for (const { cause, amount } of explainedBy(causes, 20 * own, 20))
      expect([cause.kind, Math.abs(amount) <= (cause.kind === 'mass' ? 5 : 20 * RAD)]).toEqual([cause.kind, true]);
    expect(explainedBy(causes, 20 * own, 20).some(({ cause }) => cause.kind === 'mass')).toBe(false);
  });
  it('is flown: with the controls fixed the aircraft rolls as it is told, and mass lets the heavy side down', async () => {
    const rolled = async (wing: object) => {
      const input = inputOf(wing);
      const { candidate, sections: used, ...rest } = input.of;
      const lookup = sectionLookup(used);
      const tables = flightTables(candidate, lookup, (key) => keptMeanLine(lookup(key)), rest);
      const scenario = scenarioSchema.parse({
        launch: { kind: 'flight', speed: 18, height: 200 },
        duration: 2,
        record: 0.02,
        engine: { kind: 'none' },
      });
      const { series, columns } = fly(scenario, flownVehicle(tables.massItems, {}, tables, scenario));
      const p = series[columns.indexOf('p')];
      // Greatest rate in the first half second: roll damping has answered, the sideslip has not.
      const first = p.slice(0, 26);
      return {
        p: first.reduce((a, v) => (Math.abs(v) > Math.abs(a) ? v : a), 0),
        told: (await run(input)).now.rollRate!,
      };
    };
    const twisted = await rolled({ asymmetry: { twistDeg: 0.6 } });
    expect(Math.abs(twisted.p / twisted.told - 1)).toBeLessThan(0.05);
    const heavy = await rolled({ asymmetry: { mass: 0.3 } });
    expect(heavy.p).toBeGreaterThan(0);
    expect(Math.abs(heavy.p / heavy.told - 1)).toBeLessThan(0.05);
    expect(Math.abs((await rolled({})).p)).toBeLessThan(1e-6);
  });
  it('leaves out speeds that are not flown, with the reason', async () => {
    const { speeds, left } = await run(inputOf({ asymmetry: { mass: 0.1 } }, ['a', 'r'], [2, 18]));
    expect(speeds.map((s) => s.speed)).toEqual([18]);
    expect(left[0]).toMatchObject({ speed: 2 });
    expect(left[0].reason).toMatch(/lift coefficient/);
  });
});
