import { By, openBrowser, Page, TestServer } from './harness';

// Where the drag comes from, read and changed as an engineer would.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let id = '';
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  id = await server.demo();
  await page.open(`/p/${id}/drag?c=a`);
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const press = (css: string) =>
  page.driver.executeScript(
    'const e = document.querySelector(arguments[0]); e.scrollIntoView({block: "center"}); e.click()',
    css,
  );
const allowances = async () => (await page.driver.findElements(By.css('[data-test=allowance]'))).length;

describe('drag', () => {
  it('stands part by part, in fields and in the table, and adds up', async () => {
    await page.until('drawn', async () =>
      /^Wing: [\d.]+ counts/.test(
        String(await (await page.find('[data-test=drag-map] g[role=button]')).getAttribute('aria-label')),
      ),
    );
    const cells = await page.driver.findElements(By.xpath("//section[@aria-label='Ledger']//tbody/tr/td[2]"));
    const counts = await Promise.all(cells.map(async (c) => Number(await c.getText())));
    const sum = counts.slice(0, -1).reduce((a, b) => a + b, 0);
    expect(Math.abs(sum - counts[counts.length - 1])).toBeLessThan(0.5);
    expect(await page.driver.findElement(By.css('section[aria-label=Figure]')).getText()).toMatch(/largest part: Wing/);
  });
  it('follows the speed of the page, a law, and numbers of one’s own', async () => {
    const before = await page.derived('Zero-lift drag');
    await page.type('Speed', '40');
    await page.until('more', async () => (await page.derived('Zero-lift drag')) > 1.8 * before);
    const coefficient = await page.derived('Zero-lift drag coefficient');
    await page.type('Laminar run', '60 %');
    await page.until('less', async () => (await page.derived('Zero-lift drag coefficient')) < 0.95 * coefficient);
    await page.saved();
    const { document } = await server.call<{
      document: { candidates: Record<string, { drag: { parts: Record<string, object> } }> };
    }>('GET', `/projects/${id}`);
    expect(document.candidates.a.drag.parts).toEqual({ wing: { laminarShare: 0.6 } });
  });
  it('stacks the parts over speed, and comes to the total', async () => {
    const top = async () =>
      Number(
        await page.driver.executeScript(
          'return Math.min(...[...document.querySelectorAll("[data-chart=drag-speed] polyline[data-series]")].flatMap((p) => p.getAttribute("points").split(" ").map((q) => Number(q.split(",")[1]))))',
        ),
      );
    const total = await top();
    await press('[data-test=drag-stacked]');
    await page.until('stacked', async () => /stacked/.test(await page.text('[data-chart=drag-speed]')));
    const polygons = await page.driver.findElements(By.css('[data-chart=drag-speed] polygon'));
    expect(polygons.length).toBeGreaterThan(5);
    // One candidate alone may be lower than the highest of three.
    expect(await top()).toBeGreaterThan(total - 3);
    await press('[data-test=drag-stacked]');
  });
  it('is drawn over altitude too, where air gets thin', async () => {
    const ends = () =>
      page.driver.executeScript<number[]>(
        'const p = document.querySelector("[data-chart=drag-speed] polyline[data-series]").getAttribute("points").split(" ").map((q) => Number(q.split(",")[1])); return [p[0], p[p.length - 1]]',
      );
    const pick = async (name: string) => {
      await page.driver.executeScript(
        `[...document.querySelectorAll('[data-chart=drag-speed] g[aria-label^="Quantity on the horizontal"]')].at(-1).dispatchEvent(new MouseEvent('click', { bubbles: true }))`,
      );
      const item = By.xpath(`//*[@data-chart='drag-speed']//*[@role='menuitem' and normalize-space()='${name}']`);
      await page.until('menu', async () => (await page.driver.findElements(item)).length > 0);
      await page.driver.findElement(item).click();
    };
    await pick('altitude');
    await page.until('over altitude', async () => /Over altitude/.test(await page.text('[data-chart=drag-speed]')));
    // Less dynamic pressure: less drag, further down the picture.
    const [low, high] = await ends();
    expect(high).toBeGreaterThan(low + 3);
    await pick('speed');
    await page.until('over speed', async () => /Over speed/.test(await page.text('[data-chart=drag-speed]')));
  });
  it('takes allowances, and refuses reserves of all', async () => {
    const n = await allowances();
    await press('[data-test=add-allowance]');
    await page.until('one more', async () => (await allowances()) === n + 1);
    const last = `(//*[@data-test='allowance'])[${n + 1}]`;
    const kind = await page.driver.findElement(By.xpath(`${last}//select`));
    await page.driver.executeScript(
      'arguments[0].value = "reserve"; arguments[0].dispatchEvent(new Event("change"))',
      kind,
    );
    await page.until('a tenth', async () => {
      const { document } = await server.call<{
        document: { candidates: Record<string, { drag: { allowances: { kind: string; amount: number }[] } }> };
      }>('GET', `/projects/${id}`);
      return (
        document.candidates.a.drag.allowances[n].kind === 'reserve' &&
        document.candidates.a.drag.allowances[n].amount === 0.1
      );
    });
    const input = await page.driver.findElement(By.xpath(`${last}//label[starts-with(normalize-space(.), 'Amount')]`));
    const field = await page.driver.findElement(By.id(String(await input.getAttribute('for'))));
    await page.driver.executeScript(
      'arguments[0].scrollIntoView({block: "center"}); arguments[0].focus(); arguments[0].select()',
      field,
    );
    await field.sendKeys('94', '\uE007');
    await page.until('refused', async () => /below 100 %/.test(await page.text('[data-test=drag-refusal]')));
    expect(await page.errors()).toEqual([]);
  });
  it('takes the surfaces’ drag from their polars in level flight, and never both', async () => {
    const choose = (value: string) =>
      page.driver.executeScript(
        `const e = document.querySelector('[data-test=drag-surfaces]'); e.value = arguments[0]; e.dispatchEvent(new Event('change'))`,
        value,
      );
    const by = () => page.text('section[aria-label=Ledger]');
    const before = await page.derived('Zero-lift drag');
    await choose('polars');
    await page.until('waits', async () => /polars are missing/.test(await page.text('[data-test=drag-waits]')));
    expect(await by()).not.toMatch(/polars/);
    await press('[data-test=compute-polars]');
    await page.until('by polars', async () => /Wing[\s\S]*polars[\s\S]*Pod[\s\S]*build-up/.test(await by()), 120_000);
    await page.until('less', async () => (await page.derived('Zero-lift drag')) < 0.9 * before);
    await page.saved();
    await choose('build-up');
    await page.until('as before', async () => Math.abs((await page.derived('Zero-lift drag')) - before) < 0.02);
    expect(await page.errors()).toEqual([]);
  }, 150_000);
});
