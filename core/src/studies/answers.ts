import { standingIn, type SectionLookup } from '../airframe';
import {
  asymmetryAt,
  isAsymmetric,
  SYMMETRIC,
  airframeMotion,
  controlNames,
  evaluateCandidate,
  evaluateWithPolars,
  limitsAlone,
  loadedMass,
  performanceAlone,
  strengthOf,
  strengthSettings,
  withPlacedMass,
  zeroLiftDragOf,
} from '../candidate';
import { surveyLoops } from '../control';
import { steadySweep, type SteadyPoint } from '../flight';
import { keptMeanLine, type SectionPolars } from '../lift';
import { FailedComputation, InvalidInput, VeldtwindError } from '../numerics';
import type { PerformanceSettings } from '../performance';
import type { CandidatePart } from '../project';
import {
  NOTHING_MADE,
  responseOf,
  RESPONSES,
  valueOf,
  type LiftPoint,
  type Made,
  type MadeBy,
  type Quantity,
  type Response,
} from '../quantities';
import { answerKey, type Answer, type AnswerPlace } from './answer-schema';
import { LATTICE_QUANTITIES, LatticeAnswers } from './lattice-answers';
import {
  SECTION_ANSWERS,
  sectionAnswerOf,
  SectionAnswers,
  sectionPlaceWrong,
  type SectionAnswer,
} from './section-answers';
import { sectionOf } from './section-variables';
import type { StudySubject } from './variables';

/** The names that `vw model` has for responses of the registry. */
const MODEL_NAMES: Record<string, string> = {
  'balance.staticMargin': 'static-margin',
  'balance.neutralPoint': 'neutral-point',
  'balance.trimAngle': 'trim-angle',
  'balance.pitchSlope': 'pitch-slope',
  'motion.levelAngle': 'level-angle',
  'lift.slope': 'lift-slope',
  'lift.heaviestMass': 'performance.heaviestMass',
  'drag.coefficient': 'level-CD',
};

/** What an answer is read from: a response of the trimmed aircraft, the lattice at an angle or a lift, or a section. */
export type AskedOf =
  | { from: 'response'; q: Response }
  | { from: 'lattice'; q: Quantity<LiftPoint> }
  | { from: 'section'; q: SectionAnswer['q']; section: SectionAnswer };

const LATTICE = /^lattice\.(.+)$/;

/** What an id asks for: a response by its own id or its name in `vw model`, `lattice.…` or `sections.ID.…`. @throws InvalidInput `answer` for one that there is not. */
export function answerOf(id: string): AskedOf {
  const response = responseOf(MODEL_NAMES[id] ?? id);
  if (response) return { from: 'response', q: response };
  const name = LATTICE.exec(id)?.[1];
  const q = LATTICE_QUANTITIES.find((own) => own.id === name);
  if (q) return { from: 'lattice', q };
  const section = sectionAnswerOf(id);
  if (section) return { from: 'section', q: section.q, section };
  throw new InvalidInput('answer', `There is no quantity "${id}".`, 'vw study --list-answers tells them.', 'answers');
}

/** What each kind of answer may be told about its place. */
const PLACES: Record<AskedOf['from'], readonly (keyof AnswerPlace)[]> = {
  response: ['speed', 'altitude'],
  lattice: ['speed', 'altitude', 'alphaDeg', 'CL'],
  section: ['alphaDeg', 'CL', 're', 'mach', 'ncrit', 'tripTop', 'tripBottom'],
};

/** @throws InvalidInput `answer` for a quantity that there is not, or a place that does not fit it. */
export function checkAnswer({ id, at = {} }: Answer, subject: StudySubject): void {
  const asked = answerOf(id);
  const wrong = (why: string) => new InvalidInput('answer', `Answer "${id}" ${why}.`, 'Change "at".', 'answers');
  const foreign = Object.keys(at).find((k) => !PLACES[asked.from].includes(k as keyof AnswerPlace));
  if (foreign) throw wrong(`cannot be asked for at "${foreign}"`);
  if (asked.from === 'lattice' && (at.alphaDeg === undefined) === (at.CL === undefined))
    throw wrong('needs either alphaDeg or CL');
  if (asked.from !== 'section') return;
  const lacks = sectionPlaceWrong(asked.section, at);
  if (lacks) throw wrong(lacks);
  if (!sectionOf(subject.sections, asked.section.section))
    throw new InvalidInput(
      'answer',
      `There is no section "${asked.section.section}".`,
      'Give it under "sections" of the plan, or name one of the candidate.',
      'answers',
    );
}

/** Every answer that there is: its id, its name in `vw model` where it has another one, and what its place needs. */
export const answersThere = (): { id: string; model?: string; name: string; unit: string; needs?: string }[] => [
  ...RESPONSES.map((q) => {
    const model = Object.entries(MODEL_NAMES).find(([, id]) => id === q.id)?.[0];
    return { id: q.id, ...(model && { model }), name: q.name, unit: q.per ?? q.dimension };
  }),
  ...LATTICE_QUANTITIES.map((q) => ({
    id: `lattice.${q.id}`,
    name: q.name,
    unit: q.per ?? q.dimension,
    needs: 'alphaDeg or CL',
  })),
  ...SECTION_ANSWERS.map(({ q, needs }) => ({
    id: `sections.ID.${q.id}`,
    name: q.name,
    unit: q.per ?? q.dimension,
    ...(needs && { needs }),
  })),
];

/** How a subject is computed. */
export interface StudyMethod {
  /** Of the sections as they stand; null for the lattice alone. */ polars: SectionPolars[] | null;
  settings: PerformanceSettings;
  /** Of a subject whose sections vary; without it such a study has no polars. */
  polarsOf?: (subject: StudySubject) => Promise<SectionPolars[]>;
}

/** What answered, in the order of the answers: a number, or null with why. */
export interface Answered {
  values: (number | null)[];
  /** By the answer's key. */ reasons: Record<string, string>;
}

const NONE = 'It has none.';
const message = (error: unknown): string => {
  if (error instanceof VeldtwindError) return error.message;
  throw error;
};

/** What is made of a subject at one flight, each part when it is first asked for. */
class Maker {
  private readonly made: Partial<Record<MadeBy, Made[MadeBy] | string>> = {};
  constructor(
    private readonly subject: StudySubject,
    private readonly lookup: SectionLookup,
    private readonly method: StudyMethod,
    private readonly flight: { speed: number; altitude: number },
  ) {}

  /** A part, or why there is none. */
  async part<K extends MadeBy>(by: K): Promise<NonNullable<Made[K]> | string> {
    if (this.made[by] === undefined) {
      try {
        this.made[by] = await this.make(by);
      } catch (error) {
        this.made[by] = message(error);
      }
    }
    return this.made[by] as NonNullable<Made[K]> | string;
  }

  private async make(by: MadeBy): Promise<Made[MadeBy]> {
    const { subject, lookup, flight, method } = this;
    const { polars, settings } = method;
    const lineOf = (key: string) => keptMeanLine(lookup(key));
    const placed = withPlacedMass(subject.candidate, lookup);
    if (by === 'motion') return airframeMotion(placed, lookup, lineOf, { ...flight, polars });
    if (by === 'evaluation') {
      const brief = { ...flight, mass: loadedMass(placed).mass };
      // No answer is of other places of the centre, which take a sixth of the time.
      const here = { centres: false };
      const alone = evaluateCandidate(brief, placed, lookup, lineOf, undefined, here);
      const made = polars ? evaluateWithPolars(alone, brief, placed, lookup, lineOf, polars, here) : alone;
      const [problem] = made.problems;
      if (!made.lift) throw new FailedComputation(problem?.code ?? 'lift', problem?.message ?? 'It has no lift.', '');
      return made;
    }
    if (by === 'drag') return zeroLiftDragOf(placed, lookup, flight, this.levelFlight(placed));
    if (by === 'loops') {
      const { autopilot } = placed;
      if (!autopilot?.chains.length) throw new FailedComputation('no-loops', 'It has no control loops.', '');
      const moving = await this.part('motion');
      if (typeof moving === 'string') throw new FailedComputation('motion', moving, '');
      return surveyLoops({ of: moving.case, scale: {}, settings: autopilot, controls: controlNames(placed) });
    }
    if (by === 'asymmetry')
      return isAsymmetric(subject.candidate.surfaces)
        ? asymmetryAt({ candidate: subject.candidate, ...flight, polars }, flight.speed, lookup)
        : SYMMETRIC;
    if (by === 'strength')
      return strengthOf(subject.candidate, lookup, {
        ...strengthSettings(flight.speed, settings),
        altitude: flight.altitude,
        polars,
      });
    const input = {
      of: { candidate: subject.candidate, sections: {}, ...flight, polars },
      energy: subject.candidate.energy ?? null,
      settings,
    };
    return by === 'performance' ? performanceAlone(input, lookup) : limitsAlone(input, lookup);
  }

  /** Level flight, where the surfaces' drag is by the polars of their sections. */
  private levelFlight(placed: CandidatePart): readonly SteadyPoint[] {
    const { polars } = this.method;
    if (placed.drag?.surfaces !== 'polars' || !polars) return [];
    const { speed, altitude } = this.flight;
    const { mass, centre } = loadedMass(placed);
    const aircraft = { ...standingIn(placed), mass, about: centre, altitude, polars };
    const lineOf = (key: string) => keptMeanLine(this.lookup(key));
    return steadySweep(aircraft, speed, { kind: 'level', speeds: [speed] }, this.lookup, lineOf).points;
  }

  /** A response, or why there is none. */
  async answer(q: Response): Promise<number | string> {
    const needs: MadeBy[] = q.id === 'lift.spanEfficiency' ? ['motion', 'evaluation'] : [q.by];
    const made: Made = { ...NOTHING_MADE };
    for (const by of needs) {
      const part = await this.part(by);
      if (typeof part === 'string') return part;
      (made as unknown as Record<string, unknown>)[by] = part;
    }
    const value = valueOf(q, made);
    return value === null || !Number.isFinite(value) ? NONE : value;
  }
}

/**
 * Answers of a subject. What cannot be told is null with its reason; nothing is thrown but what is wrong with the question.
 * @param lookup of the sections of this subject.
 */
export async function answersFor(
  subject: StudySubject,
  lookup: SectionLookup,
  answers: readonly Answer[],
  method: StudyMethod,
): Promise<Answered> {
  const makers = new Map<string, { maker: Maker; lattice: LatticeAnswers }>();
  const sections = new SectionAnswers(lookup);
  const reasons: Record<string, string> = {};
  const values: (number | null)[] = [];
  for (const a of answers) {
    const flight = { speed: a.at?.speed ?? subject.flight.speed, altitude: a.at?.altitude ?? subject.flight.altitude };
    const key = `${flight.speed} ${flight.altitude}`;
    let at = makers.get(key);
    if (!at) {
      at = {
        maker: new Maker(subject, lookup, method, flight),
        lattice: new LatticeAnswers(subject, lookup, flight),
      };
      makers.set(key, at);
    }
    const asked = answerOf(a.id);
    const told =
      asked.from === 'response'
        ? await at.maker.answer(asked.q)
        : numberOr(() =>
            asked.from === 'lattice' ? asked.q.of(at.lattice.at(a.at!)) : sections.of(asked.section, a.at ?? {}),
          );
    values.push(typeof told === 'number' ? told : null);
    if (typeof told === 'string') reasons[answerKey(a)] = told;
  }
  return { values, reasons };
}

/** A number, or why there is none. */
function numberOr(make: () => number | null): number | string {
  try {
    const value = make();
    return value === null || !Number.isFinite(value) ? NONE : value;
  } catch (error) {
    return message(error);
  }
}
