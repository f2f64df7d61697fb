import type { SectionLookup } from '../airframe';
import { massProperties } from '../balance';
import { liftInputOf, streamed, withPlacedMass } from '../candidate';
import { keptMeanLine, makeLattice, type VortexLattice } from '../lift';
import { FailedComputation, RAD } from '../numerics';
import { LATERAL_QUANTITIES, LIFT_QUANTITIES, type LiftPoint, type Quantity } from '../quantities';
import { flowState } from '../atmosphere';
import type { AnswerPlace } from './answer-schema';
import type { StudySubject } from './variables';

/** Only a state with polars tells these. */
const WITH_POLARS = [
  'CD',
  'CD-profile',
  'CD-parasite',
  'lift-to-drag',
  'drag',
  'speed',
  'sink',
  'power',
  'stalled',
  'deflection',
];
/** What the lattice tells of an untrimmed aircraft at an angle of attack, or at a lift. */
export const LATTICE_QUANTITIES: readonly Quantity<LiftPoint>[] = [
  ...LIFT_QUANTITIES.filter((q) => !WITH_POLARS.includes(q.id)),
  ...LATERAL_QUANTITIES,
];

const CLOSE = 1e-9;
const MOST_STEPS = 12;
const FARTHEST = 40 * RAD;

/** The lattice of a subject at one flight; it is made once. */
export class LatticeAnswers {
  private lattice?: VortexLattice;
  private readonly points = new Map<string, LiftPoint>();
  constructor(
    private readonly subject: StudySubject,
    private readonly lookup: SectionLookup,
    private readonly flight: { speed: number; altitude: number },
  ) {}

  private solver(): VortexLattice {
    if (!this.lattice) {
      const lineOf = (key: string) => keptMeanLine(this.lookup(key));
      const placed = withPlacedMass(this.subject.candidate, this.lookup);
      const mass = massProperties(placed.massItems)?.mass;
      const brief = { ...this.flight, mass: mass ?? 0 };
      // The streams of propellers and wakes are those of a lift that is carried: without a mass there is none.
      const shaped = mass === undefined ? placed : streamed(brief, placed, mass, this.lookup, lineOf);
      const input = liftInputOf(brief, shaped);
      this.lattice = makeLattice(input, lineOf);
    }
    return this.lattice;
  }

  /** The state at an angle or a lift. @throws FailedComputation where no angle within ±40° has the lift. */
  at({ alphaDeg, CL }: AnswerPlace): LiftPoint {
    const key = `${alphaDeg} ${CL}`;
    let point = this.points.get(key);
    if (!point) {
      const solver = this.solver();
      const alpha = CL === undefined ? alphaDeg! * RAD : angleOfLift(solver, CL);
      const { dynamicPressure } = flowState(this.flight.speed, this.flight.altitude);
      point = { point: solver.at({ alpha }), reference: solver.reference, dynamicPressure };
      this.points.set(key, point);
    }
    return point;
  }
}

/** The angle of attack that has a lift coefficient, rad, by secants. */
function angleOfLift(solver: VortexLattice, CL: number): number {
  const miss = (alpha: number) => solver.coefficients({ alpha }).CL - CL;
  let [a, b] = [0, 0.05];
  let [fa, fb] = [miss(a), miss(b)];
  for (let k = 0; k < MOST_STEPS && Math.abs(fb) > CLOSE; k++) {
    const next = b - (fb * (b - a)) / (fb - fa);
    if (!(Math.abs(next) < FARTHEST)) break;
    [a, fa, b, fb] = [b, fb, next, miss(next)];
  }
  if (Math.abs(fb) > 1e-6)
    throw new FailedComputation('lift', `No angle of attack within 40° gives a lift coefficient of ${CL}.`, '');
  return b;
}
