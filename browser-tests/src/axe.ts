import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from './harness';

const AXE = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * Violations on what is shown: of all rules in the theme of now, of contrast in the other.
 * What passes is not listed: naming it costs as much as the rules.
 * @param within selectors of what is looked at; the whole page unless given.
 */
export async function violationsOn(page: Page, within?: readonly string[]): Promise<string[]> {
  await page.driver.executeScript(`if (!window.axe) { ${AXE}; window.axe = axe; }`);
  return page.driver.executeAsyncScript<string[]>(
    `
    const where = arguments[0] ? { include: arguments[0].filter((css) => document.querySelector(css)).map((css) => [css]) } : document;
    const done = arguments[arguments.length - 1];
    const said = (of, r) => r.violations.map((v) => of + ' ' + v.id + ': ' + v.nodes.slice(0, 25).map((n) => n.target + ' ' + (n.any[0]?.message ?? n.all[0]?.message ?? '')).join(' | '));
    const root = document.documentElement;
    const before = root.dataset.theme;
    // Colours that are still on their way to the other theme are none of it. A style element would be refused by the page's policy.
    const still = new CSSStyleSheet();
    still.replaceSync('* { transition: none !important; animation: none !important }');
    document.adoptedStyleSheets.push(still);
    const goOn = () => (document.adoptedStyleSheets = document.adoptedStyleSheets.filter((s) => s !== still));
    (async () => {
      const all = said(before, await axe.run(where, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'], resultTypes: ['violations'] }));
      root.dataset.theme = before === 'dusk' ? 'paper' : 'dusk';
      await new Promise((go) => setTimeout(go, 150));
      all.push(...said(root.dataset.theme, await axe.run(where, { runOnly: { type: 'rule', values: ['color-contrast'] }, resultTypes: ['violations'] })));
      root.dataset.theme = before;
      goOn();
      done(all);
    })().catch((e) => (goOn(), done([String(e)])));`,
    within,
  );
}
