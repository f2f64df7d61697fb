import { extentOf, type Drawing } from './drawing';
import type { FigureLook } from './look';
import { num, open, textAt } from './svg-text';

/** Letters of a drawing on a page, px: those of the drawing itself are at its own scale. */
const LETTERS = 10.5;
const LETTER = 0.52;

/** A drawing as the text of an SVG element, as large as its box allows; not at true scale. */
export function drawingSvg(drawing: Drawing, size: { width: number; height: number }, look: FigureLook): string {
  const lines = { items: drawing.items.filter((i) => i.kind !== 'text') };
  const { low, high } = extentOf(lines);
  const margin = 20;
  // A line of text may reach beyond what it stands under.
  const texts = drawing.items.flatMap((i) =>
    i.kind === 'text' ? [{ from: i.at[0] - low[0], px: LETTER * LETTERS * i.text.length }] : [],
  );
  const scale = Math.min(
    ...texts.map((t) => (size.width - 2 * margin - t.px) / Math.max(1e-9, t.from)).filter((v) => v > 0),
    (size.width - 2 * margin) / Math.max(1e-9, high[0] - low[0]),
    (size.height - 2 * margin) / Math.max(1e-9, high[1] - low[1]),
  );
  const left = Math.max(
    0,
    Math.min(0.5 * (size.width - scale * (high[0] - low[0])), ...texts.map((t) => size.width - t.px - scale * t.from)),
  );
  const height = Math.min(size.height, scale * (high[1] - low[1]) + 2 * margin);
  const x = (v: number) => num(left + scale * (v - low[0]));
  const y = (v: number) => num(height - margin - scale * (v - low[1]));
  const out = [
    open('svg', {
      xmlns: 'http://www.w3.org/2000/svg',
      width: size.width,
      height: num(height),
      viewBox: `0 0 ${size.width} ${num(height)}`,
      'font-family': look.sans,
      'font-size': LETTERS,
    }),
  ];
  for (const item of drawing.items) {
    if (item.kind === 'line')
      out.push(
        `<path d="M${item.points.map(([u, v]) => `${x(u)},${y(v)}`).join('L')}${item.closed ? 'Z' : ''}" fill="none" stroke="${item.layer === 'text' ? look.soft : look.ink}" stroke-width="${item.layer === 'text' ? 0.6 : 0.9}" stroke-linejoin="round"/>`,
      );
    else if (item.kind === 'circle')
      out.push(
        `<circle cx="${x(item.at[0])}" cy="${y(item.at[1])}" r="${num(scale * item.radius)}" fill="none" stroke="${look.ink}" stroke-width="0.9"/>`,
      );
    else if (item.at[1] < high[1]) out.push(textAt(x(item.at[0]), y(item.at[1]) + 2, item.text, { fill: look.soft }));
  }
  out.push('</svg>');
  return out.join('');
}
