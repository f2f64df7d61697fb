import * as fc from 'fast-check';
import { seeded } from './fuzz';
import { checkOutline, designationOutline, outlineFromPairs, pairsFromOutline } from '../../section';
import { decodeText, readCoordinates, SECTION_FORMATS, writeCoordinates, writeSection } from '..';

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
  it.each([
    ['an index before', (x: number, y: number, i: number) => [i + 1, x, y], 'columns 2 and 3'],
    ['a zero before', (x: number, y: number) => [0, x, y], 'columns 2 and 3'],
    ['a zero between', (x: number, y: number) => [x, 0, y], 'columns 1 and 3'],
    ['an index and a zero', (x: number, y: number, i: number) => [i, x, 0, y], 'columns 2 and 4'],
  ])('finds the columns of the outline with %s', (_, row, words) => {
    const read = readCoordinates(loop.map(([x, y], i) => row(x, y, i).join(' ')).join('\n'));
    expectLoop(read.points);
    expect(read.diagnosis[0]).toMatchObject({ code: 'columns-chosen' });
    expect(read.diagnosis[0].message).toContain(words);
    expect(read.repaired).toBe(true);
  });
  it('asks where several columns could be the outline, and keeps to the first two where they are one', () => {
    const twice = loop.map(([x, y], i) => `${i} ${x} ${y} ${2 * x} ${2 * y}`).join('\n');
    expect(() => readCoordinates(twice)).toThrow(/several others are/);
    expectLoop(readCoordinates(loop.map(([x, y]) => `${x} ${y} ${2 * x} ${2 * y}`).join('\n')).points);
  });
  it('names lines that are not coordinates', () => {
    const read = readCoordinates([...body.slice(0, 5), 'oops', ...body.slice(5)].join('\n'));
    expect(read.diagnosis[0]).toMatchObject({ code: 'lines-skipped', lines: [6] });
    expectLoop(read.points);
  });
});

const xs = loop.map(([x]) => x);
const text2 = (points: readonly (readonly number[])[]) => points.map((p) => p.join(' ')).join('\n');
const upperPoints = loop.slice(0, nose + 1).reverse();
const lowerPoints = loop.slice(nose);
const codes = (read: { diagnosis: { code: string }[] }) => read.diagnosis.map((d) => d.code);
const sharp = pairsFromOutline(designationOutline('4412', 'sharp', 61));

describe('repairs', () => {
  it('takes interleaved surfaces apart', () => {
    const mixed = upperPoints.flatMap((p, i) => (i === 0 ? [p] : [p, lowerPoints[i]]));
    const read = readCoordinates(text2(mixed.slice(0, 1).concat(mixed)));
    expect(read.layout).toBe('interleaved surfaces');
    expectLoop(read.points, 1e-8);
  });
  it('reads a table of both surfaces', () => {
    const half = pairsFromOutline(designationOutline('0012', 'published', 61))
      .slice(0, 31)
      .reverse();
    const read = readCoordinates(`x yu yl\n${half.map(([x, y]) => `${x} ${y + 0.01 * x} ${-y}`).join('\n')}`, 'Table');
    expect(read.name).toBe('Table');
    expect(read.points).toHaveLength(61);
  });
  it('leaves a centre line out, wherever it stands', () => {
    const centre = upperPoints.map(([x, y], i) => [x, 0.5 * (y + lowerPoints[i][1])]);
    for (const parts of [
      [loop, centre],
      [loop, centre.slice().reverse()],
      [upperPoints, centre, lowerPoints],
      [upperPoints, lowerPoints, centre],
    ]) {
      const read = readCoordinates(parts.map(text2).join('\n\n'));
      expect(codes(read)).toContain('centre-line-removed');
      expectLoop(read.points);
    }
  });
  it('sorts points that come in no order', () => {
    const even = pairsFromOutline(designationOutline('0015', 'published', 81));
    const shuffled = even.map((p, i) => [(i * 37) % 81, p] as const).sort((a, b) => a[0] - b[0]);
    const read = readCoordinates(text2(shuffled.map((s) => s[1])));
    expect(codes(read)).toContain('points-sorted');
    expect(read.points).toHaveLength(even.length);
    read.points.forEach(([x, y], i) => expect(Math.hypot(x - even[i][0], y - even[i][1])).toBeLessThan(1e-9));
  });
  it.each(
    ['0006', '0012', '2411', '6409', '23012', '0021'].flatMap((n) => [
      [n, 'published'] as const,
      [n, 'sharp'] as const,
    ]),
  )('sorts shuffled points of %s with its %s edge, and says how sure that is', (name, edge) => {
    const next = seeded(5);
    for (const count of [41, 81, 161, 239]) {
      const rounded = (v: number) => Number(v.toFixed(6)) || 0;
      const pairs = pairsFromOutline(designationOutline(name, edge, count)).map(([x, y]) => [rounded(x), rounded(y)]);
      const shuffled = pairs.map((p) => [next(), p] as const).sort((a, b) => a[0] - b[0]);
      const read = readCoordinates(text2(shuffled.map((s) => s[1])));
      expect(read.diagnosis[0]).toMatchObject({ code: 'points-sorted' });
      expect(read.diagnosis[0].message).toMatch(/% of the chord longer/);
      expect(read.points).toEqual(pairs);
    }
  });
  it('refuses a cloud of points', () => {
    const next = seeded(9);
    const cloud = Array.from({ length: 300 }, () => [next(), 0.3 * next()]);
    expect(() => readCoordinates(text2(cloud))).toThrow(/no outline/);
  });
  it('adds a nose that is missing, where it was', () => {
    const without = [...loop.slice(0, nose - 1), ...loop.slice(nose + 2)];
    const read = readCoordinates(text2(without));
    expect(codes(read)).toContain('nose-added');
    const found = read.points.reduce((a, b) => (b[0] < a[0] ? b : a));
    expect(Math.hypot(...found)).toBeLessThan(0.004);
    expect(read.diagnosis.find((d) => d.code === 'nose-added')!.displacement).toBeGreaterThan(1e-4);
    expect(codes(readCoordinates(text2(loop)))).toEqual([]);
    for (const d of ['0006', '23012', '6409', '0021'])
      for (const count of [31, 61, 161])
        expect(codes(readCoordinates(text2(pairsFromOutline(designationOutline(d, 'published', count)))))).toEqual([]);
  });
  it('takes one of two points at the nose', () => {
    const read = readCoordinates(text2([...loop.slice(0, nose + 1), ...loop.slice(nose)]));
    expect(codes(read)).toContain('nose-doubled');
    expectLoop(read.points);
  });
  it('cuts off a tiny loop at the trailing edge', () => {
    const crossed = sharp.map(([x, y], i): [number, number] =>
      i < 3 ? [x, y - 0.004 * (3 - i)] : i > 57 ? [x, y + 0.004 * (i - 57)] : [x, y],
    );
    const read = readCoordinates(text2(crossed));
    expect(codes(read)).toContain('edge-loop-removed');
    expect(read.points[0]).toEqual(read.points[read.points.length - 1]);
    expect(read.diagnosis[0].displacement).toBeLessThan(0.03);
  });
  it('leaves the base of a blunt edge out', () => {
    const middle = [0.5 * (loop[0][0] + loop[60][0]), 0.5 * (loop[0][1] + loop[60][1])];
    const read = readCoordinates(text2([middle, ...loop, middle]));
    expect(codes(read)).toEqual(['base-removed']);
    expectLoop(read.points);
  });
  it('leaves out one point that is far off, with its line, and refuses many', () => {
    const off = loop.map(([x, y], i) => (i === 20 ? [x, y + 0.05] : [x, y]));
    const read = readCoordinates(text2(off));
    expect(read.diagnosis[0]).toMatchObject({ code: 'points-stray', lines: [21] });
    const bad = loop.map(([x, y], i) => (i % 7 === 3 ? [x, y + 0.05] : [x, y]));
    expect(() => readCoordinates(text2(bad))).toThrow(/Line \d+|lines/);
  });
  it('turns a loop that starts on a surface, or at the nose', () => {
    const ring = sharp.slice(0, -1);
    for (const start of [15, 30, 45]) {
      const turned = [...ring.slice(start), ...ring.slice(0, start), ring[start]];
      const read = readCoordinates(text2(turned));
      expect(read.points).toHaveLength(61);
      read.points.forEach(([x, y], i) => expect(Math.hypot(x - sharp[i][0], y - sharp[i][1])).toBeLessThan(1e-9));
    }
  });
  it('mirrors one surface when asked to, and asks else', () => {
    const half = pairsFromOutline(designationOutline('0012', 'published', 61)).slice(0, 31);
    expect(() => readCoordinates(text2(half))).toThrow(/one surface only/);
    const read = readCoordinates(text2(half), 'Half', { mirror: true });
    expect(read.points).toHaveLength(61);
    read.points.forEach(([x, y], i) => {
      expect(x).toBeCloseTo(read.points[60 - i][0], 12);
      expect(y).toBeCloseTo(-read.points[60 - i][1], 12);
    });
  });
  it('keeps the points as they stood, on the same chord', () => {
    const read = readCoordinates(text2(loop.map(([x, y]) => [300 * x + 20, 300 * y])));
    expect(read.before).toHaveLength(61);
    expect(Math.max(...read.before.map((p) => p[0]))).toBeCloseTo(Math.max(...xs), 2);
  });
  it('says which lines cross', () => {
    const crossed = loop.map(([x, y], i) => (i > 12 && i < 24 ? [x, y - 0.2] : [x, y]));
    expect(() => readCoordinates(text2(crossed))).toThrow(/lines \d+ and \d+|Line \d+/);
  });
  it.each([
    ['UTF-8 with its mark', new Uint8Array([0xef, 0xbb, 0xbf, ...Buffer.from(`Gräser\n${body.join('\n')}`)])],
    ['UTF-16', Buffer.from(`\uFEFFGräser\n${body.join('\n')}`, 'utf16le')],
    ['Latin-1', Buffer.from(`Gräser\n${body.join('\n')}`, 'latin1')],
  ])('decodes %s', (_, bytes) => {
    expect(readCoordinates(decodeText(bytes)).name).toBe('Gräser');
  });
  it('reads its own files back, in every format', () => {
    const outline = designationOutline('4412', 'published', 121);
    const pairs = pairsFromOutline(outline);
    for (const format of SECTION_FORMATS) {
      for (const chord of [1, 240, 0.31]) {
        const read = readCoordinates(writeSection('Karoo 12', outline, format, { chord }));
        const nearest = (p: [number, number]) =>
          Math.min(...read.points.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1])));
        const shift = read.diagnosis.some((d) => d.code === 'scaled');
        // Scaled files begin at their own foremost point.
        const low = pairs.reduce((a, b) => (b[0] < a[0] ? b : a));
        const length = 0.5 * (pairs[0][0] + pairs[120][0]) - low[0];
        const same = pairs.map(([x, y]): [number, number] =>
          shift ? [(x - low[0]) / length, (y - low[1]) / length] : [x, y],
        );
        expect(read.points).toHaveLength(121);
        for (const p of same) expect(nearest(p)).toBeLessThan(1e-7);
      }
    }
  });
});

describe('mutated files', () => {
  const clean = [
    text,
    `Karoo 12\n${upper.length}. ${lower.length}.\n\n${upper.join('\n')}\n\n${lower.join('\n')}`,
    body.map((l) => l.trim().replace(/\s+/, ';').replaceAll('.', ',')).join('\r\n'),
    writeSection('Karoo 12', designationOutline('4412', 'published', 61), 'csv'),
    writeSection('Karoo 12', designationOutline('4412', 'published', 61), 'dxf'),
    writeSection('Karoo 12', designationOutline('4412', 'published', 61), 'svg'),
  ];
  const JUNK = [
    '',
    '\n',
    ' ',
    '-',
    '.',
    ',',
    ';',
    'e',
    '9',
    '0',
    'x',
    '\t',
    'NaN',
    '1e308',
    '\u0000',
    '"',
    '\uFEFF',
    '1 2\n',
    '#',
  ];
  /** A small generator with a seed, so that a failure can be seen again. */
  const random = (seed: number) => () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  it('10 000 of them: a sound section or a clear error, in no time', () => {
    const next = random(20261123);
    let read = 0;
    const pick = (n: number) => Math.floor(next() * n);
    for (let k = 0; k < 10_000; k++) {
      let source = clean[pick(clean.length)];
      for (let edits = 1 + pick(6); edits > 0; edits--) {
        const at = pick(source.length + 1);
        const kind = pick(5);
        if (kind === 0) source = source.slice(0, at) + JUNK[pick(JUNK.length)] + source.slice(at);
        else if (kind === 1) source = source.slice(0, at) + source.slice(at + 1 + pick(12));
        else if (kind === 2) source = source.slice(0, at);
        else {
          const rows = source.split('\n');
          const [a, b] = [pick(rows.length), pick(rows.length)];
          if (kind === 3) [rows[a], rows[b]] = [rows[b], rows[a]];
          else rows.splice(a, 0, rows[b]);
          source = rows.join('\n');
        }
      }
      try {
        const section = readCoordinates(source);
        read++;
        const outline = outlineFromPairs(section.points);
        // What is taken can be measured: finite, closed, not crossing, of a sensible height.
        checkOutline(outline);
        const ys = section.points.map((p) => p[1]);
        if (!(Math.max(...ys) - Math.min(...ys) < 0.6)) throw new Error(`nonsense was taken: ${source}`);
      } catch (error) {
        const e = error as { code?: string; message: string };
        if (!e.code?.startsWith('coordinates-') && !e.code?.startsWith('section-')) throw error;
      }
    }
    // The test would say nothing if all of them were refused, or none.
    expect(read).toBeGreaterThan(2000);
    expect(read).toBeLessThan(9900);
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
