import { numberList } from '.';

describe('a list of numbers', () => {
  it('has single ones and ranges, in their order', () => {
    expect(numberList('-2, 0, 4.5, 8:12:0.5', 'alpha')).toEqual([-2, 0, 4.5, 8, 8.5, 9, 9.5, 10, 10.5, 11, 11.5, 12]);
    expect(numberList('−4:−6:-1, 3°', 'alpha')).toEqual([-4, -5, -6, 3]);
    expect(numberList('0:0.3:0.1', 'cl')).toEqual([0, 0.1, 0.2, 0.3]);
    expect(numberList('7', 're')).toEqual([7]);
  });
  it('says what is wrong with it', () => {
    for (const [text, said] of [
      ['', '"" is not a number'],
      ['1,,2', '"" is not a number'],
      ['1, two', '" two" is not a number'],
      ['1:2', '"1:2" is not from:to:step'],
      ['0, 1:2:-1', 'does not lead'],
      ['0, 1:2:0', 'does not lead'],
      ['0:1e9:1', 'more than 2001'],
      ['0:1000:1, 0:1000:1', 'more than 2001'],
      ['NaN', 'not a number'],
      ['1e400', 'not a number'],
    ])
      expect(() => numberList(text, 'alpha')).toThrow(said);
  });
});
