import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import type { ComposedBlock, ComposedReport } from '@veldtwind/core/report';
import { blockHtml } from './block-html';
import { reportFile } from './files';
import { runsOf } from './fonts';
import { formulaText } from './formula-pieces';
import { markdownHtml } from './markdown';
import { PAGE_LOOK } from '@veldtwind/core/figures';

const folder = mkdtempSync(join(tmpdir(), 'report-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const HOSTILE = '<img src=x onerror=alert(1)><script>alert(2)</script>';
/** One red pixel. */
const PIXEL =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==';
const MARKDOWN = `# Purpose

Lift is $C_L = \\frac{2 W}{\\rho V^2 S}$, **strong** and *slanted*; [a link](https://example.org/) and [a trap](javascript:alert(3)).

- one
- two
  1. first of two

| Quantity | Value |
| --- | --: |
| margin | 16.8 % |

$$
e = \\frac{C_L^2}{\\pi A\\,C_{Di}}
$$

> quoted

${HOSTILE}

Flight \u{1F6E9} שלום مرحبا Ω −3 × 10⁻⁶ broken $\\frac{$.`;
const figure: Extract<ComposedBlock, { kind: 'figure' }> = {
  kind: 'figure', id: 'f', number: 1, title: 'Power required', caption: 'A needs 447 W.',
  figure: {
    x: { name: 'V', unit: 'm/s' }, y: { name: 'power', unit: 'W', zero: true }, bands: [], marks: [],
    series: ['A', 'B'].map((name, style) => ({ name, style, points: Array.from({ length: 20 }, (_, i): [number, number] => [10 + i, 100 + style + 0.1234567 * i * i]) })),
  },
}; // prettier-ignore
const table: Extract<ComposedBlock, { kind: 'table' }> = {
  kind: 'table', id: 't', number: 1, title: 'Requirements', caption: '',
  table: {
    columns: [{ name: 'Requirement' }, { name: 'A', numbers: true }],
    rows: [
      [{ text: 'static margin' }, { text: '16.8 %', state: 'inside' }],
      [{ text: 'best glide' }, { text: '17.60', state: 'outside' }],
      ...Array.from({ length: 90 }, (_, i) => [{ text: `=row ${i}` }, { text: `${i}.25` }]),
    ],
  },
}; // prettier-ignore
const report: ComposedReport = {
  name: 'Design review', project: 'Seedsnipe',
  blocks: [
    { kind: 'heading', id: 'h1', level: 1, text: 'Summary' },
    { kind: 'text', id: 'x', markdown: MARKDOWN, unknown: [] },
    table,
    { kind: 'heading', id: 'h2', level: 1, text: 'Performance' },
    figure,
    { kind: 'drawing', id: 'd', number: 2, title: 'Three-view', caption: '', drawing: { title: '', items: [{ kind: 'line', layer: 'line', closed: true, points: [[0, 0], [100, 0], [50, 80]] }] } },
    { kind: 'view', id: 'v', number: 3, title: 'In space', caption: 'From ahead.', view: { unit: 1, size: [900, 300], facets: [{ points: [[0, 0], [900, 0], [400, 300]], shade: 14 }] } },
    { kind: 'picture', id: 'p', number: 4, title: 'The model', caption: '', data: PIXEL },
    { kind: 'file', id: 'o', name: '../ribs".dxf', size: 5, caption: 'Of the wing.', data: 'data:text/html;base64,aGVsbG8=' },
    { kind: 'decision', id: 'c', chosen: 'A Straight', against: ['B Longreach'], why: 'It climbs.', givenUp: 'Range.' },
    { kind: 'missing', id: 'm', title: 'Flights', reason: 'No flight is kept.' },
  ],
}; // prettier-ignore
const OPTIONS = { paper: 'a4' as const, date: new Date('2026-11-30T12:00:00Z'), note: 'issue 2' };
const kept = async (format: string, options = OPTIONS) => {
  const bytes = await reportFile(report, format, options);
  const file = join(folder, `r.${format}`);
  writeFileSync(file, bytes);
  return { bytes, file };
};
const tool = (name: string, ...args: string[]) => execFileSync(name, args, { encoding: 'utf8', maxBuffer: 1 << 26 });

describe('a report as PDF', () => {
  it('says what its content is: headings, paragraphs, lists, tables with their heads, and figures in words', async () => {
    const { file } = await kept('pdf');
    const structure = tool('pdfinfo', '-struct-text', file);
    for (const part of [
      /^Document\n {2}H1 \(block\)\n {4}"Design review"/m,
      /^ {2}TOC\s*\n {4}TOCI\s*\n {6}"Summary"\n {6}"1"/m,
      /^ {2}H2 \(block\)\n {4}"Summary"/m,
      /^ {2}H4 \(block\)\n {4}"Purpose"/m,
      /^ {2}L \(block\)\n {4}LI \(block\)\n {6}LBody \(block\)\n {8}P \(block\)\n {10}"one"/m,
      /^ {2}Table \(block\)\n {4}TR\s*\n {6}TH\s*\n {8}"Requirement"\n {6}TH\s*\n {8}"A"/m,
      /^ {6}TD\s*\n {8}"static margin"/m,
      /^ {2}Figure/m,
      /^ {2}Caption\s*\n {4}"Figure 1. Power required. A needs/m,
    ])
      expect(structure).toMatch(part);
    // What repeats on every page is no content.
    expect(structure).not.toContain('1 / ');
    const { stdout } = spawnSync('pdfdetach', ['-list', file], { encoding: 'utf8' });
    expect(stdout).toMatch(/1 embedded file/);
  });
  it('can be read, searched and printed: text, contents, page numbers, fonts within', async () => {
    const { bytes, file } = await kept('pdf');
    expect(bytes.length).toBeLessThan(1_000_000);
    const text = tool('pdftotext', '-layout', file, '-');
    for (const word of ['Design review', 'Seedsnipe', 'issue 2', 'Summary', '= (2W)/(ρV', 'strong', 'static margin', '16.8 %', '17.60', 'Figure 1. Power required.', 'A needs 447 W', 'power, W', 'Chosen: A Straight', 'No flight is kept', '−3 × 10⁻⁶', '\\frac{'])
      expect(text).toContain(word); // prettier-ignore
    // Every row, over the pages, with the heading of the table again on each.
    for (let i = 0; i < 90; i++) expect(text).toContain(`=row ${i}`);
    expect(text.match(/Requirement /g)!.length).toBeGreaterThanOrEqual(2);
    expect(text).toMatch(/\b1 ?\/ ?\d/);
    expect(text).toMatch(/Performance\s+\d/);
    const fonts = tool('pdffonts', file).trim().split('\n').slice(2);
    expect(fonts.length).toBeGreaterThanOrEqual(4);
    for (const line of fonts) expect(line).toMatch(/yes yes yes/);
    expect(tool('pdfinfo', file)).toMatch(/Page size:\s+595.28 x 841.89/);
    // Figures are vectors; the one picture is the picture.
    for (const line of tool('pdfimages', '-list', file).trim().split('\n').slice(2))
      expect(line).toMatch(/^\s*\d+ .* 1\s+1 /);
  });
  it('has the paper that is asked for', async () => {
    const { file } = await kept('pdf', { ...OPTIONS, paper: 'letter' as never });
    expect(tool('pdfinfo', file)).toMatch(/Page size:\s+612 x 792/);
  });
  it('puts letters that its fonts lack in another one, and keeps words of right-to-left text together', () => {
    expect(runsOf('α − 3 °', 'Source Sans 3')).toEqual([{ text: 'α − 3 °' }]);
    expect(runsOf('a שלום עולם', 'Source Sans 3')[1]).toMatchObject({
      text: 'שלום עולם',
      font: 'DejaVu Sans',
      together: true,
    });
    expect(
      runsOf('x\u200b\u202e\u0007\u{1F6E9}', 'Source Sans 3')
        .map((r) => r.text)
        .join(''),
    ).toBe('x□');
  });
});

describe('a report as a page', () => {
  it('stands alone: no script, nothing fetched, all text escaped', async () => {
    const { bytes } = await kept('html');
    const page = new TextDecoder().decode(bytes);
    const tags = new Set([...page.matchAll(/<([a-z][\w-]*)/gi)].map((m) => m[1].toLowerCase()));
    for (const tag of ['script', 'link', 'iframe', 'object', 'base', 'form']) expect(tags).not.toContain(tag);
    for (const [, attributes] of page.matchAll(/<[a-z][\w-]*((?:\s+[\w:-]+="[^"]*")*)/gi)) {
      expect(attributes).not.toMatch(/\son\w+=|="javascript:|\ssrc="(?!data:image\/(png|jpeg);)|\sstyle=/i);
      for (const [, to] of attributes.matchAll(/url\(([^)]*)\)/g)) expect(to).toMatch(/^#/);
    }
    expect(page).toContain('&lt;script&gt;');
    expect(page).toContain("default-src 'none'");
    expect(page).toContain('<math');
    expect(page).toContain('144.568');
    const headings = [...page.matchAll(/<h(\d)/g)].map((m) => Number(m[1]));
    expect(headings.filter((h) => h === 1)).toHaveLength(1);
    for (const [i, h] of headings.entries()) if (i > 0) expect(h - headings[i - 1]).toBeLessThanOrEqual(1);
    expect(page).toMatch(/<a href="#h2">Performance/);
  });
  it('draws what the page of the program draws', () => {
    const svg = (text: string) => /<svg.*<\/svg>/s.exec(text)![0];
    expect(XMLValidator.validate(svg(blockHtml(figure, PAGE_LOOK, false)))).toBe(true);
    expect(blockHtml(table, PAGE_LOOK, false)).toContain('data-state="outside"');
    expect(blockHtml({ kind: 'heading', id: '"><b>', level: 2, text: HOSTILE }, PAGE_LOOK, false)).not.toMatch(
      /<(img|script|b)\b/,
    );
  });
  it('runs nothing of what a text holds', () => {
    const html = markdownHtml(MARKDOWN);
    expect(html).not.toMatch(/<(img|script)/);
    expect(html).not.toMatch(/href="javascript/);
    expect(markdownHtml('![p](https://example.org/p.png)')).not.toContain('<img');
    expect(markdownHtml('$\\href{javascript:alert(1)}{x}$ $\\htmlData{a=b}{x}$')).not.toMatch(/href=|data-a/);
  });
});

describe('a report as a word-processor file', () => {
  it('has headings as headings, tables as tables, and figures with their words', async () => {
    const { bytes } = await kept('docx');
    const files = unzipSync(bytes);
    const xml = strFromU8(files['word/document.xml']);
    expect(XMLValidator.validate(xml)).toBe(true);
    expect(xml.match(/w:val="Heading1"/g)).toHaveLength(2);
    expect(xml.match(/<w:tbl>/g)).toHaveLength(2);
    expect(xml.match(/<w:tr[ >]/g)!.length).toBe(93 + 2);
    // Formulas are the word processor's own.
    expect(xml).toMatch(/<m:f>.*<m:sSup>.*<m:t>ρ|<m:t>ρ<\/m:t>/);
    expect(xml.match(/<m:oMath>/g)).toHaveLength(2);
    expect(xml).toContain('../ribs&quot;.dxf (5 B)');
    expect(xml).toContain('&lt;script&gt;');
    const pictures = Object.keys(files).filter((f) => f.startsWith('word/media/') && f.endsWith('.png'));
    expect(pictures).toHaveLength(4);
    expect(files[pictures[0]].subarray(1, 4)).toEqual(new TextEncoder().encode('PNG'));
    expect(files[pictures[0]].length).toBeGreaterThan(3000);
    const core = new XMLParser().parse(strFromU8(files['docProps/core.xml'])) as Record<string, Record<string, string>>;
    expect(core['cp:coreProperties']['dcterms:created']).toBe('2026-11-30T12:00:00Z');
  });
});

describe('the numbers of a report', () => {
  it('are in a table for every figure and table, with all their digits and no formula', async () => {
    const { bytes } = await kept('zip');
    const files = unzipSync(bytes);
    expect(Object.keys(files).sort()).toEqual(['contents.txt', 'figure-01-power-required.csv', 'figure-01-power-required.svg', 'figure-02-three-view.svg', 'figure-03-in-space.svg', 'figure-04-the-model.png', 'files/-ribs-.dxf', 'report.html', 'table-01-requirements.csv']); // prettier-ignore
    const { data } = Papa.parse<string[]>(strFromU8(files['figure-01-power-required.csv']).trim());
    expect(data[0]).toEqual(['curve', 'V, m/s', 'power, W']);
    expect(Number(data[20][2])).toBe(100 + 0.1234567 * 19 * 19);
    expect(strFromU8(files['table-01-requirements.csv'])).toMatch(/\n'=row 0,0\.25/);
  });
});

it.each(['pdf', 'html', 'docx', 'zip'])('the same report gives the same bytes as %s', async (format) => {
  const [a, b] = [await reportFile(report, format, OPTIONS), await reportFile(report, format, OPTIONS)];
  expect(Buffer.compare(a, b)).toBe(0);
});
it('refuses another format', async () => {
  await expect(reportFile(report, 'exe', OPTIONS)).rejects.toThrow(/no report as "exe"/);
});

describe('a formula on one line', () => {
  it.each([
    ['\\frac{a+b}{2}', '(a + b)/2'],
    ['x_{np} - x_{cg}', 'x_np − x_cg'],
    ['\\sqrt{x^2}', '√x^2'],
    ['\\sqrt{a+b}', '√(a + b)'],
    ['\\alpha \\le 3', 'α ≤ 3'],
    ['V^{10}', 'V^10'],
    ['-3 x^{-1}', '−3x^−1'],
    ['C_{L}^2 / (\\pi A)', 'C_L^2/(πA)'],
    ['\\nonsense{', '\\nonsense{'],
  ])('%s', (tex, text) => expect(formulaText(tex)).toBe(text));
});
