import { PolylineText } from './polyline-text';

/** Places that a polyline goes through. */
const placesOf = (text: string) => (text === '' ? [] : text.split(' ').map((p) => p.split(',').map(Number)));

describe('PolylineText', () => {
  it('goes through every place to a twentieth of a pixel, wherever it lies', () => {
    let seed = 7;
    const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 2 ** 32);
    const places = Array.from({ length: 3000 }, (_, i) => [
      i * 0.333 + random(),
      (random() - 0.5) * 10 ** (5 * random()),
    ]);
    const line = new PolylineText();
    for (const [x, y] of places) line.to(x, y);
    const read = placesOf(line.text);
    expect(read).toHaveLength(places.length);
    read.forEach(([x, y], i) => {
      expect(Math.abs(x - places[i][0])).toBeLessThan(0.0501);
      expect(Math.abs(y - places[i][1])).toBeLessThan(0.0501);
    });
  });
  it('leaves out what lies on no page', () => {
    const line = new PolylineText();
    for (const y of [1, NaN, Infinity, 1e300, 2]) line.to(0, y);
    expect(placesOf(line.text)).toEqual([
      [0, 1],
      [0, 2],
    ]);
  });
  it('writes nothing for no place', () => expect(new PolylineText().text).toBe(''));
});
