import { writeFileSync } from 'node:fs';
import { openBrowser, Page, TestServer } from './harness';
const server = new TestServer();
await server.start();
const id = await server.demo();
const browser = await openBrowser();
const page = new Page(browser.driver, server.base);
try {
  await page.open(`/p/${id}/structure`);
  await page.click('[data-test="begin-structure"]');
  await page.find('[data-test="size"]', 20000);
  await page.driver.sleep(4000);
  await page.click('[data-test="structure-figure-reserve"]');
  await page.driver.sleep(500);
  writeFileSync('/tmp/s1.png', await page.picture());
} finally {
  await browser.close();
  await server.stop();
}
