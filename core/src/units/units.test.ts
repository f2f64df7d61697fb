import { displayUnit, formatNumber, formatQuantity, parseQuantity } from '.';

describe('quantities as typed', () => {
  it.each([
    ['14 in', 'length', 'metric', 0.3556],
    ['0.25*1.4 m', 'length', 'metric', 0.35],
    ['3 ft + 2 in', 'length', 'metric', 0.9652],
    ['350', 'chord', 'small', 0.35],
    ['350 mm', 'length', 'metric', 0.35],
    ['1,5', 'length', 'metric', 1.5],
    ['12', 'chord', 'us', 0.3048],
    ['−2.5', 'angle', 'metric', -2.5],
    ['2°', 'angle', 'metric', 2],
    ['0.1 rad', 'angle', 'metric', 5.729577951],
    ['50 kt', 'speed', 'metric', 25.7222222],
    ['90 km/h', 'speed', 'metric', 25],
    ['53 lb', 'mass', 'metric', 24.04039561],
    ['500 g', 'mass', 'metric', 0.5],
    ['2000 ft', 'altitude', 'metric', 609.6],
    ['12 %', 'ratio', 'metric', 0.12],
    ['12', 'ratio', 'metric', 0.12],
    ['(1+2)*3', 'plain', 'metric', 9],
    ['3e-3', 'plain', 'metric', 0.003],
  ] as const)('%s as %s in %s is %d', (text, dimension, set, value) => {
    expect(parseQuantity(text, dimension, set)).toBeCloseTo(value, 7);
  });
  it.each([
    ['', 'length', /empty/],
    ['wide', 'length', /cannot be worked out/],
    ['3 kg', 'length', /not a length/],
    ['3 m', 'angle', /not an angle/],
    ['1/0', 'length', /finite/],
    ['3 m', 'plain', /plain number/],
    ['12 %', 'length', /%/],
    ['x = 3; import("fs")', 'length', /not a quantity/],
    ['import(1)', 'length', /cannot be worked out/],
    ['9'.repeat(200), 'length', /too long/],
  ] as const)('refuses %s as %s', (text, dimension, reason) => {
    expect(() => parseQuantity(text, dimension, 'metric')).toThrow(reason);
  });
  it('shows true minus signs, no minus zero, and units of the set', () => {
    expect(formatNumber(-1.25, 1)).toBe('−1.3');
    expect(formatNumber(-0.0001, 2)).toBe('0.00');
    expect(formatNumber(NaN, 2)).toBe('—');
    expect(formatQuantity(0.35, 'chord', 'small')).toBe('350.0');
    expect(displayUnit('mass', 'us').symbol).toBe('lb');
  });
  it('comes back from what is shown, in every set', () => {
    for (const dimension of [
      'length',
      'chord',
      'area',
      'speed',
      'altitude',
      'mass',
      'force',
      'moment',
      'pressure',
    ] as const)
      for (const set of ['metric', 'small', 'us'] as const) {
        const { symbol } = displayUnit(dimension, set);
        expect(parseQuantity(`${formatQuantity(3.21, dimension, set, 9)} ${symbol}`, dimension, set)).toBeCloseTo(
          3.21,
          6,
        );
      }
  });
});
