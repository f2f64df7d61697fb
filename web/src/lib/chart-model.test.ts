import * as fc from 'fast-check';
import { axisTicks, fitDomain, nearestPoint, spreadLabels, tickDigits, type ChartSeries } from './chart-model';

describe('limits that fit by themselves', () => {
  it('hold every value with a little air', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1 }), (values) => {
        const [low, high] = fitDomain(values);
        expect(low).toBeLessThan(high);
        for (const v of values) {
          expect(v).toBeGreaterThanOrEqual(low);
          expect(v).toBeLessThanOrEqual(high);
        }
      }),
    );
  });
  it('show zero where it is near or asked for, and nowhere else', () => {
    expect(fitDomain([0.1, 1])[0]).toBe(0);
    expect(fitDomain([0.9, 1])[0]).toBeGreaterThan(0.8);
    expect(fitDomain([0.9, 1], true)[0]).toBe(0);
    expect(fitDomain([-1, -0.1])[1]).toBe(0);
  });
  it('pass over what is no number, and survive nothing at all', () => {
    expect(fitDomain([NaN, Infinity, 2, 4])).toEqual([expect.closeTo(1.9, 9), expect.closeTo(4.1, 9)]);
    expect(fitDomain([])).toEqual([0, 1]);
    // What sums leave of zero is no scale, and the last digits of a value are none.
    expect(fitDomain([1e-18, -3e-18])).toEqual([-1 - 3e-18, 1 + 1e-18]);
    expect(fitDomain([2, 2 + 1e-13])[0]).toBeCloseTo(1.8, 9);
    const [low, high] = fitDomain([5, 5]);
    expect(high - low).toBeCloseTo(1, 9);
  });
});

describe('ticks', () => {
  it('never clump, whatever the size and range', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.double({ min: 1e-4, max: 1e5, noNaN: true }),
        fc.integer({ min: 60, max: 1600 }),
        (low, span, pixels) => {
          const list = axisTicks([low, low + span], pixels, 62);
          expect(list.length).toBeLessThanOrEqual(Math.max(2, Math.floor(pixels / 62)) + 2);
          expect(list.length).toBeGreaterThan(1);
          for (let i = 1; i < list.length; i++) expect(list[i]).toBeGreaterThan(list[i - 1]);
        },
      ),
    );
  });
  it('stand at a step of choice, unless that would fill the axis', () => {
    expect(axisTicks([0, 1], 400, 62, 0.25)).toEqual([0, 0.25, 0.5, 0.75, 1]);
    expect(axisTicks([0, 1], 400, 62, 0.001).length).toBeLessThan(10);
  });
  it('are told apart by just enough digits', () => {
    expect(tickDigits([0, 5, 10])).toBe(0);
    expect(tickDigits([0, 0.5])).toBe(1);
    expect(tickDigits([0, 0.025])).toBe(3);
    expect(tickDigits([1])).toBe(2);
  });
});

describe('labels at the ends of curves', () => {
  it('do not touch, keep their order, and stay inside', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 200, noNaN: true }), { minLength: 1, maxLength: 12 }), (wanted) => {
        const placed = spreadLabels(wanted, 13, 0, 200);
        const order = wanted.map((_, i) => i).sort((a, b) => placed[a] - placed[b]);
        for (let k = 1; k < order.length; k++) {
          expect(placed[order[k]] - placed[order[k - 1]]).toBeGreaterThan(12.9);
          expect(wanted[order[k]]).toBeGreaterThanOrEqual(wanted[order[k - 1]]);
        }
        for (const y of placed) {
          expect(y).toBeGreaterThanOrEqual(-1e-9);
          expect(y).toBeLessThanOrEqual(200 + 1e-9);
        }
      }),
    );
  });
  it('stay where they are when there is room', () => {
    expect(spreadLabels([10, 100], 13, 0, 200)).toEqual([10, 100]);
  });
});

describe('the linked cursor', () => {
  const series: ChartSeries = {
    id: 's',
    label: 's',
    style: { colour: 'red', dash: '', marker: 'disc' },
    points: [
      { x: 0, y: 1, tag: -2 },
      { x: 1, y: 2, tag: 0 },
      { x: 2, y: 3, tag: 2, status: 'unsolved' },
      { x: 3, y: NaN, tag: 4 },
    ],
  };
  it('finds the nearest solved point by tag or by place', () => {
    expect(nearestPoint(series, { tag: 0.4 })?.x).toBe(1);
    expect(nearestPoint(series, { x: 0.2 })?.x).toBe(0);
    expect(nearestPoint(series, { tag: 9 })?.x).toBe(1);
    expect(nearestPoint(series, {})).toBeNull();
  });
});
