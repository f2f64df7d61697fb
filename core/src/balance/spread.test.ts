import type { Body } from '../airframe';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { evaluateCandidate, evaluation, inputsOfEvaluation, sectionLookup } from '../candidate';
import { freshCandidate, freshProject } from '../project';
import { massProperties, placedItems } from '.';

const lookup = sectionLookup({});
const item = (more: object) => ({ id: 'm', name: 'Skin', mass: 3, position: { x: 9, y: 9, z: 9 }, ...more });
const one = (list: ReturnType<typeof placedItems>) => massProperties(list)!;
const wing = madeWing(6, 0.5, 0.5);

describe('mass over a part of the airframe', () => {
  it('spreads over a planform as over a plate', () => {
    const m = one(placedItems([item({ part: 'wing', shape: 'area' })], [{ ...wing, id: 'wing' }], [], lookup));
    expect(m.mass).toBe(3);
    expect(m.centre.x).toBeCloseTo(wing.position.x + 0.25, 10);
    expect(m.centre.y).toBe(0);
    expect(m.inertia.xx).toBeCloseTo((3 / 12) * 36, 9);
    expect(m.inertia.yy).toBeCloseTo((3 / 12) * 0.25, 9);
    expect(m.inertia.zz).toBeCloseTo((3 / 12) * (36 + 0.25), 9);
  });
  it('fills a body: an ellipsoid within what its facets take', () => {
    const n = 41;
    const body: Body = {
      id: 'pod',
      name: 'Pod',
      mirrored: false,
      loft: 'smooth',
      position: { x: 1, y: 0, z: 0.2 },
      stations: Array.from({ length: n }, (_, i) => {
        const x = -Math.cos((Math.PI * i) / (n - 1));
        const r = Math.sqrt(Math.max(0, 1 - x * x));
        return { x: 0.8 * (x + 1), width: 0.4 * r, height: 0.3 * r, z: 0, shape: 'ellipse', corner: 0 };
      }),
    };
    const m = one(placedItems([item({ part: 'pod', shape: 'volume' })], [], [body], lookup));
    expect(m.centre.x).toBeCloseTo(1.8, 4);
    expect(m.centre.z).toBeCloseTo(0.2, 6);
    // m/5 (b² + c²) and so on.
    expect(m.inertia.xx / ((3 / 5) * (0.2 ** 2 + 0.15 ** 2))).toBeCloseTo(1, 2);
    expect(m.inertia.yy / ((3 / 5) * (0.8 ** 2 + 0.15 ** 2))).toBeCloseTo(1, 2);
    // A skin lies farther out than what fills it.
    const skin = one(placedItems([item({ part: 'pod' })], [], [body], lookup));
    expect(skin.inertia.xx).toBeGreaterThan(1.2 * m.inertia.xx);
  });
  it('leaves others as they are, and says what is not there', () => {
    const list = [item({})];
    expect(placedItems(list, [wing], [], lookup)).toBe(list);
    expect(() => placedItems([item({ part: 'keel' })], [{ ...wing, id: 'wing' }], [], lookup)).toThrow(
      /"keel" that is not there/,
    );
  });
});

describe('mass over a body, in the evaluation of a candidate', () => {
  const pod = {
    id: 'pod',
    name: 'Pod',
    mirrored: false,
    loft: 'straight',
    position: { x: 1, y: 0, z: 0 },
    stations: [0, 2].map((x) => ({ x, width: 0.2, height: 0.2, z: 0, shape: 'ellipse', corner: 0 })),
  } as unknown as Body;
  const candidate = {
    ...freshCandidate('a', 'A', 'Straight', 0),
    surfaces: [
      {
        ...madeWing(6, 0.5, 0.5),
        stations: madeWing(6, 0.5, 0.5).stations.map((t) => ({ ...t, section: 'naca:0012' })),
      },
    ],
    bodies: [pod],
    massItems: [item({ part: 'pod', shape: 'skin' })],
  };
  it('lies where the body is, also when only what counts is handed to a worker', async () => {
    const document = { ...freshProject(), candidates: { a: candidate } } as never;
    const answer = await evaluation.run(inputsOfEvaluation(document, 'a'), {});
    expect(answer.mass!.centre.x).toBeCloseTo(2, 9);
    expect(answer.problems).toEqual([]);
  });
  it('has no centre of gravity where its part is not there', () => {
    const brief = { speed: 20, altitude: 0, mass: 3 };
    const answer = evaluateCandidate(brief, { ...candidate, bodies: [] }, lookup);
    expect(answer.mass).toBeNull();
    expect(answer.problems[0].message).toMatch(/a part "pod" that is not there/);
  });
});
