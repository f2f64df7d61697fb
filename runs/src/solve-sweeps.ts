import type { Sweep } from '@veldtwind/core/polar';
import type { ViscousPoint } from '@veldtwind/core/section-flow';
import { curvePoints, type CurvePoint } from '@veldtwind/core/polar';
import type { Backend } from './backend';

/** What came of a sweep: its points in order of their places, and why there are no more where it failed. */
export interface SolvedSweep {
  points: ViscousPoint[];
  failure?: string;
}

/**
 * Solves sweeps beside each other, without keeping them anywhere.
 * @param onPoint told how many points of all are there. @returns one entry a sweep, in their order.
 */
export async function solveSweeps(
  sweeps: readonly Sweep[],
  backend: Backend,
  onPoint?: (done: number, of: number) => void,
): Promise<SolvedSweep[]> {
  const of = sweeps.reduce((sum, s) => sum + s.values.length, 0);
  let done = 0;
  const out: SolvedSweep[] = new Array(sweeps.length);
  let next = 0;
  const lane = async () => {
    while (next < sweeps.length) {
      const index = next++;
      const { input, values } = sweeps[index];
      const points = new Map<number, CurvePoint>();
      const { ended } = backend.run({ id: index, curve: index, input, values, known: [], past: [] }, ({ point }) => {
        if (!point) return;
        if (!points.has(point.place)) onPoint?.(++done, of);
        points.set(point.place, point);
      });
      const end = await ended;
      out[index] = {
        points: curvePoints(input, [...points.values()]).map((p) => p.point),
        ...(end.how === 'done' ? {} : { failure: 'message' in end ? end.message : 'It was ended.' }),
      };
    }
  };
  await Promise.all(Array.from({ length: Math.max(1, backend.capacity) }, lane));
  return out;
}
