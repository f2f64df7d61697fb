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
const ledger = () => said('table');
const until = (what: string, css: string, pattern: RegExp) =>
  page.until(what, async () => pattern.test(await said(css)));

describe('the structure', () => {
  it('is begun with one click; its members count as mass at once, and are checked', async () => {
    await page.open(`/p/${project}/structure`);
    await page.find('[data-test="begin-structure"]');
    await page.click('[data-test="begin-structure"]');
    await until('members with reserves', 'table', /Main spar\s+Wing\s+0\.\d+\s+\d+\s+(web|cap), /);
    expect(await ledger()).toMatch(/ribs\s+Wing/);
    // The drawing from above and the cut show them.
    const drawn = (css: string) => browser.driver.findElements(By.css(css));
    expect((await drawn('[data-test="structure-plan"] path')).length).toBeGreaterThan(10);
    expect((await drawn('[data-test="structure-cut"] path')).length).toBeGreaterThan(3);
    // The ledger of masses has the members.
    await page.open(`/p/${project}/balance`);
    await until('the spar among the masses', 'table', /Wing, Main spar\s+Structure\s+0\.\d+/);
  });
  it('tells what would hold when a cap is too thin, in the sheet and among the findings, and takes it over', async () => {
    await page.open(`/p/${project}/structure`);
    await page.type('Cap thickness', '0.5');
    await until('a failing spar', '[data-test="thicker"]', /It would with:[^]*Main spar, cap thickness [\d.]+ mm/);
    await page.click('[data-test="all-findings"]');
    await page.until('the finding', async () =>
      /Main spar of Wing fails in/.test(await browser.driver.executeScript<string>('return document.body.innerText')),
    );
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await page.click('[data-test="take-thicker"]');
    await page.until('all hold', async () => (await said('[data-test="thicker"]')) === '');
    expect(Number(await page.value('Cap thickness'))).toBeGreaterThan(0.5);
  });
  it('is sized to the least mass, keeps it over a reload, and undo brings back what was', async () => {
    const before = await page.value('Skin thickness');
    await page.click('[data-test="size"]');
    await page.click('[data-test="take-sized"]');
    await page.until('another skin', async () => (await page.value('Skin thickness')) !== before);
    const sized = await page.value('Skin thickness');
    await until('saved', 'header', /Saved/);
    await browser.driver.navigate().refresh();
    await page.find('[data-test="size"]');
    expect(await page.value('Skin thickness')).toBe(sized);
    await page.click('[aria-label^="Undo"]');
    await page.until('the skin from before', async () => (await page.value('Skin thickness')) === before);
  });
  it('says where a spar leaves the skin and goes on when it fits again; a weighed mass counts', async () => {
    await page.type('Height', '90');
    await until('the refusal', '[role="alert"]', /Main spar of Wing leaves the skin at \d+ % of the half span/);
    await page.type('Height', Key.DELETE);
    await page.until('no refusal', async () => (await said('p[role="alert"]')) === '');
    await page.type('Weighed mass', '0.9');
    await until('the weighed skin', 'table', /skin\s+Wing\s+0\.900 weighed/);
  });
  it('makes the parts as a file', async () => {
    await page.click('[data-test="export-airframe"]');
    await page.find('[data-test="export-write"]');
    expect(await said('[role="dialog"]')).toMatch(/Parts of the structure, ZIP/);
    await page.click('[data-test="export-write"]');
    await page.until('what was made', async () =>
      /Balsa, light [\d.]+ mm: \d+ parts on/.test(
        await browser.driver.executeScript<string>('return document.body.innerText'),
      ),
    );
  });
});
