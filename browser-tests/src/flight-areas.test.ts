import { By, Key, openBrowser, Page, TestServer } from './harness';

// Balance and Flights, looked at as an engineer would.
const server = new TestServer();
let browser: Awaited<ReturnType<typeof openBrowser>>;
let page: Page;
let id: string;
beforeAll(async () => {
  await server.start();
  browser = await openBrowser();
  page = new Page(browser.driver, server.base);
  id = await server.demo();
}, 120_000);
afterAll(async () => {
  await browser?.close();
  await server.stop();
});
const margin = () => page.derived('Static margin');

describe('balance', () => {
  it('tells margin, neutral point and centre, and each of them by the others', async () => {
    await page.open(`/p/${id}/balance?c=a`);
    await page.until('a margin', async () => (await margin()) > 0);
    const [np, cg] = [await page.derived('Neutral point'), await page.derived('Centre of gravity')];
    expect(np).toBeGreaterThan(cg);
    expect(await page.text('[data-test=beam]')).toMatch(/neutral point/);
    expect(await page.text('[data-test=beam]')).toMatch(/centre of gravity/);
  });
  it('says of a number what it is and how it was made', async () => {
    const row = await page.driver.findElement(
      By.xpath("//aside//div[span[1][normalize-space(.)='Static margin']]//button"),
    );
    const shown = await row.getText();
    await row.click();
    const sheet = await page.text('[data-test=number-sheet]');
    expect(sheet).toContain('Static margin');
    expect(sheet).toContain(shown);
    expect(sheet).toMatch(/Neutral point behind the centre of gravity/);
    expect(await page.text('[data-test=number-formula]')).toMatch(/dCm\/dα/);
    expect(await page.text('[data-test=number-method]')).toMatch(/^vortex lattice/);
    expect(sheet).toMatch(/Candidate A at 26\.0 m\/s and 600 m/);
    await page.driver.actions().sendKeys(Key.ESCAPE).perform();
    await page.until(
      'closed',
      async () => (await page.driver.findElements(By.css('[data-test=number-sheet]'))).length === 0,
    );
  });
  it('moves the centre with a mass, and takes it back', async () => {
    const before = await margin();
    await page.click('[data-test=add-mass-sheet]');
    await page.saved();
    const rows = async () => (await page.driver.findElements(By.css('section[aria-label=Ledger] tbody tr'))).length;
    await page.until('a row more', async () => (await rows()) === 7);
    await page.click('[data-test=undo]');
    await page.until('as before', async () => (await rows()) === 6 && (await margin()) === before);
  });
  it('trims a steady turn and a crosswind', async () => {
    await page.until('trimmed', async () => /Load factor\s+1\.000/.test(await page.text('[data-test=steady-trim]')));
    await page.type('Bank', '30');
    await page.until('a turn', async () => /Load factor\s+1\.155/.test(await page.text('[data-test=steady-trim]')));
    await page.until('a sideslip', async () =>
      /Sideslip angle\s+[\d−]/.test(await page.text('[data-test=lateral-trim]')),
    );
  });
});

describe('flights', () => {
  const now = () => page.text('[data-test=flight-words]');
  const ends = async () => (await page.driver.findElements(By.css('section[aria-label=Ledger] tbody tr'))).length;
  it('flies a scenario and says how it ended', async () => {
    await page.click('[data-test=area-flights]');
    await page.until('flown', async () => (await now()).length > 20, 60_000);
    expect(await now()).toMatch(/way-points are reached.*Begins in trim/);
    expect(await page.driver.findElements(By.css('[data-chart^=flight-] polyline[data-series]'))).not.toHaveLength(0);
    expect(await page.text('[data-test=flight-made]')).toMatch(/^tables without viscosity/);
  });
  it('keeps a flight and lays the next over it', async () => {
    await page.click('[data-test=keep-flight]');
    await page.until('kept', async () => (await ends()) >= 2);
    const before = await now();
    await page.type('Speed', '24');
    await page.until('another flight', async () => (await now()) !== before, 60_000);
    const curves = async () =>
      (await page.driver.findElements(By.css('[data-chart=flight-0] polyline[data-series]'))).length;
    await page.until('both are drawn', async () => (await curves()) >= 2);
    await page.saved();
  });
  it('is there after a reload, with what was kept', async () => {
    await page.driver.navigate().refresh();
    await page.until('flown again', async () => (await now()).length > 20, 60_000);
    expect(await ends()).toBeGreaterThanOrEqual(2);
    expect(await page.errors()).toEqual([]);
  });
});
