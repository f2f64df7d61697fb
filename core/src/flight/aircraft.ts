import { standing, type Body, type LiftingSurface, type Point3, type Reference, type SectionLookup } from '../airframe';
import { flowState, GRAVITY, type FlowState } from '../atmosphere';
import { dragBuildUp, dragShape, type DragSettings, type DragShape } from '../drag';
import {
  latticeMach,
  ViscousAirframe,
  type FlightState,
  type LatticeSpread,
  type SectionPolars,
  type StripSolution,
  type ViscousLoads,
} from '../lift';
import type { Engine } from '../propulsion';
import type { MeanLine } from '../section';
import { findLift } from './find-lift';
import { withStreamEffects } from './stream-effects';

/** An aircraft in steady flight: its shape, its drag, its weight and the air; SI, angles in rad. */
export interface Aircraft {
  surfaces: LiftingSurface[];
  bodies: Body[];
  reference?: Reference | null;
  drag?: Partial<DragSettings>;
  /** Point that moments are about; the quarter chord of the wing without. */
  about?: Point3;
  /** kg */ mass: number;
  /** m */ altitude: number;
  polars: SectionPolars[];
  spread?: LatticeSpread;
  /** False to see what the lift of bodies does. */
  bodiesLift?: boolean;
  /** Whose slipstream may be counted. */ engine?: Engine;
}

/** A state of steady flight: coefficients, forces on the aircraft and the speed that they belong to. */
export interface SteadyPoint extends ViscousLoads {
  /** m/s */ speed: number;
  /** N */ lift: number;
  drag: number;
  sideForce: number;
  /** N·m; about the moment reference. */ rollMoment: number;
  pitchMoment: number;
  yawMoment: number;
  /** Deflection of the control that is swept, rad. */ deflection?: number;
}

/** The aircraft at any speed; what does not change with the speed is computed once. */
export class SteadyAircraft {
  readonly surfaces: LiftingSurface[];
  readonly weight: number;
  private readonly first: ViscousAirframe;
  private readonly speeds = new Map<number, ViscousAirframe>();
  private readonly shape: DragShape;

  /**
   * @param speed that compressibility and the first answer belong to, m/s.
   * @throws InvalidInput for a shape that cannot be, or a drag build-up that cannot be made; FailedComputation `polar-missing`.
   */
  constructor(
    readonly aircraft: Aircraft,
    readonly speed: number,
    private readonly lookup: SectionLookup,
    lineOf: (key: string) => MeanLine,
  ) {
    const { bodies, reference, polars, spread, about, altitude } = aircraft;
    const { engine, mass, drag } = aircraft;
    this.surfaces = withStreamEffects(
      { surfaces: standing(aircraft.surfaces, bodies), bodies, reference, drag, engine, speed, altitude, mass },
      lookup,
      lineOf,
    );
    this.weight = mass * GRAVITY;
    const flow = flowState(speed, altitude);
    this.shape = dragShape({ surfaces: this.surfaces, bodies, reference }, lookup);
    this.first = new ViscousAirframe(
      {
        surfaces: this.surfaces,
        speed,
        reynoldsPerMetre: flow.reynoldsPerMetre,
        polars,
        parasite: this.parasiteAt(flow),
        bodies: aircraft.bodiesLift === false ? [] : bodies,
        ...(reference ? { reference } : {}),
        ...(spread ? { spread } : {}),
        ...(about ? { about } : {}),
        mach: latticeMach(flow.mach),
      },
      lineOf,
    );
    if (!this.sharesPolars) this.speeds.set(speed, this.first);
  }

  get reference(): Reference {
    return this.first.lattice.reference;
  }
  get momentReference(): Point3 {
    return this.first.lattice.about;
  }
  get panels(): number {
    return this.first.lattice.lattice.panels;
  }

  flowAt(speed: number): FlowState {
    return flowState(speed, this.aircraft.altitude);
  }

  /**
   * Drag of bodies and allowances: all of the build-up but the surfaces, whose drag is their polars'.
   * @param profiles of the surfaces, where allowances are shares of them.
   */
  private parasiteAt(flow: FlowState, profiles: Record<string, number> | null = null): number {
    const { bodies, drag } = this.aircraft;
    const built = dragBuildUp({ surfaces: this.surfaces, bodies, drag }, flow, this.lookup, this.shape, profiles);
    return built.CD - built.parts.reduce((sum, p) => sum + (p.kind === 'surface' ? p.CD : 0), 0);
  }

  /** Whether allowances are shares of what the polars of the surfaces come to in level flight. */
  private get sharesPolars(): boolean {
    const { drag, mass } = this.aircraft;
    const shares = drag?.allowances?.some(({ kind }) => kind === 'share' || kind === 'reserve') ?? false;
    return shares && drag?.surfaces === 'polars' && mass > 0;
  }

  /** Profile drag of the surfaces in level flight; null where there is none. */
  private levelProfiles(airframe: ViscousAirframe, speed: number): Record<string, number> | null {
    const { point, met } = findLift(
      (alpha, turns) => {
        const solution = airframe.balance({ alpha }, turns);
        return { point: airframe.loads([{ alpha }], [solution])[0], solution };
      },
      this.liftNeeded(speed),
      { alpha: 0 },
    );
    return met && point.status !== 'unsolved' ? point.profiles : null;
  }

  /** The airframe in the flow at a speed. */
  at(speed: number): ViscousAirframe {
    let made = this.speeds.get(speed);
    if (!made) {
      const flow = this.flowAt(speed);
      const as = (parasite: number) => this.first.atSpeed(speed, flow.reynoldsPerMetre, parasite);
      made = as(this.parasiteAt(flow));
      const profiles = this.sharesPolars ? this.levelProfiles(made, speed) : null;
      if (profiles) made = as(this.parasiteAt(flow, profiles));
      this.speeds.set(speed, made);
    }
    return made;
  }

  /** Lift coefficient that carries the weight at a speed. */
  liftNeeded(speed: number): number {
    return this.weight / (this.flowAt(speed).dynamicPressure * this.reference.area);
  }

  /** Loads with their forces at a speed. */
  point(loads: ViscousLoads, speed: number): SteadyPoint {
    const q = this.flowAt(speed).dynamicPressure;
    const { area, span, chord } = this.reference;
    return {
      ...loads,
      speed,
      lift: q * area * loads.CL,
      drag: q * area * loads.CD,
      sideForce: q * area * loads.CY,
      rollMoment: q * area * span * loads.Cl,
      pitchMoment: q * area * chord * loads.Cm,
      yawMoment: q * area * span * loads.Cn,
    };
  }

  /** Loads in several states at a speed: all with symmetry, or all without. @param from turns of a state near by. */
  allLoads(states: readonly FlightState[], speed: number, from?: Float64Array): SteadyPoint[] {
    const airframe = this.at(speed);
    let turns = from;
    const solutions = states.map((state) => {
      const solution = airframe.balance(state, turns);
      if (solution.converged) turns = solution.turns;
      return solution;
    });
    return airframe.loads(states, solutions).map((point) => this.point(point, speed));
  }

  /** Loads in one state at a speed, and the turns of its strips to go on from. */
  loads(state: FlightState, speed: number, from?: Float64Array): { point: SteadyPoint; solution: StripSolution } {
    const airframe = this.at(speed);
    const solution = airframe.balance(state, from);
    return { point: this.point(airframe.loads([state], [solution])[0], speed), solution };
  }
}
