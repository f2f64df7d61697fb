import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, sep } from 'node:path';
import { METHOD_FACTS } from '@veldtwind/core/quantities';
import { DOUBT_TEXT } from '@veldtwind/core/section-flow';
import { helpHtml } from './help-markdown';
import { placeOf, readPage, searchHelp, sectionFor, slugOf, type HelpPage } from './help-text';

/** Files below a folder whose names end so. */
const filesOf = (folder: string, end: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith(end))
    .map((f) => join(folder, f))
    .sort();
const files = filesOf('docs', '.md');
const pages: HelpPage[] = files.map((f) => readPage(f, readFileSync(f, 'utf8')));
const page = (id: string) => pages.find((p) => p.id === id)!;
/** Titles that a template gives its groups and views, with the area that they stand in. */
const groupsOf = (file: string): string[] =>
  [...readFileSync(file, 'utf8').matchAll(/<SheetGroup\s((?:[^">]|"[^"]*")*)>/g)].map(([, attributes]) => {
    const named = /(?:^|\s)help="([^"]+)"/.exec(attributes) ?? /(?:^|\s)title="([^"]+)"/.exec(attributes);
    if (!named) throw new Error(`A group of ${file} has neither a title that is fixed nor help: ${attributes}`);
    return named[1];
  });

describe('the pages of help', () => {
  const areas = filesOf('web/src/areas', `${sep}area.ts`).map((f) => f.split(sep).at(-2)!);

  it.each(areas)('%s has a page that says how to read it and what to try', (id) => {
    const p = page(`help/${id}`);
    expect(p).toBeDefined();
    expect(p.text.length).toBeGreaterThan(300);
    if (id !== 'brief') expect(p.sections.map((s) => s.slug)).toContain('when-it-looks-wrong');
  });

  it.each(areas)('every group of %s has a section', (id) => {
    const missing = filesOf(`web/src/areas/${id}`, '.vue')
      .flatMap(groupsOf)
      .filter((title) => sectionFor(pages, id, title).section === undefined);
    expect(missing).toEqual([]);
  });

  it('groups that several areas have are told on a page of their own', () => {
    const shared = filesOf('web/src/components', '.vue').flatMap(groupsOf);
    expect(shared.length).toBeGreaterThan(1);
    for (const title of shared)
      for (const area of ['lift', 'motion']) expect(sectionFor(pages, area, title).section).toBe(slugOf(title));
  });

  it('a heading without a section of its own leads to the area’s page', () => {
    expect(sectionFor(pages, 'lift', 'Never written')).toEqual({ page: 'help/lift' });
    expect(sectionFor(pages, 'lift', 'Span load')).toEqual({ page: 'help/lift', section: 'span-load' });
  });

  it.each(files)('every link and drawing of %s is there', (file) => {
    const p = readPage(file, readFileSync(file, 'utf8'));
    for (const [, mark, href] of p.text.replace(/```[\s\S]*?```/g, '').matchAll(/(!?)\[[^\]]*\]\(([^)\s]+)\)/g)) {
      if (mark === '!') {
        expect([href, existsSync(join(dirname(file), href))]).toEqual([href, true]);
        continue;
      }
      const place = placeOf(p.id, href);
      if (place === null) {
        if (!/^https?:/.test(href)) expect([href, existsSync(join(dirname(file), href))]).toEqual([href, true]);
        continue;
      }
      expect([href, page(place.page) !== undefined]).toEqual([href, true]);
      if (!place.section) continue;
      const headings = [...page(place.page).text.matchAll(/^#{2,4} (.+)$/gm)].map(([, t]) => slugOf(t));
      expect(headings).toContain(place.section);
    }
  });

  it('formulas of every page parse', () => {
    for (const p of pages) expect([p.id, helpHtml(p, {}).includes('katex-error')]).toEqual([p.id, false]);
  });

  it('every method page says its question, and no page asks for the network', () => {
    for (const p of pages.filter((each) => /^methods\/(?!README)/.test(each.id)))
      expect([p.id, p.sections[0].slug]).toEqual([p.id, 'question']);
    for (const p of pages) expect([p.id, /<img|src="http/.test(helpHtml(p, {}))]).toEqual([p.id, false]);
  });

  it.each(Object.values(METHOD_FACTS))('the page of the $name is there', (method) => {
    expect(page(method.page)).toBeDefined();
  });

  it('every doubt of a section point is told', () => {
    const told = page('help/doubts').sections.map((s) => s.slug);
    const named: Record<string, string> = { 'two-roots': 'two-solutions', 'low-reynolds': 'low-reynolds-number' };
    for (const doubt of Object.keys(DOUBT_TEXT)) expect(told).toContain(named[doubt] ?? doubt);
  });
});

describe('reading a page', () => {
  it('takes title, sections and their addresses', () => {
    const p = readPage('/x/docs/help/lift.md', '# Lift\r\n\r\nIt lifts.\r\n\r\n## Span load\r\n\r\nThe load.\r\n');
    expect(p).toMatchObject({ id: 'help/lift', title: 'Lift' });
    expect(p.sections).toEqual([{ slug: 'span-load', title: 'Span load', text: 'The load.' }]);
  });

  it('refuses a file without a title', () => {
    expect(() => readPage('docs/x.md', 'no title')).toThrow('# Title');
  });

  it('resolves links from where they stand', () => {
    expect(placeOf('help/lift', '../methods/lattice.md#limits')).toEqual({
      page: 'methods/lattice',
      section: 'limits',
    });
    expect(placeOf('help/lift', 'drag.md')).toEqual({ page: 'help/drag', section: undefined });
    expect(placeOf('help/lift', '#span-load')).toEqual({ page: 'help/lift', section: 'span-load' });
    expect(placeOf('help/lift', 'https://example.org/x.md')).toBeNull();
  });

  it('links inside stay inside, and markup in a text stays text', () => {
    const p = readPage(
      'docs/help/x.md',
      '# X\n\n[L](../methods/lattice.md#limits) <b onclick="x()">no</b> $a^2$\n\n![A](d.svg)\n',
    );
    const html = helpHtml(p, { 'd.svg': '<svg id="d"/>' });
    expect(html).toContain('data-page="methods/lattice"');
    expect(html).toContain('data-to="limits"');
    expect(html).not.toContain('<b onclick');
    expect(html).toContain('<math');
    expect(html).toContain('<svg id="d"/>');
  });
});

describe('searching the help', () => {
  it('finds sections with every word, titles first', () => {
    const hits = searchHelp(pages, 'static margin');
    expect(hits[0].title.toLowerCase()).toContain('static');
    expect(hits.map((h) => h.page)).toContain('help/balance');
    expect(hits.every((h) => `${h.title} ${page(h.page).text}`.toLowerCase().includes('margin'))).toBe(true);
  });

  it('has nothing for no words and for words that are nowhere', () => {
    expect(searchHelp(pages, '  ')).toEqual([]);
    expect(searchHelp(pages, 'zzyzx')).toEqual([]);
  });
});
