import { massProperties, meanings, meant, readMassTable } from '.';

const items = [
  {
    id: 'a',
    name: 'a',
    mass: 8,
    position: { x: 0.4, y: 0, z: 0.05 },
    shape: 'box' as const,
    size: { x: 1.2, y: 0.3, z: 0.25 },
  },
  { id: 'b', name: 'b', mass: 3, position: { x: 0.7, y: 1.1, z: 0.2 }, mirrored: true },
  { id: 'c', name: 'c', mass: 1, position: { x: 2.5, y: 0, z: 0.4 } },
];
const truth = massProperties(items)!;
const { xx, yy, zz, xy, xz, yz } = truth.inertia;
const { x, y, z } = truth.centre;

describe('import of mass properties', () => {
  it('reads named values and bare numbers, and says what is missing', () => {
    const named = readMassTable(
      `Mass: 15 kg\nX = ${x}  Y = ${y}  Z = ${z}\nIxx = ${xx}\nIyy = ${yy}\nIzz = ${zz}\nIxz = ${xz}`,
    );
    expect(named).toEqual({ mass: 15, centre: [x, y, z], inertia: [xx, yy, zz, 0, xz, 0] });
    expect(readMassTable(`15 ${x} 0 0.1 2 3 4 0 0.1 0`).inertia[2]).toBe(4);
    expect(() => readMassTable('Mass 3\nIxx 1\nIyy 2\nx 1\ny 0')).toThrow(/z, izz are missing/);
    expect(() => readMassTable('1 2 3')).toThrow(/3 numbers and not ten/);
    expect(() => readMassTable('')).toThrow(/0 numbers/);
    expect(() => readMassTable('mass 1 x 0 y 0 z 0 Ixx 1 Iyy 1 Izz 1 Ixy 0.1 Iyx 0.2')).toThrow(/twice/);
  });
  it('comes back to the same tensor whatever axes, point and sign it was printed in', () => {
    // Forward, right, down; about the origin; products as ∫ dm.
    const r2 = x * x + y * y + z * z;
    const [X, Y, Z] = [-x, y, -z];
    const printed = {
      mass: truth.mass,
      centre: [X, Y, Z] as [number, number, number],
      inertia: [
        xx + truth.mass * (r2 - X * X),
        yy + truth.mass * (r2 - Y * Y),
        zz + truth.mass * (r2 - Z * Z),
        -(-xy - truth.mass * X * Y),
        -(xz - truth.mass * X * Z),
        -(-yz - truth.mass * Y * Z),
      ] as [number, number, number, number, number, number],
    };
    const back = meant(printed, { axes: 'forward-right-down', about: 'origin', products: 'positive' });
    for (const k of ['xx', 'yy', 'zz', 'xy', 'xz', 'yz'] as const)
      expect(back.inertia[k]).toBeCloseTo(truth.inertia[k], 10);
    expect(back.centre.x).toBeCloseTo(x, 12);
    // Taken as about the centre it is another body: all meanings are told, the likely ones first.
    const all = meanings(printed, 3, truth.centre);
    expect(all).toHaveLength(16);
    expect(all[0].meaning).toMatchObject({ axes: 'forward-right-down' });
    expect(all.at(-1)!.impossible || all.at(-1)!.unlikely).not.toBe('');
  });
  it('says why no body is like that', () => {
    const m = meant(
      { mass: 2, centre: [0, 0, 0], inertia: [1, 1, 9, 0, 0, 0] },
      { axes: 'aft-right-up', about: 'centre', products: 'negative' },
    );
    expect(m.impossible).toMatch(/greater than the sum of the two others/);
  });
});
