import { standing, type SectionLookup } from '../airframe';
import { flowState } from '../atmosphere';
import { coversAircraft, gathered, polarMach, standIns, sweepFor } from '../flight';
import {
  FLAP_STEP,
  POLAR_ANGLES,
  polarNeeds,
  sectionKey,
  type LatticeSpread,
  type PolarNeed,
  type SectionPolars,
} from '../lift';
import { RAD } from '../numerics';
import { CURVE_VERSION, familyKey, SECONDS_A_POINT, type CurveInput, type RunPlan, type Sweep } from '../polar';
import type { CandidatePart, ProjectDocument } from '../project';
import { DEFAULT_SPREAD, type ViscousPoint } from '../section-flow';
import { sectionLookup } from './section-lookup';

/** A curve that was computed somewhere. */
export interface KnownCurve {
  id: number;
  key: string;
  /** Of the method. */ version: number;
  input: CurveInput;
}

/** Curves that are there, and their points: of a project's runs, of a database, or of this run of a program. */
export interface PolarShelf {
  curves(): readonly KnownCurve[];
  /** Nothing where the points are not read yet. The same list for as long as they are the same. */
  points(id: number): readonly ViscousPoint[] | undefined;
}

/** An aircraft whose sections are to have polars; surfaces as they stand in the flow. SI. */
export interface PolarSubject {
  surfaces: CandidatePart['surfaces'];
  lookup: SectionLookup;
  altitude: number;
  /** Critical amplification. */ ncrit: number;
  spread?: LatticeSpread;
  nameOf?: (section: string) => string;
}

/** A polar that an aircraft needs: which curve it is, and how much of it is there. */
export interface NeededPolar {
  need: PolarNeed;
  sweep: Sweep;
  /** Of its section. */ name: string;
  /** Points that are there. */ points: number;
  curve: number | null;
  /** Curves about its Reynolds number that it is read from where it is not there itself. */ between: number[];
}

/** Sweeps that are remembered for as long as the sections are the same, and sets of needs of one shape. */
const MOST = { sweeps: 300, needs: 40 };
/** Less than this share of a polar is no polar yet. */
const ENOUGH = 0.9;
/** Angle of a flap, degrees, at which a polar takes twice as long. */
const LONGER_FROM = 12;

const isOwn = (n: NeededPolar) => n.points >= ENOUGH * POLAR_ANGLES.length;
/** Whether a polar can be read, as its own curve or between two. */
export const polarIsThere = (n: NeededPolar): boolean => isOwn(n) || n.between.length > 0;

/** Deflections that large ones are read between, rad by control: all controls together, either way. */
function turnedBy(surfaces: CandidatePart['surfaces']): Record<string, number>[] {
  const controls = surfaces.flatMap((s) => s.controls ?? []);
  if (controls.length === 0) return [];
  const most = Math.max(...controls.flatMap((c) => c.limitsDeg.map(Math.abs)));
  const steps = Array.from({ length: Math.floor(most / FLAP_STEP) }, (_, k) => (k + 1) * FLAP_STEP);
  return steps.flatMap((deg) =>
    [-1, 1].map((side) => Object.fromEntries(controls.map((c) => [c.id, side * deg * RAD]))),
  );
}

/**
 * The polars of aircraft: which are needed at which speeds, which of them are there, and what to compute for the rest. Browser, command line and server read
 * the same; they differ by the shelf. Needs and keys are hashes of whole sections: they are made once for as long as shape and sections are the same objects.
 */
export class AircraftPolars {
  private readonly sweeps = new WeakMap<object, Map<string, Sweep>>();
  private readonly cut = new WeakMap<object, Map<string, { needs: PolarNeed[]; mach: number }>>();
  private readonly stood = new WeakMap<object, { bodies: unknown; surfaces: CandidatePart['surfaces'] }>();
  private readonly subjects = new WeakMap<object, PolarSubject[]>();
  private readonly families = new Map<string, string>();
  private readonly sweepFamilies = new WeakMap<Sweep, string>();
  private readonly covering = new WeakMap<object, boolean>();
  private listed: { of: readonly KnownCurve[]; byKey: Map<string, KnownCurve>; byId: Map<number, KnownCurve> } | null =
    null;

  constructor(private readonly shelf: PolarShelf) {}

  /** Curves of today's method. */
  private list() {
    const of = this.shelf.curves();
    if (this.listed?.of !== of) {
      const now = of.filter((c) => c.version === CURVE_VERSION);
      this.listed = { of, byKey: new Map(now.map((c) => [c.key, c])), byId: new Map(now.map((c) => [c.id, c])) };
    }
    return this.listed!;
  }

  private covers(id: number): boolean {
    const points = this.shelf.points(id);
    if (!points) return false;
    let known = this.covering.get(points);
    if (known === undefined) this.covering.set(points, (known = coversAircraft(points)));
    return known;
  }

  private familyOf({ key, input }: KnownCurve): string {
    let made = this.families.get(key);
    if (made === undefined) this.families.set(key, (made = familyKey(input)));
    return made;
  }

  private betweenOf(sweep: Sweep): number[] {
    let key = this.sweepFamilies.get(sweep);
    if (key === undefined) this.sweepFamilies.set(sweep, (key = familyKey(sweep.input)));
    const own = [...this.list().byKey.values()].filter(
      (c) => c.input.kind === 'fixed-re' && c.input.swept === 'alpha' && this.familyOf(c) === key && this.covers(c.id),
    );
    const reynolds = own.map((c) => c.input.conditions.reynolds);
    const from = standIns(sweep.input.conditions.reynolds, reynolds);
    return own.filter((c) => from.includes(c.input.conditions.reynolds)).map((c) => c.id);
  }

  private sweepOf(need: PolarNeed, mach: number, { lookup, ncrit, nameOf }: PolarSubject): Sweep {
    let own = this.sweeps.get(lookup);
    if (!own) this.sweeps.set(lookup, (own = new Map()));
    const key = JSON.stringify([need, ncrit, mach]);
    let made = own.get(key);
    if (!made) {
      // Each speed and shape has its own: those of long ago are made again.
      if (own.size > MOST.sweeps) own.clear();
      const name = nameOf?.(need.section) ?? need.section.replace(/^naca:/, 'NACA ');
      own.set(key, (made = sweepFor(need, lookup, { ncrit, mach }, name)));
    }
    return made;
  }

  private needsOf(
    { surfaces, altitude, spread }: PolarSubject,
    speeds: readonly number[],
    also: readonly Record<string, number>[],
  ) {
    let own = this.cut.get(surfaces);
    if (!own) this.cut.set(surfaces, (own = new Map()));
    const key = JSON.stringify([altitude, speeds, also, spread]);
    let made = own.get(key);
    if (!made) {
      if (own.size > MOST.needs) own.clear();
      const flows = speeds.map((v) => flowState(v, altitude));
      const reynolds = flows.map((f) => f.reynoldsPerMetre);
      const needs = surfaces.length === 0 ? [] : polarNeeds(surfaces, reynolds, spread, also);
      own.set(key, (made = { needs, mach: polarMach(Math.max(0, ...flows.map((f) => f.mach))) }));
    }
    return made;
  }

  /** A document's candidate as a subject: the same object for as long as its shape, the sections and the conditions are the same. */
  subjectOf(document: Pick<ProjectDocument, 'sections' | 'brief'>, candidate: CandidatePart): PolarSubject {
    const { surfaces, bodies } = candidate;
    const { sections, brief } = document;
    let stood = this.stood.get(surfaces);
    if (!stood || stood.bodies !== bodies)
      this.stood.set(surfaces, (stood = { bodies, surfaces: standing(surfaces, bodies) }));
    const ncrit = brief.assumptions.criticalAmplification;
    const known = this.subjects.get(sections) ?? [];
    const same = known.find((s) => s.surfaces === stood.surfaces && s.altitude === brief.altitude && s.ncrit === ncrit);
    if (same) return same;
    const made: PolarSubject = {
      surfaces: stood.surfaces,
      // One lookup for all subjects of the sections: what is remembered belongs to it.
      lookup: known[0]?.lookup ?? sectionLookup(sections),
      altitude: brief.altitude,
      ncrit,
      nameOf: (section) => sections[section]?.name ?? section.replace(/^naca:/, 'NACA '),
    };
    this.subjects.set(sections, [...known.slice(known.length > MOST.needs ? 1 : 0), made]);
    return made;
  }

  /**
   * What an aircraft needs at some speeds, m/s, and how much of it is there.
   * @param also further deflections of controls, rad by id. @throws InvalidInput for a shape that is none, or a section that is not there.
   */
  needed(
    subject: PolarSubject,
    speeds: readonly number[],
    also: readonly Record<string, number>[] = [],
  ): NeededPolar[] {
    const { needs, mach } = this.needsOf(subject, speeds, also);
    return needs.map((need) => {
      const sweep = this.sweepOf(need, mach, subject);
      const curve = this.list().byKey.get(sweep.key);
      const points = curve ? (this.shelf.points(curve.id)?.length ?? 0) : 0;
      const between = points >= ENOUGH * POLAR_ANGLES.length ? [] : this.betweenOf(sweep);
      return { need, sweep, name: sweep.name, points, curve: curve?.id ?? null, between };
    });
  }

  /** The polars that are there, as the aircraft reads them. A section of which none is there is left out. */
  ready(list: readonly NeededPolar[]): SectionPolars[] {
    const pointsOf = (id: number) => this.shelf.points(id) ?? [];
    const found = list.filter(isOwn).map(({ need, curve }) => ({ need, points: pointsOf(curve!) }));
    const taken = new Set<string>();
    for (const { need, between } of list)
      for (const id of between) {
        const key = `${id} ${sectionKey(need)}`;
        if (taken.has(key)) continue;
        taken.add(key);
        const { reynolds } = this.list().byId.get(id)!.input.conditions;
        found.push({ need: { ...need, reynolds }, points: pointsOf(id) });
      }
    return gathered(found);
  }

  /** The same with the polars of turned controls that are there: they tell what large deflections come to. */
  readyTurned(subject: PolarSubject, speeds: readonly number[]): SectionPolars[] {
    const own = this.needed(subject, speeds);
    const also = turnedBy(subject.surfaces);
    if (also.length === 0 || ![...this.list().byKey.values()].some((c) => c.input.flap)) return this.ready(own);
    return this.ready(this.needed(subject, speeds, also).filter(polarIsThere));
  }

  /** All that an aircraft reads at some speeds, or null while some of it is missing: part by polars and part without would be two methods in one number. */
  complete(subject: PolarSubject, speeds: readonly number[]): SectionPolars[] | null {
    const list = this.needed(subject, speeds);
    return list.length > 0 && list.every(polarIsThere) ? this.readyTurned(subject, speeds) : null;
  }
}

/**
 * Runs that compute polars: one for all sections that need the same Reynolds numbers.
 * @param sectionId the id that a section has in its project, if any.
 */
export function plansOf(
  list: readonly NeededPolar[],
  ncrit: number,
  sectionId: (section: string) => string | undefined,
): RunPlan[] {
  const bySection = new Map<string, NeededPolar[]>();
  for (const n of list) {
    const key = JSON.stringify([n.need.section, n.need.flap]);
    bySection.set(key, [...(bySection.get(key) ?? []), n]);
  }
  const plans = new Map<string, RunPlan>();
  for (const own of bySection.values()) {
    const reynolds = own.map((n) => n.need.reynolds).sort((a, b) => a - b);
    const [{ need, sweep }] = own;
    const { conditions, source, flap } = sweep.input;
    const key = JSON.stringify([reynolds, conditions.mach]);
    const plan = plans.get(key) ?? {
      sections: [],
      reynolds,
      mach: [conditions.mach ?? 0],
      conditions: { criticalAmplification: ncrit },
      sweep: 'fixed-re' as const,
      alphas: [...POLAR_ANGLES],
      spread: DEFAULT_SPREAD,
    };
    const id = sectionId(need.section);
    plan.sections.push({ name: sweep.name, source, flap, ...(id === undefined ? {} : { id }) });
    plans.set(key, plan);
  }
  return [...plans.values()];
}

/** Seconds that polars take on some cores, as a first word; a flap's separated flow takes the longer the more it is turned. */
export function secondsOfPolars(list: readonly NeededPolar[], cores: number): number {
  const polars = list.reduce((sum, { need }) => sum + 1 + ((need.flap?.angleDeg ?? 0) / LONGER_FROM) ** 2, 0);
  return (polars * POLAR_ANGLES.length * SECONDS_A_POINT) / Math.max(1, cores);
}
