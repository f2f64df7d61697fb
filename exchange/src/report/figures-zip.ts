import { strToU8, zipSync } from 'fflate';
import Papa from 'papaparse';
import { drawingSvg, figureRows, figureSvg, PRINT_LOOK, spaceViewSvg } from '@veldtwind/core/figures';
import type { ComposedReport } from '@veldtwind/core/report';
import { DRAWING_SIZE, FIGURE_SIZE, numberedTitle } from './block-html';
import { bytesOf } from './data-url';
import { ZIP_EPOCH } from './zip-time';
import { reportHtml } from './html';

const fileName = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60);
/** A cell that a spreadsheet would take for a formula is text. */
const harmless = (text: string): string => (/^[=+@\t\r]|^-(?!\d)/.test(text) ? `'${text}` : text);

/** A name that a folder takes, and that no file has yet. */
function freeName(files: Record<string, unknown>, name: string): string {
  const plain = name.replace(/[\u0000-\u001f<>:"/\\|?*]+/g, '-').replace(/^\.+/, '') || 'file'; // eslint-disable-line no-control-regex
  for (let k = 1; ; k++) {
    const own = k === 1 ? plain : `${k}-${plain}`;
    if (!Object.hasOwn(files, `files/${own}`)) return own;
  }
}

/** The numbers behind a report: a CSV and an SVG for every figure, a CSV for every table, and the page itself. */
export function reportZip(report: ComposedReport, note = ''): Uint8Array {
  const files: Record<string, Uint8Array> = { 'report.html': strToU8(reportHtml(report, note)) };
  for (const b of report.blocks) {
    if (b.kind === 'file') {
      files[`files/${freeName(files, b.name)}`] = bytesOf(b.data);
      continue;
    }
    if (!('number' in b)) continue;
    const kind = b.kind === 'table' ? 'table' : 'figure';
    const name = `${kind}-${String(b.number).padStart(2, '0')}-${fileName(b.title)}`;
    if (b.kind === 'table') {
      const rows = b.table.rows.map((r) => r.map((c) => harmless(c.text)));
      files[`${name}.csv`] = strToU8(
        Papa.unparse({ fields: b.table.columns.map((c) => c.name), data: rows }, { newline: '\n' }),
      );
    } else if (b.kind === 'figure') {
      const { header, rows } = figureRows(b.figure);
      files[`${name}.csv`] = strToU8(
        Papa.unparse(
          { fields: header, data: rows.map((r) => r.map((v) => (typeof v === 'string' ? harmless(v) : v))) },
          { newline: '\n' },
        ),
      );
      files[`${name}.svg`] = strToU8(figureSvg(b.figure, FIGURE_SIZE, PRINT_LOOK, b.id));
    } else if (b.kind === 'drawing') files[`${name}.svg`] = strToU8(drawingSvg(b.drawing, DRAWING_SIZE, PRINT_LOOK));
    else if (b.kind === 'view') files[`${name}.svg`] = strToU8(spaceViewSvg(b.view, FIGURE_SIZE, b.title));
    else files[`${name}.${b.data.startsWith('data:image/png') ? 'png' : 'jpg'}`] = bytesOf(b.data);
  }
  const list = report.blocks.flatMap((b) => ('number' in b ? [`${numberedTitle(b)}. ${b.caption}`] : []));
  files['contents.txt'] = strToU8(`${report.name}: ${report.project}\n\n${list.join('\n')}\n`);
  return zipSync(files, { mtime: ZIP_EPOCH });
}
