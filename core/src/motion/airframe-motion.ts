import type { LiftingSurface, Point3, Reference } from '../airframe';
import { placeSurface, referenceSurface } from '../airframe';
import { GRAVITY, type FlowState } from '../atmosphere';
import type { InertiaTensor, MassProperties } from '../balance';
import {
  makeLattice,
  quarterChordPoint,
  type ControlTravel,
  type FlightState,
  type LiftInput,
  type VortexLattice,
} from '../lift';
import { DEG, FailedComputation, RAD } from '../numerics';
import type { MeanLine } from '../section';
import type { DerivativeSet, MotionCase } from './derivatives';

/** Coefficients of a state of flight: about the centre of gravity, body axes. */
export interface StateCoefficients {
  CL: number;
  CD: number;
  CY: number;
  Cl: number;
  Cm: number;
  Cn: number;
}

/** What the derivatives of an airframe are taken from. */
export interface AirframeSource {
  /** Coefficients in a state at a speed, m/s. */
  at: (state: FlightState, speed: number) => StateCoefficients;
  /** Of several states at one speed, where that shares work; all with symmetry, or all without. */
  all?: (states: readonly FlightState[], speed: number) => StateCoefficients[];
  /** The lattice without viscosity, for what controls do. */ lattice: VortexLattice;
  surfaces: readonly LiftingSurface[];
  reference: Reference;
  centre: Point3;
  lineOf: (key: string) => MeanLine;
  /** What deflections come to, and where the controls stand, by id; without, all of them works, from zero. */
  travels?: Readonly<Record<string, ControlTravel>>;
}

/** A trimmed state of level flight: lift carries the weight, and no moment turns the aircraft. */
export interface TrimState {
  /** rad */ alpha: number;
  speed: number;
  CL: number;
  CD: number;
  /** Deflections that trim, rad by id of the control. */ controls: Record<string, number>;
  /** Pitching moment that is left where no control takes it. */ Cm: number;
}

/** Steps that slopes are taken over: angles and deflections in rad, rates as they are made non-dimensional, speeds as a share. */
const STEP = { angle: 0.5 * RAD, rate: 0.01, speed: 0.02 };
const STEEPEST = 0.35;
/** Pitching moment per rad of a control beside which the wing's flaps, at a tenth of theirs, do not count. */
const STRONG = 0.4;

/** The control that trims: the symmetric one with the greatest moment for its lift, off the wing where there is one. */
export function pitchControl(source: AirframeSource): { id: string; CL: number; Cm: number } | null {
  const wing = referenceSurface(source.surfaces).id;
  let best: { id: string; CL: number; Cm: number; score: number } | null = null;
  // Those off the wing first: where one of them is strong, no flap of the wing comes near it.
  const order = [...source.surfaces].sort((a, b) => Number(a.id === wing) - Number(b.id === wing));
  for (const s of order)
    for (const c of s.controls ?? []) {
      if (c.kind !== 'symmetric' || s.plane === 'vertical') continue;
      if (s.id === wing && best && best.score > STRONG) continue;
      const d = effectOf(source.lattice, 0, c.id);
      const score = Math.abs(d.Cm) * (s.id === wing ? 0.1 : 1);
      if (score > 1e-4 && (!best || score > best.score)) best = { id: c.id, CL: d.CL, Cm: d.Cm, score };
    }
  return best && { id: best.id, CL: best.CL, Cm: best.Cm };
}

/** What takes the pitching moment away in trim: what it does per rad, of the lattice, on lift and moment, and on the induced drag at an angle. */
export interface Trimmer {
  id: string;
  CL: number;
  Cm: number;
  /** The same at an angle of attack, rad. */ at: (alpha: number) => { CL: number; Cm: number };
  /** CDi changes by `slope` δ + ½ `curvature` δ². */ drag: (alpha: number) => { slope: number; curvature: number };
}

/** The control that trims, as {@link trimLevel} needs it; null without one. */
export function controlTrimmer(source: AirframeSource): Trimmer | null {
  const control = pitchControl(source);
  if (!control) return null;
  const { id } = control;
  const drag = (alpha: number, d: number) => source.lattice.coefficients({ alpha, controls: { [id]: d } }).CDi;
  return {
    ...control,
    at: (alpha) => effectOf(source.lattice, alpha, id),
    drag: (alpha) => parabola((d) => drag(alpha, d)),
  };
}

/** Slope and curvature at zero of what is a parabola. */
export function parabola(f: (x: number) => number, h = 0.05): { slope: number; curvature: number } {
  const [up, middle, down] = [f(h), f(0), f(-h)];
  return { slope: (up - down) / (2 * h), curvature: (up - 2 * middle + down) / (h * h) };
}

/** What a control does per rad in a state, of the lattice. */
function effectOf(lattice: VortexLattice, alpha: number, id: string): StateCoefficients {
  const h = 1e-3;
  const [up, down] = [h, -h].map((d) => lattice.coefficients({ alpha, controls: { [id]: d } }));
  const slope = (of: (p: typeof up) => number) => (of(up) - of(down)) / (2 * h);
  return {
    CL: slope((p) => p.CL),
    CD: slope((p) => p.CDi),
    CY: slope((p) => p.CY),
    Cl: slope((p) => p.Cl),
    Cm: slope((p) => p.Cm),
    Cn: slope((p) => p.Cn),
  };
}

/** Steady flight that is not straight and level. */
export interface SteadyFlight {
  /** Of the path, rad. */ climb?: number;
  /** Of a level turn, rad. */ bank?: number;
  /** Leaves the yawing of a turn out, which changes lift and drag in the second order: the flow is then alike on both sides. */ symmetric?: boolean;
  /** Where thrust acts (geometry's axes) and its tilt upward, rad: it balances the drag and the climb. */
  thrustLine?: { at: Point3; tilt?: number };
  /** Ends at a lift within 1e-5 of what is needed, for what only its thrust is read from. */ rough?: boolean;
  /** A trim near by, to begin from: its angle, lift coefficient and slope of lift. */ near?: {
    alpha: number;
    CL: number;
    slope: number;
  };
}

/** Where the lattice without trim stands. */
function nearBy(source: AirframeSource, rates: Partial<FlightState>): NonNullable<SteadyFlight['near']> {
  const [CL, tilted] = [0, 0.1].map((a) => source.lattice.coefficients({ alpha: a, ...rates }).CL);
  return { alpha: 0, CL, slope: (tilted - CL) / 0.1 };
}

/** What trimming took: the deflection as far as it works, rad, the lift that it made, and the slope of lift over the angle in trim, per rad. */
export interface Trimming {
  deflection: number;
  CL: number;
  slope: number;
}

/**
 * Trims steady flight at a speed: the angle, and the deflection of the control that pitches. What the control does is the lattice's, as far as its travel works.
 * @param weight N. @param flight climb, turn and thrust line; level flight with thrust through the centre without.
 * @param trimmer what takes the moment away: the control that pitches without, nothing where it is null.
 * @throws FailedComputation `no-trim` where no angle within ±20° carries the weight.
 * @source of turns: load factor 1/cos φ, q = (g/V)(n − 1/n), r = (g/V) sin φ; Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §7.
 */
export function trimLevel(
  source: AirframeSource,
  flow: FlowState,
  weight: number,
  flight: SteadyFlight = {},
  trimmer: Trimmer | null = controlTrimmer(source),
): TrimState & { thrust: number; loadFactor: number; trimmed: Trimming } {
  const { climb = 0, bank = 0, thrustLine } = flight;
  const { area, chord, span } = source.reference;
  const qS = flow.dynamicPressure * area;
  const loadFactor = Math.cos(climb) / Math.cos(bank);
  const turn = GRAVITY / flow.speed;
  const rates = {
    ...(bank !== 0 && {
      pitchRate: (turn * Math.sin(bank) * Math.tan(bank) * chord) / (2 * flow.speed),
      ...(!flight.symmetric && { yawRate: (turn * Math.sin(bank) * span) / (2 * flow.speed) }),
    }),
  };
  const control = trimmer;
  // The lattice alone comes near: it begins where that carries the weight, or beside a trim that is known.
  const near = flight.near ?? nearBy(source, rates);
  const begin = near.alpha + ((weight * loadFactor) / qS - near.CL) / near.slope;
  let alpha = Number.isFinite(begin) ? Math.max(-0.15, Math.min(0.2, begin)) : 0.03;
  // Thrust takes part in lift and moment: it balances the drag along the path.
  const at = (a: number) => {
    const c = source.at({ alpha: a, ...rates }, flow.speed);
    const tilt = a + (thrustLine?.tilt ?? 0);
    const thrust = (qS * c.CD + weight * Math.sin(climb)) / Math.max(0.2, Math.cos(tilt));
    if (!thrustLine) return { ...c, thrust: thrust * Math.cos(tilt), borne: 0 };
    const { at: p, tilt: own = 0 } = thrustLine;
    const [ahead, down] = [source.centre.x - p.x, source.centre.z - p.z];
    // Nose up of a force along the thrust line, body axes.
    const moment = thrust * (down * Math.cos(own) + ahead * Math.sin(own));
    const borne = (thrust * Math.sin(tilt)) / qS;
    return { ...c, CL: c.CL + borne, Cm: c.Cm + moment / (qS * chord), thrust, borne };
  };
  const needed = (weight * loadFactor) / qS;
  let now = at(alpha);
  let slope = flight.near?.slope ?? 5;
  for (let k = 0; k < 30; k++) {
    const deflection = control ? -now.Cm / control.Cm : 0;
    const CL = now.CL + (control?.CL ?? 0) * deflection;
    const miss = needed - CL;
    if (Math.abs(miss) < (flight.rough ? 1e-5 : 1e-7)) {
      const { slope: perDeflection, curvature } = control?.drag(alpha) ?? { slope: 0, curvature: 0 };
      const CD = now.CD + perDeflection * deflection + 0.5 * curvature * deflection ** 2;
      return {
        alpha,
        speed: flow.speed,
        CL: CL - now.borne,
        CD,
        controls: control
          ? { [control.id]: source.travels?.[control.id]?.deflectionFor(deflection) ?? deflection }
          : {},
        Cm: control ? 0 : now.Cm,
        thrust: now.thrust + qS * (CD - now.CD),
        loadFactor,
        trimmed: { deflection, CL: (control?.CL ?? 0) * deflection, slope },
      };
    }
    const next = Math.max(-STEEPEST, Math.min(STEEPEST, alpha + Math.max(-0.05, Math.min(0.05, miss / slope))));
    if (next === alpha) break;
    const then = at(next);
    const lift = (s: StateCoefficients) => s.CL - (control ? (control.CL * s.Cm) / control.Cm : 0);
    const found = (lift(then) - lift(now)) / (next - alpha);
    if (found > 0.2) slope = found;
    [alpha, now] = [next, then];
  }
  throw new FailedComputation(
    'no-trim',
    `${bank !== 0 ? `A turn at ${(bank * DEG).toFixed(0)}° of bank` : climb !== 0 ? 'This climb' : 'Level flight'} at ${flow.speed.toPrecision(3)} m/s needs a lift coefficient of ${needed.toPrecision(3)}, which no angle within ±20° carries in trim (at ${(alpha * DEG).toFixed(1)}° it is ${now.CL.toPrecision(3)}).`,
    'Fly faster, or lighter, or give it more wing.',
  );
}

/** Coefficients in stability axes: rolling and yawing moments about the axes of the stream. */
const inStability = (c: StateCoefficients, alpha: number): StateCoefficients => ({
  ...c,
  Cl: c.Cl * Math.cos(alpha) + c.Cn * Math.sin(alpha),
  Cn: c.Cn * Math.cos(alpha) - c.Cl * Math.sin(alpha),
});

const between = (up: StateCoefficients, down: StateCoefficients, step: number): StateCoefficients => {
  const d = (key: keyof StateCoefficients) => (up[key] - down[key]) / (2 * step);
  return { CL: d('CL'), CD: d('CD'), CY: d('CY'), Cl: d('Cl'), Cm: d('Cm'), Cn: d('Cn') };
};

/** A step in what a state is made of, up and down. */
interface Pair {
  step: number;
  of: (h: number) => Partial<FlightState>;
}
const WITH_ANGLE = (alpha: number): Pair => ({ step: STEP.angle, of: (h) => ({ alpha: alpha + h }) });

/** Slopes of pairs of states, each a step up and the same step down; stability axes. */
function slopesOf(source: AirframeSource, { alpha, speed }: TrimState, pairs: readonly Pair[]): StateCoefficients[] {
  const states = pairs.flatMap(({ step, of }) => [step, -step].map((h): FlightState => ({ alpha, ...of(h) })));
  const all = source.all?.(states, speed) ?? states.map((state) => source.at(state, speed));
  const told = all.map((c, i) => inStability(c, states[i].alpha));
  return pairs.map(({ step }, i) => between(told[2 * i], told[2 * i + 1], step));
}

/** Slopes with the angle, with what the deflections that trim do: that changes with the angle too, their drag above all. */
function withDeflections(source: AirframeSource, trim: TrimState, slopes: StateCoefficients): StateCoefficients {
  const out = { ...slopes };
  for (const [id, told] of Object.entries(trim.controls)) {
    const deflection = source.travels?.[id]?.effective(told) ?? told;
    const [up, down] = [1, -1].map((side) => effectOf(source.lattice, trim.alpha + side * STEP.angle, id));
    for (const key of ['CL', 'CD', 'Cm'] as const) out[key] += (deflection * (up[key] - down[key])) / (2 * STEP.angle);
  }
  return out;
}

/** Changes of the coefficients with the angle of attack about a trimmed state, per rad: the same numbers as in {@link airframeDerivatives}. */
export const angleSlopes = (source: AirframeSource, trim: TrimState): StateCoefficients =>
  withDeflections(source, trim, slopesOf(source, trim, [WITH_ANGLE(trim.alpha)])[0]);

/**
 * Derivatives about a trimmed state, stability axes, per rad, by central differences of the loads; those of controls are the lattice's, about
 * the deflection that trims.
 * @param flow at the speed of the trim. @source definitions: Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, chapter 5; rates with b/2V and c/2V. The lag of
 *   the downwash: what the tail loses by it comes its way behind the wing later.
 */
export function airframeDerivatives(source: AirframeSource, trim: TrimState, flow: FlowState): DerivativeSet {
  const { alpha, speed } = trim;
  const [c, s] = [Math.cos(alpha), Math.sin(alpha)];
  const slopes = (pairs: Pair[]) => slopesOf(source, trim, pairs);
  const [first, q] = slopes([WITH_ANGLE(alpha), { step: STEP.rate, of: (h) => ({ pitchRate: h }) }]);
  const a = withDeflections(source, trim, first);
  // Rates about the axes of the stream, told in those of the body.
  const [b, p, r] = slopes([
    { step: STEP.angle, of: (h) => ({ sideslip: h }) },
    { step: STEP.rate, of: (h) => ({ rollRate: h * c, yawRate: h * s }) },
    { step: STEP.rate, of: (h) => ({ rollRate: -h * s, yawRate: h * c }) },
  ]);
  const [faster, slower] = [1, -1].map((side) =>
    inStability(source.at({ alpha }, speed * (1 + side * STEP.speed)), alpha),
  );
  const u = between(faster, slower, STEP.speed);
  const mach2 = flow.mach ** 2;
  const compression = mach2 / (1 - mach2);
  const lag = lagDerivatives(source);
  const controls: DerivativeSet['controls'] = {};
  for (const surface of source.surfaces)
    for (const control of surface.controls ?? []) {
      const d = inStability(effectOf(source.lattice, alpha, control.id), alpha);
      const name = control.name in controls ? control.id : control.name || control.id;
      // About the deflection that trims.
      const k =
        source.travels?.[control.id]?.slope(trim.controls[control.id] ?? source.travels[control.id].standing) ?? 1;
      controls[name] = { CL: k * d.CL, CD: k * d.CD, Cm: k * d.Cm, CY: k * d.CY, Cl: k * d.Cl, Cn: k * d.Cn };
    }
  return {
    CL_alpha: a.CL,
    CD_alpha: a.CD,
    Cm_alpha: a.Cm,
    CL_q: q.CL,
    CD_q: q.CD,
    Cm_q: q.Cm,
    CL_alphadot: lag.CL,
    Cm_alphadot: lag.Cm,
    CL_u: u.CL + compression * trim.CL,
    CD_u: u.CD,
    Cm_u: u.Cm,
    CY_beta: b.CY,
    Cl_beta: b.Cl,
    Cn_beta: b.Cn,
    CY_p: p.CY,
    Cl_p: p.Cl,
    Cn_p: p.Cn,
    CY_r: r.CY,
    Cl_r: r.Cl,
    Cn_r: r.Cn,
    controls,
  };
}

/** Lift and moment per α-dot·c/2V: for every surface behind the wing, what the wing's downwash takes off it, times the time that it takes to get there. */
export function lagDerivatives(source: AirframeSource): { CL: number; Cm: number } {
  const { surfaces, reference, centre, lattice, lineOf } = source;
  const wing = referenceSurface(surfaces);
  const quarter = (s: LiftingSurface) => quarterChordPoint([s]).x;
  let [CL, Cm] = [0, 0];
  const h = 0.01;
  const slopes = (l: VortexLattice, id: string) => {
    const sum = (alpha: number) => {
      let lift = 0;
      for (const t of l.at({ alpha }).strips) {
        if (t.id !== id) continue;
        const part = l.lattice.parts.find((p) => p.id === id)!;
        const both = l.lattice.symmetry === 'half' && part.mirrored ? 2 : 1;
        lift += (both * t.cl * t.chord * t.width) / reference.area;
      }
      return lift;
    };
    return (sum(h) - sum(-h)) / (2 * h);
  };
  for (const s of surfaces) {
    if (s.id === wing.id || s.plane === 'vertical') continue;
    const arm = quarter(s) - quarter(wing);
    if (arm <= 0) continue;
    const alone = makeLattice({ surfaces: [s], reference, about: centre } as LiftInput, lineOf);
    // In projection: strips of a tail with dihedral lift less upward.
    const placed = placeSurface(s);
    const dihedral = placed.dihedrals[0] + (s.rollDeg ?? 0) * RAD;
    const lost = (slopes(alone, s.id) - slopes(lattice, s.id)) * Math.cos(dihedral) ** 2;
    const delay = (2 * arm) / reference.chord;
    CL += lost * delay;
    Cm -= (lost * delay * (quarter(s) - centre.x)) / reference.chord;
  }
  return { CL, Cm };
}

/** Moments of inertia about the centre in stability axes, as the equations of motion take them: Ixz = ∫xz dm. */
export function stabilityInertia(t: InertiaTensor, alpha: number): Pick<MotionCase, 'Ixx' | 'Iyy' | 'Izz' | 'Ixz'> {
  const [c, s] = [Math.cos(alpha), Math.sin(alpha)];
  // The product of the geometry's axes (aft, up) is that of the body's (forward, down).
  const xz = -t.xz;
  return {
    Ixx: t.xx * c * c + t.zz * s * s - 2 * s * c * xz,
    Iyy: t.yy,
    Izz: t.zz * c * c + t.xx * s * s + 2 * s * c * xz,
    Ixz: xz * (c * c - s * s) - s * c * (t.zz - t.xx),
  };
}

/**
 * The case of small motions about level flight of an airframe.
 * @throws FailedComputation `no-inertia` where all mass lies in one point or on one line.
 */
export function airframeCase(
  source: AirframeSource,
  mass: MassProperties,
  trim: TrimState,
  derivatives: DerivativeSet,
  flow: FlowState,
): MotionCase {
  const inertia = stabilityInertia(mass.inertia, trim.alpha);
  for (const key of ['Ixx', 'Iyy', 'Izz'] as const)
    // What rounding leaves is none.
    if (!(inertia[key] > 1e-9 * mass.mass * source.reference.span ** 2))
      throw new FailedComputation(
        'no-inertia',
        `The mass items have no moment of inertia ${key}: all mass lies ${key === 'Ixx' ? 'on one line along x' : 'in one point'}.`,
        'Give mass items a size or an inertia of their own, or place them apart.',
      );
  const { area, chord, span } = source.reference;
  return {
    mass: mass.mass,
    ...inertia,
    area,
    chord,
    span,
    speed: flow.speed,
    density: flow.density,
    climbDeg: 0,
    CL: trim.CL,
    CD: trim.CD,
    derivatives,
  };
}
