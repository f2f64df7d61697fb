import { designationOutline } from '../section';
import { asSolved, compressiblePressure, criticalMach, criticalPressure, ViscousSection, waveDrag } from '.';

describe('the critical Mach number', () => {
  it('is where the rule of compressibility meets the pressure of sonic flow', () => {
    for (const cp of [-0.1, -0.4, -1, -2.5, -8]) {
      const mach = criticalMach(cp);
      expect(compressiblePressure(cp, mach)).toBeCloseTo(criticalPressure(mach), 6);
    }
  });
  it('falls as the suction grows, and is one where nothing is faster than the stream', () => {
    const list = [-0.05, -0.3, -0.8, -2, -6, -20].map(criticalMach);
    list.forEach((m, i) => i > 0 && expect(m).toBeLessThan(list[i - 1]));
    // Textbook value for a least pressure coefficient of −0.43: about 0.74.
    expect(criticalMach(-0.43)).toBeGreaterThan(0.72);
    expect(criticalMach(-0.43)).toBeLessThan(0.75);
    expect(criticalMach(0)).toBe(1);
    expect(criticalMach(0.4)).toBe(1);
  });
});

describe('the drag of shocks', () => {
  it('begins at the critical Mach number and stands in the point, counted in its drag', () => {
    expect(waveDrag(0.6, 0.6)).toBe(0);
    expect(waveDrag(0.7, 0.6)).toBeCloseTo(0.002, 12);
    const section = new ViscousSection(designationOutline('0012'));
    const slow = asSolved(section.at(0.05, { reynolds: 5e6 }));
    const fast = asSolved(section.at(0.05, { reynolds: 5e6, mach: 0.66 }));
    expect(slow.cdWave).toBeUndefined();
    // The speeds of the incompressible plane hardly change with the Mach number.
    expect(Math.abs(fast.machCritical - slow.machCritical)).toBeLessThan(0.02);
    expect(fast.machCritical).toBeLessThan(0.66);
    expect(fast.doubts).toContain('locally-supersonic');
    expect(fast.cd - fast.cdFriction - fast.cdPressure).toBeCloseTo(fast.cdWave!, 12);
    expect(fast.cdWave).toBeCloseTo(20 * (0.66 - fast.machCritical) ** 4, 12);
  });
});
