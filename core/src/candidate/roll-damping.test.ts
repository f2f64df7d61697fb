import { describe, expect, it } from '@jest/globals';
import { madePolar, madeWing } from '../lift/viscous/testing/made-polar';
import type { SectionPolars } from '../lift';
import { RAD } from '../numerics';
import { rollDamping, type MotionInput } from '.';

const inputOf = (falls: number): MotionInput =>
  ({
    candidate: {
      surfaces: [{ ...madeWing(8, 1, 1), sectionsStand: 'upright' }],
      bodies: [],
      massItems: [
        { id: 'a', name: 'a', mass: 10, position: { x: 0.2, y: 1, z: 0 } },
        { id: 'b', name: 'b', mass: 10, position: { x: 0.2, y: -1, z: 0 } },
      ],
      reference: null,
    },
    sections: { s: { kind: 'designation', designation: '0012', trailingEdge: 'sharp' } },
    speed: 20,
    altitude: 0,
    polars: [
      { section: 's', flap: null, curves: [madePolar(1e6, { zero: 0, fall: falls })] },
    ] satisfies SectionPolars[],
  }) as unknown as MotionInput;

describe('roll damping through the stall', () => {
  it('is that of attached flow below it, lost past it, and turned round where lift falls', async () => {
    const { points, autorotatesFrom, settlesAt, rates } = await rollDamping.run({ of: inputOf(20) }, {});
    const low = points.find((p) => Math.abs(p.alpha - 3 * RAD) < 1e-9)!;
    expect(low.Cl_p).toBeLessThan(-0.4);
    expect(low.doubtful).toBe(false);
    // Strips by themselves: −a (1 + 3λ)/(12 (1 + λ)), an aspect ratio of 8 takes a fifth or so off.
    expect(low.Cl_p! / (-6 / 6)).toBeGreaterThan(0.4);
    expect(low.Cl_p! / (-6 / 6)).toBeLessThan(0.9);
    // Straight in the rate as long as nothing stalls.
    expect(low.Cl[3]! / rates[3]).toBeCloseTo(low.Cl_p!, 2);
    expect(autorotatesFrom).not.toBeNull();
    expect(autorotatesFrom!).toBeGreaterThan(12 * RAD);
    expect(autorotatesFrom!).toBeLessThan(21 * RAD);
    const there = points.find((p) => p.alpha === autorotatesFrom)!;
    expect(there.doubtful).toBe(true);
    if (settlesAt !== null) expect(settlesAt).toBeGreaterThan(0);
  });

  it('stays where lift does not fall, and needs polars', async () => {
    const { autorotatesFrom } = await rollDamping.run({ of: inputOf(-40) }, {});
    expect(autorotatesFrom).toBeNull();
    await expect(rollDamping.run({ of: { ...inputOf(1), polars: null } }, {})).rejects.toThrow(/needs the polars/);
  });
});
