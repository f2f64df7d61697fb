import { DISTRIBUTION_KEYS, type Distributions } from '../section-flow';
import { distributionTable, shortNumber } from './distribution-table';

it('numbers are written with five digits, as the general way writes them', () => {
  let seed = 7;
  const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 3000; i++) {
    const v = Math.fround((random() - 0.5) * 10 ** (24 * random() - 12));
    const [short, long] = [Number(shortNumber(v)), Number(v.toPrecision(5))];
    // A tie may go either way.
    expect(Math.abs(short - long)).toBeLessThanOrEqual(1.0001e-4 * Math.abs(long));
    expect(
      shortNumber(v)
        .replace(/e.*|[-.]/g, '')
        .replace(/^0+/, '')
        .replace(/0+$/, '').length,
    ).toBeLessThanOrEqual(5);
  }
  expect([0, -0, NaN, Infinity, 1, -2.5, 123456, 1e-30].map(shortNumber)).toEqual([
    '0',
    '0',
    '',
    '',
    '1',
    '-2.5',
    '123460',
    '1e-30',
  ]);
});

it('a table has a row for every station of both surfaces and the wake', () => {
  const side = (n: number) => Object.fromEntries(DISTRIBUTION_KEYS.map((k) => [k, new Float32Array(n).fill(0.25)]));
  const rows = distributionTable({ top: side(3), bottom: side(2), wake: side(1) } as unknown as Distributions)
    .trim()
    .split('\n');
  expect(rows).toHaveLength(7);
  expect(rows[0]).toBe(`side,${DISTRIBUTION_KEYS.join()}`);
  expect(rows[6]).toBe(`wake,${DISTRIBUTION_KEYS.map(() => '0.25').join()}`);
});
