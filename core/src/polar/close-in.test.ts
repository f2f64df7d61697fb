import type { ViscousPoint } from '../section-flow';
import { closeIn } from './close-in';
import type { CurvePoint } from './curve';

const points = (text: string): CurvePoint[] =>
  [...text].map((c, i) => ({
    place: i * 1e6,
    point: { status: c === 's' ? 'solved' : 'unsolved', doubts: [] } as unknown as ViscousPoint,
  }));
const at = (text: string) => closeIn({ swept: 'alpha' }, points(text)).map((p) => p / 1e6);

describe('closing in', () => {
  it('tries what is unsolved again, in smaller steps, the smallest beside what is solved', () => {
    expect(at('sus')).toEqual([0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75]);
    expect(at('suus')).toEqual([0.25, 0.5, 0.75, 1, 1.5, 2, 2.25, 2.5, 2.75]);
  });
  it('goes out from the last solved point, and only tries again what lies beyond', () => {
    expect(at('ssuuu')).toEqual([1.25, 1.5, 1.75, 2, 3, 4]);
    expect(at('uuss')).toEqual([0, 1, 1.25, 1.5, 1.75]);
  });
  it('does nothing where all is solved, or nothing, and never makes a step smaller than the least', () => {
    expect(at('sss')).toEqual([]);
    expect(at('uuu')).toEqual([]);
    expect(at('')).toEqual([]);
    const near = points('su').map((p, i) => ({ ...p, place: i * 50_000 }));
    expect(closeIn({ swept: 'alpha' }, near)).toEqual([50_000]);
  });
});
