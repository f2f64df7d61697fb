import { PRINT_LOOK } from '@veldtwind/core/figures';
import type { ComposedReport } from '@veldtwind/core/report';
import { blockHtml, escapeHtml } from './block-html';

const STYLE = `
:root { color-scheme: light; }
body { font: 15px/1.5 'Source Sans 3', system-ui, sans-serif; color: #2b2620; background: #fff; max-width: 46rem; margin: 2rem auto; padding: 0 1rem; font-variant-numeric: tabular-nums lining-nums; }
h1, h2, h3, h4 { font-family: 'Source Serif 4', Georgia, serif; line-height: 1.25; margin: 2em 0 .5em; }
h1 { margin-top: 0; font-size: 2rem; } h2 { font-size: 1.4rem; border-bottom: 1px solid #ddd3bf; padding-bottom: .2em; } h3 { font-size: 1.15rem; } h4 { font-size: 1rem; margin-top: 1em; }
a { color: #7a470c; } nav ol { columns: 2; padding-left: 1.3rem; }
figure { margin: 1.5rem 0; break-inside: avoid; } .drawn svg { width: 100%; height: auto; } .picture { max-width: 100%; height: auto; } figcaption { font-size: .93em; color: #5b5347; margin: .4em 0; }
.table-box { overflow-x: auto; } table { border-collapse: collapse; width: 100%; font-size: .9em; } th, td { text-align: left; padding: .25em .6em; border-bottom: 1px solid #eae3d3; vertical-align: top; } thead th { border-bottom-color: #b9ae9b; font-weight: 600; } .number { text-align: right; }
[data-state=inside] { color: #35592b; } [data-state=outside] { color: #973f2a; font-weight: 600; } [data-state=outside]::after { content: ' ✕'; } [data-state=inside]::after { content: ' ✓'; }
.missing { color: #5b5347; border-left: 3px solid #ddd3bf; padding-left: .8em; } .decision { border: 1px solid #ddd3bf; padding: .2em 1em 1em; }
.guests form { display: flex; flex-wrap: wrap; gap: .6em; align-items: end; margin: .4em 0; } .guests label { display: grid; } .guests textarea { width: min(28rem, 80vw); font: inherit; } .guests input { font: inherit; } .guests [data-done] { color: #5b5347; text-decoration: line-through; }
details { font-size: .85em; } summary { cursor: pointer; }
@media print { body { margin: 0; max-width: none; } details { display: none; } }
`;

/** A remark on a block by somebody who reads a link. */
export interface GuestComment {
  block: string;
  name: string;
  text: string;
  at: string;
  done: boolean;
}
/** What readers of a link may say: where it is sent, and what was said. */
export interface Guests {
  action: string;
  comments: readonly GuestComment[];
}

/** Remarks on a block and a form for one more; it works without a script. */
function guestsHtml(block: string, name: string, { action, comments }: Guests): string {
  const own = comments.filter((c) => c.block === block);
  const list = own.map(
    (c) =>
      `<li${c.done ? ' data-done' : ''}><b>${escapeHtml(c.name || 'Unnamed')}</b>, ${escapeHtml(c.at.slice(0, 10))}${c.done ? ' (resolved)' : ''}: ${escapeHtml(c.text)}</li>`,
  );
  const label = own.length > 0 ? `Comments (${own.length})` : 'Comment';
  const about = escapeHtml(name);
  return `<details class="guests"${own.length > 0 ? ' open' : ''}><summary aria-label="${label} on ${about}">${label}</summary>${list.length > 0 ? `<ul>${list.join('')}</ul>` : ''}<form method="post" action="${escapeHtml(action)}"><input type="hidden" name="block" value="${escapeHtml(block)}"><label>Name <input name="name" required maxlength="60" autocomplete="name"></label> <label>Comment <textarea name="text" required maxlength="2000" rows="2"></textarea></label> <button>Send</button></form></details>`;
}
const nameOf = (b: ComposedReport['blocks'][number]): string =>
  'title' in b ? b.title : 'name' in b ? b.name : b.kind;

/** A report as one page that stands alone: no script, nothing fetched, figures as vectors with their numbers beside them. */
export function reportHtml(report: ComposedReport, note = '', guests?: Guests): string {
  const contents = report.blocks.flatMap((b) =>
    b.kind === 'heading' && b.level === 1 ? [`<li><a href="#${escapeHtml(b.id)}">${escapeHtml(b.text)}</a></li>`] : [],
  );
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">
<title>${escapeHtml(`${report.name}: ${report.project}`)}</title><style>${STYLE}</style></head>
<body><main><h1>${escapeHtml(report.name)}</h1><p>${escapeHtml(report.project)}${note ? ` · ${escapeHtml(note)}` : ''}</p>
${contents.length > 1 ? `<nav aria-label="Contents"><ol>${contents.join('')}</ol></nav>` : ''}
${report.blocks
  .map((b) => {
    const block = blockHtml(b, PRINT_LOOK, true);
    return guests && b.kind !== 'heading'
      ? `<section id="${escapeHtml(b.id)}">${block}${guestsHtml(b.id, nameOf(b), guests)}</section>`
      : block;
  })
  .join('\n')}
</main></body></html>
`;
}
