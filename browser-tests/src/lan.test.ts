import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By, openBrowser, Page, TestServer } from './harness';

/** A name that is no secure origin to a browser, as an address in a local network is none; it leads to this machine. */
const NAME = 'seedhouse.test';
const TOKEN = 'a-token-of-the-workshop';
const server = new TestServer({ VELDTWIND_HOST: '0.0.0.0', VELDTWIND_TOKEN: TOKEN });
let page: Page;
let close: () => Promise<void>;
const downloads = mkdtempSync(join(tmpdir(), 'downloads-'));

beforeAll(async () => {
  await server.start();
  const browser = await openBrowser(`--host-resolver-rules=MAP ${NAME} 127.0.0.1`);
  const port = new URL(server.base).port;
  page = new Page(browser.driver, `http://${NAME}:${port}`);
  close = browser.close;
  await (browser.driver as unknown as { setDownloadPath(path: string): Promise<void> }).setDownloadPath(downloads);
});
afterAll(async () => {
  await close?.();
  await server.stop();
});

describe('served to a network over plain HTTP, with a token', () => {
  it('asks for the token, and lets in who brings it once', async () => {
    await page.open('/');
    await page.until('asked', async () => /access token/.test(await page.text('body')));
    await page.open(`/?token=${TOKEN}`);
    await page.find('[data-test=new-demo]');
    expect(await page.driver.executeScript('return isSecureContext')).toBe(false);
    expect(await page.driver.getCurrentUrl()).not.toContain(TOKEN);
  });
  it('works whole: a project, an edit that is saved, workers, two tabs', async () => {
    await page.click('[data-test=new-demo]');
    await page.find('[data-test=design-point]');
    await page.type('Speed', '27');
    await page.saved();
    await page.driver.navigate().refresh();
    await page.until('kept', async () => (await page.value('Speed')) === '27.0');
    const [first] = await page.driver.getAllWindowHandles();
    const address = await page.driver.getCurrentUrl();
    await page.driver.switchTo().newWindow('tab');
    await page.driver.get(address);
    await page.type('Speed', '29');
    await page.saved();
    await page.driver.close();
    await page.driver.switchTo().window(first);
    await page.until('heard', async () => (await page.value('Speed')) === '29.0');
    await page.click('[data-test=area-balance]');
    await page.find('[data-chart=balance-cm] [data-series=a]');
  });
  it('a project goes out as a file and comes in again', async () => {
    await page.open('/');
    await page.click('a[aria-label="Export Seedsnipe as a file"]');
    const file = () => readdirSync(downloads).find((f) => f.endsWith('.zip'));
    await page.until('downloaded', () => Promise.resolve(file() !== undefined));
    expect(readFileSync(join(downloads, file()!)).subarray(0, 2).toString()).toBe('PK');
    await (await page.driver.findElement(By.css('[data-test=project-file]'))).sendKeys(join(downloads, file()!));
    await page.until('opened', async () => /\/p\/.*\/brief/.test(await page.driver.getCurrentUrl()));
    await page.until('the same', async () => (await page.value('Speed')) === '29.0');
    // Its history came along.
    await page.click('[data-test=undo]');
    await page.until('undone', async () => (await page.value('Speed')) === '27.0');
    await page.open('/');
    await page.until('both', async () => (await page.driver.findElements(By.css('main ul li'))).length === 2);
    await (
      await page.driver.findElement(By.css('[data-test=project-file]'))
    ).sendKeys(join(process.cwd(), 'README.md'));
    await page.until('refused', async () => /no zip archive/.test(await page.text('body')));
  });
  it('leaves no error in the console', async () => {
    expect((await page.errors()).filter((e) => !/status of (401|400)|favicon/.test(e))).toEqual([]);
  });
});
