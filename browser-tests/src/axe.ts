import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from './harness';

const AXE = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');

/** Violations on what is shown: of all rules in the theme of now, of contrast in the other. */
export async function violationsOn(page: Page): Promise<string[]> {
  await page.driver.executeScript(`if (!window.axe) { ${AXE}; window.axe = axe; }`);
  return page.driver.executeAsyncScript<string[]>(`
    const done = arguments[arguments.length - 1];
    const said = (of, r) => r.violations.map((v) => of + ' ' + v.id + ': ' + v.nodes.slice(0, 25).map((n) => n.target + ' ' + (n.any[0]?.message ?? n.all[0]?.message ?? '')).join(' | '));
    const root = document.documentElement;
    const before = root.dataset.theme;
    // Colours that are still on their way to the other theme are none of it.
    const still = document.createElement('style');
    still.textContent = '* { transition: none !important; animation: none !important }';
    document.head.append(still);
    (async () => {
      const all = said(before, await axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] }));
      root.dataset.theme = before === 'dusk' ? 'paper' : 'dusk';
      await new Promise((go) => setTimeout(go, 600));
      all.push(...said(root.dataset.theme, await axe.run(document, { runOnly: { type: 'rule', values: ['color-contrast'] } })));
      root.dataset.theme = before;
      still.remove();
      done(all);
    })().catch((e) => (still.remove(), done([String(e)])));`);
}
