import { XMLParser } from 'fast-xml-parser';
import { SVGPathData } from 'svg-pathdata';
import { InvalidInput } from '../../numerics';
import type { NumberLine } from './types';

/** The head of a text, where it says what it is. */
const HEAD = 4000;

/** Line of a place in a text, from 1. */
const lineAt = (text: string, at: number) => (at < 0 ? 1 : text.slice(0, at).split('\n').length);

/**
 * Points of the first polyline of a drawing in the DXF text format (R12 VERTEX or LWPOLYLINE), or undefined when the text is none. Pairs of lines are
 * walked once, so that a damaged drawing gives what it still holds (a parser for whole drawings never ended on some of them).
 */
export function pointsOfDxf(text: string): NumberLine[] | undefined {
  const first = text.slice(0, HEAD).split(/\r\n|\n|\r/, 40);
  let k = 0;
  // Remarks (group 999) may stand in front.
  while (first[k]?.trim() === '999') k += 2;
  if (first[k]?.trim() !== '0' || first[k + 1]?.trim() !== 'SECTION') return undefined;
  const lines = text.split(/\r\n|\n|\r/);
  const points: NumberLine[] = [];
  let entity = '';
  let x: number | undefined;
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = Number(lines[i].trim());
    const value = lines[i + 1].trim();
    if (code === 0) {
      if (points.length > 0 && value !== 'VERTEX') break;
      entity = value;
      x = undefined;
    } else if (entity === 'VERTEX' || entity === 'LWPOLYLINE') {
      if (code === 10) x = Number(value);
      if (code === 20 && x !== undefined) points.push({ line: i + 2, values: [x, Number(value)] });
    }
  }
  return points;
}

type XmlNode = Record<string, unknown>;

/** The first element of one of some names, in the order of the document. */
function firstOf(nodes: unknown, names: ReadonlySet<string>): { name: string; attributes: XmlNode } | undefined {
  if (!Array.isArray(nodes)) return undefined;
  for (const node of nodes as XmlNode[]) {
    for (const [name, children] of Object.entries(node)) {
      if (name === ':@') continue;
      if (names.has(name)) return { name, attributes: (node[':@'] as XmlNode | undefined) ?? {} };
      const inside = firstOf(children, names);
      if (inside) return inside;
    }
  }
  return undefined;
}

/** Signs that a path may have: those of as many points as are allowed. */
const LONGEST_PATH = 400_000;

const DRAWN = new Set(['path', 'polyline', 'polygon']);

/** Points of the first path or polyline of straight pieces in an SVG drawing, y turned upward; undefined when the text is none. */
export function pointsOfSvg(text: string): NumberLine[] | undefined {
  if (!/<svg[\s>]/.test(text.slice(0, HEAD))) return undefined;
  try {
    const parser = new XMLParser({ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: '' });
    const found = firstOf(parser.parse(text), DRAWN);
    if (!found) return [];
    const data = String(found.attributes[found.name === 'path' ? 'd' : 'points'] ?? '');
    if (data.length > LONGEST_PATH)
      throw new InvalidInput(
        'coordinates-many',
        `The path of the drawing has ${data.length} signs; a section has far fewer.`,
        'Is this the right file?',
      );
    const line = lineAt(text, text.indexOf(data.slice(0, 60)));
    const at = (x: number, y: number): NumberLine => ({ line, values: [x, -y] });
    if (found.name !== 'path') {
      const numbers = data
        .split(/[\s,]+/)
        .filter(Boolean)
        .map(Number);
      return Array.from({ length: numbers.length >> 1 }, (_, i) => at(numbers[2 * i], numbers[2 * i + 1]));
    }
    const points: NumberLine[] = [];
    for (const c of new SVGPathData(data).toAbs().normalizeHVZ(false, true, true).commands) {
      if (c.type === SVGPathData.MOVE_TO && points.length > 0) break;
      if (c.type === SVGPathData.MOVE_TO || c.type === SVGPathData.LINE_TO) points.push(at(c.x, c.y));
      // Curves are no points; where they are joined is not the outline.
      else if (c.type !== SVGPathData.CLOSE_PATH) return [];
    }
    return points;
  } catch (error) {
    if (error instanceof InvalidInput) throw error;
    return [];
  }
}
