import { displayUnit, formatNumber, formatQuantity, parseQuantity, showDecimalsBy, withShownMark } from '.';

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
    ['1,234.5', 'length', 'metric', 1234.5],
    ['1.234,5', 'length', 'metric', 1234.5],
    ['1,234,567', 'plain', 'metric', 1234567],
    ['0,500', 'length', 'metric', 0.5],
    ['12,00', 'length', 'metric', 12],
    ['1.500', 'length', 'metric', 1.5],
    ['2 1/2 in', 'length', 'metric', 0.0635],
    ['6 ft + 2 1/2 in', 'length', 'metric', 1.8923],
    ['5 psf', 'pressure', 'metric', 239.4012949],
    ['3 slug', 'mass', 'metric', 43.7817088],
    ['100 kn', 'speed', 'metric', 51.4444444],
    ['1 kN', 'force', 'metric', 1000],
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
  it.each(['1,500 ft', '12,000', '3 m + 1,250 mm'])(
    '%s has two readings: refused, or read by the mark of the reader',
    (text) => {
      expect(() => parseQuantity(text, 'length', 'metric')).toThrow(/two readings: .* may be [\d.]+ or \d+\./);
      const [thousands, decimals] = (['point', 'comma'] as const).map((decimalMark) =>
        parseQuantity(text, 'length', 'metric', { decimalMark }),
      );
      expect(thousands).toBeCloseTo(parseQuantity(text.replace(',', ''), 'length', 'metric'), 12);
      expect(decimals).toBeCloseTo(parseQuantity(text.replace(',', '.'), 'length', 'metric'), 12);
    },
  );
  it('takes the only reading that a field can mean', () => {
    const altitude = { accepts: (v: number) => v >= 100 };
    expect(parseQuantity('1,500 m', 'altitude', 'metric', altitude)).toBe(1500);
    expect(parseQuantity('1,500 m', 'length', 'metric', { decimalMark: 'point', accepts: (v) => v < 10 })).toBe(1.5);
  });
  it.each(['1,23,456', '1.2.3', '1,2345,6', '1.234.5'])('%s is no number', (text) => {
    expect(() => parseQuantity(text, 'length', 'metric')).toThrow(/no number/);
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

describe('the decimal mark that is shown', () => {
  afterEach(() => showDecimalsBy(() => 'point'));
  it('is the one that is asked for, each time', () => {
    let mark: 'point' | 'comma' = 'point';
    showDecimalsBy(() => mark);
    expect(formatNumber(-1234.5, 2)).toBe('−1234.50');
    mark = 'comma';
    expect(formatNumber(-1234.5, 2)).toBe('−1234,50');
    expect(formatNumber(NaN, 2)).toBe('—');
    expect(formatNumber(7, 0)).toBe('7');
    expect(formatQuantity(0.4, 'length', 'metric')).toBe('0,400');
    expect(withShownMark('0.25')).toBe('0,25');
  });
  it('is read back as it is shown', () => {
    showDecimalsBy(() => 'comma');
    for (const v of [0.125, 1.5, 12.345, -0.25])
      expect(parseQuantity(formatNumber(v, 3), 'length', 'metric', { decimalMark: 'comma' })).toBeCloseTo(v, 9);
  });
});
