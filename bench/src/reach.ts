import { RAD } from '@veldtwind/core/numerics';
import { designationOutline } from '@veldtwind/core/section';
import { isSolved, polarPoints, ViscousSection, type ViscousPoint } from '@veldtwind/core/section-flow';

/** Sections from thin to thick, from symmetric to strongly cambered. */
export const LOW_SECTIONS = ['0006', '0009', '0012', '1410', '2411', '4415', '6412', '0018', '2421', '4424'];
export const LOW_REYNOLDS = [20_000, 30_000, 60_000, 100_000, 200_000];

/** What a sweep over angles came to. */
export interface Reached {
  section: string;
  reynolds: number;
  points: number;
  solved: number;
  /** Solved without a doubt. */
  sound: number;
  unsolved: number[];
  /** ms a point, and the longest unsolved one’s iterations. */
  msPerPoint: number;
  worstIterations: number;
}

/** One sweep over angles in degrees. */
export function reach(section: string, reynolds: number, alphas: readonly number[]): Reached {
  const solver = new ViscousSection(designationOutline(section));
  const begun = performance.now();
  const points: ViscousPoint[] = polarPoints(solver, {
    kind: 'fixed-re',
    conditions: { reynolds },
    alphas: alphas.map((a) => a * RAD),
  });
  const ms = performance.now() - begun;
  return {
    section,
    reynolds,
    points: points.length,
    solved: points.filter(isSolved).length,
    sound: points.filter((p) => p.status === 'solved').length,
    unsolved: alphas.filter((_, i) => !isSolved(points[i])),
    msPerPoint: ms / points.length,
    worstIterations: Math.max(0, ...points.filter((p) => !isSolved(p)).map((p) => p.iterations)),
  };
}

/** Prints how many points of a matrix are reached, by section and Reynolds number. */
export function printReach(sections: readonly string[], reynolds: readonly number[], alphas: readonly number[]): void {
  let [all, solved, sound, ms] = [0, 0, 0, 0];
  for (const section of sections)
    for (const re of reynolds) {
      const r = reach(section, re, alphas);
      all += r.points;
      solved += r.solved;
      sound += r.sound;
      ms += r.msPerPoint * r.points;
      console.log(
        `${section} Re ${String(re).padStart(8)}: ${r.solved} of ${r.points}, ${r.sound} without a doubt, ${r.msPerPoint.toFixed(0)} ms a point${
          r.unsolved.length ? `; unsolved at ${r.unsolved.join(' ')}° (${r.worstIterations} iterations at most)` : ''
        }`,
      );
    }
  console.log(
    `${solved} of ${all} points reached (${((100 * solved) / all).toFixed(2)} %), ${((100 * sound) / all).toFixed(1)} % without a doubt, ${(ms / all).toFixed(1)} ms a point`,
  );
}
