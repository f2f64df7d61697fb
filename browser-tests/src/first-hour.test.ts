import { openBrowser, Page, TestServer } from './harness';

const server = new TestServer({ VELDTWIND_AUTOMATIC_POLARS: 'on' });
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
});
afterAll(async () => {
  await browser.close();
  await server.stop();
});

let clicks = 0;
async function click(css: string): Promise<void> {
  clicks++;
  await page.click(css);
}
const method = async () => {
  const strip = await page.find('[data-test=method]');
  return [await strip.getAttribute('data-method'), await strip.getAttribute('data-provisional')].join();
};
const count = (css: string) =>
  page.driver.executeScript<number>('return document.querySelectorAll(arguments[0]).length', css);
const findings = () => page.text('[data-test=findings]');

describe('a new user', () => {
  // The second is balanced by the lattice only: its polars move the margin, and what is next mends it.
  it.each(['tailed', 'v-tail'])(
    'comes from the first page to a trimmed, stable %s aircraft with polars in at most twelve clicks',
    async (layout) => {
      clicks = 0;
      await page.open('/');
      await page.find('h1');
      const start = Date.now();
      await click('[data-test=layouts]');
      await click(`[data-test=layout-${layout}]`);
      await click('[data-test=make-layout]');
      await page.until('the airframe', async () => (await page.driver.getCurrentUrl()).includes('/airframe'));
      await page.until('polars are there', async () => (await method()) === 'polars,false', 180_000);
      await page.until('findings', async () => /Static margin/.test(await findings()));
      await page.driver.sleep(1000);
      while (clicks < 12 && (await count('[data-test=next-do]')) > 0) {
        await click('[data-test=next-do]');
        await page.until('polars again', async () => (await method()) === 'polars,false', 120_000);
        await page.driver.sleep(1000);
      }
      console.info(`${layout}: ${clicks} clicks, ${((Date.now() - start) / 1000).toFixed(0)} s`);
      expect(clicks).toBeLessThanOrEqual(12);
      expect(await findings()).toMatch(/Static margin [\d.]+ %/);
      expect(await findings()).toMatch(/Trims at/);
      expect(await count('[data-finding][data-state=outside], [data-finding][data-state=missing]')).toBe(0);
      await page.click('[data-test=area-motion]');
      await page.until('modes', async () => /Dutch roll/.test(await page.text('main')));
      expect(await page.text('main')).not.toMatch(/(Dutch roll|Short period[^\n]*|Phugoid|Roll)\n? grows/);
    },
    400_000,
  );
  it('sees no error on the way', async () => {
    expect(await page.errors()).toEqual([]);
  });
});
