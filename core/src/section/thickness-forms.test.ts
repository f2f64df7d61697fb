import {
  designationOutline,
  evenLoadMeanLine,
  modifiedThickness,
  readDesignation,
  sectionFacts,
  smoothnessOf,
} from '.';

describe('modified thickness', () => {
  it.each([
    [0.12, 3, 4],
    [0.09, 6, 5],
    [0.15, 4, 3],
    [0.1, 9, 6],
    [0.12, 0, 2],
  ])('of %d, nose %d, crest %d/10 has both where they are asked for', (thickness, nose, crest) => {
    for (const edge of ['published', 'sharp'] as const) {
      const form = modifiedThickness(thickness, nose, crest, edge);
      const m = crest / 10;
      expect(2 * form.half(m)).toBeCloseTo(thickness, 12);
      expect(form.halfSlope(m - 1e-9)).toBeCloseTo(0, 6);
      expect(form.halfSlope(m + 1e-9)).toBeCloseTo(0, 6);
      // One curvature on both sides of the crest.
      const bend = (side: number) =>
        (form.halfSlope(m + side * 2e-4) - form.halfSlope(m + side * 1e-4)) / (side * 1e-4);
      expect(bend(1)).toBeCloseTo(bend(-1), 1);
      expect(form.half(1)).toBeCloseTo(edge === 'sharp' ? 0 : 0.01 * thickness, 12);
      // NACA TR-492 (1934): r = 1.1019 (t I / 6)², three times the plain one for index 9.
      const factor = nose === 9 ? 3 : (nose / 6) ** 2;
      expect(form.noseRadius).toBeCloseTo(1.1019 * thickness ** 2 * factor, 5);
      for (let x = 0.02; x < 0.99; x += 0.01)
        expect(form.half(x + 1e-6) - form.half(x)).toBeCloseTo(1e-6 * form.halfSlope(x), 9);
    }
  });
  it('stands behind the dash of a designation', () => {
    expect(readDesignation('0012-34').family).toBe('modified four-digit');
    expect(readDesignation('23012-34').family).toBe('modified five-digit');
    const facts = sectionFacts(designationOutline('0012-34', 'published', 241));
    expect(facts.thickness.at).toBeCloseTo(0.4, 3);
    expect(() => readDesignation('0012-38')).toThrow(/crest at 0.8/);
    expect(() => readDesignation('0012-3')).toThrow(/no section/);
  });
});

describe('the 16-series', () => {
  it('has its crest in the middle and the camber of an even load', () => {
    const { meanLine, form, thickness } = readDesignation('16-309');
    expect(thickness).toBe(0.09);
    expect(2 * form.half(0.5)).toBeCloseTo(0.09, 12);
    // NACA TR-824 (1945): greatest ordinate 0.05515 of the design lift for a = 1.
    expect(meanLine.ordinate(0.5)).toBeCloseTo(0.3 * 0.05516, 5);
    const line = evenLoadMeanLine(1);
    expect(line.ordinate(0)).toBeCloseTo(0, 12);
    expect(line.ordinate(1)).toBeCloseTo(0, 12);
    expect(line.slope(0.3)).toBeCloseTo((line.ordinate(0.3 + 1e-6) - line.ordinate(0.3 - 1e-6)) / 2e-6, 6);
  });
});

describe('smoothness', () => {
  it('calls a formula smooth, and finds where points were moved', () => {
    for (const d of ['0012', '0018', '23012'])
      expect(smoothnessOf(designationOutline(d, 'published', 241)).verdict).toBe('smooth');
    const outline = designationOutline('0012', 'published', 161);
    const rough = { x: outline.x, y: outline.y.map((y, i) => (i === 40 ? y + 3e-4 : y)) };
    const found = smoothnessOf(rough);
    expect(found.verdict).toBe('lumpy');
    const at = outline.x[40];
    expect(found.lumps.some((l) => l.surface === 'upper' && l.from < at + 0.03 && l.to > at - 0.03)).toBe(true);
    expect(found.lumps.every((l) => l.surface === 'upper')).toBe(true);
  });
});
