import {
  levelSpanEfficiency,
  type AirframeMotion,
  type AsymmetryAtSpeed,
  type Evaluation,
  type Performance,
  type PerformanceLimits,
  type Strength,
} from '../candidate';
import type { LoopLine } from '../control';
import type { DragBuildUp } from '../drag';
import { ASYMMETRY_QUANTITIES } from './asymmetry';
import { CANDIDATE_QUANTITIES } from './candidate';
import { DRAG_QUANTITIES } from './drag';
import { LOOPS_QUANTITIES } from './loop';
import { MODE_QUANTITIES, MOTION_QUANTITIES } from './motion';
import { LEVEL_QUANTITIES, LIMIT_QUANTITIES, PERFORMANCE_QUANTITIES } from './performance';
import type { Quantity } from './quantity';
import { STRENGTH_QUANTITIES } from './strength';

/** What was made of a candidate, by what made it; null where it is not there. */
export interface Made {
  evaluation: Evaluation | null;
  motion: AirframeMotion | null;
  performance: Performance | null;
  limits: PerformanceLimits | null;
  /** Drag of the shape without lift. */ drag: DragBuildUp | null;
  /** The loops of its autopilot, closed about its motion; empty where it has none. */ loops:
    readonly LoopLine[] | null;
  /** Of its built surfaces. */ strength: Pick<Strength, 'surfaces'> | null;
  /** Of unequal halves. */ asymmetry: AsymmetryAtSpeed | null;
}
/** What responses are about, by what makes them: headings of lists. */
export const RESPONSE_SUBJECTS: Readonly<Record<MadeBy, string>> = {
  performance: 'Performance',
  limits: 'Performance',
  evaluation: 'Lift and balance',
  motion: 'Motion',
  drag: 'Drag',
  loops: 'Control',
  strength: 'Structure',
  asymmetry: 'Asymmetry',
};
/** Nothing is made yet. */
export const NOTHING_MADE: Readonly<Made> = {
  evaluation: null,
  motion: null,
  performance: null,
  limits: null,
  drag: null,
  loops: null,
  strength: null,
  asymmetry: null,
};
export type MadeBy = keyof Made;

/** A quantity of a whole candidate: what a brief may ask for, and a study may answer with. */
export interface Response extends Quantity<Made> {
  /** What makes it. */ by: MadeBy;
  /** Of level flight at a speed, m/s; `of` is that of the design speed. */ at?: (
    made: Made,
    speed: number,
  ) => number | null;
}

/** What a response is, at a speed where one is asked for, m/s. */
export const valueOf = (q: Response, made: Made, speed?: number): number | null =>
  speed === undefined || !q.at ? q.of(made) : q.at(made, speed);

const from = <K extends MadeBy>(by: K, list: readonly Quantity<NonNullable<Made[K]>>[]): Response[] =>
  list.map(({ of, ...q }) => ({
    ...q,
    by,
    of: (made) => {
      const own = made[by];
      return own === null ? null : of(own as NonNullable<Made[K]>);
    },
  }));

/** Of a level flight that was asked for. */
const level = (id: string) => {
  const q = LEVEL_QUANTITIES.find((own) => own.id === id)!;
  const at = ({ performance }: Made, speed: number) => {
    const point = performance?.at.find((p) => p.speed === speed);
    return point ? q.of(point) : null;
  };
  return { q, at };
};
/** Quantities of level flight that no other list tells at the design speed. */
const LEVEL = [
  'climb-rate',
  'climb-angle',
  'level-drag',
  'level-ratio',
  'level-sink',
  'throttle',
  'trim-deflection',
  'travel-left',
].map((id): Response => {
  const { q, at } = level(id);
  return { ...q, by: 'performance', of: ({ performance }) => performance && q.of(performance.design), at };
});
const POWER_REQUIRED: Response = {
  ...from('performance', PERFORMANCE_QUANTITIES).find((q) => q.id === 'performance.powerRequired')!,
  at: level('power-needed').at,
};

const SPAN_EFFICIENCY: Response = {
  id: 'lift.spanEfficiency',
  symbol: 'e level',
  name: 'span efficiency in level flight',
  says: 'of the lift in trim, without viscosity',
  formula: 'e = CL²/(π A CDi)',
  dimension: 'plain',
  digits: 3,
  by: 'motion',
  of: ({ motion, evaluation }) => (motion && evaluation?.lift ? levelSpanEfficiency(motion, evaluation) : null),
};

const all: Response[] = [
  POWER_REQUIRED,
  ...from('performance', PERFORMANCE_QUANTITIES),
  ...from('limits', LIMIT_QUANTITIES),
  ...LEVEL,
  ...from('evaluation', CANDIDATE_QUANTITIES),
  ...from('motion', MOTION_QUANTITIES),
  ...from('motion', MODE_QUANTITIES),
  SPAN_EFFICIENCY,
  ...from('drag', DRAG_QUANTITIES),
  ...from('loops', LOOPS_QUANTITIES),
  ...from('strength', STRENGTH_QUANTITIES),
  ...from('asymmetry', ASYMMETRY_QUANTITIES),
];
/** Every quantity of a candidate once: one that two analyses tell is the same number, and the first one here tells it. */
export const RESPONSES: readonly Response[] = all.filter((q, i) => all.findIndex((o) => o.id === q.id) === i);

/** Whether a response is told at every edit: a performance takes a second. */
export const isQuick = (q: Response): boolean => ['evaluation', 'motion', 'drag', 'asymmetry'].includes(q.by);
/** A response by its id; undefined for one that this program does not know. */
export const responseOf = (id: string): Response | undefined => RESPONSES.find((q) => q.id === id);
