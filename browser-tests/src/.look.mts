import { writeFileSync } from 'node:fs';
import { openBrowser, Page, TestServer } from './harness';
const server = new TestServer();
await server.start();
const { driver, close } = await openBrowser();
const page = new Page(driver, server.base);
try {
  const id = await server.demo();
  await server.call('PUT', '/preferences/theme', { value: process.argv[4] ?? 'paper' });
  await server.call('PUT', '/preferences/section-conditions', { value: JSON.parse(process.argv[3] ?? '{}') });
  if (process.argv[5]) await server.call('PUT', '/preferences/section-second-chart', { value: process.argv[5] });
  await page.open(`/p/${id}/sections/${process.argv[6] ?? 'karoo-14'}?c=a`);
  await driver.sleep(3500);
  writeFileSync(process.argv[2], await page.picture());
  for (const e of await page.errors()) console.log(e);
} finally {
  await close();
  await server.stop();
}
