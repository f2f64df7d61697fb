import { describe, expect, it } from '@jest/globals';
import Papa from 'papaparse';
import { harmlessCell, plainCell, tableText } from '.';

const HOSTILE = [
  '=HYPERLINK("http://x","y")',
  "+cmd|' /C calc'!A0",
  '-2+3+cmd|x',
  '@SUM(1)',
  '\t=1',
  '\r=1',
  "'=already",
  "''+twice",
];

describe('tables for spreadsheets', () => {
  it.each(HOSTILE)('make %j harmless, and give it back', (text) => {
    const cell = harmlessCell(text) as string;
    expect(cell.startsWith("'")).toBe(true);
    expect(plainCell(cell)).toBe(text);
    const [[back]] = Papa.parse<string[]>(tableText([[text]]), { delimiter: ',' }).data;
    expect(plainCell(back)).toBe(text);
  });

  it.each(['-1.5', '+3', '-2e-4', '.5', '−1', "it's", "'quoted'", 'NACA 1410', '', '-0', '1-2'])(
    'leave %j as it is',
    (text) => {
      expect(harmlessCell(text)).toBe(text);
      expect(plainCell(text)).toBe(text);
    },
  );

  it('leave numbers, and quote what needs it', () => {
    expect(
      tableText([
        ['a', 'b, c'],
        [-1, null],
      ]),
    ).toBe('a,"b, c"\r\n-1,');
    expect(tableText([['a', '=b']], '\t')).toBe("a\t'=b");
  });
});
