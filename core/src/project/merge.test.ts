import fc from 'fast-check';
import { mergeValues } from '.';

describe('two changes of one value', () => {
  const before = { speed: 20, bands: { trim: { min: 1, max: 2 } }, list: [1, 2, 3], note: 'n' };
  it('are put together where they are of different fields', () => {
    const mine = { ...before, speed: 30 };
    const theirs = { ...before, note: 'other', bands: { trim: { min: 1, max: 5 } }, list: [1, 9, 3] };
    expect(mergeValues(before, mine, theirs)).toEqual({
      value: { speed: 30, bands: { trim: { min: 1, max: 5 } }, list: [1, 9, 3], note: 'other' },
      both: [],
    });
  });
  it('are told where both changed the same', () => {
    const mine = { ...before, speed: 30, list: [1, 2, 4] };
    const theirs = { ...before, speed: 40, list: [1, 2] };
    const { value, both } = mergeValues(before, mine, theirs);
    expect(both.sort()).toEqual(['list', 'speed']);
    expect(value.speed).toBe(30);
  });
  it('take up and leave out fields', () => {
    type Loose = Record<string, number>;
    expect(mergeValues<Loose>({ a: 1, b: 2 }, { a: 1 }, { a: 1, b: 2, c: 3 })).toEqual({
      value: { a: 1, c: 3 },
      both: [],
    });
  });
  it('never lose either side where they do not meet', () => {
    const value = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.integer({ min: 0, max: 3 }), { minKeys: 4 });
    fc.assert(
      fc.property(value, value, value, (b, m, t) => {
        const { value: merged, both } = mergeValues(b, m, t);
        for (const key of Object.keys(b)) {
          if (both.includes(key)) {
            expect(m[key] !== b[key] && t[key] !== b[key] && m[key] !== t[key]).toBe(true);
          } else expect(merged[key]).toBe(m[key] !== b[key] ? m[key] : t[key]);
        }
      }),
    );
  });
});
