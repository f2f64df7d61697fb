/** A heading of a help page with the text below it, up to the next heading of the same level. */
export interface HelpSection {
  slug: string;
  title: string;
  text: string;
}

/** A page of help, called as its file below `docs`: an area (`help/lift`), a method (`methods/lattice`), a file format (`recipe-file`). */
export interface HelpPage {
  id: string;
  title: string;
  /** Markdown below the title. */
  text: string;
  sections: HelpSection[];
}

/** Where a link leads: a page and, behind `#`, one of its sections. */
export interface HelpPlace {
  page: string;
  section?: string;
}

/** What a heading is called in an address. */
export const slugOf = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[’']/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '');

/** A page from its file: `docs/help/lift.md` is `help/lift`. */
export function readPage(path: string, source: string): HelpPage {
  const id = path.replace(/^.*?docs\//, '').replace(/\.md$/, '');
  const [, title, text] = /^# (.+)\n([\s\S]*)$/.exec(source.replace(/\r\n/g, '\n')) ?? [];
  if (title === undefined) throw new Error(`${path} does not begin with a title: “# Title” on its first line`);
  const sections = text
    .split(/^(?=## )/m)
    .filter((part) => part.startsWith('## '))
    .map((part) => {
      const [first, ...rest] = part.split('\n');
      const name = first.slice(3).trim();
      return { slug: slugOf(name), title: name, text: rest.join('\n').trim() };
    });
  return { id, title, text: text.trim(), sections };
}

/** Where a link of a page leads; null where it leaves the help. */
export function placeOf(from: string, href: string): HelpPlace | null {
  if (/^[a-z]+:/i.test(href)) return null;
  const [file, section] = href.split('#');
  if (file === '') return { page: from, section };
  if (!file.endsWith('.md')) return null;
  return { page: new URL(file, `file:///${from}`).pathname.slice(1).replace(/\.md$/, ''), section };
}

/** Markdown without its marks, for excerpts. */
const plain = (text: string): string =>
  text
    .replace(/!\[[^\]]*\]\([^)]*\)/g, ' ')
    .replace(/\[([^\]]*)\]\([^)]*\)/g, '$1')
    .replace(/[#*_`|$]+|-{3,}/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

export interface HelpHit extends HelpPlace {
  title: string;
  excerpt: string;
}

const MOST_HITS = 20;
const REACH = 60;

/** Sections and pages that have every word asked for; those with the words in their titles come first. */
export function searchHelp(pages: readonly HelpPage[], query: string): HelpHit[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const places = pages.flatMap((p) => [
    { page: p.id, section: undefined, title: p.title, text: plain(p.text.split(/^## /m)[0]) },
    ...p.sections.map((s) => ({ page: p.id, section: s.slug, title: `${p.title} · ${s.title}`, text: plain(s.text) })),
  ]);
  return places
    .map((place) => {
      const title = place.title.toLowerCase();
      const text = place.text.toLowerCase();
      if (!words.every((w) => title.includes(w) || text.includes(w))) return null;
      const at = Math.max(0, ...words.map((w) => text.indexOf(w)));
      const from = Math.max(0, at - REACH);
      const excerpt = `${from > 0 ? '… ' : ''}${place.text.slice(from, at + 2 * REACH)}${at + 2 * REACH < place.text.length ? ' …' : ''}`;
      const weight = words.filter((w) => title.includes(w)).length;
      return { hit: { page: place.page, section: place.section, title: place.title, excerpt }, weight };
    })
    .filter((found) => found !== null)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_HITS)
    .map((found) => found.hit);
}

/** The page of what several areas share. */
const COMMON = 'help/common';

/** The page and section that tell about a heading: the area's own, else one that several areas share. */
export function sectionFor(pages: readonly HelpPage[], area: string, heading: string): HelpPlace {
  const slug = slugOf(heading);
  const has = (id: string) => pages.find((p) => p.id === id)?.sections.some((s) => s.slug === slug);
  const own = `help/${area}`;
  if (has(own)) return { page: own, section: slug };
  if (has(COMMON)) return { page: COMMON, section: slug };
  return { page: own };
}
