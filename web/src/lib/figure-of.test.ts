import { figureSpec, figureSvg, PRINT_LOOK } from '@veldtwind/core/figures';
import { DASHES, inkOf, PAGE_LOOK, dashOf } from '@veldtwind/core/figures';
import { figureOf } from './figure-of';
import { seriesStyle } from './series-style';

const SIZE = { width: 600, height: 300 };

describe('a figure of the page as data', () => {
  const chart = {
    x: { name: 'Re', unit: '', scale: 'log' as const },
    y: { name: 'cp', unit: '', invert: true },
    series: [0, 2].map((k) => ({
      id: String(k),
      label: `curve ${k}`,
      style: seriesStyle(k),
      points: [
        { x: 1e5, y: -1 },
        { x: 2e5, y: NaN },
        { x: 5e5, y: 0.5, status: 'unsolved' as const },
        { x: 1e6, y: 1 },
      ],
    })),
    bands: [{ axis: 'y' as const, from: null, to: 0, label: 'b' }],
    marks: [
      { x: 1e6, y: 1, text: 'm', colour: 'var(--sky)' },
      { x: NaN, y: 1, text: 'n', colour: '' },
    ],
  };
  it('keeps curves, styles, bands and marks, and interrupts a curve where it is not solved', () => {
    const figure = figureOf(chart);
    expect(figureSpec.parse(JSON.parse(JSON.stringify(figure)))).toEqual(figure);
    expect(figure.series.map((s) => s.style)).toEqual([0, 2]);
    expect(figure.series[0].points).toEqual([[1e5, -1], null, null, [1e6, 1]]);
    expect(figure.marks).toEqual([{ x: 1e6, y: 1, name: 'm', style: 1 }]);
    expect(figure.bands).toEqual([{ axis: 'y', from: null, to: 0, name: 'b' }]);
  });
  it('keeps its scales: decades are equally wide, and an inverted axis rises downward', () => {
    const points = [1e5, 1e6, 1e7].map((x, i) => ({ x, y: i }));
    const figure = figureOf({ ...chart, marks: [], bands: [], series: [{ ...chart.series[0], points }] });
    const svg = figureSvg(figure, SIZE, PRINT_LOOK, 'f');
    const [a, b, c] = /<path d="M([^"]+)" fill="none"/
      .exec(svg)![1]
      .split('L')
      .map((p) => p.split(',').map(Number));
    expect(b[0] - a[0]).toBeCloseTo(c[0] - b[0], 1);
    expect(c[1]).toBeGreaterThan(a[1]);
    expect(svg).toContain('>1000000<');
  });
  it('has the colours and strokes of the interface, place by place', () => {
    for (let k = 0; k < 60; k++) {
      expect(inkOf(PAGE_LOOK, k)).toBe(seriesStyle(k).colour);
      expect(dashOf(k)).toBe(seriesStyle(k).dash);
    }
    expect(new Set(DASHES).size).toBe(8);
  });
});
