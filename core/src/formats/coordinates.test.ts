import * as fc from 'fast-check';
import { designationOutline, pairsFromOutline } from '../section';
import { readCoordinates, writeCoordinates } from '.';

const loop = pairsFromOutline(designationOutline('4412', 'published', 61));
const text = writeCoordinates('Karoo 12', loop, 9);
const lines = text.trimEnd().split('\n');
const body = lines.slice(1);
const expectLoop = (points: [number, number][], tolerance = 1e-8) => {
  expect(points).toHaveLength(loop.length);
  points.forEach(([x, y], i) => {
    expect(Math.abs(x - loop[i][0])).toBeLessThan(tolerance);
    expect(Math.abs(y - loop[i][1])).toBeLessThan(tolerance);
  });
};
const nose = 30;
const upper = body.slice(0, nose + 1).reverse();
const lower = body.slice(nose);

describe('reading coordinates', () => {
  it('comes back from writing unchanged', () => {
    const read = readCoordinates(text);
    expectLoop(read.points);
    expect(read).toMatchObject({ name: 'Karoo 12', repaired: false, diagnosis: [] });
  });
  it.each([
    ['without a title', body.join('\n')],
    ['with several title lines and comments', `My section\nsecond line\n# note\n${body.join('\n')}`],
    ['with CRLF and a byte-order mark', `\uFEFF${lines.join('\r\n')}\r\n`],
    ['comma separated', body.map((l) => l.trim().replace(/\s+/, ',')).join('\n')],
    [
      'semicolon separated with decimal commas',
      body.map((l) => l.trim().replace(/\s+/, ';').replaceAll('.', ',')).join('\n'),
    ],
    ['with tabs', body.map((l) => l.trim().replace(/\s+/, '\t')).join('\n')],
    ['with an extra column', body.map((l, i) => `${l} ${i}`).join('\n')],
    ['in exponents', loop.map(([x, y]) => `${x.toExponential(10)} ${y.toExponential(10)}`).join('\n')],
    ['reversed', body.slice().reverse().join('\n')],
    [
      'as two surfaces with counts',
      `Karoo 12\n${upper.length}. ${lower.length}.\n\n${upper.join('\n')}\n\n${lower.join('\n')}`,
    ],
    ['as two surfaces without counts', `${upper.join('\n')}\n${lower.join('\n')}`],
    ['as two surfaces, lower first', `${lower.join('\n')}\n\n${upper.join('\n')}`],
    ['with a doubled point', [...body.slice(0, 9), ...body.slice(8)].join('\n')],
    ['in millimetres and moved', loop.map(([x, y]) => `${240 * x + 17} ${240 * y - 5}`).join('\n')],
  ])('takes them %s', (name, source) => {
    const moved = name.includes('moved');
    const read = readCoordinates(source);
    // A moved outline starts at its own foremost point, which for a cambered one is not quite the origin.
    expectLoop(read.points, moved ? 2e-3 : 1e-8);
    expect(read.repaired).toBe(/reversed|surfaces|doubled|moved/.test(name));
  });
  it.each([
    ['text', 'dear colleague\nplease find attached\nthe section', /No coordinates/],
    ['nothing', '', /No coordinates/],
    ['three points', '1 0\n0 0\n1 0', /Only 3 point/],
    ['one surface', upper.join('\n'), /one surface only/],
    ['the other surface', upper.slice().reverse().join('\n'), /one surface only/],
    ['half the loop cut off', body.slice(0, 45).join('\n'), /without starting and ending|one surface/],
    ['a line', Array.from({ length: 20 }, (_, i) => `0.5 ${i}`).join('\n'), /same x/],
    ['a number beyond all bounds', [...body.slice(0, 5), '1e999 0', ...body.slice(5)].join('\n'), /Line 6/],
  ])('refuses %s with a reason', (_, source, reason) => {
    expect(() => readCoordinates(source)).toThrow(reason);
  });
  it('names lines that are not coordinates', () => {
    const read = readCoordinates([...body.slice(0, 5), 'oops', ...body.slice(5)].join('\n'));
    expect(read.diagnosis[0]).toMatchObject({ code: 'lines-skipped', lines: [6] });
    expectLoop(read.points);
  });
  it('survives mutated files: a section or a clear error, and never a number that is none', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.nat(lines.length - 1),
            fc.constantFrom('', 'x', '1 2', 'NaN NaN', '-', '0 0', '1e5 3', ',,,', '0.5 0.1'),
          ),
        ),
        (edits) => {
          const copy = lines.slice();
          for (const [at, value] of edits) copy[at] = value;
          try {
            const read = readCoordinates(copy.join('\n'));
            for (const [x, y] of read.points)
              if (!Number.isFinite(x) || !Number.isFinite(y)) throw new Error('not a number');
          } catch (error) {
            if (!(error as { code?: string }).code) throw error;
          }
        },
      ),
      { numRuns: 500 },
    );
  });
});
