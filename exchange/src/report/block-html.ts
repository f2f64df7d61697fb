import {
  escaped as escapeHtml,
  drawingSvg,
  figureRows,
  figureSvg,
  spaceViewSvg,
  type FigureLook,
} from '@veldtwind/core/figures';
import type { ComposedBlock } from '@veldtwind/core/report';
import { markdownHtml } from './markdown';

export { escapeHtml };

export const FIGURE_SIZE = { width: 640, height: 340 };
export const DRAWING_SIZE = { width: 640, height: 460 };

/** `Figure 3. Title.` */
export const numberedTitle = (b: Extract<ComposedBlock, { number: number }>): string =>
  `${b.kind === 'table' ? 'Table' : 'Figure'} ${b.number}. ${b.title}`;

/** What is said of a block whose candidate went. */
export const lastSeenNote = (b: { lastSeen?: boolean | undefined }): string =>
  b.lastSeen ? ' As last seen: its candidate is no longer in the project.' : '';

/** `drawing.dxf (12 kB)`. */
export const fileWords = (b: Extract<ComposedBlock, { kind: 'file' }>): string =>
  `${b.name} (${b.size < 1000 ? `${b.size} B` : b.size < 1e6 ? `${(b.size / 1000).toFixed(0)} kB` : `${(b.size / 1e6).toFixed(1)} MB`})`;

const STATES = { inside: 'met', outside: 'not met' } as const;
function tableHtml({ columns, rows }: Extract<ComposedBlock, { kind: 'table' }>['table']): string {
  const align = (i: number) => (columns[i]?.numbers ? ' class="number"' : '');
  const head = columns.some((c) => c.name)
    ? `<thead><tr>${columns.map((c, i) => `<th scope="col"${align(i)}>${escapeHtml(c.name)}</th>`).join('')}</tr></thead>`
    : '';
  const body = rows.map((row) => {
    const cells = row.map((cell, i) => {
      const state = cell.state ? ` data-state="${cell.state}" title="${STATES[cell.state]}"` : '';
      return `<td${align(i)}${state}>${escapeHtml(cell.text)}</td>`;
    });
    return `<tr>${cells.join('')}</tr>`;
  });
  return `<div class="table-box" tabindex="0" role="region" aria-label="table"><table>${head}<tbody>${body.join('')}</tbody></table></div>`;
}

/** The numbers behind a figure, folded away. */
function numbersHtml(figure: Extract<ComposedBlock, { kind: 'figure' }>['figure']): string {
  const { header, rows } = figureRows(figure);
  const short = (v: string | number) => (typeof v === 'number' ? String(Number(v.toPrecision(6))) : escapeHtml(v));
  return `<details><summary>Numbers</summary><table><thead><tr>${header.map((h) => `<th scope="col">${escapeHtml(h)}</th>`).join('')}</tr></thead><tbody>${rows
    .map((r) => `<tr>${r.map((v) => `<td>${short(v)}</td>`).join('')}</tr>`)
    .join('')}</tbody></table></details>`;
}

const captionHtml = (b: Extract<ComposedBlock, { number: number }>, after = ''): string =>
  `<figcaption><b>${escapeHtml(numberedTitle(b))}.</b> ${escapeHtml(b.caption + lastSeenNote(b))}${after}</figcaption>`;
const pictured = (b: Extract<ComposedBlock, { number: number }>, svg: string, after = '', numbers = ''): string =>
  `<figure><div class="drawn" role="img" aria-label="${escapeHtml(b.title)}">${svg}</div>${captionHtml(b, after)}${numbers}</figure>`;

/**
 * A block of a report as HTML: the same in the page, in the file and in the read-only view. All text is escaped, and Markdown knows no markup.
 * @param numbers whether the numbers behind figures go along.
 */
export function blockHtml(b: ComposedBlock, look: FigureLook, numbers: boolean): string {
  switch (b.kind) {
    case 'heading':
      return `<h${b.level + 1} id="${escapeHtml(b.id)}">${escapeHtml(b.text)}</h${b.level + 1}>`;
    case 'text':
      return markdownHtml(b.markdown);
    case 'table':
      return `<figure><figcaption><b>${escapeHtml(numberedTitle(b))}</b> ${escapeHtml(b.caption + lastSeenNote(b))}</figcaption>${tableHtml(b.table)}</figure>`;
    case 'figure':
      return pictured(
        b,
        figureSvg(b.figure, FIGURE_SIZE, look, b.id),
        b.figure.method ? ` <i>By ${escapeHtml(b.figure.method)}.</i>` : '',
        numbers ? numbersHtml(b.figure) : '',
      );
    case 'drawing':
      return pictured(b, drawingSvg(b.drawing, DRAWING_SIZE, look));
    case 'view':
      return pictured(b, spaceViewSvg(b.view, FIGURE_SIZE, b.title));
    case 'picture':
      return `<figure><img class="picture" src="${escapeHtml(b.data)}" alt="${escapeHtml(b.title)}">${captionHtml(b)}</figure>`;
    case 'file':
      // Whatever it holds, it is saved and never opened.
      return `<p class="file"><a download="${escapeHtml(b.name)}" href="${escapeHtml(b.data.replace(/^data:[^;,]*/, 'data:application/octet-stream'))}">${escapeHtml(fileWords(b))}</a> ${escapeHtml(b.caption)}</p>`;
    case 'decision':
      return `<section class="decision"><p><b>${b.chosen ? `Chosen: ${escapeHtml(b.chosen)}` : 'No candidate is chosen yet.'}</b>${b.chosen && b.against.length ? ` against ${escapeHtml(b.against.join(', '))}` : ''}</p>${b.why ? `<h3>Why</h3>${markdownHtml(b.why)}` : ''}${b.givenUp ? `<h3>Trade-offs</h3>${markdownHtml(b.givenUp)}` : ''}</section>`;
    case 'missing':
      return `<p class="missing"><b>${escapeHtml(b.title)}</b>: ${escapeHtml(b.reason)}</p>`;
  }
}
