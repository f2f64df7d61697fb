import type { Mode } from '@veldtwind/core/motion';
import { DERIVATIVES, modeSentence, shownState } from './words';

const mode = (more: Partial<Mode>): Mode => ({
  name: 'spiral',
  re: -1,
  im: 0,
  frequencyHz: 0,
  dampingRatio: 1,
  shape: [],
  ...more,
});

describe('motion in words', () => {
  it('says whether a mode dies out, how fast, and how it swings', () => {
    expect(modeSentence(mode({ timeToHalf: 0.036 }))).toBe('dies out: halves in 36 ms');
    expect(modeSentence(mode({ timeToHalf: 22.1, period: 19.3 }))).toBe(
      'dies out: halves in 22.1 s (1.15 cycles), period 19.3 s',
    );
    expect(modeSentence(mode({ timeToDouble: 88 }))).toMatch(/^grows: doubles in 88\.0 s; slow enough/);
    expect(modeSentence(mode({ timeToDouble: 2 }))).toBe('grows: doubles in 2.00 s');
    expect(modeSentence(mode({ re: 0 }))).toBe('neither grows nor dies out');
  });
  it('shows velocities across the stream as angles', () => {
    expect(shownState('w', 2.6, 26)).toBeCloseTo(5.7296, 3);
    expect(shownState('u', 2.6, 26)).toBeCloseTo(10, 12);
    expect(shownState('phi', 0.1, 26)).toBeCloseTo(5.7296, 3);
    expect(new Set(DERIVATIVES.map(([id]) => id)).size).toBe(20);
  });
});
