import { crossings } from './crossings';
import type { LiftingSurface } from './types';

const surface = (id: string, more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id,
  name: id,
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 1, twistDeg: 0, section: 'a' },
    { chord: 1, twistDeg: 0, section: 'a' },
  ],
  bays: [{ span: 3, sweepDeg: 0, dihedralDeg: 0 }],
  ...more,
});
const fin = (more: Partial<LiftingSurface> = {}) =>
  surface('fin', {
    plane: 'vertical',
    mirrored: false,
    bays: [{ span: 1, sweepDeg: 0, dihedralDeg: 0 }],
    position: { x: 0.1, y: 1, z: -0.5 },
    ...more,
  });

describe('surfaces that pass through each other', () => {
  it('are found with their place', () => {
    const small = fin({ stations: [0.4, 0.4].map((chord) => ({ chord, twistDeg: 0, section: 'a' })) });
    const [c] = crossings([surface('wing'), small]);
    expect(c).toMatchObject({ a: 'wing', b: 'fin' });
    expect(c.at.z).toBeCloseTo(0, 9);
    expect(c.at.y).toBeCloseTo(1, 9);
    // Two wings in an X.
    const up = surface('up', { position: { x: 0, y: 0, z: -0.3 }, bays: [{ span: 3, sweepDeg: 0, dihedralDeg: 12 }] });
    expect(crossings([surface('wing'), up])).toHaveLength(1);
  });
  it('that only join, stand beside or above each other do not cross', () => {
    const stands = fin({
      position: { x: 0.1, y: 1, z: 0 },
      stations: [0.4, 0.4].map((chord) => ({ chord, twistDeg: 0, section: 'a' })),
    });
    expect(crossings([surface('wing'), stands])).toEqual([]);
    expect(crossings([surface('wing'), { ...stands, position: { x: 0.1, y: 1, z: -0.03 } }])).toEqual([]);
    expect(crossings([surface('wing'), surface('second', { position: { x: 0, y: 0, z: 0.4 } })])).toEqual([]);
    expect(crossings([surface('wing'), surface('bad', { stations: [] })])).toEqual([]);
  });
});
