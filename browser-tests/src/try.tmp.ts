import { writeFileSync } from 'node:fs';
import { openBrowser, Page, TestServer } from './harness';
const server = new TestServer();
await server.start();
const browser = await openBrowser();
const page = new Page(browser.driver, server.base);
const project = await server.demo();
const shot = async (n: string) => writeFileSync(`/tmp/${n}.png`, await browser.driver.takeScreenshot(), 'base64');
await page.open(`/p/${project}/motion?c=a`);
await page.click('[data-test=motion-view-envelope]');
await page.click('[data-test=envelope-altitude]');
await page.click('[data-test=motion-ledger-derivatives]');
writeFileSync('/tmp/tunnel.csv', 'derivative,value\nCL_alpha,5.5\nCm_q,-12\nCl_p,0.5\n');
await (await page.find('[data-test=read-derivatives]')).sendKeys('/tmp/tunnel.csv');
await page.until('curves', async () => /3[   ]?600 m/.test(await page.text('[data-chart=envelope-0]')), 40_000);
await page.driver.executeScript(
  "[...document.querySelectorAll('section[aria-label=Ledger] td')].find((t) => t.textContent.trim() === 'Cm q').click()",
);
await new Promise((r) => setTimeout(r, 2500));
await shot('m1');
await browser.close();
await server.stop();
