import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { POLAR_ANGLES } from '../lift';
import { RAD } from '../numerics';
import { CURVE_VERSION } from '../polar';
import { readDocument } from '../project';
import type { ViscousPoint } from '../section-flow';
import { AircraftPolars, plansOf, polarIsThere, secondsOfPolars, type KnownCurve, type NeededPolar } from '.';

const demo = readDocument(
  (JSON.parse(readFileSync(join(__dirname, '../../../demo/seedsnipe.json'), 'utf8')) as { document: unknown }).document,
);
const { a } = demo.candidates;
/** Points over all angles of an aircraft. */
const points = (): ViscousPoint[] =>
  POLAR_ANGLES.map((deg) => {
    const alpha = deg * RAD;
    return {
      status: 'solved',
      alpha,
      reynolds: 5e5,
      cl: 5.6 * alpha,
      cd: 0.01,
      cdFriction: 0.006,
      cdPressure: 0.004,
      cm: -0.03,
      machCritical: 0.6,
      cpMin: -1,
      transitionTop: 0.4,
      transitionBottom: 0.9,
      doubts: [],
    } as unknown as ViscousPoint;
  });

class Shelf {
  list: KnownCurve[] = [];
  readonly held = new Map<number, ViscousPoint[]>();
  curves = () => this.list;
  points = (id: number) => this.held.get(id);
  put({ sweep }: NeededPolar, reynolds = sweep.input.conditions.reynolds, version = CURVE_VERSION): void {
    const id = this.list.length;
    const own = reynolds === sweep.input.conditions.reynolds;
    const input = { ...sweep.input, conditions: { ...sweep.input.conditions, reynolds } };
    this.list = [...this.list, { id, key: own ? sweep.key : `${sweep.key}/${reynolds}`, version, input }];
    this.held.set(id, points());
  }
}
const fresh = () => {
  const shelf = new Shelf();
  const aircraft = new AircraftPolars(shelf);
  const subject = aircraft.subjectOf(demo, a);
  return { shelf, aircraft, subject, needed: aircraft.needed(subject, [26]) };
};

describe('polars of an aircraft', () => {
  it('are needed for every section at its Reynolds numbers, and none is there at first', () => {
    const { aircraft, subject, needed } = fresh();
    const sections = new Set(a.surfaces.flatMap((s) => s.stations.map((t) => t.section)));
    expect(new Set(needed.map((n) => n.need.section))).toEqual(sections);
    expect(needed.some(polarIsThere)).toBe(false);
    expect(aircraft.complete(subject, [26])).toBeNull();
    expect(aircraft.needed(subject, [])).toEqual([]);
    expect(aircraft.needed({ ...subject, surfaces: [] }, [26])).toEqual([]);
  });
  it('are complete only when all of them are there', () => {
    const { shelf, aircraft, subject, needed } = fresh();
    needed.slice(1).forEach((n) => shelf.put(n));
    expect(aircraft.complete(subject, [26])).toBeNull();
    shelf.put(needed[0]);
    const all = aircraft.complete(subject, [26])!;
    expect(all.reduce((n, s) => n + s.curves.length, 0)).toBe(needed.length);
  });
  it('are read between two that are near in Reynolds number, and not from far ones or those of an earlier method', () => {
    const { shelf, aircraft, subject, needed } = fresh();
    needed.slice(1).forEach((n) => shelf.put(n));
    const { reynolds } = needed[0].need;
    const alone = needed.every(
      (n) => n === needed[0] || n.need.section !== needed[0].need.section || n.need.flap !== null,
    );
    shelf.put(needed[0], reynolds * 0.8, CURVE_VERSION - 1);
    shelf.put(needed[0], reynolds * 1.25, CURVE_VERSION - 1);
    if (alone) expect(polarIsThere(aircraft.needed(subject, [26])[0])).toBe(false);
    shelf.put(needed[0], reynolds * 0.8);
    shelf.put(needed[0], reynolds * 1.25);
    const [between] = aircraft.needed(subject, [26]);
    expect(between.points).toBe(0);
    expect(between.between).toHaveLength(2);
    expect(aircraft.complete(subject, [26])).not.toBeNull();
  });
  it('remember a subject for as long as shape, sections and conditions are the same', () => {
    const { aircraft, subject } = fresh();
    expect(aircraft.subjectOf(demo, a)).toBe(subject);
    expect(aircraft.subjectOf({ ...demo, brief: { ...demo.brief, mass: 30 } }, a)).toBe(subject);
    const higher = aircraft.subjectOf({ ...demo, brief: { ...demo.brief, altitude: 2000 } }, a);
    expect(higher).not.toBe(subject);
    expect(higher.lookup).toBe(subject.lookup);
    const moved = { ...a, surfaces: a.surfaces.map((s) => ({ ...s })) };
    expect(aircraft.subjectOf(demo, moved)).not.toBe(subject);
  });
  it('are computed by runs: one for sections of the same Reynolds numbers, each need once', () => {
    const { needed } = fresh();
    const plans = plansOf(needed, 9, (key) => (demo.sections[key] ? key : undefined));
    const curves = plans.reduce((n, p) => n + p.sections.length * p.reynolds.length, 0);
    expect(curves).toBe(needed.length);
    expect(plans.flatMap((p) => p.sections).every((s) => s.id !== undefined)).toBe(true);
    expect(secondsOfPolars(needed, 2)).toBeCloseTo(secondsOfPolars(needed, 1) / 2, 9);
  });
  it('a section that is not there is refused with its name', () => {
    const { aircraft, subject } = fresh();
    const surfaces = subject.surfaces.map((s) => ({
      ...s,
      stations: s.stations.map((t) => ({ ...t, section: 'gone' })),
    }));
    expect(() => aircraft.needed({ ...subject, surfaces }, [26])).toThrow(/gone/);
  });
});
