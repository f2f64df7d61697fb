import { designationOutline, sectionMoments, resample, sectionFacts, type Outline } from '.';

/** An ellipse of half-axes a and b, turned by φ, from its right end counter-clockwise. */
function ellipse(a: number, b: number, turn = 0): Outline {
  const n = 401;
  const t = Array.from({ length: n }, (_, i) => (2 * Math.PI * i) / (n - 1));
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return {
    x: Float64Array.from(t, (v) => 0.5 + a * Math.cos(v) * c - b * Math.sin(v) * s),
    y: Float64Array.from(t, (v) => a * Math.cos(v) * s + b * Math.sin(v) * c),
  };
}

describe('perimeter, centroid and second moments', () => {
  it('of an ellipse are the closed forms', () => {
    const [a, b] = [0.5, 0.06];
    const m = sectionMoments(ellipse(a, b));
    expect(m.centroid.x).toBeCloseTo(0.5, 7);
    expect(m.centroid.y).toBeCloseTo(0, 8);
    expect(m.solid.xx / ((Math.PI / 4) * a * b ** 3)).toBeCloseTo(1, 5);
    expect(m.solid.yy / ((Math.PI / 4) * a ** 3 * b)).toBeCloseTo(1, 5);
    expect(Math.abs(m.solid.xy)).toBeLessThan(1e-9);
    // By the arithmetic–geometric series for the perimeter.
    const h = ((a - b) / (a + b)) ** 2;
    const series = 1 + h / 4 + h ** 2 / 64 + h ** 3 / 256 + (25 * h ** 4) / 16384 + (49 * h ** 5) / 65536;
    expect(m.perimeter / (Math.PI * (a + b) * series)).toBeCloseTo(1, 2);
  });
  it('turn with the shape', () => {
    const flat = sectionMoments(ellipse(0.5, 0.06)).solid;
    const turned = sectionMoments(ellipse(0.5, 0.06, 0.2)).solid;
    expect(turned.axis).toBeCloseTo(0.2, 6);
    expect(turned.least).toBeCloseTo(flat.least, 10);
    expect(turned.greatest).toBeCloseTo(flat.greatest, 8);
  });
  it('agree with a plain sum over a four-digit section, its blunt edge closed', () => {
    const outline = designationOutline('4415', 'published', 241);
    const m = sectionMoments(outline);
    // Rows of trapezoids between the surfaces at the same x, from a fine sampling.
    const fine = resample(outline, 2001);
    let [area, sx, perimeter] = [0, 0, 0];
    const n = fine.x.length;
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      const cross = fine.x[i] * fine.y[j] - fine.x[j] * fine.y[i];
      area += cross / 2;
      sx += ((fine.x[i] + fine.x[j]) * cross) / 6;
      perimeter += Math.hypot(fine.x[j] - fine.x[i], fine.y[j] - fine.y[i]);
    }
    expect(sectionFacts(outline).area / area).toBeCloseTo(1, 5);
    expect(m.centroid.x).toBeCloseTo(sx / area, 5);
    expect(m.perimeter).toBeCloseTo(perimeter, 4);
    expect(m.shell.yy).toBeGreaterThan(m.shell.xx);
  });
});

describe('other numbers of points', () => {
  it('keep the shape within the spline and refuse what is out of range', () => {
    const outline = designationOutline('2312', 'published', 241);
    const a = sectionFacts(outline);
    const b = sectionFacts(resample(outline, 141));
    expect(b.thickness.max).toBeCloseTo(a.thickness.max, 5);
    expect(b.camber.max).toBeCloseTo(a.camber.max, 5);
    for (const count of [10, 2002, 20.5, NaN]) expect(() => resample(outline, count)).toThrow(/points/);
  });
});
