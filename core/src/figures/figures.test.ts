import { XMLParser, XMLValidator } from 'fast-xml-parser';
import fc from 'fast-check';
import { figureRows, figureSpec, figureSvg, drawingSvg, PRINT_LOOK, type FigureSpec } from '.';
import { apart } from './names';

const line = (
  points: FigureSpec['series'][number]['points'],
  more: Partial<FigureSpec['series'][number]> = {},
): FigureSpec => ({
  x: { name: 'α', unit: '°' },
  y: { name: 'CL', unit: '', zero: true },
  series: [{ name: 'A', style: 0, points, ...more }],
  bands: [],
  marks: [],
});
const SIZE = { width: 640, height: 340 };
const svgOf = (f: FigureSpec) => figureSvg(f, SIZE, PRINT_LOOK, 'f');
const parser = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' });
const pathOf = (svg: string) => /<path d="(M[^"]*)" fill="none"/.exec(svg)![1];

describe('a figure', () => {
  it('is markup that an independent reader takes, with its words as text', () => {
    const svg = svgOf(line([[0, 0], [5, 0.5], [10, 1]])); // prettier-ignore
    expect(XMLValidator.validate(svg)).toBe(true);
    expect((parser.parse(svg) as { svg: { viewBox: string } }).svg.viewBox).toBe('0 0 640 340');
    expect(svg).toContain('>α, °<');
    expect(svg).toContain('>CL<');
    expect(svg).toContain('>10<');
  });
  it('maps points straight: the middle one of three in a row lies in the middle', () => {
    const [a, b, c] = pathOf(svgOf(line([[-4, -1], [1, 0.5], [6, 2]]))).slice(1).split('L').map((p) => p.split(',').map(Number)); // prettier-ignore
    expect(b[0]).toBeCloseTo((a[0] + c[0]) / 2, 1);
    expect(b[1]).toBeCloseTo((a[1] + c[1]) / 2, 1);
    expect(c[0]).toBeGreaterThan(a[0]);
    expect(c[1]).toBeLessThan(a[1]);
  });
  it('interrupts a curve where there is no point', () => {
    expect(pathOf(svgOf(line([[0, 0], [1, 1], null, [2, 2], [3, 3]]))).split('M')).toHaveLength(3); // prettier-ignore
  });
  it('has one scale for both directions where it is asked for', () => {
    const box = line([[0, 0], [1, 0], [1, 0.1], [0, 0.1]]); // prettier-ignore
    const [a, b, c] = pathOf(svgOf({ ...box, equal: true })).slice(1).split('L').map((p) => p.split(',').map(Number)); // prettier-ignore
    expect((b[0] - a[0]) / (b[1] - c[1])).toBeCloseTo(10, 1);
  });
  it('escapes whatever a name holds', () => {
    const hostile = '"><script>alert(1)</script>&\'';
    const f = line([[0, 0], [1, 1]], { name: hostile }); // prettier-ignore
    const svg = svgOf({ ...f, x: { name: hostile, unit: hostile }, marks: [{ x: 0, y: 0, name: hostile, style: 3 }] });
    expect(svg).not.toContain('<script');
    expect(XMLValidator.validate(svg)).toBe(true);
  });
  it('is drawn for any numbers, without one that is none in its markup', () => {
    const number = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e9, max: 1e9 });
    fc.assert(
      fc.property(fc.array(fc.option(fc.tuple(number, number)), { maxLength: 12 }), (points) => {
        const svg = svgOf(line(points));
        expect(XMLValidator.validate(svg)).toBe(true);
        expect(svg).not.toMatch(/NaN|Infinity|undefined/);
      }),
    );
  });
  it('shows a band that is near, and is not squeezed by one that is far', () => {
    const f = line([[0, 10], [1, 12]]); // prettier-ignore
    const band = (from: number, to: number): FigureSpec['bands'] => [{ axis: 'y', from, to, name: 'wanted' }];
    const plain = { ...f, y: { name: 'y', unit: '' } };
    const ticks = (svg: string) =>
      [...svg.matchAll(/text-anchor="end">([−\d.]+)</g)].map((m) => Number(m[1].replace('−', '-')));
    expect(Math.max(...ticks(svgOf({ ...plain, bands: band(12.5, 13) })))).toBeGreaterThanOrEqual(12.5);
    expect(Math.max(...ticks(svgOf({ ...plain, bands: band(1000, 2000) })))).toBeLessThan(20);
  });
  it('tells curves apart without colours: dash and marker', () => {
    const two = { ...line([]), series: [0, 1].map((style) => ({ name: `${style}`, style, points: [[0, style], [1, 2], [2, 3]] as [number, number][] })) }; // prettier-ignore
    const svg = svgOf(two);
    expect(svg.match(/stroke-dasharray/g)).toHaveLength(1);
    expect(new Set([...svg.matchAll(/<path d="([^"]+)" transform/g)].map((m) => m[1])).size).toBe(2);
  });
  it('gives the numbers behind it as they are', () => {
    const points: [number, number][] = [[1 / 3, Math.PI]]; // prettier-ignore
    expect(figureRows(line(points))).toEqual({ header: ['curve', 'α, °', 'CL'], rows: [['A', 1 / 3, Math.PI]] });
    expect(figureSpec.parse(JSON.parse(JSON.stringify(line(points)))).series[0].points).toEqual(points);
  });
});

describe('names at the ends of curves', () => {
  const box = { left: 0, right: 400, top: 0, bottom: 300 };
  it('stand clear of each other and inside of their box', () => {
    const names = Array.from({ length: 9 }, (_, i) => ({ text: `${i}`, x: 380 + i, y: 150 + i, ink: '', width: 60 }));
    const placed = apart(names, box);
    for (const [i, a] of placed.entries()) {
      expect(a.x + a.width).toBeLessThanOrEqual(400);
      expect(a.y).toBeGreaterThan(0);
      expect(a.y).toBeLessThan(300);
      for (const b of placed.slice(i + 1)) expect(Math.abs(a.y - b.y)).toBeGreaterThanOrEqual(12);
    }
    expect(placed[0].y).toBe(150);
  });
});

describe('a drawing', () => {
  it('keeps its shape, and its words within the page', () => {
    const svg = drawingSvg(
      {
        title: 'd',
        items: [
          { kind: 'line', layer: 'line', closed: false, points: [[0, 0], [1000, 0], [1000, 500]] },
          { kind: 'text', layer: 'text', at: [900, -40], height: 20, text: 'a long line of words beside it' },
        ],
      },
      { width: 600, height: 400 },
      PRINT_LOOK,
    ); // prettier-ignore
    expect(XMLValidator.validate(svg)).toBe(true);
    const [a, b, c] = /d="M([^"]+)"/
      .exec(svg)![1]
      .split('L')
      .map((p) => p.split(',').map(Number));
    expect((b[0] - a[0]) / (b[1] - c[1])).toBeCloseTo(2, 1);
    const [, x, words] = /<text x="([\d.]+)"[^>]*>([^<]+)</.exec(svg)!;
    expect(Number(x) + 0.52 * 10.5 * words.length).toBeLessThanOrEqual(600);
  });
});
