import { tableText } from '@veldtwind/core/spreadsheet';
import type { ChartSeries } from './chart-model';
import { saveBlob, saveText } from './save';

const COPIED = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'font-family',
  'font-size',
  'font-weight',
  'font-style',
  'opacity',
  'text-anchor',
  'paint-order',
  'stroke-linejoin',
  'fill-opacity',
];

/** A copy of a drawing that carries its looks with it, on the page's ground. */
export function standaloneSvg(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const from = [svg, ...svg.querySelectorAll<SVGElement>('*')];
  const to = [copy, ...copy.querySelectorAll<SVGElement>('*')];
  from.forEach((el, i) => {
    const style = getComputedStyle(el);
    for (const name of COPIED) {
      const value = style.getPropertyValue(name);
      if (value && value !== 'none' && value !== 'normal') to[i].setAttribute(name, value);
      else if (value === 'none' && (name === 'fill' || name === 'stroke')) to[i].setAttribute(name, 'none');
    }
    to[i].removeAttribute('style');
    to[i].removeAttribute('class');
  });
  for (const el of copy.querySelectorAll('[data-screen-only]')) el.remove();
  const { width, height } = svg.getBoundingClientRect();
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  ground.setAttribute('width', '100%');
  ground.setAttribute('height', '100%');
  ground.setAttribute('fill', getComputedStyle(document.body).backgroundColor);
  copy.insertBefore(ground, copy.firstChild);
  return new XMLSerializer().serializeToString(copy);
}

export const exportSvg = (svg: SVGSVGElement, name: string): void =>
  saveText(standaloneSvg(svg), `${name}.svg`, 'image/svg+xml');

/** Draws the figure into a picture at twice its size on the screen. */
export async function exportPng(svg: SVGSVGElement, name: string): Promise<void> {
  const { width, height } = svg.getBoundingClientRect();
  const image = new Image();
  const url = URL.createObjectURL(new Blob([standaloneSvg(svg)], { type: 'image/svg+xml' }));
  image.src = url;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = 2 * width;
  canvas.height = 2 * height;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  URL.revokeObjectURL(url);
  canvas.toBlob((blob) => blob && saveBlob(blob, `${name}.png`), 'image/png');
}

/** The curves as a table: one row a point. */
export function seriesCsv(series: readonly ChartSeries[], x: string, y: string): string {
  return tableText([
    ['curve', x, y, 'status'],
    ...series.flatMap((s) =>
      s.points.map((p) => [s.label, p.x, Number.isFinite(p.y) ? p.y : '', p.status ?? 'solved']),
    ),
  ]);
}
export const exportCsv = (series: readonly ChartSeries[], x: string, y: string, name: string): void =>
  saveText(seriesCsv(series, x, y), `${name}.csv`, 'text/csv');
