import { Key, openBrowser, Page, TestServer } from '@veldtwind/browser-tests/harness';

const AREAS = [
  ...['sections', 'airframe', 'polars', 'lift', 'drag', 'balance', 'performance'],
  ...['structure', 'motion', 'control', 'flights', 'studies', 'report', 'brief'],
];

/** In the page: opens an area by the rail and waits until its heading and a figure, a table or a sentence of its figure are drawn. @returns ms. */
const OPENED = `
  const [area, done] = [arguments[0], arguments[arguments.length - 1]];
  const link = document.querySelector('[data-test=area-' + area + ']');
  const begun = performance.now();
  link.click();
  const look = () => {
    const figure = document.querySelector('section[aria-label=Figure]');
    const there = location.pathname.includes('/' + area) && figure && figure.querySelector('svg, canvas, table, p, textarea');
    if (there) done(performance.now() - begun);
    else requestAnimationFrame(look);
  };
  requestAnimationFrame(look);`;

/** The first page from its request until its projects are listed, and every area from the click until it stands; the first time and later, in ms. */
export async function openingTimes(): Promise<Record<string, number[]>> {
  const server = new TestServer();
  await server.start();
  const { driver, close } = await openBrowser();
  const page = new Page(driver, server.base);
  const times: Record<string, number[]> = {
    'page: first page until its projects are listed': [],
    'page: an area opened for the first time': [],
    'page: an area opened again': [],
  };
  try {
    const id = await server.demo();
    for (let k = 0; k < 5; k++) {
      await page.open('/');
      await page.find('a[href^="/p/"]');
      const shown = await driver.executeScript<number>(
        "return Math.max(performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0, ...performance.getEntriesByType('resource').filter((r) => /api.*projects/.test(r.name)).map((r) => r.responseEnd))",
      );
      times['page: first page until its projects are listed'].push(shown);
    }
    await page.open(`/p/${id}/brief?c=a`);
    await page.find('[data-finding]');
    for (const round of ['page: an area opened for the first time', 'page: an area opened again'])
      for (const area of AREAS) {
        const ms = await driver.executeAsyncScript<number>(OPENED, area);
        times[round].push(ms);
        if (process.env.EACH) console.log(round, area, ms.toFixed(0));
        await driver.sleep(1500);
      }
  } finally {
    await close();
    await server.stop();
  }
  return times;
}

/** Times in the real interface: the page ready after a load, and an edit drawn again, in ms. Needs a build. */
export async function pageTimes(): Promise<Record<string, number[]>> {
  const server = new TestServer();
  await server.start();
  const { driver, close } = await openBrowser();
  const page = new Page(driver, server.base);
  const times: Record<string, number[]> = {
    'page: load of Balance until its curve is drawn': [],
    'page: tail incidence nudged until the curve is drawn again': [],
    'page: of that, the worker': [],
  };
  try {
    const id = await server.demo();
    for (let k = 0; k < 5; k++) {
      const start = performance.now();
      await page.open(`/p/${id}/balance?c=a`);
      await page.find('[data-chart=balance-cm] [data-series=a]');
      times['page: load of Balance until its curve is drawn'].push(performance.now() - start);
    }
    const input = await page.field('Tail incidence');
    await input.click();
    await driver.executeScript(`
      window.redraws = [];
      const path = () => document.querySelector('[data-chart=balance-cm] [data-series=a]').getAttribute('points');
      let last = path(), begun = 0;
      addEventListener('keydown', () => { begun = performance.now(); }, true);
      new MutationObserver(() => { const now = path(); if (now !== last) { last = now; if (begun) window.redraws.push(performance.now() - begun); begun = 0; } })
        .observe(document.querySelector('[data-chart=balance-cm] svg[role=img]'), { subtree: true, attributes: true });`);
    for (let k = 0; k < 20; k++) {
      await input.sendKeys(Key.ARROW_DOWN);
      await driver.sleep(350);
    }
    times['page: tail incidence nudged until the curve is drawn again'] =
      await driver.executeScript<number[]>('return window.redraws');
    await page.click('[data-test=area-lift]');
    times['page: of that, the worker'] = [
      Number(/(\d+) ms/.exec(await page.text('[data-test=lift-made]'))?.[1] ?? NaN),
    ];
  } finally {
    await close();
    await server.stop();
  }
  return times;
}
