import { standing, type SectionLookup } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import {
  answeredReserves,
  crossSection,
  isBuilt,
  memberMasses,
  partFactors,
  sectionStress,
  sized,
  sizedChanges,
  SurfaceShape,
  sweepOf,
  type BuiltSurface,
  type CrossSection,
  type FailureMode,
  type MemberMass,
  type MemberPart,
  type PartFactors,
  type PartReserve,
  type Sized,
  type Thicker,
} from '../members';
import { DEG, InvalidInput, interpolate } from '../numerics';
import { Cancelled } from '../results';
import {
  bentBeam,
  divergencePressure,
  Flexibility,
  reversalPressure,
  vibrations,
  type ElasticStrip,
  type StripControl,
} from '../structure';
import type { MassItem } from '../balance';
import type { MovingCandidate } from './motion';
import { massOf, pointsOn, surfaceLoads, type LoadCase, type LoadSettings, type SurfaceLoads } from './surface-loads';

/** What strength is reckoned with. */
export interface StrengthSettings extends LoadSettings {
  /** Ultimate over limit load. */ safetyFactor: number;
}

/** A member with its mass and the place where it has least in hand. */
export interface MemberStrength {
  /** Surface and member. */ id: string;
  member: string;
  name: string;
  /** kg, on both sides; as weighed where it was. */ mass: number;
  computedMass: number;
  weighed: boolean;
  price: number | null;
  /** Nothing of it was looked at where it is null, as of ribs and films. */
  worst: null | {
    /** Pa, at limit load; compression negative. */ stress: number;
    /** Pa */ allowable: number;
    mode: FailureMode;
    part: MemberPart;
    /** Share of the ultimate load that is left: below 0 it fails. */ reserve: number;
    /** Along the span from the root, m. */ place: number;
    case: string;
    doubtful?: true;
    /** Thicknesses with which all members would hold; null where none that fit do. */
    thicker?: Thicker[] | null;
  };
}

/** A surface at a place along its span. */
export interface StrengthPlace {
  y: number;
  chord: number;
  /** N m² */ EI: number;
  GJ: number;
  /** Elastic axis, chord fraction. */ axis: number;
  /** Least reserve of all members there; null where none carries. */ reserve: number | null;
  /** Of each member, by its id; null where it is not there. */ reserves: Record<string, number | null>;
  /** In the case that deflects most: m, °. */ deflection: number;
  twistDeg: number;
}

/** Strength and stiffness of a surface. */
export interface SurfaceStrength {
  id: string;
  name: string;
  /** Of all members, both sides, kg. */ mass: number;
  members: MemberStrength[];
  places: StrengthPlace[];
  /** At the tip in the case that deflects most at limit load, m. */ tipDeflection: number;
  tipTwistDeg: number;
  bentMost: string;
  /** Equivalent, m/s; null where no speed makes it diverge. */ divergenceSpeed: number | null;
  /** Equivalent speed where a control's roll is nothing, m/s, null where there is none below divergence or three times the dive speed; share of its roll that is left at the dive speed. */
  reversal: { control: string; name: string; speed: number | null; leftAtDive: number }[];
  /** Hz */ frequencies: { bending: number | null; torsion: number | null };
  /** Nothing carries outboard of this place, m. */ bareFrom?: number;
  /** Why the numbers are to be read with care. */ doubts: string[];
}

/** Strength of a candidate's surfaces. */
export interface Strength {
  safetyFactor: number;
  surfaces: SurfaceStrength[];
  loads: SurfaceLoads;
}

/** Above this share of the half span a surface may end without a member: a tip block. */
const TIP = 0.8;
/** Deflections, as a share of the half span, and twists, °, beyond which the loads and the beam are others. */
const FAR = 0.25;
const TWISTED = 15;
const SEA_LEVEL = 1.225;
/** The fastest that reversal is sought at, over the dive speed. */
const FASTEST = 3;

/**
 * Stress and reserve of the members of all built surfaces over the load envelope, their deflection and twist at limit load, divergence and control reversal by
 * strips with section lift slopes of 2π, and natural frequencies with the root held.
 * @throws InvalidInput `no-structure`, `spar-outside`, `skin-thick`, and what {@link surfaceLoads} throws.
 */
export function strengthOf(
  given: MovingCandidate,
  lookup: SectionLookup,
  settings: StrengthSettings,
  told: { cancelled?: (() => boolean) | undefined } = {},
): Strength {
  const stood = standing(given.surfaces, given.bodies ?? []);
  const built = stood.filter(isBuilt);
  if (built.length === 0)
    throw new InvalidInput(
      'no-structure',
      'No surface says what it is made of.',
      'Give one a spar or a skin.',
      'surfaces',
    );
  const loads = surfaceLoads(given, lookup, settings);
  const cases = loads.cases.filter((c) => c.alpha !== null);
  return {
    safetyFactor: settings.safetyFactor,
    loads,
    surfaces: built
      .filter((s) => cases.some((c) => c.surfaces[s.id]))
      .map((surface) => {
        if (told.cancelled?.()) throw new Cancelled();
        return new SurfaceCheck(surface, given.massItems, lookup, settings, cases).told();
      }),
  };
}

/**
 * Thicknesses with which the members of a surface just hold, at the least mass that they can have so; its loads are found once more with that mass.
 * @throws as {@link strengthOf}; InvalidInput `no-structure` where the surface says nothing of what it is made of.
 */
export function thickEnough(
  given: MovingCandidate,
  surfaceId: string,
  lookup: SectionLookup,
  settings: StrengthSettings,
): Sized & { mass: number; before: number } {
  let surfaces = given.surfaces;
  let out: Sized | null = null;
  const massOfAll = (s: BuiltSurface) => memberMasses(s, lookup).reduce((sum, m) => sum + m.computed, 0);
  for (let round = 0; round < MASS_ROUNDS; round++) {
    const candidate = { ...given, surfaces };
    const surface = standing(surfaces, given.bodies ?? []).find((s) => s.id === surfaceId);
    if (!surface || !isBuilt(surface))
      throw new InvalidInput(
        'no-structure',
        'The surface does not say what it is made of.',
        'Give it a spar or a skin.',
      );
    const cases = surfaceLoads(candidate, lookup, settings).cases.filter((c) => c.alpha !== null);
    out = new SurfaceCheck(surface, given.massItems, lookup, settings, cases).enough(true);
    const { structure } = out.surface;
    surfaces = surfaces.map((s) => (s.id === surfaceId ? { ...s, structure } : s));
  }
  const [first, last] = [given.surfaces, surfaces].map((list) => list.find((s) => s.id === surfaceId) as BuiltSurface);
  return { ...out!, changes: sizedChanges(first, last), mass: massOfAll(last), before: massOfAll(first) };
}
/** Rounds of loads and thicknesses: the mass is a small part of the load. */
const MASS_ROUNDS = 3;

const leastOf = (reserves: Record<string, number | null>): number | null => {
  const all = Object.values(reserves).filter((v): v is number => v !== null && Number.isFinite(v));
  return all.length === 0 ? null : Math.min(...all);
};
const caseName = (c: LoadCase) => (c.loading === null ? c.name : `${c.name}, ${c.loading}`);

/** One surface under all cases. */
class SurfaceCheck {
  private readonly shape: SurfaceShape;
  private readonly y: readonly number[];
  private readonly panel: number;
  private readonly masses: MemberMass[];

  constructor(
    private readonly surface: BuiltSurface,
    private readonly items: readonly MassItem[],
    lookup: SectionLookup,
    private readonly settings: StrengthSettings,
    private readonly cases: readonly LoadCase[],
  ) {
    this.shape = new SurfaceShape(surface, lookup);
    this.y = cases[0].surfaces[surface.id].y;
    this.panel = surface.structure.ribs?.spacing ?? this.shape.total;
    this.masses = memberMasses(surface, lookup);
  }
  /** Chord fraction that the beam's sweep is that of. */
  private get line(): number {
    const { spars } = this.surface.structure;
    return spars.length > 0 ? spars[0].at : 0.35;
  }
  private sweepAt(share: number): number {
    return sweepOf(this.shape, share, this.line);
  }
  /** The cross-section at a place; null at a tip that nothing carries. */
  private section(y: number, surface: BuiltSurface = this.surface): CrossSection | null {
    const share = Math.min(1, y / this.shape.total);
    try {
      return crossSection(surface, this.shape.at(share), this.sweepAt(share), this.panel);
    } catch (error) {
      if (error instanceof InvalidInput && error.code === 'no-structure' && share > TIP) return null;
      throw error;
    }
  }
  /** Loads of a case at a place, the torque about the elastic axis. */
  private loadsAt(c: LoadCase, i: number, of: CrossSection): [number, number, number] {
    const { shear, bending, torsion } = c.surfaces[this.surface.id];
    const cos = Math.cos(this.sweepAt(of.place.share));
    const behind = of.axis - this.settings.axis * of.place.chord;
    return [bending[i], shear[i], torsion[i] + shear[i] * behind * cos];
  }

  told(): SurfaceStrength {
    const { surface, y, settings } = this;
    const own = y.map((v) => this.section(v));
    const first = own[0];
    if (!first) throw new InvalidInput('no-structure', 'Nothing carries at the root.', undefined, 'structure');
    let last = first;
    const sections = own.map((s) => (last = s ?? last));
    const bare = own.findIndex((s) => s === null);
    const worst = new Map<string, NonNullable<MemberStrength['worst']>>();
    const reserves = own.map((of, i): Record<string, number | null> => {
      const least: Record<string, number | null> = {};
      if (!of) return least;
      for (const c of this.cases)
        for (const s of sectionStress(of, ...this.loadsAt(c, i, of))) {
          const reserve = s.factor / settings.safetyFactor - 1;
          // Nothing fails where nothing loads it, as at the tip.
          least[s.member] = Number.isFinite(reserve)
            ? Math.min(least[s.member] ?? Infinity, reserve)
            : (least[s.member] ?? null);
          const before = worst.get(s.member);
          if (before && before.reserve <= reserve) continue;
          const { stress, allowable, mode, part } = s;
          const doubt = c.doubt === undefined ? {} : { doubtful: true as const };
          worst.set(s.member, {
            stress,
            allowable,
            mode,
            part,
            reserve,
            place: y[i],
            case: caseName(c),
            ...doubt,
          });
        }
      return least;
    });
    let enough: Sized | null = null;
    const members = this.masses.map((m): MemberStrength => {
      const found = worst.get(m.id);
      const common = {
        id: `${surface.id}.${m.id}`,
        member: m.id,
        name: m.name,
        mass: m.mass,
        computedMass: m.computed,
        weighed: m.weighed,
        price: m.price,
      };
      if (!found || !Number.isFinite(found.reserve)) return { ...common, worst: null };
      const lacks = found.reserve < 0;
      return {
        ...common,
        worst: { ...found, ...(lacks && { thicker: (enough ??= this.enough(false)).holds ? enough.changes : null }) },
      };
    });
    const shapes = this.cases.map((c) => this.bent(c, sections));
    const most = shapes.reduce((a, b, i) => (Math.abs(b.tip) > Math.abs(shapes[a].tip) ? i : a), 0);
    const bent = shapes[most];
    const stiff = this.aeroelastic(sections);
    return {
      id: surface.id,
      name: surface.name,
      mass: this.masses.reduce((sum, m) => sum + m.mass, 0),
      members,
      places: sections.map((s, i) => ({
        y: y[i],
        chord: s.place.chord,
        EI: s.EI,
        GJ: s.GJ,
        axis: s.axis / s.place.chord,
        reserve: leastOf(reserves[i]),
        reserves: reserves[i],
        deflection: bent.deflection[i],
        twistDeg: bent.twist[i] * DEG,
      })),
      tipDeflection: bent.tip,
      tipTwistDeg: bent.twist[bent.twist.length - 1] * DEG,
      bentMost: caseName(this.cases[most]),
      ...stiff,
      doubts: this.doubts(bent.tip, bent.twist[bent.twist.length - 1] * DEG),
      ...(bare > 0 && { bareFrom: y[bare - 1] }),
    };
  }

  /** Reserves of a changed surface that each part's thickness answers for. */
  private reserves(changed: BuiltSurface): PartReserve[] {
    const least = new Map<string, PartFactors>();
    this.y.forEach((y, i) => {
      const of = this.section(y, changed);
      if (!of) return;
      for (const c of this.cases)
        for (const p of partFactors(of, ...this.loadsAt(c, i, of))) {
          const key = `${p.member} ${p.part}`;
          const before = least.get(key);
          if (!before) least.set(key, p);
          else {
            before.direct = Math.min(before.direct, p.direct);
            before.other = Math.min(before.other, p.other);
          }
        }
    });
    return answeredReserves([...least.values()], this.settings.safetyFactor);
  }
  /** Thick enough in all members. @param thinner whether those that have too much lose it. */
  enough(thinner: boolean): Sized {
    return sized(this.surface, (changed) => this.reserves(changed), { thinner });
  }

  private doubts(deflection: number, twistDeg: number): string[] {
    const out: string[] = [];
    if (Math.abs(deflection) > FAR * this.shape.total)
      out.push(
        `The tip deflects by ${((100 * Math.abs(deflection)) / this.shape.total).toFixed(0)} % of the half span: beam theory of small deflections no longer holds.`,
      );
    if (Math.abs(twistDeg) > TWISTED)
      out.push(
        `The tip twists by ${Math.min(9999, Math.abs(twistDeg)).toFixed(0)}°: the load would be another one. Close a cell with a web behind the skin, or use a tube.`,
      );
    return out;
  }

  private bent(c: LoadCase, sections: readonly CrossSection[]) {
    const { y } = this;
    const rows = sections.map((s, i) => this.loadsAt(c, i, s));
    const s = [0];
    for (let i = 1; i < y.length; i++)
      s.push(s[i - 1] + (y[i] - y[i - 1]) / Math.cos(this.sweepAt((0.5 * (y[i] + y[i - 1])) / this.shape.total)));
    const shape = bentBeam({
      s,
      bending: rows.map((r) => r[0]),
      shear: rows.map((r) => r[1]),
      torsion: rows.map((r) => r[2]),
      EI: sections.map((v) => v.EI),
      EIMiddle: this.middles(sections).map((v) => v.EI),
      GJ: sections.map((v) => v.GJ),
      GJMiddle: this.middles(sections).map((v) => v.GJ),
    });
    return { ...shape, tip: shape.deflection[shape.deflection.length - 1] };
  }
  private kept: CrossSection[] | null = null;
  /** Cross-sections in the middle of each stretch. */
  private middles(sections: readonly CrossSection[]): CrossSection[] {
    return (this.kept ??= this.y.slice(1).map((v, i) => this.section(0.5 * (v + this.y[i])) ?? sections[i]));
  }

  private aeroelastic(sections: readonly CrossSection[]) {
    const { y, surface, settings } = this;
    const middles = this.middles(sections);
    const n = middles.length;
    const width = middles.map((_, i) => y[i + 1] - y[i]);
    const chord = Float64Array.from(middles, (m) => m.place.chord);
    const along = middles.map((_, i) => 0.5 * (y[i] + y[i + 1]));
    // Mass, first and second moment in x of each strip: members, what is spread over the surface, what stands on it.
    const sums = Array.from({ length: n }, () => ({ m: 0, x: 0, xx: 0 }));
    const put = (i: number, m: number, x: number) => {
      sums[i].m += m;
      sums[i].x += m * x;
      sums[i].xx += m * x * x;
    };
    const stripOf = (place: number) => {
      let i = 0;
      while (i < n - 1 && y[i + 1] <= place) i++;
      return i;
    };
    for (const member of this.masses) for (const l of member.lumps) put(stripOf(l.along), l.mass, l.x);
    const noseX = (i: number) => middles[i].place.station.leadingEdge.x;
    const wide = Float64Array.from(width);
    const everything = () => 1;
    for (const m of massOf(this.items, surface, chord, wide, everything))
      // Even over the chord: its own inertia is that of a rod.
      for (let i = 0; i < n; i++)
        for (const side of [-1, 1]) put(i, 0.5 * m.mass[i], noseX(i) + chord[i] * (m.at + (side * 0.5) / Math.sqrt(3)));
    const middleY = Float64Array.from(middles, (m) => Math.abs(m.place.station.quarterChord.y));
    for (const p of pointsOn(this.items, surface, middleY, along, 1, everything))
      put(stripOf(p.along), Math.abs(p.force) / GRAVITY, p.x);
    let before = { s: 0, y: 0 };
    const strips = middles.map((m, i): ElasticStrip => {
      const sweep = this.sweepAt(m.place.share);
      const [cos, sin] = [Math.cos(sweep), Math.sin(sweep)];
      const s = before.s + (along[i] - before.y) / cos;
      before = { s, y: along[i] };
      const { m: mass, x, xx } = sums[i];
      const centre = mass > 0 ? x / mass : noseX(i) + m.axis;
      return {
        s,
        width: width[i],
        chord: chord[i],
        ahead: m.axis - 0.25 * chord[i],
        cos,
        sin,
        liftSlope: 2 * Math.PI * cos,
        y: middleY[i],
        mass: Math.max(1e-9, mass),
        behind: centre - noseX(i) - m.axis,
        inertia: Math.max(1e-12, mass > 0 ? xx - mass * centre * centre : 0),
      };
    });
    const places = strips.map((s) => s.s);
    const stiffness = (key: 'EI' | 'GJ') => {
      const values = middles.map((m) => m[key]);
      const [ends, all] = [
        [0, ...places],
        [sections[0][key], ...values],
      ];
      return (s: number) => interpolate(ends, all, s);
    };
    const flexible = new Flexibility(places, stiffness('EI'), stiffness('GJ'));
    const pressure = divergencePressure(flexible, strips);
    const equivalent = (q: number) => Math.sqrt((2 * q) / SEA_LEVEL);
    const dive = 0.5 * SEA_LEVEL * (settings.cruise * settings.diveRatio) ** 2;
    const reversal = (surface.controls ?? [])
      .filter((c) => c.kind === 'opposed' && surface.mirrored)
      .map((c) => {
        const angle = Math.acos(1 - 2 * c.hinge);
        const at: StripControl = {
          effect: 1 - (angle - Math.sin(angle)) / Math.PI,
          moment: -0.5 * Math.sin(angle) * (1 - Math.cos(angle)),
        };
        const list = strips.map((_, i) => {
          const share = along[i] / this.shape.total;
          return share >= c.from && share <= c.to ? at : null;
        });
        const most = Math.min(dive * FASTEST ** 2, pressure === null ? Infinity : 0.98 * pressure);
        const found = reversalPressure(flexible, strips, list, most);
        return {
          control: c.id,
          name: c.name,
          speed: found.pressure === null ? null : equivalent(found.pressure),
          leftAtDive: pressure !== null && dive >= pressure ? 0 : found.left(dive),
        };
      });
    const all = vibrations(flexible, strips);
    const one = (bending: boolean) => all.find((v) => v.bending > 0.5 === bending)?.frequency ?? null;
    return {
      divergenceSpeed: pressure === null ? null : equivalent(pressure),
      reversal,
      frequencies: { bending: one(true), torsion: one(false) },
    };
  }
}

/** Design cruise speed of a lift coefficient of 0.4, equivalent, m/s: where nobody tells one. @param weight N. */
export const usualCruise = (weight: number, area: number): number =>
  Math.sqrt(weight / (flowState(1, 0).dynamicPressure * area * 0.4));
