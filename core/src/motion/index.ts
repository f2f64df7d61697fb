import { longitudinalSystem, lateralSystem, type LinearSystem } from './matrices';
import { doubtsOf, type MotionCase } from './derivatives';
import { modesOf, type Mode } from './modes';

export * from './airframe-motion';
export * from './derivatives';
export * from './forms';
export * from './lateral-trim';
export * from './levels';
export * from './manoeuvre';
export * from './measured-set';
export * from './named';
export * from './matrices';
export * from './modes';
export * from './response';
export * from './sensitivity';
export * from './static-stability';
export * from './stick-free';

/** Small motions about steady flight. */
export interface Motion {
  matrices: { longitudinal: LinearSystem; lateral: LinearSystem };
  modes: Mode[];
  /** What looks wrong in what was given. */ doubts: string[];
}

/** Matrices and modes of an aircraft in steady flight. @throws FailedComputation from {@link modesOf}. */
export function motionOf(c: MotionCase): Motion {
  const matrices = { longitudinal: longitudinalSystem(c), lateral: lateralSystem(c) };
  return { matrices, modes: modesOf(matrices.longitudinal, matrices.lateral, c.speed), doubts: doubtsOf(c) };
}
