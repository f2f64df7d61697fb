import type { WebDriver } from 'selenium-webdriver';
import { By, Key, openBrowser, Page, TestServer } from './harness';

const server = new TestServer();
let driver: WebDriver;
let close: () => Promise<void>;
let page: Page;
let id: string;

beforeAll(async () => {
  await server.start();
  ({ driver, close } = await openBrowser());
  page = new Page(driver, server.base);
  id = await server.demo();
});
afterAll(async () => {
  await close?.();
  await server.stop();
});

const words = () => page.text('[data-test=plan-words]');
const count = async (selector: string) => (await driver.findElements(By.css(selector))).length;
async function type(label: string, text: string): Promise<void> {
  const field = await driver.findElement(
    By.xpath(
      `//label[normalize-space(text())="${label}"]/following::input[1] | //label[starts-with(normalize-space(.),"${label}")]//input`,
    ),
  );
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text, Key.TAB);
}

describe('Polars', () => {
  it('is empty at first, and says what to do', async () => {
    await page.open(`/p/${id}/polars`);
    await page.until('the empty state', async () => /No polars yet/.test(await page.text('main, body')));
    expect(await words()).toBe('Choose at least one section.');
    expect(await (await page.find('[data-test=run-plan]')).isEnabled()).toBe(false);
  });
  it('a plan says how many points and how long, is run, and its curves grow', async () => {
    await page.click('[data-test=plan-section-karoo-14]');
    await page.click('[data-test=plan-section-karoo-12]');
    await type('Reynolds numbers', '300 k, x');
    await page.until('what is wrong', async () => /“x” is no Reynolds number/.test(await words()));
    await type('Reynolds numbers', '300 k, 600 k');
    await type('From', '-4');
    await type('To', '10');
    await type('Step', '2');
    await page.until('32 points', async () => /^32 points; about/.test(await words()));
    await page.click('[data-test=run-plan]');
    await page.until('the end of the run', async () => /finished, 32 of 32/.test(await page.text('[data-test=run]')));
    await page.until('all known', async () => /32 points, all known/.test(await words()));
    await page.until('four curves', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 4);
    const table = await page.text('table');
    expect(table).toMatch(/Karoo 14/);
    expect(table).toMatch(/300 k/);
    expect(await (await page.find('[data-test=run-plan]')).isEnabled()).toBe(false);
  });
  it('a finer step adds to the same curves', async () => {
    await type('Step', '1');
    await page.until('half of it known', async () => /^60 points, 32 known/.test(await words()));
    await page.click('[data-test=run-plan]');
    await page.until('both runs', async () => (await count('[data-test=run]')) === 2);
    await page.until('the end of the run', async () => /finished, 60 of 60/.test(await page.text('[data-test=run]')));
    expect(await count('[data-chart=polar-first] polyline[data-series]')).toBe(4);
  });
  it('a point opens to its distributions, and steps along its curve; a reload shows it again', async () => {
    await (await page.find('table tbody tr')).click();
    await page.until('the point', async () => /cl \d/.test(await page.text('[data-test=stored-point]')));
    expect(await page.text('[data-test=stored-point]')).toMatch(/α = 0\.00°/);
    await page.until(
      'its pressure',
      async () => (await count('[data-chart=polar-pressure] polyline[data-series]')) === 4,
    );
    await page.click('[aria-label="Next point"]');
    await page.until('one degree', async () => /α = 1\.00°/.test(await page.text('[data-test=stored-point]')));
    await driver.navigate().refresh();
    await page.until('the point again', async () => /α = 1\.00°/.test(await page.text('[data-test=stored-point]')));
    await page.click('[aria-label="Close the point"]');
    await page.until('no point', async () => (await count('[data-test=stored-point]')) === 0);
  });
  it('curves are hidden, shown alone, and found', async () => {
    const chips = '[aria-label="Curves shown"] button[aria-pressed]';
    await page.click(chips);
    await page.until('three curves', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 3);
    await page.click('[aria-label="Curves shown"] button.link');
    await page.until('four again', async () => (await count('[data-chart=polar-first] polyline[data-series]')) === 4);
  });
  it('sections are kept and ranked by criteria, and each rejection says why', async () => {
    await page.click('[data-test=add-criterion]');
    await page.until(
      'both kept',
      async () =>
        /1\. Karoo 1\d/.test(await page.text('[data-test=kept]')) ||
        /Karoo/.test(await page.text('[data-test=rejected]')),
    );
    const field = await driver.findElement(By.css('[data-test=criterion] input'));
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '3', Key.TAB);
    await page.until('both rejected, with the reason', async () =>
      /cl max \d\.\d+, wanted at least 3\.000/.test(await page.text('[data-test=rejected]')),
    );
    await page.click('[aria-label="Remove the criterion"]');
  });
  it('survives the death of its server in the middle of a run', async () => {
    await type('Reynolds numbers', '60 k, 80 k, 100 k, 150 k');
    await type('Step', '0.25');
    await page.until('a long plan', async () => /^456 points; about/.test(await words()));
    await page.click('[data-test=run-plan]');
    await page.until('some of it', async () => /running, (\d{2,}) of 456/.test(await page.text('[data-test=run]')));
    await server.kill();
    await server.start();
    await page.until(
      'it goes on to its end',
      async () => /finished, 456 of 456/.test(await page.text('[data-test=run]')),
      120_000,
    );
  });
});
