import type { CandidatePart } from '@veldtwind/core/project';
import { fromLayout, payloadAft, type Sample } from './sample';

/** With the polars of its sections it is less stable than by the lattice alone: its ballast lies farther ahead. */
const ballasted = (c: CandidatePart) => payloadAft(c, -0.025);

/** A hand-launched glider: dihedral, and flight at low Reynolds numbers. */
export const cisticola = (): Sample => ({
  id: 'cisticola',
  name: 'Cisticola',
  says: 'A hand-launched glider. What dihedral does, and sections at low Reynolds numbers.',
  document: fromLayout(
    'hand-launch',
    { mass: 0.3, speed: 7.5, altitude: 300, spanLimit: 1.5, push: 0 },
    [
      {
        name: 'Dihedral',
        note: 'Raised tips bring it level again after a gust, with nobody at the controls.',
        of: ballasted,
      },
      {
        name: 'Flat',
        note: 'The same glider with a flat wing: nothing brings it level again.',
        of: (c) => {
          const wing = c.surfaces.find((s) => s.role === 'wing')!;
          for (const bay of wing.bays) bay.dihedralDeg = 0;
          return ballasted(c);
        },
      },
    ],
    ({ brief }) => ({
      brief: {
        ...brief,
        stallSpeed: 7,
        requirements: [
          { quantity: 'performance.bestGlide', min: 14 },
          { quantity: 'motion.dutchRoll.damping', min: 0.08 },
        ],
        note: 'Thrown over the edge of a kopje to see where the air rises; comes down by itself, and is found again.',
      },
      scenarios: {
        thrown: {
          id: 'thrown',
          name: 'Thrown by hand',
          note: 'Thrown level from two metres, in still air.',
          scenario: {
            ground: 300,
            launch: { kind: 'hand', speed: 8, height: 2, elevationDeg: 0 },
            duration: 30,
          },
        },
        gust: {
          id: 'gust',
          name: 'Through a gust',
          note: 'A gust from the side at 60 metres, with nobody at the controls.',
          scenario: {
            ground: 300,
            launch: { kind: 'flight', speed: 7.5, height: 60 },
            duration: 25,
            gusts: [{ axis: 'across', amplitude: 1.5, start: 2, duration: 1.5 }],
          },
        },
      },
    }),
  ),
});
