import { chosenColumns, readMeasuredTable } from './measured-table';

describe('a measured table', () => {
  it('is read by its headings', () => {
    const t = readMeasuredTable('# tunnel 3\nalpha (deg),C_L,Cd,Cm_c/4\n-2,0.01,0.0081,-0.05\n0,0.24,0.0079,-0.05\n');
    expect(t.headings).toEqual(['alpha (deg)', 'C_L', 'Cd', 'Cm_c/4']);
    expect(t.guess).toEqual(['alpha', 'cl', 'cd', 'cm']);
    expect(t.rows).toEqual([
      [-2, 0.01, 0.0081, -0.05],
      [0, 0.24, 0.0079, -0.05],
    ]);
    expect(t.notes).toEqual([]);
  });
  it('takes semicolons with decimal commas, blanks, tabs, true minus signs, and no headings', () => {
    expect(readMeasuredTable('Winkel;ca\n−1,5;0,12\n2;0,43').rows).toEqual([
      [-1.5, 0.12],
      [2, 0.43],
    ]);
    const plain = readMeasuredTable('  -2   0.1 0.008\n 0   0.3 0.0085\n');
    expect(plain).toMatchObject({ headings: ['column 1', 'column 2', 'column 3'], guess: [null, null, null] });
    expect(plain.rows[0]).toEqual([-2, 0.1, 0.008]);
    expect(readMeasuredTable('α\tlift\tXtr_top\tXtr_bot\r\n1\t0.5\t0.4\t0.9').guess).toEqual([
      'alpha',
      'cl',
      'transition-top',
      'transition-bottom',
    ]);
  });
  it('leaves out what is no number, and says where', () => {
    const t = readMeasuredTable('alpha,cl\n0,0.2\n1,stall?\n2,\n3,0.5\n');
    expect(t.rows).toEqual([
      [0, 0.2],
      [1, null],
      [2, null],
      [3, 0.5],
    ]);
    expect(t.notes).toEqual(['Row 2, cl: “stall?” is no number; left out.']);
    expect(chosenColumns(t, t.guess)).toEqual({
      columns: ['alpha', 'cl'],
      rows: [
        [0, 0.2],
        [3, 0.5],
      ],
    });
    const many = readMeasuredTable(`alpha,cl\n0,1\n${'x,y\n'.repeat(10)}`);
    expect(many.notes).toHaveLength(6);
    expect(many.notes[5]).toMatch(/15 more/);
  });
  it.each([
    '',
    '\n\n',
    'one column\n1\n2\n',
    'a,b\nx,y\n',
    '\0\0\u0001,2\n1,2',
    'a,b\n' + '1,2\n'.repeat(6000),
    'x'.repeat(5_000_000),
  ])('is refused in words: %#', (text) => {
    expect(() => readMeasuredTable(text)).toThrow(/columns|numbers|text|rows|larger/);
  });
  it('needs two columns, none twice', () => {
    const t = readMeasuredTable('a,b,c\n1,2,3\n');
    expect(() => chosenColumns(t, ['alpha', null, null])).toThrow(/two columns/);
    expect(() => chosenColumns(t, ['alpha', 'alpha', null])).toThrow(/Two columns are said to hold alpha/);
    expect(chosenColumns(t, ['cl', null, 'alpha'])).toEqual({ columns: ['cl', 'alpha'], rows: [[1, 3]] });
  });
});
