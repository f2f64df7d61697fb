import { readdirSync } from 'node:fs';
import { resolve } from 'node:path';
import { openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
});
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const said = (css: string) =>
  browser.driver.executeScript<string>(`return document.querySelector(arguments[0])?.innerText ?? ''`, css);

const ids = readdirSync(resolve('docs/samples')).map((f) => f.replace('.md', ''));
/** What the walk through a sample shows without waiting for polars: an area, a candidate, and what is read there. */
const SEEN: Record<string, { at: string; css: string; pattern: RegExp }[]> = {
  cisticola: [
    { at: 'motion?c=a', css: 'main', pattern: /spiral[\s\S]*(dies out|halves|doubles in (?:[2-9]\d|\d{3,})[\d.]* s)/i },
    { at: 'motion?c=b', css: '[data-test="findings"]', pattern: /The spiral grows/ },
  ],
  bergwind: [
    { at: 'balance?c=b', css: '[data-help="Steady flight"]', pattern: /Elevator\s+−2\d\.\d/ },
    { at: 'balance?c=a', css: '[data-help="Steady flight"]', pattern: /Elevator\s+−[6-9]\.\d/ },
  ],
  thatchgrass: [
    { at: 'balance?c=a', css: 'aside[aria-label="Sheet"]', pattern: /one, little fuel/ },
    { at: 'drag?c=a', css: 'main', pattern: /Landing gear/ },
  ],
};

describe('sample aircraft', () => {
  it('are offered on the first page, each with its page in the documents', async () => {
    await page.open('/');
    await page.find('[data-test="sample-cisticola"]');
    const offered = await browser.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('[data-test^="sample-"]')].map((b) => b.dataset.test.slice(7))`,
    );
    expect([...offered].sort()).toEqual(ids.sort());
  });

  it.each(ids)('%s opens beside the page that walks through it, and shows what it says', async (id) => {
    await page.open('/');
    await page.click(`[data-test="sample-${id}"]`);
    await page.until('the page of the sample', async () => /^Sample: /.test(await said('[data-test="help"] h2')));
    const project = (await browser.driver.executeScript<string>('return location.pathname')).split('/')[2];
    expect(SEEN[id].length).toBeGreaterThan(1);
    for (const { at, css, pattern } of SEEN[id]) {
      await page.open(`/p/${project}/${at}`);
      await page.until(
        `${at}: ${pattern}`,
        async () =>
          (
            await browser.driver.executeScript<string>(
              `return [...document.querySelectorAll(arguments[0])].map((e) => e.innerText + (e.value ?? '')).concat([...document.querySelectorAll('aside input')].map((i) => i.value)).join(' ')`,
              css,
            )
          ).search(pattern) >= 0,
      );
    }
    expect(await page.errors()).toEqual([]);
  });

  it('a project in the list has a picture of its aircraft', async () => {
    await page.open('/');
    await page.find('[data-test="project-picture"] path');
  });
});
