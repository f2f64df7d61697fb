import { crossings, standing } from '../airframe';
import { airframeMotion, evaluateCandidate, sectionLookup, withPlacedMass } from '../candidate';
import { findingsOf, motionFindings } from '../findings';
import { keptMeanLine } from '../lift';
import { RAD } from '../numerics';
import { readDocument, SCHEMA_VERSION } from '../project';
import {
  addLayoutCandidate,
  LAYOUTS,
  layout,
  layoutDocument,
  layoutPicture,
  projectPicture,
  startingLayout,
  type LayoutNumbers,
  type LayoutPlan,
} from '.';

const usual = (plan: LayoutPlan): LayoutNumbers => ({
  mass: plan.usual.mass,
  speed: plan.usual.speed,
  altitude: 300,
  spanLimit: plan.usual.span,
  push: plan.usual.push,
});
/** The project that a layout comes to, as it is stored and read again, with all that is found of it by the lattice. */
function project(plan: LayoutPlan, numbers = usual(plan)) {
  const made = startingLayout(plan, numbers);
  const document = readDocument(JSON.parse(JSON.stringify(layoutDocument(plan, numbers, made))));
  const { brief, sections } = document;
  const lookup = sectionLookup(sections);
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const candidate = withPlacedMass(document.candidates.a, lookup);
  const evaluation = evaluateCandidate(brief, document.candidates.a, lookup, lineOf);
  const motion = airframeMotion(document.candidates.a, lookup, lineOf, { ...numbers, polars: null });
  const { aircraftClass, flightPhase } = brief.assumptions;
  const found = [
    ...findingsOf(brief, candidate, evaluation),
    ...motionFindings(brief, { modes: motion.modes, case: motion.case, class: aircraftClass, phase: flightPhase }),
  ];
  return { made, document, evaluation, motion, found, candidate };
}

describe.each(LAYOUTS.map((plan) => [plan.id, plan] as const))('starting layout %s', (_, plan) => {
  it('is in trim, stable, of its mass, and no finding says otherwise', () => {
    const { document, evaluation, motion, found, candidate } = project(plan);
    expect(document.schemaVersion).toBe(SCHEMA_VERSION);
    expect(evaluation.problems).toEqual([]);
    expect(evaluation.mass!.mass).toBeCloseTo(plan.usual.mass, 3);
    expect(Math.abs(motion.staticMargin - plan.staticMargin)).toBeLessThan(0.012);
    expect(found.filter((f) => f.state === 'outside' || f.state === 'missing')).toEqual([]);
    // Level flight with the controls at rest: what trims is within a degree of nothing.
    const [[id, needed] = ['', 0]] = Object.entries(motion.trim.controls ?? {});
    const control = document.candidates.a.surfaces.flatMap((s) => s.controls ?? []).find((c) => c.id === id);
    expect(Math.abs(needed - (control?.deflectionDeg ?? 0) * RAD)).toBeLessThan(0.02);
    expect(Math.abs(motion.trim.alpha)).toBeLessThan(0.06);
    // Masses lie within the aircraft, and no surface stands in another.
    const items = candidate.massItems.filter((i) => !i.part);
    const { surfaces, bodies } = document.candidates.a;
    const nose = Math.min(...bodies.map((b) => b.position.x + b.stations[0].x));
    for (const i of items) expect(i.position.x).toBeGreaterThanOrEqual(nose);
    expect(crossings(standing(surfaces, bodies))).toEqual([]);
    // It can be controlled about all three axes.
    const kinds = surfaces.flatMap((s) => (s.controls ?? []).map((c) => c.id));
    expect(kinds).toEqual(expect.arrayContaining(['elevator', 'aileron', 'rudder']));
    expect(new Set(kinds).size).toBe(kinds.length);
  });
  it('has a picture, of the size that it will be', () => {
    const points = layoutPicture(plan).flatMap((line) => line.points);
    expect(points.length).toBeGreaterThan(30);
    const across = Math.max(...points.map(([x]) => x)) - Math.min(...points.map(([x]) => x));
    expect(across / 1000).toBeGreaterThan(0.9);
    expect(across / 1000).toBeLessThan(6);
  });
});

describe('numbers', () => {
  const [plan] = LAYOUTS;
  it.each<[string, Partial<LayoutNumbers>, RegExp, string, RegExp]>([
    ['a span that is too small', { spanLimit: 0.8 }, /span of 0.8 m is too small.*aspect ratio/, 'spanLimit', /Allow/],
    ['an engine that weighs more than is left', { push: 19_000 }, /leaves too little/, 'push', /at most \d+ W/],
    ['no power', { push: 0 }, /needs a power/, 'push', /such as 900/],
  ])('refuses %s, with what works', (_, more, why, path, hint) => {
    const refused = (numbers: LayoutNumbers) => {
      try {
        startingLayout(plan, numbers);
        return null;
      } catch (error) {
        return error as Error & { path: string; hint: string };
      }
    };
    const numbers = { ...usual(plan), ...more };
    const error = refused(numbers)!;
    expect(error.message).toMatch(why);
    expect(error.path).toBe(path);
    expect(error.hint).toMatch(hint);
    // The number that it names does work.
    const [least] = /[\d.]+/.exec(error.hint)!;
    expect(refused({ ...numbers, [path]: Number(least) })).toBeNull();
  });
  it('of other sizes give the same layout: from 200 g to a tonne', () => {
    const margins = [
      { mass: 0.2, speed: 9, push: 20, spanLimit: null },
      { mass: 60, speed: 28, push: 4000, spanLimit: null },
      { mass: 900, speed: 60, push: 90_000, spanLimit: 12 },
    ].map((n) => project(plan, { altitude: 0, ...n }).motion.staticMargin);
    for (const margin of margins) expect(Math.abs(margin - plan.staticMargin)).toBeLessThan(0.012);
  });
  it('are refused where there is no such layout', () => {
    expect(() => layout.run({ layout: 'rocket', numbers: usual(plan) }, {})).toThrow(/no layout "rocket"/);
  });
});

describe('a starting layout as one more candidate', () => {
  it('brings its sections, uses those that are the same again, and leaves brief and others as they are', () => {
    const [plan, other] = [LAYOUTS[0], LAYOUTS[LAYOUTS.length - 1]];
    const made = startingLayout(plan, usual(plan));
    const before = readDocument(JSON.parse(JSON.stringify(layoutDocument(plan, usual(plan), made))));
    const document = structuredClone(before);
    const again = addLayoutCandidate(document, plan, made);
    expect(Object.keys(document.sections)).toEqual(Object.keys(before.sections));
    const third = addLayoutCandidate(document, other, startingLayout(other, usual(other)));
    expect([again, third]).toEqual(['b', 'c']);
    expect(document.brief).toEqual(before.brief);
    expect(document.candidates.a).toEqual(before.candidates.a);
    expect(document.candidates.b.surfaces).toEqual(document.candidates.a.surfaces);
    expect(document.candidates.c).toMatchObject({ letter: 'C', name: other.name, style: 2 });
    expect(document.candidates.c.note).toMatch(/^Starting layout: /);
    const read = readDocument(JSON.parse(JSON.stringify(document)));
    for (const s of read.candidates.c.surfaces.flatMap((k) => k.stations))
      expect(read.sections[s.section]).toBeDefined();
  });
  it('gives a section that the project has under the same id for another one an id of its own', () => {
    const [plan] = LAYOUTS;
    const made = startingLayout(plan, usual(plan));
    const document = structuredClone(layoutDocument(plan, usual(plan), made));
    for (const s of Object.values(document.sections)) s.name = `${s.name} thinned`;
    addLayoutCandidate(document, plan, made);
    expect(Object.keys(document.sections)).toHaveLength(2 * made.sections.length);
    expect(document.candidates.b.surfaces[0].stations[0].section).not.toBe(
      document.candidates.a.surfaces[0].stations[0].section,
    );
  });
});

describe('the picture of a project', () => {
  it('is its first candidate from above, of its span, and needs no library', () => {
    const [plan] = LAYOUTS;
    const { candidates } = layoutDocument(plan, usual(plan), startingLayout(plan, usual(plan)));
    const xs = projectPicture({ candidates }).flatMap((line) => line.points.map(([x]) => x));
    const half = candidates.a.surfaces[0].bays.reduce((sum, bay) => sum + bay.span, 0);
    expect(Math.max(...xs)).toBeCloseTo(1000 * half, -1);
    expect(Math.min(...xs)).toBeCloseTo(-Math.max(...xs), 0);
  });
  it('is empty where nothing is drawn', () => {
    expect(projectPicture({ candidates: {} })).toEqual([]);
  });
});
