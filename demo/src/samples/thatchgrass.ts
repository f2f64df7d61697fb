import { layoutOf, startingLayout } from '@veldtwind/core/layouts';
import type { CandidatePart } from '@veldtwind/core/project';
import { fromLayout, withAllowances, type Sample } from './sample';

const numbers = { mass: 620, speed: 52, altitude: 1500, spanLimit: 10.5, push: 75000 };

/** The payload as two people side by side, who can be there or not. */
function seated(c: CandidatePart): CandidatePart {
  const payload = c.massItems.find((m) => m.id === 'payload')!;
  const seat = (id: string, name: string, side: number) => ({
    ...payload,
    id,
    name,
    mass: payload.mass / 2,
    position: { ...payload.position, y: side * 0.3 },
    group: 'Payload',
  });
  const fitted = withAllowances(c, [
    { name: 'Landing gear', kind: 'counts', amount: 75, reason: 'three wheels without fairings' },
    { name: 'Cooling', kind: 'counts', amount: 25, reason: 'air through the cowling' },
    { name: 'Gaps and steps', kind: 'share', amount: 0.08, reason: 'canopy, doors, hinges' },
  ]);
  return {
    ...fitted,
    massItems: [
      ...c.massItems.filter((m) => m !== payload),
      seat('pilot', 'Pilot', -1),
      seat('passenger', 'Passenger', 1),
    ],
    loadings: {
      'two on board': {},
      'one on board': { passenger: 0 },
      'one, little fuel': { passenger: 0, energy: 0.1 },
    },
  };
}

/** A two-seat motor aircraft: loadings, climb, and what span is worth. */
export const thatchgrass = (): Sample => ({
  id: 'thatchgrass',
  name: 'Thatchgrass',
  says: 'A two-seat motor aircraft. Loadings, climb and take-off, and what span is worth.',
  document: fromLayout(
    'tailed',
    numbers,
    [
      { name: 'Long span', note: 'Span for climb and a slow landing.', of: seated },
      {
        name: 'Short span',
        note: 'Fits a narrow shed; pays for it in climb.',
        of: () => seated(startingLayout(layoutOf('tailed'), { ...numbers, spanLimit: 7.4 }).candidate),
      },
    ],
    ({ brief }) => ({
      brief: {
        ...brief,
        requirements: [
          { quantity: 'performance.climbRate', min: 4.8 },
          { quantity: 'performance.bestGlide', min: 15 },
        ],
        note: 'Two people and their bags from farm to farm: 52 m/s at 1 500 m, off short grass.',
      },
    }),
  ),
});
