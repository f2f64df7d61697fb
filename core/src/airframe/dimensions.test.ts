import { DEG, RAD } from '../numerics';
import {
  alsoHeld,
  DIMENSION_NAMES,
  dimensionsOf,
  heldOf,
  independent,
  setDimension,
  type DimensionName,
} from './dimensions';
import type { LiftingSurface } from './types';

const wing = (more: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 1,
  stations: [
    { chord: 0.4, twistDeg: 0, section: '4415' },
    { chord: 0.24, twistDeg: -2, section: '4415' },
  ],
  bays: [{ span: 2.4, sweepDeg: 2, dihedralDeg: 3 }],
  ...more,
});
const threeBays = () =>
  wing({
    stations: [
      { chord: 0.45, twistDeg: 0, section: '4415' },
      { chord: 0.42, twistDeg: 0, section: '4415' },
      { chord: 0.3, twistDeg: -1, section: '1410' },
      { chord: 0.15, twistDeg: -2, section: '0009' },
    ],
    bays: [
      { span: 0.6, sweepDeg: 0, dihedralDeg: 1 },
      { span: 1.2, sweepDeg: 3, dihedralDeg: 3, sweepAt: 0 },
      { span: 0.4, sweepDeg: 14, dihedralDeg: 20, sweepAt: 1 },
    ],
  });

describe('held and derived dimensions', () => {
  it('a trapezium’s dimensions are those of the closed forms', () => {
    const d = dimensionsOf(wing());
    const edge = (f: number) => Math.atan(Math.tan(2 * RAD) + (f * (0.24 - 0.4)) / 2.4) * DEG;
    expect(d.span).toBeCloseTo(4.8, 12);
    expect(d.area).toBeCloseTo(4.8 * 0.32, 12);
    expect(d.aspectRatio).toBeCloseTo(4.8 / 0.32, 11);
    expect(d.sweepLeading).toBeCloseTo(edge(-0.25), 12);
    expect(d.sweepTrailing).toBeCloseTo(edge(0.75), 12);
  });
  it.each([undefined, 0, 1, 2])('any independent four settle the shape and are kept to 1e-12 (bay %s)', (bay) => {
    const surface = threeBays();
    const before = dimensionsOf(surface, bay);
    let sets = 0;
    for (let m = 0; m < 1 << DIMENSION_NAMES.length; m++) {
      const held = DIMENSION_NAMES.filter((_, i) => m & (1 << i));
      if (held.length !== 4 || !independent(held)) continue;
      sets++;
      if (sets % 5 !== 0) continue;
      const name = held[sets % 4];
      const value = name.startsWith('sweep') ? before[name] + 0.8 : before[name] * 1.03;
      const after = dimensionsOf(setDimension(surface, name, value, bay, held), bay);
      expect(Math.abs(after[name] / value - 1)).toBeLessThan(1e-11);
      for (const other of held)
        if (other !== name)
          expect(Math.abs(after[other] - before[other])).toBeLessThan(1e-11 * (1 + Math.abs(before[other])));
    }
    // 126 fours of nine; what follows from others is not among them.
    expect(sets).toBeGreaterThan(60);
    expect(sets).toBeLessThan(110);
  });
  it('over-determined sets are none', () => {
    const no = (names: DimensionName[]) => expect(independent(names)).toBe(false);
    no(['span', 'area', 'aspectRatio']);
    no(['rootChord', 'tipChord', 'taper']);
    no(['span', 'area', 'meanChord']);
    no(['span', 'rootChord', 'tipChord', 'area']);
    no(['span', 'span']);
    expect(independent(['sweepLeading', 'sweepTrailing', 'rootChord', 'span'])).toBe(true);
  });
  it('with both edges’ sweeps held the chord follows', () => {
    const held: DimensionName[] = ['span', 'rootChord', 'sweepLeading', 'sweepTrailing'];
    const wider = setDimension(wing(), 'span', 6, undefined, held);
    expect(wider.stations[1].chord).toBeCloseTo(0.4 - (0.16 / 2.4) * 3, 11);
    expect(dimensionsOf(wider).sweepTrailing).toBeCloseTo(dimensionsOf(wing()).sweepTrailing, 10);
  });
  it('one more pin moves another, the longest held that can give way', () => {
    expect(heldOf(wing())).toEqual(['span', 'rootChord', 'tipChord', 'sweepLeading']);
    const next = alsoHeld(wing(), 'area');
    expect(next).toContain('area');
    expect(next).toHaveLength(4);
    expect(independent(next)).toBe(true);
    // Taper follows from the two chords: one of them gives way.
    const taper = alsoHeld(wing(), 'taper');
    expect(taper.includes('rootChord') && taper.includes('tipChord')).toBe(false);
    // A set in a file that contradicts itself is passed over.
    expect(heldOf(wing({ held: { surface: ['rootChord', 'tipChord', 'taper'] } }))).toContain('span');
  });
  it('refuses what cannot be met, with the nearest value that works', () => {
    const held: DimensionName[] = ['span', 'rootChord', 'sweepLeading', 'sweepTrailing'];
    // The edges meet at a span of 12 m.
    let message = '';
    try {
      setDimension(wing(), 'span', 20, undefined, held);
    } catch (error) {
      message = (error as Error).message;
    }
    expect(message).toMatch(/cannot be met while inner chord, leading sweep, trailing sweep are held/);
    const nearest = Number(/Nearest that works: ([\d.]+) m/.exec(message)![1]);
    expect(nearest).toBeGreaterThan(11.8);
    expect(nearest).toBeLessThan(12);
    expect(() => setDimension(wing(), 'span', nearest, undefined, held)).not.toThrow();
    expect(() => setDimension(wing(), 'area', -1)).toThrow(/Area must be greater than 0/);
    expect(() => setDimension(wing(), 'span', NaN)).toThrow(/must be a number/);
  });
  it('a bay that changes leaves the edges of its neighbours where they lead', () => {
    const surface = threeBays();
    const after = setDimension(surface, 'tipChord', 0.33, 1);
    expect(after.stations[2].chord).toBeCloseTo(0.33, 12);
    expect(dimensionsOf(after, 2).sweepLeading).toBeCloseTo(dimensionsOf(surface, 2).sweepLeading, 10);
    expect(dimensionsOf(after, 0)).toEqual(dimensionsOf(surface, 0));
    expect(surface).toEqual(threeBays());
  });
});
