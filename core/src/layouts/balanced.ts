import { planformOf, type SectionLookup } from '../airframe';
import { massProperties } from '../balance';
import {
  airframeMotion,
  evaluateCandidate,
  sectionLookup,
  withPlacedMass,
  type AirframeMotion,
  type Evaluation,
} from '../candidate';
import { keptMeanLine } from '../lift';
import { DEG, FailedComputation, interpolate } from '../numerics';
import type { CandidatePart, SectionPart } from '../project';
import { flowState } from '../atmosphere';
import { starterLibrary } from '../starter';
import { layoutCandidate } from './candidate';
import { roomOf } from './masses';
import { startingState, type LayoutSections, type LayoutState } from './state';
import type { LayoutPlan } from './plans';
import { layoutSizes, type LayoutNumbers, type LayoutSizes } from './sizes';

/** A starting layout that balances, and what was assumed on the way. */
export interface StartingLayout {
  candidate: CandidatePart;
  sections: SectionPart[];
  /** Of level flight at the design speed, by the lattice. */
  found: {
    staticMargin: number;
    levelAngleDeg: number;
    span: number;
    area: number;
    payload: number;
    modes: { name: string; re: number; dampingRatio: number }[];
  };
  /** What it rests on, a sentence each. */ assumed: string[];
}

/** Body angle of level flight, degrees. */
const LEVEL_DEG = 1.5;
const ROUNDS = 9;
/** Of the moment coefficient, and of the static margin. */
const MOMENT_TOLERANCE = 4e-4;
const MARGIN_TOLERANCE = 2e-3;
/** Steps towards a spiral and a Dutch roll that hold. */
const LATERAL_STEPS = 9;
const LEAST_DUTCH_ROLL = 0.1;
const SLOWEST_SPIRAL_DOUBLE = 25;

/** Which sections fly at the Reynolds number of the mean chord. */
function sectionsFor(plan: LayoutPlan, reynolds: number): LayoutSections {
  const wing =
    plan.wing.section === 'reflexed'
      ? reynolds < 8e5
        ? 'kite-10-18'
        : 'kite-11-20'
      : plan.wing.section === 'fast'
        ? 'section-1410'
        : reynolds < 1.2e5
          ? 'tussock-7-30'
          : reynolds < 2.5e5
            ? 'tussock-8-30'
            : reynolds < 6e5
              ? 'tussock-10-25'
              : 'section-2414';
  return { wing, tail: 'reed-9' };
}

/** Level flight on a curve: its angle in rad, and the moment there. */
function levelOf(e: Evaluation): { alpha: number; Cm: number } {
  const { curve, design } = e;
  const [problem] = e.problems;
  if (!curve || design?.CL == null)
    throw new FailedComputation(
      'layout',
      problem?.message ?? 'The layout has no lift.',
      problem?.hint ?? 'Take other numbers.',
    );
  const of = (key: 'alpha' | 'CL' | 'Cm') => curve.points.map((p) => p[key]);
  const alpha = interpolate(of('CL'), of('alpha'), design.CL, 'line');
  return { alpha, Cm: interpolate(of('alpha'), of('Cm'), alpha, 'line') };
}

/**
 * A layout sized by its numbers and balanced by the lattice: mass as asked, static margin, level flight in trim with the controls at rest, dihedral and
 * fin until Dutch roll and spiral hold.
 * @throws InvalidInput `layout` where no aircraft of the kind can have these numbers; FailedComputation `layout` where it finds no balance.
 */
export function startingLayout(plan: LayoutPlan, numbers: LayoutNumbers): StartingLayout {
  const sizes = layoutSizes(plan, numbers);
  const flow = flowState(numbers.speed, numbers.altitude);
  const names = sectionsFor(plan, flow.reynoldsPerMetre * sizes.chord);
  const library = starterLibrary();
  const sections = [...new Set(Object.values(names) as string[])].map((id) => {
    const part = library.find((s) => s.id === id);
    if (!part) throw new FailedComputation('layout', `The starter library has no section ${id}.`, 'Report it.');
    return part;
  });
  const lookup = sectionLookup(Object.fromEntries(sections.map((s) => [s.id, s])));
  const search = new Search(plan, numbers, sizes, names, lookup);
  search.longitudinal();
  search.lateral();
  return { candidate: search.candidate(), sections, found: search.found(), assumed: assumptionsOf(plan, sizes) };
}

class Search {
  private readonly state: LayoutState;
  private readonly lineOf;
  private motion: AirframeMotion | null = null;
  /** Of the last round, for the next secant: a change of the moment for a degree. */
  private momentPerDeg: number | null = null;

  constructor(
    private readonly plan: LayoutPlan,
    private readonly numbers: LayoutNumbers,
    private readonly sizes: LayoutSizes,
    private readonly sections: LayoutSections,
    private readonly lookup: SectionLookup,
  ) {
    this.lineOf = (key: string) => keptMeanLine(lookup(key));
    this.state = startingState(plan, sizes);
  }

  candidate(state: LayoutState = this.state): CandidatePart {
    return layoutCandidate(this.plan, this.sizes, this.numbers, this.sections, state, this.lookup);
  }
  private evaluated(state: LayoutState): Evaluation {
    return evaluateCandidate(this.numbers, this.candidate(state), this.lookup, this.lineOf, undefined, {
      centres: false,
    });
  }

  /** Centre of gravity, body angle and moment, one after the other until all three hold. */
  longitudinal(): void {
    const { state, plan, sizes } = this;
    for (let round = 0; round < ROUNDS; round++) {
      const e = this.evaluated(state);
      const level = levelOf(e);
      const { balance, mass } = e;
      if (!balance || !mass) throw new FailedComputation('layout', 'The layout has no balance.', 'Take other numbers.');
      const missed = plan.staticMargin - balance.staticMargin;
      const turned = LEVEL_DEG - level.alpha * DEG;
      if (Math.abs(missed) < MARGIN_TOLERANCE && Math.abs(level.Cm) < MOMENT_TOLERANCE && Math.abs(turned) < 0.1)
        return;
      const chord = (balance.neutralPoint - mass.centre.x) / balance.staticMargin;
      this.moveCentre(mass.centre.x - missed * chord);
      state.wingIncidenceDeg = clipped(state.wingIncidenceDeg - turned, -6, 10);
      const moved = this.evaluated(state);
      const before = levelOf(moved);
      const after = levelOf(this.evaluated({ ...state, trimDeg: state.trimDeg + 1 }));
      this.momentPerDeg = after.Cm - before.Cm;
      if (Math.abs(this.momentPerDeg) > 1e-6)
        state.trimDeg = clipped(state.trimDeg - before.Cm / this.momentPerDeg, -14, 14);
    }
    const e = this.evaluated(state);
    const level = levelOf(e);
    if (
      Math.abs(level.Cm) > 10 * MOMENT_TOLERANCE ||
      Math.abs((e.balance?.staticMargin ?? 0) - plan.staticMargin) > 0.03
    )
      throw new FailedComputation(
        'layout',
        `No balance was found for ${plan.name.toLowerCase()} with a span of ${sizes.span.toFixed(2)} m.`,
        'Take another mass, speed or span.',
      );
  }

  /** Brings the centre of gravity to a place: with the payload, then the battery, then a longer or shorter nose. */
  private moveCentre(wanted: number): void {
    const { state, plan, sizes } = this;
    for (let k = 0; k < 24; k++) {
      const candidate = withPlacedMass(this.candidate(), this.lookup);
      const mass = massProperties(candidate.massItems);
      if (!mass) return;
      const moment = (wanted - mass.centre.x) * mass.mass;
      if (Math.abs(moment) < 1e-4 * mass.mass * sizes.chord) return;
      const [from, to] = roomOf(plan, state, sizes.chord);
      const payload = candidate.massItems.find((i) => i.id === 'payload')!.mass;
      const at = clipped(state.payloadX + moment / payload, from, to);
      const left = moment - (at - state.payloadX) * payload;
      const rest = clipped(state.energyX + left / sizes.masses.energy, from, to);
      const still = left - (rest - state.energyX) * sizes.masses.energy;
      state.payloadX = at;
      state.energyX = rest;
      if (Math.abs(still) < 1e-4 * mass.mass * sizes.chord) return;
      // What lies ahead of the wing goes along with the nose; the wing, and the centre that is wanted, move aft as it grows.
      const change = clipped((-0.6 * still) / mass.mass, -0.3 * sizes.chord, 0.5 * sizes.chord);
      const nose = Math.max(0.35 * sizes.chord, state.nose + change);
      const grown = nose - state.nose;
      if (Math.abs(grown) < 1e-5) return;
      state.nose = nose;
      wanted += grown;
      const room = roomOf(plan, state, sizes.chord);
      state.payloadX = still < 0 ? room[0] : room[1];
      state.energyX = still < 0 ? room[0] : room[1];
      if (plan.nose * sizes.chord * 4 < nose) return;
    }
  }

  /** Dihedral and fin, until spiral and Dutch roll hold as well as they can. */
  lateral(): void {
    const { state } = this;
    for (let k = 0; ; k++) {
      this.motion = airframeMotion(this.candidate(), this.lookup, this.lineOf, { ...this.numbers, polars: null });
      const spiral = this.motion.modes.find((m) => m.name === 'spiral');
      const dutch = this.motion.modes.find((m) => m.name === 'Dutch roll');
      const doubles = spiral && spiral.re > 0 ? Math.LN2 / spiral.re : Infinity;
      const weak = dutch !== undefined && dutch.dampingRatio < LEAST_DUTCH_ROLL;
      if (k === LATERAL_STEPS || (doubles > SLOWEST_SPIRAL_DOUBLE && !weak)) break;
      if (weak) state.finFactor *= 1.12;
      if (doubles <= SLOWEST_SPIRAL_DOUBLE) state.dihedralDeg = Math.min(12, state.dihedralDeg + 1);
      else if (weak) state.dihedralDeg = Math.max(0, state.dihedralDeg - 0.5);
      this.longitudinal();
    }
  }

  found(): StartingLayout['found'] {
    const motion = this.motion!;
    const wing = planformOf(this.candidate().surfaces[0]);
    return {
      staticMargin: motion.staticMargin,
      levelAngleDeg: motion.trim.alpha * DEG,
      span: wing.span,
      area: wing.area,
      payload: this.sizes.masses.payload,
      modes: motion.modes.map(({ name, re, dampingRatio }) => ({ name, re, dampingRatio })),
    };
  }
}

const clipped = (v: number, least: number, greatest: number) => Math.min(greatest, Math.max(least, v));

function assumptionsOf(plan: LayoutPlan, sizes: LayoutSizes): string[] {
  const share = (v: number) => `${Math.round((100 * v) / Object.values(sizes.masses).reduce((a, b) => a + b, 0))} %`;
  const out = [
    `Lift coefficient in level flight ${plan.wing.CL}: it sizes the wing${plan.second ? 's' : ''}.`,
    `Aspect ratio ${sizes.aspect.toFixed(1)}; ${plan.wing.aspect} is usual.`,
  ];
  if (plan.tailVolume > 0)
    out.push(
      `Volume coefficients ${plan.tailVolume} of the ${plan.tail === 'foreplane' ? 'foreplane' : 'tailplane'} and ${plan.finVolume} of the fin.`,
    );
  else out.push(`Volume coefficient ${plan.finVolume} of the fin.`);
  out.push(
    `Structure ${share(sizes.masses.structure)} of the mass, spread over the wetted area; equipment ${share(sizes.masses.equipment)}.`,
    `Static margin ${Math.round(100 * plan.staticMargin)} %: the payload is placed for it.`,
  );
  return out;
}
