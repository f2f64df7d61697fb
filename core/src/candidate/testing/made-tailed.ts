import { madeWing } from '../../lift/viscous/testing/made-polar';
import { freshCandidate, type CandidatePart } from '../../project';

/** A wing and a tail with an elevator, 20 kg, of the section `s`: for tests of trim, stability and performance. */
export function madeTailed({
  centre = 0.25,
  limitsDeg = [-25, 25],
  incidenceDeg = -2,
  ...more
}: {
  /** x of the centre of gravity, m. */ centre?: number;
  limitsDeg?: [number, number];
  /** Of the tail. */ incidenceDeg?: number;
} & Partial<CandidatePart> = {}): CandidatePart {
  const tail = {
    ...madeWing(1.4, 0.32, 0.28),
    id: 'tail',
    name: 'Tail',
    role: 'tailplane',
    position: { x: 2.2, y: 0, z: 0.2 },
    incidenceDeg,
    controls: [
      { id: 'e', name: 'Elevator', kind: 'symmetric', from: 0, to: 1, hinge: 0.7, deflectionDeg: 0, limitsDeg },
    ],
  };
  const mass = {
    id: 'm',
    name: 'All',
    mass: 20,
    position: { x: centre, y: 0, z: 0 },
    inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 },
  };
  return {
    ...freshCandidate('t', 'T', 'Tailed', 0),
    surfaces: [madeWing(5, 0.5, 0.4), tail],
    massItems: [mass],
    ...more,
  } as unknown as CandidatePart;
}
