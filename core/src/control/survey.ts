import { FailedComputation, InvalidInput } from '../numerics';
import { studyLoop, type LoopStudy, type StudyInput } from './study';

/** Margins of the open loop, and the answer of the closed one to a step; units as in {@link LoopStudy}. */
export type LoopFacts = Pick<
  LoopStudy,
  | 'gainMarginDb'
  | 'phaseMarginDeg'
  | 'gainCrossover'
  | 'bandwidth'
  | 'riseTime'
  | 'overshoot'
  | 'settlingTime'
  | 'sensitivityPeak'
>;

/** A loop in a line: what it keeps and how fast it is, or why it cannot be told. */
export type LoopLine = {
  chain: string;
  loop: number;
} & (
  | (LoopFacts & Pick<LoopStudy, 'greatestEffort' | 'stable' | 'holds' | 'slowRoots' | 'reasons'> & { keeps: boolean })
  | { failure: string }
);

/** All loops of a candidate's chains. */
export function surveyLoops(input: Omit<StudyInput, 'chain' | 'loop'>): LoopLine[] {
  const { aims } = input.settings;
  return input.settings.chains.flatMap((chain) =>
    chain.laws.map((_, loop): LoopLine => {
      const at = { chain: chain.id, loop };
      try {
        const {
          step: _step,
          frequency: _f,
          path: _p,
          openPoles: _o,
          closedPoles: _c,
          ...s
        } = studyLoop({ ...input, ...at });
        const keeps =
          s.holds &&
          (s.gainMarginDb === null || Math.abs(s.gainMarginDb) >= aims.gainMarginDb) &&
          // Of a stable loop a negative one is a lead that it could bear.
          (s.phaseMarginDeg === null || Math.abs(s.phaseMarginDeg) >= aims.phaseMarginDeg);
        return { ...at, ...s, keeps };
      } catch (error) {
        if (error instanceof FailedComputation || error instanceof InvalidInput)
          return { ...at, failure: error.message };
        throw error;
      }
    }),
  );
}
