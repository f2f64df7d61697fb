import { parseJson } from '../../limits';
import { hostileText, seeded } from './fuzz';
import { readLines } from './lines';
import { readCoordinates } from './read';

describe('hostile texts', () => {
  // Each takes 50 ms and a microsecond a byte at most, see bench --fuzz; a reader that takes ever longer would not come to the end here.
  it('1 500 of them, by structure and by size: read, or refused with a reason', () => {
    const random = seeded(20261126);
    const codes = new Set<string>();
    for (let k = 0; k < 1500; k++) {
      const text = hostileText(random);
      try {
        const { points } = readCoordinates(text);
        for (const [x, y] of points) if (!Number.isFinite(x + y)) throw new Error(`no number: ${text.slice(0, 200)}`);
      } catch (error) {
        const { code, message } = error as { code?: string; message: string };
        if (!code) throw new Error(`${message}: ${JSON.stringify(text.slice(0, 200))}`, { cause: error });
        codes.add(code);
      }
    }
    // It would say little if all of them failed at the same step.
    expect(codes.size).toBeGreaterThan(6);
  });
  it.each([
    ['blanks in one line', ' '.repeat(2_000_000) + 'x'],
    ['one number without end', '1'.repeat(2_000_000) + 'e'],
    ['separators', ',;\t'.repeat(600_000)],
    ['blank lines', '\n'.repeat(2_000_000)],
    ['remarks', '#'.repeat(2_000_000)],
    ['quotes', '"'.repeat(2_000_000)],
    ['decimal commas', '1,1 '.repeat(500_000)],
    ['openings of paths', `<svg>${'<path '.repeat(110_000)}`],
    ['nested elements', `<svg>${'<g>'.repeat(200_000)}`],
    ['moves', `<svg><path d="${'M1 1'.repeat(400_000)}"/></svg>`],
  ])('two million signs of %s are refused', (_, text) =>
    expect(() => readCoordinates(text)).toThrow(
      expect.objectContaining({ code: expect.stringMatching(/^coordinates-/) }),
    ),
  );
  it('reading ends after as many points as are allowed', () => {
    expect(readLines('1 0\n'.repeat(100_000), 50).numbers).toHaveLength(50);
    expect(() => readCoordinates('1 0\n0 0\n'.repeat(100_000))).toThrow(/more than 5000/);
  });
});

describe('JSON of files', () => {
  it('is read with or without a byte-order mark', () => {
    expect(parseJson('\uFEFF{"a":[1]}', 'It')).toEqual({ a: [1] });
    expect(parseJson('"[[[[" ', 'It')).toBe('[[[[');
    expect(parseJson(`"${'['.repeat(1000)}\\"${'{'.repeat(1000)}"`, 'It')).toHaveLength(2001);
  });
  it.each([['{'], [''], ['nul'], ['[1,]'], ['{"a":01}']])('%j is refused with what it is', (text) =>
    expect(() => parseJson(text, 'The plan')).toThrow(/^The plan is not JSON/),
  );
  it('nested without end is refused before it is parsed', () => {
    for (const open of ['[', '{"a":', '[{"a":'])
      expect(() => parseJson(open.repeat(1_000_000), 'The plan')).toThrow(/nested more than 64/);
    expect(() => parseJson(`${'['.repeat(64)}${']'.repeat(64)}`, 'It')).not.toThrow();
  });
});
