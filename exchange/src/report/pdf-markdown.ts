import type { Content, ContentText } from 'pdfmake/interfaces';
import { formulaPieces, formulaText } from './formula-pieces';
import type { SetFormula } from './formula-svg';
import { runsOf } from './fonts';
import { tokensOf, type Token } from './markdown';

type Inline = Extract<ContentText['text'], unknown[]>[number];
interface Marks {
  bold?: boolean;
  italics?: boolean;
  strike?: boolean;
  link?: string;
}

/** Text in its fonts, for a paragraph in the sans serif. */
export const inlineText = (text: string, marks: Marks = {}): Inline[] =>
  runsOf(text, 'Source Sans 3').map(({ text: t, font, together }) => ({
    text: t,
    ...(font && { font }),
    ...(together && { noWrap: true }),
    ...(marks.bold && { bold: true }),
    ...(marks.italics && { italics: true }),
    ...(marks.strike && { decoration: 'lineThrough' as const }),
    ...(marks.link && { link: marks.link, color: '#7a470c' }),
  }));

/** A formula within a sentence. */
const inlineFormula = (tex: string, marks: Marks): Inline[] =>
  formulaPieces(tex).flatMap(({ text, place, italics }) =>
    inlineText(text, { ...marks, italics }).map((run) => ({
      ...(run as object),
      ...(place !== 'base' && { [place]: true }),
    })),
  ) as unknown as Inline[];

/** Of formulas on lines of their own, points. */
const FORMULA = { size: 11, widest: 470 };
let setFormula: (tex: string, size: number, ink: string) => SetFormula | null = () => null;
/** Reads what sets formulas, where a text has one on lines of its own: it takes a while. */
export async function readyFor(texts: readonly string[]): Promise<void> {
  if (texts.some((t) => t.includes('$$'))) setFormula = (await import('./formula-svg')).formulaSvg;
}
function displayed(tex: string): Content {
  const set = setFormula(tex, FORMULA.size, '#2b2620');
  if (!set) return { text: inlineText(tex.trim(), { italics: true }), alignment: 'center', margin: [0, 2, 0, 8] };
  const shown = {
    svg: set.svg,
    width: Math.min(set.width, FORMULA.widest),
    font: 'Source Serif 4',
    alignment: 'center',
    margin: [0, 2, 0, 8],
    alt: formulaText(tex),
  };
  return shown as unknown as Content;
}

/** The inline tokens of a paragraph. */
function inlines(tokens: readonly Token[]): Inline[] {
  const out: Inline[] = [];
  const marks: Marks = {};
  for (const t of tokens) {
    if (t.type === 'text') out.push(...inlineText(t.content, marks));
    else if (t.type === 'code_inline') out.push(...inlineText(t.content, { ...marks, italics: true }));
    else if (t.type === 'math_inline' || t.type === 'math_inline_block' || t.type === 'math_inline_bare_block')
      out.push(...inlineFormula(t.content, marks));
    else if (t.type === 'softbreak') out.push({ text: ' ' });
    else if (t.type === 'hardbreak') out.push({ text: '\n' });
    else if (t.type === 'strong_open' || t.type === 'strong_close') marks.bold = t.nesting === 1;
    else if (t.type === 'em_open' || t.type === 'em_close') marks.italics = t.nesting === 1;
    else if (t.type === 's_open' || t.type === 's_close') marks.strike = t.nesting === 1;
    else if (t.type === 'link_open') marks.link = String(t.attrGet('href'));
    else if (t.type === 'link_close') delete marks.link;
    else if (t.content) out.push(...inlineText(t.content, marks));
  }
  return out;
}

const HEADS = ['h2', 'h3', 'h4'] as const;

/** Reads blocks until a closing token; returns where it ended. */
function blocks(tokens: readonly Token[], from: number, until: string | null): { content: Content[]; at: number } {
  const content: Content[] = [];
  let at = from;
  while (at < tokens.length && tokens[at].type !== until) {
    const t = tokens[at];
    if (t.type === 'heading_open') {
      const level = Math.min(2, Number(t.tag.slice(1)));
      content.push({ text: inlines(tokens[at + 1].children ?? []), style: HEADS[level] });
      at += 3;
    } else if (t.type === 'paragraph_open') {
      content.push({ text: inlines(tokens[at + 1].children ?? []), margin: [0, 0, 0, t.hidden ? 1 : 6] });
      at += 3;
    } else if (t.type === 'bullet_list_open' || t.type === 'ordered_list_open') {
      const end = t.type.replace('open', 'close');
      const items: Content[] = [];
      at++;
      while (tokens[at].type !== end) {
        const item = blocks(tokens, at + 1, 'list_item_close');
        items.push({ stack: item.content });
        at = item.at + 1;
      }
      at++;
      content.push(
        t.type === 'bullet_list_open'
          ? { ul: items, margin: [0, 0, 0, 6] }
          : { ol: items, start: Number(t.attrGet('start') ?? 1), margin: [0, 0, 0, 6] },
      );
    } else if (t.type === 'blockquote_open') {
      const inner = blocks(tokens, at + 1, 'blockquote_close');
      content.push({ stack: inner.content, margin: [14, 0, 0, 6], color: '#5b5347' });
      at = inner.at + 1;
    } else if (t.type === 'table_open') {
      const table = tableOf(tokens, at + 1);
      content.push(table.content);
      at = table.at + 1;
    } else if (t.type === 'math_block') {
      content.push(displayed(t.content));
      at++;
    } else if (t.type === 'fence' || t.type === 'code_block') {
      content.push({
        stack: t.content
          .replace(/\n$/, '')
          .split('\n')
          .map((line) => ({ text: inlineText(line || ' '), preserveLeadingSpaces: true })),
        margin: [10, 0, 0, 6],
        fontSize: 9,
      });
      at++;
    } else if (t.type === 'hr') {
      content.push({
        canvas: [{ type: 'line', x1: 0, y1: 0, x2: 120, y2: 0, lineWidth: 0.5, lineColor: '#b9ae9b' }],
        margin: [0, 4, 0, 8],
      });
      at++;
    } else {
      if (t.content) content.push({ text: inlineText(t.content) });
      at++;
    }
  }
  return { content, at };
}

function tableOf(tokens: readonly Token[], from: number): { content: Content; at: number } {
  const body: Content[][] = [];
  let heads = 0;
  let at = from;
  for (; tokens[at].type !== 'table_close'; at++) {
    const t = tokens[at];
    if (t.type === 'tr_open') body.push([]);
    else if (t.type === 'thead_close') heads = body.length;
    else if (t.type === 'inline') {
      const head = tokens[at - 1].type === 'th_open';
      const align = /text-align:(\w+)/.exec(String(tokens[at - 1].attrGet('style') ?? ''))?.[1] as
        'right' | 'center' | undefined;
      body.at(-1)!.push({ text: inlines(t.children ?? []), bold: head, ...(align && { alignment: align }) });
    }
  }
  return { content: { table: { headerRows: heads, body }, layout: 'report', margin: [0, 2, 0, 8] }, at };
}

/** Markdown as the content of a printed page. */
export const markdownContent = (text: string): Content[] => blocks(tokensOf(text), 0, null).content;
