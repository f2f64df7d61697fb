import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { evaluation, inputsOfEvaluation } from '../candidate';
import { readDocument } from '../project';
import type { Evaluation } from '../candidate';
import type { LoopFacts } from '../control';
import type { DragBuildUp } from '../drag';
import { DEG } from '../numerics';
import type { SolvedPoint } from '../section-flow';
import { sourceFacts } from '../shaping';
import type { UnitSet } from '../units';
import {
  axisTitle,
  CANDIDATE_QUANTITIES,
  DESIGN_QUANTITIES,
  DRAG_QUANTITIES,
  FLIGHT_QUANTITIES,
  FLOWN_QUANTITIES,
  LOOP_QUANTITIES,
  digitsOf,
  FORCE_QUANTITIES,
  headingOf,
  inUnit,
  LATERAL_QUANTITIES,
  LAYER_QUANTITIES,
  LEVEL_QUANTITIES,
  LIFT_QUANTITIES,
  LIMIT_QUANTITIES,
  MODE_QUANTITIES,
  MOTION_QUANTITIES,
  PERFORMANCE_QUANTITIES,
  POLAR_QUANTITIES,
  quantityIn,
  RESPONSES,
  SECTION_QUANTITIES,
  SPAN_QUANTITIES,
  SURFACE_QUANTITIES,
  textOf,
  unitOf,
  type LiftPoint,
  type Quantity,
} from '.';

const LISTS = {
  candidate: CANDIDATE_QUANTITIES,
  design: DESIGN_QUANTITIES,
  drag: DRAG_QUANTITIES,
  flight: FLIGHT_QUANTITIES,
  flown: FLOWN_QUANTITIES,
  loop: LOOP_QUANTITIES,
  force: FORCE_QUANTITIES,
  lateral: LATERAL_QUANTITIES,
  layer: LAYER_QUANTITIES,
  level: LEVEL_QUANTITIES,
  limits: LIMIT_QUANTITIES,
  performance: PERFORMANCE_QUANTITIES,
  lift: LIFT_QUANTITIES,
  modes: MODE_QUANTITIES,
  motion: MOTION_QUANTITIES,
  polar: POLAR_QUANTITIES,
  responses: RESPONSES,
  section: SECTION_QUANTITIES,
  span: SPAN_QUANTITIES,
  surface: SURFACE_QUANTITIES,
} as unknown as Record<string, readonly Quantity<never>[]>;
const SETS: UnitSet[] = ['metric', 'small', 'us'];

describe.each(Object.entries(LISTS))('quantities: %s', (_, list) => {
  it('each has an id, a name with its unit, and a heading of its own', () => {
    for (const read of [
      (q: Quantity<never>) => q.id,
      (q: Quantity<never>) => `${q.name}, ${unitOf(q, 'metric')}`,
      headingOf,
    ])
      expect(new Set(list.map(read)).size).toBe(list.length);
  });
  it('headings of files are plain letters, and hold no separator of a table but the one before the unit', () => {
    for (const q of list) expect(headingOf(q).split(',').length).toBeLessThanOrEqual(2);
    for (const q of list) expect(headingOf({ ...q, per: undefined })).toMatch(/^[ -~°²³·%]+$/);
  });
  it('shows every number in every set of units, and a dash for none', () => {
    for (const q of list)
      for (const set of SETS) {
        expect(digitsOf(q, set)).toBeGreaterThanOrEqual(0);
        expect(textOf(q, null, set)).toBe('—');
        expect(textOf(q, NaN, set)).toBe('—');
        expect(textOf(q, 1.5, set)).toMatch(/\d/);
        expect(axisTitle(q, set).startsWith(q.symbol)).toBe(true);
        if (unitOf(q, set)) expect(axisTitle(q, set).endsWith(unitOf(q, set))).toBe(true);
      }
  });
  it('is not asked for by a name that it has not', () => {
    expect(() => quantityIn(list, 'constructor')).toThrow(RangeError);
    expect(quantityIn(list, list[0].id)).toBe(list[0]);
  });
});

it('digits of other units tell as much apart as those of metric ones', () => {
  const area = { dimension: 'area' as const, digits: 5 };
  expect([digitsOf(area, 'metric'), digitsOf(area, 'small'), digitsOf(area, 'us')]).toEqual([5, 3, 4]);
  expect(textOf(area, 0.02, 'us')).toBe('0.2153');
  expect(digitsOf({ dimension: 'length', digits: 1 }, 'small')).toBe(0);
});

describe('what quantities read', () => {
  const demo = readDocument(
    (JSON.parse(readFileSync(join(__dirname, '../../../demo/seedsnipe.json'), 'utf8')) as { document: unknown })
      .document,
  );
  const result = evaluation.run(inputsOfEvaluation(demo, 'a'), {}) as Evaluation;
  const at = (k: number): LiftPoint => ({
    point: result.lift!.points[k],
    reference: result.lift!.reference,
    dynamicPressure: 400,
  });
  it('a candidate: every one of them is a number, and the trim lies on the curve', () => {
    for (const q of CANDIDATE_QUANTITIES) expect(Number.isFinite(q.of(result))).toBe(true);
    const trim = quantityIn(CANDIDATE_QUANTITIES, 'trim-angle').of(result)!;
    const CL = quantityIn(CANDIDATE_QUANTITIES, 'trim-CL').of(result)!;
    const { points } = result.lift!;
    const above = points.findIndex((p) => p.alpha * DEG > trim);
    expect(CL).toBeGreaterThan(points[above - 1].CL);
    expect(CL).toBeLessThan(points[above].CL);
  });
  it('a lift point: force is coefficient times dynamic pressure times area, and unknown without a speed', () => {
    const lift = quantityIn(LIFT_QUANTITIES, 'lift');
    const CL = quantityIn(LIFT_QUANTITIES, 'CL');
    const p = at(result.lift!.points.length - 1);
    expect(lift.of(p)).toBeCloseTo(CL.of(p)! * 400 * p.reference.area, 9);
    expect(lift.of({ ...p, dynamicPressure: null })).toBeNull();
    expect(inUnit(lift, 1, 'us')).toBeCloseTo(0.2248, 4);
  });
  it('without lift a ratio to it is none', () => {
    const p = at(0);
    const none = { ...p, point: { ...p.point, CL: 1e-9 } };
    for (const id of ['ratio', 'efficiency']) expect(quantityIn(LIFT_QUANTITIES, id).of(none)).toBeNull();
  });
  it('symmetric flight has no side force and no roll', () => {
    const [Cm, moment] = [
      quantityIn(LIFT_QUANTITIES, 'Cm').of(at(3))!,
      quantityIn(LIFT_QUANTITIES, 'pitching-moment').of(at(3))!,
    ];
    const { reference, dynamicPressure } = at(3);
    expect(moment).toBeCloseTo(Cm * dynamicPressure! * reference.area * reference.chord, 9);
    for (const q of LATERAL_QUANTITIES) expect(Math.abs(q.of(at(3))!)).toBeLessThan(1e-9);
  });
  it('a section: the digits say what its facts are', () => {
    const facts = sourceFacts({ kind: 'designation', designation: '4415', trailingEdge: 'published' });
    const text = (id: string) =>
      textOf(quantityIn(SECTION_QUANTITIES, id), quantityIn(SECTION_QUANTITIES, id).of(facts), 'metric');
    expect([text('thickness'), text('camber'), text('camber-at')]).toEqual(['15.00', '4.00', '40.0']);
  });
  it('a point with viscosity: what it has not is none, not zero', () => {
    const point: SolvedPoint = {
      status: 'solved',
      alpha: Math.PI / 60,
      reynolds: 1e6,
      cl: 0.5,
      cd: 0.01,
      cdFriction: 0.006,
      cdPressure: 0.004,
      cm: -0.05,
      machCritical: 0.6,
      cpMin: -1,
      transitionTop: 0.4,
      transitionBottom: 0.9,
      doubts: [],
      iterations: 3,
      residual: 0,
    };
    const of = (id: string, p = point) => quantityIn(POLAR_QUANTITIES, id).of(p);
    expect([of('alpha'), of('ratio'), of('pressure-drag')]).toEqual([3, 50, 0.004]);
    expect([of('separation-top'), of('hinge-moment'), of('ratio', { ...point, cd: 0 })]).toEqual([null, null, null]);
  });
  it('a build-up: force, coefficient and area are one drag', () => {
    const built = {
      reference: { area: 2, span: 4, chord: 0.5 },
      parts: [{ wettedArea: 4.1 }, { wettedArea: 0.9 }],
      allowances: [],
      CD: 0.02,
      dragArea: 0.04,
      drag: 16,
    } as unknown as DragBuildUp;
    const of = (id: string) => quantityIn(DRAG_QUANTITIES, `drag.${id}`).of(built)!;
    expect(of('zeroLiftForce') / of('dragArea')).toBeCloseTo(400, 9);
    expect(of('zeroLiftCounts')).toBeCloseTo(200, 9);
    expect(of('wettedArea')).toBeCloseTo(5, 12);
  });
  it('a moment of a flight: angles in degrees, what it has not is none', () => {
    const of = (id: string) => quantityIn(FLOWN_QUANTITIES, `flown.${id}`).of({ alpha: Math.PI / 6, q: 1, V: 20 });
    expect(of('alpha')).toBeCloseTo(30, 12);
    expect(of('q')).toBeCloseTo(DEG, 12);
    expect([of('V'), of('thrust'), of('beta'), of('height')]).toEqual([20, null, null, null]);
  });
  it('a loop: an overshoot of hardly anything is none', () => {
    const q = quantityIn(LOOP_QUANTITIES, 'control.overshoot');
    const loop = { overshoot: 0.2 } as LoopFacts;
    expect([q.of(loop), q.of({ ...loop, overshoot: 12 }), q.of({ ...loop, overshoot: null })]).toEqual([
      0.2,
      null,
      null,
    ]);
  });
});
