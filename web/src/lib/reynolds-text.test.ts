import { reynoldsText } from './reynolds-text';

it('tells Reynolds numbers in thousands below a million, and in millions from there', () => {
  expect([400_000, 561_505, 1e6, 2_512_000].map((re) => reynoldsText(re))).toEqual([
    '400 k',
    '562 k',
    '1.0 M',
    '2.5 M',
  ]);
  expect(reynoldsText(2_512_000, 2)).toBe('2.51 M');
});
