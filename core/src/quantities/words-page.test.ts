import { readFileSync } from 'node:fs';
import { TERMS, wordsPage } from '.';

/** Cells without the room that the formatter gives them. */
const bare = (page: string) =>
  page
    .replace(/\\([_*])/g, '$1')
    .replace(/-{3,}/g, '---')
    .replace(/[ \t]+/g, ' ')
    .trim();

describe('the page of words', () => {
  it('is what the registries say (npm run words)', () => {
    expect(bare(readFileSync('docs/words.md', 'utf8'))).toBe(bare(wordsPage()));
  });

  it('has each term once, with a meaning', () => {
    expect(new Set(TERMS.map((t) => t.name)).size).toBe(TERMS.length);
    for (const t of TERMS) expect([t.name, t.meaning.length > 10]).toEqual([t.name, true]);
  });

  it('calls one id by one name in each list', () => {
    const rows = wordsPage()
      .split('\n')
      .filter((l) => l.startsWith('| ') && l.includes('`'));
    expect(rows.length).toBeGreaterThan(100);
    for (const row of rows) expect(row.split(' | ')[0].length).toBeGreaterThan(3);
  });
});
