import { SVGPathData } from 'svg-pathdata';
import { LIFT_QUANTITIES, type LiftPoint } from '@veldtwind/core/quantities';
import { fitDrawing, type Extent } from './drawing-frame';
import { isOpenMarker, markerPath } from './marker-path';
import { quantityColumns } from './quantity-columns';

// Follows an element's size in the browser only.
jest.mock('@vueuse/core', () => ({ useElementSize: () => undefined }));

let seed = 11;
const random = (low: number, high: number) => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return low + ((high - low) * seed) / 2 ** 32;
};
const margin = { left: 30, right: 12, top: 8, bottom: 20 };
const box = { width: 700, height: 240 };
const someExtent = (): Extent => {
  const [x, y] = [random(-10, 10), random(-2, 2)];
  return { x: [x, x + random(0.01, 30)], y: [y, y + random(0.001, 8)] };
};

describe('fitDrawing', () => {
  it.each([false, true])('shows the whole extent to one scale, as large as it goes; down: %p', (down) => {
    for (let k = 0; k < 200; k++) {
      const extent = someExtent();
      const f = fitDrawing(box, extent, margin, { down });
      const xs = extent.x.map(f.x);
      const ys = extent.y.map(f.y);
      expect(xs[1] - xs[0]).toBeCloseTo(f.scale * (extent.x[1] - extent.x[0]), 6);
      expect(Math.abs(ys[1] - ys[0])).toBeCloseTo(f.scale * (extent.y[1] - extent.y[0]), 6);
      expect(ys[1] > ys[0]).toBe(down);
      const [left, right] = [xs[0] - margin.left, box.width - margin.right - xs[1]];
      const [top, bottom] = [Math.min(...ys) - margin.top, box.height - margin.bottom - Math.max(...ys)];
      // In the middle of its room, and touching it one way.
      expect(left).toBeCloseTo(right, 6);
      expect(top).toBeCloseTo(bottom, 6);
      expect(Math.min(left, top)).toBeCloseTo(0, 6);
      expect(Math.max(left, top)).toBeGreaterThanOrEqual(-1e-6);
    }
  });
  it.each([false, true])('leads back from pixels; down: %p', (down) => {
    for (let k = 0; k < 100; k++) {
      const f = fitDrawing(box, someExtent(), margin, { down, top: k % 2 === 0 });
      const [x, y] = [random(-10, 10), random(-2, 2)];
      const back = f.at(f.x(x), f.y(y));
      expect(back.x).toBeCloseTo(x, 8);
      expect(back.y).toBeCloseTo(y, 8);
    }
  });
  it('keeps a drawing of no size in view, and never smaller than asked', () => {
    const none = fitDrawing(box, { x: [2, 2], y: [1, 1] }, margin);
    expect([none.x(2), none.y(1)].every(Number.isFinite)).toBe(true);
    expect(fitDrawing(box, { x: [0, 1e6], y: [0, 1] }, margin, { least: 3 }).scale).toBe(3);
  });
  it('writes paths that go through the places', () => {
    const f = fitDrawing(box, { x: [0, 1], y: [-0.1, 0.1] }, margin);
    const points = [
      [0, 0],
      [0.5, 0.1],
      [1, -0.05],
    ] as const;
    const { commands } = new SVGPathData(f.path(points, true));
    expect(commands).toHaveLength(4);
    points.forEach(([a, b], i) => {
      const c = commands[i] as { x: number; y: number };
      expect(c.x).toBeCloseTo(f.x(a), 1);
      expect(c.y).toBeCloseTo(f.y(b), 1);
    });
    expect(f.path([])).toBe('');
    expect(f.path([], true)).toBe('');
  });
});

describe('markers', () => {
  it.each(['disc', 'square', 'diamond', 'triangle', 'cross', 'bar'] as const)('%s lies about its point', (marker) => {
    const bounds = new SVGPathData(`M100,50${markerPath(marker, 2)}`).toAbs().getBounds();
    expect((bounds.minX + bounds.maxX) / 2).toBeCloseTo(100, 6);
    expect(Math.abs((bounds.minY + bounds.maxY) / 2 - 50)).toBeLessThan(0.6);
    expect(bounds.maxY - bounds.minY).toBeGreaterThan(3);
    expect(isOpenMarker(marker)).toBe(bounds.maxX === bounds.minX || marker === 'cross');
  });
});

describe('columns from quantities', () => {
  it('are in the units chosen, and empty where there is nothing', () => {
    const lift = LIFT_QUANTITIES.filter((q) => q.id === 'lift');
    const point = { point: { CL: 0.5 }, reference: { area: 2 }, dynamicPressure: 100 } as unknown as LiftPoint;
    const [si] = quantityColumns<LiftPoint | null, LiftPoint>(lift, (row) => row, 'metric');
    const [other] = quantityColumns<LiftPoint | null, LiftPoint>(lift, (row) => row, 'us');
    expect(si.unit).toBe('N');
    expect(si.value?.(point)).toBeCloseTo(100, 9);
    expect(other.unit).not.toBe('N');
    // 1 lbf is 4.4482216 N.
    expect(other.value?.(point)).toBeCloseTo(100 / 4.4482216152605, 6);
    expect(si.value?.(null)).toBeNull();
    expect(si.value?.({ ...point, dynamicPressure: null })).toBeNull();
    // The heading is a symbol; its name goes with it.
    expect([si.title, si.name]).toEqual([lift[0].symbol, lift[0].name]);
  });
});
