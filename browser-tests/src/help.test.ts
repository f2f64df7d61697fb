import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { By, Key, openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let project: string;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  project = await server.demo();
});
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const said = (css: string) =>
  browser.driver.executeScript<string>(`return document.querySelector(arguments[0])?.innerText ?? ''`, css);
const until = (what: string, css: string, pattern: RegExp) =>
  page.until(what, async () => pattern.test(await said(css)));
const press = (key: string) => browser.driver.actions().sendKeys(key).perform();

describe('help', () => {
  it('F1 opens the page of the area, with its drawing; Escape closes it', async () => {
    await page.open(`/p/${project}/airframe`);
    await page.find('[data-test="design-point"]');
    await press(Key.F1);
    await until('the page of the area', '[data-test="help"]', /Airframe\n[\s\S]*Tail volume/);
    expect(
      (await browser.driver.findElements(By.css('[data-test="help"] .help-drawing svg path'))).length,
    ).toBeGreaterThan(3);
    await press(Key.ESCAPE);
    await page.until(
      'no help',
      async () => (await browser.driver.findElements(By.css('[data-test="help"]'))).length === 0,
    );
  });

  it('is there before a project is: on the first page and on that of layouts', async () => {
    const closed = () =>
      page.until('no help', async () => (await browser.driver.findElements(By.css('[data-test="help"]'))).length === 0);
    await page.open('/');
    await page.find('[data-test=new-project]');
    await press(Key.F1);
    await until('what a project is', '[data-test="help"]', /Projects\n[\s\S]*A new project/);
    await press(Key.ESCAPE);
    await closed();
    await page.open('/layouts');
    await page.click('[data-test=help-open]');
    await until('layouts', '[data-test="help"] [data-asked]', /Layouts/);
    // The layouts stay where they can be chosen.
    await page.click('[data-test=layout-canard]');
    await page.click('[data-test=help-close]');
    await closed();
  });

  it('the mark beside a group leads to its section, and the sheet keeps its width', async () => {
    await page.open(`/p/${project}/balance`);
    const width = () =>
      browser.driver.executeScript<number>(`return document.querySelector('aside[aria-label="Sheet"]').clientWidth`);
    await page.find('[data-help="Static stability"]');
    const before = await width();
    await page.click('[data-help="Static stability"] [data-test="help-mark"]');
    await until('the section', '[data-test="help"] [data-asked]', /Static stability/);
    expect(Math.abs((await width()) - before)).toBeLessThan(12);
    // Formulas are set, not written out.
    expect((await browser.driver.findElements(By.css('[data-test="help"] math'))).length).toBeGreaterThan(2);
  });

  it('F1 in a field asks about its group; links lead to methods, and back', async () => {
    await page.open(`/p/${project}/lift`);
    await (await page.field('Twist at tip')).click();
    await press(Key.F1);
    await until('the group of the field', '[data-test="help"] [data-asked]', /Twist and incidence/);
    await page.click('[data-test="help-text"] a[data-page="methods/lattice"]');
    await until('the method', '[data-test="help"]', /Vortex lattice\n[\s\S]*Kutta/);
    await page.click('[aria-label="Back in the help"]');
    await until('the area again', '[data-test="help"] h2', /^Lift/);
  });

  it('is searched, and leads to what was found', async () => {
    await page.open(`/p/${project}/lift`);
    await page.find('[data-test="design-point"]');
    await press(Key.F1);
    const search = await page.find('[data-test="help-search"]');
    await search.sendKeys('divergence speed');
    await until('hits', '[data-test="help-hits"]', /Structure · Strength of the surface/);
    await search.sendKeys(' zzyzx');
    await until('no hits', '[data-test="help-hits"]', /No page has all of these words/);
    for (let i = 0; i < 6; i++) await search.sendKeys(Key.BACK_SPACE);
    await browser.driver.executeScript(
      `[...document.querySelectorAll('[data-test="help-hits"] button')].find((b) => b.innerText.startsWith('Structure · Strength')).click()`,
    );
    await until('the section found', '[data-test="help"] [data-asked]', /Strength of the surface/);
    await page.click('[data-test="help-close"]');
  });

  it('a number leads to the method that made it', async () => {
    await page.open(`/p/${project}/balance`);
    await until('numbers', '[data-help="Static stability"]', /Static margin\s+\d/);
    await page.click('[data-help="Static stability"] .cursor-help');
    await page.click('[data-test="number-help"]');
    await until('the method of the number', '[data-test="help"] h2', /^(Vortex lattice|Lattice with section polars)/);
  });

  it('has no violation of accessibility rules in either theme', async () => {
    await page.open(`/p/${project}/motion`);
    await page.find('[data-test="design-point"]');
    await press(Key.F1);
    await until('the page', '[data-test="help"] h2', /^Motion/);
    await browser.driver.executeScript(readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8'));
    const check = () =>
      browser.driver.executeAsyncScript<string[]>(`
        const done = arguments[arguments.length - 1];
        axe.run(document.querySelector('[data-test="help"]'), { runOnly: ['wcag2a', 'wcag2aa', 'wcag22aa'] }).then((r) => done(r.violations.map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.target + ' ' + (n.any[0]?.message ?? '')).join(' | '))));`);
    expect(await check()).toEqual([]);
    await page.click('[data-test="theme"]');
    expect(await check()).toEqual([]);
  });
});

describe('the next step', () => {
  const step = () =>
    browser.driver.executeScript<string>(
      `return document.querySelector('[data-test="next-step"]')?.dataset.step ?? ''`,
    );
  const comesTo = (code: string) => page.until(`the step “${code}”`, async () => (await step()) === code);
  const take = () => page.click('[data-test="next-do"]');

  it('leads from nothing to an aircraft whose mass is placed', async () => {
    const fresh = (await server.call<{ id: string }>('POST', '/projects', { name: 'First hour' })).id;
    await page.open(`/p/${fresh}/brief`);
    await comesTo('sections');
    await take();
    await page.click('[data-test="starter-all"]');
    await comesTo('wing');
    await take();
    await until('the wing in the sheet', 'aside[aria-label="Sheet"]', /Stations and bays/);
    await comesTo('masses');
    await take();
    await page.click('[data-test="estimate-add"]:not(:disabled)');
    await comesTo('payload');
    const words = await said('[data-test="next-step"]');
    expect(words).toMatch(/[\d.]+ kg of the brief’s mass is not placed/);
    await take();
    await until('the payload in the ledger', 'table', /Payload\s+\d/);
    await page.until('another step', async () => (await step()) !== 'payload');
    // It is one edit, and undone as one.
    await page.click('[data-test="undo"]');
    await comesTo('payload');
  });

  it('is silent in the demo where nothing is missing, and can be hidden for good', async () => {
    await page.open(`/p/${project}/lift?c=a`);
    await page.find('[data-finding]');
    await browser.driver.sleep(1500);
    expect(['', 'improve', 'solve']).toContain(await step());
    const bare = (await server.call<{ id: string }>('POST', '/projects', { name: 'Bare' })).id;
    await page.open(`/p/${bare}/brief`);
    await comesTo('sections');
    await page.click('[data-test="next-hide"]');
    await comesTo('');
    await page.saved();
    await page.open(`/p/${bare}/airframe`);
    await page.find('[data-test="all-findings"]');
    expect(await step()).toBe('');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('k').keyUp(Key.CONTROL).perform();
    await (await page.find('[data-test="palette-input"]')).sendKeys('show the next step', Key.ENTER);
    await comesTo('sections');
  });
});

describe('search', () => {
  const search = async (words: string) => {
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('k').keyUp(Key.CONTROL).perform();
    await (await page.find('[data-test="palette-input"]')).sendKeys(words);
  };
  const found = () => said('[role="listbox"]');
  const finds = (what: string, pattern: RegExp) => page.until(what, async () => pattern.test(await found()));

  it('tells a number of a candidate, and how it was made', async () => {
    await page.open(`/p/${project}/lift?c=a`);
    await page.find('[data-finding]');
    await search('static margin of b');
    await finds('the number with its unit', /Static margin of B\s+\d+\.\d %/);
    await browser.driver.actions().sendKeys(Key.ENTER).perform();
    await until('its sheet', '[data-test="number-sheet"]', /Static margin[\s\S]*Candidate B at/);
    await press(Key.ESCAPE);
  });

  it('finds a setting by the name of its field, in another area, and puts the cursor there', async () => {
    await page.open(`/p/${project}/lift?c=a`);
    await page.find('[data-finding]');
    await search('rolling friction');
    await finds('the field', /Rolling friction: setting in Performance\s+Take-off and landing/);
    await browser.driver.actions().sendKeys(Key.ENTER).perform();
    await page.until(
      'the field',
      async () =>
        (await browser.driver.executeScript('return document.activeElement?.labels?.[0]?.innerText ?? ""')) ===
        'Rolling friction',
    );
    expect(await browser.driver.getCurrentUrl()).toMatch(/performance\?c=a/);
  });

  it('finds facts of sections, parts, pages of the help and other projects', async () => {
    await server.call('POST', '/projects', { name: 'Second hour' });
    await page.open(`/p/${project}/balance?c=a`);
    await page.find('[data-finding]');
    await search('thickness karoo 14');
    await finds('a fact of a section', /Greatest thickness of Karoo 14\s+14\.00 %/);
    await press(Key.ESCAPE);
    await search('battery');
    await finds('a mass item', /Mass item Battery of A\s+2\.20 kg/);
    await press(Key.ESCAPE);
    await search('divergence');
    await finds('a page of the help', /Help: Structure/);
    await press(Key.ESCAPE);
    await search('open second hour');
    await finds('another project', /Open Second hour/);
    await press(Key.ESCAPE);
    await search('tailplane of b');
    await finds('a part', /Tailplane of B/);
    await browser.driver.actions().sendKeys(Key.ENTER).perform();
    await page.until('the part in Airframe', async () =>
      /\/airframe\/\w+\?.*c=b/.test(
        await browser.driver.executeScript<string>('return location.pathname + location.search'),
      ),
    );
  });
});
