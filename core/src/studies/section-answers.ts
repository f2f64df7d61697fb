import type { SectionLookup } from '../airframe';
import { FailedComputation, InvalidInput, RAD } from '../numerics';
import { flappedOutline, polarFacts, type PolarFacts } from '../polar';
import { FACT_QUANTITIES, POLAR_QUANTITIES, SECTION_QUANTITIES, type Quantity } from '../quantities';
import { atLift, isSolved, polarPoints, ViscousSection, type SolvedPoint, type SolvedState } from '../section-flow';
import { sourceFacts } from '../shaping';
import type { AnswerPlace } from './answer-schema';

/** A quantity of one section: of its shape, of the flow at one angle or lift, or of its polar. */
export type SectionAnswer =
  | { of: 'shape'; section: string; q: (typeof SECTION_QUANTITIES)[number] }
  | { of: 'flow'; section: string; q: Quantity<SolvedPoint> }
  | { of: 'polar'; section: string; q: Quantity<PolarFacts> };

const DEFAULT_NCRIT = 9;
/** Angles of the sweep that a polar's facts are read from, rad. */
const SWEEP = Array.from({ length: 27 }, (_, i) => (i - 6) * RAD);

/** What an id such as `sections.s.cd` asks of a section; undefined where it is of no section. @throws InvalidInput `answer` for a quantity that sections have not. */
export function sectionAnswerOf(id: string): SectionAnswer | undefined {
  const [, section, name] = /^sections\.([^.]+)\.([A-Za-z0-9-]+)$/.exec(id) ?? [];
  if (!section) return undefined;
  const shape = SECTION_QUANTITIES.find((q) => q.id === name);
  if (shape) return { of: 'shape', section, q: shape };
  const flow = POLAR_QUANTITIES.find((q) => q.id === name);
  if (flow) return { of: 'flow', section, q: flow };
  const polar = FACT_QUANTITIES.find((q) => q.id === name);
  if (polar) return { of: 'polar', section, q: polar };
  throw new InvalidInput('answer', `A section has no quantity "${name}".`, 'vw study --list-answers tells them.');
}

/** Quantities of sections, for a list: their ids behind `sections.ID.`, and what their place needs. */
export const SECTION_ANSWERS = [
  ...SECTION_QUANTITIES.map((q) => ({ q, needs: '' })),
  ...POLAR_QUANTITIES.map((q) => ({ q, needs: 're, and alphaDeg or CL' })),
  ...FACT_QUANTITIES.map((q) => ({ q, needs: 're' })),
];

/** What the place of a section's answer lacks; null where it has all. */
export function sectionPlaceWrong({ of }: SectionAnswer, at: AnswerPlace): string | null {
  if (of === 'shape') return null;
  if (at.re === undefined) return 'needs a Reynolds number (re)';
  if (of === 'flow' && (at.alphaDeg === undefined) === (at.CL === undefined)) return 'needs either alphaDeg or CL';
  return null;
}

/**
 * Answers of the sections of one subject. Each point is solved from the one before it in the order asked, never from another subject's: the same
 * subject answers with the same digits whatever was solved before.
 */
export class SectionAnswers {
  private readonly solvers = new Map<string, { section: ViscousSection; state?: SolvedState; re?: number }>();
  private readonly points = new Map<string, SolvedPoint | string>();
  private readonly facts = new Map<string, PolarFacts>();
  constructor(private readonly lookup: SectionLookup) {}

  /** @throws VeldtwindError for a section that cannot be made, or a flow that is not solved. */
  of(answer: SectionAnswer, at: AnswerPlace): number | null {
    const { section } = answer;
    if (answer.of === 'shape') return answer.q.of(sourceFacts(this.lookup(section)));
    if (answer.of === 'flow') return answer.q.of(this.point(section, at));
    return answer.q.of(this.polar(section, at));
  }

  private solver(key: string) {
    let made = this.solvers.get(key);
    if (!made) {
      made = { section: new ViscousSection(flappedOutline(this.lookup(key), null).outline) };
      this.solvers.set(key, made);
    }
    return made;
  }

  private point(section: string, at: AnswerPlace): SolvedPoint {
    const key = JSON.stringify([section, at]);
    let known = this.points.get(key);
    if (known === undefined) {
      const own = this.solver(section);
      const conditions = conditionsOf(at);
      const near = own.state && own.re === at.re ? own.state : undefined;
      const point =
        at.CL === undefined
          ? own.section.at(at.alphaDeg! * RAD, conditions, near)
          : atLift(own.section, at.CL, { kind: 'fixed-re', conditions }, near, {});
      if (isSolved(point) && own.section.solved) [own.state, own.re] = [own.section.state(), at.re];
      known = isSolved(point) ? point : `The flow about section ${section} is not solved: ${point.reason}`;
      this.points.set(key, known);
    }
    if (typeof known === 'string') throw new FailedComputation('unsolved', known, '');
    return known;
  }

  private polar(section: string, at: AnswerPlace): PolarFacts {
    const key = JSON.stringify([section, at]);
    let known = this.facts.get(key);
    if (!known) {
      const own = this.solver(section);
      known = polarFacts(polarPoints(own.section, { kind: 'fixed-re', conditions: conditionsOf(at), alphas: SWEEP }));
      this.facts.set(key, known);
    }
    return known;
  }
}

const conditionsOf = ({ re, mach, ncrit = DEFAULT_NCRIT, tripTop, tripBottom }: AnswerPlace) => ({
  reynolds: re!,
  criticalAmplification: ncrit,
  ...(mach !== undefined && { mach }),
  ...(tripTop !== undefined && { tripTop }),
  ...(tripBottom !== undefined && { tripBottom }),
});
