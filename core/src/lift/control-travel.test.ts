import { describe, expect, it } from '@jest/globals';
import type { LiftingSurface } from '../airframe';
import { RAD } from '../numerics';
import { ControlTravel, plainFlapTravel, polarTravel, thinFlapLift, thinHingeSlopes, type SectionPolars } from '.';

describe('the travel of a control', () => {
  it('works wholly at small deflections, and to about seven tenths at 20° for a quarter of the chord', () => {
    const travel = new ControlTravel(plainFlapTravel(0.75));
    expect(travel.share(0)).toBeCloseTo(1, 1);
    expect(travel.share(5 * RAD)).toBeCloseTo(0.99, 3);
    expect(travel.share(20 * RAD)).toBeGreaterThan(0.65);
    expect(travel.share(20 * RAD)).toBeLessThan(0.78);
    expect(travel.effective(-20 * RAD)).toBeCloseTo(-travel.effective(20 * RAD), 12);
  });

  it.each([0.3, 0.62, 0.75, 0.9, 0.98])('rises with the deflection, and is turned back, hinge at %d', (hinge) => {
    const travel = new ControlTravel(plainFlapTravel(hinge), 4 * RAD);
    let before = -Infinity;
    for (let d = -70; d <= 70; d += 1.7) {
      const e = travel.effective(d * RAD);
      expect(e).toBeGreaterThan(before);
      expect(travel.deflectionFor(e)).toBeCloseTo(d * RAD, 8);
      before = e;
    }
    expect(travel.effective(4 * RAD)).toBeCloseTo(0, 12);
  });

  const wing = {
    id: 'w',
    name: 'w',
    plane: 'horizontal',
    mirrored: true,
    position: { x: 0, y: 0, z: 0 },
    incidenceDeg: 0,
    stations: [1, 1].map((chord) => ({ chord, twistDeg: 0, section: 's' })),
    bays: [{ span: 4, sweepDeg: 0, dihedralDeg: 0 }],
  } as unknown as LiftingSurface;
  const line = (angleDeg: number, lift: number): SectionPolars => ({
    section: 's',
    flap: angleDeg === 0 ? null : { hinge: 0.7, angleDeg },
    curves: [
      {
        reynolds: 1e6,
        alpha: [-0.1, 0, 0.1, 0.2],
        cl: [-0.6, 0, 0.6, 1.2].map((c) => c + lift),
        cd: [0.01, 0.01, 0.01, 0.01],
        cm: [0, 0, 0, 0],
      },
    ],
  });

  it('reads the polars of the section with its flap turned, and stops where they gain no more', () => {
    const thin = thinFlapLift(0.7);
    const polars = [line(0, 0.1), line(10, 0.1 + 0.9 * thin * 10 * RAD), line(20, 0.1 + 0.6 * thin * 20 * RAD)];
    const control = { from: 0.4, to: 0.9, hinge: 0.7 };
    const curve = polarTravel(wing, control, [...polars, line(25, 0.1 + 0.4 * thin * 20 * RAD)], 1e6)!;
    expect(curve.method).toBe('polars');
    expect(curve.deflections.map((d) => Math.round(d / RAD))).toEqual([0, 10, 20]);
    const travel = new ControlTravel(curve);
    expect(travel.share(10 * RAD)).toBeCloseTo(0.9, 10);
    expect(travel.share(20 * RAD)).toBeCloseTo(0.6, 10);
    expect(polarTravel(wing, { ...control, hinge: 0.75 }, polars, 1e6)).toBeNull();
    expect(polarTravel(wing, control, polars.slice(0, 2), 1e6)).toBeNull();
  });
});

describe('hinge moments of a thin section', () => {
  it('are those of a flap that is the whole chord, where the hinge is at the nose: a quarter of the lift', () => {
    // The centre of pressure of incidence lies at a quarter.
    expect(thinHingeSlopes(1e-6).perAngle).toBeCloseTo(-2 * Math.PI * 0.25, 2);
  });

  it('fall with the size of the flap for the angle, and stay for the deflection', () => {
    const [a, b, c] = [0.6, 0.75, 0.9].map(thinHingeSlopes);
    expect(-a.perAngle).toBeGreaterThan(-b.perAngle);
    expect(-b.perAngle).toBeGreaterThan(-c.perAngle);
    for (const s of [a, b, c]) {
      expect(s.perDeflection).toBeLessThan(s.perAngle);
      expect(s.perDeflection).toBeGreaterThan(-1.2);
      expect(s.perDeflection).toBeLessThan(-0.7);
    }
  });
});
