import { placeSurface, standing, type LiftingSurface, type SectionLookup } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import { memberItemId, type MassItem } from '../balance';
import { builtMasses, type MemberMass } from '../members';
import { chordPlaces, DEFAULT_LATTICE, edgePoint, keptMeanLine, type SectionPolars } from '../lift';
import { trimLevel } from '../motion';
import { DEG, FailedComputation, InvalidInput, interpolate, intervalOf, RAD } from '../numerics';
import { loadEnvelope, type LoadEnvelope } from '../performance';
import type { MeanLine } from '../section';
import { spanLoads, type LoadPoint, type LoadStrip, type SpanLoads } from '../structure';
import { loadedMass, motionSource, type MovingCandidate } from './motion';
import { withPlacedMass } from './placed-mass';
import { CandidateFlyer } from './trimmed-flyer';
import { effectiveDeflections } from './travels';

/** What loads are found for. */
export interface LoadSettings {
  /** Design cruise speed, equivalent, m/s. */ cruise: number;
  /** Dive over cruise speed. */ diveRatio: number;
  /** Limit load factors. */ positive: number;
  negative: number;
  altitude: number;
  /** Chord fraction of the beam's axis. */ axis: number;
  /** Of the sections, for what the aircraft can lift at most and at least; null: load factors are not limited by the stall. */
  polars: SectionPolars[] | null;
}

/** A corner of the envelope in one loading. */
export interface LoadCase {
  name: string;
  /** True airspeed, m/s. */ speed: number;
  loadFactor: number;
  /** What the envelope asks for, where the stall limits it to less. */ asked?: number;
  /** Null: all items. */ loading: string | null;
  /** Of the trim, rad; null where there is none, with the reason. */ alpha: number | null;
  failure?: string;
  /** Why it may not be reached. */ doubt?: string;
  /** Limit loads of each surface, by its id. */ surfaces: Record<string, SpanLoads>;
}

/** The worst of all cases at a place. */
export interface WorstLoad {
  y: number;
  shear: number;
  bending: number;
  torsion: number;
  /** The case of the greatest bending. */ case: string;
  /** True where one of the three is of a case that may not be reached. */ doubtful?: true;
}

/** Loads of every surface over the envelope. */
export interface SurfaceLoads {
  envelope: LoadEnvelope;
  cases: LoadCase[];
  worst: Record<string, WorstLoad[]>;
}

/** Chord fraction where the mass of a strip lies: of a skin or an even area, and of a solid. */
const MASS_AT = { skin: 0.45, area: 0.5, volume: 0.42 } as const;
/** Points that are nearer to the plane of symmetry hang on the body, shares of the half span. */
const AT_THE_ROOT = 0.03;

/**
 * Shear, bending and torsion of every surface over the manoeuvre and gust envelope, in every loading, relieved by the masses that it carries. Limit loads:
 * the aircraft in trim at the load factor, without pitch rate, by the lattice; moments of the sections by thin-section theory. Where there are polars, load
 * factors end at the greatest and the least lift in trim.
 * @throws InvalidInput `no-mass`, `no-surface`; FailedComputation where no case trims.
 */
export function surfaceLoads(given: MovingCandidate, lookup: SectionLookup, settings: LoadSettings): SurfaceLoads {
  if (given.surfaces.length === 0)
    throw new InvalidInput('no-surface', 'The candidate has no surface.', 'Draw a wing first.', 'surfaces');
  const lineOf = (key: string): MeanLine => keptMeanLine(lookup(key));
  const candidate = withPlacedMass(given, lookup);
  const loadings: (string | null)[] = Object.keys(candidate.loadings ?? {});
  if (loadings.length === 0) loadings.push(null);
  const { altitude, cruise, diveRatio, positive, negative } = settings;
  const members = new Map(
    builtMasses(standing(candidate.surfaces, candidate.bodies ?? []), lookup).map((b) => [b.surface.id, b.members]),
  );
  const density = flowState(1, altitude).density;
  const trueSpeed = (equivalent: number) => equivalent / Math.sqrt(density / SEA_LEVEL);
  const cases: LoadCase[] = [];
  let envelope: LoadEnvelope | null = null;
  for (const loading of loadings) {
    const own = loading === null ? {} : { loading };
    const flyer = new CandidateFlyer(candidate, lookup, lineOf, {
      speed: trueSpeed(cruise),
      altitude,
      polars: settings.polars,
      ...own,
    });
    const limits = { positive, negative, cruise, dive: diveRatio * cruise };
    const here = loadEnvelope(flyer, altitude, limits, GRAVITY);
    envelope ??= here;
    const corners = [
      ...(here.manoeuvring === null || here.manoeuvring > limits.dive
        ? []
        : [{ name: 'manoeuvre at manoeuvring speed', speed: here.manoeuvring, n: positive }]),
      { name: 'manoeuvre at cruise', speed: cruise, n: positive },
      { name: 'manoeuvre at dive', speed: limits.dive, n: positive },
      { name: 'manoeuvre down', speed: cruise, n: negative },
      ...here.gusts.flatMap((g) => [
        { name: `gust up at ${g.at}`, speed: g.speed, n: g.up },
        { name: `gust down at ${g.at}`, speed: g.speed, n: g.down },
      ]),
    ];
    // What the stall leaves of a load factor.
    const able = (speed: number, n: number): number => {
      const one = (0.5 * SEA_LEVEL * speed ** 2 * flyer.area) / flyer.weight;
      const most = here.stall === null ? Infinity : (speed / here.stall) ** 2;
      const least = flyer.leastCL === null ? -Infinity : flyer.leastCL * one;
      return Math.min(most, Math.max(least, n));
    };
    for (const { name, speed, n } of corners) {
      const loadFactor = able(speed, n);
      const limited = Math.abs(loadFactor - n) < 1e-6 ? {} : { asked: n };
      cases.push(
        caseOf(given, candidate, members, lookup, lineOf, settings, {
          name,
          speed: trueSpeed(speed),
          loadFactor,
          ...limited,
          loading,
        }),
      );
    }
  }
  const flown = cases.filter((c) => c.alpha !== null);
  if (flown.length === 0)
    throw new FailedComputation(
      'no-trim',
      `No case of the envelope trims: ${cases[0].failure}`,
      'Give a greater cruise speed.',
    );
  const worst: SurfaceLoads['worst'] = {};
  for (const id of Object.keys(flown[0].surfaces)) {
    const most = (k: 'shear' | 'bending' | 'torsion', i: number) =>
      flown.reduce((best, c) => (Math.abs(c.surfaces[id][k][i]) > Math.abs(best.surfaces[id][k][i]) ? c : best));
    worst[id] = flown[0].surfaces[id].y.map((y, i) => {
      const [sheared, bent, twisted] = (['shear', 'bending', 'torsion'] as const).map((k) => most(k, i));
      return {
        y,
        shear: sheared.surfaces[id].shear[i],
        bending: bent.surfaces[id].bending[i],
        torsion: twisted.surfaces[id].torsion[i],
        case: bent.loading === null ? bent.name : `${bent.name}, ${bent.loading}`,
        ...([sheared, bent, twisted].some((c) => c.doubt !== undefined) && { doubtful: true as const }),
      };
    });
  }
  return { envelope: envelope!, cases, worst };
}
/** Air at sea level, kg/m³: what equivalent speeds are told in. */
const SEA_LEVEL = 1.225;
/** No wing without slots carries a lift that rises beyond it, rad. */
const STEEP = 16 * RAD;

function caseOf(
  given: MovingCandidate,
  candidate: MovingCandidate,
  members: ReadonlyMap<string, readonly MemberMass[]>,
  lookup: SectionLookup,
  lineOf: (key: string) => MeanLine,
  { altitude, axis }: LoadSettings,
  of: Pick<LoadCase, 'name' | 'speed' | 'loadFactor' | 'asked' | 'loading'>,
): LoadCase {
  try {
    const mass = loadedMass(candidate, of.loading ?? undefined);
    const flow = flowState(of.speed, altitude);
    const source = motionSource(candidate, lookup, lineOf, mass, of.speed, altitude, null);
    const trim = trimLevel(source, flow, mass.mass * GRAVITY * of.loadFactor);
    const controls = effectiveDeflections(source.surfaces, trim.controls);
    const { strips: loads } = source.lattice.at({ alpha: trim.alpha, controls });
    const lattice = source.lattice.lattice;
    const { bound } = chordPlaces(lattice.parts[0].rows, DEFAULT_LATTICE.spacing);
    const held = (id: string) => (of.loading === null ? 1 : (candidate.loadings?.[of.loading]?.[id] ?? 1));
    const surfaces: LoadCase['surfaces'] = {};
    let start = 0;
    for (const part of lattice.parts) {
      const surface = source.surfaces[part.surface];
      if (part.station[0] >= 0 && surfaces[surface.id] === undefined) {
        const q = flow.dynamicPressure * part.pressure;
        const weights = massOf(given.massItems, surface, part.chord, part.width, held);
        const built = membersOver(members.get(surface.id) ?? [], surface, part.width, held);
        const strips: LoadStrip[] = [];
        const [edges, axes]: [number[], number[]] = [[0], []];
        const place = (s: number, c: number) => edgePoint(part, bound, s, c)[0];
        axes.push(place(0, axis));
        for (let s = 0; s < part.strips; s++) {
          const width = part.width[s];
          const along = edges[s] + 0.5 * width;
          edges.push(edges[s] + width);
          axes.push(place(s + 1, axis));
          const at = (c: number) => 0.5 * (place(s, c) + place(s + 1, c));
          const load = loads[start + s];
          strips.push({
            along,
            width,
            force: q * load.cl * part.chord[s] * width,
            x: at(0.25),
            moment: q * part.chord[s] ** 2 * width * sectionMoment(surface, part.station[s], controls, lineOf),
          });
          for (const m of weights)
            strips.push({ along, width, force: -of.loadFactor * GRAVITY * m.mass[s], x: at(m.at), moment: 0 });
          if (built.mass[s] > 0) {
            const x = built.moment[s] / built.mass[s];
            strips.push({ along, width, force: -of.loadFactor * GRAVITY * built.mass[s], x, moment: 0 });
          }
        }
        surfaces[surface.id] = spanLoads(
          strips,
          pointsOn(
            given.massItems,
            surface,
            part.middleY,
            edges.slice(1).map((e, i) => 0.5 * (e + edges[i])),
            of.loadFactor,
            held,
          ),
          edges,
          (y) => interpolate(edges, axes, y),
        );
      }
      start += part.strips;
    }
    return {
      ...of,
      alpha: trim.alpha,
      ...(Math.abs(trim.alpha) > STEEP && {
        doubt: `At ${(trim.alpha * DEG).toFixed(1)}° the wing has stalled, unless its polars say otherwise: the load is greater than it will be.`,
      }),
      surfaces,
    };
  } catch (error) {
    if (!(error instanceof FailedComputation)) throw error;
    return { ...of, alpha: null, failure: error.message, surfaces: {} };
  }
}

/** Moment coefficient of a section about its quarter chord, of its mean line and the controls that are turned there. @source thin-section theory, NACA TR-142, 1922. */
function sectionMoment(
  surface: LiftingSurface,
  station: number,
  controls: Readonly<Record<string, number>>,
  lineOf: (key: string) => MeanLine,
): number {
  const total = surface.bays.reduce((sum, b) => sum + b.span, 0);
  let offset = Math.abs(station) * total;
  let bay = 0;
  while (bay < surface.bays.length - 1 && offset > surface.bays[bay].span) offset -= surface.bays[bay++].span;
  const { section } = placeSurface(surface).at(bay, Math.min(1, offset / surface.bays[bay].span));
  let cm = meanLineMoment(lineOf(section));
  for (const c of surface.controls ?? []) {
    const turn = controls[c.id] ?? 0;
    if (turn === 0 || Math.abs(station) < c.from || Math.abs(station) > c.to) continue;
    const hinge = Math.acos(1 - 2 * c.hinge);
    cm -= 0.5 * Math.sin(hinge) * (1 - Math.cos(hinge)) * turn * (surface.plane === 'vertical' ? -1 : 1);
  }
  return cm;
}

const STEPS = 200;
const moments = new WeakMap<MeanLine, number>();
/** Moment coefficient about the quarter chord of a thin mean line: −π/4 (A₁ − A₂) of its slope. */
function meanLineMoment(line: MeanLine): number {
  let known = moments.get(line);
  if (known === undefined) {
    known = 0;
    for (let i = 0; i < STEPS; i++) {
      const t = ((i + 0.5) * Math.PI) / STEPS;
      known -= (0.5 * line.slope(0.5 * (1 - Math.cos(t))) * (Math.cos(t) - Math.cos(2 * t)) * Math.PI) / STEPS;
    }
    moments.set(line, known);
  }
  return known;
}

/** Mass of each strip of the items that are spread over a surface, and the chord fraction where it lies. */
export function massOf(
  items: readonly MassItem[],
  surface: LiftingSurface,
  chord: Float64Array,
  width: Float64Array,
  held: (id: string) => number,
): { at: number; mass: Float64Array }[] {
  return items
    .filter((i) => i.part === surface.id)
    .map((item) => {
      const shape = item.shape === 'volume' || item.shape === 'area' ? item.shape : 'skin';
      const weight = chord.map((c, s) => width[s] * c ** (shape === 'volume' ? 2 : 1));
      const whole = weight.reduce((a, b) => a + b, 0);
      // What is spread over a surface on both sides is told with both together.
      const own = (item.mass * held(item.id)) / (surface.mirrored ? 2 : 1);
      return { at: MASS_AT[shape], mass: weight.map((w) => (own * w) / whole) };
    });
}

/** Members of a surface on its strips: mass and first moment in x of each. */
export function membersOver(
  members: readonly MemberMass[],
  surface: LiftingSurface,
  width: ArrayLike<number>,
  held: (id: string) => number = () => 1,
): { mass: Float64Array; moment: Float64Array } {
  const n = width.length;
  const out = { mass: new Float64Array(n), moment: new Float64Array(n) };
  const edges = [0];
  for (let s = 0; s < n; s++) edges.push(edges[s] + width[s]);
  for (const member of members) {
    const share = held(memberItemId(surface.id, member.id));
    for (const l of member.lumps) {
      const s = Math.min(n - 1, intervalOf(edges, l.along));
      out.mass[s] += share * l.mass;
      out.moment[s] += share * l.mass * l.x;
    }
  }
  return out;
}

/** Weights of items that stand on a wing on both sides, such as tanks. @param middleY, middles of the strips: distance from the plane of symmetry, and along the span, m. */
export function pointsOn(
  items: readonly MassItem[],
  surface: LiftingSurface,
  middleY: ArrayLike<number>,
  middles: readonly number[],
  loadFactor: number,
  held: (id: string) => number,
): LoadPoint[] {
  if (surface.plane === 'vertical' || surface.role !== 'wing') return [];
  const tip = middleY[middleY.length - 1];
  return items
    .filter((i) => i.part === undefined && i.mirrored && Math.abs(i.position.y) > AT_THE_ROOT * tip)
    .filter((i) => Math.abs(i.position.y) <= tip)
    .map((i) => ({
      along: interpolate(middleY, middles, Math.abs(i.position.y)),
      x: i.position.x,
      force: -loadFactor * GRAVITY * i.mass * held(i.id),
      moment: 0,
    }));
}
