import { designationOutline, pairsFromOutline } from '../section';
import { readCoordinates, SECTION_FORMATS, writeSection } from '.';

const outline = designationOutline('4415', 'published', 121);

describe('written sections', () => {
  it.each(['single-loop', 'two-surface'] as const)('as %s read back to 1e-7 chord, at any chord', (format) => {
    for (const chord of [1, 240]) {
      const read = readCoordinates(writeSection('Karoo 15', outline, format, { chord }));
      expect(read.name).toBe('Karoo 15');
      const wanted = pairsFromOutline(outline);
      const low = Math.min(...outline.x);
      const length = 0.5 * (outline.x[0] + outline.x[outline.x.length - 1]) - low;
      expect(read.points).toHaveLength(wanted.length);
      // Reading brings the chord to 1 from 0; the same is done to what was written.
      const nose = wanted[outline.x.indexOf(low)];
      const scaled = chord !== 1;
      read.points.forEach(([x, y], i) => {
        const [wx, wy] = scaled ? [(wanted[i][0] - low) / length, (wanted[i][1] - nose[1]) / length] : wanted[i];
        expect(Math.abs(x - wx)).toBeLessThan(1e-7);
        expect(Math.abs(y - wy)).toBeLessThan(1e-7);
      });
    }
  });
  it('as CSV, drawing and polyline hold the points asked for', () => {
    const csv = writeSection('A, "b"', outline, 'csv', { points: 81, chord: 200 }).trim().split(/\r?\n/);
    expect(csv).toHaveLength(82);
    expect(csv[1]).toMatch(/^upper,200\.\d+,/);
    const svg = writeSection('A <b>', outline, 'svg', { points: 41, chord: 240, unit: 'mm' });
    expect(svg).toMatch(/width="264mm"/);
    expect(svg).toMatch(/<title>A &lt;b&gt;<\/title>/);
    expect(svg.match(/L/g)!.length).toBe(40);
    const dxf = writeSection('A b', outline, 'dxf', { points: 41, chord: 240 });
    expect(dxf.match(/^VERTEX$/gm)).toHaveLength(41);
    expect(dxf.trim().endsWith('EOF')).toBe(true);
    expect(dxf).toMatch(/\n240\.\d+\n/);
  });
  it('refuse a chord that is none and a point count out of range', () => {
    for (const format of SECTION_FORMATS) {
      expect(() => writeSection('x', outline, format, { chord: 0 })).toThrow(/chord/);
      expect(() => writeSection('x', outline, format, { points: 3 })).toThrow(/11 to 2001/);
    }
  });
});
