import { massProperties } from '../balance';
import { madeWing } from '../lift/viscous/testing/made-polar';
import { freshCandidate } from './fresh';
import type { CandidatePart } from './parts';
import { variantSchema, withVariant, type Variant } from './variants';

const candidate: CandidatePart = {
  ...freshCandidate('a', 'A', 'Straight', 0),
  surfaces: [
    {
      ...madeWing(8, 1, 0.7),
      controls: [
        {
          id: 'flap',
          name: 'Flap',
          from: 0,
          to: 0.5,
          hinge: 0.7,
          kind: 'symmetric',
          deflectionDeg: 0,
          limitsDeg: [-10, 35],
        },
      ],
    },
  ],
  massItems: [
    { id: 'm', name: 'Pod', mass: 6, position: { x: 0.2, y: 0, z: 0 } },
    {
      id: 'n',
      name: 'Pair',
      mass: 2,
      position: { x: 0.6, y: 1, z: 0 },
      mirrored: true,
      inertia: { Ixx: 1, Iyy: 2, Izz: 2.5 },
    },
  ],
  loadings: { light: { m: 0.5, n: 0 }, 'half pair': { n: 0.5 } },
  settings: [{ id: 'landing', name: 'Landing', deflectionsDeg: { flap: 30 } }],
};
const wing = candidate.surfaces[0].id;

describe('variants', () => {
  it('change one thing and leave what they are made of as it is', () => {
    const before = structuredClone(candidate);
    expect(withVariant(candidate, { kind: 'setting', id: 'landing' }).surfaces[0].controls![0].deflectionDeg).toBe(30);
    expect(withVariant(candidate, { kind: 'turn', surface: wing, byDeg: -2 }).surfaces[0].incidenceDeg).toBe(
      candidate.surfaces[0].incidenceDeg - 2,
    );
    const body = { id: 'pod' } as CandidatePart['bodies'][number];
    expect(withVariant({ ...candidate, bodies: [body] }, { kind: 'bodies' }).bodies).toEqual([body]);
    expect(() => withVariant(candidate, { kind: 'bodies' })).toThrow(/no bodies/);
    expect(candidate).toEqual(before);
  });
  it('have the mass, centre and inertia of the loading that they name', () => {
    for (const name of ['light', 'half pair'] as const) {
      const want = massProperties(candidate.massItems, candidate.loadings![name])!;
      const made = massProperties(withVariant(candidate, { kind: 'loading', name }).massItems)!;
      expect(made.mass).toBeCloseTo(want.mass, 12);
      expect(made.centre.x).toBeCloseTo(want.centre.x, 12);
      expect(made.inertia.xx).toBeCloseTo(want.inertia.xx, 12);
    }
  });
  it('move the centre of gravity by what is asked, whatever is spread over parts', () => {
    const at = (c: CandidatePart) => massProperties(c.massItems.map(({ part: _, ...m }) => m))!.centre.x;
    const spread = { ...candidate, massItems: candidate.massItems.map((m, i) => (i ? m : { ...m, part: wing })) };
    for (const c of [candidate, spread])
      expect(at(withVariant(c, { kind: 'centre', by: 0.03 })) - at(c)).toBeCloseTo(0.03, 12);
    const bound = { ...candidate, massItems: candidate.massItems.map((m) => ({ ...m, part: wing })) };
    expect(() => withVariant(bound, { kind: 'centre', by: 0.03 })).toThrow(/none can be moved/);
    expect(() => withVariant({ ...candidate, massItems: [] }, { kind: 'centre', by: 0.03 })).toThrow(/no masses/);
  });
  it('refuse what is not there, and numbers that cannot be', () => {
    const bad: [Variant, RegExp][] = [
      [{ kind: 'setting', id: 'gone' }, /no setting "gone"/],
      [{ kind: 'loading', name: 'gone' }, /no loading "gone"/],
      [{ kind: 'turn', surface: 'gone', byDeg: 1 }, /no surface "gone"/],
    ];
    for (const [v, why] of bad) expect(() => withVariant(candidate, v)).toThrow(why);
    for (const v of [{ kind: 'turn', surface: wing, byDeg: 40 }, { kind: 'centre', by: NaN }, { kind: 'x' }, null])
      expect(variantSchema.safeParse(v).success).toBe(false);
  });
});
