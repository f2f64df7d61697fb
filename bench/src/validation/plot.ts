import { scaleLinear } from 'd3-scale';

export interface PlotSeries {
  name: string;
  colour: string;
  dash?: string;
  dots?: boolean;
  points: [number, number][];
}

/** A plain picture of curves for the validation report, in the house's colours. */
export function plot(title: string, x: string, y: string, series: PlotSeries[], invert = false): string {
  const [w, h, left, top, right, bottom] = [720, 400, 64, 44, 140, 46];
  const xs = series.flatMap((s) => s.points.map((p) => p[0]));
  const ys = series.flatMap((s) => s.points.map((p) => p[1]));
  const sx = scaleLinear([Math.min(...xs), Math.max(...xs)], [left, w - right]).nice();
  const sy = scaleLinear([Math.min(...ys), Math.max(...ys)], invert ? [top, h - bottom] : [h - bottom, top]).nice();
  const text = (t: string) => t.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/-/g, '−');
  const out = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}" height="${h}" font-family="Source Sans 3, sans-serif" font-size="12">`,
    `<rect width="100%" height="100%" fill="#f5f0e4"/><text x="12" y="22" font-size="16" font-weight="600" fill="#2b2620" font-family="Source Serif 4, serif">${text(title)}</text>`,
  ];
  for (const t of sy.ticks(7))
    out.push(
      `<path d="M${left},${sy(t)}H${w - right}" stroke="${t === 0 ? '#9a8f7d' : '#ddd3bf'}"/><text x="${left - 8}" y="${sy(t) + 4}" text-anchor="end" fill="#6b6254">${text(sy.tickFormat(7)(t))}</text>`,
    );
  for (const t of sx.ticks(8))
    out.push(
      `<text x="${sx(t)}" y="${h - bottom + 17}" text-anchor="middle" fill="#6b6254">${text(sx.tickFormat(8)(t))}</text>`,
    );
  series.forEach((s, i) => {
    const d = s.points.map(([a, b]) => `${sx(a).toFixed(1)},${sy(b).toFixed(1)}`);
    if (s.dots)
      out.push(
        ...s.points.map(
          ([a, b]) =>
            `<circle cx="${sx(a).toFixed(1)}" cy="${sy(b).toFixed(1)}" r="2.4" fill="none" stroke="${s.colour}"/>`,
        ),
      );
    else
      out.push(
        `<path d="M${d.join('L')}" fill="none" stroke="${s.colour}" stroke-width="1.8" stroke-dasharray="${s.dash ?? ''}"/>`,
      );
    out.push(
      `<text x="${w - right + 12}" y="${top + 16 + 20 * i}" fill="${s.colour}" font-weight="600">${text(s.name)}</text>`,
    );
  });
  out.push(
    `<text x="${left - 44}" y="${top - 8}" font-weight="600" fill="#2b2620">${text(y)}</text><text x="${w - right}" y="${h - 8}" text-anchor="end" font-weight="600" fill="#2b2620">${text(x)}</text></svg>`,
  );
  return out.join('\n');
}
