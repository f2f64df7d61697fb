import { imageSize } from 'image-size';
import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions, TableCell } from 'pdfmake/interfaces';
import { drawingSvg, figureSvg, placedView, PRINT_LOOK, type SpaceView } from '@veldtwind/core/figures';
import type { ComposedBlock, ComposedReport } from '@veldtwind/core/report';
import { fileWords, lastSeenNote, numberedTitle } from './block-html';
import { bytesOf } from './data-url';
import { FONT_FILES } from './fonts';
import { inlineText, markdownContent, readyFor } from './pdf-markdown';
import { tagged, tagPages, type Drawn } from './pdf-tags';

export const PAPERS = ['a4', 'letter'] as const;
export type Paper = (typeof PAPERS)[number];

/** Of the page, points. */
const MARGIN = 56;
const WIDTH: Record<Paper, number> = { a4: 595.28, letter: 612 };
const HEIGHT: Record<Paper, number> = { a4: 841.89, letter: 792 };
/** Of a picture, points. */
const TALLEST = 480;
/** Of a table that is set smaller, columns: it would not fit otherwise. */
const MANY_COLUMNS = 7;

pdfmake.setFonts(FONT_FILES as unknown as Parameters<typeof pdfmake.setFonts>[0]);
tagPages();
pdfmake.setUrlAccessPolicy(() => false);
const fonts = new Set<string>(Object.values(FONT_FILES).flatMap((f) => Object.values(f)));
(pdfmake as unknown as { setLocalAccessPolicy(allows: (path: string) => boolean): void }).setLocalAccessPolicy((path) =>
  fonts.has(path),
);
pdfmake.setTableLayouts({
  report: {
    hLineWidth: (i: number, node: { table: { headerRows?: number } }) =>
      i === 0 ? 0 : i === node.table.headerRows ? 0.8 : 0.4,
    vLineWidth: () => 0,
    hLineColor: (i: number, node: { table: { headerRows?: number } }) =>
      i === node.table.headerRows ? '#b9ae9b' : '#e6dfd0',
    paddingLeft: (i: number) => (i === 0 ? 0 : 4),
    paddingRight: () => 4,
    paddingTop: () => 2,
    paddingBottom: () => 2,
  },
});

const STATE_COLOURS = { inside: '#35592b', outside: '#973f2a' } as const;
const STATE_MARKS = { inside: ' ✓', outside: ' ✗' } as const;
const title = (b: Extract<ComposedBlock, { number: number }>, after: string): Content => ({
  text: [
    ...inlineText(`${numberedTitle(b)}.`, { bold: true }),
    ...inlineText(` ${b.caption}${lastSeenNote(b)}${after}`),
  ],
  style: 'caption',
});

function tableContent(b: Extract<ComposedBlock, { kind: 'table' }>): Content[] {
  const { columns, rows } = b.table;
  const small = columns.length >= MANY_COLUMNS;
  const cell = (text: string, i: number): TableCell => ({
    text: inlineText(text),
    ...(columns[i].numbers && { alignment: 'right' }),
  });
  const head = columns.some((c) => c.name);
  const body: TableCell[][] = [
    ...(head
      ? [
          columns.map((c, i): TableCell => ({
            text: inlineText(c.name, { bold: true }),
            ...(columns[i].numbers && { alignment: 'right' }),
          })),
        ]
      : []),
    ...rows.map((row) =>
      row.map((c, i): TableCell =>
        c.state
          ? {
              text: inlineText(c.text + STATE_MARKS[c.state], { bold: c.state === 'outside' }),
              color: STATE_COLOURS[c.state],
              ...(columns[i].numbers && { alignment: 'right' }),
            }
          : cell(c.text, i),
      ),
    ),
  ];
  // Words take what numbers leave.
  const longest = columns.map((_, i) => Math.max(...rows.map((r) => r[i].text.length), columns[i].name.length));
  const widths = columns.map((c, i) => (!c.numbers && longest[i] > 24 ? '*' : 'auto'));
  return [
    { ...(title(b, '') as object), headlineLevel: 4 } as Content,
    {
      table: { headerRows: head ? 1 : 0, dontBreakRows: true, keepWithHeaderRows: 1, widths, body },
      layout: 'report',
      fontSize: small ? 7.5 : 9,
      margin: [0, 2, 0, 14],
    },
  ];
}

/** Of a picture, points: as large as it is at 96 to the inch, where the page has that room. */
function pictureWidth(data: string, widest: number): number {
  const { width, height } = imageSize(bytesOf(data));
  return Math.min(widest, 0.75 * width, (TALLEST * width) / height);
}
/** A space view; of thousands of facets, so that it is painted rather than read from markup. */
function spaceContent(view: SpaceView, width: number): object {
  const box = { width: 520, height: 320 };
  const { height, runs } = placedView(view, box);
  const paint: Drawn['paint'] = (document, at) => {
    document
      .save()
      .translate(at.x, at.y)
      .scale(at._width / box.width)
      .lineWidth(0.5);
    for (const { ink, facets } of runs) {
      for (const [first, ...rest] of facets) {
        document.moveTo(...first);
        for (const p of rest) document.lineTo(...p);
        document.closePath();
      }
      document.fillAndStroke(ink, ink);
    }
    document.restore();
  };
  // What takes its room on the page.
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${box.width}" height="${height}"/>`;
  return { svg, width, paint };
}
/** A picture with its words, on one page. */
const pictured = (content: object, b: Extract<ComposedBlock, { number: number }>, after = ''): Content[] => [
  {
    stack: [{ ...content, alt: `${b.title}. ${b.caption}`.trim() } as unknown as Content, title(b, after)],
    unbreakable: true,
    margin: [0, 4, 0, 12],
  },
];

function blockContent(b: ComposedBlock, width: number): Content[] {
  switch (b.kind) {
    case 'heading':
      return [
        {
          text: inlineText(b.text),
          style: (['h1', 'h2', 'h3'] as const)[b.level - 1],
          ...(b.level === 1 && { tocItem: true, outline: true, outlineText: b.text }),
          headlineLevel: b.level,
        } as Content,
      ];
    case 'text':
      return markdownContent(b.markdown);
    case 'table':
      return tableContent(b);
    case 'figure': {
      const svg = figureSvg(b.figure, { width: 520, height: 290 }, PRINT_LOOK, b.id);
      return pictured({ svg, width }, b, b.figure.method ? ` By ${b.figure.method}.` : '');
    }
    case 'drawing':
      return pictured({ svg: drawingSvg(b.drawing, { width: 520, height: 400 }, PRINT_LOOK), width }, b);
    case 'view':
      return pictured(spaceContent(b.view, width), b);
    case 'picture':
      return pictured({ image: b.data, width: pictureWidth(b.data, width) }, b);
    case 'file':
      return [
        {
          text: [...inlineText(fileWords(b), { bold: true }), ...inlineText(b.caption ? ` ${b.caption}` : '')],
          margin: [0, 0, 0, 8],
        },
      ];
    case 'decision':
      return [
        {
          text: [
            ...inlineText(b.chosen ? `Chosen: ${b.chosen}` : 'No candidate is chosen yet.', { bold: true }),
            ...inlineText(b.chosen && b.against.length ? ` against ${b.against.join(', ')}` : ''),
          ],
          margin: [0, 0, 0, 6],
        },
        ...(b.why ? [{ text: 'Why', style: 'h4' } as Content, ...markdownContent(b.why)] : []),
        ...(b.givenUp ? [{ text: 'Trade-offs', style: 'h4' } as Content, ...markdownContent(b.givenUp)] : []),
      ];
    case 'missing':
      return [
        {
          text: [...inlineText(b.title, { bold: true }), ...inlineText(`: ${b.reason}`)],
          color: '#5b5347',
          margin: [0, 0, 0, 8],
        },
      ];
  }
}

/** Below this share of the page a heading, or the title of a table, goes to the next one with what it heads. */
const LOWEST = 0.86;
const alone = (node: { headlineLevel?: number; startPosition?: { verticalRatio: number } }): boolean =>
  node.headlineLevel !== undefined && (node.startPosition?.verticalRatio ?? 0) > LOWEST;

/**
 * A report as PDF: vector figures, text that can be searched, a table of contents with page numbers, and fonts within.
 * @param options the date that the file bears: of an issue, or of the last edit, so that the same report gives the same bytes.
 */
export async function reportPdf(
  report: ComposedReport,
  options: { paper: Paper; date: Date; note?: string },
): Promise<Uint8Array> {
  const { paper, date, note = '' } = options;
  const width = WIDTH[paper] - 2 * MARGIN;
  await readyFor(
    report.blocks.flatMap((b) => (b.kind === 'text' ? [b.markdown] : b.kind === 'decision' ? [b.why, b.givenUp] : [])),
  );
  const heads = report.blocks.filter((b) => b.kind === 'heading' && b.level === 1).length;
  const definition = {
    pageSize: { width: WIDTH[paper], height: HEIGHT[paper] },
    pageMargins: [MARGIN, 52, MARGIN, 52],
    info: {
      title: `${report.name}: ${report.project}`,
      creationDate: date,
      modDate: date,
      creator: 'Veldtwind',
      producer: 'Veldtwind',
    },
    language: 'en',
    displayTitle: true,
    tagged: true,
    defaultStyle: { font: 'Source Sans 3', fontSize: 10, lineHeight: 1.15, color: '#2b2620' },
    styles: {
      title: { font: 'Source Serif 4', fontSize: 24, bold: true, margin: [0, 0, 0, 4] },
      h1: { font: 'Source Serif 4', fontSize: 16, bold: true, margin: [0, 18, 0, 6] },
      h2: { font: 'Source Serif 4', fontSize: 13, bold: true, margin: [0, 12, 0, 4] },
      h3: { font: 'Source Serif 4', fontSize: 11, bold: true, margin: [0, 8, 0, 3] },
      h4: { fontSize: 10, bold: true, margin: [0, 6, 0, 2] },
      caption: { fontSize: 9, color: '#5b5347', margin: [0, 2, 0, 2] },
    },
    footer: (page: number, pages: number) => ({
      columns: [
        { text: inlineText(`${report.project} · ${report.name}${note ? ` · ${note}` : ''}`) },
        { text: `${page} / ${pages}`, alignment: 'right', width: 60 },
      ],
      margin: [MARGIN, 20, MARGIN, 0],
      fontSize: 8,
      color: '#5b5347',
    }),
    pageBreakBefore: alone,
    content: [
      ...(tagged([
        { text: inlineText(report.name), style: 'title' },
        { text: inlineText(`${report.project}${note ? ` · ${note}` : ''}`), color: '#5b5347', margin: [0, 0, 0, 14] },
      ]) as Content[]),
      ...(heads > 1 ? [{ toc: { numberStyle: { color: '#5b5347' } }, margin: [0, 0, 0, 12] }] : []),
      ...(tagged(report.blocks.flatMap((b) => blockContent(b, width))) as Content[]),
    ],
  };
  const attached = report.blocks.flatMap((b) => (b.kind === 'file' ? [b] : []));
  const files = Object.fromEntries(
    attached.map((b) => [
      b.id,
      { src: b.data, name: b.name, description: b.caption, creationDate: date, modifiedDate: date },
    ]),
  );
  return new Uint8Array(
    await pdfmake
      .createPdf({ ...definition, ...(attached.length > 0 && { files }) } as unknown as TDocumentDefinitions)
      .getBuffer(),
  );
}
