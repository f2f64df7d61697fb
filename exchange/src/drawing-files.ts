import { DxfWriter, LWPolylineFlags, point3d, Units } from '@tarikjabiri/dxf';
import { extentOf, type Drawing, type Layer } from '@veldtwind/core/figures';

/** Colours of the layers by their index in the format. */
const LAYER_COLOURS: Record<Layer, number> = { cut: 1, hole: 5, line: 7, sheet: 8, text: 3 };
const STROKES: Record<Layer, string> = {
  cut: '#a8452e',
  hole: '#2f6a8a',
  line: '#2b2620',
  sheet: '#9a8f7d',
  text: '#4b7a3e',
};

const plain = (text: string) => text.replace(/[\r\n]+/g, ' ');

/** A drawing as DXF, in millimetres. */
export function writeDxf(drawing: Drawing): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  for (const [layer, colour] of Object.entries(LAYER_COLOURS)) dxf.addLayer(layer, colour, 'Continuous');
  for (const item of drawing.items) {
    const options = { layerName: item.layer };
    if (item.kind === 'line')
      dxf.addLWPolyline(
        item.points.map(([x, y]) => ({ point: { x, y } })),
        { ...options, flags: item.closed ? LWPolylineFlags.Closed : LWPolylineFlags.None },
      );
    else if (item.kind === 'circle') dxf.addCircle(point3d(item.at[0], item.at[1]), item.radius, options);
    else
      dxf.addText(point3d(item.at[0], item.at[1]), item.height, plain(item.text), {
        ...options,
        ...(item.upward ? { rotation: 90 } : {}),
      });
  }
  return dxf.stringify();
}

const escaped = (t: string) =>
  plain(t).replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** Margin about what is drawn, mm. */
const MARGIN = 10;

/** A drawing as SVG at true scale, in millimetres. */
export function writeSvg(drawing: Drawing): string {
  const { low, high } = extentOf(drawing);
  const [width, height] = [high[0] - low[0] + 2 * MARGIN, high[1] - low[1] + 2 * MARGIN];
  const f = (v: number) => String(Number(v.toFixed(4)));
  const x = (v: number) => f(v - low[0] + MARGIN);
  const y = (v: number) => f(high[1] - v + MARGIN);
  const body = drawing.items.map((item) => {
    const stroke = `stroke="${STROKES[item.layer]}" stroke-width="0.2" fill="none" data-layer="${item.layer}"`;
    if (item.kind === 'line')
      return `<path d="M${item.points.map((p) => `${x(p[0])},${y(p[1])}`).join('L')}${item.closed ? 'Z' : ''}" ${stroke}/>`;
    if (item.kind === 'circle')
      return `<circle cx="${x(item.at[0])}" cy="${y(item.at[1])}" r="${f(item.radius)}" ${stroke}/>`;
    return `<text x="${x(item.at[0])}" y="${y(item.at[1])}" font-size="${f(item.height)}" font-family="sans-serif" fill="${STROKES[item.layer]}"${item.upward ? ` transform="rotate(-90 ${x(item.at[0])} ${y(item.at[1])})"` : ''}>${escaped(item.text)}</text>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${f(width)}mm" height="${f(height)}mm" viewBox="0 0 ${f(width)} ${f(height)}">`,
    `<title>${escaped(drawing.title)}</title>`,
    ...body,
    '</svg>',
    '',
  ].join('\n');
}
