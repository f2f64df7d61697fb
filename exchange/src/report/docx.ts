import {
  AlignmentType,
  Document,
  ExternalHyperlink,
  Footer,
  HeadingLevel,
  ImageRun,
  LevelFormat,
  Packer,
  PageNumber,
  Paragraph,
  Table,
  TableCell,
  TableOfContents,
  TableRow,
  TextRun,
  WidthType,
  type ParagraphChild,
} from 'docx';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { drawingSvg, figureSvg, PRINT_LOOK, spaceViewSvg } from '@veldtwind/core/figures';
import type { ComposedBlock, ComposedReport } from '@veldtwind/core/report';
import { fileWords, lastSeenNote, numberedTitle } from './block-html';
import { bytesOf } from './data-url';
import { formulaMath } from './formula-docx';
import { tokensOf, type Token } from './markdown';
import { imageSize } from 'image-size';
import { pngOf } from './picture';
import { ZIP_EPOCH } from './zip-time';

type Block = Paragraph | Table | TableOfContents;
const HEADS = [HeadingLevel.HEADING_1, HeadingLevel.HEADING_2, HeadingLevel.HEADING_3] as const;
/** Of figures on the page, px. */
const PICTURE = { width: 600, figure: 335, drawing: 460, tallest: 800 };
const LIST = 'numbers';

function runs(tokens: readonly Token[], bold = false): ParagraphChild[] {
  const out: ParagraphChild[] = [];
  const marks = { bold, italics: false, strike: false };
  let link: { href: string; inside: ParagraphChild[] } | null = null;
  const put = (child: ParagraphChild) => (link ? link.inside : out).push(child);
  for (const t of tokens) {
    if (t.type === 'strong_open' || t.type === 'strong_close') marks.bold = bold || t.nesting === 1;
    else if (t.type === 'em_open' || t.type === 'em_close') marks.italics = t.nesting === 1;
    else if (t.type === 's_open' || t.type === 's_close') marks.strike = t.nesting === 1;
    else if (t.type === 'link_open') link = { href: String(t.attrGet('href')), inside: [] };
    else if (t.type === 'link_close' && link) {
      out.push(new ExternalHyperlink({ link: link.href, children: link.inside }));
      link = null;
    } else if (t.type === 'softbreak') put(new TextRun({ text: ' ' }));
    else if (t.type === 'hardbreak') put(new TextRun({ text: '', break: 1 }));
    else if (t.type.startsWith('math')) put(formula(t.content));
    else if (t.content) put(new TextRun({ text: clean(t.content), ...marks, ...(link && { style: 'Hyperlink' }) }));
  }
  return out;
}

/** Letters that the format does not know break a file. */
const clean = (text: string): string => text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, ''); // eslint-disable-line no-control-regex

/** One that does not parse stays as it was typed. */
const formula = (tex: string): ParagraphChild =>
  formulaMath(tex) ?? new TextRun({ text: clean(tex.trim()), italics: true });

function cellOf(children: ParagraphChild[], right: boolean): TableCell {
  return new TableCell({ children: [new Paragraph({ children, ...(right && { alignment: AlignmentType.RIGHT }) })] });
}
const wide = (rows: TableRow[]) => new Table({ rows, width: { size: 100, type: WidthType.PERCENTAGE } });

/** Markdown as paragraphs and tables. */
function markdownBlocks(text: string): Block[] {
  const out: Block[] = [];
  const lists: ('bullet' | 'number')[] = [];
  let rows: TableRow[] | null = null;
  let cells: TableCell[] = [];
  let heading: number | null = null;
  let quote = 0;
  let head = false;
  for (const t of tokensOf(text)) {
    if (t.type === 'heading_open') heading = Math.min(3, Number(t.tag.slice(1)) + 1);
    else if (t.type === 'heading_close') heading = null;
    else if (t.type === 'bullet_list_open') lists.push('bullet');
    else if (t.type === 'ordered_list_open') lists.push('number');
    else if (t.type === 'bullet_list_close' || t.type === 'ordered_list_close') lists.pop();
    else if (t.type === 'blockquote_open') quote++;
    else if (t.type === 'blockquote_close') quote--;
    else if (t.type === 'table_open') rows = [];
    else if (t.type === 'table_close') {
      out.push(wide(rows!));
      rows = null;
    } else if (t.type === 'tr_open') cells = [];
    else if (t.type === 'tr_close') rows!.push(new TableRow({ children: cells, tableHeader: head }));
    else if (t.type === 'th_open' || t.type === 'td_open') head = t.type === 'th_open';
    else if (t.type === 'inline' && rows) cells.push(cellOf(runs(t.children ?? [], head), false));
    else if (t.type === 'inline') {
      const level = lists.length - 1;
      out.push(
        new Paragraph({
          children: runs(t.children ?? []),
          ...(heading && { heading: HEADS[heading - 1] }),
          ...(level >= 0 &&
            (lists[level] === 'bullet' ? { bullet: { level } } : { numbering: { reference: LIST, level } })),
          ...(quote > 0 && { indent: { left: 400 * quote } }),
        }),
      );
    } else if (t.type === 'fence' || t.type === 'code_block')
      for (const line of t.content.replace(/\n$/, '').split('\n'))
        out.push(new Paragraph({ children: [new TextRun({ text: clean(line), font: 'Courier New' })] }));
    else if (t.type === 'math_block')
      out.push(
        new Paragraph({
          alignment: AlignmentType.CENTER,
          children: [formula(t.content)],
        }),
      );
  }
  return out;
}

const caption = (b: Extract<ComposedBlock, { number: number }>): Paragraph =>
  new Paragraph({
    children: [
      new TextRun({ text: clean(`${numberedTitle(b)}.`), bold: true }),
      new TextRun({ text: clean(` ${b.caption}${lastSeenNote(b)}`) }),
    ],
    spacing: { before: 120, after: 120 },
    keepNext: b.kind === 'table',
  });

type Numbered = Extract<ComposedBlock, { number: number }>;
function image(b: Numbered, type: 'png' | 'jpg', data: Uint8Array, width: number, aspect: number): Block[] {
  const picture = new ImageRun({
    type,
    data,
    transformation: { width: Math.round(width), height: Math.round(width * aspect) },
    altText: { title: clean(b.title), description: clean(b.caption), name: clean(b.title) },
  });
  return [new Paragraph({ children: [picture], keepNext: true }), caption(b)];
}
async function pictured(svg: string, b: Numbered): Promise<Block[]> {
  const [width, height] = ['width', 'height'].map((name) => Number(new RegExp(`${name}="([\\d.]+)"`).exec(svg)![1]));
  return image(b, 'png', await pngOf(svg, PICTURE.width), PICTURE.width, height / width);
}
/** A picture as large as the page is wide and high. */
function photograph(b: Extract<ComposedBlock, { kind: 'picture' }>): Block[] {
  const bytes = bytesOf(b.data);
  const size = imageSize(bytes);
  const width = Math.min(PICTURE.width, size.width, (PICTURE.tallest * size.width) / size.height);
  return image(b, b.data.startsWith('data:image/png') ? 'png' : 'jpg', bytes, width, size.height / size.width);
}

async function blocksOf(b: ComposedBlock): Promise<Block[]> {
  switch (b.kind) {
    case 'heading':
      return [new Paragraph({ text: clean(b.text), heading: HEADS[b.level - 1] })];
    case 'text':
      return markdownBlocks(b.markdown);
    case 'table': {
      const { columns, rows } = b.table;
      const head = columns.some((c) => c.name)
        ? [
            new TableRow({
              tableHeader: true,
              children: columns.map((c) =>
                cellOf([new TextRun({ text: clean(c.name), bold: true })], Boolean(c.numbers)),
              ),
            }),
          ]
        : [];
      const marks = { inside: ' ✓', outside: ' ✗' } as const;
      const body = rows.map(
        (row) =>
          new TableRow({
            cantSplit: true,
            children: row.map((c, i) =>
              cellOf(
                [new TextRun({ text: clean(c.text + (c.state ? marks[c.state] : '')), bold: c.state === 'outside' })],
                Boolean(columns[i].numbers),
              ),
            ),
          }),
      );
      return [caption(b), wide([...head, ...body])];
    }
    case 'figure':
      return pictured(figureSvg(b.figure, { width: PICTURE.width, height: PICTURE.figure }, PRINT_LOOK, b.id), b);
    case 'drawing':
      return pictured(drawingSvg(b.drawing, { width: PICTURE.width, height: PICTURE.drawing }, PRINT_LOOK), b);
    case 'view':
      return pictured(spaceViewSvg(b.view, { width: PICTURE.width, height: PICTURE.figure }, b.title), b);
    case 'picture':
      return photograph(b);
    case 'file':
      // The format embeds no files that a reader opens: it is named, and goes along in the ZIP and the page.
      return [
        new Paragraph({
          children: [
            new TextRun({ text: clean(fileWords(b)), bold: true }),
            new TextRun({ text: clean(b.caption ? ` ${b.caption}` : '') }),
          ],
        }),
      ];
    case 'decision':
      return [
        new Paragraph({
          children: [
            new TextRun({ text: clean(b.chosen ? `Chosen: ${b.chosen}` : 'No candidate is chosen yet.'), bold: true }),
            new TextRun({ text: clean(b.chosen && b.against.length ? ` against ${b.against.join(', ')}` : '') }),
          ],
        }),
        ...(b.why ? [new Paragraph({ text: 'Why', heading: HEADS[2] }), ...markdownBlocks(b.why)] : []),
        ...(b.givenUp ? [new Paragraph({ text: 'Trade-offs', heading: HEADS[2] }), ...markdownBlocks(b.givenUp)] : []),
      ];
    case 'missing':
      return [
        new Paragraph({
          children: [new TextRun({ text: clean(b.title), bold: true }), new TextRun({ text: clean(`: ${b.reason}`) })],
        }),
      ];
  }
}

/** A report as a word-processor file: headings as headings, tables as tables, figures as pictures with their words. The same report gives the same bytes. */
export async function reportDocx(report: ComposedReport, options: { date: Date; note?: string }): Promise<Uint8Array> {
  const { date, note = '' } = options;
  const blocks: Block[] = [];
  for (const b of report.blocks) blocks.push(...(await blocksOf(b)));
  const document = new Document({
    title: clean(`${report.name}: ${report.project}`),
    creator: 'Veldtwind',
    lastModifiedBy: 'Veldtwind',
    features: { updateFields: true },
    numbering: {
      config: [
        {
          reference: LIST,
          levels: Array.from({ length: 6 }, (_, level) => ({
            level,
            format: LevelFormat.DECIMAL,
            text: `%${level + 1}.`,
            alignment: AlignmentType.START,
            style: { paragraph: { indent: { left: 720 * (level + 1), hanging: 360 } } },
          })),
        },
      ],
    },
    sections: [
      {
        footers: {
          default: new Footer({
            children: [
              new Paragraph({
                alignment: AlignmentType.RIGHT,
                children: [new TextRun({ children: [PageNumber.CURRENT, ' / ', PageNumber.TOTAL_PAGES] })],
              }),
            ],
          }),
        },
        children: [
          new Paragraph({ text: clean(report.name), heading: HeadingLevel.TITLE }),
          new Paragraph({ text: clean(`${report.project}${note ? ` · ${note}` : ''}`) }),
          new TableOfContents('Contents', { hyperlink: true, headingStyleRange: '1-2' }),
          ...blocks,
        ],
      },
    ],
  });
  const packed = unzipSync(new Uint8Array(await Packer.toBuffer(document)));
  // The packer writes when it packed: the file says when the report was.
  const stamp = date.toISOString().replace(/\.\d+Z$/, 'Z');
  const core = strFromU8(packed['docProps/core.xml']).replace(
    /(<dcterms:(created|modified)[^>]*>)[^<]*/g,
    `$1${stamp}`,
  );
  packed['docProps/core.xml'] = strToU8(core);
  const links = new Map<string, string>();
  const named = (xml: string) =>
    xml.replace(
      /\b(r:id|Id)="(rId[\w-]{8,})"/g,
      (_whole, key: string, id: string) => `${key}="${linkName(links, id)}"`,
    );
  for (const part of ['word/document.xml', 'word/_rels/document.xml.rels'])
    packed[part] = strToU8(named(strFromU8(packed[part])));
  packed['word/document.xml'] = strToU8(renumbered(strFromU8(packed['word/document.xml'])));
  return zipSync(packed, { mtime: ZIP_EPOCH });
}

/** Names of links are made at random: here they are counted. */
function linkName(links: Map<string, string>, id: string): string {
  let name = links.get(id);
  if (!name) links.set(id, (name = `rIdLink${links.size + 1}`));
  return name;
}

/** Numbers that the packer counts on from file to file begin at one in each: anchors of headings, bookmarks and pictures. */
function renumbered(xml: string): string {
  const counted = (pattern: RegExp, text: string) => {
    const seen = new Map<string, number>();
    return text.replace(pattern, (_whole, before: string, number: string, after: string) => {
      if (!seen.has(number)) seen.set(number, seen.size + 1);
      return `${before}${seen.get(number)}${after}`;
    });
  };
  return [
    /(_Toc)(\d+)(\b)/g,
    /(<w:bookmark(?:Start|End)[^>]*w:id=")(\d+)(")/g,
    /(<wp:docPr[^>]* id=")(\d+)(")/g,
  ].reduce((text, pattern) => counted(pattern, text), xml);
}
