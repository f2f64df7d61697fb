import * as fc from 'fast-check';
import {
  checkOutline,
  designationOutline,
  fiveDigitMeanLine,
  fourDigitMeanLine,
  fourDigitThickness,
  meanLine,
  outlineFromPairs,
  pairsFromOutline,
  readDesignation,
  sectionFacts,
  signedArea,
  SurfaceSpline,
} from '.';
import { sourceFacts } from '../shaping';

describe('designations', () => {
  it('lays the thickness off at right angles to the mean line, exactly', () => {
    const outline = designationOutline('4415', 'published', 161);
    const form = fourDigitThickness(0.15, 'published');
    const line = fourDigitMeanLine(0.04, 0.4);
    for (let i = 0; i <= 80; i++) {
      const upper = [outline.x[80 - i], outline.y[80 - i]];
      const lower = [outline.x[80 + i], outline.y[80 + i]];
      const x = (upper[0] + lower[0]) / 2;
      expect((upper[1] + lower[1]) / 2).toBeCloseTo(line.ordinate(x), 12);
      expect(Math.hypot(upper[0] - lower[0], upper[1] - lower[1])).toBeCloseTo(2 * form.half(x), 12);
    }
  });
  it('has the published ordinates of 0012', () => {
    // NACA TR-460 (1933): half thickness of a 12 % section, % of chord.
    const form = fourDigitThickness(0.12, 'published');
    for (const [x, y] of [
      [0.0125, 1.894],
      [0.05, 3.555],
      [0.1, 4.683],
      [0.3, 6.002],
      [0.6, 4.563],
      [0.9, 1.448],
      [1, 0.126],
    ]) {
      expect(100 * form.half(x)).toBeCloseTo(y, 2);
    }
  });
  it('joins the two parts of every five-digit mean line, and closes it', () => {
    for (const row of ['10', '20', '30', '40', '50', '21', '31', '41', '51']) {
      const { meanLine: line } = readDesignation(`2${row}12`);
      expect(line.ordinate(0)).toBeCloseTo(0, 12);
      expect(Math.abs(line.ordinate(1))).toBeLessThan(2e-4);
      for (let x = 0.02; x < 0.98; x += 0.005) {
        expect(Math.abs(line.ordinate(x + 1e-7) - line.ordinate(x) - 1e-7 * line.slope(x))).toBeLessThan(1e-11);
      }
    }
  });
  it('puts the crest of the 230 mean line at 15 % and turns the reflexed one up at the tail', () => {
    const facts = sourceFacts({ kind: 'designation', designation: '23012', trailingEdge: 'published' });
    expect(facts.camber.at).toBeCloseTo(0.15, 2);
    expect(facts.camber.max).toBeCloseTo(0.0184, 3);
    const tail = (d: string) => readDesignation(d).meanLine;
    expect(tail('23111').slope(1)).toBeGreaterThan(tail('23111').slope(0.4) + 0.005);
  });
  it.each(['', '44', 'abcd', '441', '4015', '00120', '23312', '4400', '4499', '02312', '441512', '44 15', '-412'])(
    'refuses %p with a reason',
    (text) => {
      expect(() => readDesignation(text)).toThrow(/no section/);
    },
  );
  it('closes the edge when asked', () => {
    const o = designationOutline('0012', 'sharp');
    expect(Math.abs(o.y[0] - o.y[o.y.length - 1])).toBeLessThan(1e-12);
  });
});

describe('facts from the spline', () => {
  const grid: [number, number, number][] = [];
  for (const m of [0, 1, 2, 4, 6])
    for (const p of [2, 3, 4, 6, 8]) for (const t of [6, 9, 12, 15, 18]) grid.push([m, p, t]);
  it('give thickness and camber of the four-digit family back', () => {
    for (const [m, p, t] of grid) {
      const facts = sectionFacts(designationOutline(`${m}${m ? p : 0}${String(t).padStart(2, '0')}`));
      expect(Math.abs(facts.thickness.max - 1.000288 * (t / 100))).toBeLessThan(2e-6);
      expect(Math.abs(facts.thickness.at - 0.29983)).toBeLessThan(2e-4);
      expect(Math.abs(facts.camber.max - m / 100)).toBeLessThan(1e-4);
      if (m) expect(Math.abs(facts.camber.at - p / 10)).toBeLessThan(0.006);
    }
  });
  it('agree with closed forms for nose radius, area, edge angle and gap', () => {
    const t = 0.12;
    const facts = sectionFacts(designationOutline('0012', 'published', 321));
    expect(facts.noseRadius / (1.1019 * t * t)).toBeCloseTo(1, 1);
    const area = ((2 * t) / 0.2) * (0.2969 / 1.5 - 0.126 / 2 - 0.3516 / 3 + 0.2843 / 4 - 0.1015 / 5);
    expect(facts.area).toBeCloseTo(area, 6);
    expect(facts.trailingEdge.gap).toBeCloseTo(((0.0021 * 5 * t * 2 * 0.2) / 0.2) * 1, 4);
    const slope = fourDigitThickness(t, 'published').halfSlope(1);
    expect(facts.trailingEdge.angle).toBeCloseTo(2 * Math.atan(-slope), 4);
  });
  it('find the nose of an inclined outline', () => {
    const o = designationOutline('0012');
    const a = 0.1;
    const turned = outlineFromPairs(
      pairsFromOutline(o).map(([x, y]) => [x * Math.cos(a) + y * Math.sin(a), y * Math.cos(a) - x * Math.sin(a)]),
    );
    const s = new SurfaceSpline(turned);
    expect(Math.hypot(s.x(s.nose), s.y(s.nose))).toBeLessThan(1e-6);
  });
  it('keep the mean line inside the outline', () => {
    const line = meanLine(new SurfaceSpline(designationOutline('6412')));
    for (let i = 5; i < line.x.length; i++)
      expect(Math.abs(line.camber[i] - fourDigitMeanLine(0.06, 0.4).ordinate(line.x[i]))).toBeLessThan(
        line.x[i] < 0.15 ? 1e-2 : 2e-4,
      );
  });
});

describe('checking an outline', () => {
  it('names what is wrong', () => {
    expect(() =>
      checkOutline(
        outlineFromPairs([
          [1, 0],
          [0, 0],
          [1, 0],
        ]),
      ),
    ).toThrow(/at least 10/);
    const good = pairsFromOutline(designationOutline('0012'));
    expect(() => checkOutline(outlineFromPairs(good.slice(0, 81)))).toThrow(/% of the chord apart/);
    const twisted = good.map(([x, y], i) => [x, i > 20 && i < 30 ? -y - 0.02 : y] as [number, number]);
    expect(() => checkOutline(outlineFromPairs(twisted))).toThrow(/crosses itself/);
    expect(() => checkOutline(outlineFromPairs(good.map(([x, y], i) => [x, i === 7 ? NaN : y])))).toThrow(
      /not a number/,
    );
    expect(signedArea(outlineFromPairs(good))).toBeGreaterThan(0);
  });
  it('accepts every four-digit section', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 6 }),
        fc.integer({ min: 2, max: 8 }),
        fc.integer({ min: 4, max: 24 }),
        (m, p, t) => {
          checkOutline(designationOutline(`${m}${m ? p : 0}${String(t).padStart(2, '0')}`));
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('camber that crests close behind the nose', () => {
  it.each([
    // Greatest height of the mean lines of NACA TR-537, 1935, from their own formula.
    ['21012', 0.011134, 0.05],
    ['22012', 0.015344, 0.1],
    ['21009', 0.011134, 0.05],
    ['4112', 0.04, 0.1],
  ])('of %s is found', (designation, camber, at) => {
    const crest = sectionFacts(designationOutline(designation)).camber;
    expect(Math.abs(crest.max - camber)).toBeLessThan(1e-4);
    expect(Math.abs(crest.at - at)).toBeLessThan(0.006);
  });
  it('of a mean line alone agrees with its formula all along', () => {
    const table = meanLine(new SurfaceSpline(designationOutline('21012')));
    const formula = fiveDigitMeanLine(2, '10');
    let worst = 0;
    table.x.forEach((x, i) => {
      if (x > 0.012 && x < 0.995) worst = Math.max(worst, Math.abs(table.camber[i] - formula.ordinate(x)));
    });
    expect(worst).toBeLessThan(1e-4);
  });
});
