import { z } from 'zod';
import { ACTUATION_LIMITS, servoGives, type Actuation, type Servo } from '../actuation';
import type { Control, LiftingSurface, SectionLookup } from '../airframe';
import { flowState, GRAVITY, type FlowState } from '../atmosphere';
import { DEFAULT_LATTICE, keptMeanLine, latticeMach, stripSections, stripShares, thinHingeSlopes } from '../lift';
import { within } from '../limits';
import { trimLevel, type AirframeSource } from '../motion';
import { DEG, FailedComputation, InvalidInput, RAD, VeldtwindError } from '../numerics';
import { flappedOutline } from '../polar';
import { BRIEF_LIMITS } from '../project';
import { analysis, Cancelled } from '../results';
import type { MeanLine } from '../section';
import {
  isSolved,
  ViscousSection,
  type Distributions,
  type SolvedState,
  type ViscousPoint,
  type Way,
} from '../section-flow';
import { loadedMass, motion, motionSource, type MotionInput, type MovingCandidate } from './motion';
import { powered } from './powered';
import { sectionLookup } from './section-lookup';
import { effectiveDeflections } from './travels';

/** How a hinge moment was found: from the solved flow of its sections, one that is doubtful, or by thin-section theory where none was found. */
export type HingeStatus = 'solved' | 'doubtful' | 'estimated';

/** The hinge moment of one panel of a control at one deflection. */
export interface HingePoint {
  deflectionDeg: number;
  /** On stream pressure and the integral of the chord behind the hinge squared over the span; driving to positive deflections positive. */
  hingeCoefficient: number;
  /** Of the air about the hinge, one panel, N·m. */
  torque: number;
  status: HingeStatus;
  reason?: string;
}

/** The same with a servo. */
export interface ServoPoint extends HingePoint {
  /** What the servo holds, N·m about the hinge; null where there is no servo, or it gives none. */
  servo: number | null;
  /** Share of it that is left when it holds all its panels, below 0 where it cannot; null as above. */
  reserve: number | null;
  servoReason?: string;
}

/** A control at one speed. */
export interface ControlTorque {
  id: string;
  name: string;
  surface: string;
  /** Whether there is a panel on either side. */ mirrored: boolean;
  /** ∫ c_f² dy of one panel, m³. */ size: number;
  points: HingePoint[];
}

/** A control with its servo. */
export interface ServoTorque extends Omit<ControlTorque, 'points'> {
  /** Panels that one servo moves. */ panels: 1 | 2;
  points: ServoPoint[];
  /** Place in points of the one with the least reserve, or with the greatest torque where there is no servo. */
  worst: number;
}

/** All controls at one speed, or why the aircraft does not fly there. */
export interface TorqueAtSpeed {
  speed: number;
  /** Of the level flight, rad. */ alpha: number | null;
  controls: ControlTorque[];
  failure?: string;
}

/** Groups of strips along a control, each solved at its middle. */
const GROUPS = 2;
/** Deflections between the limits, so many steps either way. */
const STEPS = 3;
/** Above it the compressibility rule of sections no longer holds. */
const MOST_MACH = 0.6;

/** A group of strips: what the flow at its middle depends on, and its weight ∫ c_f² dy, m³. */
interface Group {
  section: string;
  /** Angle in the flow normal to the hinge, rad. */ angle: number;
  /** The same against zero lift of the section without the flap. */ lifting: number;
  reynolds: number;
  weight: number;
  cosSweep: number;
}

/** A section's hinge moment, and what the next deflection goes on from. */
interface Before {
  coefficient: number;
  /** rad */ deflection: number;
  /** Per rad between the last two deflections; none of the first. */ slope?: number;
  status: HingeStatus;
  reason?: string;
  state?: SolvedState;
}

/** Deflections of a control at which it is looked at, degrees: its limits, zero, and steps between. */
export function torqueDeflections({ limitsDeg: [low, high] }: Pick<Control, 'limitsDeg'>): number[] {
  const list = [0];
  for (let k = 1; k <= STEPS; k++) list.push((low * k) / STEPS, (high * k) / STEPS);
  return [...new Set(list.filter((d) => d >= low && d <= high))].sort((a, b) => a - b);
}

/**
 * Hinge moments of a candidate's controls over their travel in level flight at a speed. The angle of level flight stays while one control moves. Strips of
 * the lattice tell what angle the sections meet; the flow of a section with its flap turned tells the moment, normal to the hinge line.
 * @param conditions critical amplification of the sections. @param only ids of controls; all without.
 * @throws InvalidInput `no-mass`, `controls` where there is none; FailedComputation `no-trim`.
 */
export class HingeMoments {
  private readonly sections = new Map<string, { section: ViscousSection; hinge: { x: number; y: number } }>();

  constructor(
    private readonly candidate: MovingCandidate,
    private readonly lookup: SectionLookup,
    private readonly options: {
      altitude: number;
      loading?: string;
      ncrit?: number;
      /** By control: the part ahead of the hinge, a share of the chord behind it. */ overhangs?: Record<
        string,
        number
      >;
      /** Called after each control. */ told?: () => Promise<void> | void;
      cancelled?: () => boolean;
    },
  ) {}

  private readonly lineOf = (key: string): MeanLine => keptMeanLine(this.lookup(key));

  /** Controls with the surfaces that they are of. */
  controls(): { surface: LiftingSurface; control: Control }[] {
    return this.candidate.surfaces.flatMap((surface) =>
      (surface.controls ?? []).map((control) => ({ surface, control })),
    );
  }

  async at(speed: number, deflectionsDeg?: readonly number[]): Promise<TorqueAtSpeed> {
    const { altitude, loading } = this.options;
    const list = this.controls();
    if (list.length === 0)
      throw new InvalidInput(
        'controls',
        'The candidate has no control.',
        'Give a surface a control first.',
        'surfaces',
      );
    const mass = loadedMass(this.candidate, loading);
    const flow = flowState(speed, altitude);
    const bare = motionSource(this.candidate, this.lookup, this.lineOf, mass, speed, altitude, null);
    const { source, flight } = powered(bare, this.candidate.engine, flow, mass.mass * GRAVITY, {});
    const trim = trimLevel(source, flow, mass.mass * GRAVITY, flight);
    const controls: ControlTorque[] = [];
    for (const { control } of list) {
      if (this.options.cancelled?.()) throw new Cancelled();
      const surface = source.surfaces.find((s) => s.controls?.some((c) => c.id === control.id))!;
      controls.push(
        this.ofControl(source, flow, trim, surface, control, deflectionsDeg?.slice() ?? torqueDeflections(control)),
      );
      await this.options.told?.();
    }
    return { speed, alpha: trim.alpha, controls };
  }

  private ofControl(
    source: AirframeSource,
    flow: FlowState,
    trim: { alpha: number; controls: Record<string, number> },
    surface: LiftingSurface,
    control: Control,
    deflectionsDeg: number[],
  ): ControlTorque {
    const overhang = this.options.overhangs?.[control.id] ?? 0;
    const vertical = surface.plane === 'vertical' ? -1 : 1;
    let size = 0;
    const at = (deflectionDeg: number, before: Before[]): HingePoint => {
      const groups = this.groups(source, flow, trim, surface, control, deflectionDeg * RAD);
      size = groups.reduce((s, g) => s + g.weight, 0);
      let [torque, status] = [0, 'solved' as HingeStatus];
      const reasons = new Set<string>();
      groups.forEach((g, k) => {
        // A section meets a rudder with its own sense of up.
        const told = this.section(g, control.hinge, vertical * deflectionDeg, overhang, flow.mach, before[k]);
        torque += vertical * told.coefficient * flow.dynamicPressure * g.cosSweep ** 3 * g.weight;
        if (told.status === 'estimated' || status === 'solved') status = told.status;
        if (told.reason) reasons.add(told.reason);
        before[k] = told;
      });
      return {
        deflectionDeg,
        hingeCoefficient: size > 0 ? torque / (flow.dynamicPressure * size) : 0,
        torque,
        status,
        ...(reasons.size > 0 && { reason: [...reasons].join(' ') }),
      };
    };
    // Outward from rest, so that each flow goes on from the one before it.
    const found = new Map<number, HingePoint>();
    for (const side of [deflectionsDeg.filter((d) => d >= 0), deflectionsDeg.filter((d) => d < 0)]) {
      const before: Before[] = [];
      for (const d of side.sort((p, q) => Math.abs(p) - Math.abs(q))) found.set(d, at(d, before));
    }
    const points = deflectionsDeg.map((d) => found.get(d)!);
    return { id: control.id, name: control.name, surface: surface.id, mirrored: surface.mirrored, size, points };
  }

  private groups(
    source: AirframeSource,
    flow: FlowState,
    trim: { alpha: number; controls: Record<string, number> },
    surface: LiftingSurface,
    control: Control,
    deflection: number,
  ): Group[] {
    const controls = effectiveDeflections(source.surfaces, { ...trim.controls, [control.id]: deflection });
    const lattice = source.lattice.lattice;
    const { strips: loads } = source.lattice.at({ alpha: trim.alpha, controls });
    const sections = (given: Record<string, number>) =>
      stripSections(source.surfaces, lattice, this.lineOf, DEFAULT_LATTICE.spacing, given, false);
    const [turned, bare] = [sections(controls), sections({})];
    const index = source.surfaces.indexOf(surface);
    const mach = latticeMach(flow.mach);
    const strips: (Group & { share: number })[] = [];
    let start = 0;
    for (const part of lattice.parts) {
      if (part.surface === index && part.station[0] >= 0) {
        const shares = stripShares(part, control.from, control.to);
        for (let s = 0; s < part.strips; s++) {
          if (shares[s] <= 0) continue;
          const strip = turned[start + s];
          const normal = mach * strip.cosSweep;
          const slope = (2 * Math.PI * strip.cosSweep) / Math.sqrt(1 - normal * normal);
          const angle = loads[start + s].cl / slope + strip.zeroLift;
          const met = strip.zeroLift + (angle - strip.zeroLift) / strip.cosSweep;
          const [main] = bare[start + s].shares.slice().sort((a, b) => b.weight - a.weight);
          strips.push({
            section: main.section,
            angle: met,
            lifting: met - bare[start + s].zeroLift,
            reynolds: flow.reynoldsPerMetre * strip.chord,
            weight: shares[s] * strip.width * (strip.chord * (1 - control.hinge)) ** 2,
            cosSweep: strip.cosSweep,
            share: shares[s],
          });
        }
      }
      start += part.strips;
    }
    if (strips.length === 0)
      throw new FailedComputation('control-strips', `${control.name} has no strip of the lattice.`, 'Make it wider.');
    return grouped(strips);
  }

  /** Hinge moment coefficient of a section, on its chord behind the hinge; trailing edge down positive. */
  private section(
    g: Group,
    hinge: number,
    deflectionDeg: number,
    overhang: number,
    mach: number,
    before: Before | undefined,
  ): Before {
    const deflection = deflectionDeg * RAD;
    const estimate = (why: string): Before => {
      const { perAngle, perDeflection } = thinHingeSlopes(hinge);
      // Thin sections resist more than real ones; two flows that were found tell how much less.
      const slope = before?.slope ?? perDeflection;
      return {
        coefficient: before
          ? before.coefficient + slope * (deflection - before.deflection)
          : perAngle * g.lifting + perDeflection * deflection,
        deflection,
        slope,
        status: 'estimated',
        reason: `${before?.slope === undefined ? 'By thin-section theory' : 'By the slope of the deflections that were solved'}: ${why}`,
      };
    };
    try {
      const key = `${g.section}|${hinge}|${deflectionDeg}`;
      let ready = this.sections.get(key);
      if (!ready) {
        const { outline, hinge: at } = flappedOutline(this.lookup(g.section), {
          x: hinge,
          y: 0.5,
          angleDeg: deflectionDeg,
        });
        ready = { section: new ViscousSection(outline), hinge: at! };
        this.sections.set(key, ready);
      }
      const { section, hinge: about } = ready;
      const conditions = {
        reynolds: g.reynolds,
        criticalAmplification: this.options.ncrit ?? 9,
        mach: Math.min(MOST_MACH, mach * g.cosSweep),
      };
      // Afresh first: a flap that has turned is another shape. Then from the deflection before, then from thinner layers.
      const ways: [SolvedState | undefined, Way, number][] = [
        [undefined, 'easier-angle', 90],
        [before?.state, 'easier-angle', 200],
        [undefined, 'higher-reynolds', 250],
      ];
      let point: ViscousPoint | undefined;
      for (const [from, way, effort] of ways)
        if (!point || !isSolved(point))
          point = section.at(g.angle, conditions, from, { hinge: about, effort, ways: [way] });
      if (!point || !isSolved(point) || !point.hinge)
        return estimate(
          `no flow was found at ${(g.angle * DEG).toFixed(1)}° with ${deflectionDeg.toFixed(0)}° of flap.`,
        );
      const along = section.distributions();
      const behind = 1 - about.x;
      const ahead = overhang > 0 && along ? pressureMoment(along, about, about.x - overhang * behind, about.x) : 0;
      const coefficient = point.hinge.momentOnFlapChord + ahead / behind ** 2;
      return {
        coefficient,
        deflection,
        ...(before && { slope: (coefficient - before.coefficient) / (deflection - before.deflection) }),
        status: point.status,
        ...(section.solved && { state: section.state() }),
        ...(point.reason !== undefined && { reason: point.reason }),
      };
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      return estimate(error.message);
    }
  }
}

/** Moment about a hinge of the pressures between two places of the chord, over q c²; trailing edge down positive. */
export function pressureMoment(
  along: Distributions,
  hinge: { x: number; y: number },
  from: number,
  to: number,
): number {
  let moment = 0;
  for (const [surface, sense] of [
    [along.top, 1],
    [along.bottom, -1],
  ] as const) {
    const { x, y, cp } = surface;
    for (let i = 1; i < x.length; i++) {
      const mx = 0.5 * (x[i] + x[i - 1]);
      if (mx <= from || mx > to) continue;
      const [dx, dy] = [x[i] - x[i - 1], y[i] - y[i - 1]];
      const my = 0.5 * (y[i] + y[i - 1]);
      moment += sense * 0.5 * (cp[i] + cp[i - 1]) * ((mx - hinge.x) * dx + (my - hinge.y) * dy);
    }
  }
  return moment;
}

/** Strips in groups of nearly one weight, from root to tip. */
function grouped(strips: readonly Group[]): Group[] {
  const whole = strips.reduce((s, g) => s + g.weight, 0);
  const out: Group[] = [];
  let [from, before] = [0, 0];
  for (let k = 0; k < GROUPS && from < strips.length; k++) {
    let to = from;
    while (to < strips.length && (to === from || before < ((k + 1) / GROUPS) * whole - 1e-12))
      before += strips[to++].weight;
    const own = strips.slice(from, k === GROUPS - 1 ? strips.length : to);
    const weight = own.reduce((s, g) => s + g.weight, 0);
    const mean = (of: (g: Group) => number) => own.reduce((s, g) => s + g.weight * of(g), 0) / weight;
    out.push({
      section: own[Math.floor(own.length / 2)].section,
      angle: mean((g) => g.angle),
      lifting: mean((g) => g.lifting),
      reynolds: mean((g) => g.reynolds),
      cosSweep: mean((g) => g.cosSweep),
      weight,
    });
    from = to;
  }
  return out;
}

/** What a servo has to hold, and has left, over a control's travel; the place where it has least, or the torque is greatest where there is none. */
export function withServo(control: ControlTorque, servo: Servo | undefined): ServoTorque {
  const panels = servo?.both && control.mirrored ? 2 : 1;
  const points = control.points.map((p): ServoPoint => {
    const given = servo && servoGives(servo, p.deflectionDeg * RAD);
    const held = given?.torque ?? null;
    return {
      ...p,
      servo: held,
      reserve: held === null ? null : 1 - (panels * Math.abs(p.torque)) / held,
      ...(given && given.torque === null && { servoReason: given.reason }),
    };
  });
  return { ...control, panels, points, worst: worstOf(points) };
}

function worstOf(points: readonly ServoPoint[]): number {
  // A servo that does not reach is worse than any that has too little.
  const badness = (p: ServoPoint) =>
    p.servoReason !== undefined ? Infinity : p.reserve === null ? Math.abs(p.torque) : -p.reserve;
  return points.reduce((best, p, i) => (badness(p) > badness(points[best]) ? i : best), 0);
}

/** Overhangs of an actuation, by control; none where there are none. */
export function overhangsOf(actuation: Actuation = {}): Record<string, number> | undefined {
  const list = Object.entries(actuation).flatMap(([id, { overhang }]) => (overhang ? [[id, overhang] as const] : []));
  return list.length ? Object.fromEntries(list) : undefined;
}

/** What the torque of a candidate's controls depends on; SI. */
export interface TorqueInput {
  of: MotionInput;
  /** Shares of the chord behind the hinge that lie ahead of it, by control. */ overhangs?: Record<string, number>;
  speeds: number[];
  ncrit?: number;
}

/** Torque of all controls over their travel, at each of some speeds. */
export const controlTorque = analysis({
  version: 2,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    overhangs: z.record(z.string(), within(ACTUATION_LIMITS.overhang)).optional(),
    speeds: z.array(within(BRIEF_LIMITS.speed)).min(1).max(12),
    ncrit: z.number().min(0.1).max(30).optional(),
  }) as z.ZodType<TorqueInput>,
  run: async ({ of, overhangs, speeds, ncrit }: TorqueInput, context): Promise<TorqueAtSpeed[]> => {
    const count = of.candidate.surfaces.reduce((s, f) => s + (f.controls?.length ?? 0), 0);
    let done = 0;
    const moments = new HingeMoments(of.candidate, sectionLookup(of.sections), {
      ...(overhangs && { overhangs }),
      altitude: of.altitude,
      ...(of.loading === undefined ? {} : { loading: of.loading }),
      ...(ncrit === undefined ? {} : { ncrit }),
      cancelled: context.cancelled,
      told: async () => {
        context.report?.({ done: ++done, of: count * speeds.length });
        await context.breathe?.();
      },
    });
    const out: TorqueAtSpeed[] = [];
    for (const speed of speeds) {
      try {
        out.push(await moments.at(speed));
      } catch (error) {
        // A speed at which it does not fly says nothing about the others; a candidate without mass or control flies at none.
        if (!(error instanceof FailedComputation) || speeds.length === 1) throw error;
        out.push({ speed, alpha: null, controls: [], failure: error.message });
      }
    }
    return out;
  },
});
