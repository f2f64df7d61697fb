import type { NumberLine } from './types';

/** Points of the first polyline of a drawing in the DXF text format (R12 VERTEX or LWPOLYLINE), or undefined when the text is none. */
export function pointsOfDxf(text: string): NumberLine[] | undefined {
  if (!/^\s*(?:999\s*\n[^\n]*\n\s*)*0\s*\r?\n\s*SECTION/.test(text)) return undefined;
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

/** Points of the first path or polyline of straight pieces in an SVG drawing, y turned upward; undefined when the text is none. */
export function pointsOfSvg(text: string): NumberLine[] | undefined {
  if (!/<svg[\s>]/.test(text.slice(0, 4000))) return undefined;
  const match =
    /<path[^>]*?\sd\s*=\s*["']([^"']*)["']/.exec(text) ??
    /<poly(?:line|gon)[^>]*?\spoints\s*=\s*["']([^"']*)["']/.exec(text);
  if (!match || /[a-zHVCSQTA]/.test(match[1].replace(/[MLZze]/g, ''))) return [];
  const line = text.slice(0, match.index).split('\n').length;
  const numbers = (match[1].match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);
  const points: NumberLine[] = [];
  for (let i = 0; i + 1 < numbers.length; i += 2) points.push({ line, values: [numbers[i], -numbers[i + 1]] });
  return points;
}
