import { massProperties, type MassItem } from './balance';
import { principalMoments } from './inertia';

const item = (more: Partial<MassItem>): MassItem => ({
  id: 'a',
  name: 'A',
  mass: 3,
  position: { x: 0, y: 0, z: 0 },
  ...more,
});
const of = (...items: MassItem[]) => massProperties(items.map((m, i) => ({ ...m, id: `i${i}` })))!.inertia;

describe('inertia of mass items', () => {
  it('is that of a box, a plate and a cylinder about their centres', () => {
    const box = of(item({ shape: 'box', size: { x: 2, y: 3, z: 0.5 } }));
    expect(box.xx).toBeCloseTo((3 / 12) * (9 + 0.25), 12);
    expect(box.yy).toBeCloseTo((3 / 12) * (4 + 0.25), 12);
    expect(box.zz).toBeCloseTo((3 / 12) * (4 + 9), 12);
    expect(box.xy).toBe(0);
    const plate = of(item({ shape: 'plate', size: { x: 1, y: 4 } }));
    expect(plate.zz).toBeCloseTo(plate.xx + plate.yy, 12);
    const cylinder = of(item({ shape: 'cylinder', size: { x: 2, y: 0.6 } }));
    expect(cylinder.xx).toBeCloseTo(0.5 * 3 * 0.09, 12);
    expect(cylinder.yy).toBeCloseTo((3 * (3 * 0.09 + 4)) / 12, 12);
  });
  it('is that of a rod at an angle', () => {
    const rod = of(item({ shape: 'rod', size: { x: 3, y: 0, z: 4 } }));
    const about = (3 * 25) / 12;
    expect(rod.yy).toBeCloseTo(about, 12);
    expect(rod.xx).toBeCloseTo(about * 0.64, 12);
    expect(rod.zz).toBeCloseTo(about * 0.36, 12);
    // Both ends lie where x and z have one sign.
    expect(rod.xz).toBeCloseTo((-3 * 12) / 12, 12);
    const [low, mid, high] = principalMoments(rod);
    expect(low).toBeCloseTo(0, 6);
    expect(mid).toBeCloseTo(about, 6);
    expect(high).toBeCloseTo(about, 6);
  });
  it('is that of a pair in the mirror', () => {
    const pair = massProperties([
      item({
        mirrored: true,
        position: { x: 1, y: 2, z: 0.5 },
        inertia: { Ixx: 0.3, Iyy: 0.4, Izz: 0.5, Ixy: 0.1, Ixz: 0.02 },
      }),
    ])!;
    expect(pair.mass).toBe(6);
    expect(pair.centre).toEqual({ x: 1, y: 0, z: 0.5 });
    expect(pair.inertia.xx).toBeCloseTo(2 * (3 * 4 + 0.3), 12);
    expect(pair.inertia.yy).toBeCloseTo(2 * 0.4, 12);
    expect(pair.inertia.xy).toBeCloseTo(0, 12);
    expect(pair.inertia.xz).toBeCloseTo(-2 * 0.02, 12);
  });
  it('is scaled by a loading, which moves the centre', () => {
    const items = [
      item({ id: 'frame' }),
      item({ id: 'seed', mass: 6, position: { x: 2, y: 0, z: 0 }, shape: 'box', size: { x: 1 } }),
    ];
    const empty = massProperties(items, { seed: 0 })!;
    const half = massProperties(items, { seed: 0.5 })!;
    expect([empty.mass, half.mass]).toEqual([3, 6]);
    expect(half.centre.x).toBeCloseTo(1, 12);
    expect(half.inertia.yy).toBeCloseTo(3 + 3 + (3 * 1) / 12, 12);
  });
  it('refuses what no body has', () => {
    expect(() => of(item({ inertia: { Ixx: 1, Iyy: 1, Izz: 3 } }))).toThrow(/greater than the sum/);
    expect(() => of(item({ inertia: { Ixx: 1, Iyy: 1, Izz: 1, Ixz: 2 } }))).toThrow(/negative/);
    expect(() => of(item({ mirrored: true }))).toThrow(/own image/);
  });
});
