import type { LiftResult } from '../lift';
import { trimsOf, massItemSchema, massProperties, type MassItem } from '.';

const item = (mass: number, x: number, y = 0, z = 0): MassItem => ({
  id: 'item',
  name: `at ${x}`,
  mass,
  position: { x, y, z },
});

describe('mass properties', () => {
  it('are sums: two items balance between them', () => {
    const { mass, centre } = massProperties([item(1, 0), item(3, 0.4, -0.2, 0.1)])!;
    expect(mass).toBe(4);
    expect(centre.x).toBeCloseTo(0.3, 14);
    expect(centre.y).toBeCloseTo(-0.15, 14);
    expect(centre.z).toBeCloseTo(0.075, 14);
  });
  it('do not depend on the order, or on how an item is divided', () => {
    const items = [item(2, 0.1), item(5, 0.7, 0.2), item(0.3, -1, 0, 2)];
    const whole = massProperties(items)!;
    const parts = massProperties([
      ...items
        .slice()
        .reverse()
        .flatMap((i) => [
          { ...i, mass: 0.25 * i.mass },
          { ...i, mass: 0.75 * i.mass },
        ]),
    ])!;
    for (const k of ['x', 'y', 'z'] as const) expect(parts.centre[k]).toBeCloseTo(whole.centre[k], 14);
  });
  it('are unknown without a mass, never at the origin', () => {
    expect(massProperties([])).toBeNull();
    expect(massProperties([item(0, 5)])).toBeNull();
  });
  it.each([
    ['a negative mass', item(-1, 0), 'massItems.1.mass', /zero or more/],
    ['a mass that is none', item(NaN, 0), 'massItems.1.mass', /NaN/],
    ['an endless mass', item(Infinity, 0), 'massItems.1.mass', /Infinity/],
    ['a place that is none', item(1, 0, NaN), 'massItems.1.position.y', /along y/],
  ])('refuse %s, and say which item and field', (_, bad, path, why) => {
    const act = () => massProperties([item(1, 0), bad]);
    expect(act).toThrow(why);
    expect(act).toThrow(expect.objectContaining({ path }));
  });
  it('a saved item is within its limits, or is refused', () => {
    const good = item(1, 0.2);
    expect(massItemSchema.parse(good)).toEqual(good);
    for (const bad of [
      item(-1, 0),
      item(1e9, 0),
      item(1, 1e9),
      { ...good, name: 'a'.repeat(200) },
      { ...good, id: '' },
    ])
      expect(massItemSchema.safeParse(bad).success).toBe(false);
  });
});

/** A lift result with straight lines: CL = a α, Cm = m0 + m α about x = 1. */
function straight(a: number, m0: number, m: number): LiftResult {
  const alphas = [-0.1, -0.05, 0, 0.05, 0.1, 0.15];
  return {
    points: alphas.map((alpha) => ({ alpha, CL: a * alpha, Cm: m0 + m * alpha })),
    reference: { area: 2, chord: 0.5, span: 4 },
    momentReference: { x: 1, y: 0, z: 0 },
    neutralPoint: 1 - (0.5 * m) / a,
    momentSlope: m,
    liftSlope: a,
  } as unknown as LiftResult;
}

describe('balance', () => {
  it('of straight lines is exact: trim and the speed that carries the weight', () => {
    const trims = trimsOf(straight(5, 0.05, -0.75), 20, 1.2);
    expect(trims).toHaveLength(1);
    const [trim] = trims;
    expect(trim.alpha).toBeCloseTo(0.05 / 0.75, 9);
    expect(trim.CL).toBeCloseTo(5 * trim.alpha, 9);
    expect(0.5 * 1.2 * trim.speed! ** 2 * 2 * trim.CL).toBeCloseTo(20 * 9.80665, 6);
    expect(trim.stable).toBe(true);
  });
  it('tells an unstable trim, and one that lifts downward has no speed', () => {
    const [up] = trimsOf(straight(5, -0.05, 0.75), 20, 1.2);
    expect(up.stable).toBe(false);
    const [down] = trimsOf(straight(5, -0.05, -0.75), 20, 1.2);
    expect(down.CL).toBeLessThan(0);
    expect(down.speed).toBeNull();
  });
  it('outside of the sweep there is no trim', () => {
    expect(trimsOf(straight(5, 0.5, -0.75), 20, 1.2)).toEqual([]);
    const one = straight(5, 0, -0.75);
    expect(trimsOf({ ...one, points: one.points.slice(0, 1) }, 20, 1.2)).toEqual([]);
  });
});
