import Papa from 'papaparse';
import { InvalidInput } from '../numerics';
import { pairsFromOutline, resample, type Outline } from '../section';

export const SECTION_FORMATS = ['single-loop', 'two-surface', 'csv', 'svg', 'dxf'] as const;
/** A format that sections are written in. */
export type SectionFormat = (typeof SECTION_FORMATS)[number];

/** How a section is written. */
export interface WriteOptions {
  /** Points of the whole outline; those of the source without. */
  points?: number;
  /** Chord in the unit of the file; 1 without. */
  chord?: number;
  /** Unit of the chord, for drawings. */
  unit?: 'mm' | 'm' | 'in';
}

const DIGITS = 9;

/**
 * Writes a section as a file.
 * - `single-loop`: title, then x y from the upper trailing edge over the nose to the lower one.
 * - `two-surface`: title, point counts of both surfaces, then each from the nose back, the upper first.
 * - `csv`: surface, x, y. `svg`: a drawing to scale. `dxf`: one closed or open polyline, R12 text.
 * @param outline in chords. @throws InvalidInput for a chord that is not positive or a point count out of range.
 */
export function writeSection(
  name: string,
  outline: Outline,
  format: SectionFormat,
  options: WriteOptions = {},
): string {
  const chord = options.chord ?? 1;
  if (!(chord > 0 && chord < 1e6))
    throw new InvalidInput('chord', `A chord must be greater than 0; ${chord} is not.`, undefined, 'chord');
  const sampled = options.points === undefined ? outline : resample(outline, options.points);
  const points = pairsFromOutline(sampled).map(([x, y]) => [x * chord, y * chord] as [number, number]);
  const title = name.replace(/[\r\n]+/g, ' ').trim() || 'Section';
  const text = ([x, y]: [number, number]) => `${x.toFixed(DIGITS)} ${y.toFixed(DIGITS)}`;
  let nose = 0;
  points.forEach(([x], i) => (nose = x < points[nose][0] ? i : nose));
  const upper = points.slice(0, nose + 1).reverse();
  const lower = points.slice(nose);
  switch (format) {
    case 'single-loop':
      return `${title}\n${points.map(text).join('\n')}\n`;
    case 'two-surface':
      return `${title}\n${upper.length} ${lower.length}\n\n${upper.map(text).join('\n')}\n\n${lower.map(text).join('\n')}\n`;
    case 'csv':
      return `${Papa.unparse({
        fields: ['surface', 'x', 'y'],
        data: points.map(([x, y], i) => [i <= nose ? 'upper' : 'lower', x.toFixed(DIGITS), y.toFixed(DIGITS)]),
      })}\n`;
    case 'svg':
      return drawing(title, points, options.unit ?? 'mm', chord);
    case 'dxf':
      return polyline(title, points);
  }
}

function drawing(title: string, points: [number, number][], unit: string, chord: number): string {
  const margin = 0.05 * chord;
  const ys = points.map((p) => p[1]);
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const width = chord + 2 * margin;
  const height = high - low + 2 * margin;
  const escape = (t: string) => t.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
  const path = points
    .map(([x, y]) => `${(x + margin).toFixed(DIGITS)},${(high + margin - y).toFixed(DIGITS)}`)
    .join('L');
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}${unit}" height="${height}${unit}" viewBox="0 0 ${width} ${height}">`,
    `<title>${escape(title)}</title>`,
    `<path d="M${path}Z" fill="none" stroke="#000" stroke-width="${(0.001 * chord).toPrecision(3)}"/>`,
    '</svg>',
    '',
  ].join('\n');
}

/** The smallest file that the open drawing format allows: one polyline in the entities section. */
function polyline(title: string, points: [number, number][]): string {
  const pair = (code: number, value: string | number) => `${code}\n${value}`;
  const layer = title.replace(/[^A-Za-z0-9_-]+/g, '_').slice(0, 31) || 'SECTION';
  return [
    pair(0, 'SECTION'),
    pair(2, 'ENTITIES'),
    pair(0, 'POLYLINE'),
    pair(8, layer),
    pair(66, 1),
    pair(10, '0.0'),
    pair(20, '0.0'),
    pair(30, '0.0'),
    pair(70, 0),
    ...points.flatMap(([x, y]) => [
      pair(0, 'VERTEX'),
      pair(8, layer),
      pair(10, x.toFixed(DIGITS)),
      pair(20, y.toFixed(DIGITS)),
      pair(30, '0.0'),
    ]),
    pair(0, 'SEQEND'),
    pair(8, layer),
    pair(0, 'ENDSEC'),
    pair(0, 'EOF'),
    '',
  ].join('\n');
}
