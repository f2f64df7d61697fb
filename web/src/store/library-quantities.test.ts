import type { CurveReply } from '@veldtwind/contract';
import type { PolarFacts } from '@veldtwind/core/polar';
import type { SectionSource } from '@veldtwind/core/shaping';
import { LIBRARY_QUANTITIES, libraryName, polarsOf } from './library-quantities';
import type { LibraryRow } from './library';

const source: SectionSource = { kind: 'designation', designation: '4415', trailingEdge: 'published' };
const curve = (reynolds: number, clMax: number, more: object = {}, conditions: object = {}): CurveReply =>
  ({
    section: 's',
    solved: 20,
    doubtful: 0,
    facts: { clMax } as PolarFacts,
    input: { source: { ...source }, swept: 'alpha', flap: null, conditions: { reynolds, ...conditions } },
    ...more,
  }) as unknown as CurveReply;
const best = (...curves: CurveReply[]) => polarsOf(curves, 5e5, () => source).get('s')?.facts.clMax;

describe('the polar that stands for a section', () => {
  it('is the one nearest to the Reynolds number it flies at', () => {
    expect(best(curve(1e5, 1), curve(4e5, 2), curve(3e6, 3))).toBe(2);
  });
  it('is a clean one before a tripped, rough or flapped one', () => {
    expect(best(curve(5e5, 1, {}, { tripTop: 0.1 }), curve(1e5, 2), curve(5e5, 3, {}, { grain: 1e-4 }))).toBe(2);
  });
  it('is none of another shape, of too few points, or over Reynolds numbers', () => {
    expect(best(curve(5e5, 1, { solved: 2 }), curve(5e5, 1, { facts: null }))).toBeUndefined();
    expect(polarsOf([curve(5e5, 1)], 5e5, () => ({ ...source, designation: '4412' })).size).toBe(0);
    expect(polarsOf([curve(5e5, 1)], 5e5, () => null).size).toBe(0);
  });
});

it('the library lists facts of the shape and of the polar, none twice, each with a name', () => {
  const ids = LIBRARY_QUANTITIES.map((q) => q.id);
  expect(new Set(ids).size).toBe(ids.length);
  const row = { id: 's', used: '', polar: { reynolds: 1e6, facts: { clMax: 1.4 } } } as unknown as LibraryRow;
  const of = (id: string) => LIBRARY_QUANTITIES.find((q) => q.id === id)!.of(row);
  expect(of('cl-max')).toBe(1.4);
  expect(of('thickness')).toBeNull();
  expect(libraryName({ id: 'camber-at', symbol: 'at' })).toBe('camber crest');
});
