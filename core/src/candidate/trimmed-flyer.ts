import { referenceSurface, type SectionLookup } from '../airframe';
import { flowState, GRAVITY } from '../atmosphere';
import type { MassProperties } from '../balance';
import { makeLattice, type SectionPolars } from '../lift';
import {
  controlTrimmer,
  parabola,
  pitchControl,
  trimLevel,
  type AirframeSource,
  type StateCoefficients,
  type SteadyFlight,
  type Trimmer,
} from '../motion';
import { FailedComputation, RAD } from '../numerics';
import type { Flyer, SteadyRequest, TrimmedBy, TrimmedPoint } from '../performance';
import { pushes, Thruster } from '../propulsion';
import type { MeanLine } from '../section';
import { groundEffect } from '../simulation';
import { tabulated } from './coefficient-table';
import { loadedMass, motionSource, type MovingCandidate } from './motion';
import { withPlacedMass } from './placed-mass';
import { powered } from './powered';
import { stallOf, type TrimmedStall } from './trimmed-stall';

/** Linear compressible flow ends about here. @source any textbook: Prandtl and Glauert's rule up to the critical Mach number. */
const MOST_MACH = 0.7;
/** Step of an incidence over which its effect is taken, rad. */
const STEP = 1 * RAD;
/** Steps of angle that the greatest lift upside down is looked for at, rad. */
const INVERTED = Array.from({ length: 17 }, (_, i) => -i * RAD);

/** The surface whose incidence trims: that of the control which pitches, off the wing; else the one that is furthest from the wing along x. */
export function trimSurface(surfaces: MovingCandidate['surfaces'], control: string | null): string | null {
  const wing = referenceSurface(surfaces);
  const others = surfaces.filter((s) => s.id !== wing.id && s.plane !== 'vertical');
  const own = others.find((s) => s.controls?.some((c) => c.id === control));
  if (own) return own.id;
  const away = (s: (typeof others)[number]) => Math.abs(s.position.x - wing.position.x);
  return others.sort((a, b) => away(b) - away(a))[0]?.id ?? null;
}

/** What the incidence of a surface does, by the lattice of the aircraft with it turned. */
function incidenceTrimmer(source: AirframeSource, surfaceId: string, mach: number): Trimmer {
  const { reference, centre: about } = source;
  const turned = (rad: number) => {
    const surfaces = source.surfaces.map((s) =>
      s.id === surfaceId ? { ...s, incidenceDeg: (s.incidenceDeg ?? 0) + rad / RAD } : s,
    );
    return makeLattice({ surfaces: [...surfaces], reference, about, mach }, source.lineOf);
  };
  const [up, down] = [turned(STEP), turned(-STEP)];
  const turnedAt = (alpha: number) => [up, source.lattice, down].map((l) => l.coefficients({ alpha }));
  const at = (alpha: number) => {
    const [high, , low] = turnedAt(alpha);
    return { CL: (high.CL - low.CL) / (2 * STEP), Cm: (high.Cm - low.Cm) / (2 * STEP) };
  };
  return {
    id: surfaceId,
    ...at(0),
    at,
    drag(alpha) {
      const [u, m, d] = turnedAt(alpha).map((c) => c.CDi);
      return parabola((x) => (x > 0 ? u : x < 0 ? d : m), STEP);
    },
  };
}

/** Coefficients and what trims them, at an altitude. */
interface Air {
  source: AirframeSource;
  trimmer: Trimmer | null;
  /** The last trim, from which the next one begins. */ near?: SteadyFlight['near'];
}

/**
 * A candidate that flies: trims of its whole flight by the functions of Balance and Motion, so that their numbers are the same.
 * @param options altitude m and speed m/s of the design point, about which controls and streams are taken; polars, or null for the lattice alone with the drag
 *   build-up, which knows no stall.
 */
export class CandidateFlyer implements Flyer {
  readonly weight: number;
  readonly area: number;
  readonly chord: number;
  readonly liftSlope: number;
  readonly thruster: Thruster | null;
  readonly mass: MassProperties;
  private readonly candidate: MovingCandidate;
  private readonly quick: boolean = false;
  private searching: CandidateFlyer | null = null;
  private table: AirframeSource | null = null;
  private readonly airs = new Map<number, Air>();
  private readonly quickAirs = new Map<number, Air>();
  private readonly stalls = new Map<number, TrimmedStall | FailedComputation>();
  private inverted: { CL: number | null } | null = null;

  constructor(
    candidate: MovingCandidate,
    private readonly lookup: SectionLookup,
    private readonly lineOf: (key: string) => MeanLine,
    private readonly options: {
      speed: number;
      altitude: number;
      loading?: string;
      polars: SectionPolars[] | null;
      trimmedBy?: TrimmedBy;
      /** Thrust along the path through the centre of gravity, whatever line the engine has. */ alongPath?: boolean;
    },
  ) {
    this.candidate = withPlacedMass(candidate, lookup);
    this.mass = loadedMass(this.candidate, options.loading);
    this.weight = this.mass.mass * GRAVITY;
    const { source } = this.air(options.altitude);
    this.area = source.reference.area;
    this.chord = source.reference.chord;
    const [a, b] = [0, 2 * RAD].map((alpha) => source.lattice.coefficients({ alpha }).CL);
    this.liftSlope = (b - a) / (2 * RAD);
    const { engine } = this.candidate;
    this.thruster = pushes(engine) ? new Thruster(engine) : null;
  }

  /** Coefficients at an altitude: of the design altitude, at the speed that has the same Reynolds number there. */
  private air(altitude: number, quick = this.quick): Air {
    const airs = quick ? this.quickAirs : this.airs;
    let made = airs.get(altitude);
    if (made) return made;
    const own = this.options.altitude;
    if (altitude !== own || quick) {
      const exact = this.air(own, false);
      this.table ??= tabulated(exact.source);
      const { source } = quick ? { source: this.table } : exact;
      const same = (h: number) => flowState(1, h).reynoldsPerMetre;
      const k = same(altitude) / same(own);
      const at: AirframeSource['at'] = (state, v) => source.at(state, v * k);
      made = { source: { ...source, at, all: undefined }, trimmer: exact.trimmer };
    } else {
      const { speed, polars, trimmedBy = 'control' } = this.options;
      const { mach } = flowState(speed, altitude);
      const source = motionSource(this.candidate, this.lookup, this.lineOf, this.mass, speed, altitude, polars);
      const surface =
        trimmedBy === 'incidence' ? trimSurface(this.candidate.surfaces, pitchControl(source)?.id ?? null) : null;
      const trimmer =
        trimmedBy === 'control'
          ? controlTrimmer(source)
          : surface === null
            ? null
            : incidenceTrimmer(source, surface, Math.min(mach, MOST_MACH));
      made = { source, trimmer };
    }
    airs.set(altitude, made);
    return made;
  }

  /** Itself, with coefficients from a table. */
  get search(): Flyer {
    if (this.quick) return this;
    if (!this.searching) {
      this.searching = Object.create(this) as CandidateFlyer;
      Object.defineProperty(this.searching, 'quick', { value: true });
    }
    return this.searching;
  }

  trim(request: SteadyRequest): TrimmedPoint {
    const { speed, altitude, climb, bank, weightShare = 1, idle = false, thrust, split = false } = request;
    const air = this.air(altitude);
    const { source: bare, trimmer } = air;
    const flow = flowState(speed, altitude);
    const weight = this.weight * weightShare;
    const { engine } = this.candidate;
    // A trim that failed is no place to begin from.
    const { near } = air;
    air.near = undefined;
    const { source, flight } = powered(
      bare,
      idle || this.options.alongPath ? undefined : engine,
      flow,
      weight,
      { climb, bank, near, symmetric: true },
      { thrust, trimmer },
    );
    const trim = trimLevel(source, flow, weight, flight, trimmer);
    const { CL: own, slope } = trim.trimmed;
    air.near = { alpha: trim.alpha, CL: (weight * trim.loadFactor) / (flow.dynamicPressure * this.area), slope };
    const beside = split ? this.beside(source, trim.alpha + own / slope, speed) : null;
    const qS = flow.dynamicPressure * this.area;
    const fast =
      flow.mach > MOST_MACH
        ? `Mach ${flow.mach.toFixed(2)} is above ${MOST_MACH}, the limit of the method.`
        : undefined;
    const doubt = fast ?? beside?.doubt;
    return {
      speed,
      altitude,
      alpha: trim.alpha,
      control: trimmer && this.controlOf(trimmer.id, trim.controls[trimmer.id] ?? 0),
      CL: trim.CL,
      CD: trim.CD,
      CDtrim: trimmer && beside ? trim.CD - beside.CD : 0,
      Cm: trim.Cm,
      drag: qS * trim.CD,
      cosTilt: flight.thrustLine ? Math.cos(trim.alpha + (flight.thrustLine.tilt ?? 0)) : 1,
      loadFactor: trim.loadFactor,
      ...(doubt !== undefined && { doubt }),
    };
  }

  /** Drag at an angle without the deflection that trims, and why it is not to be relied on. */
  private beside(source: AirframeSource, alpha: number, speed: number): { CD: number; doubt?: string } {
    const { CD, status, reason } = source.at({ alpha }, speed) as StateCoefficients & {
      status?: string;
      reason?: string;
    };
    const doubt = status === undefined || status === 'solved' ? undefined : (reason ?? 'The strips did not settle.');
    return { CD, ...(doubt !== undefined && { doubt }) };
  }

  /** Name and deflection of what trims, and the limit that it would go beyond. */
  private controlOf(id: string, deflection: number): TrimmedPoint['control'] {
    const surface = this.candidate.surfaces.find((s) => s.id === id);
    if (surface) return { id, name: `Incidence of ${surface.name}`, deflection, limit: null, left: null };
    const control = this.candidate.surfaces.flatMap((s) => s.controls ?? []).find((c) => c.id === id);
    const [least, most] = (control?.limitsDeg ?? [-90, 90]).map((d) => d * RAD);
    const limit = deflection < least ? least : deflection > most ? most : null;
    const left = Math.min(deflection - least, most - deflection);
    return { id, name: control?.name || id, deflection, limit, left };
  }

  /** The slowest level flight in trim, or why there is none. */
  stallIn(altitude: number): TrimmedStall | FailedComputation {
    let found = this.stalls.get(altitude);
    if (!found) {
      try {
        if (!this.options.polars)
          throw new FailedComputation('no-stall', 'Without viscosity there is no stall.', 'Use section polars.');
        const { source, trimmer } = this.air(altitude, altitude !== this.options.altitude);
        found = stallOf(source, this.weight, altitude, this.options.speed, trimmer);
      } catch (error) {
        if (!(error instanceof FailedComputation)) throw error;
        found = error;
      }
      this.stalls.set(altitude, found);
    }
    return found;
  }

  stall(altitude: number, weightShare = 1): number | null {
    const found = this.stallIn(altitude);
    // At one greatest lift the speed goes with the root of the weight.
    return found instanceof FailedComputation ? null : found.speed * Math.sqrt(weightShare);
  }

  get leastCL(): number | null {
    if (!this.inverted) this.inverted = { CL: this.leastLift() };
    return this.inverted.CL;
  }

  /** The least lift coefficient, controls as they stand; null where it still falls at the last angle. */
  private leastLift(): number | null {
    const { polars, speed, altitude } = this.options;
    if (!polars) return null;
    const { source } = this.air(altitude);
    let least = Infinity;
    for (const alpha of INVERTED) {
      const { CL, status } = source.at({ alpha }, speed) as StateCoefficients & { status?: string };
      if (status === 'unsolved' || !Number.isFinite(CL)) return least < 0 ? least : null;
      if (CL > least) return least;
      least = CL;
    }
    return null;
  }

  /**
   * Lift and drag on the ground at an attitude, controls as they stand. @param alpha rad. @param speed m/s.
   * @param height of the centre of gravity over the ground, m; 0 leaves ground effect out. @throws InvalidInput `ground` where a surface would reach into it.
   */
  onGround(alpha: number, speed: number, altitude: number, height = 0): { CL: number; CD: number } {
    const { source } = this.air(altitude);
    const { CL, CD } = source.at({ alpha }, speed);
    const near = height > 0 ? groundEffect(source, height, alpha) : { CL: 0, CD: 0 };
    return { CL: CL + near.CL, CD: CD + near.CD };
  }
}
