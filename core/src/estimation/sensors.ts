import type { MotionCase } from '../motion';
import { RAD } from '../numerics';
import type { ResponseOutput } from './record';

/** What sensors show of a state of the linear motion, whose axes lie along the stream: those of rates and bank lie along the body. */
export function sensorsOf(c: MotionCase, alpha: number): Record<ResponseOutput, (x: readonly number[]) => number> {
  const [sin, cos, climb] = [Math.sin(alpha), Math.cos(alpha), c.climbDeg * RAD];
  return {
    speed: (x) => x[0],
    alpha: (x) => x[1] / c.speed,
    q: (x) => x[2],
    theta: (x) => x[3],
    beta: (x) => x[0] / c.speed,
    p: (x) => x[1] * cos - x[2] * sin,
    r: (x) => x[2] * cos + x[1] * sin,
    phi: (x) => (x[3] * Math.cos(climb)) / Math.cos(alpha + climb),
  };
}
