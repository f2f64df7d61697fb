import { massForCentre, massProperties, swungInertia, weighedOn } from '.';

describe('weighing', () => {
  it('finds mass and centre by what scales read: moments balance', () => {
    const { mass, x, y } = weighedOn([
      { x: 0.1, y: 0, reading: 4 },
      { x: 0.9, y: 0.5, reading: 10 },
      { x: 0.9, y: -0.5, reading: 11 },
    ]);
    expect(mass).toBe(25);
    expect(x).toBeCloseTo((0.4 + 18.9) / 25, 12);
    expect(y).toBeCloseTo(-0.5 / 25, 12);
  });
  it('finds the mass that brings the centre to a place, by adding it to the items', () => {
    const added = massForCentre(24, 0.31, 0.28, -0.6);
    const both = massProperties([
      { id: 'a', name: 'a', mass: 24, position: { x: 0.31, y: 0, z: 0 } },
      { id: 'b', name: 'b', mass: added, position: { x: -0.6, y: 0, z: 0 } },
    ])!;
    expect(both.centre.x).toBeCloseTo(0.28, 12);
    // From behind, mass has to go.
    expect(massForCentre(24, 0.31, 0.28, 1.5)).toBeLessThan(0);
  });
  it('finds the inertia of a rod that swings about its end', () => {
    const [m, L] = [0.6, 1.2];
    const period = 2 * Math.PI * Math.sqrt((2 * L) / (3 * 9.80665));
    expect(swungInertia(m, L / 2, period)).toBeCloseTo((m * L * L) / 12, 9);
  });
  it('refuses one scale, scales at one place, an arm at the wanted centre, and a swing that is too fast', () => {
    const refused = expect.objectContaining({ code: 'weighing' });
    expect(() => weighedOn([{ x: 0, y: 0, reading: 5 }])).toThrow(refused);
    expect(() =>
      weighedOn([
        { x: 0.2, y: 0, reading: 5 },
        { x: 0.2, y: 0, reading: 6 },
      ]),
    ).toThrow(refused);
    expect(() =>
      weighedOn([
        { x: 0, y: 0, reading: NaN },
        { x: 1, y: 0, reading: 6 },
      ]),
    ).toThrow(refused);
    expect(() => massForCentre(24, 0.3, 0.28, 0.28)).toThrow(refused);
    expect(() => swungInertia(1, 1, 1.5)).toThrow(/swings in 2\.006 s/);
  });
});
