import { Key, openBrowser, Page, TestServer } from '@veldtwind/browser-tests/harness';

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
