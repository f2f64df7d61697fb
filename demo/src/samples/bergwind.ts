import type { CandidatePart } from '@veldtwind/core/project';
import { fromLayout, payloadAft, withAllowances, type Sample } from './sample';

/** With the polars of its sections it is less stable than by the lattice alone: its payload lies farther ahead. */
const fitted = (c: CandidatePart) =>
  withAllowances(payloadAft(c, -0.018), [
    { name: 'Gaps and hinges', kind: 'share', amount: 0.05, reason: 'elevons without seals' },
    { name: 'Camera window', kind: 'counts', amount: 8, reason: 'a step in the pod' },
  ]);

/** A swept flying wing: washout in place of a tail. */
export const bergwind = (): Sample => ({
  id: 'bergwind',
  name: 'Bergwind',
  says: 'A flying wing. How sweep and washout trim it without a tail, and what that costs.',
  document: fromLayout(
    'swept-wing',
    { mass: 3.4, speed: 17, altitude: 600, spanLimit: 2.4, push: 300 },
    [
      { name: 'Washout', note: 'The tips lift less and lie aft: they hold the nose up as a tail would.', of: fitted },
      {
        name: 'Less washout',
        note: 'A degree less of twist: the elevons have to hold the nose up all the time.',
        of: (c) => {
          const wing = c.surfaces.find((s) => s.role === 'wing')!;
          for (const station of wing.stations) station.twistDeg *= 0.8;
          return fitted(c);
        },
      },
    ],
    ({ brief }) => ({
      brief: {
        ...brief,
        stallSpeed: 15,
        requirements: [
          { quantity: 'performance.bestGlide', min: 14.5 },
          { quantity: 'performance.endurance', min: 40, weight: 'wish' },
        ],
        note: 'Photographs the veldt in strips: 17 m/s at 600 m, carried in two halves.',
      },
    }),
  ),
});
