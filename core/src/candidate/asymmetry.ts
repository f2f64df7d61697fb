import { z } from 'zod';
import { standing, standingIn, SURFACE_LIMITS, type LiftingSurface, type SectionLookup } from '../airframe';
import { GRAVITY, type FlowState } from '../atmosphere';
import type { MassItem } from '../balance';
import { dragBuildUp } from '../drag';
import {
  keptMeanLine,
  raisedApart,
  riseOf,
  stripShares,
  thinFlapLift,
  turnedApart,
  type ControlTravel,
  type FlightState,
  type LateralCoefficients,
  type StripLoad,
  type SurfaceLattice,
  type VortexLattice,
} from '../lift';
import { within } from '../limits';
import { lateralTrim, slippingTrim, type AirframeSource, type LateralControl, type MotionCase } from '../motion';
import { FailedComputation, RAD } from '../numerics';
import { BRIEF_LIMITS } from '../project';
import { analysis } from '../results';
import { controlLimits } from './lateral';
import { controlNames } from './flown-scenario';
import { airframeMotion, motion, motionSource, type MotionInput } from './motion';
import { withPlacedMass } from './placed-mass';
import { sectionLookup } from './section-lookup';
import { travelsOf } from './travels';

/** In what way the right half of a surface differs from the left. */
export const ASYMMETRIES = ['incidence', 'twist', 'dihedral', 'mass', 'drag', 'rigging'] as const;
export type AsymmetryKind = (typeof ASYMMETRIES)[number];

/** A difference of the two halves of a surface, and what it does at the speed of flight; body axes. */
export interface AsymmetryCause {
  surface: string;
  name: string;
  kind: AsymmetryKind;
  /** Of what is rigged. */ control?: { id: string; name: string };
  /** Right less left: rad, kg, share; of a unit (1°, 10 g, 10 %) where the surface says none. */ amount: number;
  /** Whether the surface says so. */ given: boolean;
  /** N, N m */ sideForce: number;
  rollMoment: number;
  yawMoment: number;
  /** Steady rate of roll with the controls at rest, right wing down positive, rad/s; null where nothing damps the roll. */
  rollRate: number | null;
}

/** Straight flight that is held against an asymmetry. */
export interface HeldStraight {
  sideslip: number;
  bank: number;
  controls: LateralControl[];
}

/** What an asymmetry does at a speed. */
export interface AsymmetryAtSpeed {
  speed: number;
  rollMoment: number;
  yawMoment: number;
  sideForce: number;
  rollRate: number | null;
  /** Null where no control rolls or yaws. */ held: HeldStraight | null;
}

export interface Asymmetry {
  /** At the speed of flight: first those that the surfaces say, then a unit of each of the others. */ causes: AsymmetryCause[];
  now: AsymmetryAtSpeed;
  speeds: AsymmetryAtSpeed[];
  /** Speeds that are not flown, and why. */ left: { speed: number; reason: string }[];
  /** Speed beyond which a control meets its limit, m/s, and on which side of it; null where none does. */
  limit: { speed: number; control: string; side: 'below' | 'above' } | null;
}

export interface AsymmetryInput {
  of: MotionInput;
  /** m/s */ speeds: number[];
}

/** What stands in for a difference that is not given, so that it can be told what it would do. */
const UNITS: Record<AsymmetryKind, number> = {
  incidence: RAD,
  twist: RAD,
  dihedral: RAD,
  mass: 0.01,
  drag: 0.1,
  rigging: RAD,
};

interface Difference {
  surface: LiftingSurface;
  kind: AsymmetryKind;
  control?: { id: string; name: string };
  amount: number;
  given: boolean;
}

/** Differences of the halves of mirrored surfaces, those that are given and one of each other kind. */
export function differencesOf(surfaces: readonly LiftingSurface[]): Difference[] {
  return surfaces
    .filter((s) => s.mirrored)
    .flatMap((surface): Difference[] => {
      const a = surface.asymmetry ?? {};
      const own: [AsymmetryKind, number | undefined][] = [
        ['incidence', a.incidenceDeg && a.incidenceDeg * RAD],
        ['twist', a.twistDeg && a.twistDeg * RAD],
        ['dihedral', a.dihedralDeg && a.dihedralDeg * RAD],
        ['mass', a.mass],
        ['drag', a.drag],
      ];
      return [
        ...own.map(([kind, amount]) => ({ surface, kind, amount: amount || UNITS[kind], given: !!amount })),
        ...(surface.controls ?? []).map((c) => ({
          surface,
          kind: 'rigging' as const,
          control: { id: c.id, name: c.name },
          amount: (c.riggingDeg ?? 0) * RAD || UNITS.rigging,
          given: !!c.riggingDeg,
        })),
      ];
    });
}

/** Mean distance of a half of a surface from the plane of symmetry, by area, m. */
function armOf({ lattice }: VortexLattice, id: string): number {
  let [weighed, sum] = [0, 0];
  for (const p of lattice.parts.filter((v) => v.id === id))
    for (let s = 0; s < p.strips; s++) {
      weighed += Math.abs(p.middleY[s]) * p.chord[s] * p.width[s];
      sum += p.chord[s] * p.width[s];
    }
  return weighed / sum;
}

/** What the air does to differences in a state of flight; mass brings nothing there. */
function asymmetryIn(
  lattice: VortexLattice,
  state: FlightState,
  {
    travels,
    loads,
    drag,
  }: {
    travels: Readonly<Record<string, ControlTravel>>;
    loads: readonly StripLoad[];
    /** Coefficient of a surface's profile drag, both halves, by its id. */ drag: (id: string) => number;
  },
): (difference: Difference) => LateralCoefficients {
  return ({ surface, kind, control, amount }: Difference): LateralCoefficients => {
    const parts = lattice.lattice.parts.filter((p) => p.id === surface.id);
    const alone = (turn: (part: SurfaceLattice, strip: number) => number) =>
      turnedApart(lattice, state, (part, strip) => (part.id === surface.id ? turn(part, strip) : 0));
    // Sections that stand upright turn about the frame's own axis, of which a strip that rises sees less.
    const seen = (part: SurfaceLattice, strip: number) =>
      surface.sectionsStand === 'normal' ? 1 : Math.cos(riseOf(part, strip) - (surface.rollDeg ?? 0) * RAD);
    switch (kind) {
      case 'incidence':
        return alone((part, strip) => amount * seen(part, strip));
      case 'twist':
        return alone((part, strip) => amount * seen(part, strip) * Math.abs(part.station[strip]));
      case 'rigging': {
        const c = surface.controls!.find((v) => v.id === control!.id)!;
        const share = (thinFlapLift(c.hinge) / (2 * Math.PI)) * (travels[c.id]?.slope(travels[c.id].standing) ?? 1);
        const covered = new Map(parts.map((p) => [p, stripShares(p, c.from, c.to)]));
        return alone((part, strip) => amount * share * covered.get(part)![strip]);
      }
      case 'dihedral':
        return raisedApart(lattice, state, surface.id, amount, loads);
      case 'mass':
        return { CY: 0, Cl: 0, Cn: 0 };
      case 'drag': {
        const half = drag(surface.id) / 2;
        return { CY: 0, Cl: 0, Cn: (amount * half * armOf(lattice, surface.id)) / lattice.reference.span };
      }
    }
  };
}

/** What the given differences of an airframe add to its lateral coefficients, by the angle of attack: for tables. Null where its halves are alike. */
export function asymmetryOver(
  source: Pick<AirframeSource, 'lattice' | 'surfaces'>,
  travels: Readonly<Record<string, ControlTravel>>,
  drag: (id: string) => number,
): ((alpha: number) => LateralCoefficients) | null {
  const given = differencesOf(source.surfaces).filter((d) => d.given && d.kind !== 'mass');
  if (given.length === 0) return null;
  return (alpha) => {
    const loads = source.lattice.at({ alpha }).strips;
    const each = given.map(asymmetryIn(source.lattice, { alpha }, { travels, loads, drag }));
    return each.reduce((a, c) => ({ CY: a.CY + c.CY, Cl: a.Cl + c.Cl, Cn: a.Cn + c.Cn }));
  };
}

/**
 * Mass items of an airframe whose halves do not weigh the same: the heaviest item is moved across until the first moment is that of the difference. The mass
 * stays as it is.
 */
export function unequalItems(
  items: readonly MassItem[],
  source: Pick<AirframeSource, 'lattice' | 'surfaces'>,
): readonly MassItem[] {
  const moment = differencesOf(source.surfaces)
    .filter((d) => d.given && d.kind === 'mass')
    .reduce((sum, d) => sum + d.amount * armOf(source.lattice, d.surface.id), 0);
  const heaviest = items.reduce<MassItem | null>((best, m) => (!best || m.mass > best.mass ? m : best), null);
  if (moment === 0 || !heaviest) return items;
  return items.map((m) =>
    m === heaviest ? { ...m, position: { ...m.position, y: m.position.y + moment / m.mass } } : m,
  );
}

/** What a candidate's differences do at a speed. @throws as {@link airframeMotion}. */
function atSpeed(of: Omit<MotionInput, 'sections'>, speed: number, lookup: SectionLookup) {
  const { candidate: given, ...rest } = of;
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const candidate = withPlacedMass(given, lookup);
  const moving = airframeMotion(given, lookup, lineOf, { ...rest, speed });
  const flow: FlowState = moving.flow;
  const source = motionSource(candidate, lookup, lineOf, moving.mass, speed, rest.altitude, null);
  const { lattice } = source;
  const travels = travelsOf(standing(candidate.surfaces, candidate.bodies), rest.polars ?? [], flow.reynoldsPerMetre);
  const controls = Object.fromEntries(
    Object.entries(moving.trim.controls).map(([id, d]) => [id, travels[id]?.effective(d) ?? d]),
  );
  const state = { alpha: moving.trim.alpha, controls };
  const loads = lattice.at(state).strips;
  const { area, span } = moving.reference;
  const qS = flow.dynamicPressure * area;
  const drag = dragBuildUp(standingIn(candidate), flow, lookup);
  const turns = asymmetryIn(lattice, state, {
    travels,
    loads,
    drag: (id) => drag.parts.find((p) => p.id === id)?.CD ?? 0,
  });
  const coefficients = (d: Difference): LateralCoefficients =>
    d.kind === 'mass'
      ? { CY: 0, Cl: (d.amount * GRAVITY * armOf(lattice, d.surface.id)) / (qS * span), Cn: 0 }
      : turns(d);
  const { case: c } = moving;
  const toMoments = ({ CY, Cl, Cn }: LateralCoefficients) => {
    const Cls = Cl * Math.cos(state.alpha) + Cn * Math.sin(state.alpha);
    const damps = c.derivatives.Cl_p < 0;
    return {
      sideForce: qS * CY,
      rollMoment: qS * span * Cl,
      yawMoment: qS * span * Cn,
      rollRate: damps ? (-Cls / c.derivatives.Cl_p) * ((2 * speed) / span) : null,
    };
  };
  const names = controlNames(candidate);
  const byName = Object.fromEntries(Object.entries(travels).map(([id, t]) => [names[id], t]));
  return { case: c, alpha: state.alpha, coefficients, toMoments, limits: controlLimits(candidate), travels: byName };
}

/** Straight flight against forces and moments: without sideslip by two controls, else with the sideslip that one control needs. */
function heldBy(at: ReturnType<typeof atSpeed>, c: MotionCase, sum: LateralCoefficients): HeldStraight | null {
  const qS = 0.5 * c.density * c.speed ** 2 * c.area;
  // The lateral equations are those of stability axes.
  const [cos, sin] = [Math.cos(at.alpha), Math.sin(at.alpha)];
  const demand = {
    sideForce: qS * sum.CY,
    rollMoment: qS * c.span * (sum.Cl * cos + sum.Cn * sin),
    yawMoment: qS * c.span * (sum.Cn * cos - sum.Cl * sin),
  };
  try {
    const { bank, controls } = lateralTrim(c, { ...demand, sideslip: 0 }, at.limits, at.travels);
    return { sideslip: 0, bank, controls };
  } catch (error) {
    if (!(error instanceof FailedComputation)) throw error;
    return slippingTrim(c, demand, at.limits, at.travels);
  }
}

/** The sum of the given differences at a speed, and what holds it. */
function toldAt(
  speed: number,
  at: ReturnType<typeof atSpeed>,
  differences: readonly Difference[],
  own: readonly LateralCoefficients[],
): AsymmetryAtSpeed {
  const sum = { CY: 0, Cl: 0, Cn: 0 };
  differences.forEach(({ given }, i) => {
    if (given) for (const key of ['CY', 'Cl', 'Cn'] as const) sum[key] += own[i][key];
  });
  return { speed, ...at.toMoments(sum), held: heldBy(at, at.case, sum) };
}

/** What the given differences of a candidate do in level flight at a speed, m/s. @throws as {@link airframeMotion}. */
export function asymmetryAt(of: Omit<MotionInput, 'sections'>, speed: number, lookup: SectionLookup): AsymmetryAtSpeed {
  const given = differencesOf(of.candidate.surfaces).filter((d) => d.given);
  const at = atSpeed(of, speed, lookup);
  return toldAt(speed, at, given, given.map(at.coefficients));
}

/** Greatest size of a difference that a builder's error can have: as fields take it, in SI. Mass by the aircraft's. */
const MOST: Record<Exclude<AsymmetryKind, 'mass'>, number> = {
  incidence: SURFACE_LIMITS.asymmetry.incidenceDeg.max * RAD,
  twist: SURFACE_LIMITS.asymmetry.twistDeg.max * RAD,
  dihedral: SURFACE_LIMITS.asymmetry.dihedralDeg.max * RAD,
  drag: SURFACE_LIMITS.asymmetry.drag.max,
  rigging: SURFACE_LIMITS.control.riggingDeg.max * RAD,
};

/**
 * How much of each difference alone would bring a steady roll with the controls fixed: differences are small, so that the roll is in proportion. What no
 * builder would miss is left out: more than a field takes, or a half that is heavier by a quarter of the aircraft.
 * @param rollRate right wing down positive, rad/s. @param mass of the aircraft, kg. @returns amounts, right less left: rad, kg, share.
 */
export function explainedBy(
  causes: readonly AsymmetryCause[],
  rollRate: number,
  mass: number,
): { cause: AsymmetryCause; amount: number }[] {
  return causes.flatMap((cause) => {
    if (!cause.rollRate) return [];
    const amount = (rollRate / cause.rollRate) * cause.amount;
    return Math.abs(amount) <= (cause.kind === 'mass' ? 0.25 * mass : MOST[cause.kind]) ? [{ cause, amount }] : [];
  });
}

/** Whether halves of an airframe are told to differ. */
export const isAsymmetric = (surfaces: readonly LiftingSurface[]): boolean =>
  differencesOf(surfaces).some((d) => d.given);

/** What alike halves do. */
export const SYMMETRIC: Readonly<AsymmetryAtSpeed> = {
  speed: 0,
  rollMoment: 0,
  yawMoment: 0,
  sideForce: 0,
  rollRate: 0,
  held: { sideslip: 0, bank: 0, controls: [] },
};

/** Speed at which the least share of travel that is left passes zero, between speeds that were computed. */
function limitOf(speeds: readonly AsymmetryAtSpeed[]): Asymmetry['limit'] {
  const least = speeds.map(({ speed, held }) => {
    const worst = held?.controls.filter((c) => c.left !== null).sort((a, b) => a.left! - b.left!)[0];
    return worst && { speed, control: worst.name, left: worst.left! };
  });
  for (let i = least.length - 1; i > 0; i--) {
    const [slow, fast] = [least[i - 1], least[i]];
    if (!slow || !fast || slow.left < 0 === fast.left < 0) continue;
    const share = slow.left / (slow.left - fast.left);
    const out = slow.left < 0 ? slow : fast;
    return {
      speed: slow.speed + share * (fast.speed - slow.speed),
      control: out.control,
      side: slow.left < 0 ? 'below' : 'above',
    };
  }
  return null;
}

/**
 * What unequal halves do: forces and moments of each difference in level flight, the roll with the controls at rest, the controls that hold the flight straight,
 * and the speed at which they meet their limits. Turns of sections are answered by the vortex lattice, roll damping and controls by the method of the motion.
 * @throws as {@link airframeMotion} at the speed of flight; other speeds say why they are not flown.
 */
export const asymmetry = analysis({
  version: 1,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    speeds: z.array(within(BRIEF_LIMITS.speed)).max(40),
  }) as unknown as z.ZodType<AsymmetryInput>,
  run: ({ of, speeds }: AsymmetryInput): Asymmetry => {
    const differences = differencesOf(of.candidate.surfaces);
    const lookup = sectionLookup(of.sections);
    const design = atSpeed(of, of.speed, lookup);
    const own = differences.map(design.coefficients);
    const causes = differences.map(({ surface, kind, control, amount, given }, i): AsymmetryCause => ({
      surface: surface.id,
      name: surface.name,
      kind,
      ...(control && { control }),
      amount,
      given,
      ...design.toMoments(own[i]),
    }));
    const left: Asymmetry['left'] = [];
    const atAll = speeds.flatMap((speed): AsymmetryAtSpeed[] => {
      try {
        return [asymmetryAt(of, speed, lookup)];
      } catch (error) {
        if (!(error instanceof FailedComputation)) throw error;
        left.push({ speed, reason: error.message });
        return [];
      }
    });
    return {
      causes: [...causes.filter((c) => c.given), ...causes.filter((c) => !c.given)],
      now: toldAt(of.speed, design, differences, own),
      speeds: atAll,
      left,
      limit: limitOf(atAll),
    };
  },
});
